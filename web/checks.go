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

// CheckPath names a check cruise in a path.
type CheckPath struct {
	ID string `path:"id" maxLength:"26"`
}

// checkOperations plan check cruises, end them and say what came of them.
func (s *Server) checkOperations(api huma.API) {
	answer(s, api, operation(readers, notInCheck|onlyHome, "list-checks", "GET /api/checks", "Check cruises, the latest first"),
		func(ctx context.Context, _ *struct{}) ([]book.CheckCruise, error) { return s.book.Checks(ctx) })
	answer(s, api, operation(leads, notInCheck|onlyHome, "draw-check",
		"POST /api/checks/draw", "What a check cruise would draw; nothing is kept"),
		func(ctx context.Context, in *answered[book.NewCheck]) (*book.CheckPlan, error) {
			return s.book.DrawCheck(ctx, in.Body)
		})
	plan := operation(leads, notInCheck|onlyHome, "plan-check", "POST /api/checks", "Plan a check cruise and give it to its checker")
	plan.DefaultStatus = http.StatusCreated
	answer(s, api, plan, func(ctx context.Context, in *answered[book.NewCheck]) (*book.CheckCruise, error) {
		if !s.guarded {
			return nil, book.ErrNotBlind
		}
		return s.book.PlanCheck(ctx, in.Body, by(ctx, ""))
	})
	answer(s, api, operation(readers, notInCheck|onlyHome, "get-check", "GET /api/checks/{id}", "A check cruise"),
		func(ctx context.Context, in *CheckPath) (*book.CheckCruise, error) { return s.book.Check(ctx, in.ID) })
	answer(s, api, operation(readers, notInCheck|onlyHome, "check-results",
		"GET /api/checks/{id}/results", "What a finished check cruise says"),
		func(ctx context.Context, in *CheckPath) (*book.CheckResults, error) {
			return s.book.CheckResults(ctx, in.ID)
		})
	save(s, api, operation(readers, notInCheck|onlyHome, "check-csv", "GET /api/checks/{id}/results.csv", "Its trees as a table"),
		func(ctx context.Context, in *CheckPath) (*savedFile, error) {
			return s.checkFile(ctx, in.ID, book.WriteCheckTable, "text/csv; charset=utf-8", "check.csv")
		})
	save(s, api, operation(readers, notInCheck|onlyHome|heavy, "check-pdf", "GET /api/checks/{id}/results.pdf", "What it says, as PDF"),
		func(ctx context.Context, in *struct {
			CheckPath
			PaperQuery
		}) (*savedFile, error) {
			write := func(w io.Writer, r *book.CheckResults) error { return report.CheckPDF(w, r, in.Paper) }
			return s.checkFile(ctx, in.ID, write, "application/pdf", "check.pdf")
		})
	answer(s, api, operation(observers, whole|onlyHome, "finish-check",
		"POST /api/checks/{id}/finish", "End a check; what was found joins the book"),
		func(ctx context.Context, in *CheckPath) (*book.CheckCruise, error) {
			who := signedIn(ctx)
			return s.book.FinishCheck(ctx, in.ID, by(ctx, ""), who == nil || who.Role == book.Lead)
		})
	do(s, api, operation(leads, notInCheck|onlyHome, "drop-check",
		"DELETE /api/checks/{id}", "Give a check up; what was entered in it joins nothing"),
		func(ctx context.Context, in *CheckPath) error { return s.book.DropCheck(ctx, in.ID) })
	answer(s, api, operation(readers, inCheck, "my-check", "GET /api/checking", "The check cruise that one has to do; null: none"),
		func(ctx context.Context, _ *struct{}) (*book.CheckCruise, error) {
			return s.book.Checker(ctx, by(ctx, ""))
		})
}

func (s *Server) checkFile(
	ctx context.Context,
	id string,
	write func(io.Writer, *book.CheckResults) error,
	kind, name string,
) (*savedFile, error) {
	r, err := s.book.CheckResults(ctx, id)
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	err = write(&out, r)
	return saved(kind, name, out.Bytes()), err
}
