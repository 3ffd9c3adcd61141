package exchange_test

import (
	"archive/zip"
	"bytes"
	"io"
	"slices"
	"strconv"
	"testing"
	"time"
	"unicode/utf16"

	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"palethicket/core/exchange"
	"palethicket/core/flora/floratest"
	"palethicket/core/tree/logbook"
)

// TestHeadingsOfCruises: common practice, in tables of timber cruises.
func TestHeadingsOfCruises(t *testing.T) {
	t.Parallel()
	for heading, field := range map[string]string{
		"Tree No": "tag", "Tree #": "tag", "Tree ID": "tag", "Tag No.": "tag", "Species": "given", "SPP": "given", "Spcd": "given", "dia": "dbh_cm",
		"DBH (in)": "dbh_in", "DBH (cm)": "dbh_cm", "Dia. (in.)": "dbh_in", "Ht (ft)": "height_ft", "Ht (m)": "height_m", "Lat": "lat",
		"Long": "lon", "Cruiser": "observer", "Crew": "observer", "Date": "date", "Easting": "easting", "UTM Zone": "zone", "Notes": "remarks",
		"Lat/Long": "position", "Basal area": "", "Volume": "",
	} {
		require.Equal(t, field, exchange.Guess(heading), heading)
	}
}

// TestCodesForNames: symbols of the national plant list and numbers of the forest inventory (codes.yaml).
func TestCodesForNames(t *testing.T) {
	t.Parallel()
	for written, want := range map[string]string{
		"ACRU": "species Acer rubrum", "acru": "species Acer rubrum", "ACSA3": "species Acer saccharum", "ACSA2": "species Acer saccharinum",
		"QUAL": "species Quercus alba", "316": "species Acer rubrum", "802": "species Quercus alba", "0316": "species Acer rubrum",
		"802.0": "species Quercus alba", "QUPR2": "species Quercus montana", "FAGR": "species Fagus grandifolia", "800": "genus Quercus",
		"QUERC": "genus Quercus", "QUTE": "species Quercus texana", "Q. alba": "species Quercus alba", "Q alba": "species Quercus alba",
		"Quercus alba L.": "species Quercus alba", "Acer saccharum Marsh.": "species Acer saccharum", "N/A": " ", "unknown": " ", "-": " ",
		"Carya ovata (Mill.) K. Koch": "species Carya ovata", "DIPA": "species Dirca palustris",
	} {
		l := one(t, nil, "species", written)
		require.Empty(t, l.Problems, written)
		require.Equal(t, want, l.Tree.Rank+" "+l.Tree.Name, written)
		require.Empty(t, l.Tree.Remarks, written)
	}
	for written, maybe := range map[string][]string{"ACSA": {"Acer saccharinum", "Acer saccharum"}, "ACSA9": {"Acer saccharinum", "Acer saccharum"}} {
		l := one(t, nil, "species", written)
		require.Len(t, l.Problems, 1, written)
		var names []string
		for _, s := range l.Doubt.Suggests {
			names = append(names, s.Name)
		}
		require.ElementsMatch(t, maybe, names, written)
	}
	l := one(t, nil, "species", "999")
	require.Contains(t, l.Problems[0], `no tree goes by "999"`)
}

// TestEveryTreeHasACode: by the list, or by its first four letters, or with others of the same letters.
func TestEveryTreeHasACode(t *testing.T) {
	f := floratest.Shipped(t)
	for i := range f.Taxa {
		taxon := &f.Taxa[i]
		if taxon.Abundance[eastern] == "" {
			continue
		}
		code := exchange.CodeOf(taxon.Name)
		if code == "" {
			continue // a kind, as hawthorns
		}
		l := one(t, nil, "species", code)
		if l.Doubt == nil {
			require.Equal(t, taxon.Name, l.Tree.Name, code)
			continue
		}
		require.Contains(t, l.Doubt.Suggests, exchange.Called{Rank: "species", Name: taxon.Name}, code)
	}
}

// TestTitlesAndTwoHeadings: what stands above the headings is no tree, nor are units under them.
func TestTitlesAndTwoHeadings(t *testing.T) {
	t.Parallel()
	for name, file := range map[string]string{
		"plain":    "Tree No,Species,DBH (in),Ht (ft)\n1,ACRU,12,60\n2,QUAL,14,70\n",
		"titles":   "Lantern Creek cruise,,,\nMarch 2026,,,\n,,,\nTree No,Species,DBH (in),Ht (ft)\n1,ACRU,12,60\n2,QUAL,14,70\n",
		"units":    "Tree No,Species,DBH,Ht\n,code,in,ft\n1,ACRU,12,60\n2,QUAL,14,70\n",
		"brackets": "Tree No,Species,DBH,Ht\n,,(in),(ft)\n1,ACRU,12,60\n2,QUAL,14,70\n",
		"groups":   "Tree,,Size,\nTree No,Species,DBH (in),Ht (ft)\n1,ACRU,12,60\n2,QUAL,14,70\n",
		"split":    "Tree,Species,DBH,Ht\nNo,code,in.,ft.\n1,ACRU,12,60\n2,QUAL,14,70\n",
	} {
		sheet, err := exchange.Read(name+".csv", []byte(file))
		require.NoError(t, err, name)
		require.Len(t, sheet.Rows, 2, name)
		m := sheet.GuessMapping()
		require.Equal(t, []string{"tag", "given", "dbh_in", "height_ft"}, m.Columns, name)
		m.Region, m.Date, m.Tract, m.Stand = eastern, "2026-11-20", "Lantern Creek", "Cove"
		lines := linesOf(t, sheet, m)
		require.Empty(t, lines[0].Problems, name)
		require.InDelta(t, 30.48, lines[0].Tree.DBH, 1e-9, name)
		require.Equal(t, "1", lines[0].Tree.Tag, name)
	}
	sheet, err := exchange.Read("short.csv", []byte("tag,given\nA,oak\nB,ash\n"))
	require.NoError(t, err)
	require.Len(t, sheet.Rows, 2, "a tree without figures is no heading")
}

// TestTextAsProgramsSaveIt: UTF-16 as spreadsheets save "Unicode text", and Windows-1252.
func TestTextAsProgramsSaveIt(t *testing.T) {
	t.Parallel()
	text := "tag\tstand\tremarks\nA-1\tCôte\tbåt’s\n"
	units := utf16.Encode([]rune("\ufeff" + text))
	little, big := make([]byte, 0, 2*len(units)), make([]byte, 0, 2*len(units))
	for _, u := range units {
		little, big = append(little, byte(u), byte(u>>8)), append(big, byte(u>>8), byte(u))
	}
	for name, file := range map[string][]byte{
		"utf-8": []byte(text), "marked": []byte("\ufeff" + text), "utf-16 little": little, "utf-16 big": big,
		"windows": []byte("tag\tstand\tremarks\nA-1\tC\xf4te\tb\xe5t\x92s\n"),
	} {
		sheet, err := exchange.Read(name+".txt", file)
		require.NoError(t, err, name)
		require.Equal(t, []string{"tag", "stand", "remarks"}, sheet.Columns, name)
		require.Equal(t, []string{"A-1", "Côte", "båt’s"}, sheet.Rows[0].Cells, name)
	}
}

// TestPositionsAsPeopleWriteThem: degrees and minutes, halves of the globe, one cell, and the UTM grid.
func TestPositionsAsPeopleWriteThem(t *testing.T) {
	t.Parallel()
	for _, c := range []struct{ heads, cells string }{
		{"lat;lon", "43.5612;-90.6381"},
		{"lat;lon", "43,5612;-90,6381"},
		{"lat;lon", "43.5612 N;90.6381 W"},
		{"lat;lon", "N43° 33.672';W90° 38.286'"},
		{"lat;lon", "43 33 40.32;-90 38 17.16"},
		{"lat;lon", "43°33'40.32''N;90°38'17.16''W"},
		{"Coordinates", "43.5612, -90.6381"},
		{"GPS", "43.5612N 90.6381W"},
		{"zone;easting;northing", "15N;690756.04;4825848.45"},
		{"UTM", "15T 690756.04 4825848.45"},
	} {
		sheet, err := exchange.Read("x.csv", []byte("tag;tract;stand;"+c.heads+"\nA-1;T;S;"+c.cells+"\n"))
		require.NoError(t, err)
		m := sheet.GuessMapping()
		m.Region, m.Date = eastern, "2026-11-20"
		l := linesOf(t, sheet, m)[0]
		require.Empty(t, l.Problems, c.cells)
		require.InDelta(t, 43.5612, l.Tree.Position.Lat, 1e-6, c.cells)
		require.InDelta(t, -90.6381, l.Tree.Position.Lon, 1e-6, c.cells)
	}
	for cells, says := range map[string]string{
		"43 77 0;-90": "is not in degrees", "43 E;-90": "is not in degrees", "north;-90": "is not in degrees", "95;-90": "is off the globe",
	} {
		l := one(t, nil, "lat,lon", cells[:len(cells)-4]+","+cells[len(cells)-3:])
		require.NotEmpty(t, l.Problems, cells)
		require.Contains(t, l.Problems[0], says, cells)
	}
	require.Contains(t, one(t, nil, "zone,easting,northing", "15S,690756,4825848").Problems[0], "write them as 15N")
}

// TestLengthsWithoutAUnit are asked about: some tables mean inches.
func TestLengthsWithoutAUnit(t *testing.T) {
	t.Parallel()
	for file, asks := range map[string]bool{
		"tag,DBH\nA,12\n": true, "tag,DBH (in)\nA,12\n": false, "tag,dbh_cm\nA,12\n": false, "tag,DBH\nA,12 in\n": false, "tag,DBH\nA,\n": false,
	} {
		sheet, err := exchange.Read("x.csv", []byte(file))
		require.NoError(t, err)
		m := sheet.GuessMapping()
		require.Equal(t, asks, len(sheet.Asks(m).Units) > 0, file)
		m.Units = []string{"", "in"}
		require.Empty(t, sheet.Asks(m).Units, file)
	}
	sheet, err := exchange.Read("x.csv", []byte("tag,Easting,Northing\nA,690756,4825848\n"))
	require.NoError(t, err)
	require.True(t, sheet.Asks(sheet.GuessMapping()).Zone)
}

// TestOtherKindsOfFile: each says what it is and what to do with it.
func TestOtherKindsOfFile(t *testing.T) {
	t.Parallel()
	zipped := func(name string) string {
		var out bytes.Buffer
		z := zip.NewWriter(&out)
		w, err := z.Create(name)
		require.NoError(t, err)
		_, err = w.Write([]byte("x"))
		require.NoError(t, err)
		require.NoError(t, z.Close())
		return out.String()
	}
	for name, c := range map[string]struct{ file, says string }{
		"trees.shp":  {"\x00\x00\x27\x0a....", "save it as GeoPackage or GeoJSON"},
		"trees.dbf":  {"\x03....", "save it as GeoPackage or GeoJSON"},
		"shp.zip":    {zipped("trees.shp"), "save it as GeoPackage or GeoJSON"},
		"trees.pdf":  {"%PDF-1.7", "it is a PDF"},
		"trees.jpg":  {"\xff\xd8\xff\xe0", "it is a picture"},
		"trees.xls":  {"\xd0\xcf\x11\xe0", "save it as XLSX or CSV"},
		"trees.ods":  {zipped("mimetype"), "save it as XLSX or CSV"},
		"trees.docx": {zipped("word/document.xml"), "it is a text document"},
		"trees.gpkg": {"SQLite format 3\x00rubbish", "no GeoPackage"},
		"lines.kml":  {"<kml><Placemark><LineString/></Placemark></kml>", "there are no points in it"},
		"trees.gz":   {"\x1f\x8b\x08", "unpack it"},
	} {
		_, err := exchange.Read(name, []byte(c.file))
		require.ErrorContains(t, err, c.says, name)
	}
}

// TestPlacesOfOthers: KML and KMZ as map programs write them.
func TestPlacesOfOthers(t *testing.T) {
	t.Parallel()
	const doc = `<?xml version="1.0"?><kml xmlns="http://www.opengis.net/kml/2.2"><Document><Folder>
		<Placemark><name>LC-7</name><description>by the gate</description><Point><coordinates> -90.6381,43.5612,270 </coordinates></Point>
		<ExtendedData><SchemaData schemaUrl="#a"><SimpleData name="Species">QUAL</SimpleData></SchemaData></ExtendedData></Placemark>
		<Placemark><name>edge</name><Polygon/></Placemark></Folder></Document></kml>`
	var packed bytes.Buffer
	z := zip.NewWriter(&packed)
	w, err := z.Create("doc.kml")
	require.NoError(t, err)
	_, err = w.Write([]byte(doc))
	require.NoError(t, err)
	require.NoError(t, z.Close())
	for name, file := range map[string][]byte{"a.kml": []byte(doc), "a.kmz": packed.Bytes()} {
		sheet, err := exchange.Read(name, file)
		require.NoError(t, err, name)
		m := sheet.GuessMapping()
		m.Region, m.Date, m.Tract, m.Stand = eastern, "2026-11-20", "Lantern Creek", "Cove"
		lines := linesOf(t, sheet, m)
		require.Len(t, lines, 1, name)
		require.Empty(t, lines[0].Problems, name)
		require.Equal(t, "Quercus alba", lines[0].Tree.Name)
		require.Equal(t, "by the gate", lines[0].Tree.Remarks)
		require.InDelta(t, -90.6381, lines[0].Tree.Position.Lon, 1e-9)
	}
}

// TestWhatIsWrittenForOthers: a mark for spreadsheets, days as days, the UTM grid, and what archives say of their use.
func TestWhatIsWrittenForOthers(t *testing.T) {
	t.Parallel()
	require.True(t, bytes.HasPrefix(written(t, "csv", trees()), []byte("\ufefftag,")))
	west := *trees()[0]
	west.Position = &logbook.Position{Lat: 43.5, Lon: -90.63}
	require.Contains(t, string(written(t, "csv", []*exchange.Tree{&west})), ",43.500000,-90.630000,", "no apostrophe")
	book, err := excelize.OpenReader(bytes.NewReader(written(t, "xlsx", trees())))
	require.NoError(t, err)
	defer book.Close()
	rows, err := book.GetRows("Trees")
	require.NoError(t, err)
	date := slices.Index(rows[0], "date")
	require.Equal(t, trees()[0].Date.Format(time.DateOnly), rows[1][date], "as a day is shown")
	cell, err := excelize.CoordinatesToCellName(date+1, 2)
	require.NoError(t, err)
	raw, err := book.GetCellValue("Trees", cell, excelize.Options{RawCellValue: true})
	require.NoError(t, err)
	_, err = strconv.Atoi(raw)
	require.NoError(t, err, "and kept as a number of days")

	f, err := exchange.FormatByID("csv")
	require.NoError(t, err)
	var grid bytes.Buffer
	one := trees()[0]
	require.NoError(t, f.Write(&grid, func(use func(*exchange.Tree) error) error { return use(one) }, exchange.About{UTM: true}))
	require.Contains(t, grid.String(), ",zone,easting,northing,")
	l := readBack(t, "grid.csv", grid.Bytes())[0]
	require.Empty(t, l.Problems)
	require.InDelta(t, one.Position.Lat, l.Tree.Position.Lat, 1e-6)
	require.InDelta(t, one.Position.Lon, l.Tree.Position.Lon, 1e-6)

	f, err = exchange.FormatByID("dwca")
	require.NoError(t, err)
	var archive bytes.Buffer
	require.NoError(t, f.Write(&archive, func(use func(*exchange.Tree) error) error { return use(one) },
		exchange.About{Made: made, License: "https://creativecommons.org/publicdomain/zero/1.0/legalcode", Country: "United States"}))
	z, err := zip.NewReader(bytes.NewReader(archive.Bytes()), int64(archive.Len()))
	require.NoError(t, err)
	part := func(name string) string {
		file, err := z.Open(name)
		require.NoError(t, err)
		text, err := io.ReadAll(file)
		require.NoError(t, err)
		return string(text)
	}
	require.Contains(t, part("meta.xml"), "http://purl.org/dc/terms/license")
	require.Contains(t, part("occurrence.csv"), "United States,https://creativecommons.org/publicdomain/zero/1.0/legalcode")
	require.Contains(t, part("occurrence.csv"), ",present,")
	require.Empty(t, readBack(t, "again.zip", archive.Bytes())[0].Problems)
}
