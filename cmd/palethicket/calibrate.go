package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"

	"palethicket/core/flora"
	"palethicket/core/proof/calibration"
)

type calibrateCmd struct {
	floraFlag
	Region    string `help:"Whose trees are drawn: ${regions}." default:"eastern-north-america"`
	Specimens int    `help:"How many specimens to draw." default:"1000000"`
	Seed      uint64 `help:"Seed of the draws." default:"1"`
	Out       string `help:"Folder for calibration.md and calibration.svg." default:"." type:"path"`
}

func (c *calibrateCmd) Run(ctx context.Context) error {
	f, err := c.load()
	if err != nil {
		return err
	}
	pool, err := f.Pool(flora.PoolKey{Among: flora.Among{Region: c.Region}, Age: flora.At(flora.AnyAge)})
	if err != nil {
		return err
	}
	last := -1
	report, err := calibration.Run(ctx, pool.Model, c.Specimens, c.Seed, func(done int) {
		if percent := 100 * done / c.Specimens; percent != last {
			last = percent
			fmt.Fprintf(os.Stderr, "\r%3d %% of %d specimens; Ctrl-C stops", percent, c.Specimens)
		}
	})
	fmt.Fprintln(os.Stderr)
	if err != nil {
		return fmt.Errorf("stopped after %d specimens, nothing written: %w", report.Specimens, err)
	}
	text, plot := filepath.Join(c.Out, "calibration.md"), filepath.Join(c.Out, "calibration.svg")
	if err := errors.Join(writeFile(text, report.WriteText), writeFile(plot, report.WritePlot)); err != nil {
		return err
	}
	fmt.Printf("Written: %s and %s\n", text, plot)
	return nil
}
