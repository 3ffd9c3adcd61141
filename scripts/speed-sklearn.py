#!/usr/bin/python3
"""Rows per second of scikit-learn's CategoricalNB on 165 classes and 30 features of 8 states, batches of 100 000, one
core. The same shape as BenchmarkCategorical in core/proof/benchmark."""
import os
import time

os.environ.update({k: "1" for k in ("OMP_NUM_THREADS", "OPENBLAS_NUM_THREADS", "MKL_NUM_THREADS")})
import numpy as np
import sklearn
from sklearn.naive_bayes import CategoricalNB

rng = np.random.default_rng(1)
classes, features, states, rows = 165, 30, 8, 100_000
y = np.repeat(np.arange(classes), 20)
fitted = CategoricalNB(min_categories=states).fit(rng.integers(0, states, (len(y), features)), y)
x = rng.integers(0, states, (rows, features))
best = 0
for _ in range(3):
    start = time.perf_counter()
    fitted.predict_log_proba(x)
    best = max(best, rows / (time.perf_counter() - start))
print(f"scikit-learn {sklearn.__version__}: {best:.0f} rows/s")
