package book

import (
	"cmp"
	"context"
	"fmt"
	"io"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"palethicket/core/exchange"
	"palethicket/core/flora"
	"palethicket/core/practice"
	"palethicket/core/stand/agreement"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/ranking"
	"palethicket/store"
)

// asks say what a card of one part asks.
var asks = map[string]string{
	"twig": "Whose twig is this?", "bark": "Whose bark is this?", "outline": "Which tree stands so?", "ground": "Whose leaf is this?",
}

// ask fills in what is asked of an individual.
func (s *shelf) ask(c *Card, ind *practice.Individual) {
	c.Kind, c.Part, c.Asks, c.Dim = ind.Kind, ind.Part, asks[ind.Part], ind.Dim
	if ind.Part == "bark" || ind.Part == "outline" {
		c.Age = flora.AgeWords[ind.Age]
	}
	switch ind.Kind {
	case practice.Word:
		ch := s.flora.Character(ind.Character)
		c.Asks = "Which is it? " + flora.UpperFirst(ch.Name) + "."
		for _, st := range ch.States {
			c.Options = append(c.Options, CardOption{st.ID, flora.UpperFirst(record.StateWords(st.ID)), st.Means})
		}
	case practice.Pair:
		c.Asks = "Which is which, and by what?"
		c.Pair = []Called{{ind.Taxon, s.english(ind.Taxon, "")}, {ind.Other, s.english(ind.Other, "")}}
		for i := range s.flora.Characters {
			ch := &s.flora.Characters[i]
			if _, one := ind.Tree.Shows[ch.ID]; one && practice.Shows(ind.Part, ch.ID) {
				c.Options = append(c.Options, CardOption{ID: ch.ID, Words: flora.UpperFirst(ch.Name)})
			}
		}
	}
}

// judge says what an answer is worth.
func (s *shelf) judge(teacher *practice.Teacher, ind *practice.Individual, said *CardAnswer) (*practice.Verdict, error) {
	if said.Name != "" && !s.called(said.Rank, said.Name) {
		return nil, &FieldError{"name", fmt.Sprintf("the flora has no %s called %q: choose a name from the list", said.Rank, said.Name)}
	}
	var v *practice.Verdict
	var err error
	switch ind.Kind {
	case practice.Word:
		v, err = teacher.JudgeWord(ind, said.State, said.Sure)
	case practice.Pair:
		v, err = teacher.JudgePair(ind, said.First, said.Tells, said.Sure)
	default:
		v, err = teacher.Judge(ind, practice.Said{Rank: ranking.Rank(said.Rank), Name: said.Name, Sure: said.Sure})
	}
	if err != nil {
		return nil, &FieldError{"sure", err.Error()}
	}
	return v, nil
}

// verdictWords say what a verdict means, of a tree and of a pair.
var verdictWords = map[string]string{
	practice.Right:  "Right, as far as this shows.",
	practice.TooFar: "Too far: what is shown does not carry that name.",
	practice.NotFar: "True, but more could be seen.",
	practice.Wrong:  "Another tree.",
	practice.NoIdea: "Not known.",
}

var pairWords = map[string]string{
	practice.Right:  "Right, and by what tells them.",
	practice.NotFar: "Right, but that is not what tells these two.",
	practice.Wrong:  "The other way round.",
	practice.NoIdea: "Not known.",
}

// verdict says what came of an answer that was kept.
func (b *Book) verdict(
	ctx context.Context,
	ind *practice.Individual,
	v *practice.Verdict,
	kept *store.Review,
	region string,
	wanted float64,
) (
	*CardVerdict, error,
) {
	sh, teacher := b.teacher()
	out := &CardVerdict{Verdict: v.Verdict, Words: verdictWords[v.Verdict], Taxon: v.Taxon, Kind: ind.Kind, Part: ind.Part,
		Age: flora.AgeWords[ind.Age], Other: kept.TakenFor, Marked: []string{}, Tells: []string{}}
	_, standing, _, err := b.practised(ctx, kept.By, wanted)
	if err != nil {
		return nil, err
	}
	out.Again = standing[kept.Card].Due.UTC().Format(time.RFC3339)
	switch ind.Kind {
	case practice.Word:
		sh.sayWord(out, ind, kept.Said)
		return out, nil
	case practice.Pair:
		out.Words, out.Other = pairWords[v.Verdict], other(ind.Card, v.Taxon)
		out.Marked = teacher.Differ(ind)
	default:
		out.Carries = answer.RankWords(v.Carries.Rank) + ": " + v.Carries.Name
	}
	out.English = sh.english(v.Taxon, region)
	if v.Verdict == practice.Wrong && out.Other == "" {
		out.Other = teacher.Usual(flora.Among{Region: region}, ranking.Rank(kept.Rank), kept.Said)
	}
	if out.Other != "" {
		b.holdBeside(out, ind.Part, region)
	}
	return out, nil
}

// sayWord says which state was shown, and what the one that was said means.
func (s *shelf) sayWord(out *CardVerdict, ind *practice.Individual, said string) {
	ch := s.flora.Character(ind.Character)
	is := ch.States[ch.State(ind.State)]
	out.Word, out.State, out.Other = ind.Character, ind.State, ""
	out.English, out.Carries = record.StateWords(is.ID), is.Means
	if out.Verdict == practice.Right {
		out.Words = "Right."
		return
	}
	if out.Verdict == practice.Wrong {
		out.Words = "Another word."
	}
	if i := ch.State(said); i >= 0 {
		out.Other, out.OtherIs = said, record.StateWords(said)
		out.Tells = append(out.Tells, flora.UpperFirst(record.StateWords(said))+": "+ch.States[i].Means)
	}
	if ch.Look != "" {
		out.Tells = append(out.Tells, ch.Look)
	}
}

// holdBeside says in what a part of two trees differs, the most telling first.
func (b *Book) holdBeside(out *CardVerdict, part, region string) {
	out.OtherIs = b.shelf.Load().english(out.Other, region)
	beside, err := b.Beside(Among{Region: region}, []string{out.Taxon, out.Other})
	if err != nil {
		return // one of them is not of the region: there is nothing to hold side by side
	}
	out.Marked = slices.DeleteFunc(beside.Plates[0].Marked, func(id string) bool { return !practice.Shows(part, id) })
	for _, r := range beside.Rows {
		if practice.Shows(part, r.Character) && len(out.Tells) < 3 {
			out.Tells = append(out.Tells, fmt.Sprintf("%s: %s; there %s", flora.UpperFirst(r.Name), r.Words[0], r.Words[1]))
		}
	}
}

// Practised is what somebody's answers say of them.
type Practised struct {
	Reviews int           `json:"reviews"`
	Brier   float64       `json:"brier" doc:"0 best; of what was said with a sureness"`
	Sure    []SureFigure  `json:"sure" doc:"Whether sure is sure"`
	Taxa    []TaxonFigure `json:"taxa" doc:"The worst first"`
	Taken   []TakenFigure `json:"taken" doc:"What is taken for what, the most often first"`
	Words   []WordFigure  `json:"words" doc:"Words for what is seen, the worst first"`
	Next    []NextFigure  `json:"next" doc:"What is forgotten next, the likeliest first"`
	Due     []int         `json:"due" doc:"Cards due on each of the next fourteen days, those overdue on the first"`
	Shared  bool          `json:"shared" doc:"The leads see these figures"`

	last time.Time
}

// WordFigure says how often the states of a character were told.
type WordFigure struct {
	Character string `json:"character"`
	Words     string `json:"words"`
	N         int    `json:"n"`
	Right     int    `json:"right"`
}

// NextFigure says how likely a card is still known.
type NextFigure struct {
	Card   string  `json:"card"`
	Words  string  `json:"words"`
	Recall float64 `json:"recall"`
	Due    string  `json:"due"`
}

// SureFigure says how often answers of one sureness were right.
type SureFigure struct {
	Sure  string  `json:"sure"`
	Means float64 `json:"means" doc:"The chance of being right that the word stands for"`
	N     int     `json:"n"`
	Right int     `json:"right"`
	Share ShareIn `json:"share"`
}

// TaxonFigure says how often a taxon was known.
type TaxonFigure struct {
	Taxon   string `json:"taxon"`
	English string `json:"english"`
	N       int    `json:"n"`
	Right   int    `json:"right"`
}

// TakenFigure says how often one taxon was taken for another.
type TakenFigure struct {
	Taxon   string `json:"taxon"`
	English string `json:"english"`
	For     string `json:"for"`
	ForIs   string `json:"for_is"`
	N       int    `json:"n"`
}

// Practised adds up what somebody answered; when cards are due follows from the recall that is wanted, 0 for the usual.
func (b *Book) Practised(ctx context.Context, by string, wanted float64) (*Practised, error) {
	scheduler, standing, reviews, err := b.practised(ctx, by, wanted)
	if err != nil {
		return nil, err
	}
	sharing, err := b.store.SharedPractice(ctx)
	if err != nil {
		return nil, err
	}
	sh := b.shelf.Load()
	f := practice.FiguresOf(reviews)
	out := &Practised{Reviews: f.Reviews, Sure: []SureFigure{}, Taxa: []TaxonFigure{}, Taken: []TakenFigure{}, Words: sh.wordFigures(f),
		Next: []NextFigure{}, Shared: slices.Contains(sharing, by)}
	if !math.IsNaN(f.Brier) {
		out.Brier = f.Brier
	}
	if len(reviews) > 0 {
		out.last = reviews[len(reviews)-1].At
	}
	for _, sure := range []string{"sure", "fair", "guess"} {
		right := agreement.ShareOf(f.BySure[sure].Right, f.BySure[sure].N)
		out.Sure = append(out.Sure, SureFigure{sure, practice.Sureness[sure], f.BySure[sure].N, f.BySure[sure].Right, shareIn(right)})
	}
	for taxon, n := range f.ByTaxon {
		out.Taxa = append(out.Taxa, TaxonFigure{taxon, sh.english(taxon, ""), n.N, n.Right})
	}
	slices.SortFunc(out.Taxa, func(a, b TaxonFigure) int {
		return cmp.Or(worse(a.Right, a.N, b.Right, b.N), cmp.Compare(a.Taxon, b.Taxon))
	})
	for pair, n := range f.TakenFor {
		of, is := sh.english(pair[0], ""), sh.english(pair[1], "")
		if of == is { // of other lands, and called alike
			of, is = of+" ("+pair[0]+")", is+" ("+pair[1]+")"
		}
		out.Taken = append(out.Taken, TakenFigure{pair[0], of, pair[1], is, n})
	}
	slices.SortFunc(out.Taken, func(a, b TakenFigure) int {
		return cmp.Or(cmp.Compare(b.N, a.N), cmp.Compare(a.Taxon, b.Taxon), cmp.Compare(a.For, b.For))
	})
	const ahead, most = 14, 12
	cards, due := practice.Forecast(scheduler, standing, b.now(), ahead)
	for _, c := range cards[:min(most, len(cards))] {
		out.Next = append(out.Next, NextFigure{c.Card, sh.cardWords(c.Card), c.Recall, c.Due.UTC().Format(time.RFC3339)})
	}
	out.Due = due
	return out, nil
}

// worse orders shares, the smaller first, and of the same the one of more.
func worse(aRight, aN, bRight, bN int) int {
	return cmp.Or(cmp.Compare(float64(aRight)/float64(aN), float64(bRight)/float64(bN)), cmp.Compare(bN, aN))
}

// wordFigures are how often the states of each character were told, the worst first.
func (s *shelf) wordFigures(f *practice.Figures) []WordFigure {
	by := map[string]*WordFigure{}
	for word, n := range f.ByWord {
		c := s.flora.Character(word[0])
		if c == nil {
			continue
		}
		if by[c.ID] == nil {
			by[c.ID] = &WordFigure{Character: c.ID, Words: flora.UpperFirst(c.Name)}
		}
		by[c.ID].N += n.N
		by[c.ID].Right += n.Right
	}
	out := []WordFigure{}
	for _, w := range by {
		out = append(out, *w)
	}
	slices.SortFunc(out, func(a, b WordFigure) int {
		return cmp.Or(worse(a.Right, a.N, b.Right, b.N), cmp.Compare(a.Character, b.Character))
	})
	return out
}

// cardWords says what a card is about.
func (s *shelf) cardWords(id string) string {
	c, err := practice.ParseCard(id)
	if err != nil {
		return id
	}
	switch c.Kind {
	case practice.Word:
		ch := s.flora.Character(c.Character)
		if ch == nil || ch.State(c.State) < 0 {
			return id
		}
		return flora.UpperFirst(ch.Name) + ": " + record.StateWords(c.State)
	case practice.Pair:
		return flora.UpperFirst(s.english(c.Taxon, "")) + " or " + s.english(c.Other, "")
	}
	return flora.UpperFirst(s.english(c.Taxon, "")) + ", " + map[string]string{"ground": "leaf"}[c.Kind] + strings.TrimPrefix(c.Kind, "ground")
}

// PracticeTable writes all that somebody answered as CSV.
func (b *Book) PracticeTable(ctx context.Context, by string, w io.Writer) error {
	kept, err := b.store.Reviews(ctx, by)
	if err != nil {
		return err
	}
	sh := b.shelf.Load()
	rows := [][]string{{"at", "card", "what", "rank", "said", "sure", "seconds", "verdict", "taken_for"}}
	for _, v := range kept {
		rows = append(
			rows,
			[]string{v.At, v.Card, sh.cardWords(v.Card), v.Rank, v.Said, v.Sure, strconv.FormatFloat(v.Seconds, 'f', -1, 64), v.Verdict,
				v.TakenFor},
		)
	}
	return exchange.WriteTable(w, rows)
}
