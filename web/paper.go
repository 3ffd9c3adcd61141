package web

import (
	"bytes"
	"context"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
	"palethicket/core/measure"
	"palethicket/report"
)

// TallyQuery says which scoring sheet is wanted.
type TallyQuery struct {
	AmongQuery
	Route string `query:"route" maxLength:"40" default:"twig-in-hand" doc:"Of the vocabulary"`
	Trees int    `query:"trees" default:"4" doc:"How many a sheet has room for: 1, 4 or 10"`
}

// tagsQuery says which labels are wanted.
type tagsQuery struct {
	PaperQuery
	TreeQuery
	Tag     []string `query:"tag,explode" maxItems:"500" doc:"Tags to be given out, in place of the trees of the book"`
	Rows    int      `query:"rows" minimum:"1" maximum:"40" default:"8" doc:"Down a page"`
	Columns int      `query:"columns" minimum:"1" maximum:"12" default:"3" doc:"Across"`
	Twice   bool     `query:"twice" doc:"Each twice: for the tree and for the bag of its twig"`
	Base    string   `query:"base" required:"true" maxLength:"120" doc:"Where the book is reached, as https://book.example: codes lead there"`
}

// paperOperations print what is taken along, and follow a code back.
func (s *Server) paperOperations(api huma.API) {
	answer(s, api, operation(readers, inCheck, "tally-sheet", "GET /api/tally", "A scoring sheet's characters and letters, to key one in"),
		func(ctx context.Context, in *TallyQuery) (*book.TallySheet, error) {
			return s.of(ctx).TallySheet(in.among(), in.Route, in.Trees)
		})
	view(s, api, operation(observers, notInCheck, "key-in", "POST /api/tally", "Key in one tree of a scoring sheet: all of it or nothing"),
		func(ctx context.Context, in *answered[book.KeyedSheet]) (*book.TreeView, error) {
			in.Body.By = by(ctx, in.Body.By)
			return s.of(ctx).KeyIn(ctx, &in.Body)
		})
	view(s, api, operation(observers, notInCheck, "undo-key-in", "DELETE /api/tally/{id}", "Undo all that was keyed in of one sheet"),
		func(ctx context.Context, in *struct {
			ID   string `path:"id" maxLength:"26" doc:"Of the sheet, as it was keyed in"`
			Tree string `query:"tree" required:"true" maxLength:"26" doc:"That it was keyed in for"`
			By   string `query:"by" maxLength:"80"`
		}) (*book.TreeView, error) {
			return s.of(ctx).UndoKeyed(ctx, in.ID, in.Tree, by(ctx, in.By))
		})
	answer(s, api, operation(readers, inCheck, "find-code", "GET /api/code", "Which tree a scanned code or a typed tag is of"),
		func(ctx context.Context, in *struct {
			Code string `query:"code" required:"true" maxLength:"300"`
		}) (*book.CodeFound, error) {
			return s.of(ctx).Find(ctx, in.Code)
		})
	save(s, api, operation(readers, inCheck|heavy, "tally-pdf", "GET /api/paper/tally.pdf", "A scoring sheet to print"),
		func(ctx context.Context, in *struct {
			PaperQuery
			TallyQuery
		}) (*savedFile, error) {
			sheet, err := s.of(ctx).TallySheet(in.among(), in.Route, in.Trees)
			if err != nil {
				return nil, err
			}
			return printed("tally.pdf", func(out *bytes.Buffer) error {
				return report.TallySheetPDF(out, sheet, in.Paper, s.stateDrawings(ctx))
			})
		})
	save(s, api, operation(readers, inCheck, "gauge-pdf", "GET /api/paper/gauge.pdf", "A card to measure small things by, true to scale"),
		func(_ context.Context, in *struct {
			PaperQuery
			Factor string `query:"factor" maxLength:"20" default:"2 m2/ha" doc:"Of the crew's gauge, for its limiting distances"`
		}) (*savedFile, error) {
			factor, err := measure.ReadFactor(in.Factor)
			if err != nil {
				return nil, &book.FieldError{Field: "factor", Message: err.Error()}
			}
			return printed("gauge.pdf", func(out *bytes.Buffer) error {
				return report.GaugePDF(out, factor, measure.InFeet(in.Factor), in.Paper)
			})
		})
	save(s, api, operation(readers, inCheck|heavy, "tags-pdf", "GET /api/paper/tags.pdf", "Labels with codes, for trees and bags"), s.tags)
	save(s, api, operation(readers, inCheck|heavy, "cards-pdf", "GET /api/paper/cards.pdf", "Cards of trees that are taken for one another"),
		func(ctx context.Context, in *struct {
			PaperQuery
			AmongQuery
			Taxon []string `query:"taxon,explode" maxItems:"4" doc:"Two to four; absent: a deck for the whole list"`
		}) (*savedFile, error) {
			cards, err := s.of(ctx).AlikeCards(ctx, in.among(), in.Taxon)
			if err != nil {
				return nil, err
			}
			return printed("cards.pdf", func(out *bytes.Buffer) error {
				return report.CardsPDF(out, "Look-alikes", cards, in.Paper)
			})
		})
}

// tags prints labels. Their codes lead to where the book is reached.
func (s *Server) tags(ctx context.Context, in *tagsQuery) (*savedFile, error) {
	base, err := report.Base(in.Base)
	if err != nil {
		return nil, &book.FieldError{Field: "base", Message: err.Error()}
	}
	trees, err := s.of(ctx).Labels(ctx, in.query(), in.Tag)
	if err != nil {
		return nil, err
	}
	var tags []report.Tag
	for _, t := range trees {
		tags = append(tags, report.Tag{Tag: t.Tag, Tract: t.Tract, Stand: t.Stand, Link: base + t.Path})
	}
	o := report.TagSheet{Paper: in.Paper, Rows: in.Rows, Columns: in.Columns, Twice: in.Twice}
	return printed("tags.pdf", func(out *bytes.Buffer) error { return report.TagsPDF(out, tags, o) })
}

// stateDrawings draws states for paper; what has no drawing is said in words.
func (s *Server) stateDrawings(ctx context.Context) report.Draw {
	return func(character, state string) (string, []byte) {
		p, err := s.of(ctx).DrawState(character, state, "paper")
		if err != nil {
			return "", nil
		}
		return p.Kind, p.Body
	}
}

// printed is a PDF to be saved.
func printed(name string, write func(out *bytes.Buffer) error) (*savedFile, error) {
	var out bytes.Buffer
	err := write(&out)
	return saved("application/pdf", name, out.Bytes()), err
}
