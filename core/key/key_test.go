package key_test

import (
	"context"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	"palethicket/core/key"
)

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

// sound holds a key to what every key is: two leads that exclude one another and leave no answer out, of the same marks in the
// same order; couplets that lead on; and each tree at one place, or two or three where it varies.
func sound(t testing.TB, f *flora.Flora, k *key.Key) {
	t.Helper()
	led, out := map[int]int{}, map[string]int{}
	for _, e := range k.Ends() {
		require.NotEmpty(t, e.Words)
		for _, name := range e.Taxa {
			out[name]++
		}
	}
	for _, name := range k.Taxa {
		require.GreaterOrEqual(t, out[name], 1, name)
		require.LessOrEqual(t, out[name], 3, name)
	}
	require.Len(t, out, len(k.Taxa))
	for i, c := range k.Couplets {
		require.Equal(t, i+1, c.N)
		require.NotEqual(t, c.Leads[0].Words, c.Leads[1].Words)
		require.Len(t, c.Leads[1].Marks, len(c.Leads[0].Marks))
		for m := range c.Leads[0].Marks {
			opposite(t, f, &c.Leads[0].Marks[m], &c.Leads[1].Marks[m])
		}
		for _, l := range c.Leads {
			require.LessOrEqual(t, len(l.Marks), 3)
			require.True(t, (l.To > 0) != (l.Ends != nil))
			if l.To > 0 {
				require.Greater(t, l.To, c.N)
				require.Equal(t, c.N, k.Couplets[l.To-1].Back)
				led[l.To]++
			}
		}
	}
	for n := 2; n <= len(k.Couplets); n++ {
		require.Equal(t, 1, led[n])
	}
}

// opposite holds two marks to be of one character, and each answer to fit just one of them.
func opposite(t testing.TB, f *flora.Flora, a, b *key.Mark) {
	t.Helper()
	require.Equal(t, a.Character, b.Character)
	require.NotEqual(t, a.Words, b.Words)
	require.NotEmpty(t, a.Words)
	answers := []key.Answer{}
	c := f.Character(a.Character)
	for _, s := range c.States {
		answers = append(answers, key.Answer{State: s.ID})
	}
	switch {
	case a.Seen != nil:
		answers = append(answers, key.Answer{Seen: true}, key.Answer{})
	case len(c.States) == 0:
		for _, x := range []float64{0.5, 3, 7.5, 1e6} {
			answers = append(answers, key.Answer{Value: x})
		}
	}
	for _, answer := range answers {
		require.NotEqual(t, a.Fits(answer), b.Fits(answer), "%s: %+v", a.Character, answer)
	}
}

// TestHolds measures a key on drawn grown trees: the figures are docs/keys.md's, with room for the draw.
func TestHolds(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	for _, c := range []struct {
		taxa                    int
		right, couplets, single float64
	}{{12, 0.87, 1.3, 0.8}, {30, 0.80, 1.6, 0.85}} {
		a := key.Asked{Among: flora.Among{Region: f.HomeRegion()}, Names: commonest(t, f, c.taxa)}
		k := made(t, f, a)
		m, err := key.Measure(t.Context(), f, k, a, 500, 1)
		require.NoError(t, err)
		require.Greater(t, m.Right, c.right)
		require.Less(t, m.Couplets, c.couplets*m.Bits)
		require.GreaterOrEqual(t, m.Single, c.single-1e-9)
		require.LessOrEqual(t, len(k.Couplets), c.taxa*14/10)
		require.Greater(t, m.Taxa[0].Right, 0.5, m.Taxa[0].Taxon)
	}
}

// TestPractitionersOrder: what is green comes first, then how the twigs stand; colors, scents, pith and litter are not asked alone.
func TestPractitionersOrder(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	k := made(t, f, key.Asked{Among: flora.Among{Region: f.HomeRegion()}, Names: commonest(t, f, 60)})
	require.Equal(t, "needle.kept", k.Couplets[0].Leads[0].Marks[0].Character)
	bare := k.Couplets[0].Leads[1].To
	require.Contains(t, k.Couplets[0].Leads[1].Words, "Branches bare")
	require.Equal(t, "twig.arrangement", k.Couplets[bare-1].Leads[0].Marks[0].Character)
	var long int
	for _, c := range k.Couplets {
		first := f.Character(c.Leads[0].Marks[0].Character)
		require.NotEqual(t, "fruit.kind", first.ID, "few trees have kept their fruit")
		require.NotEqual(t, "form.dbh", first.ID, "it says how old a tree is, not which")
		sections := map[string]int{}
		for _, m := range c.Leads[0].Marks {
			sections[f.Character(m.Character).Section]++
		}
		for section, n := range sections {
			require.True(t, n == 1 || section == "form", "one misreading of the %s must not decide couplet %d", section, c.N)
		}
		if len(c.Leads[0].Marks) == 3 {
			long++
		}
	}
	require.Greater(t, long, len(k.Couplets)/3, "most leads carry a slip")
}

// TestGroups: a long key begins with a key to groups, and each group stands together under its heading.
func TestGroups(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	home := flora.Among{Region: f.HomeRegion()}
	k := made(t, f, key.Asked{Among: home, Names: commonest(t, f, 60)})
	require.Equal(t, key.ToGroups, k.Couplets[0].Group)
	var groups []string
	for _, c := range k.Couplets {
		if len(groups) == 0 || groups[len(groups)-1] != c.Group {
			require.NotContains(t, groups, c.Group, "a group stands together")
			groups = append(groups, c.Group)
		}
	}
	require.Greater(t, len(groups), 3)
	require.True(t, strings.HasPrefix(groups[1], "A. "), groups[1])
	for _, c := range made(t, f, key.Asked{Among: home, Names: commonest(t, f, 12)}).Couplets {
		require.Empty(t, c.Group, "a short key has none")
	}
}

// TestEnds: names that stand together share a group or genus, with a word on what would part them; one name has what confirms it.
func TestEnds(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	k := made(t, f, key.Asked{Among: flora.Among{Region: f.HomeRegion()}, Names: commonest(t, f, 60)})
	single, confirmed := 0, 0
	for _, e := range k.Ends() {
		require.LessOrEqual(t, len(e.Taxa), 3)
		if len(e.Taxa) == 1 {
			single++
			require.Equal(t, "species", e.Rank)
			require.Equal(t, e.Taxa[0], e.Name)
			if len(e.Confirm) > 0 {
				confirmed++
			}
			continue
		}
		require.NotEmpty(t, e.Why)
		require.Contains(t, []string{"group", "genus"}, e.Rank, e.Words)
		for _, name := range e.Taxa {
			require.Equal(t, e.Name, f.Taxon(name).NameAt(e.Rank))
		}
	}
	require.GreaterOrEqual(t, single, len(k.Ends())*85/100)
	require.Greater(t, confirmed, single*3/4)
}

// TestFollow: the lead wins that more marks fit, the first that can be read breaks ties, and the commoner is taken where none can.
func TestFollow(t *testing.T) {
	t.Parallel()
	yes, no := true, false
	marks := func(seen *bool) (out []key.Mark) {
		for _, id := range []string{"1", "2", "3"} {
			out = append(out, key.Mark{Character: id, Seen: seen})
		}
		return out
	}
	c := key.Couplet{Leads: [2]key.Lead{{Words: "a", Marks: marks(&yes)}, {Words: "b", Marks: marks(&no)}}, Commoner: 1}
	for read, lead := range map[string]string{
		"aaa": "a", "baa": "a", "abb": "b", "aab": "a", "ab-": "a", "ba-": "b", "-ab": "a", "-ba": "b", "--a": "a", "--b": "b", "---": "b",
	} {
		got := c.Follow(func(id string) (key.Answer, bool) {
			r := read[id[0]-'1']
			return key.Answer{Seen: r == 'a'}, r != '-'
		})
		require.Equal(t, lead, got.Words, read)
	}
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
		bark := 0
		for _, c := range k.Couplets {
			for _, m := range c.Leads[0].Marks {
				switch reach := f.Character(m.Character).Reach; taste.ID {
				case "no-twig":
					require.NotEqual(t, "hand", reach)
				case "snow":
					require.NotEqual(t, "ground", reach)
				case "afar":
					require.Contains(t, []string{"afar", "crown"}, reach)
				}
			}
			if strings.HasPrefix(c.Leads[0].Marks[0].Character, "bark.") {
				bark++
			}
		}
		switch taste.ID {
		case "bark":
			require.Greater(t, bark, len(k.Couplets)/3)
		case "genus":
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
	require.NotEmpty(t, afar.End.Why)
	stopped, stop := context.WithCancel(t.Context())
	stop()
	_, err = key.New(stopped, f, key.Asked{Among: home})
	require.ErrorIs(t, err, context.Canceled)
}

// TestAges: a key is for grown trees unless it is asked otherwise: a shagbark's loose plates come with age. In a key of any age
// it comes out by both barks.
func TestAges(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	home := flora.Among{Region: f.HomeRegion()}
	plates := func(age string) bool {
		k := made(t, f, key.Asked{Among: home, Age: age, Taste: "bark", Names: []string{"Carya ovata", "Carya cordiformis", "Carya tomentosa",
			"Fraxinus americana"}})
		return slices.ContainsFunc(k.Couplets, func(c key.Couplet) bool {
			return slices.ContainsFunc(c.Leads[:], func(l key.Lead) bool {
				return strings.Contains(l.Words, "Bark hanging in long loose plates") && l.Ends != nil && l.Ends.Name == "Carya ovata"
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
