#!/usr/bin/python3
"""Makes core/day/light/testdata/ephem.json: when the sun rises and sets and civil twilight begins and ends, by ephem. Needs Debian's
python3-ephem."""
import json
import math
import random
import sys

import ephem

rng = random.Random(1991)
days = []
for i in range(600):
    lat, lon = rng.uniform(-65, 65), rng.uniform(-180, 180)
    if i < 20:
        lat, lon = 43.57, -90.63
    date = ephem.Date(f"{rng.randint(1990, 2060)}/{rng.randint(1, 12)}/{rng.randint(1, 28)} 00:00:00")
    o = ephem.Observer()
    o.lat, o.lon, o.pressure, o.elevation = str(lat), str(lon), 0, 0
    noon_about = ephem.Date(date + 0.5 - lon / 360)
    o.date = ephem.Date(noon_about - 0.25)
    noon = o.next_transit(ephem.Sun())
    line = {"lat": lat, "lon": lon, "date": str(date.datetime().date()),
            "noon": noon.datetime().isoformat()}
    for name, horizon, center, rising in (("sunrise", "-0:50", True, True), ("sunset", "-0:50", True, False), ("dawn", "-6", True, True),
                                          ("dusk", "-6", True, False)):
        o.horizon = horizon
        o.date = noon
        try:
            t = o.previous_rising(ephem.Sun(), use_center=center) if rising else o.next_setting(ephem.Sun(), use_center=center)
            line[name] = t.datetime().isoformat() if abs(t - noon) < 0.5 else None
        except (ephem.AlwaysUpError, ephem.NeverUpError):
            line[name] = None
    days.append(line)
json.dump({"made_by": f"ephem {ephem.__version__}", "days": days}, sys.stdout)
