package report_test

import (
	"bytes"
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	"palethicket/core/flora/handbook"
	"palethicket/core/measure"
	"palethicket/core/plate/tile"
	"palethicket/core/tallysheet"
	"palethicket/report"
	"palethicket/report/reporttest"
)

// drawn are states as the program draws them.
func drawn(character, state string) (string, []byte) {
	d, err := tile.Draw(character, state, "paper")
	if err != nil || d == nil {
		return "", nil
	}
	return d.Kind, d.Body
}

func loaded(t *testing.T) (*flora.Flora, flora.Among) {
	t.Helper()
	f := floratest.Shipped(t)
	return f, flora.Among{Region: f.HomeRegion()}
}

// TestGaugeIsTrue reads the card's lengths back off the page: within 0.2 mm of what stands beside them.
func TestGaugeIsTrue(t *testing.T) {
	t.Parallel()
	for paper := range report.Papers {
		var pdf bytes.Buffer
		require.NoError(t, report.GaugePDF(&pdf, 4, false, paper))
		lines := reporttest.Lines(t, pdf.Bytes())
		across := func(long float64) (n int) {
			for _, l := range lines {
				if math.Abs(l.Y1-l.Y2) < 0.01 && math.Abs(math.Abs(l.X2-l.X1)-long) < 0.2 {
					n++
				}
			}
			return n
		}
		require.Equal(t, 1, across(100), "the line that must measure 100 mm")
		for _, slot := range []float64{1.5, 2.5, 4, 7, 10} {
			require.GreaterOrEqual(t, across(slot), 1, slot)
		}
		var mm, sixteenths []float64
		top, foot := 0.0, 1e9
		for _, l := range lines { // the rules' marks stand on the card's edges
			if l.X1 == l.X2 {
				top, foot = math.Max(top, math.Max(l.Y1, l.Y2)), math.Min(foot, math.Min(l.Y1, l.Y2))
			}
		}
		edge := top
		for _, l := range lines {
			if l.X1 == l.X2 && l.Y1 > l.Y2 && math.Abs(l.Y1-edge) > 8 && math.Abs(l.Y1-cardTop(lines)) < 0.01 {
				mm = append(mm, l.X1)
			}
			if l.X1 == l.X2 && math.Abs(math.Min(l.Y1, l.Y2)-foot) < 0.01 {
				sixteenths = append(sixteenths, l.X1)
			}
		}
		slices.Sort(mm)
		slices.Sort(sixteenths)
		require.Len(t, mm, 151)
		require.InDelta(t, 150, mm[150]-mm[0], 0.2)
		require.InDelta(t, 37, mm[37]-mm[0], 0.2)
		require.Len(t, sixteenths, 97)
		require.InDelta(t, 152.4, sixteenths[96]-sixteenths[0], 0.2)
		require.InDelta(t, 25.4/16, sixteenths[1]-sixteenths[0], 0.2)
		text := reporttest.Text(t, pdf.Bytes())
		require.Contains(t, text, "this must measure 100 mm")
		require.Regexp(t, `40 cm\s+10.00`, text) // Bitterlich 1948: d/(2√k), 40 cm at 4 m²/ha
		reporttest.Inside(t, pdf.Bytes(), 8)
	}
	require.ErrorIs(t, report.GaugePDF(&bytes.Buffer{}, 0, false, "A4"), report.ErrFactor)
	require.ErrorIs(t, report.GaugePDF(&bytes.Buffer{}, math.NaN(), false, "A4"), report.ErrFactor)
	require.ErrorIs(t, report.GaugePDF(&bytes.Buffer{}, 2, false, "A5"), report.ErrPaper)
}

// TestGaugeInInches: a card for a gauge in ft²/ac is in inches and feet. At 10 ft²/ac a tree is in up to 2.75 ft for each inch
// of diameter (Avery & Burkhart, Forest Measurements, table of plot radius factors).
func TestGaugeInInches(t *testing.T) {
	t.Parallel()
	var pdf bytes.Buffer
	require.NoError(t, report.GaugePDF(&pdf, 10*measure.FeetPerAcre, true, "Letter"))
	text := reporttest.Text(t, pdf.Bytes())
	require.Contains(t, text, "Gauge of 10 ft²/ac")
	require.Contains(t, text, "this must measure 4 inches")
	require.Regexp(t, `12 in\s+33\.0`, text)
	require.Regexp(t, `40 in\s+110\.0`, text)
	require.NotContains(t, text, " cm")
	across := func(long float64) bool {
		return slices.ContainsFunc(reporttest.Lines(t, pdf.Bytes()), func(l reporttest.Line) bool {
			return math.Abs(l.Y1-l.Y2) < 0.01 && math.Abs(math.Abs(l.X2-l.X1)-long) < 0.05
		})
	}
	for _, inches := range []float64{4, 1.0 / 16, 3.0 / 16, 1.0 / 2, 1} {
		require.True(t, across(25.4*inches), "%g in", inches)
	}
	reporttest.Inside(t, pdf.Bytes(), 8)
}

// TestBase: codes lead to an address that a browser opens, without a double slash.
func TestBase(t *testing.T) {
	t.Parallel()
	for text, want := range map[string]string{
		"https://book.example": "https://book.example", " http://10.0.0.7:8080/ ": "http://10.0.0.7:8080",
		"https://book.example/woods//": "https://book.example/woods",
	} {
		base, err := report.Base(text)
		require.NoError(t, err)
		require.Equal(t, want, base)
	}
	for _, text := range []string{"", "book.example", "ftp://book.example", "javascript:alert(1)", "https://", "https://book.example?x=1"} {
		_, err := report.Base(text)
		require.ErrorIs(t, err, report.ErrBase, text)
	}
}

// cardTop is the edge that most upright marks hang from: the rule of millimetres.
func cardTop(lines []reporttest.Line) float64 {
	count := map[string]int{}
	best, most := 0.0, 0
	for _, l := range lines {
		if l.X1 != l.X2 {
			continue
		}
		y := math.Max(l.Y1, l.Y2)
		k := fmt.Sprintf("%.2f", y)
		if count[k]++; count[k] > most {
			best, most = y, count[k]
		}
	}
	return best
}

// TestLabelsAreRead has an independent decoder read every code back: of a page and of five hundred.
func TestLabelsAreRead(t *testing.T) {
	t.Parallel()
	var tags []report.Tag
	var want []string
	for i := range 48 {
		link := fmt.Sprintf("https://book.example/t/01JD%022d", i)
		tags = append(
			tags,
			report.Tag{Tag: fmt.Sprintf("LC-%03d", i), Tract: "Lantern Creek watershed forest", Stand: "North cove", Link: link},
		)
		want = append(want, link)
	}
	tags[5].Tag = "Lantern-005"
	for _, o := range []report.TagSheet{{Paper: "A4", Rows: 8, Columns: 3}, {Paper: "Letter", Rows: 12, Columns: 5}} {
		var pdf bytes.Buffer
		require.NoError(t, report.TagsPDF(&pdf, tags, o))
		require.ElementsMatch(t, want, reporttest.Codes(t, pdf.Bytes(), o.Columns, o.Rows, 10))
		reporttest.Inside(t, pdf.Bytes(), 8)
		text := reporttest.Text(t, pdf.Bytes())
		require.Contains(t, text, "LC-047")
	}
	var twice, many bytes.Buffer
	require.NoError(t, report.TagsPDF(&twice, tags[:1], report.TagSheet{Paper: "A4", Rows: 4, Columns: 2, Twice: true}))
	require.Equal(t, []string{want[0], want[0]}, reporttest.Codes(t, twice.Bytes(), 2, 4, 10))
	tags = slices.Repeat(tags, 11)[:500]
	require.NoError(t, report.TagsPDF(&many, tags, report.TagSheet{Paper: "A4", Rows: 8, Columns: 3}))
	require.Equal(t, 21, reporttest.About(t, many.Bytes()).Pages)
	require.Less(t, many.Len(), 2<<20)

	err := report.TagsPDF(&bytes.Buffer{}, tags, report.TagSheet{Paper: "A4", Rows: 8, Columns: 12})
	var refusal report.Refusal
	require.ErrorAs(t, err, &refusal)
	require.Contains(t, err.Error(), "at most 5 across")
	long := []report.Tag{{Tag: strings.Repeat("Wide-", 8), Link: want[0]}}
	err = report.TagsPDF(&bytes.Buffer{}, long, report.TagSheet{Paper: "A4", Rows: 12, Columns: 5})
	require.ErrorAs(t, err, &refusal)
	require.Contains(t, err.Error(), "does not fit on one line")
	require.NoError(t, report.TagsPDF(&bytes.Buffer{}, long, report.TagSheet{Paper: "A4", Rows: 8, Columns: 1}))
	require.ErrorIs(t, report.TagsPDF(&bytes.Buffer{}, nil, report.TagSheet{Paper: "A4", Rows: 1, Columns: 1}), report.ErrNoTags)
	require.ErrorIs(t, report.TagsPDF(&bytes.Buffer{}, make([]report.Tag, 2001), report.TagSheet{Paper: "A4", Rows: 1, Columns: 1}),
		report.ErrManyTags)
}

// TestTallySheets prints those of each size: every letter and word stands on the page, within its edges.
func TestTallySheets(t *testing.T) {
	t.Parallel()
	f, among := loaded(t)
	for trees := range tallysheet.Rooms {
		if testing.Short() && trees != 4 {
			continue // make nightly prints the other sizes
		}
		s, err := tallysheet.New(f, among, "bark-first", trees)
		require.NoError(t, err)
		var pdf bytes.Buffer
		require.NoError(t, report.TallySheetPDF(&pdf, s, "Letter", drawn))
		about := reporttest.About(t, pdf.Bytes())
		require.InDelta(t, 612, about.Wide, 1)
		require.LessOrEqual(t, about.Pages, 6)
		require.Less(t, pdf.Len(), 2<<20)
		reporttest.Inside(t, pdf.Bytes(), 8)
		text := strings.Join(strings.Fields(reporttest.Text(t, pdf.Bytes())), " ")
		require.Contains(t, text, "sheet "+s.Code)
		for _, word := range []string{"Bark", "Notes", "Tract"} {
			require.Contains(t, text, word)
		}
		letters := 0
		for _, r := range s.Rows {
			if len(r.Boxes) <= 26 {
				letters += len(r.Boxes) // the others have two
			}
		}
		single := 0
		for _, w := range reporttest.Words(t, pdf.Bytes()) {
			if len(w.Text) == 1 && w.Text >= "a" && w.Text <= "z" {
				single++
			}
		}
		require.GreaterOrEqual(t, single, letters)
	}
}

// TestAlikeCards prints a deck: every pair that the flora has a line on stands on some card, four cards a page.
func TestAlikeCards(t *testing.T) {
	if testing.Short() {
		t.Skip("make nightly runs it")
	}
	t.Parallel()
	f, among := loaded(t)
	cards, err := handbook.New(f).Cards(t.Context(), among, nil)
	require.NoError(t, err)
	on := map[[2]string]bool{}
	for _, c := range cards {
		require.GreaterOrEqual(t, len(c.Trees), 2)
		require.LessOrEqual(t, len(c.Trees), 4)
		for _, a := range c.Trees {
			for _, b := range c.Trees {
				on[[2]string{a.Name, b.Name}] = true
			}
		}
	}
	p, err := f.Pool(flora.PoolKey{Among: among, Age: flora.At(flora.Mature)})
	require.NoError(t, err)
	for _, a := range f.Alike {
		_, one := p.Find(a.Pair[0])
		_, two := p.Find(a.Pair[1])
		require.Equal(t, one && two, on[a.Pair], a.Pair)
	}
	var pdf bytes.Buffer
	require.NoError(t, report.CardsPDF(&pdf, "Look-alikes", cards[:9], "A4"))
	require.Equal(t, 3, reporttest.About(t, pdf.Bytes()).Pages)
	reporttest.Inside(t, pdf.Bytes(), 5)
	text := reporttest.Text(t, pdf.Bytes())
	for _, c := range cards[:9] {
		for _, tree := range c.Trees {
			require.Contains(t, text, strings.Fields(tree.Name)[0])
		}
	}
	require.ErrorIs(t, report.CardsPDF(&bytes.Buffer{}, "", nil, "A4"), report.ErrNoCards)
	_, err = handbook.New(f).Cards(t.Context(), among, []string{"Acer rubrum", "Acer nothing"})
	require.ErrorContains(t, err, "Acer nothing")
}

// TestAllOnBothPapers prints what the book prints on A4 and on Letter: as wide as the paper, with a title, nothing cut.
func TestAllOnBothPapers(t *testing.T) {
	t.Parallel()
	r := demoReport(t, "North cove")
	start := time.Date(2026, 11, 29, 8, 30, 0, 0, time.UTC)
	day := &book.DayPlan{Date: "2026-11-29", Start: start, Crews: []book.CrewDay{{Back: start.Add(5 * time.Hour)}}}
	quiz := &book.Quiz{Title: "Whose is it?", Made: start}
	for i := range 7 {
		_, body := drawn("bud.shape", "egg")
		quiz.Items = append(quiz.Items, book.QuizItem{N: i + 1, Asks: "Whose?", Kind: "image/svg+xml", Body: body, Answer: "a tree"})
	}
	for paper, wide := range map[string]float64{"A4": 595.28, "Letter": 612} {
		for name, print := range map[string]func(out *bytes.Buffer) error{
			"report": func(out *bytes.Buffer) error { return report.PDF(out, r, paper) },
			"day":    func(out *bytes.Buffer) error { return report.DayPDF(out, day, paper) },
			"quiz":   func(out *bytes.Buffer) error { return report.QuizPDF(out, quiz, paper) },
		} {
			var pdf bytes.Buffer
			require.NoError(t, print(&pdf), name)
			about := reporttest.About(t, pdf.Bytes())
			require.InDelta(t, wide, about.Wide, 0.5, name)
			require.NotEmpty(t, about.Title, name)
			reporttest.Inside(t, pdf.Bytes(), 8)
		}
	}
}

// TestDaySheetSaysWhomToMeet: each crew's sheet says where and when the others are back, and leaves a line for whoever is told.
func TestDaySheetSaysWhomToMeet(t *testing.T) {
	t.Parallel()
	start := time.Date(2026, 11, 29, 8, 30, 0, 0, time.UTC)
	gate := [2]float64{-90.6412, 43.5605}
	day := &book.DayPlan{Date: "2026-11-29", Start: start, To: gate, Gates: []book.DayGate{{Name: "Pump house gate", At: gate}},
		Crews: []book.CrewDay{{Back: start.Add(5 * time.Hour)}, {Back: start.Add(6 * time.Hour)}}}
	var pdf bytes.Buffer
	require.NoError(t, report.DayPDF(&pdf, day, "A4"))
	text := strings.Join(strings.Fields(reporttest.Text(t, pdf.Bytes())), " ")
	for _, says := range []string{
		"Crew 2 at Pump house gate (43.56050, -90.64120), back at 14:30.",
		"Crew 1 at Pump house gate (43.56050, -90.64120), back at 13:30.",
		"by 13:30, and to look for us after that: ____",
		"by 14:30, and to look for us after that: ____",
	} {
		require.Contains(t, text, says)
	}
}

// TestAnyLetterIsPrinted: Greek and Cyrillic stand on paper as they were written; what no font has is replaced, with a word at
// the foot of its page, and never stops one.
func TestAnyLetterIsPrinted(t *testing.T) {
	t.Parallel()
	for written, want := range map[string]string{
		"Δρυς του λόφου": "Δρυς του λόφου", "Дуб у колодца": "Дуб у колодца", "Łąka Dvořák": "Łąka Dvořák",
		"北坡 oak": "¤¤ oak", "بلوط": "¤¤¤¤", "tree 🌲": "tree ¤", "Δρυς 北": "Δρυς ¤",
	} {
		day := &book.DayPlan{Date: "2026-11-29", Crews: []book.CrewDay{{}}, Says: []string{written}, Gates: []book.DayGate{{Name: written}}}
		var pdf bytes.Buffer
		require.NoError(t, report.DayPDF(&pdf, day, "A4"))
		text := reporttest.Text(t, pdf.Bytes())
		require.Contains(t, text, want)
		if strings.Contains(want, "¤") {
			require.Contains(t, text, "¤ stands for a letter that cannot be printed")
		} else {
			require.NotContains(t, text, "¤")
		}
		labels := []report.Tag{{Tag: "LC-1", Tract: written, Link: "https://book.example/t/1"}}
		require.NoError(t, report.TagsPDF(&bytes.Buffer{}, labels, report.TagSheet{Paper: "A4", Rows: 8, Columns: 3}))
	}
}

// TestWordsStayWhole: a word of a tally sheet's answers is never broken over two lines.
func TestWordsStayWhole(t *testing.T) {
	t.Parallel()
	f, among := loaded(t)
	s, err := tallysheet.New(f, among, "twig-in-hand", 4)
	require.NoError(t, err)
	var pdf bytes.Buffer
	require.NoError(t, report.TallySheetPDF(&pdf, s, "A4", drawn))
	printed := map[string]bool{}
	for _, w := range reporttest.Words(t, pdf.Bytes()) {
		printed[strings.Trim(w.Text, ",")] = true
	}
	for _, r := range s.Rows {
		for _, b := range r.Boxes {
			for _, word := range strings.Fields(b.Words) {
				require.True(t, printed[strings.Trim(word, ",")], "%s: %s", r.Name, word)
			}
		}
	}
}
