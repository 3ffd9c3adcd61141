package web

import (
	"context"
	"io"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
)

// PlateLook is how a drawing is to look.
type PlateLook struct {
	Theme string   `query:"theme" enum:"light,dark,contrast,paper" default:"light"`
	Mark  []string `query:"mark,explode" maxItems:"100" doc:"Characters that differ from another drawing beside it: drawn red"`
}

// plateOperations are the drawings. Their addresses hold a digest of all they are made
// from, so that they can be kept for good.
func (s *Server) plateOperations(api huma.API) {
	stream(s, api, operation(readers, inCheck, "draw-plate", "GET /api/plates/{digest}/{what}/{taxon}", "A drawing of a taxon"),
		func(ctx context.Context, in *struct {
			PlateLook
			Digest string `path:"digest"`
			What   string `path:"what" enum:"twig,bark,outline,fruit,leaf"`
			Taxon  string `path:"taxon"`
			Region string `query:"region"`
			Age    string `query:"age" enum:"young,mature,old" default:"mature"`
			Zone   string `query:"zone" enum:"base,breast,upper" default:"breast"`
			Odd    uint64 `query:"odd" doc:"0 for the usual one, else which specimen"`
		}) (*streamed, error) {
			p, err := s.of(ctx).DrawPlate(&book.PlateAsked{What: in.What, Taxon: in.Taxon, Region: in.Region, Age: in.Age, Zone: in.Zone,
				Odd: in.Odd, Theme: in.Theme, Marked: in.Mark})
			return s.picture(p, err, in.Digest == s.of(ctx).PlatesDigest())
		})
	stream(
		s,
		api,
		operation(readers, inCheck, "draw-state",
			"GET /api/plates/{digest}/states/{character}/{state}", "A state of a character, drawn small"),
		func(ctx context.Context, in *struct {
			PlateLook
			Digest    string `path:"digest"`
			Character string `path:"character"`
			State     string `path:"state"`
		}) (*streamed, error) {
			p, err := s.of(ctx).DrawState(in.Character, in.State, in.Theme)
			return s.picture(p, err, in.Digest == s.of(ctx).PlatesDigest())
		},
	)
	stream(s, api, operation(readers, inCheck, "draw-scored", "GET /api/trees/{id}/plates/{what}", "A drawing of a tree as it was scored"),
		func(ctx context.Context, in *struct {
			PlateLook
			TreePath
			What string `path:"what" enum:"twig,bark,outline"`
			Last string `query:"last" doc:"The tree's last entry, so that another drawing has another address"`
		}) (*streamed, error) {
			p, err := s.of(ctx).DrawScored(ctx, in.ID, in.What, in.Theme, in.Mark)
			return s.picture(p, err, false)
		})
}

// picture sends a drawing; lasting says that its address never means another.
func (s *Server) picture(p *book.Picture, err error, lasting bool) (*streamed, error) {
	if err != nil {
		return nil, err
	}
	more := http.Header{"Cache-Control": {"no-cache"}}
	if lasting {
		more.Set("Cache-Control", forEver)
	}
	return &streamed{p.Kind, "inline", more, func(ctx context.Context, w io.Writer) error {
		_, err := w.Write(p.Body)
		return err
	}}, nil
}
