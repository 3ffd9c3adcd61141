package names

import (
	"cmp"
	"slices"
	"strings"

	"palethicket/core/flora"
)

// Term is a name of some rank: species, group, genus or family.
type Term struct {
	Rank, Name string
	Words      string // what it is called in the region, and its scientific name
	calls      []string
	share      float64 // of the wood, of its commonest tree: for the order
}

// Meant gives what somebody may mean by a name who speaks of the trees of a region or list, the
// likeliest first. clear says that it can only be the first: there it is the name of that alone.
// Where nothing is called so they are what is spelled most like it.
func Meant(f *flora.Flora, among flora.Among, query string) (terms []Term, clear bool, err error) {
	pool, err := f.Pool(flora.PoolKey{Among: among, Age: flora.At(flora.AnyAge)})
	if err != nil {
		return nil, false, err
	}
	q := plain(query)
	if q == "" {
		return nil, false, nil
	}
	var by [none][]Term
	for _, t := range termsOf(pool) {
		best := none
		for _, call := range t.calls {
			best = min(best, match(q, plain(call)))
		}
		if best < none {
			by[best] = append(by[best], t)
		}
	}
	for _, found := range by {
		slices.SortStableFunc(found, func(a, b Term) int { return cmp.Compare(b.share, a.share) })
	}
	if len(by[same])+len(by[words])+len(by[part]) == 0 {
		return by[similar], false, nil
	}
	species := slices.DeleteFunc(slices.Clone(by[same]), func(t Term) bool { return t.Rank != "species" })
	clear = len(by[same]) == 1 || len(species) == 1
	if len(species) == 1 { // a beech is the beech of the region, before it is any
		by[same] = append(species, slices.DeleteFunc(by[same], func(t Term) bool { return t.Name == species[0].Name })...)
	}
	return slices.Concat(by[same], by[words], by[part]), clear, nil
}

// termsOf are the names of every rank that the trees of a pool have.
func termsOf(pool *flora.Pool) (terms []Term) {
	at := map[[2]string]int{}
	put := func(rank, name, words string, share float64, calls ...string) {
		if name == "" {
			return
		}
		i, ok := at[[2]string{rank, name}]
		if !ok {
			i = len(terms)
			at[[2]string{rank, name}], terms = i, append(terms, Term{Rank: rank, Name: name, Words: words, calls: calls})
		}
		terms[i].share = max(terms[i].share, share)
	}
	for i, t := range pool.Taxa {
		english := t.NamesIn[pool.Region]
		if english == nil {
			english = t.English
		}
		share := pool.Model.Share()[i]
		put("species", t.Name, flora.UpperFirst(pool.Called(i))+" ("+t.Name+")", share, slices.Concat(english, t.Also, []string{t.Name})...)
		put("group", t.Group, t.Group+", of some kind", share, t.Group, strings.TrimSuffix(t.Group, "s"))
		put("genus", t.Genus, flora.UpperFirst(t.GenusEnglish)+" of some kind ("+t.Genus+")", share, t.Genus, t.GenusEnglish, t.GenusEnglish+"s",
			t.GenusEnglish+" of some kind")
		put("family", t.Family, "The family "+t.Family, share, t.Family)
	}
	return terms
}
