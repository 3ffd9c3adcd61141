package answer

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/nextlook"
	"palethicket/core/weigh/ranking"
)

// Question is one either/or question of a key walk. Its answers are scores: a
// walk fills the same slips as free scoring, can be left at any time, and goes
// on from whatever is scored.
type Question struct {
	Character string   `json:"character"`
	Name      string   `json:"name"`
	Look      string   `json:"look"`
	From      string   `json:"from"` // kind of look the answer goes into
	Seconds   int      `json:"seconds"`
	Bits      float64  `json:"bits"`
	Options   []Option `json:"options"` // two of them
}

// Option is one answer to a question, and the score it makes.
type Option struct {
	Words  string       `json:"words"`
	Leader string       `json:"leader"` // who would lead then
	Chance float64      `json:"chance"`
	Score  record.Score `json:"score"`
}

// Walk is where a key walk stands.
type Walk struct {
	Question *Question `json:"question"` // absent where nothing is left to ask
	Named    Name      `json:"named"`
	Settled  bool      `json:"settled"` // the tree is named to species: confirm it against its look-alikes
}

// dependable weighs a character by how far its scores can be relied on, as most
// practitioners hold (common practice): arrangement before everything, then
// buds; colour, site and litter last. A walk asks reliable questions before
// telling ones.
func dependable(c *flora.Character) float64 {
	switch {
	case c.ID == "twig.arrangement":
		return 10
	case c.Section == "bud" || c.Section == "scar" || c.Section == "needle":
		return 1.5
	case c.Section == "ground" || c.Section == "setting" || c.Section == "sign":
		return 0.4
	case strings.HasSuffix(c.ID, ".color") || c.Section == "form":
		return 0.6
	}
	return 1
}

// Walk gives the next question of a key walk; characters in skip were asked and
// could not be answered.
func (w *Weighing) Walk(skip []string) *Walk {
	out := &Walk{Named: w.named(), Question: w.question(skip)}
	out.Settled = out.Named.Rank == ranking.Species
	return out
}

func (a *answer) question(skip []string) *Question {
	var best *Question
	most := 0.0
	open, support := a.open(), a.support()
	for i, char := range a.kit.chars {
		c, _ := a.Pool.Character(char)
		if !open[i] || c.Kind == evidence.Numeric || slices.Contains(skip, c.ID) || a.answerable(i, a.verdict.Posterior, support) < likely {
			continue
		}
		q := a.split(c, char)
		if q == nil || q.Bits < worthwhileBits {
			continue
		}
		if worth := q.Bits * dependable(c) / cost(a.Pool, char); worth > most {
			best, most = q, worth
		}
	}
	return best
}

// split makes the best either/or question of a character. A sign asks itself.
// The states of others are ordered by how far they speak for the leader over
// all the rest, and cut in two where the cut tells most: for two classes no
// other split does better (Breiman et al. 1984, Classification and Regression
// Trees, theorem 4.5). States that form a scale, and arrangements, are cut along
// it.
func (a *answer) split(c *flora.Character, char int) *Question {
	rows := a.claims(c, char)
	if len(rows) < 2 {
		return nil
	}
	post, lead := a.verdict.Posterior, a.verdict.Leader()
	order := make([]int, len(rows))
	pull := make([]float64, len(rows))
	for o, row := range rows {
		order[o] = o
		all := 0.0
		for h, p := range post {
			all += p * row[h]
		}
		pull[o] = row[lead] / math.Max(all, math.SmallestNonzeroFloat64)
	}
	if !c.Ordered && c.Kind != evidence.Tally {
		slices.SortStableFunc(order, func(x, y int) int { return cmp.Compare(pull[y], pull[x]) })
	}
	bits, cut := 0.0, 0
	for k := 1; k < len(order); k++ {
		if g := a.gainOfCut(rows, order[:k]); g > bits {
			bits, cut = g, k
		}
	}
	if cut == 0 {
		return nil
	}
	options := []Option{a.option(c, rows, order[:cut]), a.option(c, rows, order[cut:])}
	if name := a.english(lead); options[0].Leader != name && options[1].Leader == name {
		slices.Reverse(options) // what speaks for the leader comes first
	}
	return &Question{Character: c.ID, Name: c.Name, Look: c.Look, From: From(c), Seconds: c.Seconds, Bits: bits, Options: options}
}

// claims gives L_h of each state claimed outright, by state; a sign's are seen
// and not seen.
func (a *answer) claims(c *flora.Character, char int) [][]float64 {
	if c.Kind != evidence.Tally {
		rows := a.table(char).Rows
		return rows[:min(len(rows), max(len(c.States), 2))]
	}
	set := usualSetting(c)
	var rows [][]float64
	for i := range c.States {
		row := make([]float64, a.Pool.Model.Hypotheses())
		a.Pool.Model.Likelihood(row, &evidence.Score{Character: char, States: 1 << i, Error: set.Error})
		rows = append(rows, row)
	}
	return rows
}

// sum adds the rows of some states up.
func sum(rows [][]float64, states []int) []float64 {
	out := make([]float64, len(rows[0]))
	for _, o := range states {
		for h, l := range rows[o] {
			out[h] += l
		}
	}
	return out
}

// gainOfCut is the information in whether one of the states is shown.
func (a *answer) gainOfCut(rows [][]float64, states []int) float64 {
	all := make([]int, len(rows))
	for i := range all {
		all[i] = i
	}
	in, total := sum(rows, states), sum(rows, all)
	yes, no := 0.0, 0.0
	within := 0.0
	for h, p := range a.verdict.Posterior {
		y, n := in[h], max(0, total[h]-in[h])
		yes += p * y
		no += p * n
		within += p * (timesLog(y) + timesLog(n))
	}
	return within - timesLog(yes) - timesLog(no)
}

func timesLog(x float64) float64 { return -nextlook.Entropy([]float64{x}) }

func (a *answer) option(c *flora.Character, rows [][]float64, states []int) Option {
	row := sum(rows, states)
	post := make([]float64, len(row))
	chance := 0.0
	for h, p := range a.verdict.Posterior {
		post[h] = p * row[h]
		chance += post[h]
	}
	out := Option{Leader: a.english(top(post)), Chance: chance, Score: record.Score{Character: c.ID}}
	if c.Kind == evidence.Sign {
		seen := states[0] == 0
		out.Score.Seen, out.Words = &seen, record.SignWords(seen)
		return out
	}
	slices.Sort(states)
	var words []string
	for _, o := range states {
		out.Score.States = append(out.Score.States, c.States[o].ID)
		words = append(words, record.StateWords(c.States[o].ID))
	}
	out.Score.Certainty = "fair"
	out.Words = strings.Join(words, ", ")
	if n := len(words); n > 1 {
		out.Words = fmt.Sprintf("%s or %s", strings.Join(words[:n-1], ", "), words[n-1])
	}
	return out
}
