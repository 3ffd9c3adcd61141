package flora

import (
	"fmt"
	"maps"
	"slices"
	"strconv"

	"go.yaml.in/yaml/v3"

	"palethicket/core/weigh/evidence"
)

// entry reads what a taxon says of a character: a value, a value with its own
// source, or values by age and, inside an age or alone, by zone.
func (r *reader) entry(ch *Character, n *yaml.Node) *Entry {
	e := &Entry{}
	n = r.sourced(ch, n, e)
	young, mature, old := child(n, "young"), child(n, "mature"), child(n, "old")
	if young == nil && mature == nil && old == nil {
		e.Cells[Mature] = r.zones(ch, n, e)
		e.Cells[Young], e.Cells[Old] = e.Cells[Mature], e.Cells[Mature]
		return e
	}
	if !ch.ByAge {
		r.fail(n, "%s: does not vary by age", ch.ID)
	}
	if young == nil || mature == nil {
		r.fail(n, "%s: values by age need at least young and mature", ch.ID)
		return e
	}
	r.onlyKeys(n, ch.ID, AgeWords)
	e.Cells[Young], e.Cells[Mature] = r.zones(ch, young, e), r.zones(ch, mature, e)
	e.Cells[Old] = e.Cells[Mature]
	if old != nil {
		e.Cells[Old] = r.zones(ch, old, e)
	}
	return e
}

// sourced unwraps a value that names its own source.
func (r *reader) sourced(ch *Character, n *yaml.Node, e *Entry) *yaml.Node {
	v := child(n, "value")
	if v == nil {
		return n
	}
	r.onlyKeys(n, ch.ID, []string{"value", "source", "note"})
	if s := child(n, "source"); s != nil {
		e.Source = s.Value
		r.knownSources(s, []string{s.Value})
	}
	if note := child(n, "note"); note != nil {
		e.Note = note.Value
	}
	return v
}

// zones reads values by zone; a zone that is not written is as breast height.
func (r *reader) zones(ch *Character, n *yaml.Node, e *Entry) (cells [3]evidence.Value) {
	breast := child(n, "breast")
	if breast == nil {
		if child(n, "base") != nil || child(n, "upper") != nil {
			r.fail(n, "%s: values by zone need breast", ch.ID)
			return cells
		}
		v := r.value(ch, n, e)
		return [3]evidence.Value{v, v, v}
	}
	if !ch.ByZone {
		r.fail(n, "%s: does not vary by zone", ch.ID)
	}
	r.onlyKeys(n, ch.ID, ZoneWords)
	for z, word := range ZoneWords {
		at := child(n, word)
		if at == nil {
			at = breast
		}
		cells[z] = r.value(ch, at, e)
	}
	return cells
}

// value reads one value of the character's kind, or n/a.
func (r *reader) value(ch *Character, n *yaml.Node, e *Entry) evidence.Value {
	n = r.sourced(ch, n, e)
	if n.Kind == yaml.ScalarNode && n.Value == "n/a" {
		return evidence.Value{Knowledge: evidence.Absent}
	}
	switch ch.Kind {
	case evidence.Numeric:
		return r.span(ch, n)
	case evidence.Sign:
		return r.chance(ch, n)
	default:
		return r.states(ch, n)
	}
}

func (r *reader) states(ch *Character, n *yaml.Node) evidence.Value {
	weights := make([]float64, len(ch.States))
	ids := ch.StateIDs()
	put := func(at *yaml.Node, word string, freq float64) {
		i := slices.Index(ids, word)
		if i < 0 {
			r.fail(at, "%s: %w", ch.ID, UnknownWord("state", word, ids))
			return
		}
		weights[i] = freq
	}
	switch n.Kind {
	case yaml.ScalarNode:
		put(n, n.Value, 1)
	case yaml.MappingNode:
		for i := 0; i+1 < len(n.Content); i += 2 {
			put(n.Content[i], n.Content[i].Value, r.frequency(ch, n.Content[i+1]))
		}
	default:
		r.fail(n, "%s: want a state, or states with frequency words", ch.ID)
	}
	total := 0.0
	for _, w := range weights {
		total += w
	}
	if total == 0 {
		return evidence.Value{}
	}
	if n.Kind == yaml.MappingNode && (total < leastWritten || total > mostWritten) {
		r.remark(n, ch.ID, "the frequency words add up to %.2f; is one missing, or too strong?", total)
	}
	for i := range weights {
		weights[i] /= total
	}
	return evidence.Value{Knowledge: evidence.Known, Dist: weights}
}

// The frequency words of one character are meant to add up to about 1.
const (
	leastWritten = 0.55
	mostWritten  = 3.5
)

func (r *reader) frequency(ch *Character, n *yaml.Node) float64 {
	f, ok := FrequencyWord[n.Value]
	if !ok {
		r.fail(n, "%s: %w", ch.ID, UnknownWord("frequency word", n.Value, frequencyWords()))
	}
	return f
}

func frequencyWords() []string { return slices.Sorted(maps.Keys(FrequencyWord)) }

func (r *reader) chance(ch *Character, n *yaml.Node) evidence.Value {
	if n.Value == "never" {
		return evidence.Value{Knowledge: evidence.Known, Chance: NeverSeen}
	}
	p, ok := FrequencyWord[n.Value]
	if !ok {
		r.fail(n, "%s: %w", ch.ID, UnknownWord("frequency word", n.Value, append(frequencyWords(), "never")))
	}
	return evidence.Value{Knowledge: evidence.Known, Chance: p}
}

func (r *reader) span(ch *Character, n *yaml.Node) evidence.Value {
	if n.Kind != yaml.SequenceNode || len(n.Content) != 2 {
		r.fail(n, "%s: want a range [lo, hi] in %s", ch.ID, ch.Unit)
		return evidence.Value{}
	}
	lo, err1 := strconv.ParseFloat(n.Content[0].Value, 64)
	hi, err2 := strconv.ParseFloat(n.Content[1].Value, 64)
	switch {
	case err1 != nil || err2 != nil:
		r.fail(n, "%s: want two numbers in %s", ch.ID, ch.Unit)
	case !(lo > 0):
		r.fail(n, "%s: range starts at %v, want more than 0 %s", ch.ID, lo, ch.Unit)
	case lo > hi:
		r.fail(n, "%s: range has lo %v > hi %v", ch.ID, lo, hi)
	case lo == hi:
		r.fail(n, "%s: range has no width; nothing in a tree is exactly %v %s", ch.ID, lo, ch.Unit)
	default:
		return evidence.Value{Knowledge: evidence.Known, Normals: []evidence.Component{evidence.RangeNormal(lo, hi)}}
	}
	return evidence.Value{}
}

// child gives the value under a key of a mapping, or nil.
func child(n *yaml.Node, key string) *yaml.Node {
	if n == nil || n.Kind != yaml.MappingNode {
		return nil
	}
	for i := 0; i+1 < len(n.Content); i += 2 {
		if n.Content[i].Value == key {
			if v := n.Content[i+1]; v.Kind == yaml.AliasNode {
				return v.Alias
			}
			return n.Content[i+1]
		}
	}
	return nil
}

// onlyKeys reports keys of a mapping that are not among the known ones, and
// keys that stand twice.
func (r *reader) onlyKeys(n *yaml.Node, what string, known []string) {
	seen := map[string]bool{}
	for i := 0; i+1 < len(n.Content); i += 2 {
		k := n.Content[i]
		if err := UnknownWord("key", k.Value, known); err != nil {
			r.fail(k, "%s: %w", what, err)
		}
		if seen[k.Value] {
			r.fail(k, "%s: %q stands twice", what, k.Value)
		}
		seen[k.Value] = true
	}
}

// remark notes something that can be read but looks unintended.
func (r *reader) remark(n *yaml.Node, character, format string, args ...any) {
	r.flora.Remarks = append(r.flora.Remarks, Remark{File: r.file, Line: n.Line, Taxon: r.taxonName,
		Character: character, Words: fmt.Sprintf(format, args...)})
}

// describe puts a position before a message.
func describe(file string, n *yaml.Node, format string, args ...any) error {
	return fmt.Errorf("%s:%d: %w", file, n.Line, fmt.Errorf(format, args...))
}
