package answer

import (
	"fmt"
	"math"

	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/ranking"
)

// NotYetWords is how it is said that a tree cannot be named and nothing is probable.
const NotYetWords = "not yet named"

// naming is what the evidence makes of a tree's name: how far it is carried, and what the
// tree probably is where that is finer.
type naming struct {
	named, probable ranking.Name
	stray           string // genus of which it may be a member that is not listed; empty: of none
}

// naming works it out, once.
func (a *answer) naming() naming {
	if a.called != nil {
		return *a.called
	}
	n, finest := naming{}, ranking.Species
	if n.stray = a.strayOf(); n.stray != "" {
		finest = ranking.Genus
	}
	n.named, n.probable = a.verdict.Names(finest, a.engine.Bars)
	if n.named.Rank == ranking.Species && !a.twoKinds(n.named.Name) {
		n.probable = n.named
		n.named, _ = a.verdict.Names(ranking.Group, a.engine.Bars)
	}
	if n.probable.Rank == ranking.Species && a.mostlyUnlisted(1-n.probable.Posterior) {
		_, n.probable = a.verdict.Names(ranking.Group, a.engine.Bars)
	}
	a.called = &n
	return n
}

// mostlyUnlisted says whether what is not listed holds more than half of a share that a name leaves open: then nothing that
// was scored tells the tree from its kin abroad.
func (a *answer) mostlyUnlisted(rest float64) bool {
	return a.verdict.Posterior[a.verdict.Unlisted()] > rest/2
}

// kindsOf says which part of a tree the characters of a section are read from.
var kindsOf = map[string]string{"form": "outline", "bark": "trunk", "sign": "trunk", "twig": "twig", "bud": "bud", "scar": "bud",
	"fruit": "fruit", "ground": "ground", "needle": "needle"}

// twoKinds says whether the evidence is of two parts of the tree at least, as a name to species
// takes. Needles tell a conifer by themselves, and so does the bark of some trees.
func (a *answer) twoKinds(species string) bool {
	kinds := map[string]bool{}
	for i := range a.Record.Looks {
		if a.verdict.Belongs[i] < strangerBelow {
			continue // of another tree
		}
		for j := range a.Record.Looks[i].Scores {
			c := a.engine.Flora.Character(a.Record.Looks[i].Scores[j].Character)
			kind := kindsOf[c.Section]
			if c.ID == "form.dbh" {
				kind = "trunk"
			}
			kinds[kind] = true
		}
	}
	delete(kinds, "")
	return len(kinds) > 1 || kinds["needle"] || kinds["trunk"] && a.engine.Flora.Taxon(species).BarkEnough != ""
}

func (a *answer) named() Name {
	n := a.naming()
	out := Name{Rank: n.named.Rank, Name: n.named.Name, Posterior: n.named.Posterior, Words: a.calls(n, n.named)}
	probable := n.probable.Rank != ranking.Undetermined
	switch {
	case n.named.Rank == ranking.Unlisted && n.stray != "":
		out.Words = "none of the listed trees fits; perhaps " + withArticle(a.genusEnglish(n.stray))
	case n.named.Rank == ranking.Unlisted:
		out.Words = "none of the listed trees fits"
	case n.named.Rank != ranking.Undetermined && probable:
		out.Words += ", probably " + a.calls(n, n.probable)
	case n.named.Rank != ranking.Undetermined:
	case probable:
		out.Words = "probably " + a.calls(n, n.probable)
	case n.stray != "":
		out.Words = "perhaps " + withArticle(a.genusEnglish(n.stray)) + " that is not listed"
	case a.verdict.Leader() == a.verdict.Unlisted():
		out.Words = "something not listed may be it"
	default:
		out.Words = NotYetWords
	}
	return out
}

// probably is what the tree probably is, finer than it is named; of undetermined rank
// where there is nothing such to say.
func (a *answer) probably() Name {
	n := a.naming()
	return Name{Rank: n.probable.Rank, Name: n.probable.Name, Posterior: n.probable.Posterior, Words: a.calls(n, n.probable)}
}

// says puts how the tree stands in one line: what it is named, what it probably is, or
// who leads, each with its chance.
func (a *answer) says() string {
	n, leader := a.naming(), a.verdict.Leader()
	line := ""
	switch {
	case RankWords(n.named.Rank) != "":
		line = a.calls(n, n.named) + ", " + Percent(n.named.Posterior)
	case n.probable.Rank != ranking.Undetermined:
	case leader == a.verdict.Unlisted():
		return a.named().Words + ", " + Percent(a.verdict.Posterior[leader])
	case n.stray != "":
		return a.named().Words + "; " + a.english(leader) + " leads, " + Percent(a.verdict.Posterior[leader])
	default:
		return a.english(leader) + " leads, " + Percent(a.verdict.Posterior[leader])
	}
	if n.probable.Rank == ranking.Undetermined {
		return line
	}
	if line != "" {
		line += "; "
	}
	return line + "probably " + a.calls(n, n.probable) + ", " + Percent(n.probable.Posterior)
}

// calls is what goes by a name, in words.
func (a *answer) calls(n naming, name ranking.Name) string {
	switch name.Rank {
	case ranking.Species:
		if i, ok := a.Pool.Find(name.Name); ok {
			return a.Pool.Called(i)
		}
	case ranking.Group:
		return withArticle(singular(name.Name)) + " of some kind"
	case ranking.Genus:
		if n.stray == name.Name {
			return withArticle(a.genusEnglish(name.Name)) + ", perhaps one not listed"
		}
		return withArticle(a.genusEnglish(name.Name)) + " of some kind"
	case ranking.Family:
		return "something of the family " + name.Name
	}
	return ""
}

const (
	// strayOdd is from how many standard deviations below its average a tree does not fit a
	// taxon, and fits whichever member shows each mark if it is not so far below that.
	strayOdd, fittingOdd = 2, 1.65
	// strayFactor is how much better each mark must fit whichever member shows it than all of
	// them fit the best: what speaks "substantially" for a thing in Jeffreys 1961, "Theory of
	// Probability", Appendix B.
	strayFactor = 3.1623
)

// strayOf gives the genus that the looks fit well while they fit none of its members: one
// of at least two, that probably is the tree's if that is of a listed genus at all, and of
// which every mark is some member's. It is no hypothesis of the ranking: among those it
// would take more from the listed trees than it gave.
func (a *answer) strayOf() string {
	genus := a.Pool.Taxa[a.bestListed()].Genus
	members, p := a.verdict.Members(ranking.Genus, genus)
	if listed := 1 - a.verdict.Posterior[a.verdict.Unlisted()]; len(members) < 2 || p < a.engine.Bars.Probable*listed {
		return ""
	}
	looks := a.ownLooks()
	best := a.kit.judge.Alone(looks, a.bestListed())
	if best.Odd < strayOdd { // as nearly always: the others need no judging
		return ""
	}
	for _, t := range members {
		if own := a.kit.judge.Alone(looks, t); own.Log > best.Log {
			best = own
		}
	}
	if best.Odd < strayOdd {
		return ""
	}
	whichever := a.kit.judge.Piecemeal(looks, members)
	if whichever.Odd > fittingOdd || whichever.Log < best.Log+math.Log(strayFactor) {
		return ""
	}
	return genus
}

// ownLooks are the looks that probably were of this tree.
func (a *answer) ownLooks() []evidence.Look {
	out := make([]evidence.Look, 0, len(a.Looks))
	for i := range a.Looks {
		if len(a.Looks[i].Scores) > 0 && a.verdict.Belongs[i] >= strangerBelow {
			out = append(out, a.Looks[i])
		}
	}
	return out
}

// Carried says how sure a name that was given is by the evidence, and what of that is to
// be said: nothing where the evidence carries it, or where nothing the tree could be has
// such a name.
func (w *Weighing) Carried(rank ranking.Rank, name string) (step ranking.Step, says string) {
	bars := w.engine.Bars
	bar := bars.Of(rank)
	if bar == 0 {
		return ranking.Sure, ""
	}
	p, err := w.Posterior(rank, name)
	if err != nil {
		return ranking.Sure, ""
	}
	switch step = bars.Step(rank, p); step {
	case ranking.Probably:
		says = fmt.Sprintf("Probably: the evidence gives this name %s; it would take %.3g %% to carry it.", Percent(p), 100*bar)
	case ranking.NotYet:
		says = fmt.Sprintf("The evidence gives this name %s; it would take %.3g %% to carry it.", Percent(p), 100*bar)
	}
	return step, says
}
