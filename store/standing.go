package store

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"strings"

	"github.com/jmoiron/sqlx"

	"palethicket/core/stand/composition"
	"palethicket/core/tree/logbook"
)

// Standing is where a tree stands, worked out from its log and kept beside it so
// that lists, maps and sums need not rank. It can always be worked out again.
type Standing struct {
	Basis          string  `db:"basis" json:"-"` // which flora it was worked out with
	Pool           string  `db:"-" json:"-"`     // what it is ranked among; empty: the tree's region
	Status         string  `db:"status" json:"status" enum:"named,doubtful,ready,open,unscored" doc:"named: a name is written down and nothing speaks against it; doubtful: one is, or a look is of another tree; ready: the evidence carries a species and none is written down; open: it does not"`
	NamedRank      string  `db:"named_rank" json:"named_rank"`
	Named          string  `db:"named" json:"named" doc:"How far the evidence carries a name now"`
	NamedWords     string  `db:"named_words" json:"named_words"`
	NamedPosterior float64 `db:"named_posterior" json:"named_posterior"`
	Leader         string  `db:"leader" json:"leader"`
	LeaderShare    float64 `db:"leader_share" json:"leader_share"`
	Second         string  `db:"second" json:"second"`
	GivenRank      string  `db:"given_rank" json:"given_rank" doc:"Rank of the name written down last; empty: none is"`
	Given          string  `db:"given" json:"given"`
	GivenBy        string  `db:"given_by" json:"given_by"`
	GivenAt        string  `db:"given_at" json:"given_at"`
	GivenPosterior float64 `db:"given_posterior" json:"given_posterior" doc:"What the evidence gave the name then"`
	Doubt          string  `db:"doubt" json:"doubt" doc:"Why the evidence does not carry that name, or empty"`
	Doubts         int     `db:"doubts" json:"doubts" doc:"Looks that probably are of another tree"`
	Looks          int     `db:"looks" json:"looks"`
	Scores         int     `db:"scores" json:"scores"`
	Last           string  `db:"last" json:"last" doc:"When the last entry was made"`
	Age            string  `db:"age" json:"age"`
	Vigour         string  `db:"vigour" json:"vigour"`
	Remarks        string  `db:"remarks" json:"remarks"`
	DBH            float64 `db:"dbh_cm" json:"dbh_cm" doc:"Diameter at breast height; 0: not measured"`
	Area           float64 `db:"area_m2" json:"area_m2" doc:"Basal area"`
	Height         float64 `db:"height_m" json:"height_m"`

	Lon *float64 `db:"lon" json:"lon,omitempty"`
	Lat *float64 `db:"lat" json:"lat,omitempty"`

	NextCharacter string  `db:"next_character" json:"next_character" doc:"The look worth most; empty: none is"`
	NextFrom      string  `db:"next_from" json:"next_from"`
	NextReach     string  `db:"next_reach" json:"next_reach"`
	NextBits      float64 `db:"next_bits" json:"next_bits"`
	NextSeconds   int     `db:"next_seconds" json:"next_seconds"`
	Candidates    Names   `db:"candidates" json:"candidates" doc:"Taxa still in it, best first"`
	Aside         bool    `db:"aside" json:"-"`

	Shares []TaxonShare `db:"-" json:"-"` // posteriors that still count
}

// TaxonShare is a tree's posterior of one taxon.
type TaxonShare struct {
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
const standingColumns = `basis, status, named_rank, named, named_words, named_posterior, leader, leader_share, second,
	given_rank, given, given_by, given_at, given_posterior, doubt, doubts, looks, scores, last, age, vigour, remarks,
	dbh_cm, area_m2, height_m, lon, lat, next_character, next_from, next_reach, next_bits, next_seconds, candidates, aside`

// Weigh works out where a tree stands after its log, oldest entry first.
type Weigh func(t Tree, log []logbook.Entry) (*Standing, error)

// keep writes a tree's standing over the one before.
func keep(ctx context.Context, tx *sqlx.Tx, t Tree, st *Standing) error {
	names := st.Candidates
	if names == nil {
		names = Names{}
	}
	candidates, err := json.Marshal(names)
	if err != nil {
		return err
	}
	_, err = tx.ExecContext(ctx, `INSERT OR REPLACE INTO standing (tree_id, tag, region, tract, stand, `+standingColumns+`) VALUES
		(?,?,?,?,?, ?,?,?,?,?,?,?,?,?, ?,?,?,?,?,?,?,?,?,?,?,?,?, ?,?,?,?,?,?,?,?,?,?,?,?)`,
		t.ID, t.Tag, cmp.Or(st.Pool, t.Region), t.Tract, t.Stand, st.Basis, st.Status, st.NamedRank, st.Named, st.NamedWords, st.NamedPosterior, st.Leader, st.LeaderShare, st.Second,
		st.GivenRank, st.Given, st.GivenBy, st.GivenAt, st.GivenPosterior, st.Doubt, st.Doubts, st.Looks, st.Scores, st.Last,
		st.Age, st.Vigour, st.Remarks, st.DBH, st.Area, st.Height, st.Lon, st.Lat,
		st.NextCharacter, st.NextFrom, st.NextReach, st.NextBits, st.NextSeconds, string(candidates), st.Aside)
	if err != nil {
		return fmt.Errorf("keeping the standing: %w", err)
	}
	return keepShares(ctx, tx, t, st)
}

func keepShares(ctx context.Context, tx *sqlx.Tx, t Tree, st *Standing) error {
	if _, err := tx.ExecContext(ctx, "DELETE FROM share WHERE tree_id = ?", t.ID); err != nil || st.Aside || len(st.Shares) == 0 {
		return err
	}
	var args []any
	for _, s := range st.Shares {
		args = append(args, t.ID, s.Taxon, t.Tract, t.Stand, s.P, st.Area, st.Status == "named" && st.Given == s.Taxon)
	}
	rows := strings.TrimSuffix(strings.Repeat("(?,?,?,?,?,?,?),", len(st.Shares)), ",")
	_, err := tx.ExecContext(ctx, "INSERT INTO share (tree_id, taxon, tract, stand, p, area_m2, determined) VALUES "+rows, args...)
	return err
}

// weighIn works a tree's standing out again, in the transaction that changed it.
func weighIn(ctx context.Context, tx *sqlx.Tx, t Tree, weigh Weigh) error {
	log, err := entries(ctx, tx, t.ID)
	if err != nil {
		return err
	}
	st, err := weigh(t, log)
	if err != nil {
		return err
	}
	return keep(ctx, tx, t, st)
}

// stalePage is how many trees are weighed in one transaction.
const stalePage = 200

// WeighStale works out the standings that are missing or of another basis than
// that of what they are ranked among, a page of trees at a time, and says after
// each how many are done and left.
func (s *Store) WeighStale(ctx context.Context, basisOf map[string]string, weigh Weigh, progress func(done, left int)) error {
	cases, args := "", []any{}
	for pool, basis := range basisOf {
		cases, args = cases+" WHEN ? THEN ?", append(args, pool, basis)
	}
	stale := " FROM tree LEFT JOIN standing ON standing.tree_id = tree.id WHERE standing.basis IS NOT CASE standing.region" + cases + " ELSE '' END"
	var left int
	if err := s.read.GetContext(ctx, &left, "SELECT count(*)"+stale, args...); err != nil {
		return fmt.Errorf("counting standings: %w", err)
	}
	for done := 0; left > 0; {
		var page []string
		if err := s.read.SelectContext(ctx, &page, "SELECT tree.id"+stale+" LIMIT ?", append(args, stalePage)...); err != nil {
			return fmt.Errorf("listing standings: %w", err)
		}
		if len(page) == 0 {
			break
		}
		if err := s.weighPage(ctx, page, weigh); err != nil {
			return err
		}
		done, left = done+len(page), max(0, left-len(page))
		progress(done, left)
	}
	return nil
}

func (s *Store) weighPage(ctx context.Context, ids []string, weigh Weigh) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		for _, id := range ids {
			t, err := tree(ctx, tx, id)
			if err != nil {
				return err
			}
			if err := weighIn(ctx, tx, t, weigh); err != nil {
				return fmt.Errorf("tree %s: %w", t.Tag, err)
			}
		}
		return nil
	})
}

// Sums adds up the trees of a stand, a tract or the book by taxon, and gives how
// many they are and their basal area in square metres.
func (s *Store) Sums(ctx context.Context, tract, stand string) (n int, area float64, sums []composition.Sums, err error) {
	where, args := (&Query{Tract: tract, Stand: stand}).where()
	var total struct {
		N    int     `db:"n"`
		Area float64 `db:"area"`
	}
	err = s.read.GetContext(ctx, &total, "SELECT count(*) AS n, coalesce(sum(area_m2), 0) AS area FROM standing WHERE "+where, args...)
	if err != nil {
		return 0, 0, nil, fmt.Errorf("adding up trees: %w", err)
	}
	where = strings.Replace(where, "aside = 0", "true", 1) // what is aside has no shares
	err = s.read.SelectContext(ctx, &sums, `SELECT taxon, sum(p) AS p, sum(p * (1 - p)) AS pq,
		sum(p * (1 - p) * (1 - 2 * p)) AS skew, sum(area_m2 * p) AS area, sum(area_m2 * area_m2 * p * (1 - p)) AS area_pq,
		sum(determined) AS determined FROM share WHERE `+where+" GROUP BY taxon", args...)
	if err != nil {
		return 0, 0, nil, fmt.Errorf("adding up taxa: %w", err)
	}
	return total.N, total.Area, sums, nil
}

// Standing gives where a tree stands, or [ErrNoTree].
func (s *Store) Standing(ctx context.Context, id string) (*Standing, error) {
	var st Standing
	err := s.read.GetContext(ctx, &st, "SELECT "+standingColumns+" FROM standing WHERE tree_id = ?", id)
	return &st, noRow(err, ErrNoTree)
}

// StandCounts gives how many other trees a tree's stand holds that say something
// of what grows there, and their expected number by taxon.
func (s *Store) StandCounts(ctx context.Context, t Tree) (n int, counts map[string]float64, err error) {
	const others = " FROM standing WHERE aside = 0 AND tract = ? AND stand = ? AND tree_id <> ? AND scores > 0"
	if err := s.read.GetContext(ctx, &n, "SELECT count(*)"+others, t.Tract, t.Stand, t.ID); err != nil {
		return 0, nil, fmt.Errorf("counting a stand: %w", err)
	}
	var shares []TaxonShare
	err = s.read.SelectContext(ctx, &shares, `SELECT taxon, sum(p) AS p FROM share WHERE tract = ? AND stand = ?
		AND tree_id IN (SELECT tree_id`+others+") GROUP BY taxon", t.Tract, t.Stand, t.Tract, t.Stand, t.ID)
	if err != nil {
		return 0, nil, fmt.Errorf("counting a stand's taxa: %w", err)
	}
	counts = map[string]float64{}
	for _, sh := range shares {
		counts[sh.Taxon] = sh.P
	}
	return n, counts, nil
}
