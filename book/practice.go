package book

import (
	"cmp"
	"context"
	"math/rand/v2"
	"time"

	"palethicket/core/flora"
	"palethicket/core/flora/names"
	"palethicket/core/practice"
	"palethicket/core/practice/fsrs"
	"palethicket/store"
)

// ErrNotAsked is given for a card that is not being asked.
var ErrNotAsked = store.ErrNotAsked

// Deck is what somebody practises.
type Deck struct {
	Among
	Kinds    []string // twig, bark, outline, ground, word, pair
	Tract    string
	Stand    string   // only what grows in it
	Taxa     []string // only these; empty: all
	Kept     string   // id of a deck that was kept, in place of the four above
	Until    string   // of such a deck: by when it is to be known
	New      int      // how many new cards a day
	TillSure bool     // until each was right twice running
	Wanted   float64  // recall at which a card is due again; 0: 0.9
}

// Card is a card as it is asked. Whose it is stays hidden until it was answered.
type Card struct {
	ID   string `json:"id" doc:"Empty: nothing is due"`
	Kind string `json:"kind"`
	Part string `json:"part" doc:"What is drawn: twig, bark, outline or ground"`
	Asks string `json:"asks" doc:"What is asked, in words"`
	Age  string `json:"age" doc:"Of the tree, where it can be seen"`
	Dim  bool   `json:"dim" doc:"It is to be shown in poor light"`
	// Options are what a word or pair card is answered with.
	Options []CardOption `json:"options" doc:"Of a word: the states; of a pair: the characters that one may tell by"`
	Pair    []Called     `json:"pair" doc:"Of a pair: the two, in no order of what is shown"`
	Due     int          `json:"due" doc:"Cards that are due now"`
	Fresh   int          `json:"fresh" doc:"Cards that were never asked"`
	Next    string       `json:"next" doc:"When the next is due, where none is now"`
	Until   string       `json:"until,omitempty" doc:"Of a deck with a date: by when its trees are to be known"`
	Daily   int          `json:"daily,omitempty" doc:"How many new cards a day begin all of them by then"`
}

// CardOption is one of what a card may be answered with.
type CardOption struct {
	ID    string `json:"id"`
	Words string `json:"words"`
	Means string `json:"means"`
}

// CardAnswer is what somebody says to a card.
type CardAnswer struct {
	Rank    string  `json:"rank,omitempty" enum:"species,group,genus,family" doc:"Of the name; absent: it is not known"`
	Name    string  `json:"name,omitempty" maxLength:"120"`
	State   string  `json:"state,omitempty" maxLength:"80" doc:"Of a word: the state; absent: not known"`
	First   string  `json:"first,omitempty" maxLength:"120" doc:"Of a pair: which is shown first, by scientific name; absent: not known"`
	Tells   string  `json:"by,omitempty" maxLength:"80" doc:"Of a pair: the character that one tells by"`
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
	Part    string   `json:"part" doc:"What was drawn: twig, bark, outline or ground"`
	Age     string   `json:"age"`
	Word    string   `json:"word" doc:"Of a word: the character"`
	State   string   `json:"state" doc:"Of a word: the state that was shown"`
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
	if err := b.openDeck(ctx, by, &d); err != nil {
		return nil, err
	}
	among, deck, err := b.cards(ctx, &d)
	if err != nil {
		return nil, err
	}
	scheduler, standing, reviews, err := b.practised(ctx, by, d.Wanted)
	if err != nil {
		return nil, err
	}
	deck = withConfusions(deck, reviews, b.Flora())
	now := b.now()
	out := &Card{Options: []CardOption{}, Pair: []Called{}}
	next := time.Time{}
	for _, c := range deck {
		st, ok := standing[c.ID()]
		switch {
		case !ok:
			out.Fresh++
		case !st.Due.After(now):
			out.Due++
		case next.IsZero() || st.Due.Before(next):
			next = st.Due
		}
	}
	if d.Until != "" {
		out.Until, out.Daily = d.Until, perDay(out.Fresh, now, d.Until)
	}
	card, ok := practice.Next(scheduler, deck, standing, cardsOf(reviews), now, practice.Session{By: by, New: d.New, TillSure: d.TillSure})
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
	out.ID = a.ID
	b.shelf.Load().ask(out, ind)
	return out, b.store.Write(ctx, func(tx *store.Tx) error { return tx.PutAsked(ctx, a) })
}

// openDeck takes over what a deck that was kept says.
func (b *Book) openDeck(ctx context.Context, by string, d *Deck) error {
	if d.Kept == "" {
		return nil
	}
	kept, err := b.store.Deck(ctx, d.Kept)
	if err != nil {
		return err
	}
	k, err := deckOf(&kept)
	if err != nil {
		return err
	}
	if !k.Crew && k.By != by {
		return ErrNoDeck
	}
	d.Among, d.Tract, d.Stand, d.Taxa, d.Until = k.Among, k.Tract, k.Stand, k.Taxa, k.Until
	return nil
}

// perDay is how many a day are to be begun for none to be left on a day; all of them once it is past.
func perDay(left int, now time.Time, until string) int {
	day, err := time.ParseInLocation(time.DateOnly, until, now.Location())
	if err != nil {
		return left
	}
	over := max(1, 1+int(day.Sub(now).Hours()/24))
	return (left + over - 1) / over
}

// withConfusions puts before a deck the pairs that somebody mistook one for the other of, where
// one of the two is in it: a confusion makes a card of its own. Answers from elsewhere may name
// trees that the flora does not have.
func withConfusions(deck []practice.Card, reviews []practice.Review, f *flora.Flora) []practice.Card {
	has, there := map[string]bool{}, map[practice.Card]bool{}
	for _, c := range deck {
		has[c.Taxon], there[c] = true, true
	}
	var pairs []practice.Card
	for i := range reviews {
		c, err := practice.ParseCard(reviews[i].Card)
		if err != nil || f.Taxon(reviews[i].TakenFor) == nil || c.Kind == practice.Word || !has[c.Taxon] {
			continue
		}
		if pair, ok := practice.PairOf(c.Taxon, reviews[i].TakenFor); ok && !there[pair] {
			there[pair] = true
			pairs = append(pairs, pair)
		}
	}
	return append(pairs, deck...)
}

// cardsOf are the cards that were answered, in their order.
func cardsOf(reviews []practice.Review) []string {
	return each(reviews, func(r practice.Review) string { return r.Card })
}

// practised gives how somebody's cards stand, and their answers, the earliest first.
func (b *Book) practised(
	ctx context.Context,
	by string,
	wanted float64,
) (*fsrs.Scheduler, map[string]practice.Standing, []practice.Review, error) {
	kept, err := b.store.Reviews(ctx, by)
	if err != nil {
		return nil, nil, nil, err
	}
	reviews := each(kept, b.reviewOf)
	scheduler, err := fsrs.New(cmp.Or(wanted, wantedRecall))
	if err != nil {
		return nil, nil, nil, &FieldError{"wanted", err.Error()}
	}
	standing, err := practice.Progress(scheduler, reviews)
	return scheduler, standing, reviews, err
}

func (b *Book) reviewOf(v store.Review) practice.Review {
	at, _ := time.Parse(time.RFC3339, v.At) // as it was written by AnswerCard
	return practice.Review{
		Card:     v.Card,
		At:       at.In(b.now().Location()),
		Verdict:  v.Verdict,
		Sure:     v.Sure,
		Seconds:  v.Seconds,
		TakenFor: v.TakenFor,
		True:     v.IsTrue,
	}
}

func (b *Book) individual(a *store.Asked) (*practice.Individual, error) {
	card, err := practice.ParseCard(a.Card)
	if err != nil {
		return nil, err
	}
	_, teacher := b.teacher()
	return teacher.Individual(card, flora.Among{Region: a.Region, List: a.List}, uint64(a.Seed), a.Odd)
}

// DrawCard draws what a card shows; of a pair the first, or the second.
func (b *Book) DrawCard(ctx context.Context, by, id, theme string, second bool) (*Picture, error) {
	a, err := b.store.Asked(ctx, by, id)
	if err != nil {
		return nil, err
	}
	ind, err := b.individual(&a)
	if err != nil {
		return nil, err
	}
	if second && ind.Second == nil {
		return nil, ErrNotAsked
	}
	if second {
		ind = ind.Second
	}
	image, kind, err := ind.Draw(theme)
	return &Picture{kind, image}, err
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
	v, err := sh.judge(teacher, ind, said)
	if err != nil {
		return nil, err
	}
	kept := &store.Review{ID: a.ID, By: by, Card: a.Card, Seed: a.Seed, Rank: said.Rank, Said: cmp.Or(said.Name, said.State, said.First),
		Sure: said.Sure, Seconds: said.Seconds, Verdict: v.Verdict, IsTrue: v.True}
	switch {
	case v.Verdict != practice.Wrong && v.Verdict != practice.TooFar:
	case ind.Kind == practice.Pair:
		kept.TakenFor = other(ind.Card, v.Taxon)
	case ind.Kind == practice.Word:
		kept.TakenFor = said.State
	default:
		kept.TakenFor = teacher.TakenFor(v, said.Name)
	}
	_, _, reviews, err := b.practised(ctx, by, 0)
	if err != nil {
		return nil, err
	}
	at := b.now()
	if len(reviews) > 0 {
		at = practice.NotBefore(at, reviews[len(reviews)-1].At)
	}
	kept.At = at.UTC().Format(time.RFC3339)
	if err := b.store.Write(ctx, func(tx *store.Tx) error { return tx.PutReview(ctx, kept) }); err != nil {
		return nil, err
	}
	return b.verdict(ctx, ind, v, kept, a.Region, wanted)
}

// CardNames are the trees that a name may mean of those that a card is about.
type CardNames struct {
	Names []NameTerm `json:"names" doc:"The likeliest first"`
	Clear bool       `json:"clear" doc:"It can only be the first"`
}

// mostNames is how many names are offered for one that is typed.
const mostNames = 30

// NamesForCard says what somebody may mean who types a name for a card.
func (b *Book) NamesForCard(ctx context.Context, by, id, typed string) (*CardNames, error) {
	a, err := b.store.Asked(ctx, by, id)
	if err != nil {
		return nil, err
	}
	terms, clear, err := names.Meant(b.Flora(), flora.Among{Region: a.Region, List: a.List}, typed)
	if err != nil {
		return nil, amongError(err)
	}
	shown := each(terms[:min(mostNames, len(terms))], func(t names.Term) NameTerm { return NameTerm{t.Rank, t.Name, t.Words} })
	return &CardNames{shown, clear}, nil
}

// other is the taxon of a pair that is not this one.
func other(c practice.Card, this string) string {
	if c.Taxon == this {
		return c.Other
	}
	return c.Taxon
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
