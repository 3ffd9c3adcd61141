// Package book is the stand book at work: trees started and scored, lists and
// worklists drawn up, stands added up, files read in and written out. It joins
// the core, which knows the trade, to the store, which knows the file, and has
// no HTTP in it, so that the command and the server do the same things.
package book

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"github.com/oklog/ulid/v2"

	"palethicket/core/flora"
	"palethicket/core/flora/handbook"
	"palethicket/core/flora/names"
	"palethicket/core/stand/revisit"
	"palethicket/core/tree/answer"
	"palethicket/store"
)

// Book is an open book and the flora it is read with. It is safe for use by
// several goroutines.
type Book struct {
	Store    *store.Store
	Base     *flora.Flora // without the book's own lists
	Calendar *revisit.Calendar
	shelf    atomic.Pointer[Shelf]
	now      func() time.Time

	imports sync.Map // files being read in, by id
}

// Shelf is the flora with the book's lists, and what is worked out from it. It
// is made anew when a list changes.
type Shelf struct {
	Flora    *flora.Flora
	Engine   *answer.Engine
	Handbook *handbook.Book
	Names    *names.Index
	basis    map[string]string // by pool: a digest of all that its trees are ranked by
}

// Open takes a store and a flora together, takes in the book's own lists, and
// has the store keep standings from now on. Standings of another flora, or of
// none, are worked out by [Book.WeighStale].
func Open(ctx context.Context, s *store.Store, f *flora.Flora, c *revisit.Calendar) (*Book, error) {
	b := &Book{Store: s, Base: f, Calendar: c, now: time.Now}
	if err := b.Reload(ctx); err != nil {
		return nil, err
	}
	s.KeepStandings(b.weigh)
	return b, nil
}

// Reload takes the book's lists in.
func (b *Book) Reload(ctx context.Context) error {
	lists, err := b.Store.Lists(ctx)
	if err != nil {
		return err
	}
	f, err := b.Base.With(lists...)
	if err != nil {
		return fmt.Errorf("reading the book's lists: %w", err)
	}
	basis, err := basisOf(f)
	if err != nil {
		return err
	}
	b.shelf.Store(NewShelf(f, basis))
	return nil
}

// NewShelf works out what a flora needs to be asked.
func NewShelf(f *flora.Flora, basis map[string]string) *Shelf {
	return &Shelf{Flora: f, Engine: answer.NewEngine(f), Handbook: handbook.New(f), Names: names.NewIndex(f), basis: basis}
}

// Shelf gives the flora as it now is, with the book's lists.
func (b *Book) Shelf() *Shelf { return b.shelf.Load() }

func (b *Book) engine() *answer.Engine { return b.Shelf().Engine }

// weighing is the version of how standings are worked out. Raise it when weigh
// would give another answer for the same log and flora.
const weighing = "2"

// basisOf gives for each pool a digest of all that standings are worked out from.
func basisOf(f *flora.Flora) (map[string]string, error) {
	out := map[string]string{}
	for _, name := range f.PoolNames() {
		pool, err := f.Pool(flora.PoolKey{Among: flora.Among{Region: name}, Age: flora.AnyAge})
		if err != nil {
			return nil, err
		}
		sum := sha256.New()
		fmt.Fprintln(sum, weighing)
		enc := json.NewEncoder(sum)
		for i := range f.Characters {
			if err := enc.Encode(f.Characters[i].StateIDs()); err != nil {
				return nil, fmt.Errorf("digesting the flora: %w", err)
			}
		}
		if err := enc.Encode(pool.Model.Taxa()); err != nil {
			return nil, fmt.Errorf("digesting the flora: %w", err)
		}
		out[name] = hex.EncodeToString(sum.Sum(nil)[:12])
	}
	return out, nil
}

// Relist takes the book's lists in after one was changed, and works out where the
// trees that are ranked among it now stand.
func (b *Book) Relist(ctx context.Context) error {
	if err := b.Reload(ctx); err != nil {
		return err
	}
	return b.WeighStale(ctx, func(int, int) {})
}

// WeighStale works out every standing that is missing or of another flora, and
// says how it goes on.
func (b *Book) WeighStale(ctx context.Context, progress func(done, left int)) error {
	return b.Store.WeighStale(ctx, b.Shelf().basis, b.weigh, progress)
}

// newID makes an id for what is entered now.
func newID() string { return ulid.Make().String() }

// TaxaCalled gives the taxa that a word names, in any region, or none where it
// names none.
func (b *Book) TaxaCalled(word string) []string {
	if len(word) < 3 || strings.ContainsAny(word, "0123456789") { // a tag, not a name
		return nil
	}
	var taxa []string
	for _, h := range b.Shelf().Names.Search(word).Hits {
		taxa = append(taxa, h.Taxon)
	}
	return taxa
}
