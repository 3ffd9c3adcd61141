package exchange_test

import (
	"archive/zip"
	"bytes"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/exchange"
)

// zipped packs files into an archive.
func zipped(t testing.TB, files map[string]func(io.Writer)) []byte {
	t.Helper()
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	for name, write := range files {
		w, err := z.Create(name)
		require.NoError(t, err)
		write(w)
	}
	require.NoError(t, z.Close())
	return out.Bytes()
}

func text(s string) func(io.Writer) { return func(w io.Writer) { _, _ = io.WriteString(w, s) } }

// repeated writes a text many times, none of it kept.
func repeated(head, s string, times int) func(io.Writer) {
	return func(w io.Writer) {
		_, _ = io.WriteString(w, head)
		for range times {
			_, _ = io.WriteString(w, s)
		}
	}
}

// archive is a Darwin Core Archive with a table of so many columns.
func archive(t testing.TB, columns int, table func(io.Writer)) []byte {
	var fields strings.Builder
	for i := range columns {
		fmt.Fprintf(&fields, `<field index="%d" term="http://rs.tdwg.org/dwc/terms/t%d"/>`, i, i)
	}
	meta := `<archive xmlns="http://rs.tdwg.org/dwc/text/"><core encoding="UTF-8" fieldsTerminatedBy="," linesTerminatedBy="\n" ignoreHeaderLines="1"
		rowType="http://rs.tdwg.org/dwc/terms/Occurrence"><files><location>o.csv</location></files><id index="0"/>` + fields.String() + `</core></archive>`
	return zipped(t, map[string]func(io.Writer){"meta.xml": text(meta), "o.csv": table})
}

// workbook is the least of a workbook, with a sheet.
func workbook(t testing.TB, sheet func(io.Writer)) []byte {
	return zipped(t, map[string]func(io.Writer){
		"[Content_Types].xml": text(
			`<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>`,
		),
		"_rels/.rels": text(
			`<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
		),
		"xl/workbook.xml": text(
			`<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="A" sheetId="1" r:id="rId1"/></sheets></workbook>`,
		),
		"xl/_rels/workbook.xml.rels": text(
			`<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`,
		),
		"xl/worksheets/sheet1.xml": sheet,
	})
}

const sheetHead = `<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>`

// bombs are small files that hold more than they look, and what is said of each.
var bombs = []struct {
	name, says string
	file       func(testing.TB) []byte
}{
	{"wide.zip", "has 3000 columns", func(t testing.TB) []byte {
		return archive(t, 3000, repeated("id\n", strings.Repeat(",", 19_999)+"\n", 40))
	}},
	{"wide lines.zip", "more than 200 columns", func(t testing.TB) []byte {
		return archive(t, 3, repeated("id\n", strings.Repeat("1,", 19_999)+"\n", 20))
	}},
	{"lines.zip", "more than 200000 lines", func(t testing.TB) []byte {
		return archive(t, 3, repeated("id\n", "a,b,"+strings.Repeat("c", 90)+"\n", 2_000_000))
	}},
	{"short lines.csv", "more than 1000000 lines without anything", func(testing.TB) []byte {
		return append([]byte("tag,stand\n"), bytes.Repeat([]byte(",\n"), 16_000_000)...)
	}},
	{"newlines.csv", "more than 5 million lines", func(testing.TB) []byte {
		return append([]byte("tag,stand\n"), bytes.Repeat([]byte("\n"), 32_000_000)...)
	}},
	{"one line.csv", "longer than 1 MB", func(testing.TB) []byte { return bytes.Repeat([]byte("x"), 32_000_000) }},
	{"quoted.csv", "longer than 1 MB", func(testing.TB) []byte {
		return append([]byte(`a,"`), bytes.Repeat([]byte("x\n"), 16_000_000)...)
	}},
	{"commas.csv", "more than 200 columns", func(testing.TB) []byte { return bytes.Repeat([]byte(","), 32_000_000) }},
	{"last column.xlsx", "has 16384 columns", func(t testing.TB) []byte {
		return workbook(t, func(w io.Writer) {
			_, _ = io.WriteString(w, sheetHead)
			for r := 1; r <= 20_000; r++ {
				fmt.Fprintf(w, `<row r="%d"><c r="A%d"><v>1</v></c><c r="XFD%d"><v>1</v></c></row>`, r, r, r)
			}
			_, _ = io.WriteString(w, `</sheetData></worksheet>`)
		})
	}},
	{"no sheet.xlsx", "there is no sheet", func(t testing.TB) []byte {
		file := workbook(t, text(sheetHead+`</sheetData></worksheet>`))
		return bytes.Clone(withoutSheets(t, file))
	}},
	{"keys.geojson", "more than 198 properties", func(testing.TB) []byte {
		var out bytes.Buffer
		out.WriteString(`{"type":"FeatureCollection","features":[`)
		for i := range 20_000 {
			fmt.Fprintf(&out, `{"type":"Feature","properties":{"k%d":1},"geometry":null},`, i)
		}
		return append(bytes.TrimSuffix(out.Bytes(), []byte(",")), "]}"...)
	}},
	{"one feature.geojson", "larger than 1 MB", func(testing.TB) []byte {
		return []byte(`{"features":[{"properties":{"a":[` + strings.Repeat("1,", 15_000_000) + `1]}}]}`)
	}},
	{"deep.json", "exceeded max depth", func(testing.TB) []byte {
		return []byte(`{"records":[` + strings.Repeat("[", 16_000_000))
	}},
	{"scores.json", "more than 400000 scores", func(testing.TB) []byte {
		record := `{"looks":[` + strings.Repeat(`{"scores":[`+strings.Repeat("{},", 99)+`{}]},`, 99) + `{}]},`
		return []byte(`{"records":[` + strings.Repeat(record, 900) + `{}]}`)
	}},
	{"looks.json", "has 301 looks", func(testing.TB) []byte {
		return []byte(`{"records":[{"looks":[` + strings.Repeat("{},", 300) + `{}]}]}`)
	}},
	{"points.gpx", "more than 200000 lines", func(testing.TB) []byte {
		return []byte(`<gpx>` + strings.Repeat(`<wpt lat="1" lon="2"/>`, 1_400_000) + `</gpx>`)
	}},
	{"cell.csv", "has a cell of", func(testing.TB) []byte { return []byte("tag,remarks\n1," + strings.Repeat("x", 100_000) + "\n") }},
}

// withoutSheets takes the sheets out of a workbook's list.
func withoutSheets(t testing.TB, file []byte) []byte {
	z, err := zip.NewReader(bytes.NewReader(file), int64(len(file)))
	require.NoError(t, err)
	files := map[string]func(io.Writer){}
	for _, f := range z.File {
		r, err := f.Open()
		require.NoError(t, err)
		body, err := io.ReadAll(r)
		require.NoError(t, err)
		if f.Name == "xl/workbook.xml" {
			body = []byte(`<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheets></sheets></workbook>`)
		}
		files[f.Name] = text(string(body))
	}
	return zipped(t, files)
}

// TestSmallFilesSmallMemory reads each file in a process of its own: it is refused
// with which bound it passes, and the process stays small.
func TestSmallFilesSmallMemory(t *testing.T) {
	t.Parallel()
	if path := os.Getenv("PT_BOMB"); path != "" {
		return // run by itself below
	}
	dir := t.TempDir()
	for _, b := range bombs {
		t.Run(b.name, func(t *testing.T) {
			path := filepath.Join(dir, b.name)
			require.NoError(t, os.WriteFile(path, b.file(t), 0o600))
			cmd := exec.Command(os.Args[0], "-test.run=^TestReadInAProcess$", "-test.v")
			cmd.Env = append(os.Environ(), "PT_BOMB="+path)
			out, err := cmd.CombinedOutput()
			require.NoError(t, err, string(out))
			require.Contains(t, string(out), b.says)
			_, peak, ok := strings.Cut(string(out), "PEAK ")
			require.True(t, ok)
			kb, err := strconv.Atoi(strings.Fields(peak)[0])
			require.NoError(t, err)
			require.Less(t, kb, 300<<10, "kB at most")
			t.Logf("%d MB", kb>>10)
		})
	}
}

// TestReadInAProcess reads the file that TestSmallFilesSmallMemory names, and says what
// came of it and how much memory the process took at most.
func TestReadInAProcess(t *testing.T) {
	path := os.Getenv("PT_BOMB")
	if path == "" {
		t.Skip("run by TestSmallFilesSmallMemory")
	}
	file, err := os.ReadFile(path)
	require.NoError(t, err)
	_, err = exchange.Read(filepath.Base(path), file)
	fmt.Println(err)
	status, err := os.ReadFile("/proc/self/status")
	require.NoError(t, err)
	_, peak, _ := strings.Cut(string(status), "VmHWM:")
	fmt.Println("PEAK", strings.Fields(peak)[0])
}

// TestFullSheetSmallMemory reads the largest table that is taken.
func TestFullSheetSmallMemory(t *testing.T) {
	t.Parallel()
	var out bytes.Buffer
	out.WriteString("tag,tract,stand,lat,lon,dbh_cm,species,date,remarks\n")
	for i := range 200_000 {
		fmt.Fprintf(
			&out,
			"LC-%d,Lantern Creek watershed forest,Stand %d,43.5612,-90.6381,31,Quercus alba,2026-01-10,%s\n",
			i,
			i%300,
			"leans to the north a little",
		)
	}
	path := filepath.Join(t.TempDir(), "full.csv")
	require.NoError(t, os.WriteFile(path, out.Bytes(), 0o600))
	cmd := exec.Command(os.Args[0], "-test.run=^TestReadInAProcess$", "-test.v")
	cmd.Env = append(os.Environ(), "PT_BOMB="+path)
	said, err := cmd.CombinedOutput()
	require.NoError(t, err, string(said))
	require.Contains(t, string(said), "<nil>")
	_, peak, _ := strings.Cut(string(said), "PEAK ")
	kb, err := strconv.Atoi(strings.Fields(peak)[0])
	require.NoError(t, err)
	require.Less(t, kb, 300<<10)
	t.Logf("%d MB", kb>>10)
}

// occurrences is the table of trees in an archive.
func occurrences(t *testing.T, archive []byte) string {
	t.Helper()
	z, err := zip.NewReader(bytes.NewReader(archive), int64(len(archive)))
	require.NoError(t, err)
	table, err := z.Open("occurrence.csv")
	require.NoError(t, err)
	defer table.Close()
	text, err := io.ReadAll(table)
	require.NoError(t, err)
	return string(text)
}

// TestSignsComeBack: what a spreadsheet would take for a formula is written as text and
// reads back as it was, apostrophes and all.
func TestSignsComeBack(t *testing.T) {
	t.Parallel()
	for _, remark := range []string{"=1+1", "'=1", "''=1", "-x", "+1 limb", "@home", "'tis dead", "-7", "\tx", "plain", "＝1+1", "－x", "＠home",
		"＋1 limb"} {
		tree := trees()[0]
		tree.Remarks = remark
		file := written(t, "csv", []*exchange.Tree{tree})
		require.Equal(t, strings.TrimSpace(remark), readBack(t, "t.csv", file)[0].Tree.Remarks, remark)
		archive := written(t, "dwca", []*exchange.Tree{tree})
		require.Equal(t, strings.TrimSpace(remark), readBack(t, "t.zip", archive)[0].Tree.Remarks, remark)
		if strings.ContainsAny(remark[:1], "=+@") || remark[0] > 127 {
			require.NotContains(t, string(file), ","+remark)
			require.NotContains(t, occurrences(t, archive), ","+remark)
		}
	}
	tree := trees()[0]
	tree.Remarks = "\rx"
	require.Contains(t, string(written(t, "csv", []*exchange.Tree{tree})), "'\rx")
}
