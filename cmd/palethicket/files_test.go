package main

import (
	"bytes"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/demo/demotest"
)

const survey = "tag,tract,stand,given,date\nA-1,Lantern Creek watershed forest,Old pasture,Quercus alba,2026-11-20\n" +
	"A-2,Lantern Creek watershed forest,Old pasture,Quercus albba,2026-11-20\n"

// TestImportAndExport puts a survey in from the command line and writes it out.
func TestImportAndExport(t *testing.T) {
	dir := t.TempDir()
	data := bookFlags{Data: filepath.Join(dir, "book.db")}
	in := writeTemp(t, "survey.csv", survey)
	out, err := printed(t, func() error {
		return (&importCmd{bookFlags: data, In: in, Dry: true}).Run(t.Context())
	})
	require.ErrorContains(t, err, "left out: 1 of 2 lines")
	require.Contains(t, out, `line 3: there is no tree "Quercus albba"; did you mean "Quercus alba"?`)
	require.Contains(t, out, "1 of 2 lines can go in; 1 have problems, 0 are in the book already.")
	out, err = printed(t, func() error {
		return (&importCmd{bookFlags: data, In: in, By: "Wren Halloran"}).Run(t.Context())
	})
	require.ErrorContains(t, err, "left out: 1 of 2 lines")
	require.Contains(t, out, "Trees put into the book: 1.")
	out, err = printed(t, func() error {
		return (&importCmd{bookFlags: data, In: in}).Run(t.Context())
	})
	require.ErrorContains(t, err, "left out: 1 of 2 lines")
	require.Contains(t, out, "1 are in the book already")

	to := filepath.Join(dir, "out.csv")
	_, err = printed(t, func() error { return (&exportCmd{bookFlags: data, Format: "csv", Out: to}).Run(t.Context()) })
	require.NoError(t, err)
	text, err := os.ReadFile(to)
	require.NoError(t, err)
	require.Contains(t, string(text), "A-1,Lantern Creek watershed forest,Old pasture")
	require.NotContains(t, string(text), "A-2")
	said, err := printed(t, func() error { return (&exportCmd{bookFlags: data, Format: "csv", Out: "-"}).Run(t.Context()) })
	require.NoError(t, err)
	require.Equal(t, string(text), said)
	_, err = printed(t, func() error { return (&exportCmd{bookFlags: data, Format: "csv", Out: to}).Run(t.Context()) })
	require.ErrorContains(t, err, "is there already")
	_, err = printed(t, func() error {
		return (&exportCmd{bookFlags: data, Format: "csv", Out: filepath.Join(dir, "nowhere", "out.csv")}).Run(t.Context())
	})
	require.ErrorContains(t, err, "nowhere")
}

func TestImportSaysWhyNot(t *testing.T) {
	data := bookFlags{Data: filepath.Join(t.TempDir(), "book.db")}
	for name, c := range map[string]struct{ file, says string }{
		"notag.csv": {"number,plot\n1,2\n", "--map"},
		"empty.csv": {"", "is empty"},
		"old.xls":   {"\xd0\xcf\x11\xe0", "save it as XLSX"},
	} {
		_, err := printed(t, func() error { return (&importCmd{bookFlags: data, In: writeTemp(t, name, c.file)}).Run(t.Context()) })
		require.ErrorContains(t, err, c.says, name)
	}
}

// TestNoBookIsMadeByReading: a command on a book that is not there says so, and makes none.
func TestNoBookIsMadeByReading(t *testing.T) {
	data := bookFlags{Data: filepath.Join(t.TempDir(), "book.db")}
	for name, run := range map[string]func() error{
		"export": func() error { return (&exportCmd{bookFlags: data, Format: "csv", Out: "-"}).Run(t.Context()) },
		"crew":   func() error { return (&crewListCmd{data}).Run(t.Context()) },
		"check":  func() error { return (&checkCmd{bookFlags: data}).Run(t.Context()) },
	} {
		_, err := printed(t, run)
		require.ErrorContains(t, err, "there is no book at "+data.Data, name)
		require.NoFileExists(t, data.Data, name)
	}
}

// TestServingOthersNeedsALead: nobody is left outside, and nobody is let in unasked.
func TestServingOthersNeedsALead(t *testing.T) {
	data := bookFlags{Data: filepath.Join(t.TempDir(), "book.db")}
	err := serve(t.Context(), data, listenFlags{Listen: "0.0.0.0:0"}, nothing)
	require.ErrorContains(t, err, "palethicket crew add")

	stdin := os.Stdin
	t.Cleanup(func() { os.Stdin = stdin })
	typed := func(password string) {
		file, err := os.Open(writeTemp(t, "typed", password+"\n"))
		require.NoError(t, err)
		os.Stdin = file
	}
	typed("short")
	require.ErrorContains(t, (&crewAddCmd{bookFlags: data, Name: "Wren Halloran", Role: "lead"}).Run(t.Context()), "15 to 200 characters")
	typed("seven cold mornings")
	out, err := printed(t, func() error {
		return (&crewAddCmd{bookFlags: data, Name: "Wren Halloran", Role: "lead"}).Run(t.Context())
	})
	require.NoError(t, err)
	require.Contains(t, out, "Wren Halloran may sign in as a lead.")
	typed("eight cold mornings")
	require.NoError(t, (&crewPasswordCmd{bookFlags: data, Name: "Wren Halloran"}).Run(t.Context()))
	out, err = printed(t, func() error { return (&crewListCmd{data}).Run(t.Context()) })
	require.NoError(t, err)
	require.Equal(t, "Wren Halloran: lead", strings.TrimSpace(out))
	require.ErrorIs(t, (&crewCloseCmd{bookFlags: data, Name: "Wren Halloran"}).Run(t.Context()), book.ErrLastLead)

	b := booktest.At(t, data.Data)
	require.NoError(t, hasLead(t.Context(), b))
	_, _, err = b.SignIn(t.Context(), "Wren Halloran", "eight cold mornings")
	require.NoError(t, err)
}

func TestBeyond(t *testing.T) {
	t.Parallel()
	for addr, want := range map[string]bool{"127.0.0.1:8080": false, "localhost:80": false, "[::1]:8080": false,
		"0.0.0.0:8080": true, ":8080": true, "192.168.4.2:80": true, "nonsense": true} {
		require.Equal(t, want, beyond(addr), addr)
	}
}

// TestBackupHoldsThePhotographs backs the demo up with a photograph and restores it.
func TestBackupHoldsThePhotographs(t *testing.T) {
	dir := demotest.Copy(t)
	b := booktest.At(t, filepath.Join(dir, "book.db"))
	list, err := b.Trees(t.Context(), book.Query{}, 1, 0)
	require.NoError(t, err)
	tree := list.Trees[0].ID
	pic, err := os.ReadFile("../../core/tree/photo/testdata/turned.jpg")
	require.NoError(t, err)
	_, err = b.AddPhoto(t.Context(), book.NewPhoto{ID: "01JD0000000000000000000001", Tree: tree, ReadPosition: true}, bytes.NewReader(pic))
	require.NoError(t, err)
	out, err := printed(t, func() error {
		return (&backupCmd{bookFlags: bookFlags{Data: filepath.Join(dir, "book.db")}, Out: filepath.Join(dir, "backup.db")}).Run(t.Context())
	})
	require.NoError(t, err, out)
	_, err = printed(t, func() error {
		return (&restoreCmd{From: filepath.Join(dir, "backup.db"), Data: filepath.Join(dir, "again.db")}).Run(t.Context())
	})
	require.NoError(t, err)
	again := booktest.At(t, filepath.Join(dir, "again.db"))
	kept, _, err := booktest.ReadPhoto(t, again, "01JD0000000000000000000001", false)
	require.NoError(t, err)
	require.Equal(t, pic, kept)
	photos, err := again.Photos(t.Context(), tree)
	require.NoError(t, err)
	require.InDelta(t, 43.5612, *photos[0].Lat, 1e-6)
}

// TestImportIsToldWhatItCannotGuess: columns by their headings, and names in the file.
func TestImportIsToldWhatItCannotGuess(t *testing.T) {
	data := bookFlags{Data: filepath.Join(t.TempDir(), "book.db")}
	in := writeTemp(t, "odd.csv", "No on trunk,Kind,Where,Seen\nA-1,soft maple,Cove,2026-11-29\nA-2,Quercus alba,Cove,2026-11-29\n")
	run := func(columns, answers map[string]string) (string, error) {
		return printed(t, func() error {
			return (&importCmd{bookFlags: data, In: in, Tract: "Lantern Creek", Map: columns, Answer: answers}).Run(t.Context())
		})
	}
	columns := map[string]string{"no on trunk": "tag", "Kind": "given", "Where": "stand", "Seen": "date"}
	_, err := run(map[string]string{"Number": "tag"}, nil)
	require.ErrorContains(t, err, `the file has no column "Number"; it has No on trunk, Kind, Where, Seen`)
	_, err = run(map[string]string{"Kind": "status"}, nil)
	require.ErrorContains(t, err, `"status" is no field; use one of tag, tract, stand,`)
	_, err = run(columns, map[string]string{"soft maple": "Acer rubrumm"})
	require.ErrorContains(t, err, `--answer "soft maple": "Acer rubrumm" may be Acer rubrum`)
	out, err := run(columns, map[string]string{"soft maple": "Acer rubrum"})
	require.NoError(t, err)
	require.Contains(t, out, "Trees put into the book: 2.")
	said, err := printed(t, func() error { return (&exportCmd{bookFlags: data, Format: "csv", Out: "-"}).Run(t.Context()) })
	require.NoError(t, err)
	require.Contains(t, said, "A-1,Lantern Creek,Cove")
	require.Contains(t, said, "Acer rubrum")
}

// TestPrintFromABook prints a report, a day's sheet and a quiz; where codes cannot lead is refused before anything is printed.
func TestPrintFromABook(t *testing.T) {
	t.Parallel()
	dir := demotest.Copy(t)
	data := bookFlags{Data: filepath.Join(dir, "book.db")}
	out := func(name string) paperFlags { return paperFlags{Paper: "A4", Out: filepath.Join(dir, name)} }
	const tract = "Lantern Creek watershed forest"
	for name, run := range map[string]func() error{
		"report.pdf": func() error {
			return (&printReportCmd{bookFlags: data, paperFlags: out("report.pdf"), Tract: tract, Stand: "North cove"}).Run(t.Context())
		},
		"day.pdf": func() error {
			day := &printDayCmd{bookFlags: data, paperFlags: out("day.pdf"), Tract: tract, Date: "2026-12-03", Start: "09:00", Crews: 2}
			return day.Run(t.Context())
		},
		"quiz.pdf": func() error {
			return (&printQuizCmd{bookFlags: data, paperFlags: out("quiz.pdf"), Kinds: []string{"bark"}, N: 4, Seed: 3}).Run(t.Context())
		},
	} {
		require.NoError(t, run(), name)
		text, err := os.ReadFile(filepath.Join(dir, name))
		require.NoError(t, err)
		require.True(t, strings.HasPrefix(string(text), "%PDF-"), name)
	}
	tags := &printTagsCmd{bookFlags: data, paperFlags: out("tags.pdf"), Rows: 8, Columns: 3, Base: "ftp://book.example"}
	require.ErrorContains(t, tags.Run(t.Context()), "--base")
	require.NoFileExists(t, filepath.Join(dir, "tags.pdf"))
}
