package web

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/oklog/ulid/v2"

	"palethicket/core/identify"
	"palethicket/core/logbook"
	"palethicket/core/record"
	"palethicket/store"
)

// TreeView is a tree with all that stands of it and what it comes to.
type TreeView struct {
	Tree   store.Tree       `json:"tree"`
	Facts  logbook.Standing `json:"facts"`
	Looks  []LookView       `json:"looks"`
	Names  []NameView       `json:"names" doc:"Names given, newest first"`
	Notes  []string         `json:"notes"`
	Doubt  string           `json:"doubt" doc:"Why the evidence does not carry the last name given, or empty"`
	Result identify.Result  `json:"result"`
}

// LookView is a look, its scores and what came of it.
type LookView struct {
	ID     string      `json:"id"`
	From   string      `json:"from"`
	Note   string      `json:"note"`
	Scores []ScoreView `json:"scores"`
	identify.LookResult
}

// ScoreView is a score that stands.
type ScoreView struct {
	Entry string `json:"entry" doc:"Id of the entry that made it, for withdrawing it"`
	record.Score
}

// NameView is a name given and how the tree stood then.
type NameView struct {
	logbook.Naming
	By string    `json:"by"`
	At time.Time `json:"at"`
}

// TreeLine is a tree in the list.
type TreeLine struct {
	store.Tree
	Named  identify.Name `json:"named" doc:"How far the evidence carries a name now"`
	Leader string        `json:"leader"`
	Given  *NameView     `json:"given" doc:"The last name given, if any"`
	Looks  int           `json:"looks"`
	Scores int           `json:"scores"`
	Doubt  string        `json:"doubt" doc:"Why the evidence does not carry that name, or empty"`
	Doubts int           `json:"doubts" doc:"Looks that probably are of another tree"`
	Last   time.Time     `json:"last" doc:"When the last entry was made"`
}

// TreeList is a page of the list.
type TreeList struct {
	Trees []TreeLine `json:"trees"`
	Total int        `json:"total"`
}

// NewTree starts a tree.
type NewTree struct {
	ID     string `json:"id" doc:"ULID, made by who starts the tree" minLength:"26" maxLength:"26"`
	Tag    string `json:"tag" doc:"What is written on its tag" minLength:"1" maxLength:"40" pattern:"\\S"`
	Tract  string `json:"tract" minLength:"1" maxLength:"80" pattern:"\\S"`
	Stand  string `json:"stand" minLength:"1" maxLength:"80" pattern:"\\S"`
	Region string `json:"region,omitempty" default:"eastern-north-america"`
}

// TreePath names the tree in a path.
type TreePath struct {
	ID string `path:"id" doc:"The tree's id"`
}

type viewOut struct{ Body *TreeView }

func (s *Server) treeOperations(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-trees", Method: http.MethodGet, Path: "/api/trees",
		Summary: "A page of the trees, by tract, stand and tag"}, s.listTrees)
	huma.Register(api, huma.Operation{OperationID: "add-tree", Method: http.MethodPost, Path: "/api/trees",
		Summary: "Start a tree", DefaultStatus: http.StatusCreated}, s.addTree)
	huma.Register(api, huma.Operation{OperationID: "get-tree", Method: http.MethodGet, Path: "/api/trees/{id}",
		Summary: "A tree, its looks, and what they come to"},
		func(ctx context.Context, in *TreePath) (*viewOut, error) { return s.viewOut(ctx, in.ID) })
	huma.Register(api, huma.Operation{OperationID: "add-entry", Method: http.MethodPost, Path: "/api/trees/{id}/entries",
		Summary: "Add an entry to a tree's log"}, s.addEntry)
	s.questionOperations(api)
	s.walkOperation(api)
	huma.Register(api, huma.Operation{OperationID: "list-places", Method: http.MethodGet, Path: "/api/places",
		Summary: "Tracts and their stands"},
		func(ctx context.Context, _ *struct{}) (*struct{ Body []store.Place }, error) {
			places, err := s.store.Places(ctx)
			return &struct{ Body []store.Place }{places}, s.problem(err)
		})
}

func (s *Server) listTrees(ctx context.Context, in *struct {
	Limit  int `query:"limit" default:"200" minimum:"1" maximum:"500"`
	Offset int `query:"offset" default:"0" minimum:"0"`
}) (*struct{ Body TreeList }, error) {
	total, err := s.store.Count(ctx)
	if err != nil {
		return nil, s.problem(err)
	}
	trees, err := s.store.Trees(ctx, in.Limit, in.Offset)
	if err != nil {
		return nil, s.problem(err)
	}
	out := &struct{ Body TreeList }{TreeList{Trees: []TreeLine{}, Total: total}}
	for _, t := range trees {
		line, err := s.line(ctx, t)
		if err != nil {
			return nil, s.problem(err)
		}
		out.Body.Trees = append(out.Body.Trees, line)
	}
	return out, nil
}

func (s *Server) line(ctx context.Context, t store.Tree) (TreeLine, error) {
	v, last, err := s.view(ctx, t, identify.Options{})
	if err != nil {
		return TreeLine{}, err
	}
	line := TreeLine{Tree: t, Named: v.Result.Named, Leader: v.Result.Ranking[0].Taxon, Looks: len(v.Looks), Last: last}
	for _, l := range v.Looks {
		line.Scores += len(l.Scores)
		if l.Stranger {
			line.Doubts++
		}
	}
	if len(v.Names) > 0 {
		line.Given, line.Doubt = &v.Names[0], v.Doubt
	}
	return line, nil
}

func (s *Server) addTree(ctx context.Context, in *struct{ Body NewTree }) (*viewOut, error) {
	b := in.Body
	if _, err := ulid.ParseStrict(b.ID); err != nil {
		return nil, s.problem(&record.FieldError{Field: "id", Message: "want a ULID of 26 characters"})
	}
	if _, err := record.Resolve(s.flora(), &record.Record{Region: b.Region}); err != nil {
		return nil, s.problem(err)
	}
	t := store.Tree{ID: b.ID, Tag: b.Tag, Region: b.Region, Tract: b.Tract, Stand: b.Stand}
	if err := s.store.AddTree(ctx, t); err != nil {
		return nil, s.problem(err)
	}
	return s.viewOut(ctx, b.ID)
}

func (s *Server) addEntry(ctx context.Context, in *struct {
	TreePath
	Body logbook.Entry
}) (*viewOut, error) {
	e := &in.Body
	if err := e.Check(); err != nil {
		return nil, s.problem(err)
	}
	t, err := s.store.Tree(ctx, in.ID)
	if err != nil {
		return nil, s.problem(err)
	}
	log, err := s.store.Entries(ctx, t.ID)
	if err != nil {
		return nil, s.problem(err)
	}
	if !sent(log, e) { // an entry sent again was checked when it first came
		if err := s.checkEntry(t, log, e); err != nil {
			return nil, s.problem(err)
		}
	}
	if err := s.store.Append(ctx, t.ID, e); err != nil {
		return nil, s.problem(err)
	}
	return s.viewOut(ctx, t.ID)
}

// sent says whether the log already has the entry, and takes over what the
// server wrote into it then.
func sent(log []logbook.Entry, e *logbook.Entry) bool {
	for _, old := range log {
		if old.ID == e.ID && old.Kind == e.Kind {
			if e.Name != nil && old.Name != nil {
				e.Name.Posterior, e.Name.Leader = old.Name.Posterior, old.Name.Leader
			}
			return true
		}
	}
	return false
}

// checkEntry refuses an entry that does not fit the tree as it stands.
func (s *Server) checkEntry(t store.Tree, log []logbook.Entry, e *logbook.Entry) error {
	before := logbook.Replay(log)
	if err := before.Fits(e); err != nil {
		return err
	}
	switch e.Kind {
	case logbook.KindScore:
		return s.checkRecord("score", &record.Record{Region: t.Region,
			Looks: []record.Look{{From: "tree", Scores: []record.Score{*e.Score}}}})
	case logbook.KindLook:
		return s.checkRecord("from", &record.Record{Region: t.Region, Looks: []record.Look{{From: e.From}}})
	case logbook.KindFacts:
		return s.checkRecord("facts", logbook.Replay([]logbook.Entry{*e}).Record(t.Tag, t.Region))
	case logbook.KindName:
		return s.checkName(t, before, e.Name)
	}
	return nil
}

// checkRecord checks a small record made from an entry, and names the wrong
// field as it stands in the entry.
func (s *Server) checkRecord(field string, rec *record.Record) error {
	_, err := record.Resolve(s.flora(), rec)
	var errs record.Errors
	if errors.As(err, &errs) {
		for _, e := range errs {
			e.Field = fieldInEntry(field, e.Field)
		}
	}
	return err
}

// checkName refuses a name that is not of the pool, and writes down how the
// tree stood when it was named.
func (s *Server) checkName(t store.Tree, st *logbook.State, n *logbook.Naming) error {
	res, err := s.engine().Identify(st.Record(t.Tag, t.Region), identify.Options{})
	if err != nil {
		return err
	}
	n.Leader, n.Posterior = res.Ranking[0].Taxon, 0
	if n.Rank == "undetermined" {
		return nil
	}
	share, err := s.engine().Share(res, st.Record(t.Tag, t.Region).Region, n.Rank, n.Name)
	if err != nil {
		return &record.FieldError{Field: "name.name", Message: err.Error()}
	}
	n.Posterior = share
	return nil
}

func (s *Server) viewOut(ctx context.Context, id string) (*viewOut, error) {
	t, err := s.store.Tree(ctx, id)
	if err != nil {
		return nil, s.problem(err)
	}
	v, _, err := s.view(ctx, t, identify.Usual)
	if err != nil {
		return nil, s.problem(err)
	}
	return &viewOut{v}, nil
}

// view replays a tree's log and weighs what stands.
func (s *Server) view(ctx context.Context, t store.Tree, opt identify.Options) (*TreeView, time.Time, error) {
	log, err := s.store.Entries(ctx, t.ID)
	if err != nil {
		return nil, time.Time{}, err
	}
	st := logbook.Replay(log)
	res, err := s.engine().Identify(st.Record(t.Tag, t.Region), opt)
	if err != nil {
		return nil, time.Time{}, fmt.Errorf("tree %s: %w", t.Tag, err)
	}
	v := &TreeView{Tree: t, Facts: st.Facts, Looks: []LookView{}, Names: []NameView{}, Notes: st.Notes, Result: *res}
	if v.Notes == nil {
		v.Notes = []string{}
	}
	for i, l := range st.Looks {
		lv := LookView{ID: l.ID, From: l.From, Note: l.Note, Scores: []ScoreView{}, LookResult: res.Looks[i]}
		for _, sc := range l.Scores {
			lv.Scores = append(lv.Scores, ScoreView{sc.Entry, sc.Score})
		}
		v.Looks = append(v.Looks, lv)
	}
	for i := len(st.Names) - 1; i >= 0; i-- {
		n := st.Names[i]
		v.Names = append(v.Names, NameView{n.Naming, n.By, n.At})
	}
	if len(v.Names) > 0 {
		v.Doubt = s.engine().NameDoubt(res, st.Record(t.Tag, t.Region).Region, v.Names[0].Rank, v.Names[0].Name)
	}
	return v, st.Last, nil
}
