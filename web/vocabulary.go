package web

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
)

func (s *Server) vocabularyOperation(api huma.API) {
	answer(s, api, operation(readers, inCheck|byToken, "vocabulary",
		"GET /api/vocabulary", "Characters, states and the words of the record"),
		func(ctx context.Context, _ *struct{}) (book.Vocabulary, error) { return s.of(ctx).Vocabulary(), nil })
	answer(s, api, operation(readers, inCheck, "read-length", "GET /api/measure", "A length as it is written, in a unit"),
		func(ctx context.Context, in *struct {
			Typed string `query:"typed" required:"true" maxLength:"120" doc:"60 ft, 18.3"`
			Taken string `query:"taken" enum:"mm,cm,m,in,ft" default:"m" doc:"Unit where none is written"`
			To    string `query:"to" enum:"mm,cm,m,in,ft" default:"m" doc:"Unit it is wanted in"`
		}) (*book.Length, error) {
			return book.ReadLength(in.Typed, in.Taken, in.To)
		})
}
