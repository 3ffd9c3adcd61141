package web

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
	"palethicket/store"
)

// TreeQuery says which trees are asked for.
type TreeQuery struct {
	Tract  string   `query:"tract"`
	Stand  string   `query:"stand"`
	Status []string `query:"status,explode" maxItems:"5" doc:"named, doubtful, ready, open or unscored; absent: any"`
	Text   string   `query:"text" maxLength:"80" doc:"Part of a tag or of the remarks, or the name of a tree"`
	Sort   string   `query:"sort" enum:"place,tag,worth,last" doc:"absent: by tract, stand and tag, and worklists by what a look is worth"`
}

// PageQuery says which page of them.
type PageQuery struct {
	Limit  int `query:"limit" default:"100" minimum:"1" maximum:"500"`
	Offset int `query:"offset" default:"0" minimum:"0"`
}

// query turns what was asked into the store's terms. A word that names trees
// finds those; any other is looked for in tags and remarks.
func (s *Server) query(in *TreeQuery) store.Query {
	q := store.Query{Tract: in.Tract, Stand: in.Stand, Status: in.Status, Text: in.Text, Sort: in.Sort}
	q.Taxa = s.book.TaxaCalled(in.Text)
	return q
}

// TreeList is a page of the list.
type TreeList struct {
	Trees []store.Line `json:"trees"`
	Total int          `json:"total"`
}

// TreePath names the tree in a path.
type TreePath struct {
	ID string `path:"id" doc:"The tree's id"`
}

type viewOut struct{ Body *book.TreeView }

func (s *Server) treeOperations(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-trees", Method: http.MethodGet, Path: "/api/trees",
		Summary: "A page of the trees"}, s.listTrees)
	huma.Register(api, huma.Operation{OperationID: "add-tree", Method: http.MethodPost, Path: "/api/trees",
		Summary: "Start a tree", DefaultStatus: http.StatusCreated},
		func(ctx context.Context, in *struct{ Body book.NewTree }) (*viewOut, error) {
			if err := s.book.AddTree(ctx, in.Body); err != nil {
				return nil, s.problem(err)
			}
			return s.viewOut(ctx, in.Body.ID)
		})
	huma.Register(api, huma.Operation{OperationID: "get-tree", Method: http.MethodGet, Path: "/api/trees/{id}",
		Summary: "A tree, its looks, and what they come to"},
		func(ctx context.Context, in *TreePath) (*viewOut, error) { return s.viewOut(ctx, in.ID) })
	huma.Register(api, huma.Operation{OperationID: "add-entry", Method: http.MethodPost, Path: "/api/trees/{id}/entries",
		Summary: "Add an entry to a tree's log"}, s.addEntry)
	huma.Register(api, huma.Operation{OperationID: "undo-entry", Method: http.MethodPost, Path: "/api/trees/{id}/undo",
		Summary: "Undo an entry of a tree by further entries"}, s.undoEntry)
	huma.Register(api, huma.Operation{OperationID: "move-tree", Method: http.MethodPut, Path: "/api/trees/{id}/place",
		Summary: "Give a tree another tag or stand; where it was is noted"}, s.moveTree)
	huma.Register(api, huma.Operation{OperationID: "tree-story", Method: http.MethodGet, Path: "/api/trees/{id}/story",
		Summary: "A tree's log, each entry with how the tree stood after it"},
		func(ctx context.Context, in *TreePath) (*struct{ Body *book.Story }, error) {
			story, err := s.book.Story(ctx, in.ID)
			return &struct{ Body *book.Story }{story}, s.problem(err)
		})
	huma.Register(api, huma.Operation{OperationID: "tree-here", Method: http.MethodGet, Path: "/api/trees/{id}/here",
		Summary: "A tree ranked with its stand's own record as the prior"},
		func(ctx context.Context, in *TreePath) (*struct{ Body *book.Here }, error) {
			here, err := s.book.Here(ctx, in.ID)
			return &struct{ Body *book.Here }{here}, s.problem(err)
		})
	s.questionOperations(api)
	s.walkOperation(api)
}

func (s *Server) listTrees(ctx context.Context, in *struct {
	TreeQuery
	PageQuery
}) (*struct{ Body TreeList }, error) {
	lines, total, err := s.book.Store.Trees(ctx, s.query(&in.TreeQuery), in.Limit, in.Offset)
	return &struct{ Body TreeList }{TreeList{lines, total}}, s.problem(err)
}

func (s *Server) addEntry(ctx context.Context, in *struct {
	TreePath
	Body logbook.Entry
}) (*viewOut, error) {
	if who := signedIn(ctx); who != nil {
		in.Body.By = who.Name
	}
	if err := s.book.AddEntry(ctx, in.ID, &in.Body); err != nil {
		return nil, s.problem(err)
	}
	return s.viewOut(ctx, in.ID)
}

func (s *Server) undoEntry(ctx context.Context, in *struct {
	TreePath
	Body struct {
		Entry string `json:"entry" doc:"Id of the entry to undo"`
		By    string `json:"by,omitempty" maxLength:"80"`
	}
}) (*viewOut, error) {
	if err := s.book.Undo(ctx, in.ID, in.Body.Entry, by(ctx, in.Body.By)); err != nil {
		return nil, s.problem(err)
	}
	return s.viewOut(ctx, in.ID)
}

func (s *Server) moveTree(ctx context.Context, in *struct {
	TreePath
	Body struct {
		Tag   string `json:"tag" minLength:"1" maxLength:"40" pattern:"\\S"`
		Tract string `json:"tract" minLength:"1" maxLength:"80" pattern:"\\S"`
		Stand string `json:"stand" minLength:"1" maxLength:"80" pattern:"\\S"`
		By    string `json:"by,omitempty" maxLength:"80"`
	}
}) (*viewOut, error) {
	b := in.Body
	if err := s.book.MoveTree(ctx, in.ID, b.Tag, b.Tract, b.Stand, by(ctx, b.By)); err != nil {
		return nil, s.problem(err)
	}
	return s.viewOut(ctx, in.ID)
}

func (s *Server) viewOut(ctx context.Context, id string) (*viewOut, error) {
	v, err := s.book.View(ctx, id, answer.Usual)
	return &viewOut{v}, s.problem(err)
}
