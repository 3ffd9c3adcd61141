package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"maps"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"palethicket/book"
	"palethicket/core/exchange"
)

// fileFormats are those of --format.
const fileFormats = "csv,xlsx,geojson,gpkg,kml,gpx,json,dwca,boundaries"

type exportCmd struct {
	bookFlags
	Format    string `help:"json: field record; dwca: Darwin Core Archive; boundaries: GeoJSON." enum:"${formats}" required:""`
	Out       string `help:"The file to write, which must not be there yet; - for standard output." required:"" type:"path"`
	Tract     string `help:"Only trees of this tract."`
	Stand     string `help:"Only trees of this stand."`
	Publisher string `help:"Who publishes it; stands in archives."`
	License   string `help:"Address of the terms that an archive may be used under."`
	Country   string `help:"Where the trees stand; stands in archives."`
	UTM       bool   `name:"utm" help:"Positions of tables on the UTM grid, not in degrees."`
}

func (c *exportCmd) Run(ctx context.Context) error {
	write := func(b *book.Book, out io.Writer) error {
		q := book.Query{Tract: c.Tract, Stand: c.Stand}
		if c.Format == "boundaries" {
			return b.Boundaries(ctx, out, q)
		}
		return b.Export(ctx, out, q, c.Format,
			book.About{Title: "Trees of the book", Publisher: c.Publisher, License: c.License, Country: c.Country, UTM: c.UTM})
	}
	return c.with(ctx, func(b *book.Book) error {
		if err := writeNew(c.Out, func(out io.Writer) error { return write(b, out) }); err != nil || c.Out == stdio {
			return err
		}
		fmt.Printf("%s is written.\n", c.Out)
		return nil
	})
}

type importCmd struct {
	bookFlags
	In        string            `arg:"" help:"A table, map, field record or archive; - for standard input." type:"existingfile"`
	Tract     string            `help:"Tract of lines that name none."`
	Stand     string            `help:"Stand of lines that name none."`
	Region    string            `help:"Region of the flora of lines that do not say: ${regions}; the home region if not given."`
	Among     string            `help:"List that lines that do not say are ranked among; the whole region if not given."`
	Zone      string            `help:"UTM zone of lines that name none, as 15N."`
	Date      string            `help:"Day of lines that have none, as 2026-01-31; today if not given."`
	By        string            `help:"Who puts it in."`
	Map       map[string]string `help:"What a column holds: --map 'Tree No=tag'. Without a field it is left out." mapsep:"none"`
	Answer    map[string]string `help:"Which tree a name is: --answer 'soft maple=Acer rubrum'. Without a tree it is none." mapsep:"none"`
	Far       bool              `help:"Lines far from the other trees of their tract are meant."`
	Positions bool              `help:"Give trees that the book has already the file's positions."`
	Dry       bool              `help:"Say what would go in, and put nothing in."`
}

func (c *importCmd) Run(ctx context.Context) error {
	file, err := readFile(c.In, book.FileMost)
	if err != nil {
		return err
	}
	return c.making(ctx, func(b *book.Book) error { return c.put(ctx, b, file) })
}

func (c *importCmd) put(ctx context.Context, b *book.Book, file []byte) error {
	p, err := b.ReadFile(ctx, filepath.Base(c.In), file)
	if err != nil {
		return err
	}
	m := p.Mapping
	m.Tract, m.Stand, m.Region, m.List = c.Tract, c.Stand, c.Region, c.Among
	if c.Date != "" {
		m.Date = c.Date
	}
	m.Far, m.Zone = c.Far, c.Zone
	if err := errors.Join(c.columns(p.Columns, &m), c.answers(b, &m)); err != nil {
		return errors.Join(err, b.StopImport(p.ID))
	}
	if p, err = b.Preview(ctx, p.ID, m); err != nil {
		return err
	}
	if p.Wrong != "" {
		return errors.Join(
			fmt.Errorf("%s cannot be put in as it is: %s; say what its columns hold with --map", c.In, p.Wrong),
			b.StopImport(p.ID),
		)
	}
	for _, f := range p.Faults {
		more := ""
		if n := f.Lines - len(f.At); n > 0 {
			more = fmt.Sprintf(" and %d more", n)
		}
		fmt.Printf("%s%s: %s\n", strings.Join(f.At, ", "), more, f.Says)
	}
	for _, f := range p.Fresh {
		fmt.Printf("new stand: %s, %s (lines: %d)", f.Stand, f.Tract, f.Lines)
		if f.Near != "" {
			fmt.Printf("; do you mean %s?", f.Near)
		}
		fmt.Println()
	}
	fmt.Printf("%d of %d lines can go in; %d have problems, %d are in the book already.\n", p.Good, p.Total, p.Bad, p.Known)
	var left error
	if p.Bad > 0 {
		left = fmt.Errorf("left out: %d of %d lines; mend them in the file and import it again, which passes over trees that are in the book",
			p.Bad, p.Total)
	}
	if c.Dry || p.Good == 0 && !(c.Positions && p.Placed > 0) {
		return errors.Join(left, b.StopImport(p.ID))
	}
	if err := b.PutIn(ctx, p.ID, m, book.Choice{Positions: c.Positions}, c.By); err != nil {
		return err
	}
	return errors.Join(follow(ctx, b, p.ID), left)
}

// columns maps columns as was said by their headings.
func (c *importCmd) columns(headings []string, m *book.Mapping) error {
	m.Units = make([]string, len(headings))
	for heading, field := range c.Map {
		at := slices.IndexFunc(headings, func(h string) bool { return strings.EqualFold(strings.TrimSpace(h), strings.TrimSpace(heading)) })
		if at < 0 {
			return fmt.Errorf("--map: the file has no column %q; it has %s", heading, strings.Join(headings, ", "))
		}
		if f := exchange.FieldByID(field); field != "" && (f == nil || !f.Settable()) {
			return fmt.Errorf("--map: %q is no field; use one of %s", field, strings.Join(exchange.FieldIDs(), ", "))
		}
		if was := slices.Index(m.Columns, field); was >= 0 && field != "" {
			m.Columns[was] = "" // guessed of another
		}
		m.Columns[at] = field
		if f := exchange.FieldByID(field); f != nil && f.Unit() != "" {
			m.Units[at] = f.Unit()
		}
	}
	return nil
}

// answers says which trees names in the file are.
func (c *importCmd) answers(b *book.Book, m *book.Mapping) error {
	names := maps.Clone(m.Names)
	if names == nil {
		names = map[string]book.Meant{}
	}
	for written, is := range c.Answer {
		meant, err := exchange.Means(b.Flora(), is)
		if err != nil {
			return fmt.Errorf("--answer %q: %w", written, err)
		}
		names[written] = book.Meant(meant)
	}
	m.Names = names
	return nil
}

// follow says how an import goes on until it ends, and stops it when ctx is done.
func follow(ctx context.Context, b *book.Book, id string) error {
	for {
		p, err := b.ImportProgress(id)
		if err != nil {
			return err
		}
		if p.Ended {
			if p.Wrong != "" {
				return errors.New(p.Wrong)
			}
			fmt.Printf("\rTrees put into the book: %d.          \n", p.Trees)
			return nil
		}
		fmt.Printf("\r%d of %d; Ctrl-C stops and leaves nothing", p.Done, p.Total)
		select {
		case <-ctx.Done():
			return errors.Join(errors.New("stopped; nothing was put in"), b.StopImport(id))
		case <-time.After(time.Second):
		}
	}
}
