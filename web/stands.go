package web

import (
	"bytes"
	"context"
	"io"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
	"palethicket/report"
)

// mapBytes is how large a boundary or the contours of a tract may be.
const mapBytes = 16 << 20

// StandQuery names a tract, or a stand in it.
type StandQuery struct {
	Tract string `query:"tract" doc:"Absent: all"`
	Stand string `query:"stand" doc:"Absent: the whole tract"`
}

// standOperations are about tracts, stands, visits and what grows there.
func (s *Server) standOperations(api huma.API) {
	answer(s, api, operation(readers, inCheck|byToken, "list-stands", "GET /api/stands", "Tracts and their stands"),
		func(ctx context.Context, _ *struct{}) ([]book.Stand, error) { return s.of(ctx).Stands(ctx) })
	answer(s, api, operation(readers, inCheck, "map", "GET /api/map", "What is drawn of every tract and stand"),
		func(ctx context.Context, _ *struct{}) (*book.Map, error) { return s.of(ctx).Map(ctx) })
	answer(s, api, operation(readers, inCheck, "dots", "GET /api/map/trees", "The trees that have a position"),
		func(ctx context.Context, in *TreeQuery) ([]book.Dot, error) { return s.of(ctx).Dots(ctx, in.query()) })
	answer(
		s,
		api,
		operation(readers, inCheck, "nearest",
			"GET /api/map/nearest", "The trees nearest to a place that are not done, and the way to each"),
		func(ctx context.Context, in *struct {
			TreeQuery
			Lon  float64 `query:"lon" required:"true" minimum:"-180" maximum:"180"`
			Lat  float64 `query:"lat" required:"true" minimum:"-90" maximum:"90"`
			Most int     `query:"most" minimum:"1" maximum:"50" default:"5"`
		}) ([]book.Near, error) {
			return s.of(ctx).Nearest(ctx, in.query(), in.Lon, in.Lat, in.Most)
		},
	)
	putStand := operation(leads, notInCheck, "put-stand", "PUT /api/stands", "Keep a stand's boundary and remarks")
	putStand.MaxBodyBytes = mapBytes
	do(s, api, putStand, func(ctx context.Context, in *answered[book.NewStand]) error {
		return s.of(ctx).PutStand(ctx, in.Body, by(ctx, ""))
	})
	putTract := operation(leads, notInCheck, "put-tract", "PUT /api/tracts", "Keep a tract's boundary, terrain and remarks")
	putTract.MaxBodyBytes = mapBytes
	do(s, api, putTract, func(ctx context.Context, in *answered[book.NewTract]) error {
		return s.of(ctx).PutTract(ctx, in.Body, by(ctx, ""))
	})
	do(s, api, operation(leads, notInCheck|onlyHome, "rename-place", "POST /api/places/rename",
		"Give a tract or a stand another name, or make two one"),
		func(ctx context.Context, in *answered[book.Rename]) error {
			return s.of(ctx).Rename(ctx, in.Body, by(ctx, ""))
		})
	do(s, api, operation(leads, notInCheck|onlyHome, "remove-place", "DELETE /api/places", "Take an empty tract or stand out of the book"),
		func(ctx context.Context, in *struct {
			Tract string `query:"tract" required:"true"`
			Stand string `query:"stand" doc:"Absent: the tract"`
		}) error {
			return s.of(ctx).RemovePlace(ctx, in.Tract, in.Stand, by(ctx, ""))
		})
	answer(s, api, operation(readers, inCheck, "list-visits", "GET /api/visits", "Visits, the latest first"),
		func(ctx context.Context, in *struct {
			Tract string `query:"tract"`
		}) ([]book.Visit, error) {
			return s.of(ctx).Visits(ctx, in.Tract)
		})
	do(s, api, operation(observers, notInCheck, "put-visit", "PUT /api/visits", "Keep a visit: its day, crew, weather and snow"),
		func(ctx context.Context, in *answered[book.Visit]) error {
			return s.of(ctx).PutVisit(ctx, in.Body, by(ctx, ""))
		})
	answer(s, api, operation(readers, inCheck, "composition", "GET /api/composition", "What grows in a stand or a tract"),
		func(ctx context.Context, in *StandQuery) (*book.Composition, error) {
			return s.of(ctx).Composition(ctx, in.Tract, in.Stand)
		})
	answer(
		s,
		api,
		operation(readers, inCheck, "accuracy", "GET /api/accuracy", "How often winter's names were right, by trees seen in leaf since"),
		func(ctx context.Context, in *StandQuery) (*book.FieldAccuracy, error) {
			return s.of(ctx).FieldAccuracy(ctx, in.Tract, in.Stand)
		},
	)
	save(s, api, operation(readers, inCheck|heavy, "report-page", "GET /api/report.html", "A report on a tract or stand, as a page"),
		func(ctx context.Context, in *StandQuery) (*savedFile, error) {
			return s.report(ctx, in, report.HTML, "text/html; charset=utf-8", "inline")
		})
	save(s, api, operation(readers, inCheck|heavy, "report-pdf", "GET /api/report.pdf", "A report on a tract or stand, as PDF"),
		func(ctx context.Context, in *struct {
			StandQuery
			PaperQuery
		}) (*savedFile, error) {
			write := func(w io.Writer, r *book.Report) error { return report.PDF(w, r, in.Paper) }
			return s.report(ctx, &in.StandQuery, write, "application/pdf", `attachment; filename="report.pdf"`)
		})
}

func (s *Server) report(
	ctx context.Context,
	in *StandQuery,
	write func(io.Writer, *book.Report) error,
	kind, disposition string,
) (*savedFile, error) {
	r, err := s.of(ctx).Report(ctx, in.Tract, in.Stand)
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	err = write(&out, r)
	return &savedFile{kind, disposition, out.Bytes()}, err
}
