package book

import (
	"context"
	"fmt"
	"math/rand/v2"
	"time"

	"palethicket/core/flora"
	"palethicket/core/plate"
	"palethicket/core/practice"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
)

// Quiz is a sheet of numbered drawings with their answers, for a class without screens.
type Quiz struct {
	Title string
	Made  time.Time
	Seed  uint64 // the same seed and deck give the same sheet
	Items []QuizItem
}

// QuizItem is one drawing.
type QuizItem struct {
	N      int
	Asks   string
	Age    string
	Kind   string // media type
	Body   []byte
	Answer string // how far it carries a name, and whose it is
}

// The bounds of a sheet.
const (
	quizLeast = 1
	quizMost  = 60
)

// Quiz draws a sheet of a deck's cards of single trees, in an order by chance.
func (b *Book) Quiz(ctx context.Context, by string, d Deck, n int, seed uint64) (*Quiz, error) {
	if n < quizLeast || n > quizMost {
		return nil, &FieldError{"n", fmt.Sprintf("a sheet has %d to %d drawings", quizLeast, quizMost)}
	}
	if err := b.openDeck(ctx, by, &d); err != nil {
		return nil, err
	}
	among, cards, err := b.cards(ctx, &d)
	if err != nil {
		return nil, err
	}
	if seed == 0 {
		seed = uint64(rand.Uint32())
	}
	r := rand.New(rand.NewPCG(seed, 42))
	r.Shuffle(len(cards), func(i, j int) { cards[i], cards[j] = cards[j], cards[i] })
	sh, teacher := b.teacher()
	out := &Quiz{Title: "Whose is it? " + logbook.Among(among).Words(sh.flora), Made: b.now(), Seed: seed}
	for i := 0; len(out.Items) < n && i < len(cards); i++ {
		if cards[i].Kind == practice.Word || cards[i].Kind == practice.Pair {
			continue
		}
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		item, err := sh.quizItem(teacher, cards[i], among, seed+uint64(2*i)|1)
		if err != nil {
			return nil, err
		}
		item.N = len(out.Items) + 1
		out.Items = append(out.Items, *item)
	}
	if len(out.Items) == 0 {
		return nil, ErrNothingDrawn
	}
	return out, nil
}

func (s *shelf) quizItem(teacher *practice.Teacher, c practice.Card, among flora.Among, seed uint64) (*QuizItem, error) {
	ind, err := teacher.Individual(c, among, seed, 0.2)
	if err != nil {
		return nil, err
	}
	v, err := teacher.Judge(ind, practice.Said{})
	if err != nil {
		return nil, err
	}
	image, kind, err := ind.Draw(plate.Themes[len(plate.Themes)-1])
	if err != nil {
		return nil, err
	}
	out := &QuizItem{Asks: asks[ind.Part], Kind: kind, Body: image,
		Answer: fmt.Sprintf("%s (%s); as far as it shows: %s %s", flora.UpperFirst(s.english(c.Taxon, among.Region)), c.Taxon,
			answer.RankWords(v.Carries.Rank), v.Carries.Name)}
	if ind.Part == "bark" || ind.Part == "outline" {
		out.Age = flora.AgeWords[ind.Age]
	}
	return out, nil
}
