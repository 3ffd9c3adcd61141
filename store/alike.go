package store

import (
	"context"
	"fmt"
)

// Alike are trees of which the same next to nothing was scored, and whose standing is of
// another basis.
type Alike struct {
	Alike string `db:"alike"`
	Tree  string `db:"tree_id"` // one of them
	Trees int    `db:"trees"`
}

// StaleAlike lists trees that are weighed again as one, of one region or list, where
// there are several.
func (r Reader) StaleAlike(ctx context.Context, b Basis) (groups []Alike, err error) {
	err = r.all(ctx, &groups, `SELECT alike, min(tree_id) AS tree_id, count(*) AS trees FROM standing INDEXED BY standing_by_alike
		WHERE alike IS NOT NULL AND given_rank = '' AND region = ? AND list = ? AND basis <> ? GROUP BY alike HAVING count(*) > 1`,
		b.Region, b.List, b.Digest)
	if err != nil {
		return nil, fmt.Errorf("listing trees that are alike: %w", err)
	}
	return groups, nil
}

// KeepAlike writes a standing over those of trees that are alike and stale, at most as
// many as asked for, and says how many they were. What is each tree's own stays.
func (t *Tx) KeepAlike(ctx context.Context, alike string, b Basis, st *Standing, most int) (n int, err error) {
	candidates, err := st.Candidates.written()
	if err != nil {
		return 0, err
	}
	profile, err := t.profileOf(ctx, st)
	if err != nil {
		return 0, err
	}
	var places []Place
	const these = `WHERE alike = ? AND given_rank = '' AND region = ? AND list = ? AND basis <> ?`
	where := []any{alike, b.Region, b.List, b.Digest}
	err = t.all(ctx, &places, "SELECT DISTINCT tract, stand, 0 AS changes FROM (SELECT tract, stand FROM standing "+these+
		" ORDER BY tree_id LIMIT ?)", append(where, most)...)
	if err != nil {
		return 0, fmt.Errorf("finding trees that are alike: %w", err)
	}
	for _, p := range places {
		_, stand, err := t.standOf(ctx, p.Tract, p.Stand)
		if err != nil {
			return 0, err
		}
		t.touched[stand] = true
	}
	set := []any{st.Basis, st.Status, st.NamedRank, st.Named, st.NamedWords, st.NamedPosterior,
		st.ProbableRank, st.Probable, st.ProbablePosterior, st.Leader, st.LeaderPosterior, st.Second,
		st.NextCharacter, st.NextFrom, st.NextReach, st.NextBits, st.NextSeconds, candidates, profile}
	res, err := t.run.ExecContext(ctx, `UPDATE standing SET basis = ?, status = ?, named_rank = ?, named = ?, named_words = ?,
		named_posterior = ?, probable_rank = ?, probable = ?, probable_posterior = ?,
		leader = ?, leader_posterior = ?, second = ?,
		next_character = ?, next_from = ?, next_reach = ?, next_bits = ?, next_seconds = ?, candidates = ?, profile = ?
		WHERE tree_id IN (SELECT tree_id FROM standing `+these+" ORDER BY tree_id LIMIT ?)",
		append(append(set, where...), most)...)
	if err != nil {
		return 0, fmt.Errorf("keeping the standing of trees that are alike: %w", explain(err))
	}
	changed, err := res.RowsAffected()
	return int(changed), err
}
