package flora

import (
	"slices"
	"time"

	"palethicket/core/weigh/evidence"
)

// There gives, under every hypothesis of the pool's model, the chance that a tree has what a
// character of the model is read from: 0 for a taxon without the part, else the share of its
// trees that show the sign it is shown by, where signs says so, and one of the states that it
// is found with. Fruit hangs as it does in the month; of other months it is as at midwinter. What
// is not known of a taxon is as in the rest of the pool, and so is what is not listed. It is nil
// where every tree has it.
func (p *Pool) There(char int, signs bool, month time.Month) []float64 {
	c, zone := p.Character(char)
	there := make([]float64, p.Model.Hypotheses())
	for t := range p.Taxa {
		there[t] = 1
		if p.Model.Taxa()[t].Values[char].Knowledge == evidence.Absent {
			there[t] = 0
		}
	}
	if c.ShownBy != "" && signs {
		p.times(there, c.ShownBy, zone, func(v *evidence.Value) float64 { return v.Chance })
		if c.ShownBy == fruitSign {
			for t, more := range p.Hang(month) {
				there[t] = min(1, there[t]*more)
			}
		}
	}
	if c.Only != nil {
		base := p.flora.Character(c.Only.Character)
		p.times(there, c.Only.Character, zone, func(v *evidence.Value) (sum float64) {
			for i, s := range base.States {
				if slices.Contains(c.Only.States, s.ID) {
					sum += v.Dist[i]
				}
			}
			return sum
		})
	}
	p.standIn(there, func(t int) bool { return true })
	if !slices.ContainsFunc(there, func(x float64) bool { return x < 1 }) {
		return nil
	}
	return there
}

// times multiplies by a chance that another character's value gives; where that is not known,
// by what the rest of the pool has.
func (p *Pool) times(there []float64, id string, zone Zone, chance func(*evidence.Value) float64) {
	i, ok := p.Index(id, zone)
	if !ok {
		return
	}
	of := make([]float64, len(there))
	known := func(t int) bool { return p.Model.Taxa()[t].Values[i].Knowledge != evidence.Unknown }
	for t := range p.Taxa {
		if v := &p.Model.Taxa()[t].Values[i]; v.Knowledge == evidence.Known {
			of[t] = chance(v)
		}
	}
	p.standIn(of, known)
	for t := range p.Taxa {
		there[t] *= of[t]
	}
}

// standIn gives the mean of the taxa that are known, by how common they are, to the others and
// to what is not listed.
func (p *Pool) standIn(of []float64, known func(t int) bool) {
	sum, share := 0.0, 0.0
	for t, w := range p.Model.Share() {
		if known(t) {
			sum, share = sum+w*of[t], share+w
		}
	}
	mean := 1.0
	if share > 0 {
		mean = sum / share
	}
	for t := range of {
		if t >= len(p.Taxa) || !known(t) {
			of[t] = mean
		}
	}
}
