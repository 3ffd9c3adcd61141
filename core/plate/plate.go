// Package plate holds what every drawing of a tree is made with: what the tree shows, how
// it varies, the colours of the states, and a pen for SVG. Its own packages draw: twig a
// winter twig to scale, bark a piece of trunk, outline a whole tree, fruit what hangs on
// it or lies below. The same tree and seed give the same bytes everywhere.
package plate

import (
	"hash/fnv"
	"math"
	"math/rand/v2"
	"slices"
)

// Version is raised when drawings come out otherwise for the same tree.
const Version = "1"

// Shown is what a tree shows of one character; which field counts follows from its kind.
type Shown struct {
	State string
	Value float64 // in the character's unit
	Seen  bool
}

// Shows is what a tree shows, by character. What is not in it is not known.
type Shows map[string]Shown

// Knows says whether something is known of a character.
func (s Shows) Knows(id string) bool { _, ok := s[id]; return ok }

// State gives the state of a character, or what is usual where it is not known.
func (s Shows) State(id, usual string) string {
	if v, ok := s[id]; ok && v.State != "" {
		return v.State
	}
	return usual
}

// Value gives a measurement, or what is usual where it is not known.
func (s Shows) Value(id string, usual float64) float64 {
	if v, ok := s[id]; ok && v.Value > 0 {
		return v.Value
	}
	return usual
}

// Seen says whether a sign is shown.
func (s Shows) Seen(id string) bool { return s[id].Seen }

// Tree is one individual that is drawn.
type Tree struct {
	Name    string // scientific
	English string
	Shows   Shows
	Build   Build
	Height  float64 // m
	Seed    uint64  // 0: the usual one
	Age     string  // young, mature or old
	Marked  []string
}

// Build is what a drawing needs beyond the characters: a taxon's drawing values.
type Build struct {
	Ranks      int     // rows that leaves stand in: 2, 3, or 5 for a spiral
	Internode  float64 // mm between nodes of last year's growth
	RidgeWidth float64 // mm, of a ridge, strip or plate of grown bark
	PlateRun   float64 // mm, how long a plate or scale is
	LimbAngle  float64 // degrees from upright, where a limb leaves the trunk
	Spread     float64 // width of an open-grown crown over the tree's height
	Clear      float64 // share of the height without limbs
}

// OrdinaryBuild is what is drawn where nothing is known.
var OrdinaryBuild = Build{Ranks: 5, Internode: 18, RidgeWidth: 22, PlateRun: 80, LimbAngle: 50, Spread: 0.6, Clear: 0.22}

// IsMarked says whether a character is to be drawn as one that differs.
func (t *Tree) IsMarked(id string) bool { return slices.Contains(t.Marked, id) }

// Rand gives the chance that one part of this individual is drawn with.
func (t *Tree) Rand(part string) *rand.Rand {
	h := fnv.New64a()
	_, _ = h.Write([]byte(t.Name + "\x1f" + part))
	return rand.New(rand.NewPCG(t.Seed, h.Sum64()))
}

// Between gives a chance value from lo to hi.
func Between(r *rand.Rand, lo, hi float64) float64 { return lo + (hi-lo)*r.Float64() }

// Clamp keeps x from lo to hi.
func Clamp(x, lo, hi float64) float64 { return max(lo, min(hi, x)) }

// Smooth rises from 0 at a to 1 at b.
func Smooth(a, b, x float64) float64 {
	t := Clamp((x-a)/(b-a), 0, 1)
	return t * t * (3 - 2*t)
}

// Radians of an angle in degrees.
func Radians(degrees float64) float64 { return degrees * math.Pi / 180 }

// Hypot is the length of two sides' third, alike on every machine.
func Hypot(x, y float64) float64 { return math.Sqrt(x*x + y*y) }
