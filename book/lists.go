package book

import (
	"context"
	"errors"
	"strings"

	"palethicket/core/flora"
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

// PutList keeps a list, in place of the one of that name if there is one, and works
// out where the trees ranked among it now stand.
func (b *Book) PutList(ctx context.Context, n NewList) (*List, error) {
	l := flora.List{Name: strings.TrimSpace(n.Name), Region: n.Region, Abundance: n.Taxa}
	if n.Table != "" {
		taxa, err := flora.ReadListTable(strings.NewReader(n.Table))
		if err != nil {
			return nil, &FieldError{"table", err.Error()}
		}
		l.Abundance = taxa
	}
	b.lists.Lock()
	defer b.lists.Unlock()
	if err := b.base.CheckList(&l); err != nil {
		return nil, fieldErrors("taxa", err)
	}
	if b.base.List(l.Name) != nil {
		return nil, &FieldError{"name", "the book is served with a list of this name; choose another"}
	}
	if err := b.store.Write(ctx, func(tx *store.Tx) error { return tx.PutList(ctx, l) }); err != nil {
		return nil, err
	}
	out := listOf(l)
	return &out, b.relist(ctx)
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
func (b *Book) DropList(ctx context.Context, name string) error {
	b.lists.Lock()
	defer b.lists.Unlock()
	if err := b.store.Write(ctx, func(tx *store.Tx) error { return tx.DropList(ctx, name) }); err != nil {
		return err
	}
	return b.relist(ctx)
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
