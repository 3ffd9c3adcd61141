package web

import (
	"bytes"
	"context"
	"io"
	"net/http"
	"strings"

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
	answer(s, api, operation("list-checks", http.MethodGet, "/api/checks", "Check cruises, the latest first"),
		func(ctx context.Context, _ *struct{}) ([]book.CheckCruise, error) { return s.book.Checks(ctx) })
	answer(s, api, operation("draw-check", http.MethodPost, "/api/checks/draw", "What a check cruise would draw; nothing is kept"),
		func(ctx context.Context, in *answered[book.NewCheck]) (*book.CheckPlan, error) {
			return s.book.DrawCheck(ctx, in.Body)
		})
	plan := operation("plan-check", http.MethodPost, "/api/checks", "Plan a check cruise and give it to its checker")
	plan.DefaultStatus = http.StatusCreated
	answer(s, api, plan, func(ctx context.Context, in *answered[book.NewCheck]) (*book.CheckCruise, error) {
		if !s.guarded {
			return nil, book.ErrNotBlind
		}
		return s.book.PlanCheck(ctx, in.Body, by(ctx, ""))
	})
	answer(s, api, operation("get-check", http.MethodGet, "/api/checks/{id}", "A check cruise"),
		func(ctx context.Context, in *CheckPath) (*book.CheckCruise, error) { return s.book.Check(ctx, in.ID) })
	answer(s, api, operation("check-results", http.MethodGet, "/api/checks/{id}/results", "What a finished check cruise says"),
		func(ctx context.Context, in *CheckPath) (*book.CheckResults, error) {
			return s.book.CheckResults(ctx, in.ID)
		})
	save(s, api, operation("check-csv", http.MethodGet, "/api/checks/{id}/results.csv", "Its trees as a table"),
		func(ctx context.Context, in *CheckPath) (*savedFile, error) {
			return s.checkFile(ctx, in.ID, book.WriteCheckTable, "text/csv; charset=utf-8", "check.csv")
		})
	save(s, api, operation("check-pdf", http.MethodGet, "/api/checks/{id}/results.pdf", "What it says, as PDF"),
		func(ctx context.Context, in *struct {
			CheckPath
			PaperQuery
		}) (*savedFile, error) {
			write := func(w io.Writer, r *book.CheckResults) error { return report.CheckPDF(w, r, in.Paper) }
			return s.checkFile(ctx, in.ID, write, "application/pdf", "check.pdf")
		})
	answer(s, api, operation("finish-check", http.MethodPost, "/api/checks/{id}/finish", "End a check; what was found joins the book"),
		func(ctx context.Context, in *CheckPath) (*book.CheckCruise, error) {
			who := signedIn(ctx)
			return s.book.FinishCheck(ctx, in.ID, by(ctx, ""), who == nil || who.Role == book.Lead)
		})
	do(s, api, operation("drop-check", http.MethodDelete, "/api/checks/{id}", "Give a check up; what was entered in it joins nothing"),
		func(ctx context.Context, in *CheckPath) error { return s.book.DropCheck(ctx, in.ID) })
	answer(s, api, operation("my-check", http.MethodGet, "/api/checking", "The check cruise that one has to do; null: none"),
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

type workKey struct{}

// of gives the book that whoever asks works in: while they check, that of their check.
func (s *Server) of(ctx context.Context) *book.Book {
	if b, ok := ctx.Value(workKey{}).(*book.Book); ok {
		return b
	}
	return s.book
}

// closedToCheckers are refused: they tell of trees, or change what is not the checker's to change.
func closedToCheckers(r *http.Request) bool {
	path, reads := r.URL.Path, r.Method == http.MethodGet || r.Method == http.MethodHead
	switch {
	case strings.HasPrefix(path, "/api/checks"):
		return !(r.Method == http.MethodPost && strings.HasSuffix(path, "/finish"))
	case strings.HasPrefix(path, "/api/imports"):
		return true
	case strings.HasPrefix(path, "/api/practice"):
		return strings.HasPrefix(path, "/api/practice/walks") || r.URL.Query().Get("stand") != "" || r.URL.Query().Get("deck") != ""
	case reads:
		return false
	case path == "/api/trees",
		strings.HasSuffix(path, "/move"),
		strings.HasPrefix(path, "/api/stands"),
		strings.HasPrefix(path, "/api/tracts"),
		strings.HasPrefix(path, "/api/visits"),
		strings.HasPrefix(path, "/api/bars"),
		strings.HasPrefix(path, "/api/lists"):
		return true
	}
	return false
}

// checking has who checks asked and answered in the book of their check alone.
func (s *Server) checking(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		who := signedIn(r.Context())
		if who == nil || strings.HasPrefix(r.URL.Path, "/api/checks/") && strings.HasSuffix(r.URL.Path, "/finish") {
			next.ServeHTTP(w, r) // ending it waits until nobody works in its book
			return
		}
		work, done, err := s.book.Checking(r.Context(), who.Name)
		switch {
		case err != nil:
			refuseWith(w, s.problem(err))
		case work == nil:
			next.ServeHTTP(w, r)
		case closedToCheckers(r):
			done()
			refuse(
				w,
				http.StatusConflict,
				"you are checking others' names: until the check is finished its trees are all there is; nothing was changed",
			)
		default:
			defer done()
			next.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), workKey{}, work)))
		}
	})
}
