package exchange

import (
	"bytes"
	_ "embed"
	"fmt"
	"regexp"
	"strings"
	"sync"

	"go.yaml.in/yaml/v3"

	"palethicket/core/flora"
)

//go:embed codes.yaml
var codesFile []byte

// code is how published lists write a tree short.
type code struct {
	Symbol string   `yaml:"symbol"`
	Also   []string `yaml:"also"` // older symbols
	Number int      `yaml:"number"`
}

// published gives the names that codes stand for: symbols in capitals, numbers as figures.
var published = sync.OnceValues(func() (map[string]string, error) {
	var codes map[string]code
	dec := yaml.NewDecoder(bytes.NewReader(codesFile))
	dec.KnownFields(true)
	if err := dec.Decode(&codes); err != nil {
		return nil, fmt.Errorf("reading codes.yaml: %w", err)
	}
	out := map[string]string{}
	for name, c := range codes {
		all := append([]string{c.Symbol}, c.Also...)
		if c.Number > 0 {
			all = append(all, fmt.Sprint(c.Number))
		}
		for _, one := range all {
			if other, twice := out[one]; twice {
				return nil, fmt.Errorf("codes.yaml: %s stands for %s and %s", one, other, name)
			}
			out[one] = name
		}
	}
	return out, nil
})

var (
	symbol  = regexp.MustCompile(`^([A-Za-z]{4})\d{0,3}$`)
	numeral = regexp.MustCompile(`^0*(\d{2,3})(?:\.0+)?$`)
)

// coded says what a code of the published lists stands for: at once where they have it, else as
// what it may be, by its letters.
func (c *caller) coded(written, region string) (called, bool) {
	codes, err := published()
	if err != nil {
		return called{}, false
	}
	if m := numeral.FindStringSubmatch(written); m != nil {
		return c.named(codes[m[1]])
	}
	m := symbol.FindStringSubmatch(written)
	if m == nil {
		return c.named(codes[strings.ToUpper(written)])
	}
	if is, ok := c.named(codes[strings.ToUpper(written)]); ok {
		return is, true
	}
	var maybe []Called
	for i := range c.flora.Taxa {
		if t := &c.flora.Taxa[i]; t.Abundance[region] != "" && strings.EqualFold(letters4(t.Name), m[1]) {
			maybe = append(maybe, Called{"species", t.Name})
		}
	}
	if len(maybe) == 1 && len(written) == len(m[1]) {
		return called{is: maybe[0], sure: true}, true
	}
	return called{maybe: maybe}, len(maybe) > 0
}

// named is a name of a code as the flora has it.
func (c *caller) named(name string) (called, bool) {
	rank := rankOf(c.flora, name)
	return called{is: Called{rank, name}, sure: true}, name != "" && rank != ""
}

// letters4 are the first two letters of a genus and of a species.
func letters4(name string) string {
	genus, rest, _ := strings.Cut(name, " ")
	rest = strings.TrimPrefix(rest, "×")
	if len(genus) < 2 || len(rest) < 2 || rest[0] == '(' {
		return ""
	}
	return genus[:2] + rest[:2]
}

// nameless are what tables have where nobody named a tree.
var nameless = map[string]bool{"n/a": true, "na": true, "none": true, "-": true, "--": true, "—": true,
	"unknown": true, "unk": true, "unk.": true, "?": true}

// initial is a genus by its first letter, as in Q. alba; authored is what stands behind a name: who
// gave it, as in Quercus alba L. or Acer saccharum Marsh.
var (
	initial  = regexp.MustCompile(`^([A-Z])\.?\s+([a-z][a-z-]+)$`)
	authored = regexp.MustCompile(`^([A-Z][a-z]+ (?:[x×] ?)?[a-z][a-z-]+)(?:\s+[(A-Z].*)$`)
)

// plainName takes the author off a scientific name, and gives an initial its genus where one
// tree alone may be meant.
func plainName(f *flora.Flora, written, region string) string {
	if m := authored.FindStringSubmatch(written); m != nil {
		return m[1]
	}
	m := initial.FindStringSubmatch(written)
	if m == nil {
		return written
	}
	found := ""
	for i := range f.Taxa {
		t := &f.Taxa[i]
		if t.Genus[:1] == m[1] && t.Name == t.Genus+" "+m[2] && (region == "" || t.Abundance[region] != "") {
			if found != "" {
				return written
			}
			found = t.Name
		}
	}
	if found == "" {
		return written
	}
	return found
}
