package demo

import (
	"context"
	"math"
	"math/rand/v2"
	"time"

	"github.com/oklog/ulid/v2"

	"palethicket/book"
	"palethicket/core/flora/handbook"
	"palethicket/core/practice"
	"palethicket/core/practice/fsrs"
)

// learners are the four who practise: how often they know what they were never asked, how much surer they
// are than right, and whether the leads see it.
var learners = []struct {
	name         string
	knows, proud float64
	shared       bool
}{
	{"Wren Halloran", 0.75, 0, true},
	{"Tobias Okafor", 0.55, 0.25, true},
	{"Marit Sandoval", 0.65, -0.1, true},
	{"Ilse Brandvold", 0.3, 0.1, false},
}

// practised has the crew practise on the evenings of November: cards as the program would ask them, and
// answers drawn by how well each is known.
func (p *proof) practised(ctx context.Context, b *book.Book) error {
	f := b.Flora()
	teacher := practice.NewTeacher(f, p.engine, handbook.New(f))
	deck, err := teacher.Deck(p.among, []string{"twig", "bark", practice.Word, practice.Pair}, nil)
	if err != nil {
		return err
	}
	s, err := fsrs.New(0.9)
	if err != nil {
		return err
	}
	for i, l := range learners {
		r := rand.New(rand.NewPCG(uint64(i), 11))
		var reviews []practice.Review
		var told []book.PracticeAnswer
		var asked []string
		for evening := range 14 {
			now := time.Date(2026, 11, 2+2*evening, 18, 10*i, 0, 0, time.Local)
			for range 8 + r.IntN(8) {
				standing, err := practice.Progress(s, reviews)
				if err != nil {
					return err
				}
				card, ok := practice.Next(s, deck, standing, asked, now, practice.Session{By: l.name, New: 6})
				if !ok {
					break
				}
				now = now.Add(time.Duration(8+r.IntN(30)) * time.Second)
				known := l.knows
				if st, ok := standing[card.ID()]; ok {
					known = math.Max(known, s.Recall(st.Memory, now.Sub(st.Last).Hours()/24)*0.95)
				}
				review := p.answered(r, card, known, l.proud)
				review.At = now
				reviews, asked = append(reviews, review), append(asked, review.Card)
				told = append(
					told,
					book.PracticeAnswer{ID: ulid.MustNew(ulid.Timestamp(now), p.ids).String(), Card: review.Card, Seed: r.Int64(), At: now,
						Sure: review.Sure, Seconds: review.Seconds, Verdict: review.Verdict, TakenFor: review.TakenFor, True: review.True},
				)
			}
		}
		if _, err := b.TakeAnswers(ctx, l.name, told); err != nil {
			return err
		}
		if l.shared {
			if err := b.SharePractice(ctx, l.name, true); err != nil {
				return err
			}
		}
	}
	return nil
}

// answered draws an answer to a card that is known with some chance.
func (p *proof) answered(r *rand.Rand, c practice.Card, known, proud float64) practice.Review {
	right := r.Float64() < known
	out := practice.Review{Card: c.ID(), Verdict: practice.Right, True: right, Seconds: math.Round(30*(4+20*r.Float64())) / 30}
	feels := known + proud + 0.3*(r.Float64()-0.5)
	switch {
	case feels > 0.8:
		out.Sure = "sure"
	case feels > 0.5:
		out.Sure = "fair"
	default:
		out.Sure = "guess"
	}
	if right {
		return out
	}
	if out.Verdict = practice.Wrong; r.Float64() < 0.2 {
		out.Verdict, out.Sure = practice.NoIdea, ""
		return out
	}
	if at, ok := p.pool.Find(c.Taxon); ok && c.Kind != practice.Word {
		nearest := p.alike.Nearest(at)
		out.TakenFor = p.pool.Model.Taxa()[other(nearest[r.IntN(min(2, len(nearest)))], at)].Name
	}
	return out
}
