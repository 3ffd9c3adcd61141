package nextlook

import (
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/portable"
)

// Table holds every answer a character can get under one setting. It is
// immutable and safe for use by several goroutines.
type Table struct {
	// Rows holds L_h(o) = a·q_h(o) + (1-a)·Σ_s share(s)·q_s(o), by answer and
	// hypothesis. The order of answers is that of [evidence.Model.Outcomes], but that where
	// [Setting.There] is given the last answer is that nothing is there.
	Rows  [][]float64
	known []float64 // Σ_o L_h(o)·log2 L_h(o), by hypothesis
}

// NewTable works out the answers of a character that would be scored in a look
// of its own. A character that no taxon knows has an empty table.
func NewTable(m *evidence.Model, char int, set Setting) *Table {
	t := &Table{Rows: m.Outcomes(char, set.Setting), known: make([]float64, m.Hypotheses())}
	if set.There != nil && len(t.Rows) > 0 {
		if m.NoSuchPart(char, set.Error) != nil {
			t.Rows = t.Rows[:len(t.Rows)-1]
		}
		t.Rows = whereThere(t.Rows, set.There)
	}
	for _, row := range t.Rows {
		stray := (1 - set.Belongs) * wood(m, row)
		for h, q := range row {
			row[h] = set.Belongs*q + stray
			t.known[h] += timesLog(row[h])
		}
	}
	return t
}

// whereThere has the answers come only where there is something to look at, and adds that
// there is nothing.
func whereThere(rows [][]float64, there []float64) [][]float64 {
	nothing := make([]float64, len(there))
	for h, v := range there {
		nothing[h] = 1 - v
		sum := 0.0
		for _, row := range rows {
			sum += row[h]
		}
		for _, row := range rows {
			if row[h] *= v; sum > 0 {
				row[h] /= sum // a taxon without the part has answers by mistake alone
			}
		}
	}
	return append(rows, nothing)
}

func timesLog(x float64) float64 {
	if x <= 0 {
		return 0
	}
	return x * portable.Log2(x)
}

// Gain is the expected information of the look in bits: Σ_o Σ_h p(h)·L_h(o)·
// log2 L_h(o) - P(o)·log2 P(o). It is 0 or more.
func (t *Table) Gain(posterior []float64) float64 {
	total := 0.0
	for h, p := range posterior {
		total += p * t.known[h]
	}
	for _, row := range t.Rows {
		answer := 0.0
		for h, p := range posterior {
			answer += p * row[h]
		}
		total -= timesLog(answer)
	}
	return max(0, total)
}

// After writes the posterior that answer o would leave into dst and gives the
// chance of that answer.
func (t *Table) After(dst, posterior []float64, o int) (chance float64) {
	for h, p := range posterior {
		dst[h] = p * t.Rows[o][h]
		chance += dst[h]
	}
	if chance > 0 {
		for h := range dst {
			dst[h] /= chance
		}
	}
	return chance
}

// Sheet lays the tables of many looks out by hypothesis. Once a tree is all but
// named, few hypotheses are left to reckon with, and what they would answer
// then stands together in memory.
type Sheet struct {
	tables []*Table
	first  []int       // where the answers of a table begin
	rows   [][]float64 // by hypothesis: L_h of every answer, table by table
}

// NewSheet lays tables of one model out.
func NewSheet(tables []*Table) *Sheet {
	s := &Sheet{tables: tables}
	answers := 0
	for _, t := range tables {
		s.first = append(s.first, answers)
		answers += len(t.Rows)
	}
	if len(tables) == 0 {
		return s
	}
	s.rows = make([][]float64, len(tables[0].known))
	for h := range s.rows {
		s.rows[h] = make([]float64, 0, answers)
		for _, t := range tables {
			for _, row := range t.Rows {
				s.rows[h] = append(s.rows[h], row[h])
			}
		}
	}
	return s
}

// mostAnswers is more than any character has: its states, or its bins, and "no
// such part".
const mostAnswers = evidence.MaxStates + 1

// Gain is the expected information of table k for a posterior that rests on the
// support alone.
func (s *Sheet) Gain(k int, posterior []float64, support []int) float64 {
	var room [mostAnswers]float64
	t := s.tables[k]
	answers := room[:len(t.Rows)]
	total := 0.0
	for _, h := range support {
		p := posterior[h]
		total += p * t.known[h]
		for o, l := range s.rows[h][s.first[k] : s.first[k]+len(answers)] {
			answers[o] += p * l
		}
	}
	for _, answer := range answers {
		total -= timesLog(answer)
	}
	return max(0, total)
}

// Below these posteriors a hypothesis has no say in what to look at: all such of a
// flora together change a gain by less than a thousandth of a bit, or by about a
// hundredth, which is enough where what follows a look is thought ahead.
const (
	Fine   = 1e-7
	Coarse = 1e-5
)

// Support lists the hypotheses that have a say, into room.
func Support(room []int, posterior []float64, least float64) []int {
	room = room[:0]
	for h, p := range posterior {
		if p > least {
			room = append(room, h)
		}
	}
	return room
}
