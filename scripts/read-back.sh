#!/bin/sh
# Writes the demo forest in every format and reads it back with scripts/read-back.py.
set -e
cd "$(dirname "$0")/.."
out=$(mktemp -d)
make -s build
bin/palethicket demo --data "$out/demo.db" --listen 127.0.0.1:8097 >"$out/log" 2>&1 &
server=$!
trap 'kill $server; rm -rf "$out"' EXIT
for _ in $(seq 50); do curl -fs -o "$out/come-back.ics" http://127.0.0.1:8097/api/worklist/calendar.ics && break; sleep 0.2; done
curl -fs -o "$out/report.pdf" http://127.0.0.1:8097/api/report.pdf
for format in csv xlsx geojson gpkg kml gpx json; do
  bin/palethicket export --data "$out/demo.db" --format $format --out "$out/trees.$format" >/dev/null
done
bin/palethicket export --data "$out/demo.db" --format dwca --out "$out/trees.zip" >/dev/null
/usr/bin/python3 scripts/read-back.py "$out"
