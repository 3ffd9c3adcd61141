package web

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
)

// AmongQuery is whose trees are asked for.
type AmongQuery struct {
	Region string `query:"region" doc:"Region of the flora; absent: the home region"`
	List   string `query:"list" doc:"List of the book; absent: the whole region"`
}

func (q *AmongQuery) among() book.Among { return book.Among{Region: q.Region, List: q.List} }

// TaxonPath names a taxon in a path.
type TaxonPath struct {
	Name string `path:"name" doc:"Scientific name"`
}

// floraOperations answer what is asked of the flora itself.
func (s *Server) floraOperations(api huma.API) {
	answer(s, api, operation(readers, inCheck, "list-taxa", "GET /api/flora/taxa", "Taxa of a region or list, filtered by what they show"),
		func(ctx context.Context, in *struct {
			AmongQuery
			Show []string `query:"show,explode" maxItems:"40" doc:"Character and state: bark.texture:smooth; a sign's states are seen and not-seen"`
		}) ([]book.TaxonLine, error) {
			return s.of(ctx).Taxa(in.among(), in.Show)
		})
	answer(s, api, operation(readers, inCheck, "get-taxon", "GET /api/flora/taxa/{name}", "A taxon as a page"),
		func(ctx context.Context, in *TaxonPath) (*book.TaxonPage, error) { return s.of(ctx).Taxon(in.Name) })
	answer(
		s,
		api,
		operation(readers, inCheck, "get-character",
			"GET /api/flora/characters/{id}", "A character, and which trees show each of its states"),
		func(ctx context.Context, in *struct {
			ID string `path:"id"`
			AmongQuery
		}) (*book.CharacterPage, error) {
			return s.of(ctx).Character(in.ID, in.among())
		},
	)
	answer(
		s,
		api,
		operation(
			readers, inCheck,
			"get-plate",
			"GET /api/flora/taxa/{name}/plate",
			"What a taxon usually shows, or one specimen of it, to draw it from",
		),
		func(ctx context.Context, in *struct {
			TaxonPath
			Region string `query:"region" doc:"Whose English names"`
			Age    string `query:"age" enum:"young,mature,old" default:"mature"`
			Zone   string `query:"zone" enum:"base,breast,upper" default:"breast" doc:"Height on the trunk, for bark"`
			Odd    uint64 `query:"odd" default:"0" doc:"0: the usual one; else a specimen drawn with this seed"`
		}) (*book.Plate, error) {
			return s.of(ctx).Plate(in.Name, in.Region, in.Age, in.Zone, in.Odd)
		},
	)
	answer(
		s,
		api,
		operation(readers, inCheck, "list-plates",
			"GET /api/flora/plates", "What the taxa of a region or list usually show, to draw them from"),
		func(ctx context.Context, in *AmongQuery) ([]book.Plate, error) { return s.of(ctx).Plates(in.among()) },
	)
	answer(s, api, operation(readers, inCheck, "beside", "GET /api/flora/beside", "Two to four taxa side by side, in what they differ"),
		func(ctx context.Context, in *struct {
			AmongQuery
			Taxa []string `query:"taxon,explode" doc:"Scientific names"`
		}) (*book.Beside, error) {
			return s.of(ctx).Beside(in.among(), in.Taxa)
		})
	answer(s, api, operation(readers, inCheck, "find-names", "GET /api/flora/names", "Trees by any name, with what is ambiguous about it"),
		func(ctx context.Context, in *struct {
			Query string `query:"q" required:"true" maxLength:"120"`
		}) (book.Found, error) {
			return s.of(ctx).FindNames(in.Query), nil
		})
}

// ListPath names the list in a path.
type ListPath struct {
	Name string `path:"name"`
}

// BarsPut says from when a name is probable.
type BarsPut struct {
	Body struct {
		Probably float64 `json:"probably" doc:"As 0.70"`
	}
}

// barOperations say what names must reach, and change it for everybody.
func (s *Server) barOperations(api huma.API) {
	answer(s, api, operation(readers, inCheck, "bars", "GET /api/bars", "The chances that names must reach"),
		func(ctx context.Context, _ *struct{}) (book.Bars, error) { return s.of(ctx).Bars(), nil })
	answer(s, api, operation(leads, notInCheck, "put-bars",
		"PUT /api/bars", "Say from when a name is probable; trees are weighed again for it"),
		func(ctx context.Context, in *BarsPut) (book.Bars, error) {
			err := s.of(ctx).PutProbably(ctx, in.Body.Probably)
			return s.of(ctx).Bars(), err
		})
}

func (s *Server) listOperations(api huma.API) {
	answer(s, api, operation(readers, inCheck, "list-lists", "GET /api/lists", "The book's own lists of trees"),
		func(ctx context.Context, _ *struct{}) ([]book.List, error) { return s.of(ctx).Lists(ctx) })
	answer(s, api, operation(leads, notInCheck|heavy, "put-list", "PUT /api/lists", "Keep a list, in place of the one of that name"),
		func(ctx context.Context, in *answered[book.NewList]) (*book.List, error) {
			return s.of(ctx).PutList(ctx, in.Body, by(ctx, ""))
		})
	answer(s, api, operation(readers, inCheck, "weighing",
		"GET /api/lists/weighing", "How far trees are weighed again after a list changed"),
		func(ctx context.Context, _ *struct{}) (book.Weighing, error) { return s.of(ctx).Weighing(), nil })
	do(s, api, operation(leads, notInCheck, "drop-list", "DELETE /api/lists/{name}", "Remove a list that no tree is ranked among"),
		func(ctx context.Context, in *ListPath) error { return s.of(ctx).DropList(ctx, in.Name, by(ctx, "")) })
	save(s, api, operation(readers, inCheck, "list-table", "GET /api/lists/{name}/{format}", "A list, or a region's trees, as a file"),
		func(ctx context.Context, in *struct {
			ListPath
			Format string `path:"format" enum:"csv,yaml"`
		}) (*savedFile, error) {
			text, err := s.of(ctx).ListFile(in.Name, in.Format)
			kind := map[string]string{"csv": "text/csv; charset=utf-8", "yaml": "application/yaml; charset=utf-8"}[in.Format]
			return saved(kind, "trees."+in.Format, []byte(text)), err
		})
}
