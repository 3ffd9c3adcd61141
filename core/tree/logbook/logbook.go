// Package logbook keeps a tree's record as a log: looks opened, scores made and
// withdrawn, facts set, names given. Entries are added, never changed. [Replay]
// works out what stands after them.
//
// Entries are ordered by their ids, which are ULIDs made where the entry was
// made, so that logs written by two people or two machines merge by union.
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
	ID    string        `json:"id" doc:"ULID, made where the entry is made" minLength:"26" maxLength:"26"`
	Kind  Kind          `json:"kind" enum:"facts,look,note,score,withdraw,name"`
	By    string        `json:"by,omitempty" doc:"Who made it" maxLength:"80"`
	Facts *Facts        `json:"facts,omitempty"`
	From  string        `json:"from,omitempty" doc:"look: where it came from"`
	Look  string        `json:"look,omitempty" doc:"score and note: id of the look"`
	Visit string        `json:"visit,omitempty" doc:"look: id of the visit it was taken on; absent: the visit of its day" maxLength:"26"`
	Score *record.Score `json:"score,omitempty"`
	Entry string        `json:"entry,omitempty" doc:"withdraw: id of the score, look or name taken back"`
	Note  string        `json:"note,omitempty" maxLength:"2000"`
	Name  *Naming       `json:"name,omitempty"`
}

// Facts are set field by field; a field that is absent stays as it was.
type Facts struct {
	Age     *string   `json:"age,omitempty" doc:"young, mature, old, or empty for not judged"`
	Foliage *string   `json:"foliage,omitempty"`
	Snow    *string   `json:"snow,omitempty"`
	Beyond  *[]string `json:"out_of_reach,omitempty"`
	Flat    *bool     `json:"flat,omitempty" doc:"Take every listed tree as equally common"`
	Light   *string   `json:"light,omitempty" enum:"good,poor" doc:"Poor light lowers what is offered first as certainty"`
	Region  *string   `json:"region,omitempty" doc:"Whose trees it could be: a region or a list, other than the tree was started with"`

	Position *Position `json:"position,omitempty"`
	Unplaced bool      `json:"unplaced,omitempty" doc:"Takes the position away"`
	Height   *float64  `json:"height_m,omitempty" minimum:"0" maximum:"120" doc:"Height in metres; 0: not measured"`
	Vigour   *string   `json:"vigour,omitempty" enum:"thriving,fair,failing,dead," doc:"Empty: not judged"`
	Remarks  *string   `json:"remarks,omitempty" maxLength:"2000"`
	Extra    any       `json:"extra,omitempty" doc:"Fields of a record that was read in which the format does not know, as an object"`
	Aside    *bool     `json:"aside,omitempty" doc:"Entered by mistake: kept, and left out of lists, counts and files"`
}

// Naming is a name given to the tree, with how the tree stood then.
type Naming struct {
	Rank      string  `json:"rank" enum:"species,group,genus,family,undetermined"`
	Name      string  `json:"name" maxLength:"120"`
	Why       string  `json:"why,omitempty" maxLength:"2000"`
	Posterior float64 `json:"posterior,omitempty" doc:"What the evidence gave the name then; set by the server"`
	Leader    string  `json:"leader,omitempty" doc:"Who led then; set by the server"`
}

// State is what stands after a log.
type State struct {
	Facts Standing
	Looks []Look
	Names []Given // oldest first, those taken back among them
	Notes []string
	Last  time.Time // when the last entry was made
}

// Standing holds the facts as they stand.
type Standing struct {
	Age     string   `json:"age"`
	Foliage string   `json:"foliage"`
	Snow    string   `json:"snow"`
	Beyond  []string `json:"out_of_reach"`
	Flat    bool     `json:"flat"`
	Light   string   `json:"light"`
	Region  string   `json:"region" doc:"Empty: as the tree was started with"`

	Position *Position `json:"position,omitempty"`
	Height   float64   `json:"height_m" doc:"0: not measured"`
	Vigour   string    `json:"vigour"`
	Remarks  string    `json:"remarks"`
	Extra    any       `json:"extra,omitempty"`
	Aside    bool      `json:"aside"`
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
func Replay(entries []Entry) *State {
	sorted := slices.Clone(entries)
	slices.SortStableFunc(sorted, func(a, b Entry) int { return cmp.Compare(a.ID, b.ID) })
	gone := map[string]bool{}
	for _, e := range sorted {
		if e.Kind == KindWithdraw {
			gone[e.Entry] = true
		}
	}
	st := &State{Facts: Standing{Foliage: "bare", Snow: "none", Light: "good", Beyond: []string{}}}
	for i := range sorted {
		e := &sorted[i]
		at := When(e.ID)
		if at.After(st.Last) {
			st.Last = at
		}
		st.apply(e, at)
	}
	st.drop(gone)
	return st
}

// drop takes out what was withdrawn. It comes last, so that a withdrawn score
// does not bring back the one it had replaced.
func (st *State) drop(gone map[string]bool) {
	st.Looks = slices.DeleteFunc(st.Looks, func(l Look) bool { return gone[l.ID] })
	for i := range st.Names {
		st.Names[i].Back = gone[st.Names[i].Entry]
	}
	for i := range st.Looks {
		l := &st.Looks[i]
		l.Scores = slices.DeleteFunc(l.Scores, func(s Score) bool { return gone[s.Entry] })
	}
}

func (st *State) apply(e *Entry, at time.Time) {
	switch e.Kind {
	case KindFacts:
		st.Facts.set(e.Facts)
	case KindLook:
		st.Looks = append(st.Looks, Look{ID: e.ID, From: e.From, Note: e.Note})
	case KindNote:
		if l := st.look(e.Look); l != nil {
			l.Note = e.Note
		} else if e.Look == "" {
			st.Notes = append(st.Notes, e.Note)
		}
	case KindScore:
		if l := st.look(e.Look); l != nil {
			l.put(Score{Entry: e.ID, Score: *e.Score})
		}
	case KindName:
		st.Names = append(st.Names, Given{Naming: *e.Name, Entry: e.ID, By: e.By, At: at})
	}
}

func (f *Standing) set(p *Facts) {
	put(&f.Age, p.Age)
	put(&f.Foliage, p.Foliage)
	put(&f.Snow, p.Snow)
	put(&f.Beyond, p.Beyond)
	put(&f.Flat, p.Flat)
	put(&f.Light, p.Light)
	put(&f.Region, p.Region)
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

// put lays a score over an earlier one of the same character and zone.
func (l *Look) put(s Score) {
	for i := range l.Scores {
		if l.Scores[i].Character == s.Character && zone(l.Scores[i].Zone) == zone(s.Zone) {
			l.Scores[i] = s
			return
		}
	}
	l.Scores = append(l.Scores, s)
}

// zone is the zone meant where none is written.
func zone(z string) string {
	if z == "" {
		return "breast"
	}
	return z
}

// Record turns what stands into a field record.
func (st *State) Record(tag, region string) *record.Record {
	rec := &record.Record{ID: tag, Region: region, Age: st.Facts.Age, Foliage: st.Facts.Foliage, Note: st.Facts.Remarks,
		Snow: st.Facts.Snow, Beyond: st.Facts.Beyond, Flat: st.Facts.Flat, Looks: []record.Look{}}
	if st.Facts.Region != "" {
		rec.Region = st.Facts.Region
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

// When is the time an id was made, or the zero time for what is not an id.
func When(id string) time.Time {
	u, err := ulid.ParseStrict(id)
	if err != nil {
		return time.Time{}
	}
	return ulid.Time(u.Time()).UTC()
}

// Standing lists the entries whose looks, scores and names stand.
func (st *State) Standing() map[string]bool {
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
