package store

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"strings"

	"palethicket/core/stand/composition"
)

// Standing is where a tree stands, worked out from its log and kept beside it so
// that lists, maps and sums need not rank. It can always be worked out again.
type Standing struct {
	Basis           string  `db:"basis"`  // what it was worked out from beside the log
	Region          string  `db:"region"` // whose trees it is ranked among
	List            string  `db:"list"`   // and in it a list; empty: the whole region
	Status          string  `db:"status"`
	NamedRank       string  `db:"named_rank"` // how far the evidence carries a name now
	Named           string  `db:"named"`
	NamedWords      string  `db:"named_words"`
	NamedPosterior  float64 `db:"named_posterior"`
	Leader          string  `db:"leader"`
	LeaderPosterior float64 `db:"leader_posterior"`
	Second          string  `db:"second"`
	GivenRank       string  `db:"given_rank"` // of the name written down last; empty: none is
	Given           string  `db:"given"`
	GivenBy         string  `db:"given_by"`
	GivenAt         string  `db:"given_at"`
	GivenPosterior  float64 `db:"given_posterior"` // what the evidence gave the name then
	Doubt           string  `db:"doubt"`           // why the evidence does not carry that name, or why the tree cannot be read
	Doubts          int     `db:"doubts"`          // looks that probably are of another tree
	Looks           int     `db:"looks"`
	Scores          int     `db:"scores"`
	Last            string  `db:"last"` // when the last entry was made
	Age             string  `db:"age"`
	Vigour          string  `db:"vigour"`
	Remarks         string  `db:"remarks"`
	DBH             float64 `db:"dbh_cm"`  // 0: not measured
	Area            float64 `db:"area_m2"` // basal area
	Height          float64 `db:"height_m"`

	Lon *float64 `db:"lon"`
	Lat *float64 `db:"lat"`

	NextCharacter string  `db:"next_character"` // the look worth most; empty: none is
	NextFrom      string  `db:"next_from"`
	NextReach     string  `db:"next_reach"`
	NextBits      float64 `db:"next_bits"`
	NextSeconds   int     `db:"next_seconds"`
	Candidates    Names   `db:"candidates"` // taxa still in it, best first
	Aside         bool    `db:"aside"`

	Posteriors []TaxonPosterior `db:"-"` // those that still count
}

// TaxonPosterior is a tree's posterior of one taxon.
type TaxonPosterior struct {
	Taxon string  `db:"taxon"`
	P     float64 `db:"p"`
}

// Names is a list of names that SQL keeps as JSON.
type Names []string

// Scan reads the names from a column.
func (n *Names) Scan(src any) error {
	text, ok := src.(string)
	if !ok {
		return fmt.Errorf("names are %T, want text", src)
	}
	return json.Unmarshal([]byte(text), n)
}

// standingColumns are the columns of the table, in the order of [Standing].
const standingColumns = `basis, region, list, status, named_rank, named, named_words, named_posterior, leader, leader_posterior, second,
	given_rank, given, given_by, given_at, given_posterior, doubt, doubts, looks, scores, last, age, vigour, remarks,
	dbh_cm, area_m2, height_m, lon, lat, next_character, next_from, next_reach, next_bits, next_seconds, candidates, aside`

// KeepStanding writes a tree's standing over the one before. It gives [ErrChanged]
// where the tree is no longer as it was when the standing was worked out, going by
// its version.
func (t *Tx) KeepStanding(ctx context.Context, tree *Tree, st *Standing) error {
	if now, err := t.Version(ctx, tree.ID); err != nil || now != tree.Version {
		return cmp.Or(err, ErrChanged)
	}
	names := st.Candidates
	if names == nil {
		names = Names{}
	}
	candidates, err := json.Marshal(names)
	if err != nil {
		return err
	}
	err = t.exec(ctx, `INSERT OR REPLACE INTO standing (tree_id, tag, tract, stand, `+standingColumns+`) VALUES
		(?,?,?,?, ?,?,?,?,?,?,?,?,?,?,?, ?,?,?,?,?,?,?,?,?,?,?,?,?, ?,?,?,?,?,?,?,?,?,?,?,?)`,
		tree.ID, tree.Tag, tree.Tract, tree.Stand,
		st.Basis, st.Region, st.List, st.Status, st.NamedRank, st.Named, st.NamedWords, st.NamedPosterior,
		st.Leader, st.LeaderPosterior, st.Second,
		st.GivenRank, st.Given, st.GivenBy, st.GivenAt, st.GivenPosterior, st.Doubt, st.Doubts,
		st.Looks, st.Scores, st.Last, st.Age, st.Vigour, st.Remarks,
		st.DBH, st.Area, st.Height, st.Lon, st.Lat,
		st.NextCharacter, st.NextFrom, st.NextReach, st.NextBits, st.NextSeconds, string(candidates), st.Aside)
	if err != nil {
		return fmt.Errorf("keeping the standing of tree %s: %w", tree.Tag, err)
	}
	return t.keepPosteriors(ctx, tree, st)
}

func (t *Tx) keepPosteriors(ctx context.Context, tree *Tree, st *Standing) error {
	if err := t.exec(ctx, "DELETE FROM posterior WHERE tree_id = ?", tree.ID); err != nil || st.Aside || len(st.Posteriors) == 0 {
		return err
	}
	args := make([]any, 0, 7*len(st.Posteriors))
	for _, p := range st.Posteriors {
		args = append(args, tree.ID, p.Taxon, tree.Tract, tree.Stand, p.P, st.Area, st.Status == "named" && st.Given == p.Taxon)
	}
	rows := strings.TrimSuffix(strings.Repeat("(?,?,?,?,?,?,?),", len(st.Posteriors)), ",")
	return t.exec(ctx, "INSERT INTO posterior (tree_id, taxon, tract, stand, p, area_m2, determined) VALUES "+rows, args...)
}

// Basis says what standings are worked out from, beside the log, for trees that are
// ranked among a region or list.
type Basis struct {
	Region, List string
	Digest       string
}

// Stale lists trees whose standing is missing or of another basis than that of what
// they are ranked among, at most as many as asked for and after a tree id, and how
// many are left after that one.
func (r Reader) Stale(ctx context.Context, basis []Basis, after string, most int) (ids []string, left int, err error) {
	cases, args := "", []any{}
	for _, b := range basis {
		cases, args = cases+" WHEN standing.region = ? AND standing.list = ? THEN ?", append(args, b.Region, b.List, b.Digest)
	}
	stale := " FROM tree LEFT JOIN standing ON standing.tree_id = tree.id WHERE standing.basis IS NOT CASE" +
		cases + " ELSE '' END AND tree.id > ?"
	args = append(args, after)
	if err := r.get(ctx, &left, "SELECT count(*)"+stale, args...); err != nil {
		return nil, 0, fmt.Errorf("counting standings: %w", err)
	}
	if err := r.all(ctx, &ids, "SELECT tree.id"+stale+" ORDER BY tree.id LIMIT ?", append(args, most)...); err != nil {
		return nil, 0, fmt.Errorf("listing standings: %w", err)
	}
	return ids, left, nil
}

// Sums adds up the trees of a stand, a tract or the book by taxon, and gives how
// many they are and their basal area in square metres.
func (r Reader) Sums(ctx context.Context, tract, stand string) (n int, area float64, sums []composition.Sums, err error) {
	where, args := (&Query{Tract: tract, Stand: stand}).where()
	var total struct {
		N    int     `db:"n"`
		Area float64 `db:"area"`
	}
	err = r.get(ctx, &total, "SELECT count(*) AS n, coalesce(sum(area_m2), 0) AS area FROM standing WHERE "+where, args...)
	if err != nil {
		return 0, 0, nil, fmt.Errorf("adding up trees: %w", err)
	}
	var rows []struct {
		Taxon      string  `db:"taxon"`
		P          float64 `db:"p"`
		PQ         float64 `db:"pq"`
		Skew       float64 `db:"skew"`
		Area       float64 `db:"area"`
		AreaPQ     float64 `db:"area_pq"`
		Determined int     `db:"determined"`
	}
	where = strings.Replace(where, "aside = 0", "true", 1) // what is aside has no posteriors
	err = r.all(ctx, &rows, `SELECT taxon, sum(p) AS p, sum(p * (1 - p)) AS pq,
		sum(p * (1 - p) * (1 - 2 * p)) AS skew, sum(area_m2 * p) AS area, sum(area_m2 * area_m2 * p * (1 - p)) AS area_pq,
		sum(determined) AS determined FROM posterior WHERE `+where+" GROUP BY taxon", args...)
	if err != nil {
		return 0, 0, nil, fmt.Errorf("adding up taxa: %w", err)
	}
	for _, row := range rows {
		sums = append(sums, composition.Sums(row))
	}
	return total.N, total.Area, sums, nil
}

// Standing gives where a tree stands, or [ErrNoTree].
func (r Reader) Standing(ctx context.Context, id string) (*Standing, error) {
	var st Standing
	err := r.get(ctx, &st, "SELECT "+standingColumns+" FROM standing WHERE tree_id = ?", id)
	return &st, noRow(err, ErrNoTree)
}

// StandCounts gives how many other trees a tree's stand holds that say something
// of what grows there, and their expected number by taxon.
func (r Reader) StandCounts(ctx context.Context, t *Tree) (n int, counts map[string]float64, err error) {
	const others = " FROM standing WHERE aside = 0 AND tract = ? AND stand = ? AND tree_id <> ? AND scores > 0"
	if err := r.get(ctx, &n, "SELECT count(*)"+others, t.Tract, t.Stand, t.ID); err != nil {
		return 0, nil, fmt.Errorf("counting a stand: %w", err)
	}
	var rows []TaxonPosterior
	err = r.all(ctx, &rows, `SELECT taxon, sum(p) AS p FROM posterior WHERE tract = ? AND stand = ?
		AND tree_id IN (SELECT tree_id`+others+") GROUP BY taxon", t.Tract, t.Stand, t.Tract, t.Stand, t.ID)
	if err != nil {
		return 0, nil, fmt.Errorf("counting a stand's taxa: %w", err)
	}
	counts = map[string]float64{}
	for _, row := range rows {
		counts[row.Taxon] = row.P
	}
	return n, counts, nil
}
