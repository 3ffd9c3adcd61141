package book

import (
	"context"
	"fmt"
	"slices"
	"time"

	"palethicket/core/practice"
	"palethicket/store"
)

// PracticeAnswer is an answer to a card as one book tells it to another.
type PracticeAnswer struct {
	ID       string    `json:"id" minLength:"26" maxLength:"26"`
	Card     string    `json:"card" maxLength:"300"`
	Seed     int64     `json:"seed"`
	At       time.Time `json:"at"`
	Rank     string    `json:"rank,omitempty" maxLength:"20"`
	Said     string    `json:"said,omitempty" maxLength:"120"`
	Sure     string    `json:"sure,omitempty" maxLength:"20"`
	Seconds  float64   `json:"seconds" minimum:"0" maximum:"86400"`
	Verdict  string    `json:"verdict" maxLength:"20"`
	TakenFor string    `json:"taken_for,omitempty" maxLength:"120"`
	True     bool      `json:"true"`
}

// PracticeMost is how many answers are told at once.
const PracticeMost = 1000

var verdicts = []string{practice.Right, practice.TooFar, practice.NotFar, practice.Wrong, practice.NoIdea}

// Answers lists what somebody answered, the earliest first.
func (b *Book) Answers(ctx context.Context, by string) ([]PracticeAnswer, error) {
	kept, err := b.store.Reviews(ctx, by)
	if err != nil {
		return nil, err
	}
	out := []PracticeAnswer{}
	for _, v := range kept {
		at, err := time.Parse(time.RFC3339, v.At)
		if err != nil {
			return nil, fmt.Errorf("reading when card %s was answered: %w", v.ID, err)
		}
		out = append(out, PracticeAnswer{v.ID, v.Card, v.Seed, at, v.Rank, v.Said, v.Sure, v.Seconds, v.Verdict, v.TakenFor, v.IsTrue})
	}
	return out, nil
}

// TakeAnswers takes in what somebody answered elsewhere; what is here already stays as it is. It says how
// many were new. One from a clock that is ahead counts as given now.
func (b *Book) TakeAnswers(ctx context.Context, by string, answers []PracticeAnswer) (taken int, err error) {
	rows := make([]store.Review, len(answers))
	for i, a := range answers {
		where := fmt.Sprintf("answers[%d].", i)
		if err := checkID(a.ID); err != nil {
			return 0, &FieldError{where + "id", "want a ULID of 26 characters"}
		}
		if _, err := practice.ParseCard(a.Card); err != nil {
			return 0, &FieldError{where + "card", err.Error()}
		}
		if !slices.Contains(verdicts, a.Verdict) {
			return 0, &FieldError{where + "verdict", fmt.Sprintf("%q is no verdict; use one of %v", a.Verdict, verdicts)}
		}
		if now := b.now(); a.At.After(now.Add(store.Ahead)) {
			a.At = now
		}
		rows[i] = store.Review{
			ID:       a.ID,
			Card:     a.Card,
			Seed:     a.Seed,
			At:       a.At.UTC().Format(time.RFC3339),
			Rank:     a.Rank,
			Said:     a.Said,
			Sure:     a.Sure,
			Seconds:  a.Seconds,
			Verdict:  a.Verdict,
			TakenFor: a.TakenFor,
			IsTrue:   a.True,
		}
	}
	err = b.store.Write(ctx, func(tx *store.Tx) error {
		taken, err = tx.TakeReviews(ctx, by, rows)
		return err
	})
	return taken, err
}

// Practisers lists who answered any card.
func (b *Book) Practisers(ctx context.Context) ([]string, error) { return b.store.Practisers(ctx) }
