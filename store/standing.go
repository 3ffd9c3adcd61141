package store

import (
	"cmp"
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
)

// Standing is where a tree stands, worked out from its log and kept beside it so
// that lists, maps and sums need not rank. It can always be worked out again.
type Standing struct {
	Basis             string  `db:"basis"`  // what it was worked out from beside the log
	Region            string  `db:"region"` // whose trees it is ranked among
	List              string  `db:"list"`   // and in it a list; empty: the whole region
	Status            string  `db:"status"`
	NamedRank         string  `db:"named_rank"` // how far the evidence carries a name now
	Named             string  `db:"named"`
	NamedWords        string  `db:"named_words"`
	NamedPosterior    float64 `db:"named_posterior"`
	ProbableRank      string  `db:"probable_rank"` // what it probably is, finer than that
	Probable          string  `db:"probable"`
	ProbablePosterior float64 `db:"probable_posterior"`
	Leader            string  `db:"leader"`
	LeaderPosterior   float64 `db:"leader_posterior"`
	Second            string  `db:"second"`
	GivenRank         string  `db:"given_rank"` // of the name written down last; empty: none is
	Given             string  `db:"given"`
	GivenBy           string  `db:"given_by"`
	GivenAt           string  `db:"given_at"`
	GivenPosterior    float64 `db:"given_posterior"` // what the evidence gave the name then
	GivenNow          float64 `db:"given_now"`       // what it gives it now; 0: nothing was scored, or it is none of the trees listed
	GivenStep         string  `db:"given_step"`      // how sure the evidence makes that name now
	GivenSeen         string  `db:"given_seen"`      // what confirms it: leaf, flower or fruit
	Doubt             string  `db:"doubt"`           // why the evidence does not carry that name, or why the tree cannot be read
	Doubts            int     `db:"doubts"`          // looks that probably are of another tree
	Looks             int     `db:"looks"`
	Scores            int     `db:"scores"`
	Last              string  `db:"last"` // when the last entry was made
	Age               string  `db:"age"`
	Vigour            string  `db:"vigour"`
	Remarks           string  `db:"remarks"`
	DBH               float64 `db:"dbh_cm"`  // 0: not measured
	Area              float64 `db:"area_m2"` // basal area
	Height            float64 `db:"height_m"`

	Lon *float64 `db:"lon"`
	Lat *float64 `db:"lat"`

	NextCharacter string  `db:"next_character"` // the look worth most; empty: none is
	NextFrom      string  `db:"next_from"`
	NextReach     string  `db:"next_reach"`
	NextBits      float64 `db:"next_bits"`
	NextSeconds   int     `db:"next_seconds"`
	Candidates    Names   `db:"candidates"` // taxa still in it, best first
	Aside         bool    `db:"aside"`

	Posteriors Posteriors `db:"-"` // those that still count
	Common     *Common    `db:"-"` // the same, where many trees have them in common
	Alike      string     `db:"-"` // digest of all that was scored, where many trees have the same; else empty
	Fresh      bool       `db:"-"` // the tree is new in this change: there is no standing to put it over
}

// Posteriors are a tree's chances of being each taxon.
type Posteriors map[string]float64

// Common are posteriors that many trees have in common, kept once for all of them.
type Common struct{ body, digest string }

// InCommon makes posteriors common.
func InCommon(p Posteriors) (*Common, error) {
	body, err := json.Marshal(p)
	if err != nil {
		return nil, fmt.Errorf("writing posteriors: %w", err)
	}
	sum := sha256.Sum256(body)
	return &Common{string(body), hex.EncodeToString(sum[:16])}, nil
}

// Names is a list of names that SQL keeps as JSON.
type Names []string

// written is the list as a column has it.
func (n Names) written() (string, error) {
	if n == nil {
		n = Names{}
	}
	text, err := json.Marshal([]string(n))
	return string(text), err
}

// Scan reads the names from a column.
func (n *Names) Scan(src any) error {
	text, ok := src.(string)
	if !ok {
		return fmt.Errorf("names are %T, want text", src)
	}
	return json.Unmarshal([]byte(text), n)
}

// standingColumns are the columns of the table, in the order of [Standing].
const standingColumns = `basis, region, list, status, named_rank, named, named_words, named_posterior,
	probable_rank, probable, probable_posterior, leader, leader_posterior, second,
	given_rank, given, given_by, given_at, given_posterior, given_now, given_step, given_seen, doubt, doubts, looks, scores,
	last, age, vigour, remarks,
	dbh_cm, area_m2, height_m, lon, lat, next_character, next_from, next_reach, next_bits, next_seconds, candidates, aside`

// KeepStanding writes a tree's standing over the one before. It gives [ErrChanged]
// where the tree is no longer as it was when the standing was worked out, going by
// its version.
func (t *Tx) KeepStanding(ctx context.Context, tree *Tree, st *Standing) error {
	if !st.Fresh {
		if now, err := t.Version(ctx, tree.ID); err != nil || now != tree.Version {
			return cmp.Or(err, ErrChanged)
		}
	}
	candidates, err := st.Candidates.written()
	if err != nil {
		return err
	}
	profile, err := t.profileOf(ctx, st)
	if err != nil {
		return fmt.Errorf("keeping the standing of tree %s: %w", tree.Tag, err)
	}
	err = t.exec(ctx, `INSERT OR REPLACE INTO standing
		(tree_id, tag, tract, stand, `+standingColumns+`, profile, find, unscored, alike) VALUES
		(?,?,?,?,?,?,?, ?,?,?,?,?,?,?,?,?,?,?,?,?, ?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?, ?,?,?,?,?,?,?,?,?,?,?,?,?)`,
		tree.ID, tree.Tag, tree.Tract, tree.Stand,
		st.Basis, st.Region, st.List, st.Status, st.NamedRank, st.Named, st.NamedWords, st.NamedPosterior,
		st.ProbableRank, st.Probable, st.ProbablePosterior, st.Leader, st.LeaderPosterior, st.Second,
		st.GivenRank, st.Given, st.GivenBy, st.GivenAt, st.GivenPosterior, st.GivenNow, st.GivenStep, st.GivenSeen, st.Doubt, st.Doubts,
		st.Looks, st.Scores, st.Last, st.Age, st.Vigour, st.Remarks,
		st.DBH, st.Area, st.Height, st.Lon, st.Lat,
		st.NextCharacter, st.NextFrom, st.NextReach, st.NextBits, st.NextSeconds, candidates, st.Aside, profile,
		strings.ToLower(tree.Tag+"\n"+st.Remarks), st.Scores == 0, maybe(st.Alike))
	if err != nil {
		return fmt.Errorf("keeping the standing of tree %s: %w", tree.Tag, err)
	}
	_, stand, err := t.standOf(ctx, tree.Tract, tree.Stand)
	if err != nil {
		return err
	}
	t.touched[stand] = true
	return t.keepPosteriors(ctx, tree, st)
}

// profileOf finds the posteriors that a tree has in common with others, or keeps
// them; nil for a tree that has its own.
func (t *Tx) profileOf(ctx context.Context, st *Standing) (*int, error) {
	if st.Common == nil || st.Aside {
		return nil, nil
	}
	if id, ok := t.profiles[st.Common.digest]; ok {
		return &id, nil
	}
	var id int
	err := t.get(ctx, &id, "SELECT id FROM profile WHERE digest = ?", st.Common.digest)
	if errors.Is(err, sql.ErrNoRows) {
		err = t.exec(ctx, "INSERT INTO profile (digest, body) VALUES (?, ?)", st.Common.digest, st.Common.body)
		if err == nil {
			err = t.get(ctx, &id, "SELECT id FROM profile WHERE digest = ?", st.Common.digest)
		}
	}
	if err != nil {
		return nil, err
	}
	t.profiles[st.Common.digest] = id
	return &id, nil
}

func (t *Tx) keepPosteriors(ctx context.Context, tree *Tree, st *Standing) error {
	if st.Aside || st.Common != nil || len(st.Posteriors) == 0 {
		if st.Fresh {
			return nil
		}
		return t.exec(ctx, "DELETE FROM posterior WHERE tree_id = ?", tree.ID)
	}
	body, err := json.Marshal(st.Posteriors)
	if err != nil {
		return err
	}
	return t.exec(ctx, "INSERT OR REPLACE INTO posterior (tree_id, body) VALUES (?, ?)", tree.ID, string(body))
}

// Basis says what standings are worked out from, beside the log, for trees that are
// ranked among a region or list.
type Basis struct {
	Region, List string
	Digest       string
}

// stale is what is common to asking for trees whose standing is missing or of another
// basis than that of what they are ranked among.
func stale(basis []Basis) (clause string, args []any) {
	cases := ""
	for _, b := range basis {
		cases, args = cases+" WHEN standing.region = ? AND standing.list = ? THEN ?", append(args, b.Region, b.List, b.Digest)
	}
	return " FROM tree LEFT JOIN standing ON standing.tree_id = tree.id WHERE standing.basis IS NOT CASE" + cases + " ELSE '' END", args
}

// CountStale counts them.
func (r Reader) CountStale(ctx context.Context, basis []Basis) (n int, err error) {
	clause, args := stale(basis)
	if err := r.get(ctx, &n, "SELECT count(*)"+clause, args...); err != nil {
		return 0, fmt.Errorf("counting standings: %w", err)
	}
	return n, nil
}

// Stale lists them, at most as many as asked for and after a tree id.
func (r Reader) Stale(ctx context.Context, basis []Basis, after string, most int) (ids []string, err error) {
	clause, args := stale(basis)
	err = r.all(ctx, &ids, "SELECT tree.id"+clause+" AND tree.id > ? ORDER BY tree.id LIMIT ?", append(args, after, most)...)
	if err != nil {
		return nil, fmt.Errorf("listing standings: %w", err)
	}
	return ids, nil
}

// Standing gives where a tree stands, or [ErrNoTree].
func (r Reader) Standing(ctx context.Context, id string) (*Standing, error) {
	var st Standing
	err := r.get(ctx, &st, "SELECT "+standingColumns+" FROM standing WHERE tree_id = ?", id)
	return &st, noRow(err, ErrNoTree)
}
