package book

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"palethicket/core/tree/logbook"
)

// Author is who adds entries to a book.
type Author struct{ Name, Role string }

type authorKey struct{}

// As says in a context who adds what is added with it. Without an author every entry may be
// added: by whoever works on their own machine, and by the program itself.
func As(ctx context.Context, a Author) context.Context { return context.WithValue(ctx, authorKey{}, a) }

// asProgram is for what the program itself enters while somebody asks for something else: the trees
// of a walk, or what home tells a device.
func asProgram(ctx context.Context) context.Context { return context.WithValue(ctx, authorKey{}, nil) }

// ErrMayNot is given for an entry that its author's role may not add.
var ErrMayNot = errors.New("your role does not allow this")

// leadKinds are the kinds of entries that only leads add. Observers add the others.
var leadKinds = []logbook.Kind{logbook.KindList, logbook.KindLand}

// RoleFor is the least role that may add an entry of a kind.
func RoleFor(kind logbook.Kind) string {
	if slices.Contains(leadKinds, kind) {
		return Lead
	}
	return Observer
}

// mayAdd refuses an entry that whoever adds it may not add. All entries pass it, whatever
// way they come: from a page, a batch of a device, a keyed sheet or a file.
func mayAdd(ctx context.Context, kind logbook.Kind) error {
	a, some := ctx.Value(authorKey{}).(Author)
	if needed := RoleFor(kind); some && !MayDo(a.Role, needed) {
		return fmt.Errorf("%w: a %s entry needs the role %s, and %s has the role %s", ErrMayNot, kind, needed, a.Name, a.Role)
	}
	return nil
}
