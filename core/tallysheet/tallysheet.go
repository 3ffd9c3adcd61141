// Package tallysheet lays out scoring sheets for paper: a route's characters in order, their states with the
// letters that they are written by, for one, four or ten trees. What is written on one is keyed in by the same letters.
package tallysheet

import (
	"cmp"
	"encoding/base32"
	"errors"
	"fmt"
	"hash/fnv"
	"math"
	"slices"

	"palethicket/core/flora"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
)

// Sheet is a scoring sheet.
type Sheet struct {
	Title string `json:"title"`
	Route string `json:"route"`
	Trees int    `json:"trees" doc:"How many trees it has room for"`
	Code  string `json:"code" doc:"The same code, the same characters and letters"`
	Rows  []Row  `json:"rows"`
}

// Row is a character.
type Row struct {
	Character string  `json:"character"`
	Name      string  `json:"name"`
	Look      string  `json:"look" doc:"How to look at it"`
	Section   string  `json:"section"`
	From      string  `json:"from" doc:"Kind of look that it is scored in"`
	Kind      string  `json:"kind" enum:"categorical,numeric,sign,tally"`
	Unit      string  `json:"unit" doc:"Of a measure, which is written as a number"`
	Boxes     []Box   `json:"boxes" doc:"Its answers; none of a measure"`
	Bits      float64 `json:"bits" doc:"What it tells at most of the trees of the list"`
}

// Box is an answer and its letter.
type Box struct {
	Letter string `json:"letter"`
	State  string `json:"state" doc:"Of a sign: seen, or not"`
	Words  string `json:"words"`
}

// Rooms are how many trees sheets have room for, and how many characters each then has.
var Rooms = map[int]int{1: 200, 4: 40, 10: 26}

// Errors of what was asked.
var (
	ErrRoom  = errors.New("a sheet has room for 1, 4 or 10 trees")
	ErrRoute = errors.New("there is no such route")
	ErrEmpty = errors.New("no tree of the list shows anything that could be scored")
)

// The signs' letters, and their states.
var signs = []Box{{"y", "seen", "seen"}, {"n", "not", "looked, not seen"}}

// least is how often a state must be shown by some tree of the list to have a letter.
const least = 0.005

// New lays out a sheet for the trees of a list: of all characters that tell something there those that tell most, as many
// as there is room for, in the order of a route.
func New(f *flora.Flora, among flora.Among, routeID string, trees int) (*Sheet, error) {
	most, ok := Rooms[trees]
	if !ok {
		return nil, ErrRoom
	}
	at := slices.IndexFunc(record.Routes, func(r record.Route) bool { return r.ID == routeID })
	if at < 0 {
		return nil, ErrRoute
	}
	route := &record.Routes[at]
	p, err := f.Pool(flora.PoolKey{Among: among, Age: flora.At(flora.AnyAge)})
	if err != nil {
		return nil, err
	}
	of := cmp.Or(among.List, f.RegionWords(p.Region))
	s := &Sheet{Title: fmt.Sprintf("Tally sheet: %s", of), Route: route.Words, Trees: trees}
	for char := range p.Model.Characters() {
		c, zone := p.Character(char)
		if zone != flora.Breast {
			continue
		}
		if row := rowOf(p, char, c); row.Bits > 0.01 {
			s.Rows = append(s.Rows, row)
		}
	}
	if len(s.Rows) == 0 {
		return nil, ErrEmpty
	}
	slices.SortStableFunc(s.Rows, func(a, b Row) int { return cmp.Compare(b.Bits, a.Bits) })
	s.Rows = s.Rows[:min(most, len(s.Rows))]
	section := func(r Row) int { return slices.Index(route.Sections, r.Section) }
	place := func(r Row) int {
		return slices.IndexFunc(f.Characters, func(c flora.Character) bool { return c.ID == r.Character })
	}
	slices.SortStableFunc(s.Rows, func(a, b Row) int {
		return cmp.Or(cmp.Compare(section(a), section(b)), cmp.Compare(place(a), place(b)))
	})
	s.Code = s.code()
	return s, nil
}

func rowOf(p *flora.Pool, char int, c *flora.Character) Row {
	row := Row{Character: c.ID, Name: c.Name, Look: c.Look, Section: c.Section, Kind: c.Kind.String(), Unit: c.Unit, Boxes: []Box{},
		From: answer.From(c), Bits: bits(p, char)}
	switch c.Kind {
	case evidence.Numeric:
	case evidence.Sign:
		row.Boxes = signs
	default:
		for i := range c.States {
			if s := &c.States[i]; shown(p, char, i) {
				row.Boxes = append(row.Boxes, Box{State: s.ID, Words: record.StateWords(s.ID)})
			}
		}
		for i := range row.Boxes {
			row.Boxes[i].Letter = letter(i, len(row.Boxes))
		}
	}
	return row
}

// alphabet is how many answers a row has for which one letter does. In a longer row all have two.
const alphabet = 26

// letter is what an answer of a row is written by, by its place.
func letter(at, of int) string {
	last := string(rune('a' + at%alphabet))
	if of <= alphabet {
		return last
	}
	return string(rune('a'+at/alphabet)) + last
}

// shown says whether any tree of the pool shows a state often enough.
func shown(p *flora.Pool, char, state int) bool {
	for t := range p.Taxa {
		v := p.Model.Taxa()[t].Values[char]
		if v.Knowledge == evidence.Known && v.Dist[state] > least {
			return true
		}
	}
	return false
}

// bits is what a fair score of a character tells of who the tree is, in bits: the information between the two.
func bits(p *flora.Pool, char int) float64 {
	rows := p.Model.Outcomes(char, evidence.Setting{Error: record.ErrorRate["fair"], Spread: record.Spread["ruler"],
		Readings: 1, Detect: record.Detection["clear"], False: record.FalseAlarm})
	share, total := p.Model.Share(), 0.0
	for _, row := range rows {
		mass := 0.0
		for t := range p.Taxa {
			mass += share[t] * row[t]
		}
		if mass <= 0 {
			continue
		}
		for t := range p.Taxa {
			if row[t] > 0 && share[t] > 0 {
				total += share[t] * row[t] * math.Log2(row[t]/mass)
			}
		}
	}
	return total
}

// code is four letters and digits that tell one layout from another.
func (s *Sheet) code() string {
	h := fnv.New32a()
	for _, r := range s.Rows {
		h.Write([]byte(r.Character + r.Unit))
		for _, b := range r.Boxes {
			h.Write([]byte(b.Letter + b.State))
		}
	}
	return base32.StdEncoding.EncodeToString(h.Sum(nil))[:4]
}
