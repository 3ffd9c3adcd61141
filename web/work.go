package web

import (
	"bytes"
	"context"
	"io"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
	"palethicket/report"
)

// workOperations are the worklist and what grows here.
func (s *Server) workOperations(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "worklist", Method: http.MethodGet, Path: "/api/worklist",
		Summary: "Trees that are not settled, those first whose best look is worth most"},
		func(ctx context.Context, in *struct {
			TreeQuery
			PageQuery
		}) (*struct{ Body *book.OpenList }, error) {
			list, err := s.book.Worklist(ctx, s.query(&in.TreeQuery), in.Limit, in.Offset)
			return &struct{ Body *book.OpenList }{list}, s.problem(err)
		})
	huma.Register(api, huma.Operation{OperationID: "calendar", Method: http.MethodGet, Path: "/api/worklist/calendar.ics",
		Summary: "What to come back for, as an iCalendar file"},
		func(ctx context.Context, in *TreeQuery) (*savedFile, error) {
			text, err := s.book.ICalendar(ctx, s.query(in))
			if err != nil {
				return nil, s.problem(err)
			}
			return saved("text/calendar; charset=utf-8", "come-back.ics", []byte(text)), nil
		})
	huma.Register(api, huma.Operation{OperationID: "composition", Method: http.MethodGet, Path: "/api/composition",
		Summary: "What grows in a stand or a tract"},
		func(ctx context.Context, in *PlaceQuery) (*struct{ Body *book.Composition }, error) {
			c, err := s.book.Composition(ctx, in.Tract, in.Stand)
			return &struct{ Body *book.Composition }{c}, s.problem(err)
		})
	huma.Register(api, huma.Operation{OperationID: "report-page", Method: http.MethodGet, Path: "/api/report.html",
		Summary: "A report on a tract or stand, as a page"},
		func(ctx context.Context, in *PlaceQuery) (*savedFile, error) {
			return s.report(ctx, in, report.HTML, "text/html; charset=utf-8", "inline")
		})
	huma.Register(api, huma.Operation{OperationID: "report-pdf", Method: http.MethodGet, Path: "/api/report.pdf",
		Summary: "A report on a tract or stand, as PDF"},
		func(ctx context.Context, in *PlaceQuery) (*savedFile, error) {
			return s.report(ctx, in, report.PDF, "application/pdf", `attachment; filename="report.pdf"`)
		})
}

// PlaceQuery names a tract, or a stand in it.
type PlaceQuery struct {
	Tract string `query:"tract" doc:"Absent: all"`
	Stand string `query:"stand" doc:"Absent: the whole tract"`
}

// writeReport writes a report in one of its forms.
type writeReport func(w io.Writer, r *book.Report, english func(taxon string) string) error

func (s *Server) report(ctx context.Context, in *PlaceQuery, write writeReport, kind, disposition string) (*savedFile, error) {
	r, err := s.book.Report(ctx, in.Tract, in.Stand)
	if err != nil {
		return nil, s.problem(err)
	}
	var out bytes.Buffer
	english := func(taxon string) string { return s.book.English(taxon, s.flora().HomeRegion()) }
	if err := write(&out, r, english); err != nil {
		return nil, s.problem(err)
	}
	return &savedFile{kind, disposition, out.Bytes()}, nil
}

// savedFile is a file to be saved.
type savedFile struct {
	ContentType        string `header:"Content-Type"`
	ContentDisposition string `header:"Content-Disposition"`
	Body               []byte
}

func saved(kind, name string, body []byte) *savedFile {
	return &savedFile{kind, `attachment; filename="` + name + `"`, body}
}
