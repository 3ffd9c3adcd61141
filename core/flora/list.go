package flora

import (
	"bufio"
	"cmp"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"maps"
	"slices"
	"strings"

	"go.yaml.in/yaml/v3"
)

// List is a pool of one's own: the trees of one tract, and how common each is
// there.
type List struct {
	Name      string            `yaml:"name" json:"name"`
	Region    string            `yaml:"region" json:"region"` // whose English names its trees go by
	Abundance map[string]string `yaml:"taxa" json:"taxa"`     // scientific name to abundance word
}

// With gives a flora of the same taxa that also knows the lists, beside those
// that this one knows. The error joins
// everything that is wrong with them.
func (f *Flora) With(lists ...List) (*Flora, error) {
	out := &Flora{Characters: f.Characters, Taxa: f.Taxa, Sources: f.Sources, Alike: f.Alike, Remarks: f.Remarks,
		Rules:   f.Rules,
		Digest:  f.Digest,
		Regions: f.Regions, byID: f.byID, byName: f.byName, lists: map[string]*List{}, whole: f.whole}
	maps.Copy(out.lists, f.lists)
	out.pools = f.pools.copied() // lists change nothing in what is laid out
	var errs []error
	for _, l := range lists {
		if err := f.CheckList(&l); err != nil {
			errs = append(errs, fmt.Errorf("list %q: %w", l.Name, err))
		}
		if out.lists[l.Name] != nil {
			errs = append(errs, fmt.Errorf("list %q stands twice", l.Name))
		}
		out.lists[l.Name] = &l
	}
	if err := errors.Join(errs...); err != nil {
		return nil, err
	}
	return out, nil
}

// List gives the list with the name, or nil.
func (f *Flora) List(name string) *List { return f.lists[name] }

// RegionList writes a region's own pool as a list, to start one's own from.
func (f *Flora) RegionList(region string) List {
	l := List{Name: region, Region: region, Abundance: map[string]string{}}
	for _, t := range f.Taxa {
		if word := t.Abundance[region]; word != "" {
			l.Abundance[t.Name] = word
		}
	}
	return l
}

// CheckList says everything that keeps a list from being a pool, or nil.
func (f *Flora) CheckList(l *List) error {
	var errs []error
	if strings.TrimSpace(l.Name) == "" {
		errs = append(errs, errors.New("a list needs a name"))
	}
	if slices.Contains(f.RegionIDs(), l.Name) {
		errs = append(errs, fmt.Errorf("a list cannot have the name of a region, %s", l.Name))
	}
	if err := UnknownWord("region", l.Region, f.RegionIDs()); err != nil {
		errs = append(errs, err)
	}
	if len(l.Abundance) < 2 {
		errs = append(errs, fmt.Errorf("it has %d taxa; naming a tree takes at least two", len(l.Abundance)))
	}
	for _, name := range slices.Sorted(maps.Keys(l.Abundance)) {
		if f.Taxon(name) == nil {
			errs = append(errs, UnknownWord("taxon", name, f.TaxonNames()))
		}
		if err := UnknownWord("abundance word", l.Abundance[name], slices.Sorted(maps.Keys(AbundanceWord))); err != nil {
			errs = append(errs, fmt.Errorf("%s: %w", name, err))
		}
	}
	return errors.Join(errs...)
}

// TaxonNames gives the scientific names of all taxa, in order.
func (f *Flora) TaxonNames() []string {
	names := make([]string, len(f.Taxa))
	for i := range f.Taxa {
		names[i] = f.Taxa[i].Name
	}
	return names
}

// listColumns are the columns of a list as CSV.
var listColumns = []string{"taxon", "abundance"}

// ReadListCSV reads a table with the columns taxon and abundance; others are
// passed over. Name and region are not part of the table.
func ReadListCSV(r io.Reader) (map[string]string, error) {
	in := csv.NewReader(r)
	in.FieldsPerRecord = -1
	in.TrimLeadingSpace = true
	head, err := in.Read()
	if err != nil {
		return nil, fmt.Errorf("reading the list's first line: %w", err)
	}
	var at [2]int
	for i, column := range listColumns {
		at[i] = slices.IndexFunc(head, func(h string) bool {
			return strings.EqualFold(strings.TrimSpace(strings.TrimPrefix(h, "\ufeff")), column)
		})
		if at[i] < 0 {
			return nil, fmt.Errorf("line 1: no column %q; a list has the columns %s", column, strings.Join(listColumns, ", "))
		}
	}
	out := map[string]string{}
	for {
		row, err := in.Read()
		if err == io.EOF {
			return out, nil
		}
		if err != nil {
			return nil, fmt.Errorf("reading the list: %w", err)
		}
		line, _ := in.FieldPos(0)
		if len(row) <= max(at[0], at[1]) {
			return nil, fmt.Errorf("line %d: %d fields, want a taxon and an abundance", line, len(row))
		}
		name := strings.TrimSpace(row[at[0]])
		if _, twice := out[name]; twice {
			return nil, fmt.Errorf("line %d: %s stands twice", line, name)
		}
		out[name] = strings.TrimSpace(row[at[1]])
	}
}

// ReadListTable reads the taxa of a list from CSV, or from YAML where its first line
// has a key.
func ReadListTable(r io.Reader) (map[string]string, error) {
	in := bufio.NewReader(r)
	start, err := in.Peek(listStart)
	if err != nil && !errors.Is(err, io.EOF) {
		return nil, fmt.Errorf("reading the list: %w", err)
	}
	if first, _, _ := strings.Cut(strings.TrimSpace(string(start)), "\n"); strings.Contains(first, ":") {
		l, err := ReadListYAML(in)
		return l.Abundance, err
	}
	return ReadListCSV(in)
}

// listStart is how many bytes are looked at to tell what a list is written in.
const listStart = 512

// ReadListYAML reads a list with the keys name, region and taxa.
func ReadListYAML(r io.Reader) (List, error) {
	var l List
	dec := yaml.NewDecoder(r)
	dec.KnownFields(true)
	if err := dec.Decode(&l); err != nil {
		return List{}, fmt.Errorf("reading the list: %w", err)
	}
	return l, nil
}

// WriteCSV writes the list's taxa as a table, the commonest first, with the
// English names for reading.
func (l *List) WriteCSV(w io.Writer, f *Flora) error {
	out := csv.NewWriter(w)
	if err := out.Write(append(slices.Clone(listColumns), "english")); err != nil {
		return fmt.Errorf("writing the list: %w", err)
	}
	names := slices.SortedFunc(maps.Keys(l.Abundance), func(a, b string) int {
		return cmp.Or(cmp.Compare(AbundanceWord[l.Abundance[b]], AbundanceWord[l.Abundance[a]]), cmp.Compare(a, b))
	})
	for _, name := range names {
		english := ""
		if t := f.Taxon(name); t != nil {
			english = t.Called(l.Region)
		}
		if err := out.Write([]string{name, l.Abundance[name], english}); err != nil {
			return fmt.Errorf("writing the list: %w", err)
		}
	}
	out.Flush()
	return out.Error()
}

// WriteYAML writes the list as [ReadListYAML] reads it.
func (l *List) WriteYAML(w io.Writer) error {
	enc := yaml.NewEncoder(w)
	enc.SetIndent(2)
	if err := enc.Encode(l); err != nil {
		return fmt.Errorf("writing the list: %w", err)
	}
	return enc.Close()
}
