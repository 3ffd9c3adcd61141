package book

import (
	"context"
	"encoding/json"
	"errors"
	"slices"
	"time"

	"palethicket/core/flora"
	"palethicket/core/label"
	"palethicket/core/tree/logbook"
	"palethicket/store"
)

// What is said of visits, tracts, stands and lists goes into the log as what is said
// of trees does; the tables of each hold what stands after it.

// cleanNames cleans the names of fields; each must be there.
func cleanNames(fields ...nameField) error {
	var wrong FieldErrors
	for _, f := range fields {
		clean, err := label.Clean(*f.name, f.most)
		if err != nil {
			wrong = append(wrong, &FieldError{f.field, err.Error()})
			continue
		}
		*f.name = clean
	}
	if len(wrong) > 0 {
		return wrong
	}
	return nil
}

// nameField is a name that was sent in a field, and how long it may be.
type nameField struct {
	field string
	name  *string
	most  int
}

// placeOf reads where a tree is.
func placeOf(tag, tract, stand string) (logbook.Place, error) {
	p := logbook.Place{Tag: tag, Tract: tract, Stand: stand}
	err := cleanNames(
		nameField{"tag", &p.Tag, label.TagMost},
		nameField{"tract", &p.Tract, label.NameMost},
		nameField{"stand", &p.Stand, label.NameMost},
	)
	return p, err
}

// enterAbout adds an entry of a place to the log and keeps what then stands.
func (b *Book) enterAbout(ctx context.Context, tx *store.Tx, e logbook.Entry, from string) error {
	if err := mayAdd(ctx, e.Kind); err != nil {
		return err
	}
	log, err := tx.About(ctx, e.About())
	if err != nil {
		return err
	}
	if e.Stamp == "" {
		last := e.Stamp
		if len(log) > 0 {
			last = log[len(log)-1].Stamp
		}
		e.Stamp = b.clock.After(last)
	}
	if e.Kind == logbook.KindVisit { // its looks need its line
		if err := b.keepAbout(ctx, tx, append(log, e)); err != nil {
			return err
		}
	}
	if had, err := tx.Append(ctx, "", &e, from); err != nil || had {
		return err
	}
	return b.keepAbout(ctx, tx, append(log, e))
}

// keepAbout keeps what stands after the entries about one thing, in any order.
func (b *Book) keepAbout(ctx context.Context, tx *store.Tx, log []logbook.Entry) error {
	slices.SortStableFunc(log, logbook.Order)
	last := &log[len(log)-1]
	switch last.Kind {
	case logbook.KindVisit:
		w := last.Walk
		return tx.PutVisit(ctx, store.Visit{ID: w.ID, Tract: w.Tract, Day: w.Day, Crew: w.Crew, Weather: w.Weather, Snow: w.Snow,
			Remarks: w.Remarks})
	case logbook.KindPlot:
		return tx.PutPlot(ctx, last.Plot)
	case logbook.KindList:
		return keepList(ctx, tx, last.List)
	}
	var land logbook.Land
	for i := range log {
		land.Lay(log[i].Land)
	}
	if at := last.Land; at.Gone {
		err := tx.DropPlace(ctx, at.Tract, at.Stand)
		if errors.Is(err, store.ErrNoPlace) || errors.Is(err, store.ErrNotEmpty) {
			return nil // dropped twice, or somebody put something there meanwhile
		}
		return err
	}
	remarks := ""
	if land.Remarks != nil {
		remarks = *land.Remarks
	}
	if last.Land.Stand != "" {
		return tx.PutStand(
			ctx,
			store.Stand{Tract: last.Land.Tract, Stand: last.Land.Stand, Remarks: remarks, Boundary: textOf(land.Boundary)},
		)
	}
	return tx.PutTract(
		ctx,
		store.Tract{Tract: last.Land.Tract, Remarks: remarks, Boundary: textOf(land.Boundary), Terrain: textOf(land.Terrain)},
	)
}

func textOf(raw json.RawMessage) *string {
	if raw == nil {
		return nil
	}
	text := string(raw)
	return &text
}

func keepList(ctx context.Context, tx *store.Tx, l *logbook.List) error {
	if l.Dropped {
		err := tx.DropList(ctx, l.Name)
		if errors.Is(err, store.ErrNoList) {
			return nil // dropped twice
		}
		return err
	}
	var list flora.List
	if err := json.Unmarshal(l.Body, &list); err != nil {
		return &FieldError{"list.body", err.Error()}
	}
	list.Name = l.Name
	return tx.PutList(ctx, list)
}

// giveVisit writes into a look which visit it was taken on: the one it names, else
// the last of its day to the tree's tract, which is made where there is none.
func (b *Book) giveVisit(ctx context.Context, tx *store.Tx, s *sheet, e *logbook.Entry, from string) error {
	if e.Kind != logbook.KindLook {
		return nil
	}
	tract := s.tree.Tract
	if e.Visit != "" && s.merging {
		return nil // it was looked for when it came
	}
	if e.Visit != "" {
		v, err := tx.Visit(ctx, e.Visit)
		if err == nil && v.Tract != tract {
			return &FieldError{"visit", "the visit is to " + v.Tract + ", and the tree is in " + tract}
		}
		return err
	}
	day := s.log.At(e).Local().Format(time.DateOnly)
	id, err := tx.VisitOn(ctx, tract, day)
	if errors.Is(err, store.ErrNoVisit) {
		id = newID()
		err = b.enterAbout(ctx, tx, logbook.Entry{ID: newID(), Kind: logbook.KindVisit, By: e.By,
			Walk: &logbook.Visit{ID: id, Tract: tract, Day: day, Crew: e.By, Snow: "none"}}, from)
	}
	e.Visit = id
	return err
}

// PutVisit keeps a visit, in place of the one of that id if there is one. One that
// has looks stays in its tract.
func (b *Book) PutVisit(ctx context.Context, v Visit, by string) error {
	if err := checkID(v.ID); err != nil {
		return err
	}
	if err := cleanNames(nameField{"tract", &v.Tract, label.NameMost}); err != nil {
		return err
	}
	if err := checkDay("day", v.Day); err != nil {
		return err
	}
	if err := settle(ctx, b.store.Reader, &v.Tract, new(string), false); err != nil {
		return err
	}
	walk := &logbook.Visit{ID: v.ID, Tract: v.Tract, Day: v.Day, Crew: v.Crew, Weather: v.Weather, Snow: v.Snow, Remarks: v.Remarks}
	return b.store.Write(ctx, func(tx *store.Tx) error {
		old, err := tx.Visit(ctx, v.ID)
		switch {
		case errors.Is(err, store.ErrNoVisit):
		case err != nil:
			return err
		case old.Tract != v.Tract && old.Looks > 0:
			return &FieldError{"tract", "this visit has looks in " + old.Tract + "; enter another for " + v.Tract}
		case (logbook.Visit{ID: old.ID, Tract: old.Tract, Day: old.Day, Crew: old.Crew, Weather: old.Weather, Snow: old.Snow,
			Remarks: old.Remarks}) == *walk:
			return nil
		}
		return b.enterAbout(ctx, tx, logbook.Entry{ID: newID(), Kind: logbook.KindVisit, By: by, Walk: walk}, "")
	})
}
