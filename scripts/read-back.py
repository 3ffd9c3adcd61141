#!/usr/bin/env python3
"""Reads the files that Pale Thicket writes with readers that are none of ours.

    apt-get install gdal-bin python3-gdal python3-openpyxl python3-gpxpy python3-icalendar poppler-utils
    sh scripts/read-back.sh

GDAL's OGR, openpyxl, gpxpy, icalendar, Python's csv, json, xml and zipfile, and
poppler. Every tree of the plain table must come back from each format that can
carry it, at the same place and under the same name. Exits with 1 where one does
not.
"""
import csv
import io
import json
import math
import subprocess
import sys
import xml.etree.ElementTree as ET
import zipfile

import gpxpy
import gpxpy.gpx
import icalendar
import openpyxl
from osgeo import ogr

ogr.UseExceptions()
folder = sys.argv[1]
wrong = []


def check(what, ok, detail=""):
    print(("ok    " if ok else "WRONG ") + what + (": " + detail if detail else ""))
    if not ok:
        wrong.append(what)


with open(folder + "/trees.csv", encoding="utf-8-sig", newline="") as f:
    table = {row["tag"]: row for row in csv.DictReader(f)}
placed = {tag: row for tag, row in table.items() if row["lat"]}
check("the table by Python's csv", len(table) > 0, f"{len(table)} trees, {len(placed)} with a position")


def same_place(row, lon, lat):
    return math.isclose(float(row["lon"]), lon, abs_tol=1e-6) and math.isclose(float(row["lat"]), lat, abs_tol=1e-6)


# GeoJSON and GPX by GDAL.
layer = ogr.Open(folder + "/trees.geojson")
features = {f.GetField("tag"): f for f in layer.GetLayer(0)}
check("GeoJSON by GDAL: trees", set(features) == set(table), f"{len(features)} features")
check("GeoJSON by GDAL: places and names", all(
    same_place(table[t], f.geometry().GetX(), f.geometry().GetY()) and (f.GetField("given") or "") == table[t]["given"]
    for t, f in features.items() if f.geometry()))
check("GeoJSON: longitude first, no crs member (RFC 7946, 3.1.1 and 4)", "crs" not in json.load(open(folder + "/trees.geojson")))

for name, driver in {"gpkg": "GeoPackage", "kml": "KML"}.items():
    places = ogr.Open(f"{folder}/trees.{name}")  # a layer does not outlive it
    layer = places.GetLayerByName("trees") if name == "gpkg" else places.GetLayer(0)
    features = {}
    for f in layer:
        fields = {f.GetFieldDefnRef(i).GetName().lower(): f.GetField(i) for i in range(f.GetFieldCount())}
        if f.geometry() is None or f.geometry().GetGeometryName() == "POINT":
            features[fields.get("tag") or fields["name"]] = (f.geometry().Clone() if f.geometry() else None, fields.get("given") or "")
    want = table if name == "gpkg" else placed
    check(f"{driver} by GDAL", set(features) == set(want) and all(
        (at is None or same_place(table[t], at.GetX(), at.GetY())) and given == table[t]["given"] for t, (at, given) in features.items()),
        f"{len(features)} places")

source = ogr.Open(folder + "/trees.gpx")
points = {f.GetField("name"): f for f in source.GetLayerByName("waypoints")}
check("GPX by GDAL", set(points) == set(placed) and all(same_place(placed[t], f.geometry().GetX(), f.geometry().GetY()) for t, f in points.items()),
      f"{len(points)} waypoints")
with open(folder + "/trees.gpx", encoding="utf-8") as f:
    gpx = gpxpy.parse(f)
check("GPX by gpxpy", gpx.version == "1.1" and {w.name for w in gpx.waypoints} == set(placed))
order = ["time", "name", "cmt", "desc", "src", "type"]  # of wptType in gpx.xsd, those that are used
root = ET.parse(folder + "/trees.gpx").getroot()
ns = "{http://www.topografix.com/GPX/1/1}"
check("GPX: elements in the order of the schema", root.tag == ns + "gpx" and all(
    [order.index(e.tag.removeprefix(ns)) for e in w] == sorted(order.index(e.tag.removeprefix(ns)) for e in w) for w in root.iter(ns + "wpt")))

# The workbook.
book = openpyxl.load_workbook(folder + "/trees.xlsx")
rows = list(book["Trees"].iter_rows(values_only=True))
head = rows[0]
sheet = {str(r[head.index("tag")]): r for r in rows[1:]}
check("XLSX by openpyxl", set(sheet) == set(table) and all((sheet[t][head.index("given")] or "") == table[t]["given"] for t in table))
check("XLSX by openpyxl: scores", sum(1 for _ in book["Scores"].iter_rows(min_row=2)) > len(table))
workbook = ogr.Open(folder + "/trees.xlsx")  # kept, as its layers go with it
check("XLSX by GDAL", workbook.GetLayerByName("Trees").GetFeatureCount() == len(table))

# The field record.
records = json.load(open(folder + "/trees.json", encoding="utf-8"))["records"]
check("field record by Python's json", {r["id"] for r in records} == set(table))

# The Darwin Core Archive, by what its meta.xml says.
archive = zipfile.ZipFile(folder + "/trees.zip")
check("Darwin Core Archive: whole", archive.testzip() is None)
meta = ET.fromstring(archive.read("meta.xml"))
text = "{http://rs.tdwg.org/dwc/text/}"
check("meta.xml: archive of the Text Guide's namespace", meta.tag == text + "archive" and meta.get("metadata") in archive.namelist())


def table_of(element, key):
    name = element.find(f"{text}files/{text}location").text
    terms = {int(f.get("index")): f.get("term") for f in element.findall(text + "field")}
    identity = int(element.find(text + key).get("index"))
    lines = list(csv.reader(io.StringIO(archive.read(name).decode("utf-8")), delimiter=element.get("fieldsTerminatedBy")))
    return identity, terms, lines[int(element.get("ignoreHeaderLines")):]


core = meta.find(text + "core")
identity, terms, lines = table_of(core, "id")
column = {t.rsplit("/", 1)[1]: i for i, t in terms.items()}
check("core: rowType Occurrence", core.get("rowType") == "http://rs.tdwg.org/dwc/terms/Occurrence")
needed = {"occurrenceID", "basisOfRecord", "scientificName", "eventDate"}  # what aggregators ask of an occurrence
check("core: the terms that aggregators ask for", needed <= set(column) and all(r[column[n]] for r in lines for n in needed))
ids = {r[identity] for r in lines}
check("core: ids are unique", len(ids) == len(lines) == len(table))
check("core: names", all(r[column["verbatimIdentification"]] in (table[r[column["recordNumber"]]]["given"], "undetermined") for r in lines))
doubted = [r for r in lines if r[column["identificationQualifier"]]]
check("core: identificationQualifier where the evidence falls short", 0 < len(doubted) < len(lines), f"{len(doubted)} of {len(lines)}")
extension = meta.find(text + "extension")
identity, terms, facts = table_of(extension, "coreid")
column = {t.rsplit("/", 1)[1]: i for i, t in terms.items()}
check("extension: MeasurementOrFact, each of an occurrence that is there",
      extension.get("rowType") == "http://rs.tdwg.org/dwc/terms/MeasurementOrFact" and all(r[identity] in ids for r in facts), f"{len(facts)} lines")
scores = sum(len(look["scores"]) for r in records for look in r["looks"])
check("extension: every score of the field record", sum("." in r[column["measurementType"]] for r in facts) == scores, f"{scores} scores")
eml = ET.fromstring(archive.read("eml.xml"))
check("eml.xml: title, creator, contact and abstract", all(eml.find("dataset/" + p) is not None for p in ("title", "creator", "contact", "abstract", "pubDate")))

# The calendar and the report.
calendar = icalendar.Calendar.from_ical(open(folder + "/come-back.ics", "rb").read())
events = [e for e in calendar.walk("VEVENT")]
check("calendar by icalendar", len(events) > 0 and all(e.decoded("dtend") > e.decoded("dtstart") for e in events), f"{len(events)} events")
check("calendar: UIDs are unique", len({str(e["uid"]) for e in events}) == len(events))
said = subprocess.run(["pdftotext", "-layout", folder + "/report.pdf", "-"], capture_output=True, text=True, check=True).stdout
check("report by poppler: words can be searched", "What grows here" in said and "Quercus" in said)

sys.exit(1 if wrong else 0)
