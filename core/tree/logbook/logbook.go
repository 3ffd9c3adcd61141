package logbook

import (
	"cmp"
	"encoding/json"
	"slices"
	"time"

	"github.com/oklog/ulid/v2"

	"palethicket/core/tree/record"
)

// Kind says what an entry adds.
type Kind string

// The kinds of entry.
const (
	KindFacts    Kind = "facts"    // age, snow, what is out of reach …
	KindLook     Kind = "look"     // a look opened; the entry's id is the look's
	KindNote     Kind = "note"     // what is noted of a look, or of the tree
	KindScore    Kind = "score"    // a score in a look
	KindWithdraw Kind = "withdraw" // takes a score, a look or a name back
	KindName     Kind = "name"     // a name given
)

// Kinds lists the kinds of entry.
var Kinds = []string{"facts", "look", "note", "score", "withdraw", "name"}

// Entry is one line of a tree's log. Which fields count follows from Kind.
type Entry struct {
	ID    string        `json:"id"`
	Kind  Kind          `json:"kind"`
	By    string        `json:"by,omitempty"`
	Facts *SetFacts     `json:"facts,omitempty"`
	From  string        `json:"from,omitempty"`
	Look  string        `json:"look,omitempty"`
	Visit string        `json:"visit,omitempty"`
	Score *record.Score `json:"score,omitempty"`
	Entry string        `json:"entry,omitempty"`
	Note  string        `json:"note,omitempty"`
	Name  *Naming       `json:"name,omitempty"`
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
	Extra    any       `json:"extra,omitempty"` // fields of a record that was read in which the format does not know, as an object
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
}

// State is what stands after a log.
type State struct {
	Facts Facts
	Looks []Look
	Names []Given // oldest first, those taken back among them
	Notes []string
	Last  time.Time // when the last entry was made

	gone map[string]bool // entries that were withdrawn
}

// Facts are the facts as they stand.
type Facts struct {
	Age      string
	Foliage  string
	Snow     string
	Beyond   []string
	Flat     bool
	Light    string
	Among    Among     // empty: as the tree was started with
	Position *Position // nil: not known
	Height   float64   // m; 0: not measured
	Vigour   string
	Remarks  string
	Extra    any
	Aside    bool
}

// Look is a look with the scores that stand in it.
type Look struct {
	ID     string
	From   string
	Note   string
	Scores []Score
}

// Score is a score that stands, and the entry that made it.
type Score struct {
	Entry string
	record.Score
}

// Given is a name, who gave it and when, and the entry that gave it.
type Given struct {
	Naming
	Entry string
	By    string
	At    time.Time
	Back  bool // taken back later
}

// Name is the last name given that was not taken back, or nil.
func (st *State) Name() *Given {
	for i := len(st.Names) - 1; i >= 0; i-- {
		if !st.Names[i].Back {
			return &st.Names[i]
		}
	}
	return nil
}

// Measured gives the last value scored for a numeric character, in the unit it
// was written in, or false.
func (st *State) Measured(character string) (s record.Score, ok bool) {
	for _, l := range st.Looks {
		for _, sc := range l.Scores {
			if sc.Character == character && sc.Value != nil {
				s, ok = sc.Score, true
			}
		}
	}
	return s, ok
}

// Replay works out what stands after the entries, whatever order they come in.
// Of the scores of one character and zone in one look the last stands, until
// it is withdrawn; withdrawing a look takes its scores with it.
func Replay(entries []Entry) *State { return &NewLog(entries).State }

// Log is a tree's entries in their order, and what stands after them.
type Log struct {
	Entries []Entry
	State
}

// NewLog replays entries, whatever order they come in.
func NewLog(entries []Entry) *Log {
	l := &Log{Entries: slices.Clone(entries)}
	slices.SortStableFunc(l.Entries, byID)
	l.replay()
	return l
}

func byID(a, b Entry) int { return cmp.Compare(a.ID, b.ID) }

func (l *Log) replay() {
	l.State = State{Facts: Facts{Foliage: "bare", Snow: "none", Light: "good", Beyond: []string{}}, gone: map[string]bool{}}
	for i := range l.Entries { // a withdrawal wins wherever it stands
		if e := &l.Entries[i]; e.Kind == KindWithdraw {
			l.gone[e.Entry] = true
		}
	}
	for i := range l.Entries {
		l.apply(&l.Entries[i])
	}
}

// Add puts an entry in its place. Where that is the end, as it mostly is, nothing
// before it is gone through again.
func (l *Log) Add(e Entry) {
	at, _ := slices.BinarySearchFunc(l.Entries, e, byID)
	l.Entries = slices.Insert(l.Entries, at, e)
	if at == len(l.Entries)-1 {
		l.apply(&l.Entries[at])
		return
	}
	l.replay()
}

// Find gives the entry with the id, or nil.
func (l *Log) Find(id string) *Entry {
	if at, ok := slices.BinarySearchFunc(l.Entries, Entry{ID: id}, byID); ok {
		return &l.Entries[at]
	}
	return nil
}

// apply takes one entry in. A score that was withdrawn still lies over the one
// before it, so that withdrawing it does not bring that back.
func (st *State) apply(e *Entry) {
	at := When(e.ID)
	if at.After(st.Last) {
		st.Last = at
	}
	switch e.Kind {
	case KindFacts:
		st.Facts.set(e.Facts)
	case KindLook:
		if !st.gone[e.ID] {
			st.Looks = append(st.Looks, Look{ID: e.ID, From: e.From, Note: e.Note})
		}
	case KindNote:
		if l := st.look(e.Look); l != nil {
			l.Note = e.Note
		} else if e.Look == "" {
			st.Notes = append(st.Notes, e.Note)
		}
	case KindScore:
		if l := st.look(e.Look); l != nil {
			l.put(Score{Entry: e.ID, Score: *e.Score}, st.gone[e.ID])
		}
	case KindName:
		st.Names = append(st.Names, Given{Naming: *e.Name, Entry: e.ID, By: e.By, At: at, Back: st.gone[e.ID]})
	case KindWithdraw:
		st.gone[e.Entry] = true
		st.drop(e.Entry)
	}
}

// drop takes out what an entry added.
func (st *State) drop(id string) {
	st.Looks = slices.DeleteFunc(st.Looks, func(l Look) bool { return l.ID == id })
	for i := range st.Looks {
		l := &st.Looks[i]
		l.Scores = slices.DeleteFunc(l.Scores, func(s Score) bool { return s.Entry == id })
	}
	for i := range st.Names {
		if st.Names[i].Entry == id {
			st.Names[i].Back = true
		}
	}
}

func (f *Facts) set(p *SetFacts) {
	put(&f.Age, p.Age)
	put(&f.Foliage, p.Foliage)
	put(&f.Snow, p.Snow)
	put(&f.Beyond, p.Beyond)
	put(&f.Flat, p.Flat)
	put(&f.Light, p.Light)
	put(&f.Among, p.Among)
	put(&f.Height, p.Height)
	put(&f.Vigour, p.Vigour)
	put(&f.Remarks, p.Remarks)
	put(&f.Aside, p.Aside)
	if p.Position != nil || p.Unplaced {
		f.Position = p.Position
	}
	if p.Extra != nil {
		f.Extra = p.Extra
	}
}

func put[T any](to, from *T) {
	if from != nil {
		*to = *from
	}
}

func (st *State) look(id string) *Look {
	for i := range st.Looks {
		if st.Looks[i].ID == id {
			return &st.Looks[i]
		}
	}
	return nil
}

// put lays a score over an earlier one of the same character and zone; one that
// was withdrawn takes that away and leaves nothing.
func (l *Look) put(s Score, gone bool) {
	at := slices.IndexFunc(l.Scores, func(old Score) bool { return old.Character == s.Character && zone(old.Zone) == zone(s.Zone) })
	switch {
	case at >= 0 && gone:
		l.Scores = slices.Delete(l.Scores, at, at+1)
	case at >= 0:
		l.Scores[at] = s
	case !gone:
		l.Scores = append(l.Scores, s)
	}
}

// zone is the zone meant where none is written.
func zone(z string) string {
	if z == "" {
		return "breast"
	}
	return z
}

// Record turns what stands into a field record of the tag, ranked among what the
// tree was started with unless the log says otherwise.
func (st *State) Record(tag string, started Among) *record.Record {
	among := st.Among(started)
	rec := &record.Record{
		ID:      tag,
		Region:  among.Region,
		List:    among.List,
		Age:     st.Facts.Age,
		Foliage: st.Facts.Foliage,
		Note:    st.Facts.Remarks,
		Snow:    st.Facts.Snow,
		Beyond:  st.Facts.Beyond,
		Flat:    st.Facts.Flat,
		Looks:   []record.Look{},
	}
	if st.Facts.Extra != nil {
		rec.Extra, _ = json.Marshal(st.Facts.Extra) // it came from JSON
	}
	if st.Facts.Position != nil {
		rec.Position = &[2]float64{st.Facts.Position.Lon, st.Facts.Position.Lat}
	}
	if !st.Last.IsZero() {
		rec.Date = st.Last.Format(time.DateOnly)
	}
	for _, l := range st.Looks {
		rl := record.Look{From: l.From, Scores: []record.Score{}}
		for _, s := range l.Scores {
			rl.Scores = append(rl.Scores, s.Score)
		}
		rec.Looks = append(rec.Looks, rl)
	}
	return rec
}

// Among is what the tree is ranked among: what the log says, or what it was
// started with.
func (st *State) Among(started Among) Among {
	if st.Facts.Among != (Among{}) {
		return st.Facts.Among
	}
	return started
}

// When is the time an id was made, or the zero time for what is not an id.
func When(id string) time.Time {
	u, err := ulid.ParseStrict(id)
	if err != nil {
		return time.Time{}
	}
	return ulid.Time(u.Time()).UTC()
}

// Stand lists the entries whose looks, scores and names stand.
func (st *State) Stand() map[string]bool {
	ids := map[string]bool{}
	for _, l := range st.Looks {
		ids[l.ID] = true
		for _, s := range l.Scores {
			ids[s.Entry] = true
		}
	}
	for _, n := range st.Names {
		ids[n.Entry] = !n.Back
	}
	return ids
}
