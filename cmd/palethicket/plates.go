package main

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/flora/handbook"
	"palethicket/core/plate"
	"palethicket/core/plate/sheet"
)

type platesCmd struct {
	floraFlag
	Out    string   `arg:"" help:"Folder for the drawings; with --sheet or --blind the file (HTML)." type:"path"`
	Taxa   []string `name:"taxon" help:"Only this taxon, by its scientific name; may be given again."`
	Kind   []string `help:"What is drawn: twig, bark, outline." default:"twig,bark,outline" enum:"twig,bark,outline"`
	Age    string   `help:"Age of the trees." default:"mature" enum:"young,mature,old"`
	Zone   string   `help:"Height on the trunk." default:"breast" enum:"base,breast,upper"`
	Region string   `help:"Whose trees, and whose names of them: ${regions}; the home region where none is named."`
	Odd    uint64   `help:"0 draws the usual ones, another number one specimen of each."`
	Theme  string   `help:"Colors." default:"light" enum:"light,dark,contrast,paper"`
	Sheet  bool     `help:"One labelled sheet of all."`
	Blind  uint64   `help:"One sheet of 40 numbered specimens without names, drawn by this seed; their names go to a second file beside it."`
}

// blindCells is how many specimens a blind sheet has.
const blindCells = 40

func (c *platesCmd) Run(ctx context.Context) error {
	f, err := c.load()
	if err != nil {
		return err
	}
	if c.Region == "" {
		c.Region = f.HomeRegion()
	}
	trees, err := c.trees(f)
	if err != nil {
		return err
	}
	switch {
	case c.Blind > 0:
		return c.blind(ctx, trees)
	case c.Sheet:
		cells := make([]sheet.Cell, len(trees))
		for i, t := range trees {
			cells[i] = sheet.Cell{Words: fmt.Sprintf("%s (%s)", t.English, t.Name), Tree: t, Zone: c.Zone}
		}
		return c.page(ctx, "Drawn from the flora: "+c.Age+" trees", cells)
	}
	return c.files(ctx, trees)
}

// trees gives those asked for, of the region.
func (c *platesCmd) trees(f *flora.Flora) ([]*plate.Tree, error) {
	if !slices.Contains(f.RegionIDs(), c.Region) {
		return nil, flora.UnknownWord("region", c.Region, f.RegionIDs())
	}
	h := handbook.New(f)
	var out []*plate.Tree
	for _, name := range c.Taxa {
		if f.Taxon(name) == nil {
			return nil, flora.UnknownWord("taxon", name, f.TaxonNames())
		}
	}
	for i := range f.Taxa {
		name := f.Taxa[i].Name
		if len(c.Taxa) > 0 && !slices.Contains(c.Taxa, name) || len(c.Taxa) == 0 && f.Taxa[i].Abundance[c.Region] == "" {
			continue
		}
		t, err := h.Tree(name, c.Region, flora.Age(slices.Index(flora.AgeWords, c.Age)), flora.Zone(slices.Index(flora.ZoneWords, c.Zone)),
			c.seed(i))
		if err != nil {
			return nil, err
		}
		out = append(out, t)
	}
	return out, nil
}

func (c *platesCmd) seed(taxon int) uint64 {
	if c.Blind > 0 {
		return rand.New(rand.NewPCG(c.Blind, uint64(taxon))).Uint64() | 1
	}
	return c.Odd
}

// blind writes specimens in an order drawn by the seed, and beside them whose they are.
func (c *platesCmd) blind(ctx context.Context, trees []*plate.Tree) error {
	r := rand.New(rand.NewPCG(c.Blind, 40))
	r.Shuffle(len(trees), func(i, j int) { trees[i], trees[j] = trees[j], trees[i] })
	trees = trees[:min(blindCells, len(trees))]
	var answers strings.Builder
	cells := make([]sheet.Cell, len(trees))
	for i, t := range trees {
		fmt.Fprintf(&answers, "%d\t%s\t%s\n", i+1, t.Name, t.English)
		t.English = "a tree"
		cells[i] = sheet.Cell{Words: fmt.Sprint(i + 1), Tree: t, Zone: c.Zone}
	}
	if err := c.page(ctx, fmt.Sprintf("Which trees are these? Seed %d", c.Blind), cells); err != nil {
		return err
	}
	return os.WriteFile(strings.TrimSuffix(c.Out, filepath.Ext(c.Out))+"-answers.txt", []byte(answers.String()), 0o644)
}

func (c *platesCmd) page(ctx context.Context, title string, cells []sheet.Cell) error {
	columns := 10
	if len(c.Kind) > 1 {
		columns = 5
	}
	page, err := sheet.Page(ctx, title, cells, c.Kind, columns)
	if err != nil {
		return err
	}
	if err := os.WriteFile(c.Out, page, 0o644); err != nil {
		return fmt.Errorf("writing the sheet: %w", err)
	}
	fmt.Printf("%d trees are on %s.\n", len(cells), c.Out)
	return nil
}

// files writes every drawing to a file of its own.
func (c *platesCmd) files(ctx context.Context, trees []*plate.Tree) error {
	if err := os.MkdirAll(c.Out, 0o755); err != nil {
		return fmt.Errorf("making the folder for the drawings: %w", err)
	}
	n := 0
	for _, t := range trees {
		for _, kind := range c.Kind {
			if ctx.Err() != nil {
				return errors.New("stopped; the drawings so far are whole")
			}
			picture, mime, err := sheet.Draw(t, kind, c.Zone, c.Theme)
			if err != nil {
				return err
			}
			name := strings.ReplaceAll(t.Name, " ", "-") + "-" + kind + map[string]string{"image/png": ".png", "image/svg+xml": ".svg"}[mime]
			if err := os.WriteFile(filepath.Join(c.Out, name), picture, 0o644); err != nil {
				return fmt.Errorf("writing a drawing: %w", err)
			}
			n++
		}
	}
	fmt.Printf("%d drawings are in %s.\n", n, c.Out)
	return nil
}
