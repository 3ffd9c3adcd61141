#!/usr/bin/python3
"""Makes core/proof/reference/testdata/sklearn.json: scikit-learn's CategoricalNB fitted to invented answers, and the log
probabilities it gives to further rows. Needs Debian's python3-sklearn."""
import json
import sys

import numpy as np
import sklearn
from sklearn.naive_bayes import CategoricalNB

rng = np.random.default_rng(11)
classes, features, states = 9, 12, 6
shape = rng.dirichlet(np.full(states, 0.6), size=(classes, features))
prior = rng.dirichlet(np.full(classes, 2.0))


def draw(n):
    y = rng.choice(classes, size=n, p=prior)
    x = np.array([[rng.choice(states, p=shape[c, f]) for f in range(features)] for c in y])
    return x, y


x, y = draw(600)
fitted = CategoricalNB(alpha=1.0, min_categories=states).fit(x, y)
rows, _ = draw(60)
json.dump({
    "made_by": f"scikit-learn {sklearn.__version__}, CategoricalNB(alpha=1)",
    "prior": np.exp(fitted.class_log_prior_).tolist(),
    "chances": [np.exp(f).tolist() for f in fitted.feature_log_prob_],  # by feature, class, state
    "rows": rows.tolist(),
    "log_proba": fitted.predict_log_proba(rows).tolist(),
}, sys.stdout)
