package book

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/foreign"
	"palethicket/core/label"
	"palethicket/core/tree/logbook"
	"palethicket/store"
)

// List is a list of one's own: the taxa of one tract, and how common each is there.
type List struct {
	Name   string            `json:"name"`
	Region string            `json:"region" doc:"Whose English names its trees go by"`
	Taxa   map[string]string `json:"taxa" doc:"Scientific name to abundance word"`
}

// NewList is a list as it is sent: as a list, or as the text of a table.
type NewList struct {
	Name   string            `json:"name" minLength:"1" maxLength:"80"`
	Region string            `json:"region" doc:"Whose English names its trees go by"`
	Taxa   map[string]string `json:"taxa,omitempty" doc:"Scientific name to abundance word"`
	Table  string            `json:"table,omitempty" maxLength:"200000" doc:"Instead of taxa: CSV (taxon, abundance) or YAML"`
}

// Lists gives the book's own lists, by name.
func (b *Book) Lists(ctx context.Context) ([]List, error) {
	lists, err := b.store.Lists(ctx)
	return each(lists, listOf), err
}

func listOf(l flora.List) List { return List{l.Name, l.Region, l.Abundance} }

// PutList keeps a list, in place of the one of that name if there is one. Where the
// trees ranked among it now stand is worked out meanwhile: see [Book.Weighing].
func (b *Book) PutList(ctx context.Context, n NewList, by string) (*List, error) {
	if err := cleanNames(nameField{"name", &n.Name, label.NameMost}); err != nil {
		return nil, err
	}
	l := flora.List{Name: n.Name, Region: n.Region, Abundance: n.Taxa}
	if n.Table != "" {
		taxa, err := foreign.Read("the table", func() (map[string]string, error) { return flora.ReadListTable(strings.NewReader(n.Table)) })
		if err != nil {
			return nil, &FieldError{"table", err.Error()}
		}
		l.Abundance = taxa
	}
	if err := b.checkList(l.Name, l.Region, l.Abundance); err != nil {
		return nil, err
	}
	body, err := json.Marshal(l)
	if err != nil {
		return nil, fmt.Errorf("writing list %q: %w", l.Name, err)
	}
	out := listOf(l)
	return &out, b.changeList(ctx, by, &logbook.List{Name: l.Name, Body: body})
}

// changeList keeps what is said of a list, and takes it in.
func (b *Book) changeList(ctx context.Context, by string, l *logbook.List) error {
	b.lists.Lock()
	defer b.lists.Unlock()
	err := b.store.Write(ctx, func(tx *store.Tx) error {
		return b.enterAbout(ctx, tx, logbook.Entry{ID: newID(), Kind: logbook.KindList, By: by, List: l}, "")
	})
	if err != nil {
		return err
	}
	return b.reread(ctx)
}

// checkList refuses a list that no tree could be ranked among.
func (b *Book) checkList(name, region string, taxa map[string]string) error {
	if err := b.base.CheckList(&flora.List{Name: name, Region: region, Abundance: taxa}); err != nil {
		return fieldErrors("taxa", err)
	}
	if b.base.List(name) != nil {
		return &FieldError{"name", "the book is served with a list of this name; choose another"}
	}
	return nil
}

// takeLists takes in lists that changed.
func (b *Book) takeLists(ctx context.Context) error {
	b.lists.Lock()
	defer b.lists.Unlock()
	return b.reread(ctx)
}

// reread is takeLists for who holds them.
func (b *Book) reread(ctx context.Context) error {
	if err := b.reload(ctx); err != nil {
		return err
	}
	b.weighing.again()
	return nil
}

// FieldErrors are several things wrong with what was sent.
type FieldErrors []*FieldError

func (e FieldErrors) Error() string {
	return strings.Join(each(e, func(f *FieldError) string { return f.Error() }), "; ")
}

// fieldErrors gives each of the errors joined in one as that of a field.
func fieldErrors(field string, err error) error {
	var joined interface{ Unwrap() []error }
	if !errors.As(err, &joined) {
		return &FieldError{field, err.Error()}
	}
	return FieldErrors(each(joined.Unwrap(), func(one error) *FieldError { return &FieldError{field, one.Error()} }))
}

// DropList removes a list that no tree is ranked among.
func (b *Book) DropList(ctx context.Context, name, by string) error {
	if has, err := b.store.HasList(ctx, name); err != nil || !has {
		return cmp.Or(err, store.ErrNoList)
	}
	return b.changeList(ctx, by, &logbook.List{Name: name, Dropped: true})
}

// ListFile writes a list, or a region's trees, as CSV or YAML. It gives
// [store.ErrNoList] where there is neither.
func (b *Book) ListFile(name, format string) (string, error) {
	f := b.Flora()
	l := f.RegionList(name)
	if own := f.List(name); own != nil {
		l = *own
	}
	if len(l.Abundance) == 0 {
		return "", store.ErrNoList
	}
	var text strings.Builder
	if format == "yaml" {
		err := l.WriteYAML(&text)
		return text.String(), err
	}
	err := l.WriteCSV(&text, f)
	return text.String(), err
}
