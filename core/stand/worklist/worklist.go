// Package worklist says how far a tree is settled, and what its name rests on: the
// rules by which lists, maps and worklists sort trees.
package worklist

import (
	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
	"palethicket/core/weigh/ranking"
)

// Status sums a tree up in one word.
type Status struct {
	ID    string
	Words string
	Sign  string // of its own, so that nothing is said by colour alone
}

// The statuses of a tree.
const (
	Named      = "named"      // a name is written down and nothing speaks against it
	Ready      = "ready"      // the evidence carries a species and none is written down
	Probable   = "probable"   // the name written down is probable and no more, or something is and none is written
	Doubtful   = "doubtful"   // something speaks against the name, or a look is of another tree
	Open       = "open"       // the evidence carries no species yet, and makes none probable
	Unscored   = "unscored"   // nothing was scored
	Unreadable = "unreadable" // its log cannot be read with this flora
)

// notYet is what a tree is until something more can be said.
var notYet = Status{Open, "Not yet", "○"}

// Statuses lists them in the order they are offered.
var Statuses = []Status{
	{Named, "Named", "●"}, {Ready, "Ready to name", "◐"}, {Probable, "Probably", "◔"}, {Doubtful, "In doubt", "◆"},
	notYet, {Unscored, "Not scored", "·"}, {Unreadable, "Unreadable", "×"},
}

// Unsettled are the statuses of trees that are still to be settled.
var Unsettled = []string{Doubtful, Ready, Probable, Open, Unscored}

// StatusOf gives a status by its id, that of an open tree for one it does not know.
func StatusOf(id string) Status {
	for _, s := range Statuses {
		if s.ID == id {
			return s
		}
	}
	return notYet
}

// Case is what a status is judged by.
type Case struct {
	Given     ranking.Rank // of the name written down last; "": none is
	Step      ranking.Step // how sure that is by the evidence
	Strangers int          // looks that probably are of another tree
	Scores    int
	Carried   ranking.Rank // how far the evidence carries a name
	Probable  ranking.Rank // and how far it makes one probable, finer than that
}

// Status judges a case.
func (c Case) Status() string {
	settled := ranking.DefaultBars.Of(c.Given) > 0
	switch {
	case settled && c.Step == ranking.Sure && c.Strangers == 0:
		return Named
	case settled && c.Step == ranking.Probably && c.Strangers == 0:
		return Probable
	case settled, c.Strangers > 0:
		return Doubtful
	case c.Scores == 0:
		return Unscored
	case c.Carried == ranking.Species:
		return Ready
	case ranking.DefaultBars.Of(c.Probable) > 0:
		return Probable
	}
	return Open
}

// What an unsettled tree asks for.
const (
	DoLook    = "look"    // one more look
	DoWrite   = "write"   // writing down the name that the evidence carries
	DoCorrect = "correct" // correcting a name that the evidence speaks against
	DoBack    = "back"    // coming back: nothing within reach would help
)

// Do says what a tree asks for. A name that the evidence contradicts with another is
// corrected, whatever could be looked at besides.
func Do(status string, carried ranking.Rank, doubted, canLook bool) string {
	switch {
	case status == Ready:
		return DoWrite
	case status == Doubtful && doubted && ranking.DefaultBars.Of(carried) > 0:
		return DoCorrect
	case canLook:
		return DoLook
	case status == Doubtful && doubted:
		return DoCorrect
	}
	return DoBack
}

// dbh is a tree's size, which says nothing of what it is in an older inventory.
const dbh = "form.dbh"

// Carried says how sure a name is that was given, and what of that is to be said. A tree
// that nobody scored but for its size, as one from an older inventory, stands on its
// namer's word, hedged as it is: nothing speaks against it. Nor does a winter's look
// against a tree seen in leaf.
func Carried(state *logbook.State, w *answer.Weighing, n *logbook.Naming) (step ranking.Step, says string) {
	if n.Seen != "" {
		return ranking.Sure, ""
	}
	for _, l := range state.Looks {
		for _, s := range l.Scores {
			if s.Character != dbh {
				return w.Carried(ranking.Rank(n.Rank), n.Name)
			}
		}
	}
	switch n.Hedge {
	case logbook.Cf:
		return ranking.Probably, "Whoever gave the name held it to be probable and no more, and nothing was looked at since."
	case logbook.InDoubt:
		return ranking.NotYet, "Whoever gave the name was in doubt of it, and nothing was looked at since."
	}
	return ranking.Sure, ""
}

const (
	// Counts is the posterior from which a taxon counts where a stand is added up.
	Counts = 0.002
	// candidate is the posterior from which a taxon is still in it.
	candidate = 0.05
)

// Candidates are the listed taxa still in it, best first.
func Candidates(ranking []answer.Ranked) []string {
	var out []string
	for _, r := range ranking {
		if r.Posterior >= candidate && r.Taxon != answer.Unlisted {
			out = append(out, r.Taxon)
		}
	}
	return out
}
