#!/bin/sh
# Makes the photographs that core/tree/photo is tested with: drawn by Pillow, tagged by
# exiftool, so that what is read was written by others.
#     apt-get install python3-pil exiftool
set -e
cd "$(dirname "$0")/../core/tree/photo/testdata"
/usr/bin/python3 - <<'PY'
from PIL import Image
# Left half dark, right half pale, with a red corner at the top left.
img = Image.new("RGB", (600, 400), (40, 40, 40))
img.paste((220, 220, 210), (300, 0, 600, 400))
img.paste((200, 30, 30), (0, 0, 100, 100))
img.save("turned.jpg", quality=80)
img.save("plain.png")
PY
exiftool -q -overwrite_original -n -Orientation=6 -DateTimeOriginal="2026:11:17 09:41:00" \
  -GPSLatitude=43.5612 -GPSLatitudeRef=N -GPSLongitude=90.6381 -GPSLongitudeRef=W turned.jpg
head -c 2000 turned.jpg > cut-short.jpg
