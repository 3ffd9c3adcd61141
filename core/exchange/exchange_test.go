package exchange_test

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"math/rand/v2"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/core/exchange"
	"palethicket/core/flora/floratest"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/core/tree/stamp"
)

func to[T any](v T) *T { return &v }

var made = time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC)

// trees are three trees with something of everything.
func trees() []*exchange.Tree {
	day := time.Date(2026, 11, 17, 0, 0, 0, 0, time.UTC)
	return []*exchange.Tree{
		{
			ID:        "01JD0000000000000000000001",
			Tag:       "LC-1",
			Tract:     "Lantern Creek watershed forest",
			Stand:     "Upper slope",
			Region:    "eastern-north-america",
			Position:  &logbook.Position{Lon: -90.638123, Lat: 43.561234, Within: 4},
			DBH:       31.5,
			Height:    22,
			Age:       "mature",
			Vigour:    "fair",
			Remarks:   "=fork at 2 m, \"leans\"\nto the creek; ÆØ",
			Date:      day,
			Observer:  "Wren Halloran",
			Rank:      "species",
			Name:      "Quercus rubra",
			NamedBy:   "Tobias Okafor",
			Named:     day.AddDate(0, 0, 1),
			Why:       "Pale runs.",
			Genus:     "Quercus",
			Family:    "Fagaceae",
			Leader:    "Quercus rubra",
			Posterior: 0.97,
			Status:    "probable",
			Qualifier: "cf.",
			Record: &record.Record{ID: "LC-1", Region: "eastern-north-america", Age: "mature", Looks: []record.Look{
				{From: "tree", Scores: []record.Score{
					{Character: "bark.texture", States: []string{"flat-ridges", "mesh-ridges"}, Certainty: "sure", Zone: "base"},
					{Character: "bark.pale-runs", Seen: to(false), Visibility: "partial"},
					{Character: "form.dbh", Value: to(31.5), How: "caliper", Readings: to(2)},
				}},
				{From: "crown", Scores: []record.Score{{Character: "twig.arrangement", Pairs: to(0), Nodes: to(7)}}},
			}},
		},
		{
			ID:      "01JD0000000000000000000002",
			Tag:     "007",
			Tract:   "Lantern Creek watershed forest",
			Stand:   "Creek bottom",
			Region:  "eastern-north-america",
			Rank:    "genus",
			Name:    "Fraxinus",
			NamedBy: "Wren Halloran",
			Named:   day,
			Genus:   "Fraxinus",
			Family:  "Oleaceae",
			Date:    day,
			Status:  "named",
		},
		{
			ID:      "01JD0000000000000000000003",
			Tag:     "LC-3",
			Tract:   "Lantern Creek watershed forest",
			Stand:   "Creek bottom",
			Region:  "eastern-north-america",
			Date:    day,
			Status:  "unscored",
			Rank:    "undetermined",
			NamedBy: "Marit Sandoval",
			Named:   day,
			Why:     "Come back.",
		},
	}
}

func written(t testing.TB, format string, trees []*exchange.Tree) []byte {
	t.Helper()
	f, err := exchange.FormatByID(format)
	require.NoError(t, err)
	var out bytes.Buffer
	require.NoError(t, f.Write(&out, func(use func(*exchange.Tree) error) error {
		for _, tree := range trees {
			if err := use(tree); err != nil {
				return err
			}
		}
		return nil
	}, exchange.About{Title: "Lantern Creek", Publisher: "Lantern Creek water company", Made: made}))
	return out.Bytes()
}

// readBack reads a file under the mapping that is guessed.
func readBack(t testing.TB, name string, file []byte) []exchange.Line {
	t.Helper()
	sheet, err := exchange.Read(name, file)
	require.NoError(t, err)
	return linesOf(t, sheet, sheet.GuessMapping())
}

func linesOf(t testing.TB, sheet *exchange.Sheet, m exchange.Mapping) (all []exchange.Line) {
	t.Helper()
	lines, err := sheet.Lines(m, floratest.Shipped(t))
	require.NoError(t, err)
	for l := range lines {
		all = append(all, *l)
	}
	return all
}

// TestRoundTrips writes trees and reads them back: what a format can carry comes
// back as it was, without a hand on the mapping.
func TestRoundTrips(t *testing.T) {
	t.Parallel()
	for name, format := range map[string]string{"trees.csv": "csv", "trees.xlsx": "xlsx", "trees.geojson": "geojson", "trees.zip": "dwca"} {
		t.Run(format, func(t *testing.T) {
			want := trees()
			lines := readBack(t, name, written(t, format, want))
			require.Len(t, lines, len(want))
			for i, l := range lines {
				require.Empty(t, l.Problems, l.At)
				got, w := l.Tree, want[i]
				require.Equal(t, w.Tag, got.Tag)
				require.Equal(t, w.Tract, got.Tract)
				require.Equal(t, w.Stand, got.Stand)
				require.Equal(t, w.Position, got.Position)
				require.Equal(t, w.Height, got.Height)
				require.Equal(t, w.Age, got.Age)
				require.Equal(t, w.Vigour, got.Vigour)
				require.Equal(t, w.Remarks, got.Remarks)
				require.Equal(t, w.Observer, got.Observer)
				require.Equal(t, w.Name, got.Name)
				require.Equal(t, w.Rank, got.Rank)
				require.Equal(t, w.Qualifier, got.Hedge)
				require.Equal(t, w.NamedBy, got.NamedBy)
				require.Equal(t, w.Why, got.Why)
				require.True(t, w.Date.Equal(got.Date), "%s and %s", w.Date, got.Date)
				require.True(t, w.Named.Equal(got.Named))
				if format != "dwca" {
					require.Equal(t, w.DBH, got.DBH)
				}
			}
		})
	}
}

// TestScoresComeBack: the formats that carry scores give them back whole.
func TestScoresComeBack(t *testing.T) {
	t.Parallel()
	want := trees()[0].Record.Looks
	for name, format := range map[string]string{"trees.json": "json", "trees.zip": "dwca"} {
		lines := readBack(t, name, written(t, format, trees()))
		require.Equal(t, want, lines[0].Tree.Record.Looks, format)
	}
}

// TestUnknownFieldsAreKept: what another program wrote into a record goes through
// a book and out again.
func TestUnknownFieldsAreKept(t *testing.T) {
	t.Parallel()
	file := []byte(`{"records": [{"id": "LC-9", "tract": "Lantern Creek watershed forest", "stand": "Old pasture", "date": "2026-11-21",
		"sampler": {"pole": 7}, "wind": "NW", "looks": []}]}`)
	_, log, err := readBack(t, "r.json", file)[0].Tree.Log()
	require.NoError(t, err)
	text, err := json.Marshal(log)
	require.NoError(t, err)
	var kept []logbook.Entry
	require.NoError(t, json.Unmarshal(text, &kept), "as a book keeps it")
	rec := logbook.Replay(kept).Record("LC-9", logbook.Among{Region: "eastern-north-america"})
	var doc struct{ Records []map[string]any }
	require.NoError(t, json.Unmarshal(written(t, "json", []*exchange.Tree{{Tag: "LC-9", Record: rec}}), &doc))
	require.Equal(t, map[string]any{"pole": 7.0}, doc.Records[0]["sampler"])
	require.Equal(t, "NW", doc.Records[0]["wind"])
}

func TestGPX(t *testing.T) {
	t.Parallel()
	file := written(t, "gpx", trees())
	lines := readBack(t, "trees.gpx", file)
	require.Len(t, lines, 1, "only the tree with a position")
	require.Equal(t, "LC-1", lines[0].Tree.Tag)
	require.InDelta(t, -90.638123, lines[0].Tree.Position.Lon, 1e-9)
	require.Equal(t, "Upper slope", lines[0].Tree.Stand)
	require.Equal(t, []string{"there is no tract"}, lines[0].Problems, "a waypoint does not say in which forest it is")
}

func TestSpreadsheetsDoNotRunRemarks(t *testing.T) {
	t.Parallel()
	require.Contains(t, string(written(t, "csv", trees())), `"'=fork at 2 m`)
}

// TestWhatIsWrongIsSaid reads a table that somebody else made.
func TestWhatIsWrongIsSaid(t *testing.T) {
	t.Parallel()
	table := strings.Join([]string{
		"Tag;Plot;Latitude;Longitude;DBH (in);Species;Date",
		"A-1;Old pasture;43,5612;-90,6381;12;Quercus alba;2026-01-10",
		"A-2;Old pasture;143.5612;-90.6381;12;Quercus alba;2026-01-10",
		"A-3;Old pasture;43.5612;;twelve;Quercus albba;10/01/2026",
		";Old pasture;;;;;2026-01-10",
		"A-1;Old pasture;;;;Fagaceae;2026-01-10",
		"A-6;Old pasture;;;;;1431-05-01",
	}, "\n")
	sheet, err := exchange.Read("stand.csv", []byte(table))
	require.NoError(t, err)
	m := sheet.GuessMapping()
	require.Equal(t, []string{"tag", "stand", "lat", "lon", "dbh_in", "given", "date"}, m.Columns)
	m.Tract = "Lantern Creek watershed forest"
	lines := linesOf(t, sheet, m)
	require.Empty(t, lines[0].Problems)
	require.InDelta(t, 30.48, lines[0].Tree.DBH, 1e-9)
	require.InDelta(t, 43.5612, lines[0].Tree.Position.Lat, 1e-9, "a comma is a point")
	for i, says := range []string{"", "wrong way round", `did you mean "Quercus alba"`, "there is no tag", "in line 2 already", "from 1500 to 2200"} {
		require.Contains(t, strings.Join(lines[i].Problems, "; "), says, lines[i].At)
	}
	require.Contains(t, strings.Join(lines[2].Problems, "; "), "is not a measurement")
	require.Contains(t, strings.Join(lines[2].Problems, "; "), "there is no longitude")
	require.Equal(t, "line 4", lines[2].At)
	require.Equal(t, "family", lines[4].Tree.Rank)
}

func TestFilesThatCannotBeRead(t *testing.T) {
	t.Parallel()
	for name, c := range map[string]struct{ file, says string }{
		"empty.csv":    {"  \n", "empty"},
		"head.csv":     {"tag,stand\n", "no trees under them"},
		"binary.csv":   {"tag,stand\n\x00\x01,x\n", "no text and no format"},
		"quote.csv":    {"tag,stand\n\"a,b\nc,d\n", "line 3"},
		"old.xls":      {"\xd0\xcf\x11\xe0", "save it as XLSX"},
		"x.gpx":        {"<gpx><trk></trk></gpx>", "no waypoints"},
		"x.geojson":    {`{"type":"FeatureCollection","features":[{"type":"Feature","properties":{},"geometry":{"type":"LineString","coordinates":[[0,0],[1,1]]}}]}`, "LineString; trees are points"},
		"x.json":       {`{"trees": []}`, `no "records"`},
		"records.json": {`{"records": [{"id": 7}]}`, "record 1"},
		"x.zip":        {"PK\x03\x04rubbish", "not a whole archive"},
	} {
		_, err := exchange.Read(name, []byte(c.file))
		require.ErrorContains(t, err, c.says, name)
	}
}

// TestZipBomb: a small file that would unpack to a gigabyte is refused unread.
func TestZipBomb(t *testing.T) {
	if testing.Short() {
		t.Skip("make nightly runs it")
	}
	t.Parallel()
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	w, err := z.Create("meta.xml")
	require.NoError(t, err)
	zeros := make([]byte, 1<<20)
	for range 1 << 10 {
		_, err := w.Write(zeros)
		require.NoError(t, err)
	}
	require.NoError(t, z.Close())
	require.Less(t, out.Len(), 2<<20)
	for _, name := range []string{"bomb.zip", "bomb.xlsx"} {
		_, err := exchange.Read(name, out.Bytes())
		require.ErrorContains(t, err, "nothing was unpacked", name)
	}
}

// TestSameFileSameEntries: reading a file again makes the very entries it made
// before, so that a book is not doubled.
func TestSameFileSameEntries(t *testing.T) {
	t.Parallel()
	file := written(t, "dwca", trees())
	id1, log1, err := readBack(t, "a.zip", file)[0].Tree.Log()
	require.NoError(t, err)
	id2, log2, err := readBack(t, "b.zip", file)[0].Tree.Log()
	require.NoError(t, err)
	require.Equal(t, id1, id2)
	require.Equal(t, log1, log2)
	st := logbook.Replay(log1)
	require.Len(t, st.Looks, 2)
	require.Equal(t, "Quercus rubra", st.Name().Name)
	require.Equal(t, "fair", st.Facts.Vigour)
	require.Equal(t, "2026-11-17", stamp.OfID(id1).Time().Format(time.DateOnly))
	for _, e := range log1 {
		require.NotEmpty(t, e.Day, "what a file tells of is of a day of the past")
		require.Empty(t, e.Stamp, "and comes after what the book has")
	}
}

// TestArchiveTerms holds the archive to the shape that the Darwin Core Text Guide
// gives: a core with an id, an extension with a coreid, every term known to TDWG.
func TestArchiveTerms(t *testing.T) {
	t.Parallel()
	file := written(t, "dwca", trees())
	z, err := zip.NewReader(bytes.NewReader(file), int64(len(file)))
	require.NoError(t, err)
	var names []string
	for _, f := range z.File {
		names = append(names, f.Name)
	}
	require.Equal(t, []string{"meta.xml", "eml.xml", "occurrence.csv", "measurementorfact.csv"}, names)
	lines := readBack(t, "t.zip", file)
	require.Equal(t, "Fraxinus", lines[1].Tree.Name)
	require.Equal(t, "genus", lines[1].Tree.Rank)
}

// TestDamagedFiles changes a few bytes of good files, over and over: what comes of
// it is an error or trees that a book can take, and never a panic.
func TestDamagedFiles(t *testing.T) {
	t.Parallel()
	rng := rand.New(rand.NewPCG(1906, 43))
	for _, format := range []string{"csv", "xlsx", "geojson", "gpx", "json", "dwca"} {
		good := written(t, format, trees())
		refused := 0
		for range 300 {
			file := bytes.Clone(good)
			for range 1 + rng.IntN(4) {
				file[rng.IntN(len(file))] = byte(rng.IntN(256))
			}
			sheet, err := exchange.Read("trees."+format, file)
			if err != nil {
				refused++
				continue
			}
			lines, err := sheet.Lines(sheet.GuessMapping(), floratest.Shipped(t))
			if err != nil {
				continue
			}
			for l := range lines {
				if len(l.Problems) == 0 {
					_, log, err := l.Tree.Log()
					require.NoError(t, err)
					for i := range log {
						require.NoError(t, log[i].Check())
					}
				}
			}
		}
		t.Logf("%s: %d of 300 refused whole", format, refused)
	}
}
