package book

import (
	"bytes"
	"cmp"
	"context"
	"fmt"
	"maps"
	"slices"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/label"
	"palethicket/core/tree/logbook"
	"palethicket/store"
)

// ErrNoPlace is given for a tract or stand that the book has not.
var ErrNoPlace = store.ErrNoPlace

// places are the tracts of a book, and under each its stands. They find names however
// they are written.
type places map[string][]string

func placesIn(ctx context.Context, from store.Reader) (places, error) { return from.PlaceNames(ctx) }

// settle writes the names of a tract and a stand as the book does. A name that it has
// not stays as it is, and what of them is new is given.
func (p places) settle(tract, stand *string) (newPlace string) {
	if slices.Contains(p[*tract], *stand) {
		return ""
	}
	same := label.Same(*tract, slices.Sorted(maps.Keys(p)))
	if same == "" {
		return *tract
	}
	*tract = same
	if *stand == "" {
		return ""
	}
	if same = label.Same(*stand, p[*tract]); same == "" {
		return *stand
	}
	*stand = same
	return ""
}

// add counts a tract and a stand among the places.
func (p places) add(tract, stand string) {
	if !slices.Contains(p[tract], stand) {
		p[tract] = append(p[tract], stand)
	}
}

// near gives the name of a place that one that the book has not may be meant for, or "".
func (p places) near(tract, stand string) string {
	stands, has := p[tract]
	if !has {
		return nearKey(tract, slices.Sorted(maps.Keys(p)))
	}
	return nearKey(stand, stands)
}

func nearKey(name string, known []string) string {
	keys := each(known, label.Key)
	if near := flora.Nearest(label.Key(name), keys); near != "" {
		return known[slices.Index(keys, near)]
	}
	return ""
}

// settle writes the names of a tract and a stand as the book does. One that it has not is
// refused, so that a slip makes none, unless it was said to be new or is the first.
func settle(ctx context.Context, from store.Reader, tract, stand *string, isNew bool) error {
	p, err := placesIn(ctx, from)
	if err != nil {
		return err
	}
	fresh := p.settle(tract, stand)
	stands, has := p[*tract]
	switch {
	case fresh == "", isNew, len(p) == 0, has && len(stands) == 0:
		return nil
	}
	var says strings.Builder
	if has {
		fmt.Fprintf(&says, "there is no stand “%s” in %s yet. ", fresh, *tract)
	} else {
		fmt.Fprintf(&says, "there is no tract “%s” yet. ", fresh)
	}
	if near := p.near(*tract, *stand); near != "" {
		fmt.Fprintf(&says, "Do you mean %s? ", near)
	}
	says.WriteString("Choose one that is there, or say that it is new.")
	return &FieldError{"new", says.String()}
}

// there refuses a tract or stand that the book has not; empty names ask for all.
func there(ctx context.Context, from store.Reader, tract, stand *string) error {
	if *tract == "" {
		return nil
	}
	p, err := placesIn(ctx, from)
	if err != nil {
		return err
	}
	if p.settle(tract, stand) != "" {
		return fmt.Errorf("%w: %s", ErrNoPlace, strings.TrimSuffix(*tract+", "+*stand, ", "))
	}
	return nil
}

// Move is where a tree is moved to.
type Move struct {
	Tag   string `json:"tag" minLength:"1" maxLength:"40" pattern:"\\S"`
	Tract string `json:"tract" minLength:"1" maxLength:"80" pattern:"\\S"`
	Stand string `json:"stand" minLength:"1" maxLength:"80" pattern:"\\S"`
	By    string `json:"by,omitempty" maxLength:"80"`
	New   bool   `json:"new,omitempty" doc:"Make the tract or stand where the book has none of the name; absent: refuse it"`
}

// MoveTree gives a tree another tag, stand or tract.
func (b *Book) MoveTree(ctx context.Context, id string, to Move) (*TreeView, error) {
	at, err := placeOf(to.Tag, to.Tract, to.Stand)
	if err != nil {
		return nil, err
	}
	if err := settle(ctx, b.store.Reader, &at.Tract, &at.Stand, to.New); err != nil {
		return nil, err
	}
	return b.pressed(ctx, id, func(s *sheet) error {
		if s.log.Place == at {
			return nil
		}
		s.must = append(s.must, s.tagFree(ctx))
		return s.add(logbook.Entry{ID: newID(), Kind: logbook.KindMove, By: to.By, Move: &at}, "")
	})
}

// Rename is what a tract or a stand is to be called from now on.
type Rename struct {
	Tract string `json:"tract" minLength:"1" maxLength:"80"`
	Stand string `json:"stand,omitempty" maxLength:"80" doc:"Absent: the tract"`
	To    string `json:"to" minLength:"1" maxLength:"80" pattern:"\\S"`
	Merge bool   `json:"merge,omitempty" doc:"Where there is one of that name: the two become one"`
}

// Rename gives a tract or a stand another name: its trees, plots and visits move there. Where
// there is one of that name they become one, if that was said. It goes by pages of trees; where it
// was stopped, the same again goes on. It gives [ErrNoPlace].
func (b *Book) Rename(ctx context.Context, r Rename, by string) error {
	if err := cleanNames(nameField{"to", &r.To, label.NameMost}); err != nil {
		return err
	}
	p, err := placesIn(ctx, b.store.Reader)
	if err != nil {
		return err
	}
	if p.settle(&r.Tract, &r.Stand) != "" {
		return ErrNoPlace
	}
	old, stands := logbook.Land{Tract: r.Tract, Stand: r.Stand}, []string{r.Stand}
	is, known := logbook.Land{Tract: r.Tract, Stand: r.To}, p[r.Tract]
	if r.Stand == "" {
		is, known, stands = logbook.Land{Tract: r.To}, slices.Sorted(maps.Keys(p)), p[r.Tract]
	}
	name := cmp.Or(r.Stand, r.Tract)
	if r.To == name {
		return nil
	}
	switch same := label.Same(r.To, known); {
	case same == "" || same == name: // that is new, or only written otherwise
	case !r.Merge:
		return &FieldError{"merge", fmt.Sprintf("there is %s already; make them one, or choose another name", same)}
	case r.Stand == "":
		is.Tract = same
	default:
		is.Stand = same
	}
	return b.relocate(context.WithoutCancel(ctx), old, is, stands, by)
}

// relocate moves all that there is of a tract's stands, or of one stand, to another.
func (b *Book) relocate(ctx context.Context, old, is logbook.Land, stands []string, by string) error {
	var moves []TreeLog
	for _, stand := range stands {
		trees, err := b.store.TreesAt(ctx, old.Tract, stand)
		if err != nil {
			return err
		}
		for _, t := range trees {
			to := logbook.Place{Tag: t.Tag, Tract: is.Tract, Stand: cmp.Or(is.Stand, stand)}
			moves = append(moves, TreeLog{Tree: treeOf(&t), Log: []logbook.Entry{{ID: newID(), Kind: logbook.KindMove, By: by, Move: &to}}})
		}
	}
	if old.Tract != is.Tract {
		if err := b.tagsApart(ctx, moves, is.Tract); err != nil {
			return err
		}
	}
	if err := b.store.Write(ctx, func(tx *store.Tx) error { return b.landTo(ctx, tx, old, is, stands, by) }); err != nil {
		return err
	}
	if err := b.AddTrees(ctx, moves); err != nil {
		return err
	}
	return b.store.Write(ctx, func(tx *store.Tx) error { return b.leave(ctx, tx, old, is, stands, by) })
}

// tagsApart refuses to put trees into a tract where others have their tags.
func (b *Book) tagsApart(ctx context.Context, moves []TreeLog, tract string) error {
	taken, err := b.store.Tags(ctx, tract)
	if err != nil {
		return err
	}
	var both []string
	for i := range moves {
		if tag := moves[i].Log[0].Move.Tag; taken[label.Key(tag)] {
			both = append(both, tag)
		}
	}
	if len(both) == 0 {
		return nil
	}
	return &FieldError{"to", fmt.Sprintf("both tracts have a tree %s; give one of them another tag first (%d such tags)", both[0], len(both))}
}

// landTo makes what a place moves to, with what is said of it where nothing is yet.
func (b *Book) landTo(ctx context.Context, tx *store.Tx, old, is logbook.Land, stands []string, by string) error {
	if err := b.landOver(ctx, tx, old, is, by); err != nil || old.Stand != "" {
		return err
	}
	for _, stand := range stands {
		err := b.landOver(ctx, tx, logbook.Land{Tract: old.Tract, Stand: stand}, logbook.Land{Tract: is.Tract, Stand: stand}, by)
		if err != nil {
			return err
		}
	}
	return nil
}

func (b *Book) landOver(ctx context.Context, tx *store.Tx, old, is logbook.Land, by string) error {
	was, err := landOf(ctx, tx, old)
	if err != nil {
		return err
	}
	has, err := landOf(ctx, tx, is)
	if err != nil {
		return err
	}
	is.Remarks = new(string)
	if has.Remarks != nil {
		*is.Remarks = *has.Remarks
	}
	if was.Remarks != nil && !strings.Contains(*is.Remarks, *was.Remarks) {
		*is.Remarks = strings.TrimSpace(*is.Remarks + "\n" + *was.Remarks)
	}
	if has.Boundary == nil {
		is.Boundary = was.Boundary
	}
	if has.Terrain == nil {
		is.Terrain = was.Terrain
	}
	return b.enterAbout(ctx, tx, logbook.Entry{ID: newID(), Kind: logbook.KindLand, By: by, Land: &is}, "")
}

// landOf gives what is said of a tract or stand.
func landOf(ctx context.Context, tx *store.Tx, at logbook.Land) (stands logbook.Land, err error) {
	e := logbook.Entry{Land: &at}
	log, err := tx.About(ctx, e.About())
	for i := range log {
		stands.Lay(log[i].Land)
	}
	return stands, err
}

// leave moves plots and visits after the trees, and takes the emptied place out.
func (b *Book) leave(ctx context.Context, tx *store.Tx, old, is logbook.Land, stands []string, by string) error {
	var after []logbook.Entry
	plots, err := tx.Plots(ctx, old.Tract, old.Stand)
	if err != nil {
		return err
	}
	for _, p := range plots {
		p.Tract, p.Stand = is.Tract, cmp.Or(is.Stand, p.Stand)
		after = append(after, logbook.Entry{ID: newID(), Kind: logbook.KindPlot, By: by, Plot: &p})
	}
	if old.Stand == "" {
		visits, err := tx.Visits(ctx, old.Tract)
		if err != nil {
			return err
		}
		for _, v := range visits {
			walk := logbook.Visit{ID: v.ID, Tract: is.Tract, Day: v.Day, Crew: v.Crew, Weather: v.Weather, Snow: v.Snow, Remarks: v.Remarks}
			after = append(after, logbook.Entry{ID: newID(), Kind: logbook.KindVisit, By: by, Walk: &walk})
		}
	}
	for _, e := range append(after, gone(old, stands, by)...) {
		if err := b.enterAbout(ctx, tx, e, ""); err != nil {
			return err
		}
	}
	return nil
}

// gone takes a stand out, or a tract after its stands.
func gone(at logbook.Land, stands []string, by string) []logbook.Entry {
	var out []logbook.Entry
	drop := func(stand string) {
		land := logbook.Land{Tract: at.Tract, Stand: stand, Gone: true}
		out = append(out, logbook.Entry{ID: newID(), Kind: logbook.KindLand, By: by, Land: &land})
	}
	for _, stand := range stands {
		drop(stand)
	}
	if at.Stand == "" {
		drop("")
	}
	return out
}

// RemovePlace takes an empty stand out of the book, or, with stand "", a tract whose stands are
// empty. It gives [ErrNoPlace].
func (b *Book) RemovePlace(ctx context.Context, tract, stand, by string) error {
	p, err := placesIn(ctx, b.store.Reader)
	if err != nil {
		return err
	}
	if p.settle(&tract, &stand) != "" {
		return ErrNoPlace
	}
	stands := []string{stand}
	if stand == "" {
		stands = p[tract]
	}
	return b.store.Write(ctx, func(tx *store.Tx) error {
		for _, e := range gone(logbook.Land{Tract: tract, Stand: stand}, stands, by) {
			if err := b.enterAbout(ctx, tx, e, ""); err != nil {
				return err
			}
		}
		left, err := placesIn(ctx, tx.Reader)
		if err != nil {
			return err
		}
		if stands, has := left[tract]; has && (stand == "" || slices.Contains(stands, stand)) {
			return &FieldError{"stand", fmt.Sprintf("%s is not empty: it has trees, plots or visits. Move them first, or rename it to "+
				"the one that they belong to", cmp.Or(stand, tract))}
		}
		return nil
	})
}

// putLand keeps what is said of a tract or stand, where it is not so already.
func (b *Book) putLand(ctx context.Context, said logbook.Land, isNew bool, by string) error {
	return b.store.Write(ctx, func(tx *store.Tx) error {
		if err := settle(ctx, tx.Reader, &said.Tract, &said.Stand, isNew); err != nil {
			return err
		}
		stands, err := landOf(ctx, tx, said)
		if err != nil {
			return err
		}
		known := stands.Remarks != nil
		if known && *stands.Remarks == *said.Remarks {
			said.Remarks = nil
		}
		if bytes.Equal(stands.Boundary, said.Boundary) {
			said.Boundary = nil
		}
		if bytes.Equal(stands.Terrain, said.Terrain) {
			said.Terrain = nil
		}
		if known && said.Remarks == nil && said.Boundary == nil && said.Terrain == nil {
			return nil
		}
		return b.enterAbout(ctx, tx, logbook.Entry{ID: newID(), Kind: logbook.KindLand, By: by, Land: &said}, "")
	})
}
