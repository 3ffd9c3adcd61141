package book

import (
	"context"
	"fmt"
	"slices"

	"palethicket/core/practice"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/record"
)

// OwnErrors is a tree ranked with its observers' own chances of misreading.
type OwnErrors struct {
	Ranking   []Ranked         `json:"ranking"`
	Observers []ObserverErrors `json:"observers" doc:"Those whose own rates were taken; none: the ranking is the usual one"`
	Without   []string         `json:"without" doc:"Observers of whom the usual rates were taken: they practised no words, or do not share it"`
	Changes   []string         `json:"changes" doc:"What that changes, in words"`
	Note      string           `json:"note"`
}

// ObserverErrors are somebody's own chances of misreading.
type ObserverErrors struct {
	Name    string  `json:"name"`
	Answers int     `json:"answers" doc:"That they rest on"`
	Sure    float64 `json:"sure"`
	Fair    float64 `json:"fair"`
	Guess   float64 `json:"guess"`
}

// leastAnswers is on how many answers rates must rest to be taken.
const leastAnswers = 20

const ownErrorsNote = "This ranking takes how often each observer misread drawn parts in practice, in place of the usual rates. " +
	"Drawings are not trees: who reads them well may still read bark in the rain badly, and who practised little is taken as usual. " +
	"It can make a careless look count for less, and a careful one for too much. Names and lists never use it."

// OwnErrors ranks a tree with the chances of misreading of those who scored it, of those whose practice
// may be used: by's own, that of those who share it, and, where anybody says so, everybody's.
func (b *Book) OwnErrors(ctx context.Context, tree, by string, anybody bool) (*OwnErrors, error) {
	s, err := b.readable(ctx, b.store.Reader, tree)
	if err != nil {
		return nil, err
	}
	defer s.close()
	out := &OwnErrors{Observers: []ObserverErrors{}, Without: []string{}, Changes: []string{}, Note: ownErrorsNote}
	rates, whose, err := b.ratesAt(ctx, s, by, anybody, out)
	if err != nil {
		return nil, err
	}
	rec := s.log.Record(s.tree.Tag, s.tree.Started())
	weighed, err := s.engine.WeighErring(rec, func(look, score int) float64 {
		sure := rec.Looks[look].Scores[score].Certainty
		if sure == "" {
			sure = "fair"
		}
		return rates[whose[look][score]][sure]
	})
	if err != nil {
		return nil, fmt.Errorf("weighing with the observers' own rates: %w", err)
	}
	defer weighed.Close()
	usual, own := s.weighed.Result(answer.Options{}), weighed.Result(answer.Options{})
	out.Ranking = each(own.Ranking, ranked)
	if len(out.Observers) > 0 {
		out.Changes = s.changesOf(usual, own)
	}
	return out, nil
}

// ratesAt finds the rates of those who scored a tree, and who made each score.
func (b *Book) ratesAt(ctx context.Context, s *sheet, by string, anybody bool, out *OwnErrors) (
	rates map[string]practice.Rates, whose [][]string, err error,
) {
	shared, err := b.store.SharedPractice(ctx)
	if err != nil {
		return nil, nil, err
	}
	rates, whose = map[string]practice.Rates{}, make([][]string, len(s.log.Looks))
	for i, l := range s.log.Looks {
		for _, sc := range l.Scores {
			name := ""
			if e := s.log.Find(sc.Entry); e != nil {
				name = e.By
			}
			whose[i] = append(whose[i], name)
			if _, met := rates[name]; met || name == "" {
				continue
			}
			rates[name] = nil
			if anybody || name == by || slices.Contains(shared, name) {
				if err := b.ratesOf(ctx, name, rates, out); err != nil {
					return nil, nil, err
				}
			}
			if rates[name] == nil {
				out.Without = append(out.Without, name)
			}
		}
	}
	return rates, whose, nil
}

// ratesOf finds the rates of an observer, where they rest on enough answers.
func (b *Book) ratesOf(ctx context.Context, name string, rates map[string]practice.Rates, out *OwnErrors) error {
	kept, err := b.store.Reviews(ctx, name)
	if err != nil {
		return err
	}
	own, n := practice.RatesOf(each(kept, b.reviewOf), record.ErrorRate)
	if n >= leastAnswers {
		rates[name] = own
		out.Observers = append(out.Observers, ObserverErrors{name, n, own["sure"], own["fair"], own["guess"]})
	}
	return nil
}

// changesOf says what two rankings of a tree differ in.
func (s *sheet) changesOf(usual, own *answer.Result) []string {
	lead := func(r *answer.Result) string { return s.english(r.Ranking[0].Taxon, s.among().Region) }
	out := []string{}
	if usual.Ranking[0].Taxon != own.Ranking[0].Taxon {
		out = append(out, fmt.Sprintf("%s leads, not %s.", lead(own), lead(usual)))
	} else {
		out = append(out, fmt.Sprintf("%s leads as usual, at %s instead of %s.", lead(own), answer.Percent(own.Ranking[0].Posterior),
			answer.Percent(usual.Ranking[0].Posterior)))
	}
	if usual.Named.Rank != own.Named.Rank || usual.Named.Name != own.Named.Name {
		out = append(out, fmt.Sprintf("The name would go %s, not %s.", answer.RankWords(own.Named.Rank), answer.RankWords(usual.Named.Rank)))
	}
	return out
}
