package record

import (
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"
)

// Parse reads one record of JSON.
//
// Records as programs write them, without escapes in strings, nulls or unknown
// fields, are read by a reader of their own: encoding/json takes a good half of
// the time that a record costs in all. Whatever that reader does not take is
// left to encoding/json, as are the errors; FuzzParse holds the two to the same
// answers.
func Parse(raw []byte, rec *Record) error { return new(Parser).Parse(raw, rec) }

// Parser parses one record after another into the same room: a record is good
// until the next is parsed.
type Parser struct {
	looks []Look
	room  room
}

// Parse is the function [Parse].
func (r *Parser) Parse(raw []byte, rec *Record) error {
	r.room.f, r.room.i, r.room.b, r.room.s = 0, 0, 0, 0
	p := plain{in: string(raw), room: &r.room, looks: r.looks} // the record's strings are parts of the copy
	*rec = Record{}
	if p.record(rec) {
		r.looks = rec.Looks
		return nil
	}
	*rec = Record{}
	if err := json.Unmarshal(raw, rec); err != nil {
		return fmt.Errorf("the record does not have the format's shape: %w", err)
	}
	return nil
}

// plain reads plain JSON. Each method says whether it could; once one could
// not, the rest does not matter.
type plain struct {
	in    string
	at    int
	room  *room
	looks []Look
}

// room holds what a record's scores point to, so that it is got in one piece.
type room struct {
	floats  [32]float64
	ints    [32]int
	flags   [32]bool
	strings [64]string

	f, i, b, s int // how many of each are taken
}

// grow adds an empty element to a slice, over an old one where there is room;
// the old one is handed back for its own slices.
func grow[T any](s []T) ([]T, T) {
	var old, empty T
	if len(s) < cap(s) {
		old = s[:len(s)+1][len(s)]
	}
	return append(s, empty), old
}

// record reads a record's fields: a case for each, in one place as its speed asks.
func (p *plain) record(r *Record) bool {
	ok := p.object(func(key string) (field int, ok bool) {
		switch key {
		case "id":
			return 0, p.text(&r.ID)
		case "region":
			return 1, p.text(&r.Region)
		case "list":
			return 14, p.text(&r.List)
		case "age":
			return 2, p.text(&r.Age)
		case "foliage":
			return 3, p.text(&r.Foliage)
		case "flat":
			return 4, p.flag(&r.Flat)
		case "snow":
			return 5, p.text(&r.Snow)
		case "date":
			return 6, p.text(&r.Date)
		case "observer":
			return 7, p.text(&r.Observer)
		case "note":
			return 8, p.text(&r.Note)
		case "tract":
			return 12, p.text(&r.Tract)
		case "stand":
			return 13, p.text(&r.Stand)
		case "position":
			r.Position = new([2]float64)
			return 9, p.position(r.Position)
		case "out_of_reach":
			return 10, p.words(&r.Beyond)
		case "looks":
			r.Looks = slices.Grow(p.looks[:0], 1)
			return 11, p.list(func() bool {
				var old Look
				r.Looks, old = grow(r.Looks)
				return p.look(&r.Looks[len(r.Looks)-1], old.Scores)
			})
		}
		return 0, false
	})
	p.space()
	return ok && p.at == len(p.in)
}

func (p *plain) look(l *Look, scores []Score) bool {
	return p.object(func(key string) (field int, ok bool) {
		switch key {
		case "from":
			return 0, p.text(&l.From)
		case "scores":
			l.Scores = slices.Grow(scores[:0], 1)
			return 1, p.list(func() bool {
				l.Scores = append(l.Scores, Score{})
				return p.score(&l.Scores[len(l.Scores)-1])
			})
		}
		return 0, false
	})
}

func (p *plain) score(s *Score) bool {
	return p.object(func(key string) (field int, ok bool) {
		switch key {
		case "character":
			return 0, p.text(&s.Character)
		case "states":
			return 1, p.words(&s.States)
		case "value":
			return 2, p.float(&s.Value)
		case "unit":
			return 3, p.text(&s.Unit)
		case "readings":
			return 4, p.integer(&s.Readings)
		case "how":
			return 5, p.text(&s.How)
		case "seen":
			if p.room.b == len(p.room.flags) {
				return 0, false
			}
			s.Seen = &p.room.flags[p.room.b]
			p.room.b++
			return 6, p.flag(s.Seen)
		case "visibility":
			return 7, p.text(&s.Visibility)
		case "pairs":
			return 8, p.integer(&s.Pairs)
		case "nodes":
			return 9, p.integer(&s.Nodes)
		case "certainty":
			return 10, p.text(&s.Certainty)
		case "zone":
			return 11, p.text(&s.Zone)
		}
		return 0, false
	})
}

// object reads an object, each field once.
func (p *plain) object(value func(key string) (field int, ok bool)) bool {
	if !p.next('{') {
		return false
	}
	seen := 0
	for first := true; ; first = false {
		if p.next('}') {
			return true
		}
		if !first && !p.next(',') {
			return false
		}
		if !first && p.peek() == '}' {
			return false
		}
		key, ok := p.str()
		if !ok || !p.next(':') {
			return false
		}
		field, ok := value(key)
		if !ok || seen&(1<<field) != 0 {
			return false
		}
		seen |= 1 << field
	}
}

// list reads an array.
func (p *plain) list(value func() bool) bool {
	if !p.next('[') {
		return false
	}
	if p.next(']') {
		return true
	}
	for {
		if !value() {
			return false
		}
		if p.next(']') {
			return true
		}
		if !p.next(',') {
			return false
		}
	}
}

func (p *plain) words(to *[]string) bool {
	start := p.room.s
	*to = []string{}
	ok := p.list(func() bool {
		if p.room.s == len(p.room.strings) {
			return false
		}
		p.room.s++
		return p.text(&p.room.strings[p.room.s-1])
	})
	if p.room.s > start {
		*to = p.room.strings[start:p.room.s:p.room.s]
	}
	return ok
}

func (p *plain) position(to *[2]float64) bool {
	n := 0
	return p.list(func() bool {
		text, _, ok := p.number()
		if !ok || n == len(to) {
			return false
		}
		v, err := strconv.ParseFloat(text, 64)
		to[n] = v
		n++
		return err == nil
	}) && n == len(to)
}

func (p *plain) float(to **float64) bool {
	text, _, ok := p.number()
	if !ok || p.room.f == len(p.room.floats) {
		return false
	}
	v, err := strconv.ParseFloat(text, 64)
	p.room.floats[p.room.f] = v
	*to = &p.room.floats[p.room.f]
	p.room.f++
	return err == nil
}

func (p *plain) integer(to **int) bool {
	text, whole, ok := p.number()
	if !ok || !whole || p.room.i == len(p.room.ints) {
		return false
	}
	v, err := strconv.Atoi(text)
	p.room.ints[p.room.i] = v
	*to = &p.room.ints[p.room.i]
	p.room.i++
	return err == nil
}

func (p *plain) flag(to *bool) bool {
	p.space()
	rest := p.in[p.at:]
	switch {
	case strings.HasPrefix(rest, "true"):
		*to = true
		p.at += len("true")
	case strings.HasPrefix(rest, "false"):
		*to = false
		p.at += len("false")
	default:
		return false
	}
	return true
}

func (p *plain) text(to *string) (ok bool) {
	*to, ok = p.str()
	return ok
}

// str reads a string without escapes.
func (p *plain) str() (string, bool) {
	if !p.next('"') {
		return "", false
	}
	ascii := true
	for i := p.at; i < len(p.in); i++ {
		switch b := p.in[i]; {
		case b == '"':
			s := p.in[p.at:i]
			p.at = i + 1
			return s, ascii || utf8.ValidString(s)
		case b < ' ' || b == '\\':
			return "", false
		case b >= utf8.RuneSelf:
			ascii = false
		}
	}
	return "", false
}

// number reads a number and says whether it is a whole one.
func (p *plain) number() (text string, whole, ok bool) {
	p.space()
	start := p.at
	if p.at < len(p.in) && p.in[p.at] == '-' {
		p.at++
	}
	lead := p.at
	if n := p.digits(); n == 0 || n > 1 && p.in[lead] == '0' {
		return "", false, false
	}
	whole = true
	if p.at < len(p.in) && p.in[p.at] == '.' {
		p.at++
		if whole = false; p.digits() == 0 {
			return "", false, false
		}
	}
	if p.at < len(p.in) && p.in[p.at]|0x20 == 'e' {
		p.at++
		if p.at < len(p.in) && (p.in[p.at] == '+' || p.in[p.at] == '-') {
			p.at++
		}
		if whole = false; p.digits() == 0 {
			return "", false, false
		}
	}
	return p.in[start:p.at], whole, true
}

func (p *plain) digits() (n int) {
	for p.at < len(p.in) && '0' <= p.in[p.at] && p.in[p.at] <= '9' {
		p.at++
		n++
	}
	return n
}

func (p *plain) space() {
	for p.at < len(p.in) && (p.in[p.at] == ' ' || p.in[p.at] == '\n' || p.in[p.at] == '\t' || p.in[p.at] == '\r') {
		p.at++
	}
}

func (p *plain) peek() byte {
	p.space()
	if p.at == len(p.in) {
		return 0
	}
	return p.in[p.at]
}

// next reads one byte of punctuation.
func (p *plain) next(b byte) bool {
	if p.peek() != b {
		return false
	}
	p.at++
	return true
}
