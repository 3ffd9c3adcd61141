package web

import (
	"bytes"
	"context"
	"io"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
	"palethicket/report"
)

// practiceOperations ask people for trees. What one practises is one's own.
func (s *Server) practiceOperations(api huma.API) {
	// Who is who practises, and how well they want to know.
	type Who struct {
		By     string  `query:"by" maxLength:"80" doc:"Who practises, where nobody signs in"`
		Wanted float64 `query:"wanted" minimum:"0.7" maximum:"0.99" default:"0.9" doc:"Recall at which a card is due again"`
	}
	answer(s, api, operation(readers, inCheck, "ask-card", "POST /api/practice/cards", "The card to be asked now"),
		func(ctx context.Context, in *struct {
			Who
			AmongQuery
			StandQuery
			Kind     []string `query:"kind,explode" enum:"twig,bark,outline,ground,word,pair" required:"true" maxItems:"6"`
			Deck     string   `query:"deck" maxLength:"26" doc:"A deck that was kept, in place of a region, list or stand"`
			New      int      `query:"new" minimum:"0" maximum:"1000" default:"20" doc:"How many cards may be begun in a day"`
			TillSure bool     `query:"till_sure" doc:"Cards asked today come back until each was right twice running"`
		}) (*book.Card, error) {
			if s.checking(ctx) && (in.Stand != "" || in.Deck != "") {
				return nil, huma.Error409Conflict(checkingWords)
			}
			return s.book.AskCard(ctx, by(ctx, in.By), book.Deck{Among: in.among(), Kinds: in.Kind, New: in.New, TillSure: in.TillSure,
				Wanted: in.Wanted, Tract: in.Tract, Stand: in.Stand, Kept: in.Deck})
		})
	stream(s, api, operation(readers, inCheck, "draw-card", "GET /api/practice/cards/{id}/drawing", "What a card shows"),
		func(ctx context.Context, in *struct {
			Who
			PlateLook
			ID     string `path:"id"`
			Second bool   `query:"second" doc:"Of a pair: the one that is shown second"`
		}) (*streamed, error) {
			p, err := s.book.DrawCard(ctx, by(ctx, in.By), in.ID, in.Theme, in.Second)
			if err != nil {
				return nil, err
			}
			return &streamed{p.Kind, "inline", http.Header{"Cache-Control": {"no-store"}}, func(_ context.Context, w io.Writer) error {
				_, err := w.Write(p.Body)
				return err
			}}, nil
		})
	answer(s, api, operation(readers, inCheck, "names-for-card", "GET /api/practice/cards/{id}/names",
		"What a typed name may mean of the trees asked"),
		func(ctx context.Context, in *struct {
			Who
			ID    string `path:"id"`
			Typed string `query:"typed" maxLength:"120"`
		}) (*book.CardNames, error) {
			return s.book.NamesForCard(ctx, by(ctx, in.By), in.ID, in.Typed)
		})
	answer(s, api, operation(readers, inCheck, "answer-card", "POST /api/practice/cards/{id}/answer", "Say what a card shows"),
		func(ctx context.Context, in *struct {
			Who
			ID   string `path:"id"`
			Body book.CardAnswer
		}) (*book.CardVerdict, error) {
			return s.book.AnswerCard(ctx, by(ctx, in.By), in.ID, &in.Body, in.Wanted)
		})
	answer(s, api, operation(readers, inCheck, "practised", "GET /api/practice/figures", "What one's answers say of oneself"),
		func(ctx context.Context, in *Who) (*book.Practised, error) {
			return s.book.Practised(ctx, by(ctx, in.By), in.Wanted)
		})
	answer(s, api, operation(readers, inCheck, "due-cards", "GET /api/practice/due", "How many cards one is to be asked again by now"),
		func(ctx context.Context, in *Who) (int, error) {
			return s.book.DueCards(ctx, by(ctx, in.By), in.Wanted)
		})
	s.deckOperations(api)
	save(s, api, operation(readers, inCheck|onlyHome|heavy, "quiz",
		"GET /api/practice/quiz.pdf", "A sheet of numbered drawings with their answers, as PDF"),
		func(ctx context.Context, in *struct {
			Who
			AmongQuery
			PaperQuery
			Kind []string `query:"kind,explode" enum:"twig,bark,outline,ground" required:"true" maxItems:"4"`
			Deck string   `query:"deck" maxLength:"26"`
			N    int      `query:"n" minimum:"1" maximum:"60" default:"12" doc:"How many drawings"`
			Seed uint64   `query:"seed" maximum:"4294967295" doc:"The same seed gives the same sheet; absent: by chance"`
		}) (*savedFile, error) {
			if s.checking(ctx) && in.Deck != "" {
				return nil, huma.Error409Conflict(checkingWords)
			}
			q, err := s.book.Quiz(ctx, by(ctx, in.By), book.Deck{Among: in.among(), Kinds: in.Kind, Kept: in.Deck}, in.N, in.Seed)
			if err != nil {
				return nil, err
			}
			var out bytes.Buffer
			err = report.QuizPDF(&out, q, in.Paper)
			return saved("application/pdf", "quiz.pdf", out.Bytes()), err
		})
	save(s, api, operation(readers, inCheck|onlyHome, "practice-csv", "GET /api/practice/answers.csv", "All that one answered, as a table"),
		func(ctx context.Context, in *Who) (*savedFile, error) {
			var out bytes.Buffer
			err := s.book.PracticeTable(ctx, by(ctx, in.By), &out)
			return saved("text/csv; charset=utf-8", "practice.csv", out.Bytes()), err
		})
	answer(
		s,
		api,
		operation(
			readers, inCheck|onlyHome|byToken,
			"meet-practice",
			"POST /api/practice/answers",
			"Tell one's answers from elsewhere, and hear those that are here",
		),
		func(ctx context.Context, in *struct {
			Who
			Have int `query:"have" minimum:"0" doc:"How many answers are known there, those that are told among them"`
			Body struct {
				Answers []book.PracticeAnswer `json:"answers" maxItems:"1000"`
			}
		}) ([]book.PracticeAnswer, error) {
			if _, err := s.book.TakeAnswers(ctx, by(ctx, in.By), in.Body.Answers); err != nil {
				return nil, err
			}
			all, err := s.book.Answers(ctx, by(ctx, in.By))
			if len(all) == in.Have { // answers are only ever added: so many are the same
				all = []book.PracticeAnswer{}
			}
			return all, err
		},
	)
	do(s, api, operation(readers, inCheck|onlyHome, "share-practice",
		"PUT /api/practice/sharing", "Show the leads one's figures, or no longer"),
		func(ctx context.Context, in *struct {
			Who
			Body struct {
				Shared bool `json:"shared"`
			}
		}) error {
			return s.book.SharePractice(ctx, by(ctx, in.By), in.Body.Shared)
		})
	answer(s, api, operation(leads, inCheck|onlyHome, "shared-practice", "GET /api/practice/shared", "The figures of those who show them"),
		func(ctx context.Context, _ *struct{}) ([]book.PracticeOf, error) { return s.book.SharedPractice(ctx) })
	do(s, api, operation(readers, inCheck|onlyHome, "forget-practice", "DELETE /api/practice/answers", "Erase all that one practised"),
		func(ctx context.Context, in *Who) error { return s.book.ForgetPractice(ctx, by(ctx, in.By)) })
}

// deckOperations keep decks: one's own, and those that a lead sets for the crew.
func (s *Server) deckOperations(api huma.API) {
	lead := func(ctx context.Context) bool {
		who := signedIn(ctx)
		return who == nil || who.Role == book.Lead
	}
	answer(s, api, operation(readers, inCheck, "list-decks", "GET /api/practice/decks", "One's own decks and the crew's"),
		func(ctx context.Context, in *struct {
			By string `query:"by" maxLength:"80"`
		}) ([]book.KeptDeck, error) {
			return s.book.Decks(ctx, by(ctx, in.By))
		})
	do(s, api, operation(readers, inCheck, "put-deck", "PUT /api/practice/decks", "Keep a deck, in place of the one of its id"),
		func(ctx context.Context, in *answered[book.KeptDeck]) error {
			return s.book.PutDeck(ctx, in.Body, by(ctx, in.Body.By), lead(ctx))
		})
	do(s, api, operation(readers, inCheck, "drop-deck", "DELETE /api/practice/decks/{id}", "Remove a deck; what was practised stays"),
		func(ctx context.Context, in *struct {
			ID string `path:"id"`
			By string `query:"by" maxLength:"80"`
		}) error {
			return s.book.DropDeck(ctx, in.ID, by(ctx, in.By), lead(ctx))
		})
}
