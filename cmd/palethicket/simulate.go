package main

import (
	"context"
	"fmt"
	"net"

	"palethicket/instrument"
	"palethicket/instrument/simulate"
)

type simulateCmd struct {
	Kind   string `arg:"" enum:"gnss,caliper,hypsometer,weather" help:"What to simulate: gnss, caliper, hypsometer or weather."`
	Listen string `help:"Address to answer at." default:"127.0.0.1:8091"`
	Faults bool   `help:"Go through the faults that such an instrument has, one after another."`
}

func (c *simulateCmd) Run(ctx context.Context) error {
	ln, err := net.Listen("tcp", c.Listen)
	if err != nil {
		return fmt.Errorf("cannot listen at %s: %w", c.Listen, err)
	}
	kind := instrument.Kind(c.Kind)
	fmt.Printf("A simulated %s answers at %s. Ctrl-C stops it.\n", kind.Words(), ln.Addr())
	return simulate.Serve(ctx, ln, kind, simulate.Options{Faults: c.Faults})
}
