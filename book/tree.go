package book

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"palethicket/core/flora"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/core/tree/stamp"
	"palethicket/core/weigh/evidence"
	"palethicket/store"
)

// Tree is a tree's line in the book.
type Tree struct {
	ID     string `json:"id"`
	Tag    string `json:"tag"`
	Region string `json:"region" doc:"Region of the flora that it was started in"`
	List   string `json:"list,omitempty" doc:"List that it was started to be ranked among; absent: the whole region"`
	Tract  string `json:"tract"`
	Stand  string `json:"stand"`
}

// TreeView is a tree with all that stands of it and what it comes to.
type TreeView struct {
	Tree  Tree       `json:"tree"`
	Facts Facts      `json:"facts"`
	Looks []LookView `json:"looks"`
	Names []NameView `json:"names" doc:"Names given and not taken back, newest first"`
	Notes []string   `json:"notes"`

	Readings []ReadingView `json:"readings" doc:"What was measured, with its readings"`

	Step   string      `json:"step,omitempty" enum:"named,probably,not-yet" doc:"How sure the last name given is; absent: none is"`
	Doubt  string      `json:"doubt" doc:"Why the evidence does not carry the last name given, or empty"`
	Fault  string      `json:"fault" doc:"Why the tree cannot be weighed with this flora, or empty; the result is then empty too"`
	Result Result      `json:"result"`
	Offer  Offer       `json:"offer"`
	Drawn  []DrawnFrom `json:"drawn" doc:"What the looks have shown, to draw the tree from"`
	Last   time.Time   `json:"last" doc:"When the last of what is entered was so"`
	Seen   string      `json:"seen" doc:"Stamp of the last entry; sent along with entries that waited"`
	Acts   []Act       `json:"acts" doc:"What everybody did last and can undo, by a further entry"`

	Stranded []Stranded `json:"stranded,omitempty" doc:"Scores that count no more, as somebody else took back their look"`

	SameTag []string `json:"same_tag,omitempty" doc:"Ids of other trees of the tract that carry its tag; one is to be renamed"`

	Walk     string `json:"walk,omitempty" doc:"The walk that it is of, through a wood that does not exist"`
	Revision string `json:"-"` // of this view; another view of the same revision says the same
}

// Stranded is a score that counts no more, as somebody else took back the look that it is in.
type Stranded struct {
	Entry string `json:"entry"`
	By    string `json:"by" doc:"Who scored it"`
	Words string `json:"words"`
	Took  string `json:"took" doc:"Who took the look back"`
}

// Act is what somebody did last to a tree.
type Act struct {
	By    string `json:"by"`
	Entry string `json:"entry" doc:"Id of the entry, for undoing it"`
	Words string `json:"words"`
}

// Facts are the facts as they stand.
type Facts struct {
	Age        string    `json:"age"`
	Foliage    string    `json:"foliage"`
	Snow       string    `json:"snow"`
	Beyond     []string  `json:"out_of_reach"`
	Flat       bool      `json:"flat"`
	Light      string    `json:"light"`
	Among      Among     `json:"among" doc:"Which taxa it could be"`
	AmongWords string    `json:"among_words"`
	Unusual    []string  `json:"unusual" doc:"What of the visit is out of the ordinary, in words"`
	Position   *Position `json:"position,omitempty"`
	Height     float64   `json:"height_m" doc:"0: not measured"`
	Vigour     string    `json:"vigour"`
	Remarks    string    `json:"remarks"`
	Aside      bool      `json:"aside"`
	Extra      any       `json:"extra,omitempty"`
}

// LookView is a look, its scores and what came of it.
type LookView struct {
	ID        string      `json:"id"`
	From      string      `json:"from"`
	FromWords string      `json:"from_words"`
	Note      string      `json:"note"`
	Scores    []ScoreView `json:"scores"`
	Belongs   float64     `json:"belongs" doc:"Chance that it was of this tree, given everything"`
	Stranger  bool        `json:"stranger" doc:"It probably was of another tree"`
	Whose     string      `json:"whose" doc:"The same, in words"`
	Bits      float64     `json:"bits" doc:"Weight of evidence for the leader over the runner-up"`
	Says      string      `json:"says" doc:"The same, in words"`
}

// ScoreView is a score that stands.
type ScoreView struct {
	Entry string `json:"entry" doc:"Id of the entry that made it, for withdrawing it"`
	Name  string `json:"name" doc:"The character's name"`
	Words string `json:"words" doc:"What it says"`
	// Understood says what was made of a measure.
	Understood string `json:"understood,omitempty" doc:"Of a measure: what was made of it as it was written"`
	Score
}

// NameView is a name given and how the tree stood then.
type NameView struct {
	Entry string `json:"entry" doc:"Id of the entry that gave it, for taking it back"`
	Naming
	Words string    `json:"words" doc:"The name as it is said"`
	By    string    `json:"by"`
	At    time.Time `json:"at"`
}

// ReadingView is what was measured of a tree, and the readings that it comes from.
type ReadingView struct {
	Fills string    `json:"fills" enum:"height,diameter,position"`
	Entry string    `json:"entry"`
	Look  string    `json:"look,omitempty" doc:"Of a diameter: the look that it is scored in"`
	Says  string    `json:"says" doc:"What it comes to, with its error where that is known: 14.0 m ± 0.2"`
	Words string    `json:"words" doc:"How it was come by"`
	By    string    `json:"by"`
	At    time.Time `json:"at"`
	Measured
}

// Offer is what a score is offered first with, in the light there is.
type Offer struct {
	Certainty  string `json:"certainty"`
	Visibility string `json:"visibility"`
}

// DrawnFrom is what a tree shows of one character: what a drawing is made from.
// Which field counts follows from the character's kind.
type DrawnFrom struct {
	Character string   `json:"character"`
	State     string   `json:"state,omitempty"`
	States    []string `json:"states,omitempty" doc:"Where it may be one of several: all of them"`
	Value     *float64 `json:"value,omitempty" doc:"In the character's unit"`
	Seen      *bool    `json:"seen,omitempty"`
}

// NewTree starts a tree.
type NewTree struct {
	ID     string `json:"id" doc:"ULID, made by who starts the tree" minLength:"26" maxLength:"26"`
	Tag    string `json:"tag" doc:"What is written on its tag" minLength:"1" maxLength:"40" pattern:"\\S"`
	Tract  string `json:"tract" minLength:"1" maxLength:"80" pattern:"\\S"`
	Stand  string `json:"stand" minLength:"1" maxLength:"80" pattern:"\\S"`
	Region string `json:"region,omitempty" doc:"Region of the flora; absent: the home region"`
	List   string `json:"list,omitempty" doc:"List to rank it among; absent: the whole region"`
	By     string `json:"by,omitempty" maxLength:"80"`
	New    bool   `json:"new,omitempty" doc:"Make its tract or stand where the book has none of the name; absent: refuse it"`
}

// AddTree starts a tree. Starting the same tree again changes nothing.
func (b *Book) AddTree(ctx context.Context, n NewTree) (*TreeView, error) {
	place, err := placeOf(n.Tag, n.Tract, n.Stand)
	if err != nil {
		return nil, err
	}
	if err := checkID(n.ID); err != nil {
		return nil, err
	}
	return b.began(ctx, func(tx *store.Tx) (*sheet, error) { return b.start(ctx, tx, n, place, b.siteOfStand) })
}

// began makes a change that may start a tree, and gives the tree as it then is.
func (b *Book) began(ctx context.Context, change func(tx *store.Tx) (*sheet, error)) (*TreeView, error) {
	b.pressing.begin()
	defer b.pressing.end()
	tx, err := b.store.Begin(ctx)
	if err != nil {
		return nil, err
	}
	s, err := change(tx)
	if s != nil {
		defer s.close()
	}
	if err == nil {
		err = tx.Commit()
	}
	if err != nil {
		return nil, errors.Join(err, tx.Rollback())
	}
	s.weigh()
	return b.view(s), nil
}

// start starts a tree in a change, with what is known of it before anybody looked, or finds the one that was sent before.
func (b *Book) start(ctx context.Context, tx *store.Tx, n NewTree, at logbook.Place, also ...known) (*sheet, error) {
	among, err := b.among(ctx, tx.Reader, n.Region, n.List)
	if err != nil {
		return nil, amongError(err)
	}
	if err := settle(ctx, tx.Reader, &at.Tract, &at.Stand, n.New); err != nil {
		return nil, err
	}
	e := logbook.Entry{ID: n.ID, Kind: logbook.KindStart, By: n.By, Start: &logbook.Start{Place: at, Among: logbook.Among(among)}}
	s, err := b.open(ctx, tx.Reader, n.ID)
	if err == nil { // sent again; its log may have grown
		if old := s.log.Find(n.ID); old == nil || old.Start == nil || *old.Start != *e.Start || old.By != e.By {
			return nil, store.ErrIDTaken
		}
		return s, nil
	}
	if !errors.Is(err, store.ErrNoTree) {
		return nil, err
	}
	if err := tx.TagFree(ctx, at.Tract, at.Tag, n.ID); err != nil {
		return nil, err
	}
	s = b.sheet(store.Tree{ID: n.ID, Tag: at.Tag, Region: among.Region, List: among.List, Tract: at.Tract, Stand: at.Stand}, nil)
	s.stamp(&e, "")
	s.extend(e)
	for _, of := range append([]known{b.weather, b.asBefore}, also...) {
		entries, err := of(ctx, tx.Reader, s, n.By)
		if err != nil {
			return nil, err
		}
		s.extend(entries...)
	}
	return s, b.write(ctx, tx, s, "")
}

// known gives what is known of a tree that somebody starts.
type known func(ctx context.Context, from store.Reader, s *sheet, by string) ([]logbook.Entry, error)

// among finds a region or list as it is in the change that goes on.
func (b *Book) among(ctx context.Context, from store.Reader, region, list string) (flora.Among, error) {
	among, err := b.Flora().Among(region, list)
	if err != nil || among.List == "" || b.base.List(among.List) != nil {
		return among, err
	}
	has, err := from.HasList(ctx, among.List)
	if err == nil && !has { // dropped meanwhile
		_, err = b.base.Among(region, list)
	}
	return among, err
}

// AddEntry adds an entry to a tree's log once it is checked against the tree as
// it stands. Adding it again, as after a lost answer, changes nothing.
func (b *Book) AddEntry(ctx context.Context, tree string, e *Entry) (*TreeView, error) {
	seen := stamp.Stamp("")
	if e.Seen != "" {
		var err error
		if seen, err = stamp.Parse(e.Seen); err != nil {
			return nil, &FieldError{"seen", err.Error()}
		}
	}
	return b.pressed(ctx, tree, func(s *sheet) error {
		was := s.log.Facts.Position
		if err := b.enter(ctx, s, e.logged(), seen); err != nil {
			return err
		}
		if at := s.log.Facts.Position; at != nil && at != was && e.Facts != nil && !e.Far {
			return b.atHand(ctx, s.tree.Tract, tree, at)
		}
		return nil
	})
}

// enter adds an entry once it is checked against what only the book knows.
func (b *Book) enter(ctx context.Context, s *sheet, e logbook.Entry, seen stamp.Stamp) error {
	if err := b.joinable(&e); err != nil {
		return err
	}
	if b.toCome(e.Day) {
		return &FieldError{"day", e.Day + " is still to come: say when it was written"}
	}
	if e.Kind == logbook.KindFacts && e.Facts != nil && e.Facts.Among != nil && e.Facts.Among.List != "" {
		s.must = append(s.must, func(tx *store.Tx) error {
			if _, err := b.among(ctx, tx.Reader, e.Facts.Among.Region, e.Facts.Among.List); err != nil {
				return &FieldError{"facts.among", err.Error()}
			}
			return nil
		})
	}
	if err := b.enterLook(ctx, s, &e); err != nil {
		return err
	}
	was := s.log.Place
	if err := s.add(e, seen); err != nil {
		return err
	}
	b.saysOfVisit(ctx, s, &e)
	back := e.Kind == logbook.KindFacts && e.Facts.Aside != nil && !*e.Facts.Aside
	if at := s.log.Place; at != was || back { // an undone move, or a tree taken back
		s.must = append(s.must, s.tagFree(ctx))
	}
	return nil
}

// tagFree is that nobody else has the tag of the tree.
func (s *sheet) tagFree(ctx context.Context) func(*store.Tx) error {
	return func(tx *store.Tx) error { return tx.TagFree(ctx, s.log.Place.Tract, s.log.Place.Tag, s.tree.ID) }
}

// pressed is a press whose answer is the tree as it then is.
func (b *Book) pressed(ctx context.Context, id string, change func(*sheet) error) (*TreeView, error) {
	s, err := b.press(ctx, id, change)
	if err != nil {
		return nil, err
	}
	defer s.close()
	return b.view(s), nil
}

// View gives a tree as it stands.
func (b *Book) View(ctx context.Context, id string) (*TreeView, error) {
	s, err := b.read(ctx, b.store.Reader, id)
	if err != nil {
		return nil, err
	}
	defer s.close()
	return b.view(s), nil
}

// Revision says what a view of a tree hangs on: while it stays the same, so does the
// view.
func (b *Book) Revision(ctx context.Context, id string) (string, error) {
	version, err := b.store.Version(ctx, id)
	return b.revision(b.shelf.Load(), version), err
}

func (b *Book) revision(sh *shelf, version int) string {
	return fmt.Sprintf("%d.%p.%s", version, sh, b.opened)
}

// view makes what is shown of a sheet. One that cannot be weighed shows what is in it,
// and why.
func (b *Book) view(s *sheet) *TreeView {
	res := &answer.Result{Looks: make([]answer.LookResult, len(s.log.Looks))}
	v := &TreeView{Tree: treeOf(&s.tree), Facts: s.facts(), Looks: []LookView{}, Names: []NameView{}, Notes: listed(s.log.Notes),
		Drawn: []DrawnFrom{}, Last: s.log.Last, Seen: string(s.log.Latest()), Revision: b.revision(s.shelf, s.tree.Version), Walk: b.walk}
	if s.fault != nil {
		v.Fault = s.fault.Error()
	} else {
		res = s.weighed.Result(answer.Usual)
		v.Drawn = s.drawn(res)
	}
	stranded, took := s.log.Stranded()
	for i, e := range stranded {
		v.Stranded = append(v.Stranded, Stranded{e.ID, e.By, s.log.Words(s.flora, e), took[i]})
	}
	v.Acts = each(s.log.Acts(), func(a logbook.Act) Act { return Act{a.By, a.Entry, s.log.Words(s.flora, s.log.Find(a.Entry))} })
	v.Result = s.result(res)
	v.Readings = s.readings()
	v.Offer.Certainty, v.Offer.Visibility = record.Offered(s.log.Facts.Light)
	for i := range s.log.Looks {
		v.Looks = append(v.Looks, s.look(&s.log.Looks[i], &res.Looks[i]))
	}
	for i := len(s.log.Names) - 1; i >= 0; i-- {
		if n := s.log.Names[i]; !n.Back {
			v.Names = append(v.Names, NameView{n.Entry, Naming(s.reckoned(s.log.Find(n.Entry))), s.nameWords(n.Rank, n.Name), n.By, n.At})
		}
	}
	if s.tree.SameTag != "" {
		v.SameTag = strings.Split(s.tree.SameTag, ",")
		slices.Sort(v.SameTag)
	}
	if len(v.Names) > 0 {
		step, doubt := s.carried()
		v.Step, v.Doubt = string(step), doubt
	}
	return v
}

func treeOf(t *store.Tree) Tree {
	return Tree{ID: t.ID, Tag: t.Tag, Region: t.Region, List: t.List, Tract: t.Tract, Stand: t.Stand}
}

// readings are what was measured, in a fixed order.
func (s *sheet) readings() []ReadingView {
	out := []ReadingView{}
	found := s.log.Readings()
	for _, what := range []string{"height", "diameter", "position"} {
		if e := found[what]; e != nil {
			out = append(out, ReadingView{Fills: what, Entry: e.ID, Look: e.Look, Says: measuredSays(what, e), Words: e.Measured.Words(),
				By: e.By, At: s.log.At(e), Measured: Measured(*e.Measured)})
		}
	}
	return out
}

// measuredSays says what a reading comes to: by its sum with the error, else as it was read off.
func measuredSays(what string, e *logbook.Entry) string {
	if e.Measured.Sum != "" {
		if res, err := e.Measured.Work(); err == nil {
			return res.Says
		}
	}
	switch what {
	case "height":
		return fmt.Sprintf("%.4g m", *e.Facts.Height)
	case "diameter":
		return cmp.Or(e.Score.Typed, "—")
	}
	return ""
}

func (s *sheet) facts() Facts {
	f := &s.log.Facts
	among := s.among()
	out := Facts{Age: f.Age, Foliage: cmp.Or(f.Foliage, s.greenScored(), "bare"), Snow: f.Snow, Beyond: listed(f.Beyond),
		Flat: f.Flat, Light: f.Light, Among: Among(among), AmongWords: among.Words(s.flora), Unusual: []string{},
		Position: (*Position)(f.Position), Height: f.Height, Vigour: f.Vigour, Remarks: f.Remarks, Aside: f.Aside, Extra: f.Extra}
	for _, c := range []struct {
		is, usual string
		terms     record.Terms
	}{{out.Foliage, "bare", record.Foliages}, {f.Snow, "none", record.Snows}, {f.Light, "good", record.Lights}} {
		if c.is != c.usual {
			out.Unusual = append(out.Unusual, c.terms.Words(c.is))
		}
	}
	for _, id := range f.Beyond {
		out.Unusual = append(out.Unusual, strings.ToLower(record.Beyonds.Words(id)))
	}
	return out
}

func (s *sheet) look(l *logbook.Look, came *answer.LookResult) LookView {
	out := LookView{ID: l.ID, From: l.From, FromWords: record.Froms.Words(l.From), Note: l.Note, Scores: []ScoreView{},
		Belongs: came.Belongs, Stranger: came.Stranger, Bits: came.Bits, Says: came.Says}
	if len(l.Scores) > 0 && s.fault == nil {
		out.Whose = came.Whose()
	}
	for i := range l.Scores {
		sc := &l.Scores[i]
		c := s.flora.Character(sc.Character)
		view := ScoreView{Entry: sc.Entry, Name: sc.Character, Words: sc.Words(c), Score: Score(sc.Score)}
		if sc.Value != nil {
			view.Understood = sc.Understood(c)
		}
		if c != nil {
			view.Name = c.Name
		}
		out.Scores = append(out.Scores, view)
	}
	return out
}

// drawn is what the looks have shown, those that probably were of another tree left
// out; of several states the first, and of a count whether there was any pair.
func (s *sheet) drawn(res *answer.Result) []DrawnFrom {
	out := []DrawnFrom{}
	at := map[string]int{}
	for i, l := range s.log.Looks {
		if res.Looks[i].Stranger {
			continue
		}
		for j := range l.Scores {
			sc := &l.Scores[j].Score
			d := DrawnFrom{Character: sc.Character, Seen: sc.Seen}
			switch c := s.flora.Character(sc.Character); {
			case c.Kind == evidence.Tally && sc.Nodes != nil:
				d.State = answer.CountedState(c, *sc.Pairs)
			case sc.Value != nil:
				value := s.weighed.Looks[i].Scores[j].Value // in the character's unit
				d.Value = &value
			case len(sc.States) > 0:
				d.State = sc.States[0]
				if len(sc.States) > 1 {
					d.States = sc.States
				}
			}
			if k, again := at[sc.Character]; again {
				out[k] = d
				continue
			}
			at[sc.Character] = len(out)
			out = append(out, d)
		}
	}
	return out
}

// amongError says which field a region or list stands in.
func amongError(err error) error {
	var none *flora.NoSuch
	if errors.As(err, &none) {
		return &FieldError{none.Field, err.Error()}
	}
	return err
}
