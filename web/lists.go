package web

import (
	"context"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/core/flora"
	"palethicket/core/tree/record"
)

// ListBody is a list as it is sent: as a list, or as the text of a table.
type ListBody struct {
	Name   string            `json:"name" minLength:"1" maxLength:"80"`
	Region string            `json:"region" doc:"Whose English names its trees go by"`
	Taxa   map[string]string `json:"taxa,omitempty" doc:"Scientific name to abundance word"`
	Table  string            `json:"table,omitempty" maxLength:"200000" doc:"CSV with the columns taxon and abundance, or a list as YAML, instead of taxa"`
}

// ListPath names the list in a path.
type ListPath struct {
	Name string `path:"name"`
}

func (s *Server) listOperations(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-lists", Method: http.MethodGet, Path: "/api/lists",
		Summary: "The book's own lists of trees"},
		func(ctx context.Context, _ *struct{}) (*struct{ Body []flora.List }, error) {
			lists, err := s.book.Store.Lists(ctx)
			return &struct{ Body []flora.List }{lists}, s.problem(err)
		})
	huma.Register(api, huma.Operation{OperationID: "put-list", Method: http.MethodPut, Path: "/api/lists",
		Summary: "Keep a list, in place of the one of that name"}, s.putList)
	huma.Register(api, huma.Operation{OperationID: "drop-list", Method: http.MethodDelete, Path: "/api/lists/{name}",
		Summary: "Remove a list that no tree is ranked among"},
		func(ctx context.Context, in *ListPath) (*struct{}, error) {
			if err := s.book.Store.DropList(ctx, in.Name); err != nil {
				return nil, s.problem(err)
			}
			return nil, s.problem(s.book.Relist(ctx))
		})
	huma.Register(api, huma.Operation{OperationID: "list-table", Method: http.MethodGet, Path: "/api/lists/{name}/{format}",
		Summary: "A list, or a region's trees, as a file"}, s.listFile)
}

func (s *Server) putList(ctx context.Context, in *struct{ Body ListBody }) (*struct{ Body flora.List }, error) {
	b := in.Body
	l := flora.List{Name: strings.TrimSpace(b.Name), Region: b.Region, Abundance: b.Taxa}
	if b.Table != "" {
		taxa, err := readTable(b.Table)
		if err != nil {
			return nil, s.problem(&record.FieldError{Field: "table", Message: err.Error()})
		}
		l.Abundance = taxa
	}
	if err := s.book.Base.CheckList(&l); err != nil {
		var errs record.Errors
		for _, line := range strings.Split(err.Error(), "\n") {
			errs = append(errs, &record.FieldError{Field: "taxa", Message: line})
		}
		return nil, s.problem(errs)
	}
	if err := s.book.Store.PutList(ctx, l); err != nil {
		return nil, s.problem(err)
	}
	return &struct{ Body flora.List }{l}, s.problem(s.book.Relist(ctx))
}

// readTable reads a list's taxa from CSV, or from YAML where it has keys.
func readTable(text string) (map[string]string, error) {
	if first, _, _ := strings.Cut(strings.TrimSpace(text), "\n"); strings.Contains(first, ":") {
		l, err := flora.ReadListYAML(strings.NewReader(text))
		return l.Abundance, err
	}
	return flora.ReadListCSV(strings.NewReader(text))
}

func (s *Server) listFile(_ context.Context, in *struct {
	ListPath
	Format string `path:"format" enum:"csv,yaml"`
}) (*savedFile, error) {
	f := s.flora()
	l := f.RegionList(in.Name)
	if own := f.List(in.Name); own != nil {
		l = *own
	}
	if len(l.Abundance) == 0 {
		return nil, huma.Error404NotFound("there is no such list")
	}
	var text strings.Builder
	kind := "text/csv; charset=utf-8"
	write := func() error { return l.WriteCSV(&text, f) }
	if in.Format == "yaml" {
		kind = "application/yaml; charset=utf-8"
		write = func() error { return l.WriteYAML(&text) }
	}
	if err := write(); err != nil {
		return nil, s.problem(err)
	}
	return saved(kind, "trees."+in.Format, []byte(text.String())), nil
}
