package accuracy

import (
	"cmp"
	"fmt"
	"maps"
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
	e, err := among(f, cmp.Or(c.Region, f.HomeRegion()), func(taxon string) bool { return taxon != c.Tree })
	if err != nil {
		return err
	}
	_, res, err := judge(e, c, some)
	if err != nil {
		return err
	}
	w.count(f.Taxon(c.Tree), res)
	return nil
}

// some is the name of a list of some of a region's trees.
const some = "some"

// among makes an engine for a list of those trees of a region that are kept, as common as
// they are there.
func among(f *flora.Flora, region string, keep func(taxon string) bool) (*answer.Engine, error) {
	rest := f.RegionList(region)
	rest.Name = some
	maps.DeleteFunc(rest.Abundance, func(taxon, _ string) bool { return !keep(taxon) })
	with, err := f.With(rest)
	if err != nil {
		return nil, err
	}
	return answer.NewEngine(with), nil
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
