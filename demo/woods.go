package demo

import (
	"cmp"
	"fmt"
	"maps"
	"math/rand/v2"
	"slices"
	"strings"
	"time"

	"palethicket/book"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
	"palethicket/core/weigh/ranking"
)

// woods is the land of the forest and the crowd of trees drawn on it.
type woods struct {
	Origin    frame    `yaml:"origin"`
	Remarks   string   `yaml:"remarks"`
	Boundary  []metres `yaml:"boundary"`
	Creek     []metres `yaml:"creek"`
	SideCreek []metres `yaml:"side_creek"`
	Track     []metres `yaml:"track"`
	Fords     []metres `yaml:"fords"`
	Gates     []struct {
		Name string `yaml:"name"`
		At   metres `yaml:"at"`
	} `yaml:"gates"`
	PumpHouse []metres `yaml:"pump_house"`
	Stands    []stand  `yaml:"stands"`
	Visits    []visit  `yaml:"visits"`
}

type stand struct {
	Name     string         `yaml:"name"`
	Remarks  string         `yaml:"remarks"`
	Boundary []metres       `yaml:"boundary"`
	Trees    int            `yaml:"trees"`
	Mix      map[string]int `yaml:"mix"`
}

type visit struct {
	Day     string `yaml:"day"`
	Crew    string `yaml:"crew"`
	Weather string `yaml:"weather"`
	Snow    string `yaml:"snow"`
	day     time.Time
	crew    []string
}

func (w *woods) read() error {
	for i := range w.Visits {
		v := &w.Visits[i]
		var err error
		if v.day, err = time.ParseInLocation(time.DateOnly, v.Day, time.Local); err != nil {
			return err
		}
		v.crew = strings.Split(v.Crew, ", ")
	}
	return nil
}

// firstWinter is how many of the visits are of the first winter.
func (w *woods) firstWinter() int {
	return slices.IndexFunc(w.Visits, func(v visit) bool { return v.day.After(time.Date(2026, 7, 1, 0, 0, 0, 0, time.Local)) })
}

// crowd draws the trees that are not written by hand.
type crowd struct {
	*drawer
	engine *answer.Engine
	tract  string
	woods  *woods
	ids    *rand.ChaCha8
	truth  map[string]string // which taxon a tree is drawn of, by id
}

// trees draws every stand's trees, tagged from LC-601.
func (c *crowd) trees() ([]book.TreeLog, error) {
	var out []book.TreeLog
	for i := range c.woods.Stands {
		s := &c.woods.Stands[i]
		for n := range s.Trees {
			first := c.rng.IntN(len(c.woods.Visits))
			tag := fmt.Sprintf("LC-%d", 601+len(out))
			t, err := c.tree(s, tag, first, n)
			if err != nil {
				return nil, fmt.Errorf("tree %s: %w", tag, err)
			}
			out = append(out, *t)
		}
	}
	return out, nil
}

// taxon draws from a stand's mix.
func (c *crowd) taxon(s *stand) string {
	names := slices.SortedFunc(maps.Keys(s.Mix), cmp.Compare)
	total := 0
	for _, n := range names {
		total += s.Mix[n]
	}
	u := c.rng.IntN(total)
	for _, n := range names {
		if u -= s.Mix[n]; u < 0 {
			return n
		}
	}
	return names[0]
}

func (c *crowd) age(s *stand) string {
	u := c.rng.Float64()
	switch {
	case s.Name == "Old pasture" && u < 0.7, u < 0.12:
		return "young"
	case u < 0.85:
		return "mature"
	}
	return "old"
}

// tree draws one tree and its log: a first look on one visit, and for most a
// second, closer one on the same or a later day.
func (c *crowd) tree(s *stand, tag string, first, n int) (*book.TreeLog, error) {
	taxon, age := c.taxon(s), c.age(s)
	place, err := s.within(c.rng.Float64)
	if err != nil {
		return nil, err
	}
	v := &c.woods.Visits[first]
	w := writer{clock: v.day.Add(8*time.Hour + time.Duration(c.rng.IntN(7*3600))*time.Second), rng: c.ids}
	t := &book.TreeLog{Tree: book.Tree{ID: w.id(), Tag: tag, Tract: c.tract, Stand: s.Name, Region: c.among.Region, List: c.among.List}}
	c.truth[t.Tree.ID] = taxon
	who := v.crew[n%len(v.crew)]
	at := c.woods.Origin.point(place)
	green := foliage(taxon)
	t.Log = append(
		t.Log,
		w.entry(who, logbook.Entry{Kind: logbook.KindFacts, Facts: &logbook.SetFacts{Age: &age, Snow: &v.Snow, Foliage: &green,
			Position: &logbook.Position{Lon: at[0], Lat: at[1], Within: 4}}}),
	)
	if c.rng.Float64() < 0.15 {
		c.vigour(t, &w, who)
	}
	far := []plan{atSite, atBark, atCrown}
	if err := c.looks(t, &w, who, taxon, age, far); err != nil {
		return nil, err
	}
	hasty := c.rng.Float64() < 0.06 // a name from the path, before the twig
	if err := c.name(t, &w, who, hasty); err != nil {
		return nil, err
	}
	if c.rng.Float64() < 0.22 {
		return t, nil // nobody came back yet
	}
	return t, c.comeBack(t, &w, who, taxon, age, first, n)
}

// comeBack looks closer, in the next winter where the first look was in the first.
func (c *crowd) comeBack(t *book.TreeLog, w *writer, who, taxon, age string, first, n int) error {
	v := &c.woods.Visits[first]
	if firsts := c.woods.firstWinter(); first < firsts {
		v = &c.woods.Visits[firsts+c.rng.IntN(len(c.woods.Visits)-firsts)]
		who = v.crew[(n/2)%len(v.crew)]
		w.clock = v.day.Add(8*time.Hour + time.Duration(c.rng.IntN(7*3600))*time.Second)
	}
	near := []plan{atTwig}
	if v.Snow == "none" && c.rng.Float64() < 0.5 {
		near = append(near, atGround)
	}
	if err := c.looks(t, w, who, taxon, age, near); err != nil {
		return err
	}
	return c.name(t, w, who, false)
}

func (c *crowd) vigour(t *book.TreeLog, w *writer, who string) {
	word := []string{"thriving", "failing", "dead"}[c.rng.IntN(3)]
	height := float64(8 + c.rng.IntN(20))
	t.Log = append(t.Log, w.entry(who, logbook.Entry{Kind: logbook.KindFacts, Facts: &logbook.SetFacts{Vigour: &word, Height: &height}}))
}

func (c *crowd) looks(t *book.TreeLog, w *writer, who, taxon, age string, plans []plan) error {
	for i, p := range plans {
		scores, err := c.look(age, taxon, p)
		if err != nil {
			return err
		}
		if p.from == "tree" && p.chars[0] == atBark.chars[0] && c.rng.Float64() < 0.9 {
			scores = append(scores, c.stem(taxon, age))
		}
		if len(scores) == 0 || i > 0 && c.rng.Float64() < 0.15 {
			continue
		}
		look := w.entry(who, logbook.Entry{Kind: logbook.KindLook, From: p.from})
		t.Log = append(t.Log, look)
		for i := range scores {
			t.Log = append(t.Log, w.entry(who, logbook.Entry{Kind: logbook.KindScore, Look: look.ID, Score: &scores[i]}))
		}
	}
	return nil
}

// name writes down as much of a name as the evidence carries, most times. A
// hasty hand writes the leader's name whatever its share.
func (c *crowd) name(t *book.TreeLog, w *writer, who string, hasty bool) error {
	state := logbook.Replay(t.Log)
	res, err := c.engine.Identify(state.Record(t.Tree.Tag, logbook.Among(c.among)), answer.Options{})
	if err != nil {
		return err
	}
	n := &logbook.Naming{Rank: string(res.Named.Rank), Name: res.Named.Name, Posterior: res.Named.Posterior, Leader: res.Ranking[0].Taxon}
	settled := res.Named.Rank == ranking.Species || res.Named.Rank == ranking.Group || res.Named.Rank == ranking.Genus
	switch old := state.Name(); {
	case hasty && res.Ranking[0].Taxon != "unlisted":
		n.Rank, n.Name, n.Posterior, n.Why = "species", res.Ranking[0].Taxon, res.Ranking[0].Posterior, "From the path."
	case !settled || c.rng.Float64() < 0.1 || old != nil && (old.Name == n.Name || old.Why == "From the path."):
		return nil
	}
	t.Log = append(t.Log, w.entry(who, logbook.Entry{Kind: logbook.KindName, Name: n}))
	return nil
}

// visits are the days walked, as the book keeps them.
func (w *woods) visits(tract string, ids *rand.ChaCha8) []book.Visit {
	var out []book.Visit
	for i := range w.Visits {
		v := &w.Visits[i]
		wr := writer{clock: v.day.Add(7 * time.Hour), rng: ids}
		out = append(out, book.Visit{ID: wr.id(), Tract: tract, Day: v.Day, Crew: v.Crew, Weather: v.Weather, Snow: v.Snow})
	}
	return out
}
