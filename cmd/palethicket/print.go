package main

import (
	"bytes"
	"context"
	"fmt"

	"palethicket/book"
	"palethicket/core/flora"
	"palethicket/core/flora/handbook"
	"palethicket/core/measure"
	"palethicket/core/tallysheet"
	"palethicket/report"
)

// printCmd prints what is taken along.
type printCmd struct {
	Tally  printTallyCmd  `cmd:"" help:"A scoring sheet for 1, 4 or 10 trees."`
	Gauge  printGaugeCmd  `cmd:"" help:"A card to measure small things by, true to scale."`
	Tags   printTagsCmd   `cmd:"" help:"Labels with codes for trees and twig bags, from a book."`
	Cards  printCardsCmd  `cmd:"" help:"Cards of trees that are taken for one another."`
	Report printReportCmd `cmd:"" help:"The report on a stand or a tract of a book."`
	Day    printDayCmd    `cmd:"" help:"A day's sheet: where to go to the open trees of a book."`
	Quiz   printQuizCmd   `cmd:"" help:"Numbered drawings with their answers, for a class."`
}

// paperFlags are those of all that is printed.
type paperFlags struct {
	Paper string `help:"What it is printed on." default:"A4" enum:"A4,Letter"`
	Out   string `help:"PDF to write; - for standard output." required:""`
}

// write keeps what was printed, whole or not at all.
func (p *paperFlags) write(print func(out *bytes.Buffer) error) error {
	var out bytes.Buffer
	if err := print(&out); err != nil {
		return fmt.Errorf("printing %s: %w", p.Out, err)
	}
	return writeFile(p.Out, bytesTo(out.Bytes()))
}

// listFlags say whose trees are meant.
type listFlags struct {
	floraFlag
	Region string `help:"Whose trees: ${regions}; the home region where none is named."`
}

func (l *listFlags) among() (*flora.Flora, flora.Among, error) {
	own, err := l.own()
	if err != nil {
		return nil, flora.Among{}, err
	}
	f, err := l.load()
	if err != nil {
		return nil, flora.Among{}, err
	}
	list := ""
	if len(own.Lists) > 0 {
		list = own.Lists[0].Name
	}
	among, err := f.Among(l.Region, list)
	return f, among, err
}

type printTallyCmd struct {
	listFlags
	paperFlags
	Route string `help:"In which order." default:"twig-in-hand" enum:"branching-first,bark-first,twig-in-hand,outline-to-site"`
	Trees int    `help:"How many trees a sheet has room for." default:"4" enum:"1,4,10"`
}

func (c *printTallyCmd) Run() error {
	f, among, err := c.among()
	if err != nil {
		return err
	}
	s, err := tallysheet.New(f, among, c.Route, c.Trees)
	if err != nil {
		return err
	}
	return c.write(func(out *bytes.Buffer) error { return report.TallySheetPDF(out, s, c.Paper, drawnState) })
}

type printGaugeCmd struct {
	paperFlags
	Factor string `help:"Of the crew's gauge, for its limiting distances." default:"2 m2/ha"`
}

func (c *printGaugeCmd) Run() error {
	factor, err := measure.ReadFactor(c.Factor)
	if err != nil {
		return fmt.Errorf("--factor: %w", err)
	}
	return c.write(func(out *bytes.Buffer) error { return report.GaugePDF(out, factor, measure.InFeet(c.Factor), c.Paper) })
}

type printTagsCmd struct {
	bookFlags
	paperFlags
	Tract   string   `help:"Of its trees, or that new tags are for."`
	Stand   string   `help:"Of its trees."`
	Tags    []string `name:"tag" help:"A new tag, in place of the book's trees; may be given again."`
	Rows    int      `help:"Labels down a page." default:"8"`
	Columns int      `help:"Labels across." default:"3"`
	Twice   bool     `help:"Each twice: for the tree and for the bag of its twig."`
	Base    string   `help:"Where the book is reached: codes lead there." required:"" placeholder:"https://book.example"`
}

func (c *printTagsCmd) Run(ctx context.Context) error {
	base, err := report.Base(c.Base)
	if err != nil {
		return fmt.Errorf("--base: %w", err)
	}
	return c.with(ctx, func(b *book.Book) error {
		trees, err := b.Labels(ctx, book.Query{Tract: c.Tract, Stand: c.Stand}, c.Tags)
		if err != nil {
			return err
		}
		tags := make([]report.Tag, len(trees))
		for i, t := range trees {
			tags[i] = report.Tag{Tag: t.Tag, Tract: t.Tract, Stand: t.Stand, Link: base + t.Path}
		}
		o := report.TagSheet{Paper: c.Paper, Rows: c.Rows, Columns: c.Columns, Twice: c.Twice}
		return c.write(func(out *bytes.Buffer) error { return report.TagsPDF(out, tags, o) })
	})
}

type printCardsCmd struct {
	listFlags
	paperFlags
	Taxa []string `name:"taxon" help:"Of a card of these taxa; none: a deck for the whole list."`
}

func (c *printCardsCmd) Run(ctx context.Context) error {
	f, among, err := c.among()
	if err != nil {
		return err
	}
	cards, err := handbook.New(f).Cards(ctx, among, c.Taxa)
	if err != nil {
		return err
	}
	return c.write(func(out *bytes.Buffer) error { return report.CardsPDF(out, "Look-alikes", cards, c.Paper) })
}

type printReportCmd struct {
	bookFlags
	paperFlags
	Tract string `help:"Of which tract." required:""`
	Stand string `help:"Of one stand of it."`
}

func (c *printReportCmd) Run(ctx context.Context) error {
	return c.with(ctx, func(b *book.Book) error {
		r, err := b.Report(ctx, c.Tract, c.Stand)
		if err != nil {
			return err
		}
		return c.write(func(out *bytes.Buffer) error { return report.PDF(out, r, c.Paper) })
	})
}

type printDayCmd struct {
	bookFlags
	paperFlags
	Tract string  `help:"Of its open trees." required:""`
	Stand string  `help:"Of one stand of it."`
	Date  string  `help:"As 2026-12-01; today where none is named."`
	Start string  `help:"When it begins, by the clock there." default:"09:00"`
	End   string  `help:"When it ends; half an hour before dusk where none is named."`
	Break float64 `help:"Minutes of rest."`
	Snow  string  `help:"How it slows: ${enum}." enum:"none,patchy,deep," default:""`
	Crews int     `help:"That share the work." default:"1"`
}

func (c *printDayCmd) Run(ctx context.Context) error {
	return c.with(ctx, func(b *book.Book) error {
		d, err := b.PlanDay(ctx, &book.DayAsked{Query: book.Query{Tract: c.Tract, Stand: c.Stand}, Date: c.Date, Start: c.Start, End: c.End,
			Break: c.Break, Snow: c.Snow, Crews: c.Crews})
		if err != nil {
			return err
		}
		return c.write(func(out *bytes.Buffer) error { return report.DayPDF(out, d, c.Paper) })
	})
}

type printQuizCmd struct {
	bookFlags
	paperFlags
	Region string   `help:"Whose trees: ${regions}; the home region where none is named."`
	Kinds  []string `name:"kind" help:"What is drawn: twig, bark, outline or ground; may be given again." default:"twig,bark"`
	Taxa   []string `name:"taxon" help:"Only of these; may be given again."`
	N      int      `name:"n" help:"How many drawings." default:"12"`
	Seed   uint64   `help:"The same number draws the same sheet; 0: another each time."`
}

func (c *printQuizCmd) Run(ctx context.Context) error {
	return c.with(ctx, func(b *book.Book) error {
		deck := book.Deck{Among: book.Among{Region: c.Region}, Kinds: c.Kinds, Taxa: c.Taxa}
		q, err := b.Quiz(ctx, "", deck, c.N, c.Seed)
		if err != nil {
			return err
		}
		return c.write(func(out *bytes.Buffer) error { return report.QuizPDF(out, q, c.Paper) })
	})
}
