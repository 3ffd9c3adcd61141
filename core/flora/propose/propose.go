// Package propose words lines on what tells look-alikes apart, from their values: for pairs that have none yet, to be read and
// bettered by somebody who knows the trees.
package propose

import (
	_ "embed"
	"fmt"
	"math"
	"slices"
	"strings"
	"sync"

	"go.yaml.in/yaml/v3"

	"palethicket/core/flora"
	"palethicket/core/flora/lookalike"
	"palethicket/core/weigh/evidence"
)

//go:embed phrases.yaml
var text []byte

// phrases are by character, and by state, or any, range, seen, not.
var phrases = sync.OnceValues(func() (out map[string]map[string]string, err error) {
	err = yaml.Unmarshal(text, &out)
	return out, err
})

// How a line is made.
const (
	mostMarks  = 3   // characters that it goes by
	leastWorth = 0.4 // bits that each must be worth
)

// Lines words a line for each pair of look-alikes of any region that has none. It leaves out those that no character parts well.
func Lines(f *flora.Flora) ([]flora.Alike, error) {
	words, err := phrases()
	if err != nil {
		return nil, fmt.Errorf("reading the phrases: %w", err)
	}
	var out []flora.Alike
	done := map[[2]string]bool{}
	for _, region := range f.RegionIDs() {
		p, err := f.Pool(flora.PoolKey{Among: flora.Among{Region: region}, Age: flora.At(flora.AnyAge)})
		if err != nil {
			return nil, err
		}
		table := lookalike.NewTable(p)
		for a := range p.Taxa {
			for _, pair := range table.Nearest(a) {
				names := [2]string{p.Taxa[a].Name, p.Taxa[pair.B].Name}
				slices.Sort(names[:])
				if done[names] || f.Apart(names[0], names[1]) != nil {
					continue
				}
				done[names] = true
				if line := lineOf(f, p, &pair, words); line != nil {
					out = append(out, *line)
				}
			}
		}
	}
	slices.SortFunc(out, func(a, b flora.Alike) int { return slices.Compare(a.Pair[:], b.Pair[:]) })
	return out, nil
}

func lineOf(f *flora.Flora, p *flora.Pool, pair *lookalike.Pair, words map[string]map[string]string) *flora.Alike {
	out := &flora.Alike{Pair: [2]string{p.Taxa[pair.A].Name, p.Taxa[pair.B].Name}}
	var left, right []string
	for _, w := range pair.By {
		if len(out.By) == mostMarks || w.Bits < leastWorth {
			break
		}
		c := f.Character(w.Character)
		a := p.Taxa[pair.A].Entry(c.ID).Cells[flora.Mature][flora.Breast]
		b := p.Taxa[pair.B].Entry(c.ID).Cells[flora.Mature][flora.Breast]
		says, others := say(c, &a, &b, words[c.ID]), say(c, &b, &a, words[c.ID])
		if says == "" || others == "" || says == others {
			continue
		}
		out.By, left, right = append(out.By, c.ID), append(left, says), append(right, others)
	}
	if len(out.By) == 0 {
		return nil
	}
	out.Line = fmt.Sprintf("%s: %s. %s: %s.", flora.UpperFirst(p.Called(pair.A)), strings.Join(left, ", "),
		flora.UpperFirst(p.Called(pair.B)), strings.Join(right, ", "))
	return out
}

// say is what one shows, as far as the other shows it less.
func say(c *flora.Character, v, other *evidence.Value, words map[string]string) string {
	switch {
	case v.Knowledge != evidence.Known || other.Knowledge != evidence.Known || words == nil:
		return ""
	case c.Kind == evidence.Numeric:
		n := v.Normals[0]
		reach := evidence.RangeReach * math.Sqrt(n.Var)
		return strings.Replace(words["range"], "…", figure(math.Exp(n.Mean-reach))+" to "+figure(math.Exp(n.Mean+reach)), 1)
	case c.Kind == evidence.Sign:
		switch {
		case v.Chance > 0.5:
			return words["seen"]
		case v.Chance < 0.15:
			return words["not"]
		case v.Chance > 0.25:
			return "sometimes " + words["seen"]
		}
		return "seldom " + words["seen"]
	}
	best, most := -1, -1.0
	for i := range c.States {
		if x := v.Dist[i] - 0.9*other.Dist[i]; v.Dist[i] > 0.2 && x > most {
			best, most = i, x
		}
	}
	if best < 0 {
		return ""
	}
	state := c.States[best].ID
	out := words[state]
	if any := words["any"]; any != "" {
		out = strings.Replace(any, "…", state, 1)
	}
	if out != "" && v.Dist[best] < 0.45 {
		out = "often " + out
	}
	return out
}

func figure(x float64) string {
	if x >= 10 {
		return fmt.Sprintf("%.0f", x)
	}
	return strings.TrimSuffix(fmt.Sprintf("%.1f", x), ".0")
}
