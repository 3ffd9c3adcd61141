package record

import (
	"errors"
	"fmt"
	"slices"

	"palethicket/core/flora"
	"palethicket/core/measure"
	"palethicket/core/weigh/evidence"
)

// Reading is a record ready for weighing.
type Reading struct {
	Record *Record
	Pool   *flora.Pool
	// Looks are the record's looks in order, followed by the look at the
	// foliage where needle.kept was not scored, and green leaves neither.
	Looks []evidence.Look
}

// foliageCharacter tells bare trees from evergreen ones.
const foliageCharacter = "needle.kept"

// Resolve checks a record and lays it out. The error is an [Errors] naming
// every wrong field.
func Resolve(f *flora.Flora, rec *Record) (*Reading, error) {
	var p problems
	key := flora.PoolKey{Among: flora.Among{Region: rec.Region, List: rec.List}, Age: flora.At(flora.AnyAge), Flat: rec.Flat}
	if rec.Age != "" {
		p.word("age", rec.Age, Ages)
		key.Age = flora.At(flora.Age(max(0, slices.Index(flora.AgeWords, rec.Age))))
	}
	p.optional("foliage", rec.Foliage, Foliages)
	p.optional("snow", rec.Snow, Snows)
	if rec.Date != "" {
		if _, err := ParseDate(rec.Date); err != nil {
			p.add("date", "%v", err)
		}
	}
	for i, word := range rec.Beyond {
		p.word(fmt.Sprintf("out_of_reach[%d]", i), word, Beyonds)
	}
	pool, err := f.Pool(key)
	if err != nil {
		field := "region"
		var none *flora.NoSuch
		if errors.As(err, &none) {
			field = none.Field
		}
		p.add(field, "%v", err)
		return nil, p.err()
	}
	t := &Reading{Record: rec, Pool: pool}
	r := resolver{problems: &p, flora: f, pool: pool}
	foliageScored := false
	for i, look := range rec.Looks {
		if _, known := Belonging[look.From]; !known {
			p.word(fmt.Sprintf("looks[%d].from", i), look.From, Froms)
		}
		el := evidence.Look{Belongs: Belonging[look.From], Scores: make([]evidence.Score, 0, len(look.Scores))}
		for j := range look.Scores {
			s := &look.Scores[j]
			foliageScored = foliageScored || s.Character == foliageCharacter
			el.Scores = append(el.Scores, r.score(position{i, j}, s))
		}
		t.Looks = append(t.Looks, el)
	}
	if err := p.err(); err != nil {
		return nil, err
	}
	if !foliageScored && (rec.Foliage != "" || !r.green) {
		t.Looks = append(t.Looks, foliageLook(pool, f, rec.Foliage))
	}
	t.Looks = append(t.Looks, r.implied(t)...)
	return t, nil
}

// implied are looks at the signs that must have been seen, as what they show was scored: one for
// each look in which it was, unless the sign itself was scored. And what fell from a tree is taken
// for a guess where the same was scored on the tree too: it is there because the other is, and is
// no second witness.
func (r *resolver) implied(t *Reading) (looks []evidence.Look) {
	for i, at := range r.linked {
		c := r.flora.Character(t.Record.Looks[at.look].Scores[at.score].Character)
		if c.FallsFrom != "" && t.Record.scores(c.FallsFrom) {
			s := &t.Looks[at.look].Scores[at.score]
			s.Error = max(s.Error, ErrorRate["guess"])
		}
		again := slices.ContainsFunc(r.linked[:i], func(l linked) bool { return l.look == at.look && l.shownBy == at.shownBy })
		if at.shownBy == "" || again || t.Record.scores(at.shownBy) {
			continue
		}
		char, _ := r.pool.Index(at.shownBy, flora.Breast)
		looks = append(looks, evidence.Look{Belongs: t.Looks[at.look].Belongs, Scores: []evidence.Score{
			{Character: char, Seen: true, Detect: Detection["clear"], False: FalseAlarm}}})
	}
	return looks
}

// linked is a score that says something of another character, or nothing beside one.
type linked struct {
	position
	shownBy string
}

// scores says whether a record scores a character.
func (rec *Record) scores(id string) bool {
	for i := range rec.Looks {
		for j := range rec.Looks[i].Scores {
			if rec.Looks[i].Scores[j].Character == id {
				return true
			}
		}
	}
	return false
}

// foliageLook says that the tree is bare, or what its foliage is said to be.
func foliageLook(pool *flora.Pool, f *flora.Flora, foliage string) evidence.Look {
	if foliage == "" {
		foliage = "bare"
	}
	char, _ := pool.Index(foliageCharacter, flora.Breast)
	state := slices.Index(f.Character(foliageCharacter).StateIDs(), foliage)
	return evidence.Look{Belongs: Belonging["tree"], Scores: []evidence.Score{
		{Character: char, States: 1 << state, Error: ErrorRate["sure"]}}}
}

// OnlyGreen says whether only trees with green leaves show a character.
func OnlyGreen(c *flora.Character) bool {
	return c.Only != nil && c.Only.Character == foliageCharacter && !slices.Contains(c.Only.States, "bare")
}

func (p *problems) word(field, word string, known Terms) {
	if known.has(word) {
		return
	}
	ids := known.IDs()
	p.add(field, "%v; use one of %v", flora.UnknownWord("word", word, ids), ids)
}

func (p *problems) optional(field, word string, known Terms) {
	if word != "" {
		p.word(field, word, known)
	}
}

// position is where a score stands in the record.
type position struct{ look, score int }

func (p position) field(name string) string {
	return fmt.Sprintf("looks[%d].scores[%d].%s", p.look, p.score, name)
}

type resolver struct {
	*problems
	green  bool // something was scored that only trees with green leaves have
	linked []linked
	flora  *flora.Flora
	pool   *flora.Pool
}

// score turns one written score into the model's; at is where it stands.
func (r *resolver) score(at position, s *Score) evidence.Score {
	i, ok := r.flora.CharacterIndex(s.Character)
	if !ok {
		r.add(at.field("character"), "%v", flora.UnknownWord("character", s.Character, r.flora.CharacterIDs()))
		return evidence.Score{}
	}
	ch := &r.flora.Characters[i]
	r.optional(at, "certainty", s.Certainty, Certainties)
	out := evidence.Score{Error: rate(ErrorRate, s.Certainty, "fair"), Readings: 1}
	zone := flora.Breast
	if s.Zone != "" {
		r.optional(at, "zone", s.Zone, Zones)
		if !ch.ByZone && s.Zone != "breast" {
			r.add(at.field("zone"), "%s is not scored by height on the trunk; leave zone out", ch.ID)
		}
		zone = flora.Zone(max(0, slices.Index(flora.ZoneWords, s.Zone)))
	}
	out.Character = r.pool.At(i, zone)
	r.green = r.green || OnlyGreen(ch)
	if ch.ShownBy != "" || ch.FallsFrom != "" {
		r.linked = append(r.linked, linked{at, ch.ShownBy})
	}
	switch {
	case ch.Kind == evidence.Numeric:
		r.measurement(at, s, ch, &out)
	case ch.Kind == evidence.Sign:
		r.sign(at, s, ch, &out)
	case ch.Kind == evidence.Tally && (s.Pairs != nil || s.Nodes != nil):
		r.tally(at, s, ch, &out)
	default:
		r.states(at, s, ch, &out)
	}
	r.strayFields(at, s, ch)
	return out
}

// optional checks a word of a score that may be left out.
func (r *resolver) optional(at position, field, word string, known Terms) {
	if word != "" && !known.has(word) {
		r.word(at.field(field), word, known)
	}
}

func rate(table map[string]float64, word, usual string) float64 {
	if word == "" {
		word = usual
	}
	return table[word]
}

func (r *resolver) states(at position, s *Score, ch *flora.Character, out *evidence.Score) {
	if len(s.States) == 0 {
		r.add(at.field("states"), "%s needs one or more of its states %v", ch.ID, ch.StateIDs())
	}
	for i, id := range s.States {
		k := ch.State(id)
		if k < 0 {
			r.add(at.field(fmt.Sprintf("states[%d]", i)), "%s: %v", ch.ID, flora.UnknownWord("state", id, ch.StateIDs()))
			continue
		}
		out.States |= 1 << k
	}
}

func (r *resolver) sign(at position, s *Score, ch *flora.Character, out *evidence.Score) {
	r.optional(at, "visibility", s.Visibility, Visibilities)
	if s.Seen == nil {
		r.add(at.field("seen"), "%s needs seen: true or false; not having looked is no score", ch.ID)
		return
	}
	out.Seen, out.Detect, out.False = *s.Seen, rate(Detection, s.Visibility, "clear"), FalseAlarm
}

// maxNodes is more than anyone counts; it keeps typing errors out.
const maxNodes = 1000

func (r *resolver) tally(at position, s *Score, ch *flora.Character, out *evidence.Score) {
	switch {
	case s.Pairs == nil:
		r.add(at.field("pairs"), "%s: nodes are given without pairs", ch.ID)
	case s.Nodes == nil:
		r.add(at.field("nodes"), "%s: pairs are given without nodes", ch.ID)
	case *s.Nodes < 1 || *s.Nodes > maxNodes:
		r.add(at.field("nodes"), "%s: %d nodes, want 1 to %d", ch.ID, *s.Nodes, maxNodes)
	case *s.Pairs < 0:
		r.add(at.field("pairs"), "%s: %d pairs, want 0 or more", ch.ID, *s.Pairs)
	case *s.Pairs > *s.Nodes:
		r.add(at.field("pairs"), "%s: %d pairs among %d nodes; pairs are counted among the nodes", ch.ID, *s.Pairs, *s.Nodes)
	case len(s.States) > 0:
		r.add(at.field("states"), "%s: give either a count or a plain claim, not both", ch.ID)
	default:
		out.Pairs, out.Nodes = *s.Pairs, *s.Nodes
	}
}

// No part of a tree is smaller or larger than this in its character's unit.
const (
	leastValue = 0.01
	mostValue  = 100000.0
)

func (r *resolver) measurement(at position, s *Score, ch *flora.Character, out *evidence.Score) {
	if s.Value == nil && s.Typed != "" {
		read := *s // the record stays as it was written
		s = &read
		var wrong *FieldError
		if err := s.ReadTyped(ch); errors.As(err, &wrong) {
			r.add(at.field(wrong.Field), "%s", wrong.Message)
			return
		}
	}
	r.optional(at, "how", s.How, Hows)
	out.Spread = rate(Spread, s.How, "ruler")
	if s.Readings != nil {
		out.Readings = *s.Readings
		if *s.Readings < 1 || *s.Readings > maxNodes {
			r.add(at.field("readings"), "%s: %d readings, want 1 to %d", ch.ID, *s.Readings, maxNodes)
		}
	}
	if s.Value == nil {
		r.add(at.field("value"), "%s needs a value in %s", ch.ID, ch.Unit)
		return
	}
	factor, err := conversion(s.Unit, ch.Unit)
	if err != nil {
		r.add(at.field("unit"), "%s: %v", ch.ID, err)
		return
	}
	out.Value = *s.Value * factor
	if !(out.Value >= leastValue && out.Value <= mostValue) {
		r.add(at.field("value"), "%s: %v %s, want %v to %v %s", ch.ID, out.Value, ch.Unit, leastValue, mostValue, ch.Unit)
	}
}

// conversion is the factor from one unit to another.
func conversion(from, to string) (float64, error) {
	known := []string{to}
	if measure.IsLength(to) {
		known = measure.Units()
	}
	if from != "" {
		if err := flora.UnknownWord("unit", from, known); err != nil {
			return 0, fmt.Errorf("%w; use one of %v", err, known)
		}
	}
	return measure.Factor(from, to)
}

// strayFields refuses fields that belong to another kind of score, since the
// person meant something by them.
func (r *resolver) strayFields(at position, s *Score, ch *flora.Character) {
	numeric, sign, tally := ch.Kind == evidence.Numeric, ch.Kind == evidence.Sign, ch.Kind == evidence.Tally
	for _, f := range [...]struct {
		given, takes bool
		name         string
	}{
		{len(s.States) > 0, !numeric && !sign, "states"},
		{s.Value != nil, numeric, "value"}, {s.Unit != "", numeric, "unit"},
		{s.Typed != "", numeric, "typed"}, {s.Readings != nil, numeric, "readings"}, {s.How != "", numeric, "how"},
		{s.Seen != nil, sign, "seen"}, {s.Visibility != "", sign, "visibility"},
		{s.Pairs != nil, tally, "pairs"}, {s.Nodes != nil, tally, "nodes"},
	} {
		if f.given && !f.takes {
			r.add(at.field(f.name), "%s is %s and takes no %s", ch.ID, ch.Kind, f.name)
		}
	}
}
