package demo

import (
	"context"
	"fmt"
	"net"

	"palethicket/book"
	"palethicket/instrument"
	"palethicket/instrument/simulate"
)

// crewKit are the instruments that the invented crew carries, and the station at the pump
// house.
var crewKit = []book.Instrument{
	{Name: "Receiver at the belt", Kind: string(instrument.Receiver)},
	{Name: "Caliper", Kind: string(instrument.Caliper)},
	{Name: "Hypsometer", Kind: string(instrument.Hypsometer)},
	{Name: "Pump house station", Kind: string(instrument.Weather)},
}

// Instruments starts simulated ones until ctx is done, each at a free address of this
// machine, and has the book name them.
func Instruments(ctx context.Context, b *book.Book, o simulate.Options) error {
	kit := append([]book.Instrument(nil), crewKit...)
	for i := range kit {
		ln, err := net.Listen("tcp", "127.0.0.1:0")
		if err != nil {
			return fmt.Errorf("simulating the %s: %w", kit[i].Kind, err)
		}
		kit[i].Address = ln.Addr().String()
		kind := instrument.Kind(kit[i].Kind)
		if kind == instrument.Weather {
			kit[i].Address = "http://" + kit[i].Address
		}
		o := o
		o.Seed = uint64(i + 1)
		go func() { _ = simulate.Serve(ctx, ln, kind, o) }() // it says itself how it does: it does not answer
	}
	return b.PutInstruments(ctx, kit)
}
