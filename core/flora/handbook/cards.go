package handbook

import (
	"context"
	"slices"

	"palethicket/core/flora"
	"palethicket/core/plate"
)

// Card is two to four trees that are taken for one another.
type Card struct {
	Beside
	Part  string // that is drawn: twig or bark, whichever they differ in more
	Trees []CardTree
}

// CardTree is one of them.
type CardTree struct {
	Name, English string
	Tree          *plate.Tree
}

// Cards makes a card of two to four taxa, or (of none) a deck for a whole list: each pair that the flora has a line on is
// on some card. It can be stopped by ctx.
func (b *Handbook) Cards(ctx context.Context, among flora.Among, taxa []string) ([]Card, error) {
	p, table, err := b.table(among)
	if err != nil {
		return nil, err
	}
	groups := [][]string{taxa}
	if len(taxa) == 0 {
		groups = table.Groups(b.flora)
	}
	var out []Card
	for _, names := range groups {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		c, err := b.card(p, names)
		if err != nil {
			return nil, err
		}
		out = append(out, *c)
	}
	return out, nil
}

func (b *Handbook) card(p *flora.Pool, names []string) (*Card, error) {
	beside, err := b.Beside(p.Among, names)
	if err != nil {
		return nil, err
	}
	c := &Card{Beside: *beside, Part: "twig"}
	bark, twig := 0.0, 0.0
	for _, d := range c.Rows {
		switch d.From {
		case "bark":
			bark += d.Bits
		case "twig", "bud", "scar", "needle":
			twig += d.Bits
		}
	}
	if bark > twig {
		c.Part = "bark"
	}
	slices.SortStableFunc(c.Rows, func(x, y Difference) int { // where it stands says least of a tree in hand
		return compareBool(x.From == "setting", y.From == "setting")
	})
	for _, name := range names {
		t, err := b.Tree(name, p.Region, flora.Mature, flora.Breast, 0)
		if err != nil {
			return nil, err
		}
		i, _ := p.Find(name)
		c.Trees = append(c.Trees, CardTree{name, p.Called(i), t})
	}
	return c, nil
}
