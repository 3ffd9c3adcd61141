package web

import (
	"bytes"
	"context"
	"fmt"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
	"palethicket/core/exchange"
	"palethicket/store"
)

// ImportPath names an import in a path.
type ImportPath struct {
	ID string `path:"id"`
}

// uploadTime is how long a file may take to arrive from the woods.
const uploadTime = 10 * time.Minute

// fileOperations read files in and write them out.
func (s *Server) fileOperations(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "formats", Method: http.MethodGet, Path: "/api/formats",
		Summary: "Formats of files, and the fields that columns can hold"},
		func(context.Context, *struct{}) (*struct{ Body Formats }, error) {
			return &struct{ Body Formats }{Formats{exchange.Formats, exchange.Fields}}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "export", Method: http.MethodGet, Path: "/api/export/{format}",
		Summary: "Trees as a file"}, s.export)
	huma.Register(api, huma.Operation{OperationID: "list-imports", Method: http.MethodGet, Path: "/api/imports",
		Summary: "Files that were read in, the latest first"},
		func(ctx context.Context, _ *struct{}) (*struct{ Body []store.Import }, error) {
			imports, err := s.book.Store.Imports(ctx)
			return &struct{ Body []store.Import }{imports}, s.problem(err)
		})
	huma.Register(api, huma.Operation{OperationID: "read-file", Method: http.MethodPost, Path: "/api/imports",
		Summary: "Read a file for a preview", MaxBodyBytes: exchange.MaxBytes + 1<<20, BodyReadTimeout: uploadTime},
		func(ctx context.Context, in *struct {
			Name    string `query:"name" required:"true" maxLength:"200" doc:"The file's name"`
			RawBody []byte `contentType:"application/octet-stream"`
		}) (*previewOut, error) {
			p, err := s.book.ReadFile(ctx, in.Name, in.RawBody)
			return &previewOut{p}, s.problem(err)
		})
	huma.Register(api, huma.Operation{OperationID: "preview-import", Method: http.MethodPost, Path: "/api/imports/{id}/preview",
		Summary: "What a file would put in under a mapping"},
		func(ctx context.Context, in *struct {
			ImportPath
			Body exchange.Mapping
		}) (*previewOut, error) {
			p, err := s.book.Preview(ctx, in.ID, in.Body)
			return &previewOut{p}, s.problem(err)
		})
	huma.Register(api, huma.Operation{OperationID: "put-in", Method: http.MethodPost, Path: "/api/imports/{id}",
		Summary: "Begin to put lines of a file into the book"},
		func(ctx context.Context, in *struct {
			ImportPath
			Body PutIn
		}) (*progressOut, error) {
			if err := s.book.PutIn(ctx, in.ID, in.Body.Mapping, in.Body.Choice, by(ctx, in.Body.By)); err != nil {
				return nil, s.problem(err)
			}
			return s.progress(in.ID)
		})
	huma.Register(api, huma.Operation{OperationID: "import-progress", Method: http.MethodGet, Path: "/api/imports/{id}",
		Summary: "How far a file is"},
		func(_ context.Context, in *ImportPath) (*progressOut, error) { return s.progress(in.ID) })
	huma.Register(api, huma.Operation{OperationID: "stop-import", Method: http.MethodDelete, Path: "/api/imports/{id}",
		Summary: "Stop a file being put in, or leave it; nothing of it stays"},
		func(_ context.Context, in *ImportPath) (*struct{}, error) {
			return nil, s.problem(s.book.StopImport(in.ID))
		})
	huma.Register(api, huma.Operation{OperationID: "undo-import", Method: http.MethodPost, Path: "/api/imports/{id}/undo",
		Summary: "Undo an import by further entries"},
		func(ctx context.Context, in *ImportPath) (*struct{ Body store.Undone }, error) {
			undone, err := s.book.UndoImport(ctx, in.ID, by(ctx, ""))
			return &struct{ Body store.Undone }{undone}, s.problem(err)
		})
}

// Formats are what files can be.
type Formats struct {
	Formats []exchange.Format `json:"formats"`
	Fields  []exchange.Field  `json:"fields"`
}

// PutIn says which lines of a file go in.
type PutIn struct {
	Mapping exchange.Mapping `json:"mapping"`
	book.Choice
	By string `json:"by,omitempty" maxLength:"80"`
}

type previewOut struct{ Body *book.Preview }

type progressOut struct{ Body *book.Progress }

func (s *Server) progress(id string) (*progressOut, error) {
	p, err := s.book.ImportProgress(id)
	return &progressOut{p}, s.problem(err)
}

func (s *Server) export(ctx context.Context, in *struct {
	TreeQuery
	Format string `path:"format" enum:"csv,xlsx,geojson,gpx,json,dwca"`
	By     string `query:"publisher" maxLength:"120" doc:"Who publishes it; stands in archives"`
}) (*savedFile, error) {
	f, err := exchange.FormatByID(in.Format)
	if err != nil {
		return nil, huma.Error404NotFound(err.Error())
	}
	title := strings.Trim(in.Tract+", "+in.Stand, ", ")
	if title == "" {
		title = "Trees of the book"
	}
	var file bytes.Buffer
	if err := s.book.Export(ctx, &file, s.query(&in.TreeQuery), in.Format, title, in.By); err != nil {
		return nil, s.problem(err)
	}
	return saved(f.Type, fmt.Sprintf("trees.%s", f.Extension), file.Bytes()), nil
}
