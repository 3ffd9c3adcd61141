package main

import (
	"encoding/json"
	"fmt"
	"io"

	"palethicket/core/measure/sums"
)

type sumsCmd struct {
	In  string `help:"File of sums (JSON); - reads standard input." default:"-"`
	Out string `help:"File for the results; - writes standard output." default:"-"`
}

// sumsMost is how large a file of sums may be, in bytes.
const sumsMost = 64 << 20

func (c *sumsCmd) Run() error {
	file, err := readFile(c.In, sumsMost)
	if err != nil {
		return err
	}
	if len(file) > sumsMost {
		return fmt.Errorf("%s has more than %d MB: do its sums in parts", c.In, sumsMost>>20)
	}
	results, err := sums.DoAll(file)
	if err != nil {
		return err
	}
	return writeFile(c.Out, func(out io.Writer) error {
		enc := json.NewEncoder(out)
		enc.SetIndent("", " ")
		enc.SetEscapeHTML(false)
		return enc.Encode(map[string]any{"results": results})
	})
}
