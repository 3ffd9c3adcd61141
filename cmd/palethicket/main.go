package main

import (
	"context"
	"os"
	"os/signal"
	"syscall"

	"github.com/alecthomas/kong"
)

type cli struct {
	Serve       serveCmd       `cmd:"" help:"Serve the application over a book of your own."`
	Demo        demoCmd        `cmd:"" help:"Serve the invented Lantern Creek forest, in a book of its own."`
	Identify    identifyCmd    `cmd:"" help:"Answer a file of field records."`
	Flora       floraCmd       `cmd:"" help:"Look into the flora."`
	Plates      platesCmd      `cmd:"" help:"Draw the trees of the flora."`
	Sums        sumsCmd        `cmd:"" help:"Do a file of sums: heights, basal areas, sweeps and the like."`
	Light       lightCmd       `cmd:"" help:"Say when the sun rises and sets somewhere."`
	Key         keyCmd         `cmd:"" help:"Make a printed key to just the trees that could be meant."`
	Print       printCmd       `cmd:"" help:"Print tally sheets, gauge cards, labels and look-alike cards."`
	Simulate    simulateCmd    `cmd:"" help:"Answer as an instrument that does not exist."`
	Calibrate   calibrateCmd   `cmd:"" help:"Draw specimens and see whether posteriors come true."`
	Backup      backupCmd      `cmd:"" help:"Copy a book, in use or not, to a new file."`
	Restore     restoreCmd     `cmd:"" help:"Make a new book of a backup."`
	Export      exportCmd      `cmd:"" help:"Write trees as a file."`
	Import      importCmd      `cmd:"" help:"Read trees from a file."`
	TakeIn      heldCmd        `cmd:"" help:"Take in what a device saved of what was not home yet."`
	Crew        crewCmd        `cmd:"" help:"Say who may sign in."`
	Check       checkCmd       `cmd:"" help:"Look a book over for damage."`
	Certificate certificateCmd `cmd:"" help:"Make a certificate to serve a local network securely."`
	OpenAPI     openAPICmd     `cmd:"" name:"openapi" help:"Print the description of the HTTP interface."`
}

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	var c cli
	k := kong.Parse(&c, kong.Name("palethicket"),
		kong.Description("Names leafless trees in winter from whatever could be seen of them, and keeps the record."),
		kong.UsageOnError(), kong.Vars{"formats": fileFormats}, kong.BindTo(ctx, (*context.Context)(nil)))
	k.FatalIfErrorf(k.Run())
}
