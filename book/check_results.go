package book

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"slices"

	"palethicket/core/exchange"
	"palethicket/core/flora"
	"palethicket/core/stand/agreement"
	"palethicket/core/stand/cruise"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/ranking"
	"palethicket/store"
)

// checked is what came of a check, as it is kept: names and counts, from which all else is worked
// out when it is asked.
type checked struct {
	Pairs      []cruise.Pair   `json:"pairs"`
	Characters []cruise.Scored `json:"characters"`
	Refused    []string        `json:"refused"` // why entries did not join
}

func checkedOf(kept *store.CheckCruise) (*checked, error) {
	if kept.Came == nil {
		return nil, ErrNoCheck
	}
	c := &checked{}
	if err := json.Unmarshal([]byte(*kept.Came), c); err != nil {
		return nil, fmt.Errorf("reading what came of check cruise %s: %w", kept.ID, err)
	}
	return c, nil
}

func (c *checked) named() (n int) {
	for _, p := range c.Pairs {
		if p.Second.Name != "" {
			n++
		}
	}
	return n
}

// pairOf is what others and the checker named a tree.
func pairOf(t CheckTree, was, made *logbook.Log, plan *CheckPlan) cruise.Pair {
	p := cruise.Pair{Tree: t.ID, Tag: t.Tag, Tract: t.Tract, Stand: t.Stand, Others: []cruise.Named{}}
	last := map[string]cruise.Named{}
	var people []string
	for _, n := range was.Names {
		if n.Back || n.Rank == logbook.Undetermined || AccountKey(n.By) == AccountKey(plan.Checker) {
			continue
		}
		if _, had := last[n.By]; !had {
			people = append(people, n.By)
		}
		p.First = cruise.Named{By: n.By, Rank: n.Rank, Name: n.Name, P: n.Posterior}
		last[n.By] = p.First
	}
	for _, name := range people {
		p.Others = append(p.Others, last[name])
	}
	if n := made.Name(); n != nil && n.Rank != logbook.Undetermined {
		p.Second = cruise.Named{By: plan.Checker, Rank: n.Rank, Name: n.Name, P: n.Posterior}
	}
	return p
}

// countSame counts the characters that others and the checker both scored of a tree.
func countSame(of map[string]*cruise.Scored, was, made *sheet, checker string) {
	others := seen(was.log, func(by string) bool { return AccountKey(by) != AccountKey(checker) })
	for id, second := range seen(made.log, func(string) bool { return true }) {
		first, both := others[id]
		c := was.flora.Character(id)
		if !both || c == nil {
			continue
		}
		if of[id] == nil {
			of[id] = &cruise.Scored{Character: id}
		}
		of[id].Of++
		if sameScore(c, &first, &second) {
			of[id].Same++
		}
	}
}

// within is how far two measures of one thing may be apart to count as the same (common
// practice: a tenth).
const within = 0.1

// sameScore says whether two scores of a character say the same: states that could be one,
// counts with the same outcome, measures within a tenth.
func sameScore(c *flora.Character, a, b *logbook.Score) bool {
	switch {
	case a.Value != nil && b.Value != nil:
		x, y := float64(*a.Value), float64(*b.Value)
		return math.Abs(x-y) <= within*max(math.Abs(x), math.Abs(y))
	case a.Seen != nil && b.Seen != nil:
		return *a.Seen == *b.Seen
	case c.Kind == evidence.Tally && a.Pairs != nil && b.Pairs != nil:
		return answer.CountedState(c, *a.Pairs) == answer.CountedState(c, *b.Pairs)
	}
	return slices.ContainsFunc(a.States, func(s string) bool { return slices.Contains(b.States, s) })
}

// labels says what names are called at each rank.
func (s *shelf) labels(n cruise.Named, rank string) string {
	if s.flora.Taxon(n.Name) != nil && n.Rank == "species" {
		return answer.Label(s.flora.Taxon(n.Name), ranking.Rank(rank))
	}
	order := []string{"species", "group", "genus", "family"}
	if slices.Index(order, rank) < slices.Index(order, n.Rank) {
		return ""
	}
	for i := range s.flora.Taxa {
		if t := &s.flora.Taxa[i]; answer.Label(t, ranking.Rank(n.Rank)) == n.Name {
			return answer.Label(t, ranking.Rank(rank))
		}
	}
	return ""
}

// ShareIn is how many of how many were so, with its 95 % interval by Wilson.
type ShareIn struct {
	N    int     `json:"n"`
	Of   int     `json:"of"`
	P    float64 `json:"p" doc:"0 where there is nothing"`
	From float64 `json:"from"`
	To   float64 `json:"to"`
}

func shareIn(s agreement.Share) ShareIn {
	if s.Of == 0 {
		return ShareIn{To: 1}
	}
	return ShareIn(s)
}

// CheckResults are what a check says.
type CheckResults struct {
	CheckCruise
	ByRank     []CheckRank      `json:"by_rank"`
	Called     []CheckCalled    `json:"called" doc:"How often each first and second name were given together, the most frequent first"`
	Characters []CheckCharacter `json:"characters" doc:"How often two people scored the same, the least often first"`
	Observers  []CheckObserver  `json:"observers"`
	Trees      []CheckPair      `json:"trees" doc:"Those that the two name otherwise first"`
	Refused    []string         `json:"refused" doc:"Why some of what was entered did not join the book"`
	Says       []string         `json:"says" doc:"The same, in words"`
}

// CheckRank is the agreement at a rank.
type CheckRank struct {
	Rank   string  `json:"rank"`
	Share  ShareIn `json:"share"`
	Kappa  float64 `json:"kappa" doc:"Cohen's; 0 where why says that there is none"`
	SE     float64 `json:"se" doc:"Its standard error (Fleiss, Cohen & Everitt 1969)"`
	From   float64 `json:"from" doc:"Lower end of its 95 % interval"`
	To     float64 `json:"to"`
	Why    string  `json:"why,omitempty" doc:"Why there is no kappa"`
	Wanted float64 `json:"wanted" doc:"What national inventories ask for; 0: nothing"`
	Meets  string  `json:"meets" doc:"Whether it is reached, in words"`
}

// CheckCalled is how often the first called one thing what the checker called another.
type CheckCalled struct {
	First  string `json:"first"`
	Second string `json:"second"`
	N      int    `json:"n"`
	Same   bool   `json:"same"`
}

// CheckCharacter is how often two people scored a character the same.
type CheckCharacter struct {
	Character string  `json:"character"`
	Words     string  `json:"words"`
	Share     ShareIn `json:"share"`
}

// CheckObserver is what somebody's names are worth.
type CheckObserver struct {
	Name  string  `json:"name"`
	Trees int     `json:"trees"`
	Wrong float64 `json:"wrong" doc:"Chance that a genus they name is another, by what all named"`
}

// CheckPair is a tree as the two named it.
type CheckPair struct {
	CheckTree
	First   string `json:"first"`
	FirstBy string `json:"first_by"`
	Second  string `json:"second" doc:"Empty: the checker did not name it"`
	How     string `json:"how" enum:"other,coarser,same,unnamed" doc:"coarser: both may be true, one goes farther"`
}

// wantedOf is the quality that national inventories ask of names: the species right 95 times
// in 100, the genus 99 (from memory; not held against any one's handbook).
var wantedOf = map[string]float64{"species": 0.95, "genus": 0.99}

// CheckResults gives what a finished check says.
func (b *Book) CheckResults(ctx context.Context, id string) (*CheckResults, error) {
	kept, err := b.store.CheckCruise(ctx, id)
	if err != nil {
		return nil, err
	}
	came, err := checkedOf(&kept)
	if err != nil {
		return nil, err
	}
	c, err := b.checkOf(ctx, &kept)
	if err != nil {
		return nil, err
	}
	sh := b.shelf.Load()
	r := cruise.ResultsOf(came.Pairs, sh.labels)
	out := &CheckResults{CheckCruise: *c, Called: []CheckCalled{}, Characters: []CheckCharacter{}, Refused: listed(came.Refused)}
	for _, at := range r.ByRank {
		out.ByRank = append(out.ByRank, checkRank(at))
	}
	for _, cell := range r.Cells {
		out.Called = append(out.Called, CheckCalled{cell.First, cell.Second, cell.N, cell.First == cell.Second})
	}
	for _, s := range came.Characters {
		words := s.Character
		if ch := sh.flora.Character(s.Character); ch != nil {
			words = flora.UpperFirst(ch.Name)
		}
		out.Characters = append(out.Characters, CheckCharacter{s.Character, words, shareIn(agreement.ShareOf(s.Same, s.Of))})
	}
	slices.SortStableFunc(out.Characters, func(a, b CheckCharacter) int { return cmp.Compare(a.Share.P, b.Share.P) })
	out.Observers = each(r.Observers, func(o cruise.Observer) CheckObserver { return CheckObserver(o) })
	out.Trees = sh.checkPairs(came.Pairs)
	out.Says = checkWords(r)
	return out, nil
}

func checkRank(at cruise.AtRank) CheckRank {
	out := CheckRank{Rank: at.Rank, Share: shareIn(at.Share), Wanted: wantedOf[at.Rank]}
	if at.Why != nil {
		out.Why = at.Why.Error()
	} else {
		out.Kappa, out.SE = at.Kappa.Kappa, at.Kappa.SE
		out.From, out.To = at.Kappa.Interval()
	}
	switch s := out.Share; {
	case out.Wanted == 0 || s.Of == 0:
	case s.From >= out.Wanted:
		out.Meets = "reached"
	case s.To < out.Wanted:
		out.Meets = "not reached"
	default:
		out.Meets = "these trees do not tell"
	}
	return out
}

// checkPairs are the trees, those that are named otherwise first.
func (s *shelf) checkPairs(pairs []cruise.Pair) []CheckPair {
	out := []CheckPair{}
	for _, p := range pairs {
		c := CheckPair{
			CheckTree: CheckTree{p.Tree, p.Tag, p.Tract, p.Stand},
			First:     s.nameWords(p.First.Rank, p.First.Name),
			FirstBy:   p.First.By,
			How:       "unnamed",
		}
		if p.Second.Name != "" {
			c.Second = s.nameWords(p.Second.Rank, p.Second.Name)
			c.How = s.together(p.First, p.Second)
		}
		out = append(out, c)
	}
	slices.SortStableFunc(out, func(a, b CheckPair) int {
		return slices.Index(pairOrder, a.How) - slices.Index(pairOrder, b.How)
	})
	return out
}

var pairOrder = []string{"other", "coarser", "same", "unnamed"}

// together says how two names of a tree go together.
func (s *shelf) together(a, b cruise.Named) string {
	order := []string{"species", "group", "genus", "family"}
	coarser := order[max(slices.Index(order, a.Rank), slices.Index(order, b.Rank))]
	switch {
	case a.Rank == b.Rank && a.Name == b.Name:
		return "same"
	case a.Rank != b.Rank && s.labels(a, coarser) == s.labels(b, coarser):
		return "coarser"
	}
	return "other"
}

// checkWords say the main of it.
func checkWords(r *cruise.Results) []string {
	out := []string{fmt.Sprintf("%d of %d trees were named again.", r.Named, r.Planned)}
	if r.Named == 0 {
		return append(out, "Nothing can be said of how far the names agree.")
	}
	for _, at := range r.ByRank {
		if at.Share.Of == 0 {
			continue
		}
		out = append(out, fmt.Sprintf("%s: the same %d times in %d, %.0f %% (%.0f to %.0f %%, at 95 %%).", flora.UpperFirst(at.Rank), at.Share.N,
			at.Share.Of, 100*at.Share.P, 100*at.Share.From, 100*at.Share.To))
	}
	if s := r.Several; s != nil && s.Why == nil {
		out = append(
			out,
			fmt.Sprintf("%d trees were named by %d people: Fleiss's kappa of the genus is %.2f (1 is whole agreement, 0 what chance gives).",
				s.Trees, s.People, s.Kappa.Kappa),
		)
	}
	if r.Named < r.Planned {
		out = append(out, "Trees that the checker left without a name are in none of the shares; if they are the hard ones, the shares flatter.")
	}
	return out
}

// WriteCheckTable writes the trees of a check as CSV.
func WriteCheckTable(w io.Writer, r *CheckResults) error {
	rows := [][]string{{"tag", "tract", "stand", "first", "first_by", "second", "second_by", "how"}}
	for _, t := range r.Trees {
		rows = append(rows, []string{t.Tag, t.Tract, t.Stand, t.First, t.FirstBy, t.Second, r.Plan.Checker, t.How})
	}
	return exchange.WriteTable(w, rows)
}
