package web

import (
	"bytes"
	"context"
	"io"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
	"palethicket/report"
)

// keyQuery says what a key is of.
type keyQuery struct {
	PaperQuery
	Region string `query:"region" maxLength:"80"`
	List   string `query:"list" maxLength:"80"`
	Tract  string `query:"tract" maxLength:"80" doc:"Of what grows in a tract of the book"`
	Stand  string `query:"stand" maxLength:"80"`
	Tree   string `query:"tree" maxLength:"26" doc:"Of what a tree could still be: its id"`
	Taste  string `query:"taste" enum:"whole,bark,twig,no-twig,snow,afar,opposite,genus" default:"whole"`
	Genus  string `query:"genus" maxLength:"80"`
	Age    string `query:"age" enum:"young,mature,old,any," doc:"Of the trees; absent: of one tree its own, else mature"`
}

func (s *Server) key(ctx context.Context, in *keyQuery) (*book.Key, error) {
	return s.of(ctx).Key(ctx, book.KeyAsked{Region: in.Region, List: in.List, Tract: in.Tract, Stand: in.Stand, Tree: in.Tree,
		Taste: in.Taste, Genus: in.Genus, Age: in.Age})
}

// keyOperations make printed keys.
func (s *Server) keyOperations(api huma.API) {
	answer(s, api, operation(readers, inCheck, "key-tastes", "GET /api/key/tastes", "What keys there are"),
		func(context.Context, *struct{}) ([]book.KeyTaste, error) { return book.KeyTastes(), nil })
	answer(s, api, operation(readers, inCheck|heavy, "make-key", "GET /api/key", "A key to just the trees that could be meant"), s.key)
	file := func(id, path, summary, kind, name string, write func(io.Writer, *book.Key, string, book.DrawState) error) {
		save(s, api, operation(readers, inCheck|heavy, id, "GET "+path, summary), func(ctx context.Context, in *keyQuery) (*savedFile, error) {
			k, err := s.key(ctx, in)
			if err != nil {
				return nil, err
			}
			var out bytes.Buffer
			err = write(&out, k, in.Paper, s.stateDrawings(ctx))
			return saved(kind, name, out.Bytes()), err
		})
	}
	file("key-pdf", "/api/key.pdf", "The same on paper", "application/pdf", "key.pdf",
		func(w io.Writer, k *book.Key, paper string, draw book.DrawState) error {
			return report.KeyFile(w, k, paper, draw)
		})
	file("key-page", "/api/key.html", "The same as a page", "text/html; charset=utf-8", "key.html",
		func(w io.Writer, k *book.Key, _ string, draw book.DrawState) error {
			return report.KeyHTML(w, k, draw)
		})
}
