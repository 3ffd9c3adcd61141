package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"runtime/debug"
	"sync"
	"syscall"
	"time"

	"palethicket/book"
	"palethicket/core/flora"
	"palethicket/core/stand/revisit"
	files "palethicket/flora"
)

// floraFlag lets a command use another flora than the one inside the program, and
// lists beside those of a book.
type floraFlag struct {
	Flora string   `help:"A flora of your own: a file or a folder (docs/flora-format.md)." type:"path" env:"PALETHICKET_FLORA"`
	Lists []string `name:"list" help:"A list of the trees of one tract (YAML), which records may name as their list." type:"path"`
}

// shipped is the flora in the program.
var shipped = sync.OnceValues(func() (*flora.Flora, error) { return flora.Load(files.Files) })

func (c *floraFlag) load() (*flora.Flora, error) {
	own, err := c.own()
	if err != nil {
		return nil, err
	}
	return read(own)
}

// read gives a flora with its lists.
func read(own flora.Own) (*flora.Flora, error) {
	if own.Name != "" || len(own.Files) > 0 {
		return own.Load(files.Files)
	}
	f, err := shipped()
	if err != nil || len(own.Lists) == 0 {
		return f, err
	}
	return f.With(own.Lists...)
}

// own reads what was named, which may be nothing.
func (c *floraFlag) own() (own flora.Own, err error) {
	for _, path := range c.Lists {
		l, err := readList(path)
		if err != nil {
			return own, err
		}
		own.Lists = append(own.Lists, l)
	}
	if c.Flora == "" {
		return own, nil
	}
	info, err := os.Stat(c.Flora)
	if err != nil {
		return own, fmt.Errorf("reading the flora: %w", err)
	}
	if info.IsDir() {
		own.Files, err = flora.ReadFolder(os.DirFS(c.Flora))
		if err == nil && len(own.Files) == 0 {
			err = fmt.Errorf("reading the flora: there are no YAML files in %s", c.Flora)
		}
		return own, err
	}
	own.Name = filepath.Base(c.Flora)
	if own.Text, err = os.ReadFile(c.Flora); err != nil {
		return own, fmt.Errorf("reading the flora: %w", err)
	}
	return own, nil
}

func readList(path string) (flora.List, error) {
	in, err := os.Open(path)
	if err != nil {
		return flora.List{}, fmt.Errorf("reading the list: %w", err)
	}
	defer in.Close()
	l, err := flora.ReadListYAML(in)
	if err != nil {
		return flora.List{}, fmt.Errorf("%s: %w", path, err)
	}
	return l, nil
}

// bookFlags name a book and what it is read with: the flora and lists given, else
// those it was served with last.
type bookFlags struct {
	floraFlag
	Data string `help:"The book." default:"palethicket.db" type:"path" env:"PALETHICKET_DATA"`
}

// unhurried is how much the heap may grow, in hundredths, before it is looked over while a
// book is opened.
const unhurried = 400

// open opens the book, making it where there is none, and brings its standings up to date with the flora.
func (d *bookFlags) open(ctx context.Context, warm bool) (*book.Book, error) {
	defer debug.SetGCPercent(debug.SetGCPercent(unhurried)) // nearly all that opening makes stays
	if err := d.remember(ctx); err != nil {
		return nil, err
	}
	own, err := d.own()
	if err != nil {
		return nil, d.explain(err)
	}
	f, err := read(own)
	if err != nil {
		return nil, d.explain(err)
	}
	if err := writable(d.Data); err != nil {
		return nil, err
	}
	calendar, err := revisit.Load(files.Files)
	if err != nil {
		return nil, err
	}
	_, errStat := os.Stat(d.Data)
	b, err := book.Open(ctx, d.Data, book.Options{Flora: f, Own: !own.None(), Calendar: calendar, Warm: warm})
	if err != nil {
		return nil, err
	}
	if errors.Is(errStat, os.ErrNotExist) {
		fmt.Fprintf(os.Stderr, "Made a new book: %s.\n", d.Data)
	}
	told := time.Now()
	err = b.WeighStale(ctx, func(done, left int) {
		if time.Since(told) > time.Second || left == 0 && done > 1000 {
			told = time.Now()
			fmt.Fprintf(os.Stderr, "Weighing every tree with this flora: %d done, %d to go.\n", done, left)
		}
	})
	if err != nil {
		return nil, errors.Join(err, b.Close())
	}
	return b, nil
}

// remember takes over what the book was served with, where nothing is given.
func (d *bookFlags) remember(ctx context.Context) error {
	if d.Flora != "" || len(d.Lists) > 0 {
		return nil
	}
	with, err := book.ServedWith(ctx, d.Data)
	d.Flora, d.Lists = with.Flora, with.Lists
	return err
}

func (d *bookFlags) explain(err error) error {
	if d.Flora == "" && len(d.Lists) == 0 {
		return err
	}
	return fmt.Errorf(
		"%w; the book %s is read with this flora and these lists because it was served with them, or they were named: "+
			"name others with --flora and --list",
		err,
		d.Data,
	)
}

// with opens a book that is there for as long as use takes.
func (d *bookFlags) with(ctx context.Context, use func(*book.Book) error) error {
	if _, err := os.Stat(d.Data); errors.Is(err, os.ErrNotExist) {
		return fmt.Errorf("there is no book at %s: name one with --data; serve, demo, import and restore make new ones", d.Data)
	}
	return d.making(ctx, use)
}

// making is with for a book that may have to be made.
func (d *bookFlags) making(ctx context.Context, use func(*book.Book) error) error {
	b, err := d.open(ctx, false)
	if err != nil {
		return err
	}
	return errors.Join(use(b), b.Close())
}

// writable says in one line why a book cannot be kept at path, if so.
func writable(path string) error {
	file, err := os.OpenFile(path, os.O_RDWR, 0o600)
	if errors.Is(err, os.ErrNotExist) { // it is made by who opens the book, and never left empty
		file, err = os.CreateTemp(filepath.Dir(path), ".palethicket-")
		if err == nil {
			defer os.Remove(file.Name())
		}
	}
	switch {
	case errors.Is(err, os.ErrNotExist):
		return fmt.Errorf("cannot keep the book at %s: the folder %s does not exist", path, filepath.Dir(path))
	case errors.Is(err, os.ErrPermission), errors.Is(err, syscall.EROFS):
		return fmt.Errorf("cannot keep the book at %s: no permission to write there", path)
	case errors.Is(err, syscall.EISDIR):
		return fmt.Errorf("cannot keep the book at %s: it is a folder; name a file in it", path)
	case err != nil:
		return fmt.Errorf("cannot keep the book at %s: %w", path, err)
	}
	return file.Close()
}
