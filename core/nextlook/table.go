package nextlook

import (
	"math"

	"palethicket/core/evidence"
)

// Table holds every answer a character can get under one setting, laid out so
// that the gain for any posterior is two dot products per answer. It is
// immutable and safe for use by several goroutines.
type Table struct {
	// Rows holds L_h(o) = a·q_h(o) + (1-a)·Σ_s share(s)·q_s(o), by answer and
	// hypothesis. The order of answers is that of [evidence.Model.Outcomes].
	Rows [][]float64
	logs [][]float64 // L·log2(L)
}

// NewTable works out the answers of a character that would be scored in a look
// of its own. A character that no taxon knows has an empty table.
func NewTable(m *evidence.Model, char int, set Setting) *Table {
	t := &Table{Rows: m.Outcomes(char, set.Setting)}
	for _, row := range t.Rows {
		stray := (1 - set.Belongs) * wood(m, row)
		logs := make([]float64, len(row))
		for h, q := range row {
			row[h] = set.Belongs*q + stray
			logs[h] = timesLog(row[h])
		}
		t.logs = append(t.logs, logs)
	}
	return t
}

func timesLog(x float64) float64 {
	if x <= 0 {
		return 0
	}
	return x * math.Log2(x)
}

// Gain is the expected information of the look in bits: Σ_o Σ_h p(h)·L_h(o)·
// log2 L_h(o) - P(o)·log2 P(o). It is 0 or more.
func (t *Table) Gain(posterior []float64) float64 {
	total := 0.0
	for o, row := range t.Rows {
		answer, known := 0.0, 0.0
		logs := t.logs[o]
		for h, p := range posterior {
			answer += p * row[h]
			known += p * logs[h]
		}
		total += known - timesLog(answer)
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
