package store_test

import (
	"errors"
	"strconv"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/stand/composition"
	"palethicket/core/tree/logbook"
	"palethicket/store"
)

const (
	tract = "Lantern Creek watershed forest"
	slope = "Upper slope"
)

func openNew(t *testing.T) *store.Store {
	t.Helper()
	return open(t, t.TempDir()+"/book.db")
}

// write makes one change that must succeed.
func write(t *testing.T, s *store.Store, use func(tx *store.Tx) error) {
	t.Helper()
	require.NoError(t, s.Write(t.Context(), use))
}

func newID() string { return ulid.Make().String() }

func TestAccountsAndSessions(t *testing.T) {
	t.Parallel()
	s, ctx := openNew(t), t.Context()
	lead := store.Account{ID: newID(), Name: "Wren Halloran", Role: "lead", Password: "a digest"}
	write(t, s, func(tx *store.Tx) error { return tx.PutAccount(ctx, lead) })
	other := store.Account{ID: newID(), Name: "Tobias Okafor", Role: "observer", Password: "another"}
	write(t, s, func(tx *store.Tx) error { return tx.PutAccount(ctx, other) })

	all, err := s.Accounts(ctx)
	require.NoError(t, err)
	require.Equal(t, []store.Account{other, lead}, all)

	put := func(a store.Account) error {
		return s.Write(ctx, func(tx *store.Tx) error { return tx.PutAccount(ctx, a) })
	}
	require.ErrorIs(t, put(store.Account{ID: newID(), Name: "TOBIAS OKAFOR", Role: "reader"}), store.ErrNameTaken)
	demoted := lead
	demoted.Role = "observer"
	require.ErrorIs(t, put(demoted), store.ErrLastLead)
	closed := lead
	closed.Closed = true
	require.ErrorIs(t, put(closed), store.ErrLastLead)
	again, err := s.Accounts(ctx)
	require.NoError(t, err)
	require.Equal(t, all, again, "a refused change leaves nothing behind")

	now := time.Date(2026, 11, 17, 9, 0, 0, 0, time.UTC)
	open := func(digest, account string, at time.Time) {
		write(t, s, func(tx *store.Tx) error { return tx.OpenSession(ctx, digest, account, at, at.Add(time.Hour)) })
	}
	open("early", other.ID, now.Add(-3*time.Hour))
	open("here", other.ID, now)
	who, err := s.SessionAccount(ctx, "here", now)
	require.NoError(t, err)
	require.Equal(t, other, who)
	for digest, at := range map[string]time.Time{"early": now.Add(-3 * time.Hour), "here": now.Add(2 * time.Hour), "never": now} {
		_, err = s.SessionAccount(ctx, digest, at)
		require.ErrorIs(t, err, store.ErrNoAccount, digest)
	}
	require.NoError(t, put(other)) // changed, so signed out everywhere
	_, err = s.SessionAccount(ctx, "here", now)
	require.ErrorIs(t, err, store.ErrNoAccount)
	open("again", lead.ID, now)
	write(t, s, func(tx *store.Tx) error { return tx.CloseSession(ctx, "again") })
	_, err = s.SessionAccount(ctx, "again", now)
	require.ErrorIs(t, err, store.ErrNoAccount)
}

func TestDevices(t *testing.T) {
	t.Parallel()
	s, ctx := openNew(t), t.Context()
	lead := store.Account{ID: newID(), Name: "Wren Halloran", Role: "lead"}
	write(t, s, func(tx *store.Tx) error { return tx.PutAccount(ctx, lead) })
	now := time.Date(2026, 11, 17, 9, 0, 0, 0, time.UTC)
	d := store.Device{ID: newID(), Account: lead.ID, Whose: lead.Name, Name: "tablet", Since: now.Format(time.RFC3339),
		Until: now.Add(time.Hour).Format(time.RFC3339)}
	write(t, s, func(tx *store.Tx) error { return tx.AddDevice(ctx, d, "digest") })
	who, err := s.DeviceAccount(ctx, "digest", now)
	require.NoError(t, err)
	require.Equal(t, lead, who)
	for token, at := range map[string]time.Time{"other": now, "digest": now.Add(2 * time.Hour)} {
		_, err = s.DeviceAccount(ctx, token, at)
		require.ErrorIs(t, err, store.ErrNoAccount)
	}
	write(t, s, func(tx *store.Tx) error { return tx.EndDevice(ctx, d.ID, "") })
	_, err = s.DeviceAccount(ctx, "digest", now)
	require.ErrorIs(t, err, store.ErrNoAccount, "ended")
	all, err := s.Devices(ctx, "")
	require.NoError(t, err)
	d.Ended = true
	require.Equal(t, []store.Device{d}, all)
	require.ErrorIs(t, s.Write(ctx, func(tx *store.Tx) error { return tx.EndDevice(ctx, newID(), "") }), store.ErrNoDevice)
}

func TestImports(t *testing.T) {
	t.Parallel()
	s, ctx := openNew(t), t.Context()
	i := store.Import{ID: newID(), Name: "old.csv", By: "Wren Halloran", At: "2026-11-17T09:00:00Z"}
	brought, before := aTree("LC-1"), aTree("LC-2")
	require.NoError(t, addTree(s, before))
	look := logbook.Entry{ID: newID(), Kind: logbook.KindLook, From: "tree"}
	score := aScore(look.ID)
	write(t, s, func(tx *store.Tx) error {
		require.NoError(t, tx.AddImport(ctx, i))
		require.NoError(t, tx.AddTree(ctx, &brought, i.ID))
		for _, tree := range []string{brought.ID, before.ID} {
			e := logbook.Entry{ID: newID(), Kind: logbook.KindLook, From: "tree"}
			_, err := tx.Append(ctx, tree, &e, i.ID)
			require.NoError(t, err)
		}
		_, err := tx.Append(ctx, brought.ID, &look, i.ID)
		require.NoError(t, err)
		return tx.BeatImport(ctx, i.ID, "2026-11-17T09:00:01Z", 1)
	})
	require.NoError(t, appendTo(s, brought.ID, score))

	touched, err := s.TouchedBy(ctx, i.ID, -1)
	require.NoError(t, err)
	require.ElementsMatch(t, []store.Touched{{Tree: brought.ID, Brought: true, Since: 1}, {Tree: before.ID}}, touched)
	added, err := s.AddedBy(ctx, i.ID, brought.ID)
	require.NoError(t, err)
	require.Len(t, added, 2)
	require.Contains(t, added, look.ID)

	cut, going, err := s.CutShort(ctx, "2026-11-17T09:00:01Z")
	require.NoError(t, err)
	require.Empty(t, cut)
	require.Equal(t, 1, going)
	cut, _, err = s.CutShort(ctx, "2026-11-17T09:00:02Z")
	require.NoError(t, err)
	require.Equal(t, []string{i.ID}, cut)
	write(t, s, func(tx *store.Tx) error { return tx.FinishImport(ctx, i.ID, "2026-11-17T09:01:00Z") })
	write(t, s, func(tx *store.Tx) error { return tx.UndoneImport(ctx, i.ID, "2026-11-18T09:00:00Z") })
	got, err := s.Import(ctx, i.ID)
	require.NoError(t, err)
	require.Equal(t, 1, got.Trees)
	require.Equal(t, "2026-11-18T09:00:00Z", *got.Undone)
	later := store.Import{ID: newID(), Name: "new.csv"}
	write(t, s, func(tx *store.Tx) error {
		return errors.Join(tx.AddImport(ctx, later), tx.FinishImport(ctx, later.ID, later.At))
	})
	write(t, s, func(tx *store.Tx) error { return tx.AddImport(ctx, store.Import{ID: newID(), Name: "going on.csv"}) })
	all, err := s.Imports(ctx)
	require.NoError(t, err)
	require.Equal(t, []string{"new.csv", "old.csv"}, []string{all[0].Name, all[1].Name})
	_, err = s.Import(ctx, newID())
	require.ErrorIs(t, err, store.ErrNoImport)
	err = s.Write(ctx, func(tx *store.Tx) error { return tx.FinishImport(ctx, newID(), "") })
	require.ErrorIs(t, err, store.ErrNoImport)
}

func TestListsInUse(t *testing.T) {
	t.Parallel()
	s, ctx := openNew(t), t.Context()
	list := flora.List{Name: "Lantern Creek", Region: "eastern-north-america", Abundance: map[string]string{"Acer rubrum": "common"}}
	for range 2 { // the second takes the place of the first
		write(t, s, func(tx *store.Tx) error { return tx.PutList(ctx, list) })
	}
	kept, err := s.Lists(ctx)
	require.NoError(t, err)
	require.Equal(t, []flora.List{list}, kept)
	drop := func(name string) error {
		return s.Write(ctx, func(tx *store.Tx) error { return tx.DropList(ctx, name) })
	}
	require.ErrorIs(t, drop("another"), store.ErrNoList)

	now := aTree("LC-1")
	now.List = list.Name
	require.NoError(t, addTree(s, now))
	require.ErrorIs(t, drop(list.Name), store.ErrListInUse, "a tree is ranked among it")

	once := flora.List{Name: "Avenue", Region: list.Region, Abundance: list.Abundance}
	write(t, s, func(tx *store.Tx) error { return tx.PutList(ctx, once) })
	among := logbook.Entry{
		ID:    newID(),
		Kind:  logbook.KindFacts,
		Facts: &logbook.SetFacts{Among: &logbook.Among{Region: once.Region, List: once.Name}},
	}
	require.NoError(t, addTree(s, aTree("LC-2"), among))
	require.ErrorIs(t, drop("Avenue"), store.ErrListInUse, "a tree's log names it")

	free := flora.List{Name: "Nobody's", Region: list.Region, Abundance: list.Abundance}
	write(t, s, func(tx *store.Tx) error { return tx.PutList(ctx, free) })
	require.NoError(t, drop(free.Name))
}

func TestStandsTractsAndVisits(t *testing.T) {
	t.Parallel()
	s, ctx := openNew(t), t.Context()
	ring, creek := `{"type":"Polygon","coordinates":[]}`, `{"type":"FeatureCollection","features":[]}`
	write(t, s, func(tx *store.Tx) error {
		require.NoError(t, tx.PutTract(ctx, store.Tract{Tract: tract, Terrain: &creek, Remarks: "A water company's"}))
		require.NoError(t, tx.PutStand(ctx, store.Stand{Tract: tract, Stand: slope, Remarks: "Steep", Boundary: &ring}))
		return tx.PutStand(ctx, store.Stand{Tract: tract, Stand: slope, Remarks: "Steep, dry"}) // the boundary stays
	})
	named, open := aTree("LC-1"), aTree("LC-2")
	for tree, status := range map[*store.Tree]string{&named: "named", &open: "open"} {
		require.NoError(t, addTree(s, *tree))
		require.NoError(t, stand(s, tree.ID, store.Standing{Status: status}))
	}
	stands, err := s.Stands(ctx)
	require.NoError(t, err)
	require.Equal(t, []store.Stand{{Tract: tract, Stand: slope, Remarks: "Steep, dry", Boundary: &ring, Trees: 2, Open: 1}}, stands)
	tracts, err := s.Tracts(ctx)
	require.NoError(t, err)
	require.Equal(t, []store.Tract{{Tract: tract, Terrain: &creek, Remarks: "A water company's"}}, tracts)

	visit := store.Visit{ID: newID(), Tract: tract, Day: "2026-11-17", Crew: "Wren Halloran", Snow: "patchy"}
	write(t, s, func(tx *store.Tx) error { return tx.PutVisit(ctx, visit) })
	look := logbook.Entry{ID: newID(), Kind: logbook.KindLook, From: "tree", Visit: visit.ID}
	require.NoError(t, appendTo(s, open.ID, &look))
	visit.Weather, visit.Trees, visit.Looks = "Thaw", 1, 1
	write(t, s, func(tx *store.Tx) error { return tx.PutVisit(ctx, visit) })
	visits, err := s.Visits(ctx, tract)
	require.NoError(t, err)
	require.Equal(t, []store.Visit{visit}, visits)
	none, err := s.Visits(ctx, "another tract")
	require.NoError(t, err)
	require.Empty(t, none)
	of, err := s.VisitsOf(ctx, open.ID)
	require.NoError(t, err)
	require.Equal(t, "Thaw", of[look.ID].Weather)
	id, err := s.VisitOn(ctx, tract, "2026-11-17")
	require.NoError(t, err)
	require.Equal(t, visit.ID, id)
	_, err = s.VisitOn(ctx, tract, "2026-11-18")
	require.ErrorIs(t, err, store.ErrNoVisit)
	_, err = s.Visit(ctx, newID())
	require.ErrorIs(t, err, store.ErrNoVisit)
}

func TestTreesAreFoundAndMoved(t *testing.T) {
	t.Parallel()
	s, ctx := openNew(t), t.Context()
	maple, oak, gone := aTree("LC-1"), aTree("LC-2"), aTree("LC-3")
	for tree, st := range map[*store.Tree]store.Standing{
		&maple: {Status: "named", Given: "Acer rubrum", Leader: "Acer saccharum", Remarks: "by the 50 % mark"},
		&oak:   {Status: "open", Leader: "Quercus rubra", NextBits: 2},
		&gone:  {Status: "open", Leader: "Quercus rubra", Aside: true},
	} {
		require.NoError(t, addTree(s, *tree))
		require.NoError(t, stand(s, tree.ID, st))
	}
	for _, c := range []struct {
		says  string
		query store.Query
		tags  []string
	}{
		{"all but those set aside", store.Query{Tract: tract, Stand: slope}, []string{"LC-1", "LC-2"}},
		{"by tag", store.Query{Text: "c-2"}, []string{"LC-2"}},
		{"by tag, as people write it", store.Query{Text: "lc 2"}, []string{"LC-2"}},
		{"by a remark, and % means itself", store.Query{Text: "50 %"}, []string{"LC-1"}},
		{"by the name given", store.Query{Taxa: []string{"Acer rubrum"}}, []string{"LC-1"}},
		{"by its leader, or by text", store.Query{Taxa: []string{"Quercus rubra"}, Text: "mark"}, []string{"LC-1", "LC-2"}},
		{"by status, the worthiest first", store.Query{Status: []string{"open", "named"}, Sort: "worth"}, []string{"LC-2", "LC-1"}},
		{"with a position", store.Query{Placed: true}, []string{}},
	} {
		page, total, err := s.Trees(ctx, c.query, 10, 0)
		require.NoError(t, err, c.says)
		tags := []string{}
		for _, l := range page {
			tags = append(tags, l.Tag)
		}
		require.Equal(t, c.tags, tags, c.says)
		require.Equal(t, len(c.tags), total, c.says)
	}
	_, _, err := s.Trees(ctx, store.Query{Sort: "beauty"}, 10, 0)
	require.ErrorContains(t, err, `"beauty"`)

	tags, err := s.Tags(ctx, tract)
	require.NoError(t, err)
	require.Equal(t, map[string]bool{"lc-1": true, "lc-2": true, "lc-3": false}, tags)
	n, err := s.CountTrees(ctx)
	require.NoError(t, err)
	require.Equal(t, 3, n)
	ids, err := s.TreeIDs(ctx)
	require.NoError(t, err)
	require.ElementsMatch(t, []string{maple.ID, oak.ID, gone.ID}, ids)

	move := func(id, tag string) error {
		return s.Write(ctx, func(tx *store.Tx) error { return tx.MoveTree(ctx, id, tag, tract, "North cove") })
	}
	require.ErrorIs(t, move(newID(), "LC-9"), store.ErrNoTree)
	require.NoError(t, move(oak.ID, "LC-22"))
	moved, err := s.TreeByTag(ctx, tract, "LC-22")
	require.NoError(t, err)
	require.Equal(t, "North cove", moved.Stand)
	_, err = s.TreeByTag(ctx, tract, "LC-2")
	require.ErrorIs(t, err, store.ErrNoTree)
}

// TestSums adds up trees by hand, two of them with posteriors in common: p and p(1-p) and (1-2p) of each, and areas.
func TestSums(t *testing.T) {
	t.Parallel()
	s, ctx := openNew(t), t.Context()
	common, err := store.InCommon(store.Posteriors{"Acer rubrum": 0.2})
	require.NoError(t, err)
	one, two, aside, three, four := aTree("LC-1"), aTree("LC-2"), aTree("LC-3"), aTree("LC-4"), aTree("LC-5")
	for tree, st := range map[*store.Tree]store.Standing{
		&one:   {Status: "named", Given: "Acer rubrum", Scores: 3, Area: 2, Posteriors: store.Posteriors{"Acer rubrum": 0.9}},
		&two:   {Status: "open", Scores: 1, Area: 1, Posteriors: store.Posteriors{"Acer rubrum": 0.5, "Acer nigrum": 0.25}},
		&three: {Status: "unscored", Area: 4, Common: common},
		&four:  {Status: "unscored", Area: 1, Common: common},
		&aside: {Status: "open", Aside: true, Scores: 1, Area: 9, Posteriors: store.Posteriors{"Acer rubrum": 1}},
	} {
		require.NoError(t, addTree(s, *tree))
		require.NoError(t, stand(s, tree.ID, st))
	}
	n, total, sums, err := s.Sums(ctx, tract, slope, nobody)
	require.NoError(t, err)
	require.Equal(t, 4, n)
	require.InDelta(t, 8, total, 1e-12)
	by := map[string]composition.Sums{}
	for _, x := range sums {
		by[x.Taxon] = x
	}
	red := by["Acer rubrum"]
	require.InDelta(t, 1.4+2*0.2, red.P, 1e-12)
	require.InDelta(t, 0.09+0.25+2*0.16, red.PQ, 1e-12)
	require.InDelta(t, 0.09*(1-1.8)+2*0.16*0.6, red.Skew, 1e-12)
	require.InDelta(t, 2*0.9+0.5+0.2*5, red.Area, 1e-12)
	require.InDelta(t, 4*0.09+0.25+0.16*17, red.AreaPQ, 1e-12)
	require.Equal(t, 1, red.Determined)
	require.Zero(t, by["Acer nigrum"].Determined)
	none, _, sums, err := s.Sums(ctx, tract, "another stand", nobody)
	require.NoError(t, err)
	require.Zero(t, none)
	require.Empty(t, sums)

	others, counts, err := s.StandCounts(ctx, &two)
	require.NoError(t, err)
	require.Equal(t, 1, others, "the tree itself and those set aside do not count")
	require.Equal(t, map[string]float64{"Acer rubrum": 0.9}, counts)
}

// TestNamesFindScoredTreesFirst: of trees of which nothing was scored the leader is only
// the most common of the list.
func TestNamesFindScoredTreesFirst(t *testing.T) {
	t.Parallel()
	s, ctx := openNew(t), t.Context()
	many := []string{"Acer rubrum"}
	for i := range 60 {
		many = append(many, "Invented taxon "+strconv.Itoa(i))
	}
	for i, st := range []store.Standing{{Leader: "Acer rubrum"}, {Leader: "Acer rubrum", Scores: 2}, {Leader: "Acer nigrum", Given: "Acer rubrum", Scores: 1},
		{Leader: "Tilia americana", Remarks: "under the red maple"}, {Leader: "Tilia americana"}} {
		tree := aTree("LC-" + strconv.Itoa(i))
		require.NoError(t, addTree(s, tree))
		require.NoError(t, stand(s, tree.ID, st))
	}
	for _, taxa := range [][]string{{"Acer rubrum"}, {"Acer rubrum", "Acer nigrum"}, many} {
		tags := func(limit, offset int) (out []string) {
			page, total, err := s.Trees(ctx, store.Query{Taxa: taxa, Text: "Red Maple"}, limit, offset)
			require.NoError(t, err)
			require.Equal(t, 4, total)
			for _, l := range page {
				out = append(out, l.Tag)
			}
			return out
		}
		require.Equal(t, []string{"LC-1", "LC-2", "LC-0", "LC-3"}, tags(10, 0))
		require.Equal(t, []string{"LC-0", "LC-3"}, tags(2, 2))
		require.Equal(t, []string{"LC-3"}, tags(2, 3), "from the end")
		require.Empty(t, tags(2, 9))
	}
	n := 0
	require.NoError(t, s.EachTree(ctx, store.Query{Taxa: many, Text: "red maple"}, func(*store.Line) error { n++; return nil }))
	require.Equal(t, 4, n)
}

// TestManyAreFound: where more fit than are looked for one by one, those that hold the text to the
// letter are listed, and all where there is none such.
func TestManyAreFound(t *testing.T) {
	t.Parallel()
	s, ctx := openNew(t), t.Context()
	write(t, s, func(tx *store.Tx) error {
		for i := range 510 {
			tree := aTree("LC-1" + strconv.Itoa(i))
			if i < 3 {
				tree.Tag = "LC 1-" + strconv.Itoa(i)
			}
			if err := errors.Join(tx.AddTree(ctx, &tree, ""), tx.KeepStanding(ctx, &tree, &store.Standing{Region: tree.Region})); err != nil {
				return err
			}
		}
		return nil
	})
	for text, want := range map[string]int{"lc 1": 3, "lc1": 510, "L C-1": 510, "lc 12": 1 + 10 + 100, "lc 1-2": 1 + 10 + 100} {
		_, total, err := s.Trees(ctx, store.Query{Text: text}, 10, 0)
		require.NoError(t, err)
		require.Equal(t, want, total, text)
	}
}

// nobody bears a name: trees count by their chances alone.
func nobody(string, string) []string { return nil }
