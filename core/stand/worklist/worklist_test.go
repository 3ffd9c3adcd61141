package worklist_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora/floratest"
	"palethicket/core/stand/worklist"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/ranking"
)

func TestStatus(t *testing.T) {
	for _, c := range []struct {
		is   worklist.Case
		want string
	}{
		{worklist.Case{}, worklist.Unscored},
		{worklist.Case{Scores: 2}, worklist.Open},
		{worklist.Case{Scores: 2, Carried: ranking.Genus}, worklist.Open},
		{worklist.Case{Scores: 2, Carried: ranking.Species}, worklist.Ready},
		{worklist.Case{Scores: 2, Carried: ranking.Species, Strangers: 1}, worklist.Doubtful},
		{worklist.Case{Scores: 2, Carried: ranking.Species, Probable: ranking.Undetermined}, worklist.Ready},
		{worklist.Case{Scores: 2, Carried: ranking.Genus, Probable: ranking.Species}, worklist.Probable},
		{worklist.Case{Scores: 2, Carried: ranking.Undetermined, Probable: ranking.Genus}, worklist.Probable},
		{worklist.Case{Scores: 2, Probable: ranking.Species, Strangers: 1}, worklist.Doubtful},
		{worklist.Case{Scores: 2, Given: ranking.Genus, Step: ranking.Sure}, worklist.Named},
		{worklist.Case{Given: ranking.Species, Step: ranking.Sure}, worklist.Named},
		{worklist.Case{Scores: 2, Given: ranking.Species, Step: ranking.Probably}, worklist.Probable},
		{worklist.Case{Scores: 2, Given: ranking.Species, Step: ranking.Probably, Strangers: 1}, worklist.Doubtful},
		{worklist.Case{Scores: 2, Given: ranking.Species, Step: ranking.NotYet}, worklist.Doubtful},
		{worklist.Case{Scores: 2, Given: ranking.Species, Step: ranking.Sure, Strangers: 1}, worklist.Doubtful},
		{worklist.Case{Scores: 2, Given: ranking.Undetermined, Carried: ranking.Family}, worklist.Open},
	} {
		require.Equal(t, c.want, c.is.Status(), "%+v", c.is)
	}
	signs := map[string]bool{}
	for _, s := range worklist.Statuses {
		require.Equal(t, s, worklist.StatusOf(s.ID))
		require.False(t, signs[s.Sign], "%s has another's sign", s.ID)
		signs[s.Sign] = true
	}
}

// TestCarried: scores can speak against a name, a diameter alone cannot.
func TestCarried(t *testing.T) {
	f := floratest.Shipped(t)
	oak := &logbook.Naming{Rank: "species", Name: "Quercus rubra"}
	doubt := func(s record.Score) string {
		rec := &record.Record{Looks: []record.Look{{From: "tree", Scores: []record.Score{s}}}}
		w, err := answer.NewEngine(f).Weigh(rec)
		require.NoError(t, err)
		defer w.Close()
		step, says := worklist.Carried(&logbook.State{Looks: []logbook.Look{{Scores: []logbook.Score{{Score: s}}}}}, w, oak)
		require.Equal(t, says == "", step == ranking.Sure)
		return says
	}
	wide := 40.0
	require.Empty(t, doubt(record.Score{Character: "form.dbh", Value: &wide}))
	require.Contains(
		t,
		doubt(record.Score{Character: "bark.texture", States: []string{"warty-ridges"}, Certainty: "sure"}),
		"it would take 90 % to carry it",
	)
	for hedge, want := range map[string]ranking.Step{"": ranking.Sure, logbook.Cf: ranking.Probably, logbook.InDoubt: ranking.NotYet} {
		step, says := worklist.Carried(&logbook.State{}, nil, &logbook.Naming{Rank: "species", Name: "Quercus rubra", Hedge: hedge})
		require.Equal(t, want, step, "nobody looked: its namer's word stands")
		require.Equal(t, want != ranking.Sure, says != "")
	}
}

func TestCandidates(t *testing.T) {
	require.Equal(t, []string{"Acer rubrum", "Acer saccharinum"}, worklist.Candidates([]answer.Ranked{
		{
			Taxon:     "Acer rubrum",
			Posterior: 0.5,
		}, {Taxon: answer.Unlisted, Posterior: 0.3}, {Taxon: "Acer saccharinum", Posterior: 0.06}, {Taxon: "Acer nigrum", Posterior: 0.04}}))
}

// TestDo: a name that is ready is written, one that the evidence gives another is
// corrected, and only where nothing helps does one come back.
func TestDo(t *testing.T) {
	for _, c := range []struct {
		status        string
		carried       ranking.Rank
		doubted, look bool
		want          string
	}{
		{worklist.Ready, ranking.Species, false, true, worklist.DoWrite},
		{worklist.Doubtful, ranking.Species, true, true, worklist.DoCorrect},
		{worklist.Doubtful, ranking.Undetermined, true, true, worklist.DoLook},
		{worklist.Doubtful, ranking.Undetermined, true, false, worklist.DoCorrect},
		{worklist.Doubtful, ranking.Undetermined, false, false, worklist.DoBack},
		{worklist.Open, ranking.Genus, false, true, worklist.DoLook},
		{worklist.Open, ranking.Genus, false, false, worklist.DoBack},
	} {
		require.Equal(t, c.want, worklist.Do(c.status, c.carried, c.doubted, c.look), "%+v", c)
	}
}
