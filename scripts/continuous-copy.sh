#!/usr/bin/env bash
# A continuous copy of a book by Litestream, beside the server and in its own process:
# starts both, enters trees and scores, kills both without warning, restores the copy
# and compares it with the book. Photographs are files of their own: copy their folder
# as well (docs/scale.md).
#
#   scripts/continuous-copy.sh [WRITES]     300 by default; needs Go and curl
#
# Litestream comes from the Go module proxy, as its module is, in a pinned version.
set -euo pipefail

writes=${1:-300}
version=v0.5.18
here=$(cd "$(dirname "$0")/.." && pwd)
work=$(mktemp -d)
trap 'kill -9 ${server:-} ${copier:-} 2>/dev/null || true; rm -rf "$work"' EXIT

echo "Building the server and Litestream $version."
(cd "$here" && go build -o "$work/palethicket" ./cmd/palethicket)
litestream=${LITESTREAM:-$work/litestream}
if [ ! -x "$litestream" ]; then
  GOBIN=$work go install "github.com/benbjohnson/litestream/cmd/litestream@$version"
fi

book=$work/book.db
addr=127.0.0.1:$((20000 + RANDOM % 20000))
api=http://$addr/api
cat > "$work/litestream.yml" <<YML
dbs:
  - path: $book
    replica:
      path: $work/copy
      sync-interval: 1s
YML

"$work/palethicket" serve --data "$book" --listen "$addr" > "$work/server.log" 2>&1 &
server=$!
until curl -sf "$api/trees" > "$work/out"; do sleep 0.1; done
"$litestream" replicate -config "$work/litestream.yml" > "$work/copier.log" 2>&1 &
copier=$!
sleep 2

# ULIDs of this run: a fixed time, and a number in the letters that ULIDs have.
ulid() { printf '01KB000000%016d' "$1"; }
post() { curl -sf -X POST -H 'Content-Type: application/json' -d "$2" "$api/$1" > "$work/out"; }

echo "Entering $writes trees, each with a look."
began=$(date +%s)
for n in $(seq 1 "$writes"); do
  tree=$(ulid $((n * 10)))
  post trees "{\"id\": \"$tree\", \"tag\": \"LC-$n\", \"tract\": \"Lantern Creek watershed forest\", \"stand\": \"Creek bottom\"}"
  post "trees/$tree/entries" "{\"id\": \"$(ulid $((n * 10 + 1)))\", \"kind\": \"look\", \"from\": \"tree\"}"
done
echo "Took $(($(date +%s) - began)) s. Waiting two seconds, then killing both."
sleep 2
kill -9 "$server" "$copier"
wait "$server" "$copier" 2>/dev/null || true

"$litestream" restore -config "$work/litestream.yml" -o "$work/restored.db" "$book"
"$work/palethicket" check --without-wal --data "$work/restored.db"
for which in book restored; do
  "$work/palethicket" export --data "$work/$which.db" --format json --out "$work/$which.json" > "$work/out"
done
if cmp -s "$work/book.json" "$work/restored.json"; then
  echo "The copy holds what the book holds: $writes trees, $(du -sh "$work/copy" | cut -f1) of copy for $(du -h "$book" | cut -f1) of book."
else
  echo "The copy differs from the book." >&2
  exit 1
fi
