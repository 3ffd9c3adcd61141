#!/usr/bin/python3
"""Makes core/stand/agreement/testdata/agreement.json: drawn tables with the kappas, standard errors and intervals that
statsmodels and scikit-learn give them. Needs Debian's python3-statsmodels and python3-sklearn."""
import json
import sys

import numpy as np
import sklearn
import statsmodels
from sklearn.metrics import cohen_kappa_score
from statsmodels.stats.inter_rater import cohens_kappa, fleiss_kappa
from statsmodels.stats.proportion import proportion_confint

rng = np.random.default_rng(1969)
cohen, fleiss, wilson = [], [], []
for i in range(40):
    k = int(rng.integers(2, 9))
    table = rng.poisson(rng.uniform(0.2, 3), size=(k, k)) + np.diag(rng.poisson(rng.uniform(1, 20), size=k))
    table[0, 0] += 1
    table[1, 1] += 1
    got = cohens_kappa(table)
    a = np.repeat(np.arange(k), table.sum(axis=1))
    b = np.concatenate([np.repeat(np.arange(k), row) for row in table])
    cohen.append({"table": table.tolist(), "kappa": got.kappa, "se": got.std_kappa, "sklearn": cohen_kappa_score(a, b)})
for i in range(40):
    k, people, cases = (int(x) for x in (rng.integers(2, 8), rng.integers(2, 7), rng.integers(5, 60)))
    shape = rng.dirichlet(np.full(k, 0.4), size=cases)
    counts = np.array([rng.multinomial(people, p) for p in shape])
    fleiss.append({"counts": counts.tolist(), "kappa": fleiss_kappa(counts)})
for i in range(60):
    of = int(rng.integers(1, 300))
    n = int(rng.integers(0, of + 1))
    lo, hi = proportion_confint(n, of, alpha=0.05, method="wilson")
    wilson.append({"n": n, "of": of, "from": float(lo), "to": float(hi)})
json.dump({"made_by": f"statsmodels {statsmodels.__version__}, scikit-learn {sklearn.__version__}", "cohen": cohen, "fleiss": fleiss,
           "wilson": wilson}, sys.stdout)
