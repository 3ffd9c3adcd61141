package book_test

import (
	"encoding/json"
	"fmt"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/core/tree/stamp"
)

// withClock opens an empty book whose clock is off.
func withClock(t testing.TB, now func() time.Time) *book.Book {
	t.Helper()
	opt := booktest.Options(t)
	opt.Now = now
	b, err := book.Open(t.Context(), filepath.Join(t.TempDir(), "book.db"), opt)
	require.NoError(t, err)
	t.Cleanup(func() { b.Close() })
	return b
}

// all is everything that a book tells.
func all(t testing.TB, b *book.Book, tracts ...string) []book.Sent {
	t.Helper()
	var out []book.Sent
	for after := 0; ; {
		c, err := b.Changes(t.Context(), after, "", tracts)
		require.NoError(t, err)
		out = append(out, c.Entries...)
		if after = c.Last; !c.More {
			return out
		}
	}
}

func meet(t testing.TB, b *book.Book, by string, sent ...book.Sent) (counts map[string]int) {
	t.Helper()
	counts = map[string]int{}
	for batch := range slices.Chunk(sent, book.MeetMost) {
		answers, err := b.Meet(t.Context(), &book.Meeting{Version: book.LogVersion, Entries: batch}, by)
		require.NoError(t, err)
		require.Len(t, answers, len(batch))
		for _, a := range answers {
			counts[a.Answer]++
			if a.Answer == book.Refused {
				require.NotEmpty(t, a.Why)
			}
		}
	}
	return counts
}

func sent(t testing.TB, tree string, e logbook.Entry) book.Sent {
	t.Helper()
	text, err := json.Marshal(e)
	require.NoError(t, err)
	return book.Sent{Tree: tree, Entry: text}
}

// shown is what a book shows of a tree, without what is of that book alone.
func shown(t testing.TB, b *book.Book, tree string) string {
	t.Helper()
	v, err := b.View(t.Context(), tree)
	require.NoError(t, err)
	v.Revision = ""
	text, err := json.Marshal(v)
	require.NoError(t, err)
	return string(text)
}

// TestBooksThatMetHoldTheSame: a book tells another its trees, visits, lists, tracts
// and photographs; told again, nothing changes.
func TestBooksThatMetHoldTheSame(t *testing.T) {
	t.Parallel()
	home, away := booktest.New(t), booktest.New(t)
	ours(t, home)
	tree, score := hackberry(t, home, "LC-1")
	named(t, home, tree, "species", "Celtis occidentalis")
	require.NoError(t, home.PutStand(t.Context(), book.NewStand{Tract: tract, Stand: slope, Remarks: "Steep"}, "Wren Halloran"))
	_, err := home.MoveTree(t.Context(), tree, book.Move{Tag: "LC-9", Tract: tract, Stand: "Creek bottom", By: "Wren Halloran", New: true})
	require.NoError(t, err)

	everything := all(t, home)
	counts := meet(t, away, "", everything...)
	require.Equal(t, map[string]int{book.Taken: len(everything)}, counts)
	require.Equal(t, shown(t, home, tree), shown(t, away, tree))
	require.Equal(t, standing(t, home, tree), standing(t, away, tree))
	require.Equal(t, map[string]int{book.Had: len(everything)}, meet(t, away, "", everything...), "again is as once")
	lists, err := away.Lists(t.Context())
	require.NoError(t, err)
	require.Equal(t, "Lantern Creek", lists[0].Name)
	stands, err := away.Stands(t.Context())
	require.NoError(t, err)
	require.Equal(t, "Steep", stands[1].Remarks)
	visits, err := away.Visits(t.Context(), tract)
	require.NoError(t, err)
	require.Len(t, visits, 1)

	add(t, home, tree, book.Entry{Kind: "withdraw", Entry: score})
	add(t, away, tree, book.Entry{Kind: "facts", Facts: &book.SetFacts{Age: to("old")}})
	meet(t, away, "", all(t, home)...)
	meet(t, home, "", all(t, away)...)
	require.Equal(t, shown(t, home, tree), shown(t, away, tree))
	whole, err := home.TreeChanges(t.Context(), tree)
	require.NoError(t, err)
	third := booktest.New(t)
	require.Zero(t, meet(t, third, "", whole.Entries...)[book.Refused], "the visits that it was looked at on come with it")
	require.Equal(t, shown(t, home, tree), shown(t, third, tree))
}

// TestChangesByTract hands out what is new of a tract, with lists and moves.
func TestChangesByTract(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	here := started(t, b, "LC-1")
	c, err := b.Changes(t.Context(), 0, "", []string{tract})
	require.NoError(t, err)
	require.Len(t, c.Entries, 1)
	_, err = b.AddTree(t.Context(), book.NewTree{ID: ulid.Make().String(), Tag: "X-1", Tract: "Another tract", Stand: "Rim", New: true})
	require.NoError(t, err)
	look(t, b, here, "tree")
	next, err := b.Changes(t.Context(), c.Last, "", []string{tract})
	require.NoError(t, err)
	require.Len(t, next.Entries, 2, "the look and its visit")
	for _, e := range next.Entries {
		require.NotContains(t, string(e.Entry), "X-1")
	}
	none, err := b.Changes(t.Context(), next.Last, "", []string{tract})
	require.NoError(t, err)
	require.Empty(t, none.Entries)
	require.Equal(t, next.Last, none.Last)
}

// TestWhatAnotherBookMayNotTell: each is refused with why, and the rest is taken.
func TestWhatAnotherBookMayNotTell(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree := started(t, b, "LC-1")
	id := func() string { return ulid.Make().String() }
	own := sent(t, tree, logbook.Entry{ID: id(), Kind: logbook.KindNote, By: "Ada", Note: "leans"})
	scoreOf := func(look string) logbook.Entry {
		return logbook.Entry{ID: id(), Kind: logbook.KindScore, By: "Ada", Look: look, Score: recordScore("bark.texture", "smooth")}
	}
	l := id()
	for says, s := range map[string]book.Sent{
		"it waits until":                    sent(t, tree, logbook.Entry{ID: id(), Kind: logbook.KindNote, By: "Ben", Note: "x"}),
		"no such look":                      sent(t, tree, scoreOf(id())),
		"not started":                       sent(t, id(), scoreOf(id())),
		"another entry already has this id": sent(t, tree, logbook.Entry{ID: tree, By: "Ada", Kind: logbook.KindStart, Start: &logbook.Start{Place: logbook.Place{Tag: "a", Tract: "b", Stand: "c"}}}),
		"has the tree's id":                 sent(t, tree, logbook.Entry{ID: id(), By: "Ada", Kind: logbook.KindStart, Start: &logbook.Start{Place: logbook.Place{Tag: "a", Tract: "b", Stand: "c"}}}),
		"no such entry":                     sent(t, tree, logbook.Entry{ID: id(), By: "Ada", Kind: logbook.KindWithdraw, Entry: id()}),
		"no such visit":                     sent(t, tree, logbook.Entry{ID: id(), By: "Ada", Kind: logbook.KindLook, From: "tree", Visit: id()}),
		"use one of":                        sent(t, tree, logbook.Entry{ID: l, By: "Ada", Kind: logbook.KindLook, From: "treetop"}),
		"it is no stamp":                    sent(t, tree, logbook.Entry{ID: id(), By: "Ada", Kind: logbook.KindNote, Stamp: "tomorrow"}),
		"what cannot be seen":               sent(t, tree, logbook.Entry{ID: id(), By: "Ada", Kind: logbook.KindMove, Move: &logbook.Place{Tag: "LC\u200b-1", Tract: "b", Stand: "c"}}),
		"is of a tree, or":                  sent(t, "", logbook.Entry{ID: id(), By: "Ada", Kind: logbook.KindNote}),
		"photo.digest":                      sent(t, tree, logbook.Entry{ID: id(), By: "Ada", Kind: logbook.KindPhoto, Photo: &logbook.Photo{Digest: "../book.db", Kind: "image/png"}}),
		"longer than":                       sent(t, tree, logbook.Entry{ID: id(), By: "Ada", Kind: logbook.KindNote, Note: strings.Repeat("x", 70_000)}),
		"list holds":                        sent(t, "", logbook.Entry{ID: id(), By: "Ada", Kind: logbook.KindList, List: &logbook.List{Name: "A\u200bB", Dropped: true}}),
		"is not a day":                      sent(t, "", logbook.Entry{ID: id(), By: "Ada", Kind: logbook.KindVisit, Walk: &logbook.Visit{ID: id(), Tract: tract, Day: "today"}}),
		"there is no polygon":               sent(t, "", logbook.Entry{ID: id(), By: "Ada", Kind: logbook.KindLand, Land: &logbook.Land{Tract: tract, Boundary: []byte(`{"type":"Point","coordinates":[1,2]}`)}}),
		"unknown field":                     {Tree: tree, Entry: []byte(`{"id":"` + id() + `","kind":"note","colour":"red"}`)},
		"cannot unmarshal":                  {Tree: tree, Entry: []byte(`[]`)},
		"the flora has no species Foo bar":  sent(t, tree, logbook.Entry{ID: id(), By: "Ada", Kind: logbook.KindName, Name: &logbook.Naming{Rank: "species", Name: "Foo bar"}}),
		`did you mean "Acer saccharum"?`:    sent(t, "", logbook.Entry{ID: id(), By: "Ada", Kind: logbook.KindList, List: &logbook.List{Name: "L", Body: []byte(`{"name":"L","region":"eastern-north-america","taxa":{"Acer sacharum":"common"}}`)}}),
	} {
		answers, err := b.Meet(t.Context(), &book.Meeting{Version: book.LogVersion, Entries: []book.Sent{s, own}}, "Ada")
		require.NoError(t, err)
		require.Equal(t, book.Refused, answers[0].Answer, says)
		require.Contains(t, answers[0].Why, says)
		require.NotEqual(t, book.Refused, answers[1].Answer)
	}
	visit := logbook.Entry{ID: id(), By: "Ada", Kind: logbook.KindVisit, Walk: &logbook.Visit{ID: id(), Tract: tract, Day: "2026-11-17"}}
	require.Equal(t, map[string]int{book.Taken: 1}, meet(t, b, "Ada", sent(t, "", visit)))
	visit.Walk.Day = "2026-11-18"
	require.Equal(t, map[string]int{book.Refused: 1}, meet(t, b, "Ada", sent(t, "", visit)), "another of its id is not taken for had")
	_, err := b.Meet(t.Context(), &book.Meeting{Version: book.LogVersion + 1}, "")
	require.ErrorIs(t, err, book.ErrOtherShape)
	log, err := b.LogOf(t.Context(), tree)
	require.NoError(t, err)
	require.Len(t, log, 2, "its start and the one note")
}

// TestAChanceIsReckonedAnew: what a device says that the evidence gave a name is not believed. Once home
// has told it back, both books show the same.
func TestAChanceIsReckonedAnew(t *testing.T) {
	t.Parallel()
	home, away := booktest.New(t), booktest.New(t)
	tree, _ := hackberry(t, away, "LC-1")
	told := all(t, away)
	first := standing(t, away, tree)
	boast := logbook.Entry{ID: ulid.Make().String(), By: "Ada", Kind: logbook.KindName,
		Name: &logbook.Naming{Rank: "species", Name: "Acer rubrum", Posterior: 0.999, Leader: "Acer rubrum"}}
	require.Equal(t, map[string]int{book.Taken: len(told) + 1}, meet(t, home, "", append(told, sent(t, tree, boast))...))
	st := standing(t, home, tree)
	require.Equal(t, "Acer rubrum", st.Given)
	require.Less(t, st.GivenPosterior, 0.01)

	named(t, away, tree, "species", first.Leader)
	sent := all(t, away)
	meet(t, home, "", sent...)
	_, err := away.Hear(t.Context(), all(t, home))
	require.NoError(t, err)
	require.Equal(t, shown(t, home, tree), shown(t, away, tree))
	require.Equal(t, standing(t, home, tree), standing(t, away, tree))
	require.InDelta(t, first.LeaderPosterior, standing(t, home, tree).GivenPosterior, 1e-12)
	require.Equal(t, map[string]int{book.Had: len(sent)}, meet(t, home, "", sent...), "told again, nothing changes")
}

// TestAClockAhead: a device whose clock is ten minutes ahead sends a look; a score made
// now by a clock that is right stands in it, remarks can be corrected, and the story
// says what the device's clock said.
func TestAClockAhead(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree := started(t, b, "LC-1")
	fast := time.Now().Add(10 * time.Minute)
	fastID := func() string { return ulid.MustNew(ulid.Timestamp(fast), ulid.DefaultEntropy()).String() }
	device := stamp.NewClock("DEV1", func() time.Time { return fast })
	l, later := fastID(), fastID()
	counts := meet(
		t,
		b,
		"",
		sent(t, tree, logbook.Entry{ID: later, Stamp: device.After(stamp.New(fast.UnixMilli(), 5, "A")), Kind: logbook.KindScore,
			Look: l, Score: recordScore("bark.texture", "smooth")}),
		sent(t, tree, logbook.Entry{ID: l, Stamp: stamp.New(fast.UnixMilli(), 0, "DEV1"), Kind: logbook.KindLook, From: "tree"}),
	)
	require.Equal(t, map[string]int{book.Taken: 2}, counts)
	v, err := b.View(t.Context(), tree)
	require.NoError(t, err)
	require.Len(t, v.Looks[0].Scores, 1)
	scored(t, b, tree, l, "bark.texture", "warty-ridges")
	v, err = b.View(t.Context(), tree)
	require.NoError(t, err)
	require.Equal(t, []string{"warty-ridges"}, v.Looks[0].Scores[0].States, "who corrects what they see comes after it")
	story, err := b.Story(t.Context(), tree)
	require.NoError(t, err)
	require.Equal(t, fast.UTC().Format(time.RFC3339), story.Steps[1].Said)
	require.WithinDuration(t, time.Now(), story.Steps[1].At, time.Minute)
	require.Empty(t, story.Steps[3].Said)

	// The same by a page, whose ids are of a clock that is ahead.
	for _, remark := range []string{"leans", "leans north"} {
		v, err = b.AddEntry(t.Context(), tree, &book.Entry{ID: fastID(), Kind: "facts", Facts: &book.SetFacts{Remarks: &remark}})
		require.NoError(t, err)
		require.Equal(t, remark, v.Facts.Remarks)
	}
	remark := "leans east"
	add(t, b, tree, book.Entry{Kind: "facts", Facts: &book.SetFacts{Remarks: &remark}})
	v, err = b.View(t.Context(), tree)
	require.NoError(t, err)
	require.Equal(t, remark, v.Facts.Remarks)
}

// TestManyOfOneMillisecond: looks and scores of one millisecond all stand.
func TestManyOfOneMillisecond(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree, now := started(t, b, "LC-1"), ulid.Timestamp(time.Now())
	id := func() string { return ulid.MustNew(now, ulid.DefaultEntropy()).String() }
	for i := range 20 {
		l := id()
		_, err := b.AddEntry(t.Context(), tree, &book.Entry{ID: l, Kind: "look", From: "tree"})
		require.NoError(t, err)
		v, err := b.AddEntry(t.Context(), tree, &book.Entry{ID: id(), Kind: "score", Look: l,
			Score: &book.Score{Character: "bark.texture", States: []string{"smooth"}}})
		require.NoError(t, err)
		require.Len(t, v.Looks, i+1)
		require.Len(t, v.Looks[i].Scores, 1)
	}
}

// TestWhatWaited: an entry that waited on a device gets its place after what its maker
// had seen and before what came later.
func TestWhatWaited(t *testing.T) {
	t.Parallel()
	now := time.Now()
	b := withClock(t, func() time.Time { return now })
	tree := started(t, b, "LC-1")
	v, err := b.View(t.Context(), tree)
	require.NoError(t, err)
	seen := v.Seen
	facts := func(id, age, seen string) *book.TreeView {
		t.Helper()
		v, err := b.AddEntry(t.Context(), tree, &book.Entry{ID: id, Kind: "facts", Facts: &book.SetFacts{Age: &age}, Seen: seen})
		require.NoError(t, err)
		return v
	}
	waited := ulid.MustNew(ulid.Timestamp(now.Add(time.Minute)), ulid.DefaultEntropy()).String()
	now = now.Add(time.Hour)
	facts(ulid.Make().String(), "old", "")
	require.Equal(t, "old", facts(waited, "young", seen).Facts.Age, "what came later stands")
	slow := ulid.MustNew(ulid.Timestamp(now.Add(-24*time.Hour)), ulid.DefaultEntropy()).String()
	v, err = b.View(t.Context(), tree)
	require.NoError(t, err)
	require.Equal(t, "mature", facts(slow, "mature", v.Seen).Facts.Age, "after what they saw, with a clock a day behind")
	_, err = b.AddEntry(t.Context(), tree, &book.Entry{ID: ulid.Make().String(), Kind: "note", Note: "x", Seen: "yesterday"})
	require.ErrorContains(t, err, "no stamp")
}

func recordScore(character, state string) *record.Score {
	return &record.Score{Character: character, States: []string{state}}
}

// TestAnyMeeting has two books and a device enter things, undo each other's nothing, and
// tell one another in any batches, doubled and out of order: all three hold the same.
func TestAnyMeeting(t *testing.T) {
	t.Parallel()
	books := []*book.Book{booktest.New(t), booktest.New(t), booktest.New(t)}
	heard := map[[2]int]int{} // how far one book heard another
	trees := 0
	rapid.Check(t, func(r *rapid.T) {
		trees++
		tree := started(t, books[0], fmt.Sprint("LC-", trees))
		meetAll := func(from, to int) {
			c, err := books[from].Changes(t.Context(), heard[[2]int{from, to}], "", nil)
			require.NoError(r, err)
			heard[[2]int{from, to}] = c.Last
			sent := c.Entries
			if rapid.Bool().Draw(r, "doubled") {
				sent = append(sent, sent...)
			}
			for len(sent) > 0 {
				n := rapid.IntRange(1, len(sent)).Draw(r, "batch")
				meet(t, books[to], "", sent[:n]...)
				sent = sent[n:]
			}
		}
		meetAll(0, 1)
		meetAll(0, 2)
		for range rapid.IntRange(1, 12).Draw(r, "steps") {
			i := rapid.IntRange(0, 2).Draw(r, "book")
			if rapid.IntRange(0, 3).Draw(r, "meets") == 0 {
				meetAll(i, (i+1)%3)
				continue
			}
			press(r, t, books[i], tree, fmt.Sprint("Person ", i))
		}
		for range 2 {
			for i := range books {
				meetAll(i, (i+1)%3)
			}
		}
		for i := range books[1:] {
			require.Equal(r, shown(t, books[0], tree), shown(t, books[i+1], tree))
			require.Equal(r, standing(t, books[0], tree), standing(t, books[i+1], tree))
		}
	})
}

// press enters something of any kind; what the book refuses is no matter here.
func press(r *rapid.T, t testing.TB, b *book.Book, tree, by string) {
	log, err := b.LogOf(t.Context(), tree)
	require.NoError(r, err)
	pick := func() string { return log[rapid.IntRange(0, len(log)-1).Draw(r, "of")].ID }
	e := book.Entry{ID: ulid.Make().String(), By: by}
	switch rapid.IntRange(0, 6).Draw(r, "kind") {
	case 0:
		e.Kind, e.From = "look", rapid.SampledFrom([]string{"tree", "crown"}).Draw(r, "from")
	case 1, 2:
		e.Kind, e.Look = "score", pick()
		e.Score = &book.Score{Character: "bark.texture", States: []string{rapid.SampledFrom([]string{"smooth", "warty-ridges"}).Draw(r, "state")}}
	case 3:
		e.Kind, e.Entry = "withdraw", pick()
	case 4:
		e.Kind, e.Entry = "undo", pick()
	case 5:
		e.Kind, e.Facts = "facts", &book.SetFacts{Age: to(rapid.SampledFrom([]string{"", "young", "old"}).Draw(r, "age"))}
	case 6:
		tag := tree[:20] + rapid.SampledFrom([]string{"A", "B"}).Draw(r, "tag")
		_, err := b.MoveTree(t.Context(), tree, book.Move{Tag: tag, Tract: tract, Stand: slope, By: by})
		require.NoError(r, err)
		return
	}
	if _, err := b.AddEntry(t.Context(), tree, &e); err != nil {
		require.NotNil(r, book.FieldsOf(err), "%v", err)
	}
}

// TestHomeIsHeard: what home tells a device is taken in whoever is at work there.
func TestHomeIsHeard(t *testing.T) {
	t.Parallel()
	home, device := booktest.New(t), booktest.New(t)
	ours(t, home)
	require.NoError(t, home.PutStand(t.Context(), book.NewStand{Tract: tract, Stand: slope, Remarks: "Steep"}, "Wren Halloran"))
	tree, _ := hackberry(t, home, "LC-1")
	reader := book.As(t.Context(), book.Author{Name: "Marit Sandoval", Role: book.Reader})
	lacking, err := device.Hear(reader, all(t, home))
	require.NoError(t, err)
	require.Empty(t, lacking)
	require.Equal(t, shown(t, home, tree), shown(t, device, tree))
	lists, err := device.Lists(t.Context())
	require.NoError(t, err)
	require.Len(t, lists, 1)
}

// TestNamedApart: two names given where neither could be seen by whoever gave the other put
// the tree in doubt, in every book; a name given over both settles it. Who goes over a name
// that they see contradicts nobody, nor does a name that holds the other.
func TestNamedApart(t *testing.T) {
	t.Parallel()
	home, away := booktest.New(t), booktest.New(t)
	exchange := func() {
		meet(t, away, "", all(t, home)...)
		meet(t, home, "", all(t, away)...)
	}
	give := func(b *book.Book, tree, by, rank, name string) {
		add(t, b, tree, book.Entry{Kind: "name", By: by, Name: &book.Naming{Rank: rank, Name: name}})
	}
	doubts := func(tree string) string {
		t.Helper()
		require.Equal(t, shown(t, home, tree), shown(t, away, tree))
		require.Equal(t, standing(t, home, tree), standing(t, away, tree))
		v, err := home.View(t.Context(), tree)
		require.NoError(t, err)
		return v.Doubt
	}
	tree := started(t, home, "LC-1")
	exchange()
	give(home, tree, "Ada Lund", "species", "Acer rubrum")
	give(home, tree, "Ada Lund", "species", "Acer saccharinum")
	exchange()
	require.Empty(t, doubts(tree))

	give(home, tree, "Ada Lund", "species", "Acer negundo")
	give(away, tree, "Tobias Okafor", "species", "Acer saccharum")
	exchange()
	require.Equal(t, "Tobias Okafor called it sugar maple while Ada Lund called it boxelder, neither knowing of the other. "+
		"Look again, and name it anew.", doubts(tree))
	require.Equal(t, "doubtful", standing(t, home, tree).Status)
	give(away, tree, "Tobias Okafor", "species", "Acer negundo")
	exchange()
	require.Empty(t, doubts(tree))

	give(home, tree, "Ada Lund", "genus", "Acer")
	give(away, tree, "Tobias Okafor", "species", "Acer saccharum")
	exchange()
	require.Empty(t, doubts(tree))
}

// TestUndoneAndScoredApart: a look is undone in one book while somebody scores in it in
// another: whichever is heard of first, books that met hold the same.
func TestUndoneAndScoredApart(t *testing.T) {
	t.Parallel()
	books := []*book.Book{booktest.New(t), booktest.New(t)}
	tree := started(t, books[0], "LC-1")
	look := add(t, books[0], tree, book.Entry{Kind: "look", From: "tree", By: "Ada Lund"})
	meet(t, books[1], "", all(t, books[0])...)
	add(t, books[0], tree, book.Entry{Kind: "undo", Entry: look, By: "Ada Lund"})
	add(t, books[1], tree, book.Entry{Kind: "score", Look: look, By: "Tobias Okafor", Score: &book.Score{Character: "bark.texture", States: []string{"smooth"}}})
	meet(t, books[1], "", all(t, books[0])...)
	meet(t, books[0], "", all(t, books[1])...)
	require.Equal(t, shown(t, books[0], tree), shown(t, books[1], tree))
	v, err := books[1].View(t.Context(), tree)
	require.NoError(t, err)
	require.Len(t, v.Stranded, 1, "whoever scored in it is told")
	require.Equal(t, []string{"Tobias Okafor", "Ada Lund"}, []string{v.Stranded[0].By, v.Stranded[0].Took})
	require.Contains(t, v.Stranded[0].Words, "smooth")
	look = add(t, books[1], tree, book.Entry{Kind: "look", From: "tree", By: "Tobias Okafor"})
	add(t, books[1], tree, book.Entry{Kind: "score", Look: look, By: "Tobias Okafor", Score: &book.Score{Character: "bark.texture", States: []string{"smooth"}}})
	v, err = books[1].View(t.Context(), tree)
	require.NoError(t, err)
	require.Empty(t, v.Stranded, "it was scored again")
}
