package accuracy

import (
	"cmp"
	"fmt"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/tree/answer"
	"palethicket/core/weigh/ranking"
)

// Without is how specimens came out with their own tree off the list: whatever species
// they are called is wrong.
type Without struct {
	Cases    int
	Wrong    int // named to a species, or a group that is not theirs
	Coarse   int // named right, no further than the group, genus or family
	Probably int // said to be probably some species
	Stray    int // said to be perhaps a member that is not listed of their genus
	Astray   int // of another genus
	Unlisted int // said not to be on the list, or that it may not be
	NotYet   int // nothing is said of the name
}

// JudgeWithout answers the cases among all trees of their regions but their own.
func JudgeWithout(f *flora.Flora, cases []Case) (*Without, error) {
	out := &Without{}
	for _, c := range cases {
		if err := out.judge(f, c); err != nil {
			return nil, fmt.Errorf("case %s without its tree: %w", c.ID, err)
		}
	}
	return out, nil
}

func (w *Without) judge(f *flora.Flora, c Case) error {
	region := cmp.Or(c.Region, f.HomeRegion())
	rest := f.RegionList(region)
	rest.Name = "without"
	delete(rest.Abundance, c.Tree)
	among, err := f.With(rest)
	if err != nil {
		return err
	}
	rec, err := c.record(among)
	if err != nil {
		return err
	}
	rec.List = rest.Name
	res, err := answer.NewEngine(among).Identify(rec, answer.Options{})
	if err != nil {
		return err
	}
	w.count(f.Taxon(c.Tree), res)
	return nil
}

func (w *Without) count(t *flora.Taxon, res *answer.Result) {
	w.Cases++
	label := answer.Label(t, res.Named.Rank)
	switch {
	case label != "" && label == res.Named.Name:
		w.Coarse++
	case res.Named.Name != "":
		w.Wrong++
	}
	switch words := res.Named.Words; {
	case strings.Contains(words, "perhaps"):
		if strings.Contains(words, t.GenusEnglish) {
			w.Stray++
		} else {
			w.Astray++
		}
	case strings.Contains(words, "listed"):
		w.Unlisted++
	case res.Probably.Rank == ranking.Species:
		w.Probably++
	case words == answer.NotYetWords:
		w.NotYet++
	}
}
