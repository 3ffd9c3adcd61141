package book

import (
	"encoding/json"

	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
)

// Entry is one line of a tree's log, as it is sent. Which fields count follows from
// Kind.
type Entry struct {
	ID    string    `json:"id" doc:"ULID, made where the entry is made" minLength:"26" maxLength:"26"`
	Kind  string    `json:"kind" enum:"facts,look,note,score,withdraw,name,marks,undo"`
	By    string    `json:"by,omitempty" doc:"Who made it" maxLength:"80"`
	Facts *SetFacts `json:"facts,omitempty"`
	From  string    `json:"from,omitempty" doc:"look: where it came from"`
	Look  string    `json:"look,omitempty" doc:"score and note: id of the look"`
	Visit string    `json:"visit,omitempty" doc:"look: id of the visit it was taken on; absent: the visit of its day" maxLength:"26"`
	Score *Score    `json:"score,omitempty"`
	Entry string    `json:"entry,omitempty" doc:"withdraw: id of what is taken back; undo: id of what counts as never made"`
	Note  string    `json:"note,omitempty" maxLength:"2000"`
	Name  *Naming   `json:"name,omitempty"`

	Marks    *Marks    `json:"marks,omitempty" doc:"marks: what was marked on a photograph, in place of what was before"`
	Measured *Measured `json:"measured,omitempty" doc:"facts and score: how it was measured; what the entry says is worked out from it"`

	Far  bool   `json:"far,omitempty" doc:"A position is meant though it is far from the tract's other trees; absent: such a one is refused"`
	Seen string `json:"seen,omitempty" doc:"For an entry that waited to be sent: the stamp of the tree as it was seen" maxLength:"60"`
}

// Measured is how a height, a diameter or a position was come by: the readings as they
// were written, or as an instrument sent them.
type Measured struct {
	Sum        string                     `json:"sum,omitempty" maxLength:"40" doc:"Which sum gives it; absent: it was read off"`
	Given      map[string]json.RawMessage `json:"given,omitempty" doc:"The sum's inputs by name, as they were written"`
	Instrument string                     `json:"instrument,omitempty" maxLength:"80" doc:"What read it; absent: a person"`
	Photo      string                     `json:"photo,omitempty" maxLength:"26" doc:"Id of the photograph that it was read off"`
}

// SetFacts sets facts; a field that is absent stays as it was.
type SetFacts struct {
	Age     *string   `json:"age,omitempty" doc:"young, mature, old, or empty for not judged"`
	Foliage *string   `json:"foliage,omitempty"`
	Snow    *string   `json:"snow,omitempty"`
	Beyond  *[]string `json:"out_of_reach,omitempty"`
	Flat    *bool     `json:"flat,omitempty" doc:"Take every listed tree as equally common"`
	Light   *string   `json:"light,omitempty" enum:"good,poor" doc:"Poor light lowers what is offered first as certainty"`
	Among   *Among    `json:"among,omitempty" doc:"Which taxa it could be, other than it was started with"`

	Position *Position `json:"position,omitempty"`
	Unplaced bool      `json:"unplaced,omitempty" doc:"Takes the position away"`
	Height   *float64  `json:"height_m,omitempty" minimum:"0" maximum:"120" doc:"Height in metres; 0: not measured"`
	Vigour   *string   `json:"vigour,omitempty" enum:"thriving,fair,failing,dead," doc:"Empty: not judged"`
	Remarks  *string   `json:"remarks,omitempty" maxLength:"2000"`
	Extra    any       `json:"extra,omitempty" doc:"Fields of a record that was read in which the format does not know, as an object"`
	Aside    *bool     `json:"aside,omitempty" doc:"Entered by mistake: kept, and left out of lists, counts and files"`
}

// Among says which taxa a tree could be.
type Among struct {
	Region string `json:"region" doc:"Region of the flora"`
	List   string `json:"list,omitempty" doc:"List of one's own; absent: the whole region"`
}

// Position is a place on the ground: degrees of WGS 84.
type Position struct {
	Lon    float64 `json:"lon" minimum:"-180" maximum:"180"`
	Lat    float64 `json:"lat" minimum:"-90" maximum:"90"`
	Within float64 `json:"within_m,omitempty" minimum:"0" maximum:"100000" doc:"How far off it may be, in metres; absent: not known"`
}

// Naming is a name given to the tree, with how the tree stood then.
type Naming struct {
	Rank      string   `json:"rank" enum:"species,group,genus,family,undetermined"`
	Name      string   `json:"name" maxLength:"120"`
	Why       string   `json:"why,omitempty" maxLength:"2000"`
	Posterior float64  `json:"posterior,omitempty" doc:"What the evidence gave the name then; set by the book"`
	Leader    string   `json:"leader,omitempty" doc:"Who led then; set by the book"`
	Seen      string   `json:"seen,omitempty" enum:"leaf,flower,fruit" doc:"What confirms it; absent: it is a winter's name"`
	Hedge     string   `json:"hedge,omitempty" enum:"cf.,?" doc:"How whoever gave it hedged it; counts until the tree is scored"`
	Knew      []string `json:"-"`
}

// Score is one answer. Which fields count follows from the character's kind.
type Score struct {
	Character  string   `json:"character" maxLength:"60"`
	States     []string `json:"states,omitempty" doc:"One or several of the character's states: one of these" maxItems:"64"`
	Typed      string   `json:"typed,omitempty" doc:"A measurement as written: 1/4 in, or 5; 6; 5.5" maxLength:"120"`
	Value      *float64 `json:"value,omitempty" doc:"Measurement, mean of the readings"`
	Unit       string   `json:"unit,omitempty" doc:"mm, cm, m, in or ft; absent: the character's own unit"`
	Readings   *int     `json:"readings,omitempty" doc:"How many readings the value is the mean of"`
	How        string   `json:"how,omitempty" doc:"caliper, ruler (the default) or eye"`
	Seen       *bool    `json:"seen,omitempty" doc:"For a sign: seen, or looked for and not seen"`
	Visibility string   `json:"visibility,omitempty" doc:"clear (the default), partial or poor"`
	Pairs      *int     `json:"pairs,omitempty" doc:"Nodes that show a pair"`
	Nodes      *int     `json:"nodes,omitempty" doc:"Nodes counted"`
	Certainty  string   `json:"certainty,omitempty" doc:"sure, fair (the default) or guess"`
	Zone       string   `json:"zone,omitempty" doc:"base, breast (the default) or upper"`
}

// logged is the entry as the log keeps it.
func (e *Entry) logged() logbook.Entry {
	return logbook.Entry{
		ID:       e.ID,
		Kind:     logbook.Kind(e.Kind),
		By:       e.By,
		Facts:    e.Facts.logged(),
		From:     e.From,
		Look:     e.Look,
		Visit:    e.Visit,
		Score:    (*record.Score)(e.Score),
		Entry:    e.Entry,
		Note:     e.Note,
		Name:     (*logbook.Naming)(e.Name),
		Measured: (*logbook.Measured)(e.Measured),
		Marks:    e.Marks.logged(),
	}
}

func (f *SetFacts) logged() *logbook.SetFacts {
	if f == nil {
		return nil
	}
	return &logbook.SetFacts{Age: f.Age, Foliage: f.Foliage, Snow: f.Snow, Beyond: f.Beyond, Flat: f.Flat, Light: f.Light,
		Among: (*logbook.Among)(f.Among), Position: (*logbook.Position)(f.Position), Unplaced: f.Unplaced, Height: f.Height,
		Vigour: f.Vigour, Remarks: f.Remarks, Extra: f.Extra, Aside: f.Aside}
}
