package key

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/weigh/evidence"
)

// title says what a key is of.
func (g *grower) title() string {
	if g.asked.Title != "" {
		return g.asked.Title
	}
	of := g.asked.List
	if of == "" {
		of = g.flora.RegionWords(g.pool.Region)
	}
	if g.taste.ID == "genus" {
		of = g.asked.Genus + ", " + of
	}
	return fmt.Sprintf("Key to the leafless trees of %s: %s, %s", of, g.taste.Words, Ages[cmp.Or(g.asked.Age, "mature")])
}

// stateWords is a state as a lead says it: in the flora's own wording for leads where it has one.
func stateWords(s *flora.State) string {
	if s.Lead != "" {
		return s.Lead
	}
	words := strings.ReplaceAll(s.ID, "-", " ")
	if s.Means != "" && s.Means != words {
		words += " (" + s.Means + ")"
	}
	return words
}

// lead writes one lead of a question.
func (g *grower) lead(n *node, p []float64, q *question, i int, order []int) Lead {
	l := Lead{Character: q.col.flora.ID, Also: g.also(n, p, q, i)}
	q.col.say(&l, q.all[i].answers, len(order) > 1)
	return l
}

// say puts answers into a lead, and into words.
func (col *column) say(l *Lead, answers []int, parted bool) {
	c := col.flora
	name := flora.UpperFirst(c.Name)
	switch c.Kind {
	case evidence.Sign:
		seen := answers[0] == 0
		l.Seen = &seen
		l.Words = name + ": to be seen"
		if !seen {
			l.Words = name + ": looked for, and not to be seen"
		}
	case evidence.Numeric:
		first, last := answers[0], answers[len(answers)-1]
		var parts []string
		if first > 0 {
			from := col.edges[first-1]
			l.From = &from
			parts = append(parts, fmt.Sprintf("%g %s or more", from, c.Unit))
		}
		if last < len(col.edges) {
			below := col.edges[last]
			l.Below = &below
			parts = append(parts, fmt.Sprintf("less than %g %s", below, c.Unit))
		}
		l.Words = name + ": " + strings.Join(parts, ", ")
	default:
		var words []string
		for _, a := range answers {
			l.States = append(l.States, c.States[a].ID)
			words = append(words, stateWords(&c.States[a]))
		}
		l.Words = name + ": " + orList(words)
		if len(answers) > 3 { // too many to say what each means
			l.Words = name + ": " + orList(plain(c, answers))
		}
		if rest := othersOf(c, answers); parted && len(answers) > 3 && len(rest) <= 3 {
			l.Words = name + ": not " + orList(plain(c, rest)) + ", but otherwise"
		}
	}
}

func plain(c *flora.Character, answers []int) []string {
	out := make([]string, len(answers))
	for i, a := range answers {
		out[i] = strings.ReplaceAll(c.States[a].ID, "-", " ")
	}
	return out
}

func othersOf(c *flora.Character, answers []int) (out []int) {
	for i := range c.States {
		if !slices.Contains(answers, i) {
			out = append(out, i)
		}
	}
	return out
}

func orList(words []string) string {
	if len(words) < 2 {
		return strings.Join(words, "")
	}
	return strings.Join(words[:len(words)-1], ", ") + " or " + words[len(words)-1]
}

// mostFirst is how many names stand first where there are several: nobody reads more at a glance.
const mostFirst = 4

// How well a further mark must part a lead from the others.
const (
	bearsOut   = 0.75 // of those of the lead show it
	seldom     = 0.35 // of the others
	marksMost  = 2
	confirmMax = 3
)

// also finds marks that bear a lead out: states of other characters that those who come there mostly show, and the others
// seldom.
func (g *grower) also(n *node, p []float64, q *question, lead int) []Mark {
	here, there := make([]float64, len(p)), make([]float64, len(p))
	sumHere, sumThere := 0.0, 0.0
	for k := range p {
		here[k] = p[k] * q.all[lead].chance[k]
		there[k] = p[k] - here[k]
		sumHere, sumThere = sumHere+here[k], sumThere+there[k]
	}
	if sumHere <= 0 || sumThere <= 0 {
		return nil
	}
	return g.marks(n, here, there, sumHere, sumThere, q.col.flora, marksMost)
}

// marks are those that most of here show and few of there.
func (g *grower) marks(n *node, here, there []float64, sumHere, sumThere float64, but *flora.Character, most int) []Mark {
	type found struct {
		Mark
		parts float64
	}
	var all []found
	for _, col := range g.columns {
		c := col.flora
		if c == but || n.used[c.ID] || c.Kind == evidence.Numeric || c.ID == foliage {
			continue
		}
		best := found{}
		for a := range col.answers {
			x, y := 0.0, 0.0
			for k, t := range n.taxa {
				if col.chance[t] == nil { // lacks the part, and so does not show it
					continue
				}
				x += here[k] / sumHere * col.chance[t][a]
				y += there[k] / sumThere * col.chance[t][a]
			}
			if x >= bearsOut && y <= seldom && x-y > best.parts && (c.Kind != evidence.Sign || a == 0) {
				best = found{col.mark(a), x - y}
			}
		}
		if best.parts > 0 {
			all = append(all, best)
		}
	}
	slices.SortStableFunc(all, func(a, b found) int { return cmp.Compare(b.parts, a.parts) })
	var out []Mark
	for _, f := range all[:min(len(all), most)] {
		out = append(out, f.Mark)
	}
	return out
}

func (col *column) mark(answer int) Mark {
	c := col.flora
	if c.Kind == evidence.Sign {
		seen := answer == 0
		return Mark{Character: c.ID, Seen: &seen, Words: c.Name}
	}
	s := &c.States[answer]
	return Mark{Character: c.ID, States: []string{s.ID}, Words: c.Name + " " + strings.ReplaceAll(s.ID, "-", " ")}
}

// endWords says what an end says: the name, what confirms it, and what it is taken for.
func (g *grower) endWords(end *End, n *node, p []float64) {
	called := func(name string) string {
		if i, ok := g.pool.Find(name); ok {
			return g.pool.Called(i)
		}
		return name
	}
	var words []string
	for _, t := range end.Taxa {
		words = append(words, called(t))
	}
	switch {
	case end.Rank == "species":
		end.Words = flora.UpperFirst(called(end.Name))
	case end.Rank == Several:
		first := min(len(words), mostFirst)
		if len(words) <= mostFirst+1 {
			first = len(words)
		}
		end.Words = flora.UpperFirst(orList(words[:first]))
		if first < len(words) {
			end.Seldom = orList(words[first:])
		}
	case end.Rank == "genus" && len(end.Taxa) > 0:
		i, _ := g.pool.Find(end.Taxa[0])
		english := cmp.Or(g.pool.Taxa[i].GenusEnglish, end.Name)
		end.Words = fmt.Sprintf("%s (%s): %s", flora.UpperFirst(english), end.Name, orList(words))
	default:
		end.Words = fmt.Sprintf("%s: %s", flora.UpperFirst(end.Name), orList(words))
	}
	here, there := make([]float64, len(p)), make([]float64, len(p))
	sumHere, sumThere := 0.0, 0.0
	for k, t := range n.taxa {
		if slices.Contains(end.Taxa, g.pool.Taxa[t].Name) {
			here[k], sumHere = p[k], sumHere+p[k]
		} else {
			there[k], sumThere = p[k], sumThere+p[k]
		}
	}
	if sumThere > 0 {
		for _, m := range g.marks(n, here, there, sumHere, sumThere, nil, confirmMax) {
			end.Confirm = append(end.Confirm, m.Words)
		}
	}
	if len(end.Confirm) == 0 {
		end.Confirm = g.ownMarks(n, end)
	}
	end.Taken = g.takenFor(end, n, p)
}

// ownMarks are what nearly all of an end show, where nobody else came to it.
func (g *grower) ownMarks(n *node, end *End) []string {
	out := []string{}
	for _, col := range g.columns {
		c := col.flora
		if n.used[c.ID] || c.Kind == evidence.Numeric || c.Kind == evidence.Sign || c.ID == foliage || c.Ordered {
			continue
		}
		for a := range col.answers {
			least := 1.0
			for _, name := range end.Taxa {
				t, _ := g.pool.Find(name)
				if col.chance[t] == nil {
					least = 0
					break
				}
				least = math.Min(least, col.chance[t][a])
			}
			if least > 0.8 && len(out) < confirmMax {
				out = append(out, col.mark(a).Words)
			}
		}
	}
	return out
}

// takenFor is whom an end is taken for, and what tells the two apart.
func (g *grower) takenFor(end *End, n *node, p []float64) []Taken {
	out := []Taken{}
	if len(end.Taxa) == 0 {
		return out
	}
	for _, k := range byShare(p) {
		name := g.pool.Taxa[n.taxa[k]].Name
		if len(out) < takenMost && !slices.Contains(end.Taxa, name) && p[k] >= 0.01 {
			out = append(out, g.taken(end.Taxa[0], n.taxa[k]))
		}
	}
	return out
}

const takenMost = 2

func (g *grower) taken(mine string, other int) Taken {
	t := Taken{Taxon: g.pool.Taxa[other].Name, Words: g.pool.Called(other)}
	if alike := g.flora.Apart(mine, t.Taxon); alike != nil {
		t.Apart = alike.Line
	}
	return t
}

// accounts are of all trees of the key, by their names: against all others of it, and with those that they have a line
// to be told apart by.
func (g *grower) accounts(root *node) []Account {
	out := []Account{}
	for k, t := range root.taxa {
		x := g.pool.Taxa[t]
		here, there := make([]float64, len(root.taxa)), slices.Clone(root.weight)
		here[k], there[k] = root.weight[k], 0
		a := Account{Taxon: x.Name, Words: g.pool.Called(t), Confirm: []string{}, Taken: []Taken{}}
		if rest := 1 - root.weight[k]; rest > 1e-9 {
			for _, m := range g.marks(root, here, there, here[k], rest, nil, confirmMax) {
				a.Confirm = append(a.Confirm, m.Words)
			}
		}
		for _, other := range byShare(root.weight) {
			if t2 := root.taxa[other]; len(a.Taken) < takenMost && t2 != t && g.flora.Apart(x.Name, g.pool.Taxa[t2].Name) != nil {
				a.Taken = append(a.Taken, g.taken(x.Name, t2))
			}
		}
		out = append(out, a)
	}
	slices.SortFunc(out, func(a, b Account) int { return cmp.Compare(strings.ToLower(a.Words), strings.ToLower(b.Words)) })
	return out
}

// says is what is to be known of a key.
func (g *grower) says() []string {
	out := []string{}
	if len(g.key.Couplets) == 0 {
		return append(out, "There is nothing to ask: it ends at once.")
	}
	return append(out,
		fmt.Sprintf("%d trees, %d questions.", len(g.key.Taxa), len(g.key.Couplets)),
		"A tree that varies, or is often misread, comes out at each place it should. "+
			"What is not listed here comes out wrong: look at what confirms a name.",
		"It names trees. It does not say that anything is safe to eat, and local rules and trained people come before it.")
}
