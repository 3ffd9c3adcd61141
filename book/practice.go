package book

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"time"

	"palethicket/core/flora"
	"palethicket/core/practice"
	"palethicket/core/practice/fsrs"
	"palethicket/core/tree/answer"
	"palethicket/core/weigh/ranking"
	"palethicket/store"
)

// ErrNotAsked is given for a card that is not being asked.
var ErrNotAsked = store.ErrNotAsked

// Deck is what somebody practises.
type Deck struct {
	Among
	Kinds    []string // twig, bark, outline, ground
	New      int      // how many new cards a day
	TillSure bool     // until each was right twice running
	Wanted   float64  // recall at which a card is due again; 0: 0.9
}

// Card is a card as it is asked. Whose it is stays hidden until it was answered.
type Card struct {
	ID    string `json:"id" doc:"Empty: nothing is due"`
	Kind  string `json:"kind"`
	Age   string `json:"age" doc:"Of the tree, where it can be seen"`
	Due   int    `json:"due" doc:"Cards that are due now"`
	Fresh int    `json:"fresh" doc:"Cards that were never asked"`
	Next  string `json:"next" doc:"When the next is due, where none is now"`
}

// CardAnswer is what somebody says to a card.
type CardAnswer struct {
	Rank    string  `json:"rank,omitempty" enum:"species,group,genus,family" doc:"Of the name; absent: it is not known"`
	Name    string  `json:"name,omitempty" maxLength:"120"`
	Sure    string  `json:"sure,omitempty" enum:"sure,fair,guess"`
	Seconds float64 `json:"seconds" minimum:"0" maximum:"86400"`
}

// CardVerdict is what came of an answer.
type CardVerdict struct {
	Verdict string   `json:"verdict" enum:"right,too far,not far enough,wrong,not known"`
	Words   string   `json:"words"`
	Taxon   string   `json:"taxon" doc:"Whose the individual was"`
	English string   `json:"english"`
	Carries string   `json:"carries" doc:"How far what was shown carries a name, in words"`
	Kind    string   `json:"kind"`
	Age     string   `json:"age"`
	Other   string   `json:"other" doc:"The tree that it was taken for"`
	OtherIs string   `json:"other_is" doc:"What that is called"`
	Marked  []string `json:"marked" doc:"In what the two differ, of what such a card shows"`
	Tells   []string `json:"tells" doc:"What would have told, most first, in words"`
	Again   string   `json:"again" doc:"When the card is due again"`
}

// wantedRecall is how likely a card is to be known when it is asked again, unless somebody
// wants otherwise.
const wantedRecall = 0.9

func (b *Book) teacher() (*shelf, *practice.Teacher) {
	sh := b.shelf.Load()
	return sh, practice.NewTeacher(sh.flora, sh.engine, sh.handbook)
}

// AskCard gives the card that somebody is asked now.
func (b *Book) AskCard(ctx context.Context, by string, d Deck) (*Card, error) {
	sh, teacher := b.teacher()
	among, err := sh.flora.Among(d.Region, d.List)
	if err != nil {
		return nil, amongError(err)
	}
	deck, err := teacher.Deck(among, d.Kinds)
	if err != nil {
		return nil, err
	}
	scheduler, standing, last, err := b.practised(ctx, by, d.Wanted)
	if err != nil {
		return nil, err
	}
	now := b.now()
	out := &Card{}
	next := time.Time{}
	for _, c := range deck {
		st, asked := standing[c.ID()]
		switch {
		case !asked:
			out.Fresh++
		case !st.Due.After(now):
			out.Due++
		case next.IsZero() || st.Due.Before(next):
			next = st.Due
		}
	}
	card, ok := practice.Next(scheduler, deck, standing, last, now, practice.Session{New: d.New, TillSure: d.TillSure})
	if !ok {
		if !next.IsZero() {
			out.Next = next.UTC().Format(time.RFC3339)
		}
		return out, nil
	}
	a := &store.Asked{ID: newID(), By: by, Card: card.ID(), Seed: rand.Int64() | 1, Odd: standing[card.ID()].Oddness(), Region: among.Region,
		List: among.List, At: now.UTC().Format(time.RFC3339)}
	ind, err := b.individual(a)
	if err != nil {
		return nil, err
	}
	out.ID, out.Kind = a.ID, card.Kind
	if card.Kind == "bark" || card.Kind == "outline" {
		out.Age = flora.AgeWords[ind.Age]
	}
	return out, b.store.Write(ctx, func(tx *store.Tx) error { return tx.PutAsked(ctx, a) })
}

// practised gives how somebody's cards stand, and the last that was asked.
func (b *Book) practised(ctx context.Context, by string, wanted float64) (*fsrs.Scheduler, map[string]practice.Standing, string, error) {
	kept, err := b.store.Reviews(ctx, by)
	if err != nil {
		return nil, nil, "", err
	}
	reviews := each(kept, b.reviewOf)
	last := ""
	if len(reviews) > 0 {
		last = reviews[len(reviews)-1].Card
	}
	scheduler, err := fsrs.New(cmp.Or(wanted, wantedRecall))
	if err != nil {
		return nil, nil, "", &FieldError{"wanted", err.Error()}
	}
	standing, err := practice.Progress(scheduler, reviews)
	return scheduler, standing, last, err
}

func (b *Book) reviewOf(v store.Review) practice.Review {
	at, _ := time.Parse(time.RFC3339, v.At) // as it was written by AnswerCard
	return practice.Review{Card: v.Card, At: at.In(b.now().Location()), Verdict: v.Verdict, Sure: v.Sure, Seconds: v.Seconds, TakenFor: v.TakenFor, True: v.IsTrue}
}

func (b *Book) individual(a *store.Asked) (*practice.Individual, error) {
	card, err := practice.ParseCard(a.Card)
	if err != nil {
		return nil, err
	}
	_, teacher := b.teacher()
	return teacher.Individual(card, flora.Among{Region: a.Region, List: a.List}, uint64(a.Seed), a.Odd)
}

// DrawCard draws what a card shows.
func (b *Book) DrawCard(ctx context.Context, by, id, theme string) (*Picture, error) {
	a, err := b.store.Asked(ctx, by, id)
	if err != nil {
		return nil, err
	}
	ind, err := b.individual(&a)
	if err != nil {
		return nil, err
	}
	what := ind.Kind
	if what == "ground" {
		what = "leaf"
	}
	return drawPlate(ind.Tree, what, flora.ZoneWords[flora.Breast], theme)
}

// AnswerCard judges what somebody says to the card they are asked, and keeps it.
func (b *Book) AnswerCard(ctx context.Context, by, id string, said *CardAnswer, wanted float64) (*CardVerdict, error) {
	a, err := b.store.Asked(ctx, by, id)
	if err != nil {
		return nil, err
	}
	ind, err := b.individual(&a)
	if err != nil {
		return nil, err
	}
	sh, teacher := b.teacher()
	if said.Name != "" &&
		!slices.ContainsFunc(nameTerms(sh.flora), func(n NameTerm) bool { return n.Rank == said.Rank && n.Name == said.Name }) {
		return nil, &FieldError{"name", fmt.Sprintf("the flora has no %s called %q: choose a name from the list", said.Rank, said.Name)}
	}
	v, err := teacher.Judge(ind, practice.Said{Rank: ranking.Rank(said.Rank), Name: said.Name, Sure: said.Sure})
	if err != nil {
		return nil, &FieldError{"sure", err.Error()}
	}
	kept := &store.Review{
		ID:       a.ID,
		By:       by,
		Card:     a.Card,
		Seed:     a.Seed,
		At:       b.now().UTC().Format(time.RFC3339),
		Rank:     said.Rank,
		Said:     said.Name,
		Sure:     said.Sure,
		Seconds:  said.Seconds,
		Verdict:  v.Verdict,
		TakenFor: teacher.TakenFor(v, said.Name),
		IsTrue:   v.True,
	}
	if err := b.store.Write(ctx, func(tx *store.Tx) error { return tx.PutReview(ctx, kept) }); err != nil {
		return nil, err
	}
	return b.verdict(ctx, sh, ind, v, kept, a.Region, wanted)
}

// verdictWords say what a verdict means.
var verdictWords = map[string]string{
	practice.Right:  "Right, as far as this shows.",
	practice.TooFar: "Too far: what is shown does not carry that name.",
	practice.NotFar: "True, but more could be seen.",
	practice.Wrong:  "Another tree.",
	practice.NoIdea: "Not known.",
}

func (b *Book) verdict(
	ctx context.Context,
	sh *shelf,
	ind *practice.Individual,
	v *practice.Verdict,
	kept *store.Review,
	region string,
	wanted float64,
) (*CardVerdict, error) {
	out := &CardVerdict{
		Verdict: v.Verdict,
		Words:   verdictWords[v.Verdict],
		Taxon:   v.Taxon,
		English: sh.english(v.Taxon, region),
		Kind:    ind.Kind,
		Age:     flora.AgeWords[ind.Age],
		Carries: answer.RankWords(v.Carries.Rank) + ": " + v.Carries.Name,
		Other:   kept.TakenFor,
		Marked:  []string{},
		Tells:   []string{},
	}
	_, standing, _, err := b.practised(ctx, kept.By, wanted)
	if err != nil {
		return nil, err
	}
	out.Again = standing[kept.Card].Due.UTC().Format(time.RFC3339)
	if out.Other == "" {
		return out, nil
	}
	out.OtherIs = sh.english(out.Other, region)
	beside, err := b.Beside(Among{Region: region}, []string{v.Taxon, out.Other})
	if err != nil {
		return out, nil // one of them is not of the region: there is nothing to hold side by side
	}
	out.Marked = slices.DeleteFunc(beside.Plates[0].Marked, func(id string) bool { return !practice.Shows(ind.Kind, id) })
	for _, r := range beside.Rows {
		if practice.Shows(ind.Kind, r.Character) && len(out.Tells) < 3 {
			out.Tells = append(out.Tells, fmt.Sprintf("%s: %s; there %s", flora.UpperFirst(r.Name), r.Words[0], r.Words[1]))
		}
	}
	return out, nil
}

// Practised is what somebody's answers say of them.
type Practised struct {
	Reviews int           `json:"reviews"`
	Brier   float64       `json:"brier" doc:"0 best; of what was said with a sureness"`
	Sure    []SureFigure  `json:"sure" doc:"Whether sure is sure"`
	Taxa    []TaxonFigure `json:"taxa" doc:"The worst first"`
	Taken   []TakenFigure `json:"taken" doc:"What is taken for what, the most often first"`
}

// SureFigure says how often answers of one sureness were right.
type SureFigure struct {
	Sure  string  `json:"sure"`
	Means float64 `json:"means" doc:"The chance of being right that the word stands for"`
	N     int     `json:"n"`
	Right int     `json:"right"`
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

// Practised adds up what somebody answered.
func (b *Book) Practised(ctx context.Context, by string) (*Practised, error) {
	kept, err := b.store.Reviews(ctx, by)
	if err != nil {
		return nil, err
	}
	sh := b.shelf.Load()
	f := practice.FiguresOf(each(kept, b.reviewOf))
	out := &Practised{Reviews: f.Reviews, Sure: []SureFigure{}, Taxa: []TaxonFigure{}, Taken: []TakenFigure{}}
	if !math.IsNaN(f.Brier) {
		out.Brier = f.Brier
	}
	for _, sure := range []string{"sure", "fair", "guess"} {
		out.Sure = append(out.Sure, SureFigure{sure, practice.Sureness[sure], f.BySure[sure].N, f.BySure[sure].Right})
	}
	for taxon, n := range f.ByTaxon {
		out.Taxa = append(out.Taxa, TaxonFigure{taxon, sh.english(taxon, ""), n.N, n.Right})
	}
	slices.SortFunc(out.Taxa, func(a, b TaxonFigure) int {
		return cmp.Or(
			cmp.Compare(float64(a.Right)/float64(a.N), float64(b.Right)/float64(b.N)),
			cmp.Compare(b.N, a.N),
			cmp.Compare(a.Taxon, b.Taxon),
		)
	})
	for pair, n := range f.TakenFor {
		out.Taken = append(out.Taken, TakenFigure{pair[0], sh.english(pair[0], ""), pair[1], sh.english(pair[1], ""), n})
	}
	slices.SortFunc(out.Taken, func(a, b TakenFigure) int {
		return cmp.Or(cmp.Compare(b.N, a.N), cmp.Compare(a.Taxon, b.Taxon), cmp.Compare(a.For, b.For))
	})
	return out, nil
}

// DueCards counts the cards that somebody is to be asked again by now.
func (b *Book) DueCards(ctx context.Context, by string, wanted float64) (n int, err error) {
	_, standing, _, err := b.practised(ctx, by, wanted)
	for _, st := range standing {
		if !st.Due.After(b.now()) {
			n++
		}
	}
	return n, err
}

// ForgetPractice erases what somebody practised.
func (b *Book) ForgetPractice(ctx context.Context, by string) error {
	return b.store.Write(ctx, func(tx *store.Tx) error { return tx.ForgetReviews(ctx, by) })
}
