package logbook

import (
	"palethicket/core/tree/record"
	"palethicket/core/tree/stamp"
)

// Kind says what an entry adds.
type Kind string

// The kinds of entry.
const (
	KindStart    Kind = "start"    // a tree started; the entry's id is the tree's
	KindMove     Kind = "move"     // another tag, stand or tract
	KindFacts    Kind = "facts"    // age, snow, what is out of reach …
	KindLook     Kind = "look"     // a look opened; the entry's id is the look's
	KindNote     Kind = "note"     // what is noted of a look, or of the tree
	KindScore    Kind = "score"    // a score in a look
	KindPhoto    Kind = "photo"    // a photograph put up; the entry's id is the photograph's
	KindWithdraw Kind = "withdraw" // takes a score, a look, a name or a photograph back: nothing stands in its place
	KindName     Kind = "name"     // a name given
	KindMarks    Kind = "marks"    // what was marked on a photograph; of one photograph the last stands
	KindUndo     Kind = "undo"     // takes an entry as never made, an undoing too; what it lay over stands again

	// Of places, not of trees.
	KindVisit Kind = "visit" // a day's walk
	KindLand  Kind = "land"  // a tract or a stand: remarks, boundary, terrain
	KindPlot  Kind = "plot"  // a sample point and what was counted from it
	KindList  Kind = "list"  // a list of one's own, or that it was dropped
)

// Kinds lists the kinds of entry that a tree's log has.
var Kinds = []string{"start", "move", "facts", "look", "note", "score", "photo", "withdraw", "name", "marks", "undo"}

// Entry is one line of a log. Which fields count follows from Kind.
type Entry struct {
	ID string `json:"id"` // ULID: which entry it is, not when it was made

	// Stamp is its place in the order. Without one an entry is ordered by the time of
	// its id, as those from before there were stamps.
	Stamp stamp.Stamp `json:"stamp,omitempty"`
	// Said is when the clock of who made it said it was, where that was ahead.
	Said string `json:"said,omitempty"`
	// Day is the day of the past that it tells of, as 1987-02-03; empty: it is of the
	// time of its stamp. It does not order the log.
	Day string `json:"day,omitempty"`

	Kind  Kind          `json:"kind"`
	By    string        `json:"by,omitempty"`
	Start *Start        `json:"start,omitempty"`
	Move  *Place        `json:"move,omitempty"`
	Facts *SetFacts     `json:"facts,omitempty"`
	From  string        `json:"from,omitempty"`
	Look  string        `json:"look,omitempty"`
	Visit string        `json:"visit,omitempty"`
	Score *record.Score `json:"score,omitempty"`
	Photo *Photo        `json:"photo,omitempty"`
	Entry string        `json:"entry,omitempty"`
	Note  string        `json:"note,omitempty"`
	Name  *Naming       `json:"name,omitempty"`
	// Measured is how what the entry says was come by, where it was measured.
	Measured *Measured `json:"measured,omitempty"`

	Walk  *Visit `json:"walk,omitempty"`
	Land  *Land  `json:"land,omitempty"`
	Plot  *Plot  `json:"plot,omitempty"`
	Marks *Marks `json:"marks,omitempty"`
	List  *List  `json:"list,omitempty"`
}

// Place is where a tree stands and what is written on its tag.
type Place struct {
	Tag   string `json:"tag"`
	Tract string `json:"tract"`
	Stand string `json:"stand"`
}

// Start is a tree as it was started: where, and what it is ranked among.
type Start struct {
	Place
	Among
}

// Photo is a photograph; its file is kept apart under its digest.
type Photo struct {
	Digest  string   `json:"digest"` // SHA-256, in hexadecimal
	Kind    string   `json:"kind"`   // media type
	Bytes   int      `json:"bytes"`
	Width   int      `json:"width"`
	Height  int      `json:"height"`
	Taken   string   `json:"taken,omitempty"`
	Lon     *float64 `json:"lon,omitempty"`
	Lat     *float64 `json:"lat,omitempty"`
	Caption string   `json:"caption,omitempty"`
}

// SetFacts sets facts; a field that is absent stays as it was.
type SetFacts struct {
	Age     *string   `json:"age,omitempty"` // empty: not judged
	Foliage *string   `json:"foliage,omitempty"`
	Snow    *string   `json:"snow,omitempty"`
	Beyond  *[]string `json:"out_of_reach,omitempty"`
	Flat    *bool     `json:"flat,omitempty"` // every listed tree taken as equally common
	Light   *string   `json:"light,omitempty"`
	Among   *Among    `json:"among,omitempty"` // other than the tree was started with

	Position *Position `json:"position,omitempty"`
	Unplaced bool      `json:"unplaced,omitempty"` // takes the position away
	Height   *float64  `json:"height_m,omitempty"` // 0: not measured
	Vigour   *string   `json:"vigour,omitempty"`   // empty: not judged
	Remarks  *string   `json:"remarks,omitempty"`
	Extra    any       `json:"extra,omitempty"` // fields of a record that was read in which the format does not know: an object
	Aside    *bool     `json:"aside,omitempty"` // entered by mistake: kept, and left out of lists, counts and files
}

// Among says which taxa a tree could be: a region of the flora, and in it a list
// of one's own; without a list all of the region. Empty, it is what the tree was
// started with.
type Among struct {
	Region string `json:"region"`
	List   string `json:"list,omitempty"`
}

// Naming is a name given to the tree, with how the tree stood then.
type Naming struct {
	Rank      string  `json:"rank"`
	Name      string  `json:"name"`
	Why       string  `json:"why,omitempty"`
	Posterior float64 `json:"posterior,omitempty"`
	Leader    string  `json:"leader,omitempty"`
	Seen      string  `json:"seen,omitempty"`  // what confirms it: leaf, flower or fruit; empty: it is a winter's name
	Hedge     string  `json:"hedge,omitempty"` // Cf or InDoubt; empty: whoever gave it was sure
	// Knew are the entries of the names that stood as far as whoever gave it could see; nil:
	// that was not written down.
	Knew []string `json:"knew,omitzero"`
}
