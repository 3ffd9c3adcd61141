package book

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"time"

	"palethicket/core/label"
	"palethicket/core/stand/cruise"
	"palethicket/store"
)

// A check cruise has somebody name again what others named. What is planned and what came of
// it stands here; check_work.go has how it is worked, check_results.go what it says.

// Errors of check cruises; who gives them.
var (
	ErrNoCheck       = store.ErrNoCheck                                                                   // whatever is asked of one
	ErrChecking      = errors.New("this person has a check cruise that goes on: finish or drop it first") // PlanCheck
	ErrNothingToName = errors.New("no tree there was named by others: a check names again what somebody else has named")
	// ErrNotBlind is given where nobody signs in, so that nothing keeps a checker from looking.
	ErrNotBlind = errors.New("a check is blind only where people sign in: serve the book to the crew, and give the checker an account")
	// ErrNotYours is given to others than the checker and the leads.
	ErrNotYours = errors.New("only the checker and the leads end a check")
)

// NewCheck is a check cruise to be planned.
type NewCheck struct {
	Name     string  `json:"name" minLength:"1" maxLength:"80"`
	Tract    string  `json:"tract,omitempty" doc:"Absent: all"`
	Stand    string  `json:"stand,omitempty" doc:"Absent: the whole tract"`
	Checker  string  `json:"checker" minLength:"1" maxLength:"80" doc:"Who names the trees again; others named them"`
	By       string  `json:"by" enum:"stand,name" doc:"Each stand, or each name given, gets its part of the trees"`
	Expected float64 `json:"expected" minimum:"0.5" maximum:"0.99" doc:"The agreement to be expected"`
	Half     float64 `json:"half" minimum:"0.01" maximum:"0.5" doc:"Half-width that the agreement is to be known to, at 95 %"`
	Trees    int     `json:"trees,omitempty" minimum:"0" maximum:"2000" doc:"How many, other than the half-width asks for"`
	Seed     uint64  `json:"seed,omitempty" maximum:"4294967295" doc:"It is drawn with; absent: by chance"`
}

// CheckPlan is a check cruise as it was planned.
type CheckPlan struct {
	NewCheck
	PlannedBy string         `json:"planned_by"`
	PlannedAt time.Time      `json:"planned_at"`
	There     int            `json:"there" doc:"Trees that could be named again"`
	Needed    int            `json:"needed" doc:"How many the half-width asks for"`
	Gives     float64        `json:"gives" doc:"Half-width that the trees drawn give"`
	Strata    []CheckStratum `json:"strata"`
	Drawn     []CheckTree    `json:"drawn"`
	Visit     string         `json:"visit" doc:"Visit that what was found joins the book as"`
	Says      string         `json:"says,omitempty" doc:"What is to be known of the plan"`
}

// CheckStratum is how many trees of a stand, or of a name, were drawn.
type CheckStratum struct {
	Name  string `json:"name"`
	Trees int    `json:"trees"`
	Drawn int    `json:"drawn"`
}

// CheckTree is a tree of a plan.
type CheckTree struct {
	ID    string `json:"id"`
	Tag   string `json:"tag"`
	Tract string `json:"tract"`
	Stand string `json:"stand"`
}

// CheckCruise is a check cruise.
type CheckCruise struct {
	ID    string     `json:"id"`
	Plan  CheckPlan  `json:"plan"`
	Named int        `json:"named" doc:"Trees that the checker named so far"`
	Ended *time.Time `json:"ended"`
	Came  bool       `json:"came" doc:"It was finished, and says something"`
}

// DrawCheck says what a plan would draw; nothing is kept. The strata of a plan by names are not
// told by name to who is to check.
func (b *Book) DrawCheck(ctx context.Context, n NewCheck) (*CheckPlan, error) {
	there, err := b.store.Checkable(ctx, n.Tract, n.Stand, n.Checker)
	if err != nil {
		return nil, err
	}
	if len(there) == 0 {
		return nil, ErrNothingToName
	}
	p := &CheckPlan{NewCheck: n, There: len(there), Drawn: []CheckTree{}, Strata: []CheckStratum{}}
	if p.Needed, err = cruise.Needed(len(there), n.Expected, n.Half); err != nil {
		return nil, &FieldError{"half", err.Error()}
	}
	if p.Trees == 0 {
		p.Trees = p.Needed
	}
	if p.Trees > len(there) {
		p.Says = fmt.Sprintf("%d were asked for, and only %d trees there were named by others: all of them are taken", p.Trees, len(there))
		p.Trees = len(there)
	}
	if p.Seed == 0 {
		p.Seed = uint64(rand.Uint32())
	}
	p.draw(there)
	return p, nil
}

// draw picks the trees of a plan.
func (p *CheckPlan) draw(there []store.Checkable) {
	of := make(map[string]store.Checkable, len(there))
	trees := each(there, func(t store.Checkable) cruise.Tree {
		of[t.ID] = t
		if p.By == "name" {
			return cruise.Tree{ID: t.ID, Stratum: t.Given}
		}
		return cruise.Tree{ID: t.ID, Stratum: t.Stand}
	})
	drawn, strata := cruise.Draw(trees, p.Trees, p.Seed)
	p.Strata = each(strata, func(s cruise.Stratum) CheckStratum { return CheckStratum(s) })
	p.Drawn = each(drawn, func(d cruise.Tree) CheckTree {
		t := of[d.ID]
		return CheckTree{t.ID, t.Tag, t.Tract, t.Stand}
	})
	if p.Gives = cruise.HalfWidth(len(there), len(drawn), p.Expected); math.IsNaN(p.Gives) {
		p.Gives = 0
	}
}

// PlanCheck keeps a check cruise and opens the book that its checker works in: the trees
// drawn, with their tags and places, and nothing else.
func (b *Book) PlanCheck(ctx context.Context, n NewCheck, by string) (*CheckCruise, error) {
	if err := cleanNames(nameField{"name", &n.Name, label.NameMost}); err != nil {
		return nil, err
	}
	a, err := accountNamed(ctx, b.store.Reader, n.Checker)
	if err != nil || a.Closed || !MayDo(a.Role, Observer) {
		return nil, &FieldError{"checker", fmt.Sprintf("%q has no account that may enter something: choose one of the crew", n.Checker)}
	}
	n.Checker = a.Name
	return b.planCheck(ctx, n, by, b.now())
}

func (b *Book) planCheck(ctx context.Context, n NewCheck, by string, at time.Time) (*CheckCruise, error) {
	plan, err := b.DrawCheck(ctx, n)
	if err != nil {
		return nil, err
	}
	b.checks.planning.Lock() // one plan at a time, so that nobody gets two
	defer b.checks.planning.Unlock()
	if b.checks.of(n.Checker) != nil {
		return nil, ErrChecking
	}
	plan.PlannedBy, plan.PlannedAt, plan.Visit = by, at.UTC().Truncate(time.Second), newID()
	id := newID()
	text, err := json.Marshal(plan)
	if err != nil {
		return nil, err
	}
	work, err := b.makeCheckBook(ctx, id, plan)
	if err != nil {
		return nil, fmt.Errorf("making the book that is checked in: %w", err)
	}
	err = b.store.Write(ctx, func(tx *store.Tx) error {
		return tx.AddCheckCruise(ctx, &store.CheckCruise{ID: id, Checker: n.Checker, Plan: string(text)})
	})
	if err != nil {
		return nil, errors.Join(err, work.Close())
	}
	b.checks.put(&checking{id: id, checker: n.Checker, book: work})
	return &CheckCruise{ID: id, Plan: *plan}, nil
}

// Checks lists the check cruises, the latest first.
func (b *Book) Checks(ctx context.Context) ([]CheckCruise, error) {
	kept, err := b.store.CheckCruises(ctx)
	if err != nil {
		return nil, err
	}
	out := make([]CheckCruise, len(kept))
	for i := range kept {
		c, err := b.checkOf(ctx, &kept[i])
		if err != nil {
			return nil, err
		}
		out[i] = *c
	}
	return out, nil
}

// Check gives one, or [ErrNoCheck].
func (b *Book) Check(ctx context.Context, id string) (*CheckCruise, error) {
	kept, err := b.store.CheckCruise(ctx, id)
	if err != nil {
		return nil, err
	}
	return b.checkOf(ctx, &kept)
}

func (b *Book) checkOf(ctx context.Context, kept *store.CheckCruise) (*CheckCruise, error) {
	c := &CheckCruise{ID: kept.ID, Came: kept.Came != nil}
	if err := json.Unmarshal([]byte(kept.Plan), &c.Plan); err != nil {
		return nil, fmt.Errorf("reading the plan of check cruise %s: %w", kept.ID, err)
	}
	if kept.Ended != nil {
		at, err := time.Parse(time.RFC3339, *kept.Ended)
		if err != nil {
			return nil, fmt.Errorf("reading when check cruise %s ended: %w", kept.ID, err)
		}
		c.Ended = &at
	}
	if kept.Came != nil {
		came, err := checkedOf(kept)
		if err != nil {
			return nil, err
		}
		c.Named = came.named()
		return c, nil
	}
	if work := b.checks.of(kept.Checker); work != nil && work.id == kept.ID {
		n, err := work.named(ctx, b)
		c.Named = n
		return c, err
	}
	return c, nil
}

// Checker says what is told to who checks: their own check while it goes on, or nil.
func (b *Book) Checker(ctx context.Context, name string) (*CheckCruise, error) {
	work := b.checks.of(name)
	if work == nil {
		return nil, nil
	}
	c, err := b.Check(ctx, work.id)
	if err != nil {
		return nil, err
	}
	if c.Plan.By == "name" { // how many of which name were drawn tells of the names
		c.Plan.Strata = []CheckStratum{}
	}
	slices.SortFunc(c.Plan.Drawn, byPlace)
	return c, nil
}

// DropCheck gives a check up; what was entered in it joins nothing, and its book stays on the disk.
func (b *Book) DropCheck(ctx context.Context, id string) error {
	kept, err := b.store.CheckCruise(ctx, id)
	if err != nil {
		return err
	}
	if kept.Ended != nil {
		return ErrNoCheck
	}
	work := b.checks.of(kept.Checker)
	err = b.store.Write(ctx, func(tx *store.Tx) error {
		return tx.EndCheckCruise(ctx, id, b.now().UTC().Format(time.RFC3339), nil)
	})
	if err == nil && work != nil && work.id == id {
		b.checks.end(kept.Checker)
		err = work.close()
	}
	return err
}
