package web

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/core/tree/answer"
)

// questionOperations answer what is asked of a tree beyond its standing.
func (s *Server) questionOperations(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "compare", Method: http.MethodGet, Path: "/api/trees/{id}/compare",
		Summary: "What speaks for one taxon over another; usually the leader and the runner-up"},
		func(ctx context.Context, in *struct {
			TreePath
			A string `query:"a" doc:"Scientific name"`
			B string `query:"b" doc:"Scientific name"`
		}) (*struct{ Body *answer.Comparison }, error) {
			rec, err := s.book.Record(ctx, in.ID)
			if err != nil {
				return nil, s.problem(err)
			}
			c, err := s.engine().Compare(rec, in.A, in.B)
			return &struct{ Body *answer.Comparison }{c}, s.problem(err)
		})
	huma.Register(api, huma.Operation{OperationID: "why-not", Method: http.MethodGet, Path: "/api/trees/{id}/why-not",
		Summary: "Why an expected taxon does not lead"},
		func(ctx context.Context, in *struct {
			TreePath
			Taxon string `query:"taxon" required:"true" doc:"Scientific name, or unlisted"`
		}) (*struct{ Body *answer.WhyNot }, error) {
			rec, err := s.book.Record(ctx, in.ID)
			if err != nil {
				return nil, s.problem(err)
			}
			w, err := s.engine().WhyNot(rec, in.Taxon)
			return &struct{ Body *answer.WhyNot }{w}, s.problem(err)
		})
}

// walkOperation asks one either/or question at a time.
func (s *Server) walkOperation(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "walk", Method: http.MethodGet, Path: "/api/trees/{id}/walk",
		Summary: "The next either/or question of a key walk"},
		func(ctx context.Context, in *struct {
			TreePath
			Skip []string `query:"skip,explode" maxItems:"100" doc:"Characters that could not be answered"`
		}) (*struct{ Body *answer.Walk }, error) {
			rec, err := s.book.Record(ctx, in.ID)
			if err != nil {
				return nil, s.problem(err)
			}
			w, err := s.engine().Walk(rec, in.Skip)
			return &struct{ Body *answer.Walk }{w}, s.problem(err)
		})
}
