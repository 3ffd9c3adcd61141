package web

import (
	"context"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
)

// ImportPath names an import in a path.
type ImportPath struct {
	ID string `path:"id"`
}

// uploadTime is how long a file may take to arrive from the woods.
const uploadTime = 10 * time.Minute

// Formats are what files can be.
type Formats struct {
	Formats []book.Format `json:"formats"`
	Fields  []book.Field  `json:"fields" doc:"What the columns of a file that is read in can hold"`
}

// PutIn says which lines of a file go in.
type PutIn struct {
	Mapping book.Mapping `json:"mapping"`
	book.Choice
	By string `json:"by,omitempty" maxLength:"80"`
}

// fileOperations read files in and write them out.
func (s *Server) fileOperations(api huma.API) {
	answer(s, api, operation(readers, inCheck, "formats", "GET /api/formats", "Formats of files, and the fields that columns can hold"),
		func(context.Context, *struct{}) (Formats, error) {
			return Formats{book.Formats(), book.FileFields()}, nil
		})
	stream(s, api, operation(readers, inCheck, "export", "GET /api/export/{format}", "Trees as a file"), s.export)
	answer(s, api, operation(readers, notInCheck|onlyHome, "list-imports", "GET /api/imports", "Files that were read in, the latest first"),
		func(ctx context.Context, _ *struct{}) ([]book.Import, error) { return s.of(ctx).Imports(ctx) })
	read := operation(leads, notInCheck|onlyHome|upload, "read-file", "POST /api/imports", "Read a file for a preview")
	read.MaxBodyBytes, read.BodyReadTimeout = book.FileMost+1<<20, uploadTime
	answer(s, api, read, func(ctx context.Context, in *struct {
		Name    string `query:"name" required:"true" maxLength:"200" doc:"The file's name"`
		RawBody []byte `contentType:"application/octet-stream"`
	}) (*book.Preview, error) {
		done, err := s.reserved(ctx)
		if err != nil {
			return nil, err
		}
		defer done()
		return s.of(ctx).ReadFile(ctx, in.Name, in.RawBody)
	})
	answer(s, api, operation(leads, notInCheck|onlyHome|heavy, "preview-import",
		"POST /api/imports/{id}/preview", "What a file would put in under a mapping"),
		func(ctx context.Context, in *struct {
			ImportPath
			Body book.Mapping
		}) (*book.Preview, error) {
			return s.of(ctx).Preview(ctx, in.ID, in.Body)
		})
	answer(s, api, operation(leads, notInCheck|onlyHome, "put-in", "POST /api/imports/{id}", "Begin to put lines of a file into the book"),
		func(ctx context.Context, in *struct {
			ImportPath
			Body PutIn
		}) (*book.Progress, error) {
			if err := s.of(ctx).PutIn(ctx, in.ID, in.Body.Mapping, in.Body.Choice, by(ctx, in.Body.By)); err != nil {
				return nil, err
			}
			return s.of(ctx).ImportProgress(in.ID)
		})
	answer(s, api, operation(readers, notInCheck|onlyHome, "import-progress", "GET /api/imports/{id}", "How far a file is"),
		func(ctx context.Context, in *ImportPath) (*book.Progress, error) {
			return s.of(ctx).ImportProgress(in.ID)
		})
	do(s, api, operation(leads, notInCheck|onlyHome, "stop-import",
		"DELETE /api/imports/{id}", "Stop a file being put in, or leave it; nothing of it stays"),
		func(ctx context.Context, in *ImportPath) error { return s.of(ctx).StopImport(in.ID) })
	answer(s, api, operation(leads, notInCheck|onlyHome, "undo-import", "POST /api/imports/{id}/undo", "Undo an import by further entries"),
		func(ctx context.Context, in *ImportPath) (book.Undone, error) {
			return s.of(ctx).UndoImport(ctx, in.ID, by(ctx, ""))
		})
}

func (s *Server) export(ctx context.Context, in *struct {
	TreeQuery
	Format  string `path:"format" enum:"csv,xlsx,geojson,gpkg,kml,gpx,json,dwca,boundaries"`
	By      string `query:"publisher" maxLength:"120" doc:"Who publishes it; stands in archives"`
	License string `query:"license" maxLength:"200" doc:"Address of the terms that an archive may be used under"`
	Country string `query:"country" maxLength:"80" doc:"Where the trees stand; stands in archives"`
	Grid    string `query:"grid" enum:"degrees,utm" default:"degrees" doc:"How tables have positions"`
}) (*streamed, error) {
	if in.Format == "boundaries" {
		return &streamed{"application/geo+json", `attachment; filename="boundaries.geojson"`, nil,
			func(ctx context.Context, w io.Writer) error { return s.of(ctx).Boundaries(ctx, w, in.query()) }}, nil
	}
	formats := book.Formats()
	i := slices.IndexFunc(formats, func(f book.Format) bool { return f.ID == in.Format })
	if i < 0 {
		return nil, book.ErrNoFormat
	}
	title := strings.Trim(in.Tract+", "+in.Stand, ", ")
	if title == "" {
		title = "Trees of the book"
	}
	return &streamed{formats[i].Type, fmt.Sprintf(`attachment; filename="trees.%s"`, formats[i].Extension), nil,
		func(ctx context.Context, w io.Writer) error {
			return s.of(ctx).Export(ctx, w, in.query(), in.Format, book.About{
				Title: title, Publisher: in.By, License: in.License, Country: in.Country, UTM: in.Grid == "utm"})
		}}, nil
}
