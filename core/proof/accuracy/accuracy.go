package accuracy

import (
	"cmp"
	"embed"
	"fmt"
	"io"
	"math/rand/v2"
	"slices"

	"go.yaml.in/yaml/v3"

	"palethicket/core/flora"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/ranking"
	"palethicket/core/weigh/specimen"
)

// Shipped are the specimens that the program is judged on, under testdata.
//
//go:embed testdata
var Shipped embed.FS

// Case is a partial specimen whose name is known.
type Case struct {
	ID      string                          `yaml:"id"`
	Source  string                          `yaml:"source"`
	Region  string                          `yaml:"region"`
	Tree    string                          `yaml:"tree"`
	Rank    string                          `yaml:"rank"`
	Foliage string                          `yaml:"foliage"`
	Age     string                          `yaml:"age"`   // empty: not judged
	Looks   map[string]map[string]yaml.Node `yaml:"looks"` // by where from, then character
}

// Outcome is how a case came out.
type Outcome struct {
	Case
	Place    int     // of the right tree
	Credible bool    // the right tree is in the credible set
	Named    string  // what the tree is called on this evidence
	Rank     string  // at which rank
	Right    bool    // the name, if there is one, is right
	Far      bool    // named as far as the handbook would, or farther
	Share    float64 // posterior of the right tree
	Probably string  // what it probably is, finer than it is named; empty: nothing
	Likely   bool    // that is right
}

// ReadCases reads a file of cases.
func ReadCases(r io.Reader) ([]Case, error) {
	var cases []Case
	dec := yaml.NewDecoder(r)
	dec.KnownFields(true)
	if err := dec.Decode(&cases); err != nil {
		return nil, fmt.Errorf("reading the cases: %w", err)
	}
	return cases, nil
}

// Judge answers the cases.
func Judge(f *flora.Flora, cases []Case) ([]Outcome, error) {
	e := answer.NewEngine(f)
	out := make([]Outcome, 0, len(cases))
	for _, c := range cases {
		o, _, err := judge(e, c, "")
		if err != nil {
			return nil, fmt.Errorf("case %s: %w", c.ID, err)
		}
		out = append(out, o)
	}
	return out, nil
}

// rankOrder orders ranks from the finest.
var rankOrder = []string{"species", "group", "genus", "family"}

// judge answers one, among a list where one is named.
func judge(e *answer.Engine, c Case, list string) (Outcome, *answer.Result, error) {
	rec, err := c.record(e.Flora)
	if err != nil {
		return Outcome{}, nil, err
	}
	rec.List = list
	res, err := e.Identify(rec, answer.Options{})
	if err != nil {
		return Outcome{}, nil, err
	}
	t := e.Flora.Taxon(c.Tree)
	if t == nil {
		return Outcome{}, nil, fmt.Errorf("the flora has no %s", c.Tree)
	}
	o := Outcome{Case: c, Named: res.Named.Words, Rank: string(res.Named.Rank), Credible: slices.Contains(res.Credible, c.Tree)}
	o.Place = 1 + slices.IndexFunc(res.Ranking, func(r answer.Ranked) bool { return r.Taxon == c.Tree })
	if o.Place > 0 {
		o.Share = res.Ranking[o.Place-1].Posterior
	}
	is := map[string]string{"species": t.Name, "group": t.Group, "genus": t.Genus, "family": t.Family}
	at := slices.Index(rankOrder, o.Rank)
	o.Right = at < 0 || is[o.Rank] == res.Named.Name
	if answer.RankWords(res.Probably.Rank) != "" {
		o.Probably, o.Likely = res.Probably.Words, is[string(res.Probably.Rank)] == res.Probably.Name
	}
	o.Far = at >= 0 && o.Right && at <= slices.Index(rankOrder, c.Rank)
	return o, res, nil
}

// record writes a case as a field record.
func (c *Case) record(f *flora.Flora) (*record.Record, error) {
	rec := &record.Record{ID: c.ID, Region: c.Region, Foliage: c.Foliage, Age: c.Age}
	for _, from := range record.Froms.IDs() {
		scores, ok := c.Looks[from]
		if !ok {
			continue
		}
		l := record.Look{From: from}
		for _, id := range f.CharacterIDs() {
			if n, ok := scores[id]; ok {
				s, err := score(f.Character(id), &n)
				if err != nil {
					return nil, fmt.Errorf("%s: %w", id, err)
				}
				l.Scores = append(l.Scores, s)
			}
		}
		if len(l.Scores) != len(scores) {
			return nil, fmt.Errorf("%s: a character is not known", from)
		}
		rec.Looks = append(rec.Looks, l)
	}
	return rec, nil
}

func score(ch *flora.Character, n *yaml.Node) (record.Score, error) {
	s := record.Score{Character: ch.ID}
	if n.Kind == yaml.MappingNode { // by zone
		s.Zone, n = n.Content[0].Value, n.Content[1]
	}
	switch {
	case ch.Kind == evidence.Numeric:
		s.Value = new(float64)
		return s, n.Decode(s.Value)
	case ch.Kind == evidence.Sign:
		s.Seen = new(bool)
		return s, n.Decode(s.Seen)
	case n.Kind == yaml.SequenceNode:
		return s, n.Decode(&s.States)
	default:
		s.States = []string{n.Value}
		return s, nil
	}
}

// Simulated is how often drawn specimens of one taxon come first.
type Simulated struct {
	Taxon          string
	Full, BarkOnly float64 // share that came first: complete twig and bark, and bark alone
	TakenFor       string  // what the others were most often taken for, with twig and bark
	Reason         string  // what it takes to tell those two apart, where the flora has a line on it
}

// Simulate draws n mature specimens of every taxon of a region's pool, scores
// their twig and bark with usual certainty, and ranks them with every taxon
// taken as equally common. The worst come first.
func Simulate(f *flora.Flora, region string, n int, seed uint64) ([]Simulated, error) {
	p, err := f.Pool(flora.PoolKey{Among: flora.Among{Region: region}, Age: flora.At(flora.Mature), Flat: true})
	if err != nil {
		return nil, err
	}
	full, bark := asked(p, "bark", "twig", "bud", "scar", "needle"), asked(p, "bark")
	d := specimen.NewDrawer(p.Model, rand.NewPCG(seed, 1))
	r := ranking.NewRanker(p.Model)
	var out []Simulated
	for t := range p.Taxa {
		s := Simulated{Taxon: p.Taxa[t].Name}
		taken := map[int]int{}
		for range n {
			first := r.Rank(draw(d, p, t, full)).Leader()
			taken[first]++
			if first == t {
				s.Full += 1 / float64(n)
			}
			if r.Rank(draw(d, p, t, bark)).Leader() == t {
				s.BarkOnly += 1 / float64(n)
			}
		}
		delete(taken, t)
		most := 0
		for h, k := range taken {
			if k > most && h < len(p.Taxa) {
				most, s.TakenFor = k, p.Taxa[h].Name
			}
		}
		if alike := f.Apart(s.Taxon, s.TakenFor); alike != nil {
			s.Reason = alike.Line
		}
		out = append(out, s)
	}
	slices.SortStableFunc(out, func(a, b Simulated) int { return cmp.Compare(a.Full, b.Full) })
	return out, nil
}

// asked are the scores of a complete look at some sections of characters.
func asked(p *flora.Pool, sections ...string) []evidence.Score {
	var out []evidence.Score
	for i := range p.Model.Characters() {
		c, zone := p.Character(i)
		if zone == flora.Breast && slices.Contains(sections, c.Section) {
			s := evidence.Score{Character: i, Error: record.ErrorRate["fair"], Spread: record.Spread["ruler"], Readings: 1,
				Detect: record.Detection["clear"], False: record.FalseAlarm}
			if c.Kind == evidence.Tally {
				s.Nodes = evidence.TallyNodes
			}
			out = append(out, s)
		}
	}
	return out
}

// draw scores a specimen of taxon t, leaving out what is not known of it and
// parts that it does not have.
func draw(d *specimen.Drawer, p *flora.Pool, t int, asked []evidence.Score) []evidence.Look {
	l := evidence.Look{Belongs: record.Belonging["tree"]}
	for _, s := range asked {
		if p.Model.Taxa()[t].Values[s.Character].Knowledge == evidence.Known {
			d.Score(t, &s)
			l.Scores = append(l.Scores, s)
		}
	}
	return []evidence.Look{l}
}
