package web

import (
	"context"
	"fmt"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/away"
	"palethicket/book"
)

// homeOperations are what devices ask of home.
func (s *Server) homeOperations(api huma.API) {
	answer(s, api, operation(anybody, whole|byToken, "program", "GET /api/program", "Which program and book this is"),
		func(ctx context.Context, _ *struct{}) (away.Program, error) {
			schema, err := s.of(ctx).Schema(ctx)
			if err != nil {
				return away.Program{}, err
			}
			flora, err := s.of(ctx).FloraDigest()
			return away.Program{Book: s.of(ctx).ID(), Version: book.Version, LogVersion: book.LogVersion, Schema: schema, Flora: flora,
				Probably: s.of(ctx).Bars().Probably, Guarded: s.guarded}, err
		})
	answer(s, api, operation(readers, inCheck|onlyHome|byToken, "weights",
		"GET /api/weights", "What each tract weighs for a device that takes it along"),
		func(ctx context.Context, _ *struct{}) ([]book.Weight, error) { return s.of(ctx).Weights(ctx) })
	huma.Register(api, operation(readers, inCheck|onlyHome|byToken, "along",
		"GET /api/along", "A book of some tracts, packed by gzip, for a device to take along; with Range and If-Range one goes on with it"),
		func(ctx context.Context, in *struct {
			Tract   []string `query:"tract,explode" required:"true" maxItems:"100"`
			Photos  bool     `query:"photos" doc:"Photographs whole, not only as thumbnails"`
			IfRange string   `header:"If-Range" doc:"The ETag of what was begun"`
		}) (*huma.StreamResponse, error) {
			part, err := s.of(ctx).Along(ctx, in.Tract, in.Photos, strings.Trim(in.IfRange, `"`))
			if err != nil {
				return nil, s.problem(err)
			}
			return &huma.StreamResponse{Body: func(hc huma.Context) { sendPart(hc, part) }}, nil
		})
	answer(s, api, operation(readers, inCheck|byToken, "photo-arriving",
		"GET /api/photos/{id}/arriving", "How much of a photograph's file is here"),
		func(ctx context.Context, in *PhotoPath) (*book.Arriving, error) {
			return s.of(ctx).PhotoArriving(ctx, in.ID)
		})
	piece := operation(observers, inCheck|byToken, "photo-piece", "PUT /api/photos/{id}/arriving", "Send a piece of a photograph's file")
	piece.MaxBodyBytes, piece.BodyReadTimeout = 1<<20, uploadTime
	answer(s, api, piece, func(ctx context.Context, in *struct {
		PhotoPath
		At      int64  `query:"at" minimum:"0" doc:"The byte that it begins at"`
		RawBody []byte `contentType:"application/octet-stream"`
	}) (*book.Arriving, error) {
		return s.of(ctx).PhotoPiece(ctx, in.ID, in.At, in.RawBody)
	})
}

// sendPart sends a part of the book, or the rest of one.
func sendPart(hc huma.Context, part *book.Along) {
	defer part.Close()
	hc.SetHeader("Content-Type", "application/gzip")
	hc.SetHeader("Content-Disposition", `attachment; filename="along.db.gz"`)
	hc.SetHeader("ETag", `"`+part.ID+`"`)
	hc.SetHeader("X-Unpacked", fmt.Sprint(part.Size))
	serveFile(hc, part)
}

// awayOperations are a device's own.
func (s *Server) awayOperations(api huma.API) {
	status := func(ctx context.Context) (*away.Status, error) {
		if s.away == nil {
			return &away.Status{
				Version: book.Version,
				Tracts:  []string{},
				Waiting: []away.WaitingOf{},
				Refused: []away.RefusedByHome{},
			}, nil
		}
		return s.away.Status(ctx)
	}
	answer(s, api, operation(readers, inCheck, "away", "GET /api/away", "How this device stands towards home"),
		func(ctx context.Context, _ *struct{}) (*away.Status, error) { return status(ctx) })
	answer(s, api, operation(readers, inCheck, "meet-home", "POST /api/away/meeting", "Meet home now"),
		func(ctx context.Context, _ *struct{}) (*away.Status, error) {
			if s.away != nil {
				_ = s.away.Meet(ctx) // how it went stands in the status
			}
			return status(ctx)
		})
	answer(s, api, operation(readers, inCheck, "tell-again", "POST /api/away/again", "Tell home what it refused once more"),
		func(ctx context.Context, _ *struct{}) (*away.Status, error) {
			if s.away != nil {
				if err := s.of(ctx).TellAgain(ctx, false); err != nil {
					return nil, err
				}
				s.away.Nudge()
			}
			return status(ctx)
		})
	answer(s, api, operation(readers, inCheck, "held", "GET /api/away/held", "All that home does not have, as a file"),
		func(ctx context.Context, _ *struct{}) (*away.Held, error) {
			if s.away == nil {
				return &away.Held{Meeting: book.Meeting{Version: book.LogVersion, Entries: []book.Sent{}}, Book: s.of(ctx).ID()}, nil
			}
			return s.away.Held(ctx)
		})
}

// nudging has a device tell home soon of what was entered.
func (s *Server) nudging(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		next.ServeHTTP(w, r)
		if r.Method != http.MethodGet && r.Method != http.MethodHead && !strings.HasPrefix(r.URL.Path, "/api/away") {
			s.away.Nudge()
		}
	})
}
