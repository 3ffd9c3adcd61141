// Package names finds trees by any name that people use for them, and says
// where a name means more than one tree.
package names

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"unicode"

	"github.com/agnivade/levenshtein"

	"palethicket/core/flora"
)

// Kind says what sort of name was found.
type Kind string

// The kinds of name.
const (
	Scientific Kind = "scientific"
	Older      Kind = "older"
	English    Kind = "english"
)

// Hit is a taxon found by one of its names.
type Hit struct {
	Taxon   string   `json:"taxon"`
	English string   `json:"english" doc:"What it is usually called"`
	Name    string   `json:"name" doc:"The name it was found by"`
	Kind    Kind     `json:"kind" enum:"scientific,older,english"`
	Regions []string `json:"regions" doc:"Where that name is used for it"`
	Whole   bool     `json:"whole" doc:"The words asked for are a whole name, or whole words of one"`
}

// Found is what a search found.
type Found struct {
	Hits      []Hit  `json:"hits"`
	Ambiguous string `json:"ambiguous,omitempty" doc:"Says so where the name means several trees"`
	Rule      *Rule  `json:"rule,omitempty" doc:"A memory rule that was asked for, and whom it leaves out"`
}

// Rule is a memory rule held against the flora.
type Rule struct {
	Words   string   `json:"words"`
	LeftOut []string `json:"left_out" doc:"Taxa it should name and does not"`
	Wrong   []string `json:"wrong" doc:"Taxa it names and should not"`
}

// Index finds names in one flora. It is immutable and safe for use by several
// goroutines.
type Index struct {
	flora *flora.Flora
	names []name
}

type name struct {
	taxon   *flora.Taxon
	text    string
	plain   string
	kind    Kind
	regions []string
}

// NewIndex makes an index of all names of a flora.
func NewIndex(f *flora.Flora) *Index {
	ix := &Index{flora: f}
	for i := range f.Taxa {
		t := &f.Taxa[i]
		everywhere := slices.DeleteFunc(f.RegionIDs(), func(r string) bool { return t.Abundance[r] == "" })
		ix.add(t, t.Name, Scientific, everywhere)
		for _, older := range t.Also {
			ix.add(t, older, Older, everywhere)
		}
		own := map[string][]string{} // English name to the regions that use it
		for _, region := range everywhere {
			used := t.NamesIn[region]
			if used == nil {
				used = t.English
			}
			for _, n := range used {
				own[n] = append(own[n], region)
			}
		}
		for _, n := range t.English {
			own[n] = append(own[n], []string{}...)
		}
		for n, regions := range own {
			ix.add(t, n, English, regions)
		}
	}
	slices.SortFunc(ix.names, func(a, b name) int {
		return cmp.Or(strings.Compare(a.taxon.Name, b.taxon.Name), strings.Compare(a.plain, b.plain))
	})
	return ix
}

func (ix *Index) add(t *flora.Taxon, text string, kind Kind, regions []string) {
	ix.names = append(ix.names, name{t, text, plain(text), kind, regions})
}

// plain brings a name to lower-case words: hyphens, brackets and the sign of a
// hybrid do not count.
func plain(s string) string {
	words := strings.FieldsFunc(strings.ToLower(s), func(r rune) bool {
		return !unicode.IsLetter(r) && r != '\'' || r == '×'
	})
	return strings.Join(words, " ")
}

// How well a name matches, best first.
const (
	same    = iota // the very name
	words          // whole words of it
	part           // the beginning of one of its words
	similar        // with typing errors
	none
)

// Search finds the taxa that go by a name, the best matches first. Where a
// name was typed wrongly it finds what was nearly meant.
func (ix *Index) Search(query string) Found {
	q := plain(query)
	ans := Found{Hits: []Hit{}, Rule: ix.rule(q)}
	if q == "" {
		return ans
	}
	best := map[*flora.Taxon]int{} // taxon to the match of its hit
	at := map[*flora.Taxon]int{}   // taxon to its hit
	for i := range ix.names {
		n := &ix.names[i]
		m := match(q, n.plain)
		if m == none {
			continue
		}
		k, found := at[n.taxon]
		if found && best[n.taxon] <= m {
			continue
		}
		hit := Hit{n.taxon.Name, n.taxon.English[0], n.text, n.kind, n.regions, m <= words}
		if !found {
			at[n.taxon], k = len(ans.Hits), len(ans.Hits)
			ans.Hits = append(ans.Hits, hit)
		}
		best[n.taxon], ans.Hits[k] = m, hit
	}
	slices.SortStableFunc(ans.Hits, func(a, b Hit) int {
		m := best[ix.flora.Taxon(a.Taxon)]
		if order := cmp.Compare(m, best[ix.flora.Taxon(b.Taxon)]); order != 0 || m != similar {
			return order
		}
		return cmp.Compare(len(a.Name), len(b.Name)) // of guesses first that with least besides what was typed
	})
	if len(ans.Hits) > 0 && best[ix.flora.Taxon(ans.Hits[0].Taxon)] < similar { // well typed: leave the guesses out
		ans.Hits = slices.DeleteFunc(ans.Hits, func(h Hit) bool { return best[ix.flora.Taxon(h.Taxon)] == similar })
	}
	ans.Ambiguous = ix.ambiguous(query, ans.Hits)
	return ans
}

func match(q, n string) int {
	padded := " " + n + " "
	switch {
	case q == n:
		return same
	case strings.Contains(padded, " "+q+" ") || strings.Contains(padded, " "+q+"s "):
		return words
	case strings.Contains(padded, " "+q):
		return part
	case alike(q, n):
		return similar
	}
	return none
}

// alike allows a typing error in each word, and words that the name has besides.
func alike(q, n string) bool {
	if len(q) < 4 {
		return false
	}
	if !strings.Contains(q, " ") && near(q, strings.ReplaceAll(n, " ", "")) {
		return true
	}
	has := strings.Fields(n)
	return !slices.ContainsFunc(strings.Fields(q), func(word string) bool {
		return !slices.ContainsFunc(has, func(w string) bool {
			return w == word || len(word) >= 3 && strings.HasPrefix(w, word) || len(w) >= 3 && near(word, w)
		})
	})
}

// near allows one wrong letter in four, or two neighbours that changed places.
func near(a, b string) bool {
	return len(a) >= 4 && levenshtein.ComputeDistance(a, b) <= len(a)/4 || swapped(a, b)
}

func swapped(a, b string) bool {
	if len(a) != len(b) || len(a) < 3 {
		return false
	}
	i := 0
	for i < len(a) && a[i] == b[i] {
		i++
	}
	return i+1 < len(a) && a[i] == b[i+1] && a[i+1] == b[i] && a[i+2:] == b[i+2:]
}

// mostMeant is how many trees are spelled out that a name means.
const mostMeant = 6

// ambiguous says that a name means several trees, and which.
func (ix *Index) ambiguous(query string, hits []Hit) string {
	var trees []string
	for _, h := range hits {
		if !h.Whole || h.Kind != English {
			continue
		}
		where := make([]string, len(h.Regions))
		for i, r := range h.Regions {
			where[i] = ix.flora.RegionWords(r)
		}
		tree := h.Taxon
		if len(where) > 0 {
			tree += " (" + strings.Join(where, " and ") + ")"
		}
		trees = append(trees, tree)
	}
	if len(trees) < 2 {
		return ""
	}
	if len(trees) > mostMeant {
		return fmt.Sprintf("“%s” means %d trees. Say which.", strings.TrimSpace(query), len(trees))
	}
	return fmt.Sprintf("“%s” means %d trees: %s. Say which.", strings.TrimSpace(query), len(trees), strings.Join(trees, "; "))
}

// rule answers a question for a rule of thumb: all the words of one of its lines
// are in it.
func (ix *Index) rule(q string) *Rule {
	for i := range ix.flora.Rules {
		r := &ix.flora.Rules[i]
		if slices.ContainsFunc(r.Asked, func(line string) bool { return containsAll(q, strings.Fields(line)) }) {
			return &Rule{Words: r.Words, LeftOut: ix.of(r.LeavesOut), Wrong: r.Wrong}
		}
	}
	return nil
}

func containsAll(q string, words []string) bool {
	return !slices.ContainsFunc(words, func(w string) bool { return !strings.Contains(q, w) })
}

// of lists the taxa of some genera.
func (ix *Index) of(genera []string) []string {
	out := []string{}
	for i := range ix.flora.Taxa {
		if slices.Contains(genera, ix.flora.Taxa[i].Genus) {
			out = append(out, ix.flora.Taxa[i].Name)
		}
	}
	return out
}
