package handbook

import (
	"cmp"

	"palethicket/core/flora"
	"palethicket/core/plate"
)

// Tree gives a taxon to be drawn: as it usually is, or one specimen of it where seed is
// not 0. It gives nil where the flora has no such taxon.
func (b *Handbook) Tree(name, region string, age flora.Age, zone flora.Zone, seed uint64) (*plate.Tree, error) {
	p, err := b.Plate(name, region, age, zone, seed)
	if err != nil || p == nil {
		return nil, err
	}
	t := b.flora.Taxon(name)
	out := &plate.Tree{Name: p.Name, English: p.English, Shows: ShowsOf(p.Shows), Build: buildOf(&t.Build), Seed: seed, Height: p.Height,
		Age: flora.AgeWords[min(age, flora.Old)]}
	return out, nil
}

// usualHeight is that of a grown tree, in m.
func usualHeight(t *flora.Taxon) float64 {
	if len(t.Height) == 2 {
		return (t.Height[0] + t.Height[1]) / 2
	}
	return 12
}

// ShowsOf is what a drawing is made from.
func ShowsOf(values []PlateValue) plate.Shows {
	out := plate.Shows{}
	for _, v := range values {
		s := plate.Shown{State: v.State}
		if v.State == "" && len(v.States) > 0 {
			s.State = v.States[0]
		}
		if v.Value != nil {
			s.Value = *v.Value
		}
		if v.Seen != nil {
			s.Seen = *v.Seen
		}
		out[v.Character] = s
	}
	return out
}

func buildOf(b *flora.Build) plate.Build {
	o := plate.OrdinaryBuild
	return plate.Build{
		Ranks:      cmp.Or(b.Ranks, o.Ranks),
		Internode:  cmp.Or(b.Internode, o.Internode),
		RidgeWidth: cmp.Or(b.Ridge, o.RidgeWidth),
		PlateRun:   cmp.Or(b.Plate, o.PlateRun),
		LimbAngle:  cmp.Or(b.Limb, o.LimbAngle),
		Spread:     cmp.Or(b.Spread, o.Spread),
		Clear:      cmp.Or(b.Clear, o.Clear),
	}
}
