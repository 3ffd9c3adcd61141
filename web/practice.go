package web

import (
	"context"
	"io"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
)

// practiceOperations ask people for trees. What one practises is one's own.
func (s *Server) practiceOperations(api huma.API) {
	// Who is who practises, and how well they want to know.
	type Who struct {
		By     string  `query:"by" maxLength:"80" doc:"Who practises, where nobody signs in"`
		Wanted float64 `query:"wanted" minimum:"0.7" maximum:"0.99" default:"0.9" doc:"Recall at which a card is due again"`
	}
	answer(s, api, operation("ask-card", http.MethodPost, "/api/practice/cards", "The card to be asked now"),
		func(ctx context.Context, in *struct {
			Who
			AmongQuery
			Kind     []string `query:"kind,explode" enum:"twig,bark,outline,ground" required:"true" maxItems:"4"`
			New      int      `query:"new" minimum:"0" maximum:"1000" default:"20" doc:"How many cards may be begun in a day"`
			TillSure bool     `query:"till_sure" doc:"Cards asked today come back until each was right twice running"`
			Wanted   float64  `query:"wanted" minimum:"0.7" maximum:"0.99" default:"0.9" doc:"Recall at which a card is due again"`
		}) (*book.Card, error) {
			return s.book.AskCard(ctx, by(ctx, in.By), book.Deck{Among: in.among(), Kinds: in.Kind, New: in.New, TillSure: in.TillSure,
				Wanted: in.Wanted})
		})
	stream(s, api, operation("draw-card", http.MethodGet, "/api/practice/cards/{id}/drawing", "What a card shows"),
		func(ctx context.Context, in *struct {
			Who
			PlateLook
			ID string `path:"id"`
		}) (*streamed, error) {
			p, err := s.book.DrawCard(ctx, by(ctx, in.By), in.ID, in.Theme)
			if err != nil {
				return nil, err
			}
			return &streamed{p.Kind, "inline", http.Header{"Cache-Control": {"no-store"}}, func(_ context.Context, w io.Writer) error {
				_, err := w.Write(p.Body)
				return err
			}}, nil
		})
	answer(s, api, operation("answer-card", http.MethodPost, "/api/practice/cards/{id}/answer", "Say what a card shows"),
		func(ctx context.Context, in *struct {
			Who
			ID   string `path:"id"`
			Body book.CardAnswer
		}) (*book.CardVerdict, error) {
			return s.book.AnswerCard(ctx, by(ctx, in.By), in.ID, &in.Body, in.Wanted)
		})
	answer(s, api, operation("practised", http.MethodGet, "/api/practice/figures", "What one's answers say of oneself"),
		func(ctx context.Context, in *Who) (*book.Practised, error) {
			return s.book.Practised(ctx, by(ctx, in.By))
		})
	answer(s, api, operation("due-cards", http.MethodGet, "/api/practice/due", "How many cards one is to be asked again by now"),
		func(ctx context.Context, in *Who) (int, error) {
			return s.book.DueCards(ctx, by(ctx, in.By), in.Wanted)
		})
	do(s, api, operation("forget-practice", http.MethodDelete, "/api/practice/answers", "Erase all that one practised"),
		func(ctx context.Context, in *Who) error { return s.book.ForgetPractice(ctx, by(ctx, in.By)) })
}
