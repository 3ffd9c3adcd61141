package book

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"palethicket/core/flora"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/store"
)

// Story is a tree's log, each entry with how the tree stood after it.
type Story struct {
	Tree   store.Tree       `json:"tree"`
	Facts  logbook.Standing `json:"facts"`
	Steps  []Step           `json:"steps" doc:"Oldest first"`
	Visits []store.Visit    `json:"visits" doc:"Visits on which it was looked at, oldest first"`
	Doubt  string           `json:"doubt" doc:"Why the evidence does not carry the last name given, or empty"`
	Taxa   []string         `json:"taxa" doc:"Those that led at some time, as the shares of each step are ordered"`
}

// Step is one entry, in words, and how the tree stood after it.
type Step struct {
	Entry  string          `json:"entry"`
	Kind   logbook.Kind    `json:"kind"`
	At     time.Time       `json:"at"`
	By     string          `json:"by"`
	Visit  string          `json:"visit,omitempty" doc:"look: id of its visit"`
	Words  string          `json:"words"`
	Stands bool            `json:"stands" doc:"Not taken back or scored again since"`
	Undo   bool            `json:"undo" doc:"A further entry can undo it"`
	Named  answer.Name     `json:"named"`
	Leader string          `json:"leader"`
	Shares []float64       `json:"shares" doc:"Posterior of each of the story's taxa"`
	Name   *logbook.Naming `json:"name,omitempty" doc:"name: what was given"`
	Flag   string          `json:"flag,omitempty" doc:"name: what later looks say against it"`
}

// Story tells how a tree came to be called what it is.
func (b *Book) Story(ctx context.Context, id string) (*Story, error) {
	t, log, err := b.tree(ctx, id)
	if err != nil {
		return nil, err
	}
	visits, err := b.Store.VisitsOf(ctx, id)
	if err != nil {
		return nil, err
	}
	now := logbook.Replay(log)
	out := &Story{Tree: t, Facts: now.Facts, Visits: []store.Visit{}, Taxa: []string{}}
	stands := now.Standing()
	var last *answer.Result
	var rankings [][]answer.Ranked
	for i := range log {
		e := &log[i]
		if last == nil || e.Kind != logbook.KindNote && e.Kind != logbook.KindName {
			if last, err = b.engine().Identify(logbook.Replay(log[:i+1]).Record(t.Tag, t.Region), answer.Options{}); err != nil {
				return nil, fmt.Errorf("tree %s: %w", t.Tag, err)
			}
		}
		out.Steps = append(out.Steps, Step{Entry: e.ID, Kind: e.Kind, At: logbook.When(e.ID), By: e.By,
			Visit: visits[e.ID].ID, Words: b.words(log, e), Stands: stands[e.ID], Undo: undoable(e, stands),
			Named: last.Named, Leader: last.Ranking[0].Taxon, Name: e.Name})
		rankings = append(rankings, last.Ranking)
		if leader := last.Ranking[0].Taxon; e.Kind == logbook.KindScore && !slices.Contains(out.Taxa, leader) {
			out.Taxa = append(out.Taxa, leader)
		}
		if v, ok := visits[e.ID]; ok && !slices.ContainsFunc(out.Visits, func(o store.Visit) bool { return o.ID == v.ID }) {
			out.Visits = append(out.Visits, v)
		}
	}
	out.share(rankings)
	b.flag(out, now, last)
	return out, nil
}

// share fills in what each of the story's taxa held after each step.
func (s *Story) share(rankings [][]answer.Ranked) {
	for i, ranking := range rankings {
		s.Steps[i].Shares = make([]float64, len(s.Taxa))
		for _, r := range ranking {
			if at := slices.Index(s.Taxa, r.Taxon); at >= 0 {
				s.Steps[i].Shares[at] = r.Posterior
			}
		}
	}
}

// flag says of each name that stands what the evidence now says against it.
func (b *Book) flag(s *Story, now *logbook.State, last *answer.Result) {
	if last == nil {
		return
	}
	region := now.Record(s.Tree.Tag, s.Tree.Region).Region
	for i := range s.Steps {
		if st := &s.Steps[i]; st.Name != nil && st.Stands {
			st.Flag = b.Shelf().doubt(now, last, region, st.Name)
			s.Doubt = st.Flag
		}
	}
}

func undoable(e *logbook.Entry, stands map[string]bool) bool {
	switch e.Kind {
	case logbook.KindLook, logbook.KindScore, logbook.KindName:
		return stands[e.ID]
	case logbook.KindFacts, logbook.KindWithdraw:
		return true
	}
	return false
}

// words says what an entry added.
func (b *Book) words(log []logbook.Entry, e *logbook.Entry) string {
	switch e.Kind {
	case logbook.KindLook:
		return fromWords[e.From] + join(": ", e.Note)
	case logbook.KindScore:
		return b.scoreWords(e.Score)
	case logbook.KindNote:
		return "Note: " + e.Note
	case logbook.KindFacts:
		return factWords(e.Facts)
	case logbook.KindWithdraw:
		for i := range log {
			if log[i].ID == e.Entry {
				return "Taken back: " + b.words(log, &log[i])
			}
		}
		return "Taken back"
	}
	if e.Name.Rank == "undetermined" {
		return "Left undetermined" + join(": ", e.Name.Why)
	}
	return "Named " + e.Name.Name + join(": ", e.Name.Why)
}

// fromWords say where a look came from.
var fromWords = map[string]string{"site": "A look at the site", "tree": "A look at this tree", "crown": "A look at the crown",
	"fallen": "A fallen twig", "sapling": "A sapling beside it", "litter": "The ground below"}

func join(sep, text string) string {
	if text == "" {
		return ""
	}
	return sep + text
}

func (b *Book) scoreWords(s *record.Score) string {
	name := s.Character
	unit := s.Unit
	if c := b.Shelf().Flora.Character(s.Character); c != nil {
		name = c.Name
		if unit == "" {
			unit = c.Unit
		}
	}
	return name + ": " + ScoreWords(s, unit)
}

// ScoreWords says what a score says, its value in the unit.
func ScoreWords(s *record.Score, unit string) string {
	var says string
	switch {
	case s.Nodes != nil && s.Pairs != nil:
		says = fmt.Sprintf("%d pairs in %d nodes", *s.Pairs, *s.Nodes)
	case s.Seen != nil && *s.Seen:
		says = "seen"
	case s.Seen != nil:
		says = "looked for, not seen"
	case s.Value != nil:
		says = strings.TrimSpace(fmt.Sprintf("%.4g %s", *s.Value, unit))
	default:
		says = strings.ReplaceAll(strings.Join(s.States, " or "), "-", " ")
	}
	if s.Zone != "" && s.Zone != flora.ZoneWords[flora.Breast] {
		says += " (" + s.Zone + ")"
	}
	if s.Certainty != "" && s.Certainty != "fair" {
		says += ", " + s.Certainty
	}
	return says
}

func factWords(f *logbook.Facts) string {
	var says []string
	add := func(what string, value *string) {
		if value != nil && *value != "" {
			says = append(says, what+strings.ReplaceAll(*value, "-", " "))
		} else if value != nil {
			says = append(says, what+"not judged")
		}
	}
	add("age ", f.Age)
	add("snow ", f.Snow)
	add("light ", f.Light)
	add("foliage ", f.Foliage)
	add("among ", f.Region)
	add("vigour ", f.Vigour)
	if f.Beyond != nil && len(*f.Beyond) > 0 {
		says = append(says, "out of reach: "+strings.Join(*f.Beyond, ", "))
	}
	if f.Flat != nil && *f.Flat {
		says = append(says, "every tree taken as equally common")
	}
	if f.Height != nil {
		says = append(says, fmt.Sprintf("height %.3g m", *f.Height))
	}
	if f.Position != nil {
		says = append(says, fmt.Sprintf("position %.5f, %.5f", f.Position.Lat, f.Position.Lon))
	}
	if f.Unplaced {
		says = append(says, "position taken away")
	}
	if f.Remarks != nil {
		says = append(says, "remarks: "+*f.Remarks)
	}
	if f.Aside != nil && *f.Aside {
		says = append(says, "set aside as entered by mistake")
	} else if f.Aside != nil {
		says = append(says, "taken back into the lists")
	}
	if len(says) == 0 {
		return "Nothing out of the ordinary"
	}
	return strings.ToUpper(says[0][:1]) + strings.Join(says, "; ")[1:]
}
