package web

import (
	"context"
	"encoding/json"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
)

// SumsAsked are sums to be done: of each its id, which sum it is, and its inputs by name.
type SumsAsked struct {
	Sums []map[string]json.RawMessage `json:"sums" maxItems:"1000"`
}

// sumsOperations do the arithmetic of the tally card.
func (s *Server) sumsOperations(api huma.API) {
	answer(s, api, operation(readers, inCheck, "list-sums", "GET /api/sums", "The sums there are, and what each is given"),
		func(context.Context, *struct{}) ([]book.SumAsked, error) { return book.Sums(), nil })
	answer(s, api, operation(readers, inCheck, "do-sums", "POST /api/sums", "Do sums, in the order asked"),
		func(_ context.Context, in *answered[SumsAsked]) ([]book.SumResult, error) {
			return book.DoSums(in.Body.Sums), nil
		})
}
