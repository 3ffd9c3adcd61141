package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/signal"
	"regexp"
	"runtime/debug"
	"slices"
	"strings"
	"syscall"

	"github.com/alecthomas/kong"
	"github.com/willabides/kongplete"
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

	Completions kongplete.InstallCompletions `cmd:"" help:"Print the lines for the shell's start-up file that have it complete commands."`
	Version     kong.VersionFlag             `help:"Say which version this is."`
}

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	parser := reader(ctx)
	kongplete.Complete(parser)
	k, err := parser.Parse(signed(os.Args[1:]))
	if err == nil {
		err = k.Run()
	}
	if err != nil {
		fmt.Fprintf(os.Stderr, "palethicket: %v%s\n", err, more(err))
		os.Exit(1)
	}
}

// reader reads what is typed after the program's name.
func reader(ctx context.Context, more ...kong.Option) *kong.Kong {
	return kong.Must(&cli{}, append(more, kong.Name("palethicket"),
		kong.Description("Names leafless trees in winter from whatever could be seen of them, and keeps the record."),
		kong.Vars{"formats": fileFormats, "version": version(), "regions": regions}, kong.BindTo(ctx, (*context.Context)(nil)),
		kong.ValueFormatter(helpOf))...)
}

// regions are those of the shipped flora, for help; a flora of one's own may have others.
const regions = "eastern-north-america, british-isles or continental-europe, or one of your own flora's"

// helpOf is the help of a flag, with the words that it takes where it does not say them itself.
func helpOf(v *kong.Value) string {
	help := kong.DefaultHelpValueFormatter(v)
	said := func(word string) bool { return strings.Contains(help, word) }
	if words := strings.Split(v.Enum, ","); !slices.ContainsFunc(words, func(w string) bool { return !said(w) }) {
		return help
	}
	return help + " One of " + strings.ReplaceAll(v.Enum, ",", ", ") + "."
}

// signed joins a flag and a figure below nought, as in --at -33.9,151.2, which would be taken for another flag.
func signed(args []string) (out []string) {
	for i := 0; i < len(args); i++ {
		if flag.MatchString(args[i]) && i+1 < len(args) && below.MatchString(args[i+1]) {
			out = append(out, args[i]+"="+args[i+1])
			i++
			continue
		}
		out = append(out, args[i])
	}
	return out
}

var (
	flag  = regexp.MustCompile(`^--[a-z][a-z-]*$`)
	below = regexp.MustCompile(`^-\.?\d`)
)

// more says where help is, after what was typed wrongly.
func more(err error) string {
	var typed *kong.ParseError
	if !errors.As(err, &typed) {
		return ""
	}
	of := "palethicket"
	if typed.Context != nil && typed.Context.Selected() != nil {
		of += " " + typed.Context.Selected().Path()
	}
	return "; see " + of + " --help"
}

// version is what the program was built from.
func version() string {
	info, ok := debug.ReadBuildInfo()
	if !ok {
		return "palethicket, version not known"
	}
	of := map[string]string{}
	for _, s := range info.Settings {
		of[s.Key] = s.Value
	}
	words := []string{"palethicket", info.Main.Version}
	if rev := of["vcs.revision"]; rev != "" {
		words = append(words, rev[:min(12, len(rev))], of["vcs.time"])
	}
	return strings.Join(append(words, info.GoVersion), " ")
}
