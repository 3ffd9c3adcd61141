package flora

import (
	"bytes"
	"encoding/gob"
	"fmt"
	"slices"

	"palethicket/core/weigh/evidence"
)

// Reading YAML takes a second and more in a browser. There a flora comes as it stands in
// memory once it was read and checked: frozen.

// frozen is a flora as gob writes it. Each value and each entry stands once, as most taxa
// of a genus share theirs.
type frozen struct {
	Shared   Flora
	Lists    map[string]*List
	Mistaken [][][]float64 // by character
	Values   []evidence.Value
	Entries  []frozenEntry
	Of       [][]int32 // by taxon, then character: index into Entries, or -1
}

// frozenEntry is an [Entry] with its values by their index.
type frozenEntry struct {
	Cells        [9]int32
	Source, Note string
	Usual        bool
}

// Freeze writes the flora with its lists for [Thaw].
func (f *Flora) Freeze() ([]byte, error) {
	z := frozen{Shared: *f, Lists: f.lists}
	for i := range f.Characters {
		z.Mistaken = append(z.Mistaken, f.Characters[i].mistaken)
	}
	values, entries := map[string]int32{}, map[frozenEntry]int32{}
	for _, t := range f.Taxa {
		of := make([]int32, len(f.Characters))
		for i := range f.Characters {
			e, ok := t.values[f.Characters[i].ID]
			if of[i] = -1; ok {
				of[i] = once(entries, &z.Entries, z.entry(e, values))
			}
		}
		z.Of = append(z.Of, of)
	}
	var out bytes.Buffer
	if err := gob.NewEncoder(&out).Encode(z); err != nil {
		return nil, fmt.Errorf("freezing the flora: %w", err)
	}
	return out.Bytes(), nil
}

func (z *frozen) entry(e *Entry, known map[string]int32) frozenEntry {
	out := frozenEntry{Source: e.Source, Note: e.Note, Usual: e.Usual}
	for i := range out.Cells {
		v := e.Cells[i/3][i%3]
		key := fmt.Sprint(v)
		n, ok := known[key]
		if !ok {
			n = int32(len(z.Values))
			known[key], z.Values = n, append(z.Values, v)
		}
		out.Cells[i] = n
	}
	return out
}

// once gives where a thing stands in a list, at the end if it was not there.
func once[T comparable](known map[T]int32, list *[]T, thing T) int32 {
	n, ok := known[thing]
	if !ok {
		n = int32(len(*list))
		known[thing], *list = n, append(*list, thing)
	}
	return n
}

// Thaw gives the flora that [Flora.Freeze] wrote. Floras that other programs froze may be
// refused.
func Thaw(text []byte) (*Flora, error) {
	var z frozen
	if err := gob.NewDecoder(bytes.NewReader(text)).Decode(&z); err != nil {
		return nil, fmt.Errorf("thawing the flora: %w", err)
	}
	if !z.whole() {
		return nil, fmt.Errorf("thawing the flora: its parts do not fit one another")
	}
	f := &z.Shared
	f.lists, f.pools, f.whole = z.Lists, &pools{}, &pools{}
	f.byID, f.byName = map[string]int{}, map[string]int{}
	for i := range f.Characters {
		f.byID[f.Characters[i].ID], f.Characters[i].mistaken = i, z.Mistaken[i]
	}
	entries := make([]Entry, len(z.Entries))
	for i, e := range z.Entries {
		entries[i] = Entry{Source: e.Source, Note: e.Note, Usual: e.Usual}
		for k, n := range e.Cells {
			entries[i].Cells[k/3][k%3] = z.Values[n]
		}
	}
	for i := range f.Taxa {
		t := &f.Taxa[i]
		f.byName[t.Name], t.values = i, make(map[string]*Entry, len(f.Characters))
		for c, n := range z.Of[i] {
			if n >= 0 {
				t.values[f.Characters[c].ID] = &entries[n]
			}
		}
	}
	return f, nil
}

// whole says whether all that its indices name is there.
func (z *frozen) whole() bool {
	within := func(n int32, of int) bool { return n >= 0 && int(n) < of }
	if len(z.Mistaken) != len(z.Shared.Characters) || len(z.Of) != len(z.Shared.Taxa) {
		return false
	}
	for _, e := range z.Entries {
		if slices.ContainsFunc(e.Cells[:], func(n int32) bool { return !within(n, len(z.Values)) }) {
			return false
		}
	}
	return !slices.ContainsFunc(z.Of, func(of []int32) bool {
		return len(of) != len(z.Mistaken) ||
			slices.ContainsFunc(of, func(n int32) bool { return n != -1 && !within(n, len(z.Entries)) })
	})
}
