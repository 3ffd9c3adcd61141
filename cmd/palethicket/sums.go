package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"

	"palethicket/core/measure/sums"
)

type sumsCmd struct {
	In  string `help:"File of sums (JSON); - reads standard input." default:"-"`
	Out string `help:"File for the results; - writes standard output." default:"-"`
}

// sumsMost is how large a file of sums may be, in bytes.
const sumsMost = 64 << 20

func (c *sumsCmd) Run() (err error) {
	in := io.ReadCloser(os.Stdin)
	if c.In != "-" {
		if in, err = os.Open(c.In); err != nil {
			return fmt.Errorf("reading the sums: %w", err)
		}
		defer in.Close()
	}
	file, err := io.ReadAll(io.LimitReader(in, sumsMost+1))
	if err != nil {
		return fmt.Errorf("reading the sums: %w", err)
	}
	if len(file) > sumsMost {
		return fmt.Errorf("%s has more than %d MB: do its sums in parts", c.In, sumsMost>>20)
	}
	results, err := sums.DoAll(file)
	if err != nil {
		return err
	}
	out := io.WriteCloser(os.Stdout)
	if c.Out != "-" {
		if out, err = os.Create(c.Out); err != nil {
			return fmt.Errorf("writing the results: %w", err)
		}
		defer func() { err = errors.Join(err, out.Close()) }()
	}
	enc := json.NewEncoder(out)
	enc.SetIndent("", " ")
	enc.SetEscapeHTML(false)
	return enc.Encode(map[string]any{"results": results})
}
