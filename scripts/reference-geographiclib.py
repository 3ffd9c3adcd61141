#!/usr/bin/python3
"""Makes core/measure/earth/testdata/geographiclib.json: ways and pieces of ground, as geographiclib has them. Needs Debian's
python3-geographiclib."""
import json
import random
import sys

import geographiclib
from geographiclib.geodesic import Geodesic

rng = random.Random(1975)
g = Geodesic.WGS84
ways, grounds = [], []
for i in range(400):
    lat, lon = rng.uniform(-80, 80), rng.uniform(-180, 180)
    if i % 2:
        far = 10 ** rng.uniform(-5, -0.5)
        lat2, lon2 = max(-89, min(89, lat + rng.uniform(-far, far))), lon + rng.uniform(-far, far)
    else:
        lat2, lon2 = rng.uniform(-80, 80), lon + rng.uniform(-160, 160)
    r = g.Inverse(lat, lon, lat2, lon2)
    ways.append([lon, lat, lon2, lat2, r["s12"], r["azi1"] % 360])
for i in range(100):
    lat, lon, far = rng.uniform(-70, 70), rng.uniform(-180, 180), 10 ** rng.uniform(1.5, 4.5)
    n = rng.randint(3, 9)
    turns = sorted(rng.uniform(0, 360) for _ in range(n))
    if max((b - a) % 360 for a, b in zip(turns, turns[1:] + turns[:1])) > 170:
        continue
    poly, corners = g.Polygon(), []
    for t in turns:
        p = g.Direct(lat, lon, t, far * rng.uniform(0.4, 1))
        poly.AddPoint(p["lat2"], p["lon2"])
        corners.append([p["lon2"], p["lat2"]])
    _, edge, area = poly.Compute()
    grounds.append({"corners": corners, "area": abs(area), "edge": edge})
json.dump({"made_by": f"geographiclib {geographiclib.__version__}", "ways": ways, "grounds": grounds}, sys.stdout)
