package answer

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strconv"
	"sync"
	"time"

	"palethicket/core/flora"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/fit"
	"palethicket/core/weigh/nextlook"
	"palethicket/core/weigh/ranking"
)

// Next is a look not yet taken, and what it is worth.
type Next struct {
	Character string  `json:"character"`
	Name      string  `json:"name"`
	Look      string  `json:"look"` // how to look at it
	From      string  `json:"from"` // kind of look it would be
	Bits      float64 `json:"bits"` // expected information
	// Answerable is the chance that there is an answer: that the part is there, and that one can tell.
	Answerable float64  `json:"answerable"`
	Seconds    int      `json:"seconds"`
	PerMinute  float64  `json:"bits_per_minute"`
	Harm       string   `json:"harm"`
	Separates  []string `json:"separates"` // the two leading trees it best tells apart
	Answers    []Answer `json:"answers"`   // its likelier answers, and who would lead after each
}

// Answer is one thing the look could show.
type Answer struct {
	Words     string  `json:"words"`
	Chance    float64 `json:"chance"`
	Leader    string  `json:"leader"`
	Posterior float64 `json:"posterior"`
}

// gentleness weighs a look down by the harm it does, so that of two looks of
// like worth the gentle one comes first.
var gentleness = map[string]float64{"none": 1, "scratch": 0.95, "flake": 0.85, "twig": 0.85}

// A look must promise this share of what is still open, and this many bits.
const (
	worthwhile     = 0.02
	worthwhileBits = 0.02
)

// From is the kind of look that a character is scored in.
func From(c *flora.Character) string {
	switch {
	case c.Section == "setting":
		return "site"
	case c.Reach == "ground":
		return "litter"
	case c.Reach == "crown":
		return "crown"
	default: // a twig in hand is one traced to this trunk
		return "tree"
	}
}

// hidden says whether snow, reach or the season keeps a character from being
// looked at.
func hidden(c *flora.Character, rec *record.Record, month time.Month) bool {
	if c.Section == "setting" {
		return false
	}
	snowed := rec.Snow == "patchy" || rec.Snow == "deep"
	return slices.Contains(rec.Beyond, c.Reach) || snowed && c.Reach == "ground" || !c.ShowsIn(month)
}

// month is when the record was made, or 0 where it does not say.
func month(rec *record.Record) time.Month {
	day, err := record.ParseDate(rec.Date)
	if err != nil {
		return 0
	}
	return day.Month()
}

func usualSetting(c *flora.Character) nextlook.Setting {
	return nextlook.Setting{Belongs: record.Belonging[From(c)], Setting: evidence.Setting{
		Error: record.ErrorRate["fair"], Spread: record.Spread["ruler"], Readings: 1,
		Detect: record.Detection["clear"], False: record.FalseAlarm}}
}

// kit holds what one pool needs: the looks that could be taken, those that
// cost least first, with all their answers.
type kit struct {
	rankers sync.Pool
	judge   *fit.Judge
	chars   []int // model characters at breast height, by cost
	place   []int // by model character: index into chars of its breast height, or -1
	tables  []*nextlook.Table
	shown   []*nextlook.Table // the same once the sign was seen that the character is shown by; nil: as before
	there   [][]float64       // the chance that there is something to look at; nil: there always is
	sheet   *nextlook.Sheet
	hung    sync.Map // of a look and a month to hung
	named   [][]byte // by hypothesis: `{"taxon":"…","posterior":`
}

// hung are the answers of a look at what hangs in a month, and the chance that there is anything.
type hung struct {
	table *nextlook.Table
	there []float64
}

// in gives the answers of the kit's look i in a month, and the chance that there is something to look at.
func (d *kit) in(p *flora.Pool, i int, month time.Month) hung {
	if d.shown[i] == nil {
		return hung{d.tables[i], d.there[i]}
	}
	key := 13*i + int(month)
	if h, ok := d.hung.Load(key); ok {
		return h.(hung)
	}
	table, there := tableOf(p, d.chars[i], true, month)
	d.hung.Store(key, hung{table, there})
	return hung{table, there}
}

// tableOf gives the answers of a character, where signs says so with the chance that there is
// something to look at in the month.
func tableOf(p *flora.Pool, char int, signs bool, month time.Month) (*nextlook.Table, []float64) {
	c, _ := p.Character(char)
	set := usualSetting(c)
	set.There = p.There(char, signs, month)
	return nextlook.NewTable(p.Model, char, set), set.There
}

func newKit(p *flora.Pool) *kit {
	d := &kit{judge: fit.NewJudge(p.Model)}
	d.rankers.New = func() any { return ranking.NewRanker(p.Model) }
	for i := range p.Model.Characters() {
		if c, zone := p.Character(i); zone == flora.Breast && c.ID != foliage {
			d.chars = append(d.chars, i)
		}
	}
	slices.SortStableFunc(d.chars, func(x, y int) int { return cmp.Compare(cost(p, x), cost(p, y)) })
	for _, char := range d.chars {
		c, _ := p.Character(char)
		table, there := tableOf(p, char, true, 0)
		d.tables, d.there = append(d.tables, table), append(d.there, there)
		var shown *nextlook.Table
		if c.ShownBy != "" {
			shown, _ = tableOf(p, char, false, 0)
		}
		d.shown = append(d.shown, shown)
	}
	for i := range p.Model.Characters() {
		c, _ := p.Character(i)
		breast, _ := p.Index(c.ID, flora.Breast)
		d.place = append(d.place, slices.Index(d.chars, breast))
	}
	d.sheet = nextlook.NewSheet(d.tables)
	for h := range p.Model.Hypotheses() {
		name := Unlisted
		if h < len(p.Taxa) {
			name = p.Taxa[h].Name
		}
		d.named = append(d.named, append(appendString([]byte(`{"taxon":`), name), `,"posterior":`...))
	}
	return d
}

// foliage is judged before anything else and never a next look.
const foliage = "needle.kept"

// turning is the seconds that every look takes besides its own: to turn to it and to press
// what it showed, two presses of Card, Moran and Newell 1980, "The keystroke-level model",
// Communications of the ACM 23: each 1.35 s to think of it, 1.1 s to reach it and 0.2 s.
const turning = 5

// cost is the seconds that a look takes, more for one that does harm.
func cost(p *flora.Pool, char int) float64 {
	c, _ := p.Character(char)
	return float64(c.Seconds+turning) / gentleness[c.Harm]
}

// table gives the answers of a model character under its usual setting.
func (a *answer) table(char int) *nextlook.Table {
	i := a.kit.place[char]
	if c, _ := a.Pool.Character(char); a.kit.shown[i] != nil && a.sight(c) == seen {
		return a.kit.shown[i]
	}
	return a.kit.in(a.Pool, i, a.month).table
}

// open says of each of the kit's looks whether it could be taken now.
func (a *answer) open() []bool {
	out := make([]bool, len(a.kit.chars))
	for i, char := range a.kit.chars {
		c, _ := a.Pool.Character(char)
		out[i] = !hidden(c, a.Record, a.month) && a.sight(c) != notSeen
	}
	for i := range a.Record.Looks {
		for j := range a.Looks[i].Scores {
			if at := a.kit.place[a.Looks[i].Scores[j].Character]; at >= 0 {
				out[at] = false
			}
		}
	}
	return out
}

// candidate is a character that could be looked at next.
type candidate struct {
	char       int
	bits, rank float64 // rank is bits per second, weighed by gentleness
}

// candidates are the n looks that promise most, best first. No look can tell
// more than is still open, so once n are found, those that cost too much to
// catch up are not weighed.
func (a *answer) candidates(posterior []float64, n int) []candidate {
	support := nextlook.Support(make([]int, 0, len(posterior)), posterior, nextlook.Fine)
	entropy := nextlook.EntropyOver(posterior, support)
	least := max(worthwhileBits, worthwhile*entropy)
	if n == 0 || entropy <= least {
		return nil
	}
	var cs, vain []candidate // vain are those more likely than not to find nothing
	open, sure := a.open(), posterior[top(posterior)] >= a.engine.Bars.Species
	for i, char := range a.kit.chars {
		if !open[i] {
			continue
		}
		price := cost(a.Pool, char)
		if len(cs) == n && entropy/price <= cs[n-1].rank {
			break
		}
		bits := a.gain(i, posterior, support)
		k := candidate{char, bits, bits / price}
		if bits <= least || len(cs) == n && k.rank <= cs[n-1].rank || sure && a.leavesName(char, posterior, support) {
			continue
		}
		if a.answerable(i, posterior, support) < likely {
			vain = insert(vain, k, n)
		} else {
			cs = insert(cs, k, n)
		}
	}
	return a.countAgain(unlessVain(cs, vain, n), posterior, n)
}

// best are the n best candidates of the tree as it stands, found once.
func (a *answer) best(n int) []candidate {
	if a.asked < n {
		a.found, a.asked = a.candidates(a.verdict.Posterior, n), n
	}
	return a.found[:min(n, len(a.found))]
}

// insert puts a candidate in its place among the n best.
func insert(cs []candidate, c candidate, n int) []candidate {
	at := len(cs)
	for at > 0 && cs[at-1].rank < c.rank {
		at--
	}
	cs = slices.Insert(cs, at, c)
	return cs[:min(n, len(cs))]
}

func (a *answer) next(candidates []candidate, explain bool) []Next {
	out := []Next{}
	for _, k := range candidates {
		next := a.describe(k)
		if explain {
			next.Separates, next.Answers = a.separates(k.char), a.answers(k.char)
		}
		out = append(out, next)
	}
	return out
}

func (a *answer) describe(k candidate) Next {
	c, _ := a.Pool.Character(k.char)
	return Next{Character: c.ID, Name: c.Name, Look: c.Look, From: From(c), Bits: k.bits,
		Answerable: a.answerable(a.kit.place[k.char], a.verdict.Posterior, a.support()),
		Seconds:    c.Seconds, PerMinute: k.bits * 60 / float64(c.Seconds+turning), Harm: c.Harm}
}

// leading is how many hypotheses are thought of when a look is explained.
const leading = 5

// separates names the two leading hypotheses, weighed by how likely they are,
// whose answers overlap least.
func (a *answer) separates(char int) []string {
	order := a.verdict.Order()[:min(leading, len(a.verdict.Order()))]
	best, pair := -1.0, []string{}
	for i, x := range order {
		for _, y := range order[:i] {
			apart := 0.0
			for _, row := range a.table(char).Rows {
				apart += math.Abs(row[x] - row[y])
			}
			if w := apart * math.Sqrt(a.verdict.Posterior[x]*a.verdict.Posterior[y]); w > best {
				best, pair = w, []string{a.english(y), a.english(x)}
			}
		}
	}
	return pair
}

// shownAnswers is how many answers a next look spells out.
const shownAnswers = 4

// answers spells out the likelier answers. Neighbouring answers of a count or
// a measurement that leave the same leader are said as one.
func (a *answer) answers(char int) []Answer {
	t, c := a.table(char), a.Pool.Model.Characters()[char]
	scale := c.Kind == evidence.Numeric || c.Kind == evidence.Tally
	steps := len(t.Rows) // answers on the scale; record.NoPartWords stands outside it
	switch c.Kind {
	case evidence.Numeric:
		steps = evidence.Bins
	case evidence.Tally:
		steps = evidence.TallyNodes + 1
	}
	var out []Answer
	post := make([]float64, len(a.verdict.Posterior))
	for o, first := 0, 0; o < len(t.Rows); o++ {
		chance := t.After(post, a.verdict.Posterior, o)
		h := top(post)
		if n := len(out); scale && o > 0 && o < steps && out[n-1].Leader == a.english(h) {
			last := &out[n-1]
			last.Posterior = (last.Posterior*last.Chance + post[h]*chance) / (last.Chance + chance)
			last.Chance += chance
			last.Words = a.answerWords(char, first, o)
			continue
		}
		first = o
		out = append(out, Answer{a.answerWords(char, o, o), chance, a.english(h), post[h]})
	}
	slices.SortStableFunc(out, func(x, y Answer) int { return cmp.Compare(y.Chance, x.Chance) })
	return out[:min(len(out), shownAnswers)]
}

func top(p []float64) int {
	best := 0
	for h, v := range p {
		if v > p[best] {
			best = h
		}
	}
	return best
}

// answerWords says answers lo to hi of a character's table in words.
func (a *answer) answerWords(char, lo, hi int) string {
	m := a.Pool.Model
	c, _ := a.Pool.Character(char)
	switch c.Kind {
	case evidence.Sign:
		if lo > 1 {
			return record.NoPartWords
		}
		return record.SignWords(lo == 0)
	case evidence.Tally:
		if lo > evidence.TallyNodes {
			return record.NoPartWords
		}
		if lo == hi {
			return fmt.Sprintf("%d pairs in %d", lo, evidence.TallyNodes)
		}
		return fmt.Sprintf("%d to %d pairs in %d", lo, hi, evidence.TallyNodes)
	case evidence.Numeric:
		if lo >= evidence.Bins {
			return a.nothing(c)
		}
		edges := m.BinEdges(char, usualSetting(c).Setting)
		switch {
		case lo == 0 && hi == evidence.Bins-1:
			return "whatever it measures"
		case lo == 0:
			return "under " + asRead(edges[hi], c.Unit) + " " + c.Unit
		case hi == evidence.Bins-1:
			return "over " + asRead(edges[lo-1], c.Unit) + " " + c.Unit
		}
		from, to := asRead(edges[lo-1], c.Unit), asRead(edges[hi], c.Unit)
		if from == to {
			return "about " + to + " " + c.Unit
		}
		return from + " to " + to + " " + c.Unit
	}
	if lo >= len(c.States) {
		return a.nothing(c)
	}
	return record.StateWords(c.States[lo].ID)
}

// nothing says that there is nothing to look at.
func (a *answer) nothing(c *flora.Character) string {
	if c.ShownBy == "" {
		return record.NoPartWords
	}
	return cmp.Or(a.engine.Flora.Character(c.ShownBy).Nothing, record.NoPartWords)
}

// trim writes a number to two figures, as a tape is read.
func trim(x float64) string {
	if x >= 10 {
		return strconv.FormatFloat(math.Round(x), 'f', -1, 64)
	}
	return strconv.FormatFloat(x, 'g', 2, 64)
}

// steps are the figures that people read a length off to, as the first of a number.
var steps = []float64{1, 1.2, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10}

// asRead writes the number nearest to one that somebody would read off: whole, of what is
// counted.
func asRead(x float64, unit string) string {
	if unit != "mm" && unit != "cm" {
		return strconv.FormatFloat(max(1, math.Round(x)), 'f', -1, 64)
	}
	ten := math.Pow(10, math.Floor(math.Log10(x)))
	near := slices.MinFunc(steps, func(a, b float64) int { return cmp.Compare(math.Abs(math.Log(a*ten/x)), math.Abs(math.Log(b*ten/x))) })
	return strconv.FormatFloat(near*ten, 'g', 3, 64)
}
