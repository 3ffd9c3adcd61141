package flora

import (
	"cmp"
	"errors"
	"fmt"
	"hash"
	"hash/fnv"
	"io/fs"
	"maps"
	"math"
	"path"
	"slices"
	"strings"

	"go.yaml.in/yaml/v3"

	"palethicket/core/weigh/evidence"
)

const (
	charactersFile = "characters.yaml"
	sourcesFile    = "sources.yaml"
	defaultsFile   = "defaults.yaml"
	alikeFile      = "look-alikes.yaml"
	regionsFile    = "regions.yaml"
	rulesFile      = "rules.yaml"
	drawingFile    = "drawing.yaml"
)

// shared are the files that are not of one genus.
var shared = []string{charactersFile, sourcesFile, defaultsFile, alikeFile, regionsFile, rulesFile, phenologyFile, drawingFile, carriesFile}

// Load reads a flora: characters.yaml, regions.yaml, sources.yaml, defaults.yaml
// and one file per genus, with look-alikes.yaml and rules.yaml where there are any.
// The error joins everything that is wrong, each with its file and line.
func Load(dir fs.FS) (*Flora, error) {
	r, err := newReader(dir)
	if err != nil {
		return nil, err
	}
	names, err := fs.Glob(dir, "*.yaml")
	if err != nil {
		return nil, fmt.Errorf("listing the flora: %w", err)
	}
	for _, name := range names {
		if !slices.Contains(shared, name) {
			r.genus(r.open(name))
		}
	}
	if slices.Contains(names, alikeFile) {
		r.alike(r.parse(alikeFile))
	}
	r.drawing()
	r.carries(false)
	return r.finish()
}

// LoadOutside reads a flora of one's own from one file: the keys regions,
// sources, genera and look-alikes, of which only genera must be there. Each
// genus is written as in a genus file. Characters, defaults and the sources of
// shipped stand beside it; its taxa do not.
func LoadOutside(shipped fs.FS, name string, text []byte) (*Flora, error) {
	r, err := newReader(shipped)
	if err != nil {
		return nil, err
	}
	top := r.parseText(name, text)
	if top == nil {
		return nil, errors.Join(r.errs...)
	}
	if top.Kind != yaml.MappingNode {
		r.fail(top, "want keys and values at the top")
		return nil, errors.Join(r.errs...)
	}
	r.onlyKeys(top, "an outside flora", []string{"regions", "sources", "genera", "look-alikes"})
	if regions := child(top, "regions"); regions != nil {
		var ids []string
		r.decode(regions, &ids)
		r.flora.Regions = nil
		for _, id := range ids {
			r.flora.Regions = append(r.flora.Regions, Region{id, id})
		}
	}
	r.decode(child(top, "sources"), &r.flora.Sources)
	if genera := child(top, "genera"); genera != nil {
		for _, n := range genera.Content {
			r.genus(n)
		}
	}
	r.alike(child(top, "look-alikes"))
	r.carries(true)
	return r.finish()
}

// newReader reads what the genera rest on.
func newReader(dir fs.FS) (*reader, error) {
	r := &reader{
		dir:   dir,
		ahead: readAhead(dir),
		sum:   fnv.New64a(),
		flora: &Flora{Sources: map[string]Source{}, byID: map[string]int{}, byName: map[string]int{},
			pools: &pools{}, whole: &pools{}},
	}
	r.characters()
	r.sources()
	r.decode(r.parse(regionsFile), &r.flora.Regions)
	r.hanging()
	if _, err := fs.Stat(dir, rulesFile); err == nil { // a flora may know no rules
		r.rules(r.parse(rulesFile))
	}
	r.defaults = r.values(r.open(defaultsFile))
	for _, e := range r.defaults {
		e.Usual = true
	}
	return r, errors.Join(r.errs...) // every genus would repeat them
}

// finish puts the taxa in order and gives the flora, or all that is wrong.
func (r *reader) finish() (*Flora, error) {
	f := r.flora
	f.Digest = fmt.Sprintf("%016x", r.sum.Sum64())
	slices.SortFunc(f.Taxa, func(a, b Taxon) int { return strings.Compare(a.Name, b.Name) })
	for i, t := range f.Taxa {
		f.byName[t.Name] = i
	}
	slices.SortFunc(f.Remarks, func(a, b Remark) int {
		return cmp.Or(strings.Compare(a.File, b.File), cmp.Compare(a.Line, b.Line), strings.Compare(a.Character, b.Character))
	})
	if len(f.Taxa) == 0 && len(r.errs) == 0 {
		r.errs = append(r.errs, errors.New("the flora has no taxa"))
	}
	if len(r.errs) > 0 {
		return nil, errors.Join(r.errs...)
	}
	return f, nil
}

// reader gathers errors, so that one run names all of them.
type reader struct {
	dir   fs.FS
	file  string
	flora *Flora
	errs  []error
	sum   hash.Hash64 // of all that was read
	ahead ahead

	taxonName string            // whose values are being read, if a taxon's
	defaults  map[string]*Entry // what a taxon shows unless its file says otherwise
}

func (r *reader) fail(n *yaml.Node, format string, args ...any) {
	r.errs = append(r.errs, describe(r.file, n, format, args...))
}

// open reads a file into its top mapping, or reports why not.
func (r *reader) open(name string) *yaml.Node {
	top := r.parse(name)
	if top != nil && top.Kind != yaml.MappingNode {
		r.fail(top, "want keys and values at the top")
		return nil
	}
	return top
}

// parse reads a file into its top node, or reports why not.
func (r *reader) parse(name string) *yaml.Node {
	d := r.ahead.get(r.dir, name)
	if d.unread != nil {
		r.errs = append(r.errs, fmt.Errorf("reading the flora: %w", d.unread))
		return nil
	}
	_, _ = r.sum.Write(d.digest)
	return r.top(name, d.doc, d.err)
}

func (r *reader) parseText(name string, text []byte) *yaml.Node {
	_, _ = r.sum.Write(digestOf(text))
	var doc yaml.Node
	err := yaml.Unmarshal(text, &doc)
	return r.top(name, &doc, err)
}

// top is the top node of a file that was read, or reports why there is none.
func (r *reader) top(name string, doc *yaml.Node, err error) *yaml.Node {
	r.file = name
	if err != nil {
		r.errs = append(r.errs, fmt.Errorf("%s: %w", path.Base(name), err))
		return nil
	}
	if len(doc.Content) != 1 {
		r.errs = append(r.errs, fmt.Errorf("%s: is empty", name))
		return nil
	}
	return doc.Content[0]
}

// decode reads a node into v, reporting what does not fit.
func (r *reader) decode(n *yaml.Node, v any) {
	if n == nil {
		return
	}
	if err := n.Decode(v); err != nil {
		r.fail(n, "%w", err)
	}
}

// word checks that a scalar is one of the known words.
func (r *reader) word(n *yaml.Node, what, word string, known []string) {
	if err := UnknownWord(what, word, known); err != nil {
		r.fail(n, "%w", err)
	}
}

// alike reads the lines on what tells look-alikes apart.
func (r *reader) alike(top *yaml.Node) {
	if top == nil {
		return
	}
	if top.Kind != yaml.SequenceNode {
		r.fail(top, "want a list of pairs")
		return
	}
	known := make([]string, len(r.flora.Taxa))
	for i, t := range r.flora.Taxa {
		known[i] = t.Name
	}
	for _, n := range top.Content {
		var a Alike
		r.onlyKeys(n, "a pair", []string{"pair", "by", "line"})
		r.decode(n, &a)
		for _, name := range a.Pair {
			r.word(n, "taxon", name, known)
		}
		for _, id := range a.By {
			r.word(n, "character", id, r.flora.CharacterIDs())
		}
		if len(a.By) == 0 || a.Line == "" {
			r.fail(n, "%s and %s: a pair needs the characters it goes by, and a line", a.Pair[0], a.Pair[1])
		}
		if r.flora.Apart(a.Pair[0], a.Pair[1]) != nil {
			r.fail(n, "%s and %s stand twice", a.Pair[0], a.Pair[1])
		}
		r.flora.Alike = append(r.flora.Alike, a)
	}
}

func (r *reader) regionIDs() []string {
	ids := make([]string, len(r.flora.Regions))
	for i, region := range r.flora.Regions {
		ids[i] = region.ID
	}
	return ids
}

// rules reads the rules of thumb.
func (r *reader) rules(top *yaml.Node) {
	r.decode(top, &r.flora.Rules)
	for _, rule := range r.flora.Rules {
		r.word(top, "character", rule.Character, r.flora.CharacterIDs())
		if c := r.flora.Character(rule.Character); c != nil {
			r.word(top, "state", rule.Against, c.StateIDs())
		}
	}
}

func (r *reader) sources() {
	r.decode(r.open(sourcesFile), &r.flora.Sources)
}

func (r *reader) characters() {
	top := r.open(charactersFile)
	if top == nil {
		return
	}
	for i := 0; i+1 < len(top.Content); i += 2 {
		for _, n := range top.Content[i+1].Content {
			r.character(top.Content[i].Value, n)
		}
	}
	for i := range r.flora.Characters {
		if only := r.flora.Characters[i].Only; only != nil {
			r.checkOnly(&r.flora.Characters[i], only)
		}
		if by := r.flora.Characters[i].ShownBy; by != "" {
			if sign := r.flora.Character(by); sign == nil || sign.Kind != evidence.Sign {
				r.fail(top, "%s: shown_by is %q, want the id of a sign", r.flora.Characters[i].ID, by)
			}
		}
		if from := r.flora.Characters[i].FallsFrom; from != "" && r.flora.Character(from) == nil {
			r.fail(top, "%s: falls_from is %q, want the id of a character", r.flora.Characters[i].ID, from)
		}
	}
}

// characterFile is a character as it is written.
type characterFile struct {
	ID        string                        `yaml:"id"`
	Kind      string                        `yaml:"kind"`
	Ordered   bool                          `yaml:"ordered"`
	ByAge     bool                          `yaml:"by_age"`
	ByZone    bool                          `yaml:"by_zone"`
	Grows     bool                          `yaml:"grows"`
	Unit      string                        `yaml:"unit"`
	CanBe     []float64                     `yaml:"can_be"`
	Reach     string                        `yaml:"reach"`
	Seconds   int                           `yaml:"seconds"`
	Harm      string                        `yaml:"harm"`
	Only      map[string][]string           `yaml:"only"`
	ShownBy   string                        `yaml:"shown_by"`
	FallsFrom string                        `yaml:"falls_from"`
	Nothing   string                        `yaml:"nothing"`
	Told      float64                       `yaml:"told"`
	Months    []int                         `yaml:"months"`
	Name      string                        `yaml:"name"`
	Look      string                        `yaml:"look"`
	States    []string                      `yaml:"states"`
	Means     map[string]string             `yaml:"means"`
	Part      string                        `yaml:"part"`
	Lead      map[string]string             `yaml:"lead"`
	Together  yaml.Node                     `yaml:"together"`
	Mistaken  map[string]map[string]float64 `yaml:"mistaken"`
	Pairs     map[string][2]float64         `yaml:"pairs"`
}

// leads takes over how a key says what a character shows, in the order of the file.
func (r *reader) leads(n *yaml.Node, w *characterFile, c *Character) {
	c.Part = w.Part
	words := map[evidence.Kind][]string{evidence.Sign: {"seen", "not"}, evidence.Numeric: {"below", "from"}}[c.Kind]
	if words != nil {
		c.Lead = w.Lead
	} else {
		words = w.States
	}
	for word := range w.Lead {
		if !slices.Contains(words, word) {
			r.fail(n, "%s: lead says %q, want one of %s", w.ID, word, strings.Join(words, ", "))
		}
	}
	for i := 0; i+1 < len(w.Together.Content); i += 2 {
		t := Together{Words: w.Together.Content[i].Value}
		r.decode(w.Together.Content[i+1], &t.States)
		for _, s := range t.States {
			if c.State(s) < 0 {
				r.fail(n, "%s: together names %q, which is no state of it", w.ID, s)
			}
		}
		c.Together = append(c.Together, t)
	}
}

func (r *reader) months(n *yaml.Node, c *Character) {
	if c.Months != nil && (len(c.Months) != 2 || slices.ContainsFunc(c.Months, func(m int) bool { return m < 1 || m > 12 })) {
		r.fail(n, "%s: months is %v, want the first and the last month in which it shows", c.ID, c.Months)
		c.Months = nil
	}
}

// canBe takes over what a measure can be; without, nothing is too small or too large.
func (r *reader) canBe(n *yaml.Node, c *Character, between []float64) {
	c.Most = math.Inf(1)
	switch {
	case len(between) == 2 && between[0] > 0 && between[0] < between[1]:
		c.Least, c.Most = between[0], between[1]
	case between != nil:
		r.fail(n, "%s: can_be is %v, want the least and the most that any tree has", c.ID, between)
	}
}

var kindWords = []string{"categorical", "numeric", "sign", "tally"}

func (r *reader) character(section string, n *yaml.Node) {
	var w characterFile
	r.decode(n, &w)
	r.word(n, "kind", w.Kind, kindWords)
	r.word(n, "reach", w.Reach, reachWords)
	r.word(n, "harm", w.Harm, harmWords)
	c := Character{
		ID: w.ID, Section: section, Kind: evidence.Kind(max(0, slices.Index(kindWords, w.Kind))),
		Ordered: w.Ordered, ByAge: w.ByAge, ByZone: w.ByZone, Unit: w.Unit, Reach: w.Reach,
		Seconds: w.Seconds, Harm: w.Harm, Name: w.Name, Look: w.Look, Months: w.Months, Grows: w.Grows,
		ShownBy: w.ShownBy, FallsFrom: w.FallsFrom, Nothing: w.Nothing,
	}
	r.months(n, &c)
	if c.Kind == evidence.Numeric {
		r.canBe(n, &c, w.CanBe)
	}
	for _, id := range w.States {
		if w.Means[id] == "" {
			r.fail(n, "%s: state %q has no meaning written", w.ID, id)
		}
		c.States = append(c.States, State{id, w.Means[id], w.Lead[id]})
	}
	r.leads(n, &w, &c)
	if c.Told = cmp.Or(w.Told, usuallyTold[c.Reach], 0.95); c.Told > 1 || c.Told < 0 {
		r.fail(n, "%s: told is %v, want a chance", w.ID, w.Told)
	}
	for ch, states := range w.Only {
		c.Only = &Only{ch, states}
	}
	if c.Seconds < 1 {
		r.fail(n, "%s: a look takes at least one second", w.ID)
	}
	if (c.Kind == evidence.Numeric) == (c.Unit == "") || (c.Kind == evidence.Numeric || c.Kind == evidence.Sign) != (len(c.States) == 0) {
		r.fail(n, "%s: a %s character has a unit only if numeric, and states only if categorical or tally", w.ID, w.Kind)
	}
	for _, class := range w.States {
		if c.Kind == evidence.Tally {
			c.Pairs = append(c.Pairs, evidence.Beta{Alpha: w.Pairs[class][0], Beta: w.Pairs[class][1]})
		}
	}
	r.confusion(n, &c, w.Mistaken)
	if _, twice := r.flora.byID[c.ID]; twice {
		r.fail(n, "%s: stands twice", c.ID)
	}
	r.flora.byID[c.ID] = len(r.flora.Characters)
	r.flora.Characters = append(r.flora.Characters, c)
}

// usuallyTold is how often it can be said what a character shows, by reach, where that is not 0.95.
var usuallyTold = map[string]float64{"crown": 0.85}

// confusion fills the rows of states that are taken for each other. In an
// ordered character a state without a row is taken for its neighbours.
func (r *reader) confusion(n *yaml.Node, c *Character, rows map[string]map[string]float64) {
	ids := c.StateIDs()
	for i := range ids {
		var row []float64
		if c.Ordered {
			row = neighbours(i, len(ids))
		}
		c.mistaken = append(c.mistaken, row)
	}
	for _, from := range slices.Sorted(maps.Keys(rows)) {
		i := slices.Index(ids, from)
		if i < 0 {
			r.fail(n, "%s: mistaken: %w", c.ID, UnknownWord("state", from, ids))
			continue
		}
		row, sum := make([]float64, len(ids)), 0.0
		for _, to := range slices.Sorted(maps.Keys(rows[from])) { // in any other order the sum has other last digits
			share, j := rows[from][to], slices.Index(ids, to)
			if j < 0 || j == i {
				r.fail(n, "%s: mistaken: %s for %q, want another of its states", c.ID, from, to)
				continue
			}
			row[j] = share
			sum += share
		}
		if sum < 0.999 || sum > 1.001 {
			r.fail(n, "%s: mistaken: the row of %s sums to %.3f, want 1", c.ID, from, sum)
		}
		for j := range row {
			if j != i {
				row[j] = (1-anywhere)*row[j]/sum + anywhere/float64(len(ids)-1)
			}
		}
		c.mistaken[i] = row
	}
}

// anywhere is the share of misreadings that fall on any state at all, whatever
// the file lists: a slip of the thumb, a line too far.
const anywhere = 0.25

// neighbours is the confusion row of state i on a scale of n.
func neighbours(i, n int) []float64 {
	row := make([]float64, n)
	switch i {
	case 0:
		row[1] = 1
	case n - 1:
		row[n-2] = 1
	default:
		row[i-1], row[i+1] = 0.5, 0.5
	}
	for j := range row {
		if j != i {
			row[j] = (1-anywhere)*row[j] + anywhere/float64(n-1)
		}
	}
	return row
}

func (r *reader) checkOnly(c *Character, only *Only) {
	base := r.flora.Character(only.Character)
	if base == nil {
		r.errs = append(r.errs, fmt.Errorf("%s: %s: only: %w", charactersFile, c.ID,
			UnknownWord("character", only.Character, r.flora.CharacterIDs())))
		return
	}
	for _, s := range only.States {
		if err := UnknownWord("state", s, base.StateIDs()); err != nil {
			r.errs = append(r.errs, fmt.Errorf("%s: %s: only: %w", charactersFile, c.ID, err))
		}
	}
}
