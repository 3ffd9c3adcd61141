package book

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"time"

	"palethicket/core/label"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/core/tree/stamp"
	"palethicket/store"
)

// Two books meet by telling each other their entries. Which came first does not
// matter, nor how often: books that have met hold the same.

const (
	// LogVersion is the shape of entries that this program writes; it reads older ones too.
	// In the second shape names say what they knew of.
	LogVersion = 2
	// MeetMost is how many entries are sent at once.
	MeetMost = 1000
	// entryMost is how many bytes an entry has at most, but for boundaries and lists.
	entryMost = 64 << 10
	// ChangesMost is how many entries are handed out at once.
	ChangesMost = 5000
)

// Sent is an entry of a log as one book tells it to another.
type Sent struct {
	Tree  string          `json:"tree,omitempty" doc:"Id of the tree that it is of; absent: it is of a visit, a tract, a stand or a list"`
	Entry json.RawMessage `json:"entry" doc:"The entry, with its stamp"`
}

// Meeting is what one book tells another.
type Meeting struct {
	Version int    `json:"version" doc:"Shape of the entries: that of the program which sends"`
	Entries []Sent `json:"entries" maxItems:"1000"`
	Again   bool   `json:"again,omitempty" doc:"The book told them and lost them since: of a lead those of others are taken too"`
}

// What becomes of an entry that was sent.
const (
	Taken   = "taken"
	Had     = "had"
	Refused = "refused"
)

// Met says what became of an entry.
type Met struct {
	ID     string `json:"id"`
	Answer string `json:"answer" enum:"taken,had,refused"`
	Stamp  string `json:"stamp" doc:"Its place in the order; another than it was sent with where the clock was ahead"`
	Why    string `json:"why,omitempty" doc:"Why it was refused, or stands without effect"`
	Later  bool   `json:"later,omitempty" doc:"It was refused for now: what it stands on is not here yet"`
}

// ErrOtherShape is given by [Book.Meet] for entries of a shape that this program does not know.
var ErrOtherShape = errors.New("these entries are from a newer program: renew this one before it takes them in; they stay where they are")

// told is an entry that was sent, while it is taken in.
type told struct {
	tree  string
	home  bool // home tells it to a device
	entry logbook.Entry
	*Met
}

func (t *told) refuse(err error) { t.Answer, t.Why = Refused, err.Error() }

// Meet takes in what another book tells, and answers each entry in the order sent. by
// is who sends: entries of others are refused, and wait for those who made them; empty
// where anybody may.
func (b *Book) Meet(ctx context.Context, m *Meeting, by string) ([]Met, error) {
	if m.Version < 1 || m.Version > LogVersion {
		return nil, ErrOtherShape
	}
	return b.meet(ctx, m.Entries, by, false)
}

// meet is [Book.Meet] and, home, [Book.Hear].
func (b *Book) meet(ctx context.Context, entries []Sent, by string, home bool) ([]Met, error) {
	answers := make([]Met, len(entries))
	all := make([]*told, len(entries))
	for i := range entries {
		all[i] = &told{tree: entries[i].Tree, home: home, Met: &answers[i]}
		all[i].read(ctx, entries[i].Entry, by)
		if err := b.joinable(&all[i].entry); err != nil && all[i].Answer != Refused {
			all[i].refuse(err)
		}
	}
	open := slices.DeleteFunc(all, func(t *told) bool { return t.Answer == Refused })
	slices.SortStableFunc(open, func(x, y *told) int { return logbook.Order(x.entry, y.entry) })
	if !home {
		b.restamp(open)
	}
	select { // one after another: lists are answered meanwhile
	case b.meeting <- struct{}{}:
		defer func() { <-b.meeting }()
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	byTree := map[string][]*told{}
	var trees []string
	for _, t := range open {
		if t.tree == "" {
			if err := b.meetPlace(ctx, t); err != nil {
				return nil, err
			}
			continue
		}
		if byTree[t.tree] == nil {
			trees = append(trees, t.tree)
		}
		byTree[t.tree] = append(byTree[t.tree], t)
	}
	page := bringPage
	if b.away {
		page = awayPage
	}
	for page := range slices.Chunk(trees, page) {
		if err := b.meetTrees(ctx, page, byTree, home); err != nil {
			return nil, err
		}
	}
	for _, t := range open {
		t.Stamp = string(t.entry.Stamp)
	}
	return answers, nil
}

// read reads an entry that was sent.
func (t *told) read(ctx context.Context, text json.RawMessage, by string) {
	dec := json.NewDecoder(bytes.NewReader(text))
	dec.DisallowUnknownFields()
	err := dec.Decode(&t.entry)
	t.ID = t.entry.ID
	if err == nil && len(text) > entryMost && t.entry.Land == nil && t.entry.List == nil {
		err = fmt.Errorf("it is longer than %d kB", entryMost>>10)
	}
	if err == nil {
		err = t.entry.Check()
	}
	if err == nil && t.entry.Stamp != "" {
		_, err = stamp.Parse(string(t.entry.Stamp))
	}
	if err == nil {
		err = t.belongs()
	}
	if err == nil {
		err = mayAdd(ctx, t.entry.Kind)
	}
	if err == nil && by != "" && t.entry.By != by {
		err = fmt.Errorf("%q made it, and %s sends it: it waits until %q signs in here", t.entry.By, by, t.entry.By)
	}
	if err != nil {
		t.refuse(err)
	}
	if t.entry.Stamp == "" {
		t.entry.Stamp = stamp.OfID(t.entry.ID)
	}
}

// belongs says whether the entry is of what it was sent for, and its names are clean.
func (t *told) belongs() error {
	e := &t.entry
	if (t.tree == "") != (e.About() != "") {
		return errors.New("an entry is of a tree, or of a visit, a plot, a tract, a stand or a list")
	}
	if e.Kind == logbook.KindStart && e.ID != t.tree {
		return errors.New("the entry that starts a tree has the tree's id")
	}
	for _, n := range namesIn(e) {
		was := *n.name
		clean := was
		n.name = &clean
		if err := cleanNames(n); err != nil {
			return err
		}
		if clean != was {
			return fmt.Errorf("its %s holds what cannot be seen", n.field)
		}
	}
	return nil
}

// namesIn are the names in an entry that things are found by.
func namesIn(e *logbook.Entry) (names []nameField) {
	add := func(field string, name *string, most int) { names = append(names, nameField{field, name, most}) }
	place := func(p *logbook.Place) {
		add("tag", &p.Tag, label.TagMost)
		add("tract", &p.Tract, label.NameMost)
		add("stand", &p.Stand, label.NameMost)
	}
	switch {
	case e.Start != nil:
		place(&e.Start.Place)
	case e.Move != nil:
		place(e.Move)
	case e.Walk != nil:
		add("tract", &e.Walk.Tract, label.NameMost)
	case e.Plot != nil:
		add("tract", &e.Plot.Tract, label.NameMost)
		add("stand", &e.Plot.Stand, label.NameMost)
		add("name", &e.Plot.Name, label.TagMost)
	case e.List != nil:
		add("list", &e.List.Name, label.NameMost)
	case e.Land != nil:
		add("tract", &e.Land.Tract, label.NameMost)
		if e.Land.Stand != "" {
			add("stand", &e.Land.Stand, label.NameMost)
		}
	}
	return names
}

// restamp gives entries of clocks that are ahead the book's own time, in the order
// they were in.
func (b *Book) restamp(in []*told) {
	limit := stamp.New(b.now().Add(store.Ahead).UnixMilli(), 0, b.clock.Node)
	for _, t := range in {
		if e := &t.entry; e.Stamp > limit {
			e.Said, e.Stamp = e.Stamp.Time().Format(time.RFC3339), b.clock.After()
		}
	}
}

// ownFault says whether an error is the book's own, as of a full disk: nothing that was told
// is at fault, and it is told again later.
func ownFault(err error) bool {
	return store.Full(err) || store.Busy(err) || store.ReadOnly(err) || store.Damaged(err) || errors.Is(err, context.Canceled) ||
		errors.Is(err, context.DeadlineExceeded)
}

// meetPlace takes in an entry of a visit, a tract, a stand or a list.
func (b *Book) meetPlace(ctx context.Context, t *told) error {
	err := b.store.Write(ctx, func(tx *store.Tx) error {
		if t.home {
			tx.FromHome()
		}
		log, err := tx.About(ctx, t.entry.About())
		if err != nil {
			return err
		}
		if i := slices.IndexFunc(log, func(e logbook.Entry) bool { return e.ID == t.entry.ID }); i >= 0 {
			return b.hadPlace(ctx, tx, t, log, i)
		}
		if err := b.checkPlace(&t.entry); err != nil {
			return err
		}
		t.Answer = Taken
		return b.enterAbout(ctx, tx, t.entry, "")
	})
	if ownFault(err) {
		return err
	}
	if err != nil {
		t.refuse(err)
		return nil
	}
	if t.entry.Kind == logbook.KindList && t.Answer == Taken {
		if err := b.takeLists(ctx); err != nil {
			t.Why = err.Error()
		}
	}
	return nil
}

// hadPlace is meetPlace for an entry that the book has, perhaps at a later place in
// the order: of two places the earlier counts, in every book.
func (b *Book) hadPlace(ctx context.Context, tx *store.Tx, t *told, log []logbook.Entry, at int) error {
	if !log[at].Same(&t.entry) {
		return store.ErrIDTaken
	}
	t.Answer = Had
	if log[at].Stamp <= t.entry.Stamp {
		t.entry.Stamp = log[at].Stamp
		return nil
	}
	log[at].Stamp, log[at].Said = t.entry.Stamp, t.entry.Said
	if err := tx.Restamp(ctx, "", &log[at]); err != nil {
		return err
	}
	return b.keepAbout(ctx, tx, log)
}

func (b *Book) checkPlace(e *logbook.Entry) error {
	switch {
	case e.Walk != nil:
		return errors.Join(checkID(e.Walk.ID), checkDay("day", e.Walk.Day))
	case e.Land != nil:
		_, errBoundary := boundaryText(e.Land.Boundary)
		_, errTerrain := terrainText(e.Land.Terrain)
		return errors.Join(errBoundary, errTerrain)
	case e.List != nil && !e.List.Dropped:
		var l struct {
			Name   string            `json:"name"`
			Region string            `json:"region"`
			Taxa   map[string]string `json:"taxa"`
		}
		if err := json.Unmarshal(e.List.Body, &l); err != nil {
			return err
		}
		return b.checkList(e.List.Name, l.Region, l.Taxa)
	}
	return nil
}

// meetTrees takes in what is told of some trees: weighed beforehand, written in one
// change.
func (b *Book) meetTrees(ctx context.Context, ids []string, byTree map[string][]*told, home bool) error {
	sheets, err := b.meetSheets(ctx, ids, byTree)
	if err != nil {
		return err
	}
	standings := b.standAll(sheets)
	err = b.store.Write(ctx, func(tx *store.Tx) error {
		if home {
			tx.FromHome()
		}
		for i, s := range sheets {
			if err := b.writeMet(ctx, tx, s, standings[i]); err != nil {
				return fmt.Errorf("tree %s: %w", s.tree.Tag, err)
			}
		}
		return nil
	})
	if b.away {
		time.Sleep(awayPause)
	}
	return err
}

// On a device one thing is done at a time: what home tells comes in small pieces, and
// presses get their turn between them.
const (
	awayPage  = 5
	awayPause = time.Millisecond
)

// meetSheets opens the trees and takes in what can be of what is told of them. Trees
// that nothing changes are left out.
func (b *Book) meetSheets(ctx context.Context, ids []string, byTree map[string][]*told) (sheets []*sheet, err error) {
	snap, err := b.store.Snapshot(ctx)
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, snap.Close()) }()
	for _, id := range ids {
		s, err := b.open(ctx, snap.Reader, id)
		if errors.Is(err, store.ErrNoTree) {
			s = b.sheet(store.Tree{ID: id}, nil)
		} else if err != nil {
			return nil, err
		}
		s.merging = true
		for _, t := range byTree[id] {
			switch err := s.hear(ctx, snap.Reader, t); {
			case ownFault(err):
				return nil, err
			case err != nil:
				t.refuse(err)
			}
		}
		if len(s.added)+len(s.restamped) > 0 {
			sheets = append(sheets, s)
		}
	}
	return sheets, nil
}

// hear takes in one entry that is told of the tree.
func (s *sheet) hear(ctx context.Context, from store.Reader, t *told) error {
	e := &t.entry
	if old := s.log.Find(e.ID); old != nil {
		return s.hearAgain(t, old)
	}
	if s.fault != nil {
		return s.unreadable()
	}
	if err := s.log.Refers(e); err != nil {
		t.Later = len(s.log.Entries) == 0 // the tree may yet come
		return err
	}
	if !t.home { // home decided it already
		if err := s.log.Allows(e); err != nil {
			return err
		}
	}
	if err := s.sound(e); err != nil {
		return err
	}
	if e.Visit != "" {
		if _, err := from.Visit(ctx, e.Visit); err != nil {
			return err
		}
	}
	if e.Start != nil {
		s.tree.Region, s.tree.List = e.Start.Region, e.Start.List
	}
	if !t.home { // what another book says that the evidence gave a name is not believed
		*e = e.Unreckoned()
	}
	t.Answer = Taken
	s.extend(*e)
	if e.Look != "" && !slices.ContainsFunc(s.log.Looks, func(l logbook.Look) bool { return l.ID == e.Look }) {
		t.Why = "the look that it is of was taken back meanwhile"
	}
	return nil
}

// hearAgain is hear for an entry that the book has: of two places in the order the
// earlier counts, in every book, and each works out what the evidence gave a name.
func (s *sheet) hearAgain(t *told, old *logbook.Entry) error {
	if !old.Same(&t.entry) {
		return store.ErrIDTaken
	}
	t.Answer = Had
	again := *old
	if old.Name != nil && t.entry.Name.Posterior == 0 {
		again = old.Unreckoned()
	}
	if t.entry.Stamp < old.Stamp {
		again.Stamp, again.Said = t.entry.Stamp, t.entry.Said
	}
	t.entry.Stamp = again.Stamp
	if again.Stamp == old.Stamp && (old.Name == nil || again.Name.Posterior == old.Name.Posterior && again.Name.Leader == old.Name.Leader) {
		return nil
	}
	s.restamped = append(s.restamped, again)
	entries := slices.Clone(s.log.Entries)
	entries[slices.IndexFunc(entries, func(e logbook.Entry) bool { return e.ID == again.ID })] = again
	s.log = logbook.NewLog(entries)
	return nil
}

// sound refuses an entry that the flora has no words for, whatever tree it is of.
func (s *sheet) sound(e *logbook.Entry) error {
	if err := s.complete(e); err != nil {
		return err
	}
	entries := []logbook.Entry{*e}
	switch e.Kind {
	case logbook.KindStart:
		_, err := s.flora.Among(e.Start.Region, e.Start.List)
		return err
	case logbook.KindScore:
		entries = append(entries, logbook.Entry{ID: e.Look, Kind: logbook.KindLook, From: "tree"})
	case logbook.KindName:
		if e.Name.Rank != logbook.Undetermined && !s.called(e.Name.Rank, e.Name.Name) {
			return &FieldError{"name.name", "the flora has no " + e.Name.Rank + " " + e.Name.Name}
		}
		return nil
	case logbook.KindLook, logbook.KindFacts:
	default:
		return nil
	}
	_, err := record.Resolve(s.flora, logbook.Replay(entries).Record("it", logbook.Among{Region: s.flora.HomeRegion()}))
	return err
}

// writeMet writes what was told of a tree.
func (b *Book) writeMet(ctx context.Context, tx *store.Tx, s *sheet, st *store.Standing) error {
	if !s.begun {
		if _, err := tx.Version(ctx, s.tree.ID); err == nil {
			s.begun = true // told by somebody else meanwhile
			s.tree.Version = -1
		}
	}
	if _, err := b.append(ctx, tx, s, ""); err != nil {
		return err
	}
	for i := range s.restamped {
		if err := tx.Restamp(ctx, s.tree.ID, &s.restamped[i]); err != nil {
			return err
		}
		s.tree.Version++
	}
	err := tx.KeepStanding(ctx, &s.tree, st)
	if errors.Is(err, store.ErrChanged) {
		return b.stand(ctx, tx, s.tree.ID)
	}
	return err
}
