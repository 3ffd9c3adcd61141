package web

import (
	"context"
	"io"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
)

// walkOperations are about walks through woods that do not exist. Their trees are asked for and scored
// like any others, by the operations of trees.
func (s *Server) walkOperations(api huma.API) {
	// Mine is a walk of one's own.
	type Mine struct {
		ID string `path:"id" maxLength:"26"`
		By string `query:"by" maxLength:"80" doc:"Whose it is, where nobody signs in"`
	}
	// Part is a part of one of its trees.
	type Part struct {
		Mine
		N    int    `path:"n" minimum:"1" doc:"Which of its trees"`
		Part string `path:"part" maxLength:"20"`
	}
	begin := operation(readers, notInCheck|onlyHome, "begin-walk",
		"POST /api/practice/walks", "Begin a walk through a wood that does not exist")
	begin.DefaultStatus = http.StatusCreated
	answer(s, api, begin, func(ctx context.Context, in *struct {
		By   string `query:"by" maxLength:"80"`
		Body book.NewPracticeWalk
	}) (*book.PracticeWalk, error) {
		return s.book.BeginWalk(ctx, in.Body, by(ctx, in.By))
	})
	answer(s, api, operation(readers, notInCheck|onlyHome, "list-walks", "GET /api/practice/walks", "One's walks, the latest first"),
		func(ctx context.Context, in *struct {
			By string `query:"by" maxLength:"80"`
		}) ([]book.PracticeWalk, error) {
			return s.book.PracticeWalks(ctx, by(ctx, in.By))
		})
	answer(s, api, operation(readers, notInCheck|onlyHome, "get-walk",
		"GET /api/practice/walks/{id}", "A walk, without what its trees are"),
		func(ctx context.Context, in *Mine) (*book.PracticeWalk, error) {
			return s.book.PracticeWalk(ctx, in.ID, by(ctx, in.By))
		})
	answer(s, api, operation(readers, notInCheck|onlyHome, "look-on-walk",
		"POST /api/practice/walks/{id}/trees/{n}/parts/{part}", "Look at a part of a tree"),
		func(ctx context.Context, in *Part) (*book.PracticeWalk, error) {
			return s.book.LookOnWalk(ctx, in.ID, by(ctx, in.By), in.N, in.Part)
		})
	stream(s, api, operation(readers, notInCheck|onlyHome, "draw-on-walk",
		"GET /api/practice/walks/{id}/trees/{n}/parts/{part}", "A part that was looked at"),
		func(ctx context.Context, in *struct {
			Part
			Theme string `query:"theme" enum:"light,dark,contrast,paper" default:"light"`
		}) (*streamed, error) {
			p, err := s.book.DrawOnWalk(ctx, in.ID, by(ctx, in.By), in.N, in.Part.Part, in.Theme)
			if err != nil {
				return nil, err
			}
			return &streamed{p.Kind, "inline", http.Header{"Cache-Control": {"no-store"}}, func(_ context.Context, w io.Writer) error {
				_, err := w.Write(p.Body)
				return err
			}}, nil
		})
	do(s, api, operation(readers, notInCheck|onlyHome, "end-walk", "POST /api/practice/walks/{id}/end", "End a walk"),
		func(ctx context.Context, in *Mine) error { return s.book.EndWalk(ctx, in.ID, by(ctx, in.By)) })
	answer(s, api, operation(readers, notInCheck|onlyHome, "walk-account",
		"GET /api/practice/walks/{id}/account", "How a walk that is ended went"),
		func(ctx context.Context, in *Mine) (*book.WalkAccount, error) {
			return s.book.WalkAccount(ctx, in.ID, by(ctx, in.By))
		})
}
