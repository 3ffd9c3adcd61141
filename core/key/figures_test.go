package key_test

import (
	"cmp"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"go.yaml.in/yaml/v3"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	"palethicket/core/key"
	"palethicket/core/proof/accuracy"
)

// TestFigures prints what docs/keys.md has: PT_KEYS=1 go test ./core/key -run Figures -v
func TestFigures(t *testing.T) {
	if os.Getenv("PT_KEYS") == "" {
		t.Skip("PT_KEYS=1 measures")
	}
	f := floratest.Shipped(t)
	for _, n := range []int{12, 30, 60, 97, 1000} {
		a := key.Asked{Among: flora.Among{Region: f.HomeRegion()}, Names: commonest(t, f, n)}
		began := time.Now()
		k := made(t, f, a)
		took := time.Since(began)
		m, err := key.Measure(t.Context(), f, k, a, 1000, 7)
		require.NoError(t, err)
		under := 0
		for _, s := range m.Taxa {
			if s.Right < 0.5 {
				under++
			}
		}
		fmt.Printf("| %d | %d (%.2f) | %.1f s | %.3f | %.2f | %.2f | %.2f | %d | %d |\n", len(k.Taxa), len(k.Couplets),
			float64(len(k.Couplets))/float64(len(k.Taxa)), took.Seconds(), m.Right, m.Single, m.Couplets, m.Couplets/m.Bits, m.Longest, under)
	}
}

// commonest are the home region's commonest trees.
func commonest(t testing.TB, f *flora.Flora, n int) (names []string) {
	t.Helper()
	p, err := f.Pool(flora.PoolKey{Among: flora.Among{Region: f.HomeRegion()}, Age: flora.At(flora.Mature)})
	require.NoError(t, err)
	for _, x := range p.Taxa {
		names = append(names, x.Name)
	}
	slices.SortStableFunc(names, func(a, b string) int {
		i, _ := p.Find(a)
		j, _ := p.Find(b)
		return int((p.Model.Share()[j] - p.Model.Share()[i]) * 1e9)
	})
	return names[:min(n, len(names))]
}

// TestHandbook walks the accounts of handbooks through a key, as docs/keys.md has it: of the couplets that an account answers, how
// many lead on to its tree: go test ./core/key -run Handbook -v
func TestHandbook(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	home := flora.Among{Region: f.HomeRegion()}
	file, err := accuracy.Shipped.Open("testdata/handbook.yaml")
	require.NoError(t, err)
	cases, err := accuracy.ReadCases(file)
	require.NoError(t, err)
	k := made(t, f, key.Asked{Among: home, Names: asked(t, f)})
	walked, answered, onward, right := 0, 0, 0, 0
	for _, c := range cases {
		if c.Region != home.Region || !slices.Contains(k.Taxa, c.Tree) {
			continue
		}
		walked++
		said := 0
		read := func(id string) (key.Answer, bool) {
			a, ok := accountOf(t, f, &c, id)
			if ok {
				said++
			}
			return a, ok
		}
		for at := 1; at > 0; {
			said = 0
			lead := k.Couplets[at-1].Follow(read)
			on := slices.Contains(below(k, lead), c.Tree)
			if said > 0 {
				answered++
				if on {
					onward++
				}
			}
			if !on && said == 0 { // the account says nothing here: somebody at the tree would see it
				i := slices.IndexFunc(k.Couplets[at-1].Leads[:], func(l key.Lead) bool { return slices.Contains(below(k, &l), c.Tree) })
				if i < 0 {
					break
				}
				lead = &k.Couplets[at-1].Leads[i]
			}
			if at = lead.To; at == 0 && slices.Contains(lead.Ends.Taxa, c.Tree) {
				right++
			}
		}
	}
	t.Logf("%d accounts: %d of %d couplets that they answer lead on to the tree; %d come out right", walked, onward, answered, right)
	require.Greater(t, walked, 20)
	require.Greater(t, float64(onward), 0.9*float64(answered))
}

// below are the trees that come out of a lead.
func below(k *key.Key, l *key.Lead) (out []string) {
	if l.Ends != nil {
		return l.Ends.Taxa
	}
	for i := range k.Couplets[l.To-1].Leads {
		out = append(out, below(k, &k.Couplets[l.To-1].Leads[i])...)
	}
	return out
}

// accountOf is what an account says of a character; false: nothing. A tree of which nothing green is said is bare.
func accountOf(t *testing.T, f *flora.Flora, c *accuracy.Case, id string) (key.Answer, bool) {
	t.Helper()
	if id == "needle.kept" && !strings.Contains(fmt.Sprint(c.Looks), "needle.") {
		return key.Answer{State: cmp.Or(c.Foliage, "bare")}, true
	}
	for _, look := range c.Looks {
		node, ok := look[id]
		if !ok || node.Kind == yaml.MappingNode { // counted, or with words beside
			continue
		}
		var a key.Answer
		switch ch := f.Character(id); {
		case len(ch.States) > 0:
			var states []string
			if node.Decode(&states) == nil && len(states) > 0 {
				return key.Answer{State: states[0]}, true
			}
			require.NoError(t, node.Decode(&a.State))
		case ch.Unit != "":
			require.NoError(t, node.Decode(&a.Value))
		default:
			require.NoError(t, node.Decode(&a.Seen))
		}
		return a, true
	}
	return key.Answer{}, false
}
