package web

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
)

// TreeQuery says which trees are asked for.
type TreeQuery struct {
	Tract  string   `query:"tract"`
	Stand  string   `query:"stand"`
	Status []string `query:"status,explode" maxItems:"7" doc:"named, ready, probable, doubtful, open, unscored or unreadable; absent: any"`
	Text   string   `query:"text" maxLength:"80" doc:"Part of a tag or of the remarks, or the name of a tree"`
	Sort   string   `query:"sort" enum:"stand,tag,worth,last,buds" doc:"absent: by place and tag, worklists by worth; buds: soonest gone"`
	Aside  bool     `query:"aside" doc:"Those that were set aside as entered by mistake, and only those"`
	Home   bool     `query:"home" doc:"Only those whose best look needs a twig in hand"`
}

func (q *TreeQuery) query() book.Query {
	return book.Query{Tract: q.Tract, Stand: q.Stand, Status: q.Status, Text: q.Text, Sort: q.Sort, Aside: q.Aside, Home: q.Home}
}

// PageQuery says which page of them.
type PageQuery struct {
	Limit  int `query:"limit" default:"100" minimum:"1" maximum:"500"`
	Offset int `query:"offset" default:"0" minimum:"0"`
}

type listQuery struct {
	TreeQuery
	PageQuery
}

// TreePath names the tree in a path.
type TreePath struct {
	ID string `path:"id" doc:"The tree's id"`
}

// viewed is a tree as it is shown, with the revision it shows.
type viewed struct {
	ETag string `header:"ETag"`
	Body *book.TreeView
}

func (s *Server) treeOperations(api huma.API) {
	answer(s, api, operation(readers, inCheck|byToken, "list-trees", "GET /api/trees", "A page of the trees"),
		func(ctx context.Context, in *listQuery) (*book.TreeList, error) {
			return s.of(ctx).Trees(ctx, in.query(), in.Limit, in.Offset)
		})
	answer(
		s,
		api,
		operation(readers, inCheck, "worklist",
			"GET /api/worklist", "Trees that are not settled, those first whose best look is worth most"),
		func(ctx context.Context, in *listQuery) (*book.OpenList, error) {
			return s.of(ctx).Worklist(ctx, in.query(), in.Limit, in.Offset)
		},
	)
	save(s, api, operation(readers, inCheck, "calendar", "GET /api/worklist/calendar.ics", "What to come back for, as an iCalendar file"),
		func(ctx context.Context, in *TreeQuery) (*savedFile, error) {
			text, err := s.of(ctx).ICalendar(ctx, in.query())
			return saved("text/calendar; charset=utf-8", "come-back.ics", []byte(text)), err
		})
	start := operation(observers, notInCheck|byToken, "add-tree", "POST /api/trees", "Start a tree")
	start.DefaultStatus = http.StatusCreated
	view(s, api, start, func(ctx context.Context, in *answered[book.NewTree]) (*book.TreeView, error) {
		in.Body.By = by(ctx, in.Body.By)
		return s.of(ctx).AddTree(ctx, in.Body)
	})
	answer(s, api, operation(readers, notInCheck|byToken, "next-place", "GET /api/trees/next", "Where one's next tree is filed"),
		func(ctx context.Context, _ *struct{}) (book.Place, error) {
			return s.of(ctx).NextPlace(ctx, by(ctx, ""))
		})
	next := operation(observers, notInCheck|byToken, "add-next-tree", "POST /api/trees/next", "Start a tree after the one started last")
	next.DefaultStatus = http.StatusCreated
	view(s, api, next, func(ctx context.Context, in *answered[book.NextTree]) (*book.TreeView, error) {
		in.Body.By = by(ctx, in.Body.By)
		return s.of(ctx).AddNextTree(ctx, in.Body)
	})
	huma.Register(api, operation(readers, inCheck|byToken, "get-tree",
		"GET /api/trees/{id}", "A tree, its looks, and what they come to"), s.getTree)
	s.pressOperations(api)
	s.questionOperations(api)
}

// view registers an operation that answers with a tree as it then is.
func view[In any](s *Server, api huma.API, op huma.Operation, change func(context.Context, *In) (*book.TreeView, error)) {
	huma.Register(api, op, func(ctx context.Context, in *In) (*viewed, error) {
		v, err := change(ctx, in)
		if err != nil {
			return nil, s.problem(err)
		}
		return &viewed{quoted(v.Revision), v}, nil
	})
}

func quoted(revision string) string { return `"` + revision + `"` }

// getTree answers 304 where the page shows the tree as it is.
func (s *Server) getTree(ctx context.Context, in *struct {
	TreePath
	Shown string `header:"If-None-Match" doc:"ETag of what is shown"`
}) (*viewed, error) {
	if in.Shown != "" {
		now, err := s.of(ctx).Revision(ctx, in.ID)
		if err != nil {
			return nil, s.problem(err)
		}
		if in.Shown == quoted(now) {
			return nil, huma.Status304NotModified()
		}
	}
	v, err := s.of(ctx).View(ctx, in.ID)
	if err != nil {
		return nil, s.problem(err)
	}
	return &viewed{quoted(v.Revision), v}, nil
}

// pressOperations change a tree.
func (s *Server) pressOperations(api huma.API) {
	view(s, api, operation(observers, inCheck|byToken, "add-entry", "POST /api/trees/{id}/entries", "Add an entry to a tree's log"),
		func(ctx context.Context, in *struct {
			TreePath
			Body book.Entry
		}) (*book.TreeView, error) {
			if err := own(ctx, in.Body.By); err != nil {
				return nil, err
			}
			in.Body.By = by(ctx, in.Body.By)
			return s.of(ctx).AddEntry(ctx, in.ID, &in.Body)
		})
	view(s, api, operation(observers, notInCheck, "move-tree",
		"POST /api/trees/{id}/move", "Give a tree another tag or stand; where it was is noted"),
		func(ctx context.Context, in *struct {
			TreePath
			Body book.Move
		}) (*book.TreeView, error) {
			in.Body.By = by(ctx, in.Body.By)
			return s.of(ctx).MoveTree(ctx, in.ID, in.Body)
		})
}

// questionOperations answer what is asked of a tree beyond how it stands.
func (s *Server) questionOperations(api huma.API) {
	answer(
		s,
		api,
		operation(readers, inCheck, "tree-story", "GET /api/trees/{id}/story", "A tree's log, each entry with how the tree stood after it"),
		func(ctx context.Context, in *TreePath) (*book.Story, error) { return s.of(ctx).Story(ctx, in.ID) },
	)
	answer(s, api, operation(readers, inCheck, "tree-here",
		"GET /api/trees/{id}/here", "A tree ranked with its stand's own record as the prior"),
		func(ctx context.Context, in *TreePath) (*book.Here, error) { return s.of(ctx).Here(ctx, in.ID) })
	answer(s, api, operation(readers, inCheck, "look-ahead",
		"GET /api/trees/{id}/ahead", "The look at a tree that, with the one to follow each of its answers, tells most a second"),
		func(ctx context.Context, in *TreePath) (*book.Ahead, error) { return s.of(ctx).Ahead(ctx, in.ID) })
	answer(
		s,
		api,
		operation(
			readers, inCheck,
			"own-errors",
			"GET /api/trees/{id}/own-errors",
			"A tree ranked with its observers' own chances of misreading",
		),
		func(ctx context.Context, in *TreePath) (*book.OwnErrors, error) {
			return s.of(ctx).OwnErrors(ctx, in.ID, by(ctx, ""), signedIn(ctx) == nil)
		},
	)
	answer(
		s,
		api,
		operation(readers, inCheck, "drawn", "GET /api/trees/{id}/drawn", "A tree as scored beside the two that lead, to draw them from"),
		func(ctx context.Context, in *TreePath) (*book.Drawn, error) { return s.of(ctx).Drawn(ctx, in.ID) },
	)
	answer(
		s,
		api,
		operation(
			readers, inCheck,
			"compare",
			"GET /api/trees/{id}/compare",
			"What speaks for one taxon over another; usually the leader and the runner-up",
		),
		func(ctx context.Context, in *struct {
			TreePath
			A string `query:"a" doc:"Scientific name"`
			B string `query:"b" doc:"Scientific name"`
		}) (*book.Comparison, error) {
			return s.of(ctx).Compare(ctx, in.ID, in.A, in.B)
		},
	)
	answer(s, api, operation(readers, inCheck, "why-not", "GET /api/trees/{id}/why-not", "Why an expected taxon does not lead"),
		func(ctx context.Context, in *struct {
			TreePath
			Taxon string `query:"taxon" required:"true" doc:"Scientific name, or unlisted"`
		}) (*book.WhyNot, error) {
			return s.of(ctx).WhyNot(ctx, in.ID, in.Taxon)
		})
	answer(s, api, operation(readers, inCheck, "walk", "GET /api/trees/{id}/walk", "The next either/or question of a key walk"),
		func(ctx context.Context, in *struct {
			TreePath
			Skip []string `query:"skip,explode" maxItems:"100" doc:"Characters that could not be answered"`
		}) (*book.Walk, error) {
			return s.of(ctx).Walk(ctx, in.ID, in.Skip)
		})
}
