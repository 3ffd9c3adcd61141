package web

import (
	"bytes"
	"context"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
)

// plotOperations keep sample points and say what they add up to, and which maples bear taps.
func (s *Server) plotOperations(api huma.API) {
	answer(s, api, operation(readers, inCheck, "list-plots",
		"GET /api/plots", "Sample points of a stand or tract, and what they add up to"),
		func(ctx context.Context, in *StandQuery) (*book.PlotTally, error) {
			return s.of(ctx).Plots(ctx, in.Tract, in.Stand)
		})
	do(s, api, operation(observers, inCheck, "put-plot", "PUT /api/plots", "Keep a sample point and what was counted from it"),
		func(ctx context.Context, in *answered[book.Plot]) error {
			return s.of(ctx).PutPlot(ctx, in.Body, by(ctx, ""))
		})
	save(s, api, operation(readers, inCheck, "plots-table", "GET /api/plots.csv", "The counted stems as a table"),
		func(ctx context.Context, in *StandQuery) (*savedFile, error) {
			var out bytes.Buffer
			err := s.of(ctx).PlotsCSV(ctx, &out, in.Tract, in.Stand)
			return saved("text/csv; charset=utf-8", "plots.csv", out.Bytes()), err
		})
	answer(s, api, operation(readers, inCheck, "sugarbush",
		"GET /api/sugarbush", "Maples of a stand or tract, with the taps that they bear"),
		func(ctx context.Context, in *StandQuery) (*book.Sugarbush, error) {
			return s.of(ctx).Sugarbush(ctx, in.Tract, in.Stand)
		})
}
