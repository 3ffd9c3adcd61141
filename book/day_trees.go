package book

import (
	"context"
	"fmt"
	"slices"
	"time"

	"palethicket/core/stand/worklist"
)

// dayTree is a tree that a day could visit, and what that is worth.
type dayTree struct {
	Unsettled
	worth   float64 // bits
	minutes float64
	because string
}

// dayTrees are the trees with a position that a day could visit and that are not dropped: those
// that are open, those to be seen in leaf or flower on that day, and what is pinned. Those without
// a position are put into the plan.
func (b *Book) dayTrees(ctx context.Context, a *DayAsked, p *DayPlan) ([]dayTree, error) {
	q := a.Query
	q.Sort = "worth"
	list, err := b.Worklist(ctx, q, dayTrees, 0)
	if err != nil {
		return nil, err
	}
	at, err := b.whereabouts(ctx, a, list.Trees)
	if err != nil {
		return nil, err
	}
	asked, err := b.dayOf(a, at)
	if err != nil {
		return nil, err
	}
	day := asked.Format(time.DateOnly)
	var trees []dayTree
	for _, t := range list.Trees {
		if t.Lon == nil && !slices.Contains(a.Drop, t.ID) {
			p.Unplaced = append(p.Unplaced, DayUnplaced{t.ID, t.Tag, t.Stand})
		}
		trees = append(trees, openOn(t, day))
	}
	spring, err := b.inSpring(ctx, q, day)
	if err != nil {
		return nil, err
	}
	trees = slices.DeleteFunc(append(trees, spring...), func(t dayTree) bool {
		return t.Lon == nil || t.Lat == nil || slices.Contains(a.Drop, t.ID)
	})
	for _, id := range a.Pin {
		if slices.ContainsFunc(trees, func(t dayTree) bool { return t.ID == id }) {
			continue
		}
		lines, err := b.store.Lines(ctx, []string{id})
		if err != nil {
			return nil, err
		}
		if len(lines) == 0 || lines[0].Lon == nil {
			return nil, &FieldError{"pin", "a pinned tree is not in the book, or has no position"}
		}
		trees = append(trees, openOn(b.unsettled(lines[0]), day))
	}
	if len(trees) == 0 {
		return nil, ErrNoPlaces
	}
	return trees, nil
}

// whereabouts is a place near the trees of a day, to know whose time is kept there.
func (b *Book) whereabouts(ctx context.Context, a *DayAsked, trees []Unsettled) ([2]float64, error) {
	if a.From != nil {
		return *a.From, nil
	}
	for _, t := range trees {
		if t.Lon != nil {
			return [2]float64{*t.Lon, *t.Lat}, nil
		}
	}
	middle, err := b.middle(ctx)
	if err != nil || middle == nil {
		return [2]float64{}, err
	}
	return *middle, nil
}

// openOn is what a visit to a tree counts as, in bits: what its best look promises, or that a
// name is to be written; more where its buds will swell before long.
func openOn(t Unsettled, day string) dayTree {
	d := dayTree{Unsettled: t, worth: t.NextBits, minutes: settlingIn + looksThere*float64(t.NextSeconds)/60}
	switch {
	case t.Status == worklist.Ready:
		d.worth, d.because = max(writingName, t.NextBits), "its name is to be written down"
	case t.Look == "":
		d.because = "nothing that can be reached would help now"
	default:
		d.because = fmt.Sprintf("its best look tells %.1f bits", t.NextBits)
	}
	if left, ok := marksLeft(t.Back, day); ok && left <= marksGoSoon && t.Look != "" {
		d.worth *= lastChance
		when := "are swelling"
		if left > 0 {
			when = "swell in " + days(left)
		}
		d.because += ", and its buds " + when + ": then winter's marks go"
	}
	return d
}

// inSpring are named trees that can be seen in leaf or flower on a day and were not yet.
func (b *Book) inSpring(ctx context.Context, q Query, day string) ([]dayTree, error) {
	q.Status = []string{worklist.Named}
	lines, _, err := b.store.Trees(ctx, b.query(q), dayTrees, 0)
	if err != nil {
		return nil, err
	}
	confirmed, err := b.store.Confirmed(ctx, q.Tract, q.Stand)
	if err != nil {
		return nil, err
	}
	var out []dayTree
	for _, l := range lines {
		if slices.Contains(confirmed, l.ID) {
			continue
		}
		for _, e := range b.comeBackOn(&l, day) {
			if e.ID == "swell" || !opens(&e, day, day) {
				continue
			}
			t := b.unsettled(l)
			t.Look = "See it in " + map[string]string{"flower": "flower", "leaf": "leaf"}[e.ID] + " and say whether the name is right."
			out = append(out, dayTree{t, confirming, settlingIn, "its winter name can be confirmed: " + e.Words})
			break
		}
	}
	return out, nil
}
