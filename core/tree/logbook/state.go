package logbook

import (
	"encoding/json"
	"slices"
	"time"

	"palethicket/core/tree/record"
	"palethicket/core/tree/stamp"
)

// State is what stands after a log.
type State struct {
	Place   Place
	Started Among // what it was started to be ranked among
	Facts   Facts
	Looks   []Look
	Names   []Given // oldest first, those taken back among them
	Notes   []string
	Photos  []string          // ids of those that were not taken back
	Marks   map[string]*Marks // on photographs, by their ids
	Last    time.Time         // when the last of what it tells was so

	gone map[string]bool // entries that were withdrawn
}

// Facts are the facts as they stand.
type Facts struct {
	Age      string
	Foliage  string // empty: nobody said; it is leafless unless something green was scored
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

// Known lists the entries of the names that stand, for [Naming.Knew]: of those with a stamp
// up to a moment, where one is given.
func (l *Log) Known(until stamp.Stamp) []string {
	ids := []string{}
	for i := range l.Names {
		if g := &l.Names[i]; !g.Back && (until == "" || l.Find(g.Entry).Stamp <= until) {
			ids = append(ids, g.Entry)
		}
	}
	return ids
}

// Unknown lists the names that stand beside the last one and that whoever gave that could
// not see, as they were given on another device.
func (st *State) Unknown() (apart []*Given) {
	last := st.Name()
	if last == nil || last.Knew == nil {
		return nil
	}
	for i := range st.Names {
		if g := &st.Names[i]; g != last && !g.Back && !slices.Contains(last.Knew, g.Entry) {
			apart = append(apart, g)
		}
	}
	return apart
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

// apply takes one entry in. A score that was withdrawn still lies over the one
// before it, so that withdrawing it does not bring that back; one that was undone
// counts as never made.
func (l *Log) apply(e *Entry) {
	st, at := &l.State, l.At(e)
	if at.After(st.Last) {
		st.Last = at
	}
	if l.undone[e.ID] {
		return
	}
	switch e.Kind {
	case KindStart:
		st.Place, st.Started = e.Start.Place, e.Start.Among
	case KindMove:
		st.Place = *e.Move
	case KindFacts:
		st.Facts.set(e.Facts)
	case KindLook, KindNote, KindScore, KindPhoto:
		st.applyLooked(e)
	case KindName:
		st.Names = append(st.Names, Given{Naming: *e.Name, Entry: e.ID, By: e.By, At: at, Back: st.gone[e.ID]})
	case KindMarks:
		if st.Marks == nil {
			st.Marks = map[string]*Marks{}
		}
		st.Marks[e.Marks.Photo] = e.Marks
	case KindWithdraw:
		st.gone[e.Entry] = true
		st.drop(e.Entry)
	}
}

// applyLooked takes in a look or what is of one.
func (st *State) applyLooked(e *Entry) {
	l := st.look(e.Look)
	switch {
	case e.Kind == KindLook && !st.gone[e.ID]:
		st.Looks = append(st.Looks, Look{ID: e.ID, From: e.From, Note: e.Note})
	case e.Kind == KindPhoto && !st.gone[e.ID]:
		st.Photos = append(st.Photos, e.ID)
	case e.Kind == KindNote && e.Look == "":
		st.Notes = append(st.Notes, e.Note)
	case e.Kind == KindNote && l != nil:
		l.Note = e.Note
	case e.Kind == KindScore && l != nil:
		l.put(Score{Entry: e.ID, Score: *e.Score}, st.gone[e.ID])
	}
}

// drop takes out what an entry added.
func (st *State) drop(id string) {
	st.Looks = slices.DeleteFunc(st.Looks, func(l Look) bool { return l.ID == id })
	for i := range st.Looks {
		l := &st.Looks[i]
		l.Scores = slices.DeleteFunc(l.Scores, func(s Score) bool { return s.Entry == id })
	}
	st.Photos = slices.DeleteFunc(st.Photos, func(p string) bool { return p == id })
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
		rec.Looks = append(rec.Looks, l.Record())
	}
	return rec
}

// Record turns a look into one of a field record.
func (l *Look) Record() record.Look {
	out := record.Look{From: l.From, Scores: make([]record.Score, len(l.Scores))}
	for i := range l.Scores {
		out.Scores[i] = l.Scores[i].Score
	}
	return out
}

// Among is what the tree is ranked among: what the log says, or what it was
// started with.
func (st *State) Among(started Among) Among {
	if st.Facts.Among != (Among{}) {
		return st.Facts.Among
	}
	return started
}
