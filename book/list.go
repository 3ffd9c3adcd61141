package book

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"

	"palethicket/core/flora"
	"palethicket/core/stand/worklist"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
	"palethicket/core/weigh/ranking"
	"palethicket/store"
)

// Query says which trees are asked for; what is empty does not matter.
type Query struct {
	Tract  string
	Stand  string
	Status []string // ids of [worklist.Statuses]
	Text   string   // part of a tag or of the remarks, or the name of a tree
	Sort   string   // stand (the default), worth, last or tag
	Aside  bool     // those that were set aside, and only those
	Home   bool     // only those whose best look needs a twig in hand
}

// query asks the store. A word that names trees finds those; any other is looked for
// in tags and remarks.
func (b *Book) query(q Query) store.Query {
	return store.Query{Tract: q.Tract, Stand: q.Stand, Status: q.Status, Text: q.Text, Sort: q.Sort, Aside: q.Aside, Home: q.Home,
		Taxa: b.taxaCalled(q.Text)}
}

// taxaCalled gives the taxa that a word names, in any region, or none.
func (b *Book) taxaCalled(word string) []string {
	if len(word) < 3 || strings.ContainsAny(word, "0123456789") { // a tag, not a name
		return nil
	}
	var taxa []string
	for _, h := range b.shelf.Load().names.Search(word).Hits {
		taxa = append(taxa, h.Taxon)
	}
	return taxa
}

// TreeLine is a tree in a list, and where it stands.
type TreeLine struct {
	ID                string   `json:"id"`
	Tag               string   `json:"tag"`
	Tract             string   `json:"tract"`
	Stand             string   `json:"stand"`
	Region            string   `json:"region" doc:"Region of the flora whose trees it is ranked among"`
	List              string   `json:"list,omitempty" doc:"List that it is ranked among; absent: the whole region"`
	Status            string   `json:"status" enum:"named,ready,probable,doubtful,open,unscored,unreadable" doc:"See the vocabulary"`
	Words             string   `json:"words" doc:"How it stands, in a few words"`
	NamedRank         string   `json:"named_rank" doc:"How far the evidence carries a name now"`
	Named             string   `json:"named"`
	NamedPosterior    float64  `json:"named_posterior"`
	Settled           bool     `json:"settled" doc:"The evidence carries a name, at whatever rank"`
	ProbableRank      string   `json:"probable_rank" doc:"To what rank one is probable, finer than that"`
	Probable          string   `json:"probable"`
	ProbablePosterior float64  `json:"probable_posterior"`
	Leader            string   `json:"leader"`
	LeaderPosterior   float64  `json:"leader_posterior"`
	GivenRank         string   `json:"given_rank" doc:"Rank of the name written down last; empty: none is"`
	Given             string   `json:"given"`
	GivenWords        string   `json:"given_words" doc:"The same, as it is said: with 'probably' where it is no more"`
	GivenStep         string   `json:"given_step" enum:"named,probably,not-yet," doc:"How sure the evidence makes it now"`
	GivenSeen         string   `json:"given_seen" enum:"leaf,flower,fruit," doc:"What confirms it; empty: it is a winter's name"`
	GivenNow          float64  `json:"given_now" doc:"What the evidence gives it now; 0: nothing is known of that"`
	GivenBy           string   `json:"given_by"`
	GivenAt           string   `json:"given_at"`
	GivenPosterior    float64  `json:"given_posterior" doc:"What the evidence gave the name then"`
	Doubt             string   `json:"doubt" doc:"Why the evidence does not carry that name, or why the tree cannot be read"`
	Strangers         int      `json:"strangers" doc:"Looks that probably are of another tree"`
	Looks             int      `json:"looks"`
	Scores            int      `json:"scores"`
	Last              string   `json:"last" doc:"When the last entry was made"`
	Age               string   `json:"age"`
	Vigour            string   `json:"vigour"`
	Remarks           string   `json:"remarks"`
	DBH               float64  `json:"dbh_cm" doc:"Diameter at breast height; 0: not measured"`
	Area              float64  `json:"area_m2" doc:"Basal area"`
	Height            float64  `json:"height_m"`
	Lon               *float64 `json:"lon,omitempty"`
	Lat               *float64 `json:"lat,omitempty"`
	Next              string   `json:"next" doc:"Character of the look worth most; empty: none is"`
	NextFrom          string   `json:"next_from" doc:"Where it is looked at"`
	NextBits          float64  `json:"next_bits"`
	NextSeconds       int      `json:"next_seconds"`
	Candidates        []string `json:"candidates" doc:"Taxa still in it, best first"`
}

// TreeList is a page of a list.
type TreeList struct {
	Trees []TreeLine `json:"trees"`
	Total int        `json:"total"`
}

// Trees gives a page of the trees that match.
func (b *Book) Trees(ctx context.Context, q Query, limit, offset int) (*TreeList, error) {
	lines, total, err := b.store.Trees(ctx, b.query(q), limit, offset)
	if err != nil {
		return nil, err
	}
	return &TreeList{each(lines, b.shelf.Load().line), total}, nil
}

func (s *shelf) line(l store.Line) TreeLine {
	out := TreeLine{
		ID:                l.ID,
		Tag:               l.Tag,
		Tract:             l.Tract,
		Stand:             l.Stand,
		Region:            l.Region,
		List:              l.List,
		Status:            l.Status,
		NamedRank:         l.NamedRank,
		Named:             l.Named,
		NamedPosterior:    l.NamedPosterior,
		Settled:           answer.RankWords(rankOf(l.NamedRank)) != "",
		ProbableRank:      l.ProbableRank,
		Probable:          l.Probable,
		ProbablePosterior: l.ProbablePosterior,
		Leader:            l.Leader,
		LeaderPosterior:   l.LeaderPosterior,
		GivenRank:         l.GivenRank,
		Given:             l.Given,
		GivenStep:         l.GivenStep,
		GivenSeen:         l.GivenSeen,
		GivenNow:          l.GivenNow,
		GivenBy:           l.GivenBy,
		GivenAt:           l.GivenAt,
		GivenPosterior:    l.GivenPosterior,
		Doubt:             l.Doubt,
		Strangers:         l.Doubts,
		Looks:             l.Looks,
		Scores:            l.Scores,
		Last:              l.Last,
		Age:               l.Age,
		Vigour:            l.Vigour,
		Remarks:           l.Remarks,
		DBH:               l.DBH,
		Area:              l.Area,
		Height:            l.Height,
		Lon:               l.Lon,
		Lat:               l.Lat,
		Next:              l.NextCharacter,
		NextFrom:          l.NextFrom,
		NextBits:          l.NextBits,
		NextSeconds:       l.NextSeconds,
		Candidates:        listed([]string(l.Candidates)),
	}
	out.Words = s.standWords(&l)
	if l.GivenRank != "" {
		out.GivenWords = s.givenWords(&l)
	}
	return out
}

// standWords says how a tree stands in a list.
func (s *shelf) standWords(l *store.Line) string {
	switch {
	case l.Status == worklist.Unreadable:
		return "Cannot be read"
	case l.GivenSeen != "":
		return flora.UpperFirst(s.givenWords(l)) + ", " + logbook.Confirms.Words(l.GivenSeen)
	case l.Scores == 0:
		return "Nothing scored yet"
	case l.NamedWords != answer.NotYetWords:
		return flora.UpperFirst(l.NamedWords)
	}
	return fmt.Sprintf("Not yet named; %s leads", s.english(l.Leader, l.Region))
}

// probable says whether the evidence makes a name probable, finer than it carries one.
func probable(l *store.Line) bool { return answer.RankWords(rankOf(l.ProbableRank)) != "" }

func (s *shelf) givenWords(l *store.Line) string {
	words := s.nameWords(l.GivenRank, l.Given)
	if l.GivenRank == string(ranking.Species) {
		words = s.english(l.Given, l.Region)
	}
	if l.GivenStep == string(ranking.Probably) {
		words = "probably " + words
	}
	return words
}

// Unsettled is a tree that is still to be settled.
type Unsettled struct {
	TreeLine
	Between string  `json:"between" doc:"What it could be, in words"`
	Why     string  `json:"why" doc:"Why it is not settled, where there is more to say"`
	Do      string  `json:"do" enum:"look,write,correct,back" doc:"What it takes: a look, writing the name, correcting it, coming back"`
	Look    string  `json:"look" doc:"The one look worth most, in words; empty: nothing that can be reached would help"`
	Home    bool    `json:"home" doc:"The look needs a twig in hand: take one home where collecting is allowed"`
	Back    []Event `json:"back" doc:"What to come back for, soonest first"`
	Due     string  `json:"due" doc:"What of its spring is near, in words; empty: nothing"`
	Soon    bool    `json:"soon" doc:"That is so within a week"`
}

// Event is something to come back for.
type Event struct {
	ID       string   `json:"id" enum:"swell,flower,leaf"`
	Words    string   `json:"words"`
	From     string   `json:"from" doc:"Day, as 2027-04-20" format:"date"`
	To       string   `json:"to" format:"date"`
	Windows  []Window `json:"windows" doc:"Each candidate's own days"`
	Separate bool     `json:"separate" doc:"The first two candidates' days do not meet, so that the date itself tells them apart"`
}

// Window is one candidate's days.
type Window struct {
	Taxon string `json:"taxon"`
	From  string `json:"from" format:"date"`
	To    string `json:"to" format:"date"`
}

// OpenList is a page of the worklist.
type OpenList struct {
	Trees []Unsettled `json:"trees"`
	Total int         `json:"total"`
	Home  int         `json:"home" doc:"How many of the page need a twig in hand"`
	Soon  int         `json:"soon" doc:"How many of the page have something due within a week"`

	Season Season `json:"season"`
}

// Worklist gives the trees that are not settled, those first whose best look is
// worth most. Without a status of theirs it takes all of them.
func (b *Book) Worklist(ctx context.Context, q Query, limit, offset int) (*OpenList, error) {
	return b.worklist(ctx, b.store.Reader, q, limit, offset)
}

func (b *Book) worklist(ctx context.Context, from store.Reader, q Query, limit, offset int) (*OpenList, error) {
	q.Status = slices.DeleteFunc(slices.Clone(q.Status), func(s string) bool { return !slices.Contains(worklist.Unsettled, s) })
	if len(q.Status) == 0 {
		q.Status = worklist.Unsettled
	}
	buds := q.Sort == "buds"
	if q.Sort == "" || buds {
		q.Sort = "worth"
	}
	var lines []store.Line
	var total int
	var err error
	if buds {
		lines, total, err = b.budsFirst(ctx, from, q, limit, offset)
	} else {
		lines, total, err = from.Trees(ctx, b.query(q), limit, offset)
	}
	if err != nil {
		return nil, err
	}
	out := &OpenList{Trees: []Unsettled{}, Total: total, Season: b.season()}
	for _, l := range lines {
		o := b.unsettled(l)
		if o.Home {
			out.Home++
		}
		if o.Soon {
			out.Soon++
		}
		out.Trees = append(out.Trees, o)
	}
	return out, nil
}

// budsMost is how many open trees the race with the buds is run among, those worth most.
const budsMost = 5000

// budsFirst gives a page of open trees, those first whose winter marks go first.
func (b *Book) budsFirst(ctx context.Context, from store.Reader, q Query, limit, offset int) ([]store.Line, int, error) {
	lines, total, err := from.Trees(ctx, b.query(q), budsMost, 0)
	if err != nil {
		return nil, 0, err
	}
	swells := make(map[string]string, len(lines))
	for i := range lines {
		for _, e := range b.comeBack(&lines[i]) {
			if e.ID == "swell" {
				swells[lines[i].ID] = e.From
			}
		}
	}
	slices.SortStableFunc(lines, func(a, z store.Line) int {
		return cmp.Or(cmp.Compare(cmp.Or(swells[a.ID], "9"), cmp.Or(swells[z.ID], "9")), cmp.Compare(z.NextBits, a.NextBits))
	})
	offset = min(offset, len(lines))
	return lines[offset:min(offset+limit, len(lines))], total, nil
}

func (b *Book) unsettled(l store.Line) Unsettled {
	sh := b.shelf.Load()
	o := Unsettled{TreeLine: sh.line(l), Home: l.NextReach == "hand", Between: sh.between(&l), Why: sh.why(&l), Back: b.comeBack(&l)}
	if c := sh.flora.Character(l.NextCharacter); c != nil {
		o.Look = flora.UpperFirst(c.Name + ": " + c.Look)
	}
	o.Due, o.Soon = race(o.Back, b.today())
	o.Do = worklist.Do(l.Status, ranking.Rank(l.NamedRank), l.GivenStep == string(ranking.NotYet), o.Look != "")
	return o
}

// mostBetween is how many trees are named that one could be.
const mostBetween = 3

func (s *shelf) between(l *store.Line) string {
	if l.Scores == 0 {
		return "Nothing scored yet"
	}
	names := each(l.Candidates[:min(len(l.Candidates), mostBetween)], func(t string) string { return s.english(t, l.Region) })
	if len(names) == 0 {
		return "Nothing listed fits well"
	}
	return flora.UpperFirst(strings.Join(names, " or "))
}

func (s *shelf) why(l *store.Line) string {
	switch {
	case l.Status == worklist.Ready:
		return fmt.Sprintf("The evidence carries %s (%s)", l.NamedWords, answer.Percent(l.NamedPosterior))
	case l.Status == worklist.Doubtful && l.Doubt != "", l.Status == worklist.Probable && l.Doubt != "":
		return fmt.Sprintf("Written down as %s. %s", s.givenWords(l), l.Doubt)
	case l.Doubts > 0:
		return "A look is probably of another tree"
	case probable(l):
		return fmt.Sprintf("%s (%s)", flora.UpperFirst(l.NamedWords), answer.Percent(l.ProbablePosterior))
	}
	return ""
}

// calendarMost bounds a calendar: nobody comes back for more trees than this.
const calendarMost = 500

// ICalendar writes what to come back for as RFC 5545: for each open tree of the
// query its next event, as an all-day event over its days. The same tree keeps
// its UID, so that a calendar read again takes the new dates.
func (b *Book) ICalendar(ctx context.Context, q Query) (string, error) {
	list, err := b.Worklist(ctx, q, calendarMost, 0)
	if err != nil {
		return "", err
	}
	cal := ics.NewCalendarFor("-//Pale Thicket//Come back//EN")
	cal.SetMethod(ics.MethodPublish)
	cal.SetName("Trees to come back to")
	for i := range list.Trees {
		o := &list.Trees[i]
		if len(o.Back) == 0 {
			continue
		}
		if err := b.addEvent(cal, o); err != nil {
			return "", err
		}
	}
	return cal.Serialize(ics.WithNewLineWindows), nil
}

func (b *Book) addEvent(cal *ics.Calendar, o *Unsettled) error {
	e := o.Back[0]
	from, errFrom := time.Parse(time.DateOnly, e.From)
	to, errTo := time.Parse(time.DateOnly, e.To)
	if errFrom != nil || errTo != nil {
		return fmt.Errorf("tree %s: the days %q to %q are not dates", o.Tag, e.From, e.To)
	}
	sh := b.shelf.Load()
	names := each(o.Candidates, func(t string) string { return sh.english(t, o.Region) })
	event := cal.AddEvent(o.ID + "-" + e.ID + "@palethicket")
	event.SetDtStampTime(b.now().UTC())
	event.SetAllDayStartAt(from)
	event.SetAllDayEndAt(to.AddDate(0, 0, 1)) // the end is not part of it
	event.SetSummary(fmt.Sprintf("%s: when %s", o.Tag, e.Words))
	event.SetDescription(
		fmt.Sprintf("%s, %s. Could be %s. %s", o.Stand, o.Tract, strings.Join(names, " or "), b.season().Says),
	)
	event.SetLocation(o.Stand + ", " + o.Tract)
	if o.Lat != nil && o.Lon != nil {
		event.SetGeo(*o.Lat, *o.Lon)
	}
	return nil
}

// Dot is a tree on the map.
type Dot struct {
	ID        string  `json:"id"`
	Tag       string  `json:"tag"`
	Lon       float64 `json:"lon"`
	Lat       float64 `json:"lat"`
	Status    string  `json:"status"`
	Words     string  `json:"words" doc:"How it stands"`
	Posterior float64 `json:"posterior" doc:"Of the leader"`
}

// dotColumns are what a dot and its words are made of: to read all of a tree takes thrice as long.
const dotColumns = `tree_id AS id, tag, lon, lat, status, leader, leader_posterior, region, given, given_rank, given_seen, given_now,
	given_step, doubt, scores, named_words, probable_posterior`

// Dots gives the trees of a query that have a position.
func (b *Book) Dots(ctx context.Context, q Query) ([]Dot, error) {
	return b.dots(ctx, b.store.Reader, q)
}

func (b *Book) dots(ctx context.Context, from store.Reader, q Query) ([]Dot, error) {
	sq := b.query(q)
	sq.Placed, sq.Only = true, dotColumns
	sh, dots := b.shelf.Load(), []Dot{}
	err := from.EachTree(ctx, sq, func(l *store.Line) error {
		dots = append(dots, Dot{l.ID, l.Tag, *l.Lon, *l.Lat, l.Status, sh.dotWords(l), l.LeaderPosterior})
		return nil
	})
	return dots, err
}

func (s *shelf) dotWords(l *store.Line) string {
	status := strings.ToLower(worklist.StatusOf(l.Status).Words)
	switch {
	case l.GivenSeen != "":
		return s.givenWords(l) + ", " + logbook.Confirms.Words(l.GivenSeen)
	case l.Status == worklist.Named && l.GivenNow > 0:
		return fmt.Sprintf("%s, %s", s.givenWords(l), answer.Percent(l.GivenNow))
	case l.Status == worklist.Named:
		return s.givenWords(l)
	case l.Leader == "" || l.Scores == 0:
		return status
	case l.Leader == answer.Unlisted:
		return fmt.Sprintf("%s (%s)", l.NamedWords, status)
	case l.Status == worklist.Probable && l.Doubt != "":
		return s.givenWords(l)
	case l.Status == worklist.Probable:
		return fmt.Sprintf("%s, %s", l.NamedWords, answer.Percent(l.ProbablePosterior))
	}
	return fmt.Sprintf("%s leads, %s (%s)", s.english(l.Leader, l.Region), answer.Percent(l.LeaderPosterior), status)
}

// undetermined says whether a rank is that of no name.
func undetermined(rank string) bool { return rank == "" || rank == logbook.Undetermined }
