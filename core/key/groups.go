package key

import (
	"fmt"
	"slices"
)

// A key of more trees than long begins with a key to groups of no more than grouped, each under a heading of its own.
const (
	long    = 40
	grouped = 22
	fewest  = 4 // trees of a group: fewer stay in the key to groups
)

// ToGroups is the heading of a key to groups.
const ToGroups = "Key to groups"

// number writes the couplets that grew into a key, each group after the key to groups.
func (g *grower) number(k *Key, top *branch) {
	g.confirm(top, nil)
	w := &writer{grower: g, key: k}
	if top.places <= long {
		w.write(top, "", 0, nil)
		return
	}
	w.write(top, ToGroups, 0, func(b *branch) bool { return b.places <= grouped && b.places >= fewest })
	for i := 0; i < len(w.later); i++ {
		l := w.later[i]
		heading := fmt.Sprintf("%s. %s", letters(i), headed(l.way))
		lead := &k.Couplets[l.from-1].Leads[l.side]
		lead.To = len(k.Couplets) + 1
		w.write(l.branch, heading, l.from, nil)
	}
}

// letters are A to Z, AA to AZ and on.
func letters(i int) string {
	if i < 26 {
		return string(rune('A' + i))
	}
	return letters(i/26-1) + letters(i%26)
}

// writer writes couplets.
type writer struct {
	*grower
	key   *Key
	way   []string
	later []waiting
}

// waiting is a group to be written, and the lead that leads to it.
type waiting struct {
	branch     *branch
	from, side int
	way        []string
}

// write writes a branch under a heading; those that later says are left for a group of their own.
func (w *writer) write(b *branch, group string, back int, later func(b *branch) bool) {
	at := len(w.key.Couplets)
	n := at + 1
	w.key.Couplets = append(w.key.Couplets, Couplet{N: n, Group: group, Back: back, Look: b.marks[0].col.flora.Look})
	order := [2]int{0, 1}
	if b.leads[1].places < b.leads[0].places {
		order = [2]int{1, 0} // the shorter first: the other is never far
	}
	var leads [2]Lead
	for i, s := range order {
		leads[i].Marks = b.leadMarks(s)
		leads[i].Words = joined(each(leads[i].Marks))
	}
	w.key.Couplets[at].Leads = leads
	w.key.Couplets[at].Commoner = order[b.commoner]
	for i, s := range order {
		side := b.leads[s]
		lead := &w.key.Couplets[at].Leads[i]
		switch {
		case side.end != nil:
			lead.Ends = side.end
		case later != nil && later(side):
			w.later = append(w.later, waiting{side, n, i, append(slices.Clone(w.way), leads[i].Marks[0].Words)})
		default:
			lead.To = len(w.key.Couplets) + 1
			w.way = append(w.way, leads[i].Marks[0].Words)
			w.write(side, group, n, later)
			w.way = w.way[:len(w.way)-1]
		}
	}
}

// leadMarks are the marks of one lead.
func (b *branch) leadMarks(side int) (out []Mark) {
	for _, h := range b.marks {
		out = append(out, h.mark(side == 1, h.col.likely(b.sides[side])))
	}
	return out
}

// likely are the answers that trees of a node show, as bits: what at least some of any taxon do, however rare it is.
func (col *column) likely(n *node) (set uint64) {
	for _, t := range n.taxa {
		for a := range col.flora.States {
			if col.shows[t] != nil && col.shows[t][a] >= truly {
				set |= 1 << a
			}
		}
	}
	return set
}

func each(marks []Mark) (words []string) {
	for _, m := range marks {
		words = append(words, m.Words)
	}
	return words
}

// headed is a group's heading: the last of what led there.
func headed(way []string) string {
	const most = 2
	return joined(way[max(0, len(way)-most):])
}
