package handbook_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	"palethicket/core/flora/handbook"
)

const home = "eastern-north-america"

var all = flora.Among{Region: home}

func book(t *testing.T) *handbook.Handbook {
	f := floratest.Shipped(t)
	return handbook.New(f)
}

func TestTaxonPage(t *testing.T) {
	p, err := book(t).Page("Quercus macrocarpa")
	require.NoError(t, err)
	require.Equal(t, "bur oak", p.English[0])
	require.Equal(t, "white oaks", p.Group)
	require.Equal(t, []float64{14, 26}, p.Height)
	said := map[string]handbook.PageLine{}
	var order []string
	for _, s := range p.Sections {
		order = append(order, s.ID)
		for _, l := range s.Lines {
			said[l.Character] = l
		}
	}
	require.Equal(t, []string{"setting", "form", "bark", "twig", "bud", "scar", "fruit", "ground"}, order, "the order of work")
	require.Equal(t, "fringed", said["fruit.acorn-cup"].Words)
	require.Equal(t, "common practice", said["bud.tip"].Source)
	require.Equal(t, "2.5 to 6 mm", said["bud.length"].Words)
	require.Equal(t, "young", said["bark.texture"].ByAge[0].Age)
	require.NotContains(t, said, "bark.stripes", "what every tree shows is not worth a line")
	require.NotContains(t, said, "fruit.cone-length", "no such part")
	require.GreaterOrEqual(t, len(p.Alike), 2)
	for _, a := range p.Alike {
		require.NotEmpty(t, a.Line, a.Name)
		require.InDelta(t, a.Both, a.Twig+a.Bark, 1e-9)
	}
	require.NotEmpty(t, p.Sources[0].Title)

	p, err = book(t).Page("Populus tremuloides")
	require.NoError(t, err)
	for _, s := range p.Sections {
		for _, l := range s.Lines {
			if l.Character == "bark.texture" {
				require.Contains(t, l.Words, "at the base rough furrows")
			}
		}
	}
	p, err = book(t).Page("Quercus nulla")
	require.NoError(t, err)
	require.Nil(t, p)
}

func names(lines []handbook.TaxonLine, known bool) (out []string) {
	for _, l := range lines {
		if l.Known == known {
			out = append(out, l.Name)
		}
	}
	return out
}

func TestFilter(t *testing.T) {
	b := book(t)
	whole, err := b.List(all, nil)
	require.NoError(t, err)
	require.Greater(t, len(whole), 140)
	require.Equal(t, "abundant", whole[0].Common, "the commonest first")
	opposite, err := b.List(all, []handbook.Shown{{"twig.arrangement", "opposite"}, {"bud.color", "near-black"}})
	require.NoError(t, err)
	require.Contains(t, names(opposite, true), "Fraxinus nigra")
	require.NotContains(t, names(opposite, true), "Quercus alba")
	chambered, err := b.List(all, []handbook.Shown{{"twig.pith", "chambered"}})
	require.NoError(t, err)
	for _, name := range names(chambered, true) {
		genus, _, _ := strings.Cut(name, " ")
		require.Contains(t, []string{"Juglans", "Celtis", "Nyssa", "Halesia", "Pterocarya", "Paulownia"}, genus, name)
	}
	ringed, err := b.List(all, []handbook.Shown{{"bark.rings-target", "seen"}})
	require.NoError(t, err)
	require.Equal(t, []string{"Acer rubrum"}, names(ringed, true))
	for _, bad := range []handbook.Shown{{"bark.colour", "white"}, {"bark.color", "whit"}, {"bark.stripes", "yes"}} {
		_, err := b.List(all, []handbook.Shown{bad})
		require.ErrorContains(t, err, "unknown", bad)
	}
	_, err = b.List(flora.Among{Region: "nowhere"}, nil)
	require.ErrorContains(t, err, "unknown region")
	_, err = handbook.ParseShown("bark.color")
	require.ErrorContains(t, err, "want a character and a state")
}

func TestCharacterPage(t *testing.T) {
	b := book(t)
	p, err := b.Character("bud.scales", all)
	require.NoError(t, err)
	require.Len(t, p.States, 5)
	for _, s := range p.States {
		require.NotEmpty(t, s.Means)
		require.NotEmpty(t, s.Taxa, s.ID)
		for i := 1; i < len(s.Taxa); i++ {
			require.GreaterOrEqual(t, s.Taxa[i-1].Chance, s.Taxa[i].Chance)
		}
	}
	require.Equal(t, handbook.MistakenStates{State: "naked", For: []string{"two-edge-to-edge", "few-overlapping"}}, p.Mistaken[0])
	p, err = b.Character("bud.length", all)
	require.NoError(t, err)
	require.Greater(t, len(p.Ranges), 100)
	require.Contains(t, p.Ranges[len(p.Ranges)-1].Words, "mm")
	p, err = b.Character("bark.stripes", all)
	require.NoError(t, err)
	require.Equal(t, "Acer pensylvanicum", p.States[0].Taxa[0].Name)
	p, err = b.Character("bark.nothing", all)
	require.NoError(t, err)
	require.Nil(t, p)
}

func TestPlates(t *testing.T) {
	b := book(t)
	at := func(p *handbook.Plate, id string) handbook.PlateValue {
		for _, v := range p.Shows {
			if v.Character == id {
				return v
			}
		}
		t.Fatalf("%s: no %s", p.Name, id)
		return handbook.PlateValue{}
	}
	p, err := b.Plate("Fraxinus nigra", home, flora.Mature, flora.Breast, 0)
	require.NoError(t, err)
	require.Equal(t, "opposite", at(p, "twig.arrangement").State)
	require.InDelta(t, 6, *at(p, "bud.length").Value, 3)
	require.False(t, *at(p, "bud.last-pair-close").Seen)
	beech, err := b.Plate("Fagus grandifolia", home, flora.Mature, flora.Breast, 0)
	require.NoError(t, err)
	require.InDelta(t, 18.7, *at(beech, "bud.length").Value, 0.1, "the middle of 14 to 25 in ln mm")

	aspen, err := b.Plate("Populus tremuloides", home, flora.Old, flora.Base, 0)
	require.NoError(t, err)
	require.Equal(t, "rough-furrows", at(aspen, "bark.texture").State)
	aspen, err = b.Plate("Populus tremuloides", home, flora.Old, flora.Upper, 0)
	require.NoError(t, err)
	require.Equal(t, "smooth", at(aspen, "bark.texture").State)

	odd, same := map[float64]bool{}, 0
	for seed := uint64(1); seed <= 20; seed++ {
		one, err := b.Plate("Acer rubrum", home, flora.Mature, flora.Breast, seed)
		require.NoError(t, err)
		again, err := b.Plate("Acer rubrum", home, flora.Mature, flora.Breast, seed)
		require.NoError(t, err)
		require.Equal(t, one, again, "the same seed, the same specimen")
		odd[*at(one, "bud.length").Value] = true
		if at(one, "twig.arrangement").State == "opposite" {
			same++
		}
	}
	require.Len(t, odd, 20, "specimens differ")
	require.Equal(t, 20, same, "in what the taxon varies by, and no more")
	none, err := b.Plate("Quercus nulla", home, flora.Mature, flora.Breast, 0)
	require.NoError(t, err)
	require.Nil(t, none)
	plates, err := b.Plates(flora.Among{Region: "british-isles"})
	require.NoError(t, err)
	require.Greater(t, len(plates), 55)
}

func TestBeside(t *testing.T) {
	b := book(t)
	x, err := b.Beside(all, []string{"Juglans cinerea", "Juglans nigra"})
	require.NoError(t, err)
	require.Len(t, x.Plates, 2)
	require.Len(t, x.Lines, 1)
	differ := map[string]handbook.Difference{}
	for i, r := range x.Rows {
		require.Len(t, r.Words, 2)
		if i > 0 {
			require.LessOrEqual(t, r.Bits, x.Rows[i-1].Bits, "the telling ones first")
		}
		differ[r.Character] = r
	}
	require.Contains(t, differ, "scar.fringe", "common practice")
	require.Contains(t, differ, "scar.top", "common practice")
	require.NotContains(t, differ, "twig.pith", "both are chambered")
	four, err := b.Beside(all, []string{"Quercus alba", "Quercus rubra", "Acer rubrum", "Ulmus rubra"})
	require.NoError(t, err)
	require.Len(t, four.Rows[0].Words, 4)
	for _, bad := range [][]string{{"Quercus alba"}, {"a", "b", "c", "d", "e"}, {"Quercus alba", "Quercus robur x"}} {
		_, err := b.Beside(all, bad)
		require.Error(t, err)
	}
}

func TestDifferences(t *testing.T) {
	four, five, seven, yes, no := 4.0, 5.0, 7.0, true, false
	a := []handbook.PlateValue{
		{Character: "a", State: "x"},
		{Character: "b", State: "y"},
		{Character: "c", Value: &four},
		{Character: "d", Seen: &yes},
		{Character: "e", State: "z"},
	}
	b := []handbook.PlateValue{
		{Character: "a", State: "x"},
		{Character: "b", State: "z"},
		{Character: "c", Value: &seven},
		{Character: "d", Seen: &no},
	}
	require.Equal(t, []string{"b", "c", "d"}, handbook.Differences(a, b), "in what both show")
	require.Empty(
		t,
		handbook.Differences([]handbook.PlateValue{{Character: "c", Value: &four}}, []handbook.PlateValue{{Character: "c", Value: &five}}),
	)
}
