package main

import (
	"context"
	"fmt"
	"io"
	"os"
	"runtime/debug"

	"palethicket/core/tree/answer"
)

type identifyCmd struct {
	floraFlag
	In  string `help:"File of field records (JSON); - reads standard input." default:"-"`
	Out string `help:"File for the results; - writes standard output." default:"-"`

	Next    int  `help:"How many next looks to work out." default:"3"`
	Draws   int  `help:"Most specimens drawn for the fit; 0 leaves it out." default:"500"`
	Explain bool `help:"Add the plan, warnings, cautions and what each look says."`
}

func (c *identifyCmd) Run(ctx context.Context) error {
	f, err := c.load()
	if err != nil {
		return err
	}
	in, err := reading(c.In)
	if err != nil {
		return err
	}
	defer in.Close()
	opt := answer.Brief
	if c.Explain {
		opt = answer.Usual
		opt.Plan = true
	}
	opt.Next, opt.Draws.Most = c.Next, c.Draws
	debug.SetGCPercent(800) // records come and go: collect less often
	failed := 0
	err = writeFile(c.Out, func(out io.Writer) (err error) {
		failed, err = answer.NewEngine(f).Stream(ctx, out, in, opt, progress(c.Out))
		return err
	})
	if err != nil {
		return err
	}
	if failed > 0 {
		return fmt.Errorf("%d of the records could not be read; their results say why", failed)
	}
	return nil
}

// progress says on the terminal how many records are answered, where the
// results go to a file.
func progress(out string) func(int) {
	if out == "-" {
		return nil
	}
	next := 0
	return func(done int) {
		if done >= next {
			fmt.Fprintf(os.Stderr, "\r%d records answered; Ctrl-C stops", done)
			next = done + 5000
		}
	}
}
