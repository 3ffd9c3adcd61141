#!/usr/bin/env python3
"""Densities that core/weigh/evidence is held to, from SciPy (Debian's python3-scipy).

    /usr/bin/python3 scripts/reference-scipy.py > core/weigh/evidence/testdata/scipy.json
"""
import json
import sys

import scipy
from scipy.stats import betabinom, norm

SHAPES = [(0.1, 19.9), (19.9, 0.1), (3.0, 1.0), (1.0, 1.0)]
TALLIES = [(0, 1), (1, 1), (0, 5), (2, 5), (5, 5), (7, 12), (0, 40), (39, 40)]
RANGES = [(3.0, 7.0), (0.5, 0.9), (120.0, 900.0)]
READINGS = [(5.0, 0.05, 1), (5.0, 0.3, 4), (0.7, 0.1, 2), (300.0, 0.0, 1), (1.0, 0.3, 1)]


def tallies():
    for a, b in SHAPES:
        for k, n in TALLIES:
            yield {"alpha": a, "beta": b, "pairs": k, "nodes": n, "chance": betabinom.pmf(k, n, a, b)}


def measures():
    """The density in ln x of the mean of readings of a thing whose range holds nine tenths of its kind."""
    from math import log, sqrt
    reach = norm.ppf(0.95)
    for lo, hi in RANGES:
        mean, sd = (log(lo) + log(hi)) / 2, (log(hi) - log(lo)) / (2 * reach)
        for x, s, m in READINGS:
            density = norm.pdf(log(x), mean, sqrt(sd * sd + s * s / m))
            yield {"lo": lo, "hi": hi, "value": x, "spread": s, "readings": m, "density": density}


json.dump({"source": f"scipy {scipy.__version__}: scipy.stats.betabinom, scipy.stats.norm",
           "tallies": list(tallies()), "measures": list(measures())}, sys.stdout, indent=1)
print()
