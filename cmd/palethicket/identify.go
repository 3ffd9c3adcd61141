package main

import (
	"errors"
	"fmt"
	"io"
	"os"

	"palethicket/core/flora"
	"palethicket/core/identify"
	files "palethicket/flora"
)

type identifyCmd struct {
	In  string `help:"File of field records (JSON); - reads standard input." default:"-"`
	Out string `help:"File for the results; - writes standard output." default:"-"`

	Next  int `help:"How many next looks to work out." default:"3"`
	Draws int `help:"Specimens drawn for the fit; 0 leaves it out." default:"1000"`
}

func (c *identifyCmd) Run() (err error) {
	f, err := flora.Load(files.Files)
	if err != nil {
		return err
	}
	in, out := io.ReadCloser(os.Stdin), io.WriteCloser(os.Stdout)
	if c.In != "-" {
		if in, err = os.Open(c.In); err != nil {
			return fmt.Errorf("reading the records: %w", err)
		}
		defer in.Close()
	}
	if c.Out != "-" {
		if out, err = os.Create(c.Out); err != nil {
			return fmt.Errorf("writing the results: %w", err)
		}
		defer func() { err = errors.Join(err, out.Close()) }()
	}
	failed, err := identify.NewEngine(f).Stream(out, in, identify.Options{Next: c.Next, Draws: c.Draws})
	if err != nil {
		return err
	}
	if failed > 0 {
		return fmt.Errorf("%d of the records could not be read; their results say why", failed)
	}
	return nil
}
