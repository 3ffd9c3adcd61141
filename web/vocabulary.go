package web

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
)

func (s *Server) vocabularyOperation(api huma.API) {
	answer(s, api, operation("vocabulary", http.MethodGet, "/api/vocabulary", "Characters, states and the words of the record"),
		func(context.Context, *struct{}) (book.Vocabulary, error) { return s.book.Vocabulary(), nil })
}
