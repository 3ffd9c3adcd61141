# Writes places and where pyproj (PROJ) puts them on the UTM grid:
#   python3 scripts/reference-utm.py > core/measure/earth/testdata/utm.json
# Debian's python3-pyproj 3.4.1 made the one that is there.
import json
import random

import pyproj

random.seed(20261201)
places = [(-90.6381, 43.5612), (-90.0, 43.5), (-96.0, 0.0), (0.0, 0.0), (-179.9999, -79.9), (179.9999, 83.9)]
places += [(random.uniform(-180, 180), random.uniform(-80, 84)) for _ in range(200)]
out = []
for lon, lat in places:
    zone = min(int((lon + 180) / 6), 59) + 1
    south = lat < 0
    grid = pyproj.Transformer.from_crs(4326, (32700 if south else 32600) + zone, always_xy=True)
    east, north = grid.transform(lon, lat)
    out.append({"lon": lon, "lat": lat, "zone": zone, "south": south, "easting": east, "northing": north})
json.dump(out, open(1, "w"), indent=0)
