package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"time"

	"palethicket/book"
)

type exportCmd struct {
	bookFlags
	Format    string `help:"json is the field record, dwca a Darwin Core Archive." enum:"csv,xlsx,geojson,gpx,json,dwca" required:""`
	Out       string `help:"The file to write, which must not be there yet; - for standard output." required:"" type:"path"`
	Tract     string `help:"Only trees of this tract."`
	Stand     string `help:"Only trees of this stand."`
	Publisher string `help:"Who publishes it; stands in archives."`
}

func (c *exportCmd) Run(ctx context.Context) error {
	write := func(b *book.Book, out io.Writer) error {
		return b.Export(ctx, out, book.Query{Tract: c.Tract, Stand: c.Stand}, c.Format,
			book.About{Title: "Trees of the book", Publisher: c.Publisher})
	}
	return c.with(ctx, func(b *book.Book) error {
		if c.Out == "-" {
			return write(b, os.Stdout)
		}
		out, err := os.OpenFile(c.Out, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o644)
		if errors.Is(err, os.ErrExist) {
			return fmt.Errorf("%s is there already: choose another name, or move it away", c.Out)
		}
		if err != nil {
			return fmt.Errorf("making %s: %w", c.Out, err)
		}
		if err := errors.Join(write(b, out), out.Close()); err != nil {
			return errors.Join(err, os.Remove(c.Out))
		}
		fmt.Printf("%s is written.\n", c.Out)
		return nil
	})
}

type importCmd struct {
	bookFlags
	In        string `arg:"" help:"A table (CSV, XLSX), GPX, GeoJSON, field record or Darwin Core Archive; - for standard input." type:"existingfile"`
	Tract     string `help:"Tract of lines that name none."`
	Stand     string `help:"Stand of lines that name none."`
	Region    string `help:"Region of the flora of lines that do not say; the home region if not given."`
	Among     string `help:"List that lines that do not say are ranked among; the whole region if not given."`
	Date      string `help:"Day of lines that have none, as 2026-01-31; today if not given."`
	By        string `help:"Who puts it in."`
	Positions bool   `help:"Give trees that the book has already the file's positions."`
	Dry       bool   `help:"Say what would go in, and put nothing in."`
}

func (c *importCmd) Run(ctx context.Context) error {
	read := func() ([]byte, error) { return os.ReadFile(c.In) }
	if c.In == "-" {
		read = func() ([]byte, error) { return io.ReadAll(io.LimitReader(os.Stdin, book.FileMost+1)) } // one more is refused
	}
	file, err := read()
	if err != nil {
		return fmt.Errorf("reading %s: %w", c.In, err)
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
	if p, err = b.Preview(ctx, p.ID, m); err != nil {
		return err
	}
	if p.Wrong != "" {
		return errors.Join(
			fmt.Errorf("%s cannot be put in as it is: %s; name its columns as docs/file-formats.md has them", c.In, p.Wrong),
			b.StopImport(p.ID),
		)
	}
	for _, l := range p.Lines {
		for _, problem := range l.Problems {
			fmt.Printf("%s, tag %s: %s\n", l.At, l.Tag, problem)
		}
	}
	fmt.Printf("%d of %d lines can go in; %d have problems, %d are in the book already.\n", p.Good, p.Total, p.Bad, p.Known)
	var left error
	if p.Bad > 0 {
		left = fmt.Errorf("%d of %d lines are left out: mend them in the file and read it again; what is in by then is passed over",
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
			fmt.Printf("\r%d trees are in the book.          \n", p.Trees)
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
