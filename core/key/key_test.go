package key_test

import (
	"context"
	"fmt"
	"os"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	"palethicket/core/key"
)

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

// asked are the trees that a key is tested on: sixty in make test, the whole region in make nightly.
func asked(t testing.TB, f *flora.Flora) []string {
	t.Helper()
	if testing.Short() {
		return commonest(t, f, 60)
	}
	return nil
}

func made(t testing.TB, f *flora.Flora, a key.Asked) *key.Key {
	t.Helper()
	k, err := key.New(t.Context(), f, a)
	require.NoError(t, err)
	sound(t, f, k)
	return k
}

// sound holds a key to what every key is: leads exclude one another and leave no answer out, and couplets lead on.
func sound(t testing.TB, f *flora.Flora, k *key.Key) {
	t.Helper()
	led := map[int]int{}
	ends := func(e *key.End) {
		require.NotEmpty(t, e.Taxa)
		require.NotEmpty(t, e.Words)
	}
	if k.End != nil {
		ends(k.End)
	}
	for i, c := range k.Couplets {
		require.Equal(t, i+1, c.N)
		require.GreaterOrEqual(t, len(c.Leads), 2)
		require.LessOrEqual(t, len(c.Leads), 4)
		states, words := map[string]bool{}, map[string]bool{}
		for _, l := range c.Leads {
			require.Equal(t, c.Leads[0].Character, l.Character)
			require.False(t, words[l.Words], "two leads say the same: %s", l.Words)
			words[l.Words] = true
			for _, s := range l.States {
				require.False(t, states[s])
				states[s] = true
			}
			require.True(t, (l.To > 0) != (l.Ends != nil))
			if l.Ends != nil {
				ends(l.Ends)
			} else {
				require.Greater(t, l.To, c.N)
				require.Equal(t, c.N, k.Couplets[l.To-1].Back)
				led[l.To]++
			}
		}
		if ch := f.Character(c.Leads[0].Character); len(ch.States) > 0 {
			require.Len(t, states, len(ch.States), ch.ID)
		}
		for _, x := range []float64{0.5, 3, 7.5, 1e6} {
			if c.Leads[0].Below != nil || c.Leads[0].From != nil {
				n := 0
				for _, l := range c.Leads {
					if l.Fits(key.Answer{Value: x}) {
						n++
					}
				}
				require.Equal(t, 1, n)
			}
		}
	}
	for n := 2; n <= len(k.Couplets); n++ {
		require.Equal(t, 1, led[n])
	}
}

// nowhere are the trees of a key that come out at none of its ends. In a key that takes what is asked away, a rare one may.
func nowhere(k *key.Key) (missing []string) {
	out := map[string]bool{}
	for i := range k.Couplets {
		for _, l := range k.Couplets[i].Leads {
			if l.Ends != nil {
				for _, name := range l.Ends.Taxa {
					out[name] = true
				}
			}
		}
	}
	for _, name := range k.Taxa {
		if !out[name] {
			missing = append(missing, name)
		}
	}
	return missing
}

// TestHolds measures a key: right to the rank that it ends in in 85 of 100, and no
// longer than 1.3 times the least.
func TestHolds(t *testing.T) {
	f := floratest.Shipped(t)
	a := key.Asked{Among: flora.Among{Region: f.HomeRegion()}, Names: asked(t, f)}
	k := made(t, f, a)
	require.Empty(t, nowhere(k), "everybody that it is for comes out somewhere")
	m, err := key.Measure(t.Context(), f, k, a, 4000, 1)
	require.NoError(t, err)
	t.Logf("%d couplets, %+v", len(k.Couplets), m)
	require.Greater(t, m.Right, 0.85)
	require.Less(t, m.Couplets, 1.3*m.Bits)
}

// TestTastes makes a key of each taste, and of the home region's oaks.
func TestTastes(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	for _, taste := range key.Tastes {
		a := key.Asked{Among: flora.Among{Region: f.HomeRegion()}, Names: asked(t, f), Taste: taste.ID}
		if taste.ID == "genus" {
			a.Names, a.Genus = nil, "Quercus"
		}
		k := made(t, f, a)
		for _, c := range k.Couplets {
			ch := f.Character(c.Leads[0].Character)
			switch taste.ID {
			case "no-twig":
				require.NotEqual(t, "hand", ch.Reach)
			case "snow":
				require.NotEqual(t, "ground", ch.Reach)
			case "afar":
				require.Contains(t, []string{"afar", "crown"}, ch.Reach)
			}
		}
		if taste.ID == "bark" {
			require.Equal(t, "bark", f.Character(k.Couplets[1].Leads[0].Character).Section)
		}
		if taste.ID == "genus" {
			for _, name := range k.Taxa {
				require.Equal(t, "Quercus", f.Taxon(name).Genus)
			}
		}
	}
}

// TestOdd: what is no key says so, and one tree, or some that nothing parts, end at once.
func TestOdd(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	home := flora.Among{Region: f.HomeRegion()}
	one := made(t, f, key.Asked{Among: home, Names: []string{"Acer rubrum"}})
	require.Equal(t, "Acer rubrum", one.End.Name)
	require.Empty(t, one.Couplets)
	_, err := key.New(t.Context(), f, key.Asked{Among: home, Names: []string{"Acer nothing"}})
	require.ErrorContains(t, err, "Acer nothing")
	_, err = key.New(t.Context(), f, key.Asked{Among: home, Names: []string{}})
	require.ErrorIs(t, err, key.ErrNobody)
	_, err = key.New(t.Context(), f, key.Asked{Among: home, Taste: "sweet"})
	require.ErrorIs(t, err, key.ErrTaste)
	afar := made(t, f, key.Asked{Among: home, Names: []string{"Quercus rubra", "Quercus velutina"}, Taste: "afar"})
	require.NotNil(t, afar.End) // nothing seen from afar parts the two
	require.NotEmpty(t, afar.End.Words)
	stopped, stop := context.WithCancel(t.Context())
	stop()
	_, err = key.New(stopped, f, key.Asked{Among: home})
	require.ErrorIs(t, err, context.Canceled)
}

// TestFigures prints what docs/keys.md has: PT_KEYS=1 go test ./core/key -run Figures -v
func TestFigures(t *testing.T) {
	if os.Getenv("PT_KEYS") == "" {
		t.Skip("PT_KEYS=1 measures")
	}
	f := floratest.Shipped(t)
	for _, n := range []int{10, 30, 60, 160} {
		for _, greedy := range []bool{false, true} {
			a := key.Asked{Among: flora.Among{Region: f.HomeRegion()}, Names: commonest(t, f, n), Greedy: greedy}
			began := time.Now()
			k := made(t, f, a)
			took := time.Since(began)
			m, err := key.Measure(t.Context(), f, k, a, 20_000, 7)
			require.NoError(t, err)
			fmt.Printf("%3d taxa greedy=%v: %d couplets in %.2f s; right %.3f (species %.2f of ends); %.2f couplets, %.2f bits, ratio %.2f; longest %d;"+
				" ranking by the same looks names %.2f, right of those %.3f\n   by rank %v ended %v\n   worst %v\n", n, greedy, len(k.Couplets),
				took.Seconds(), m.Right, m.Species, m.Couplets, m.Bits, m.Couplets/m.Bits, m.Longest, m.Named, m.Ranking/max(m.Named, 1e-9), m.ByRank, m.Ended, m.Worst)
		}
	}
}

// TestGrownTrees: a key is for grown trees unless it is asked otherwise: a shagbark's loose plates come with age.
func TestGrownTrees(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	home := flora.Among{Region: f.HomeRegion()}
	plates := func(age string) bool {
		k := made(t, f, key.Asked{Among: home, Age: age, Taste: "bark", Names: []string{"Carya ovata", "Carya cordiformis", "Carya tomentosa",
			"Fraxinus americana"}})
		return slices.ContainsFunc(k.Couplets, func(c key.Couplet) bool {
			return slices.ContainsFunc(c.Leads, func(l key.Lead) bool {
				return slices.Contains(l.States, "long-loose-plates") && l.Ends != nil && l.Ends.Name == "Carya ovata"
			})
		})
	}
	require.True(t, plates(""))
	require.True(t, plates("mature"))
	require.False(t, plates("young"))
	_, err := key.New(t.Context(), f, key.Asked{Among: home, Age: "ancient"})
	require.ErrorIs(t, err, key.ErrAge)
	_, err = f.Pool(flora.PoolKey{Among: home})
	require.ErrorIs(t, err, flora.ErrNoAge, "no pool is young by oversight")
}
