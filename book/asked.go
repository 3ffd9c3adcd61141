package book

import (
	"cmp"
	"context"
	"maps"
	"slices"

	"palethicket/core/exchange"
	"palethicket/store"
)

// open is what lines of a file leave open.
type open struct {
	doubts map[string]*Doubt
	maybe  map[string][]exchange.Called
	lacks  map[string]int
	fresh  map[[2]string]*FreshPlace // by tract and stand
	faults map[string]*Fault
}

func newOpen() *open {
	return &open{map[string]*Doubt{}, map[string][]exchange.Called{}, map[string]int{}, map[[2]string]*FreshPlace{}, map[string]*Fault{}}
}

func (o *open) count(l *exchange.Line) {
	if l.Lacks != "" {
		o.lacks[l.Lacks]++
	}
	d := l.Doubt
	if d == nil {
		return
	}
	if o.doubts[d.Written] == nil {
		o.doubts[d.Written] = &Doubt{Written: d.Written}
		o.maybe[d.Written] = d.Suggests
	}
	o.doubts[d.Written].Lines++
}

// countFaults counts what is wrong with a line.
func (o *open) countFaults(l *exchange.Line) {
	for _, says := range l.Problems {
		f := o.faults[says]
		if f == nil {
			f = &Fault{Says: says}
			o.faults[says] = f
		}
		if f.Lines++; len(f.At) < faultsAt {
			f.At = append(f.At, l.At)
		}
	}
}

// countFresh counts a line in whose tract or stand the book has not.
func (o *open) countFresh(t *exchange.Tree, known places) {
	at := [2]string{t.Tract, t.Stand}
	if t.Tract == "" || t.Stand == "" || o.fresh[at] == nil && slices.Contains(known[t.Tract], t.Stand) {
		return
	}
	if o.fresh[at] == nil {
		o.fresh[at] = &FreshPlace{Tract: t.Tract, Stand: t.Stand, Near: known.near(t.Tract, t.Stand)}
	}
	o.fresh[at].Lines++
}

// mostAsked is how many names are asked about at once.
const mostAsked = 100

// ask writes into a preview what is to be said before its lines can go in.
func (p *Preview) ask(a exchange.Asks, o *open, sh *shelf) {
	for _, one := range []struct {
		field string
		open  bool
		says  string
	}{
		{"tract", a.Tract, "Say which tract these trees stand in, where a line does not say."},
		{"stand", a.Stand, "Say which stand they are in, where a line does not say."},
		{"zone", a.Zone, "Say in which UTM zone these positions are, as 15N."},
		{"units", len(a.Units) > 0, "Say in which unit these lengths are: the file does not."},
		{"days", a.Days, "Say whether 3/4/2026 is the 3rd of April or the 4th of March."},
	} {
		if one.open {
			p.Asks = append(p.Asks, one.field)
			p.Wrong = cmp.Or(p.Wrong, one.says)
		}
	}
	p.Unitless = listed(a.Units)
	for _, d := range o.doubts {
		d.Suggests = each(o.maybe[d.Written], func(c exchange.Called) Suggested { return Suggested{Meant(c), sh.nameWords(c.Rank, c.Name)} })
		p.Doubts = append(p.Doubts, *d)
	}
	slices.SortFunc(p.Doubts, func(a, b Doubt) int { return cmp.Or(cmp.Compare(b.Lines, a.Lines), cmp.Compare(a.Written, b.Written)) })
	p.Doubts = p.Doubts[:min(len(p.Doubts), mostAsked)]
	for _, f := range o.faults {
		p.Faults = append(p.Faults, *f)
	}
	slices.SortFunc(p.Faults, func(a, b Fault) int { return cmp.Or(cmp.Compare(b.Lines, a.Lines), cmp.Compare(a.Says, b.Says)) })
	p.Faults = p.Faults[:min(len(p.Faults), faultsMost)]
	for _, at := range slices.SortedFunc(maps.Keys(o.fresh), func(a, b [2]string) int { return slices.Compare(a[:], b[:]) }) {
		p.Fresh = append(p.Fresh, *o.fresh[at])
	}
	for _, list := range slices.Sorted(maps.Keys(o.lacks)) {
		p.Lacks = append(p.Lacks, Lack{list, o.lacks[list]})
	}
}

// remembered gives what names in files were said to stand for.
func (b *Book) remembered(ctx context.Context) (map[string]Meant, error) {
	said, err := b.store.NamesInFiles(ctx)
	if err != nil {
		return nil, err
	}
	out := make(map[string]Meant, len(said))
	for _, n := range said {
		out[n.Written] = Meant{n.Rank, n.Name}
	}
	return out, nil
}

// remember keeps what names in a file stand for, for the next file.
func (b *Book) remember(ctx context.Context, names map[string]Meant) error {
	if len(names) == 0 {
		return nil
	}
	return b.store.Write(ctx, func(tx *store.Tx) error {
		for _, written := range slices.Sorted(maps.Keys(names)) {
			is := names[written]
			if err := tx.NameInFiles(ctx, store.NameInFile{Written: written, Rank: is.Rank, Name: is.Name}); err != nil {
				return err
			}
		}
		return nil
	})
}
