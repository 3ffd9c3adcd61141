package main

import (
	"cmp"
	"errors"
	"fmt"
	"io"
	"maps"
	"os"
	"slices"
	"strings"

	"palethicket/core/flora/audit"
	"palethicket/core/flora/propose"
	"palethicket/core/proof/accuracy"
)

type floraCmd struct {
	Check    floraCheckCmd    `cmd:"" help:"Look the flora over; fails if there is anything to correct."`
	Sources  floraSourcesCmd  `cmd:"" help:"List the works that values follow, and how many follow each."`
	Coverage floraCoverageCmd `cmd:"" help:"Draw what is known of each taxon as a picture."`
	Accuracy floraAccuracyCmd `cmd:"" help:"Name specimens from handbooks, and drawn ones, and say how often it comes out right."`
	List     floraListCmd     `cmd:"" help:"Write a region's trees as a list, to make one's own of."`
	Lines    floraLinesCmd    `cmd:"" help:"Propose lines for look-alikes that have none, from their values: to be read and bettered."`
	Freeze   floraFreezeCmd   `cmd:"" hidden:"" help:"Write the flora to a file as the program for browsers reads it."`
}

type floraFreezeCmd struct {
	floraFlag
	File string `arg:"" help:"The file to write." type:"path"`
}

func (c *floraFreezeCmd) Run() error {
	f, err := c.load()
	if err != nil {
		return err
	}
	text, err := f.Freeze()
	if err != nil {
		return err
	}
	return os.WriteFile(c.File, text, 0o644)
}

type floraCheckCmd struct{ floraFlag }

func (c *floraCheckCmd) Run() error {
	f, err := c.load()
	if err != nil {
		return err
	}
	found := audit.Check(f)
	for _, finding := range found {
		fmt.Printf("%s: %s\n", finding.About, finding.Words)
	}
	fmt.Printf("%d taxa, %d characters, %d look-alikes with a line\n", len(f.Taxa), len(f.Characters), len(f.Alike))
	if len(found) > 0 {
		return fmt.Errorf("%d things to correct", len(found))
	}
	return nil
}

type floraLinesCmd struct{ floraFlag }

func (c *floraLinesCmd) Run() error {
	f, err := c.load()
	if err != nil {
		return err
	}
	lines, err := propose.Lines(f)
	for _, a := range lines {
		fmt.Printf("- pair: [%s, %s]\n  by: [%s]\n  line: %q\n", a.Pair[0], a.Pair[1], strings.Join(a.By, ", "), a.Line)
	}
	return err
}

type floraSourcesCmd struct{ floraFlag }

func (c *floraSourcesCmd) Run() error {
	f, err := c.load()
	if err != nil {
		return err
	}
	taxa, values := map[string]int{}, map[string]int{}
	for _, t := range f.Taxa {
		for _, key := range t.Sources {
			taxa[key]++
		}
		for _, id := range f.CharacterIDs() {
			if source := t.Entry(id).Source; source != "" {
				values[source]++
			}
		}
	}
	keys := slices.SortedFunc(maps.Keys(f.Sources), func(a, b string) int {
		return cmp.Or(cmp.Compare(taxa[b], taxa[a]), cmp.Compare(a, b))
	})
	for _, key := range keys {
		s := f.Sources[key]
		fmt.Printf("%s: %s\n  followed for %d taxa and, by itself, for %d values", key, s.Title, taxa[key], values[key])
		if s.Note != "" {
			fmt.Printf("; %s", s.Note)
		}
		fmt.Println()
	}
	return nil
}

type floraCoverageCmd struct {
	floraFlag
	Out string `help:"File for the picture (SVG)." default:"coverage.svg" type:"path"`
}

func (c *floraCoverageCmd) Run() error {
	f, err := c.load()
	if err != nil {
		return err
	}
	return writeFile(c.Out, func(w io.Writer) error { return audit.WritePicture(w, f) })
}

type floraAccuracyCmd struct {
	floraFlag
	Cases string `help:"File of specimens whose names are known; absent: those of handbooks that come with the program." type:"path"`
	More  string `help:"File of further specimens; absent: those that come with the program." type:"path"`
	First string `help:"File of the taxa of a smaller flora to set beside; absent: the one that comes with the program." type:"path"`
	Each  int    `help:"How many specimens to draw of each taxon." default:"200"`
	Out   string `help:"File for the report." default:"accuracy.md" type:"path"`
}

func (c *floraAccuracyCmd) Run() error {
	f, err := c.load()
	if err != nil {
		return err
	}
	cases, err := readCases(c.Cases, "handbook.yaml")
	if err != nil {
		return err
	}
	further, err := readCases(c.More, "handbook-more.yaml")
	if err != nil {
		return err
	}
	first, err := readTaxa(c.First, "first-list.txt")
	if err != nil {
		return err
	}
	report := accuracy.Report{Fewer: len(first), Drawn: map[string][]accuracy.Simulated{}, Each: c.Each}
	if report.Cases, err = accuracy.Judge(f, cases); err != nil {
		return err
	}
	if report.More, err = accuracy.Judge(f, further); err != nil {
		return err
	}
	both := slices.Concat(cases, further)
	if report.Beside, err = accuracy.JudgeBeside(f, both, first); err != nil {
		return err
	}
	if report.Without, err = accuracy.JudgeWithout(f, both); err != nil {
		return err
	}
	for _, region := range f.RegionIDs() {
		if report.Drawn[region], err = accuracy.Simulate(f, region, c.Each, 1); err != nil {
			return err
		}
	}
	return writeFile(c.Out, report.Write)
}

// readCases reads the specimens of a file, or of one that comes with the program.
func readCases(path, shipped string) ([]accuracy.Case, error) {
	in, err := openOr(path, shipped)
	if err != nil {
		return nil, fmt.Errorf("reading the cases: %w", err)
	}
	defer in.Close()
	cases, err := accuracy.ReadCases(in)
	if err != nil {
		return nil, fmt.Errorf("reading %s: %w", cmp.Or(path, shipped), err)
	}
	return cases, nil
}

// readTaxa reads the taxa of a file, or of one that comes with the program.
func readTaxa(path, shipped string) ([]string, error) {
	in, err := openOr(path, shipped)
	if err != nil {
		return nil, fmt.Errorf("reading the taxa of a smaller flora: %w", err)
	}
	defer in.Close()
	return accuracy.ReadTaxa(in)
}

// openOr opens a file, or, where none is named, one that comes with the program.
func openOr(path, shipped string) (io.ReadCloser, error) {
	if path != "" {
		return os.Open(path)
	}
	return accuracy.Shipped.Open("testdata/" + shipped)
}

type floraListCmd struct {
	floraFlag
	Region string `help:"The region: ${regions}." default:"eastern-north-america"`
	Name   string `help:"What the list is to be called." default:"our trees"`
	Format string `help:"yaml or csv." enum:"yaml,csv" default:"yaml"`
}

func (c *floraListCmd) Run() error {
	f, err := c.load()
	if err != nil {
		return err
	}
	l := f.RegionList(c.Region)
	if l.Name = c.Name; len(l.Abundance) == 0 {
		return errors.Join(fmt.Errorf("no trees of %q", c.Region), f.CheckList(&l))
	}
	if c.Format == "csv" {
		return l.WriteCSV(os.Stdout, f)
	}
	return l.WriteYAML(os.Stdout)
}
