package web

import (
	"context"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/core/flora"
	"palethicket/core/flora/handbook"
	"palethicket/core/flora/names"
	"palethicket/core/tree/record"
)

// PoolQuery is whose trees are asked for.
type PoolQuery struct {
	Pool string `query:"pool" default:"eastern-north-america" doc:"A region, or a list of the book"`
}

// floraOperations answer what is asked of the flora itself.
func (s *Server) floraOperations(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-taxa", Method: http.MethodGet, Path: "/api/flora/taxa",
		Summary: "Taxa of a pool, filtered by what they show"},
		func(_ context.Context, in *struct {
			PoolQuery
			Show []string `query:"show,explode" maxItems:"40" doc:"Character and state, as bark.texture:smooth; a sign's states are seen and not-seen"`
		}) (*struct{ Body []handbook.TaxonLine }, error) {
			var shown []handbook.Shown
			for _, text := range in.Show {
				one, err := handbook.ParseShown(text)
				if err != nil {
					return nil, s.problem(&record.FieldError{Field: "show", Message: err.Error()})
				}
				shown = append(shown, one)
			}
			lines, err := s.book.Shelf().Handbook.List(in.Pool, shown)
			if err != nil {
				return nil, s.problem(&record.FieldError{Field: "show", Message: err.Error()})
			}
			return &struct{ Body []handbook.TaxonLine }{lines}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "get-taxon", Method: http.MethodGet, Path: "/api/flora/taxa/{name}",
		Summary: "A taxon as a page"},
		func(_ context.Context, in *struct {
			Name string `path:"name" doc:"Scientific name"`
		}) (*struct{ Body *handbook.TaxonPage }, error) {
			page, err := s.book.Shelf().Handbook.Page(in.Name)
			if err == nil && page == nil {
				return nil, huma.Error404NotFound("the flora has no taxon of this name")
			}
			return &struct{ Body *handbook.TaxonPage }{page}, s.problem(err)
		})
	huma.Register(api, huma.Operation{OperationID: "get-character", Method: http.MethodGet, Path: "/api/flora/characters/{id}",
		Summary: "A character, and which trees show each of its states"},
		func(_ context.Context, in *struct {
			ID string `path:"id"`
			PoolQuery
		}) (*struct{ Body *handbook.CharacterPage }, error) {
			page, err := s.book.Shelf().Handbook.Character(in.ID, in.Pool)
			if err != nil {
				return nil, s.problem(&record.FieldError{Field: "pool", Message: err.Error()})
			}
			if page == nil {
				return nil, huma.Error404NotFound("there is no character of this id")
			}
			return &struct{ Body *handbook.CharacterPage }{page}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "get-plate", Method: http.MethodGet, Path: "/api/flora/taxa/{name}/plate",
		Summary: "What a taxon usually shows, or one specimen of it, to draw it from"},
		func(_ context.Context, in *struct {
			Name string `path:"name" doc:"Scientific name"`
			Pool string `query:"pool" default:"eastern-north-america" doc:"Whose English names"`
			Age  string `query:"age" enum:"young,mature,old" default:"mature"`
			Zone string `query:"zone" enum:"base,breast,upper" default:"breast" doc:"Height on the trunk, for bark"`
			Odd  uint64 `query:"odd" default:"0" doc:"0: the usual one; else a specimen drawn with this seed"`
		}) (*struct{ Body *handbook.Plate }, error) {
			plate, err := s.book.Shelf().Handbook.Plate(in.Name, in.Pool, flora.Age(slices.Index(flora.AgeWords, in.Age)),
				flora.Zone(slices.Index(flora.ZoneWords, in.Zone)), in.Odd)
			if err == nil && plate == nil {
				return nil, huma.Error404NotFound("the flora has no taxon of this name")
			}
			return &struct{ Body *handbook.Plate }{plate}, s.problem(err)
		})
	huma.Register(api, huma.Operation{OperationID: "list-plates", Method: http.MethodGet, Path: "/api/flora/plates",
		Summary: "What the taxa of a pool usually show, to draw them from"},
		func(_ context.Context, in *PoolQuery) (*struct{ Body []handbook.Plate }, error) {
			plates, err := s.book.Shelf().Handbook.Plates(in.Pool)
			if err != nil {
				return nil, s.problem(&record.FieldError{Field: "pool", Message: err.Error()})
			}
			return &struct{ Body []handbook.Plate }{plates}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "beside", Method: http.MethodGet, Path: "/api/flora/beside",
		Summary: "Two to four taxa side by side, in what they differ"},
		func(_ context.Context, in *struct {
			PoolQuery
			Taxa []string `query:"taxon,explode" doc:"Scientific names"`
		}) (*struct{ Body *handbook.Beside }, error) {
			out, err := s.book.Shelf().Handbook.Beside(in.Pool, in.Taxa)
			if err != nil {
				return nil, s.problem(&record.FieldError{Field: "taxon", Message: err.Error()})
			}
			return &struct{ Body *handbook.Beside }{out}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "find-names", Method: http.MethodGet, Path: "/api/flora/names",
		Summary: "Trees by any name, with what is ambiguous about it"},
		func(_ context.Context, in *struct {
			Query string `query:"q" required:"true" maxLength:"120"`
		}) (*struct{ Body names.Found }, error) {
			return &struct{ Body names.Found }{s.book.Shelf().Names.Search(in.Query)}, nil
		})
}
