package web

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
)

// PhotoPath names a photograph in a path.
type PhotoPath struct {
	ID string `path:"id"`
}

func (s *Server) photoOperations(api huma.API) {
	answer(s, api, operation(readers, inCheck|byToken, "list-photos", "GET /api/trees/{id}/photos", "A tree's photographs"),
		func(ctx context.Context, in *TreePath) ([]book.Photo, error) { return s.of(ctx).Photos(ctx, in.ID) })
	add := operation(observers, inCheck|byToken|upload, "add-photo", "POST /api/trees/{id}/photos", "Keep a photograph with a look")
	add.RequestBody = anyFile()
	answer(s, api, add, func(ctx context.Context, in *struct {
		TreePath
		Photo        string `query:"photo" required:"true" minLength:"26" maxLength:"26" doc:"ULID, made by who adds it"`
		Look         string `query:"look" maxLength:"26" doc:"Id of the look; absent: of the tree at large"`
		Caption      string `query:"caption" maxLength:"200"`
		By           string `query:"by" maxLength:"80"`
		ReadPosition bool   `query:"read_position" doc:"The day and the position may be read from the file"`
		Upload
	}) (*book.Photo, error) {
		return s.of(ctx).AddPhoto(ctx, book.NewPhoto{ID: in.Photo, Tree: in.ID, Look: in.Look, Caption: in.Caption,
			By: by(ctx, in.By), ReadPosition: in.ReadPosition}, &in.Upload)
	})
	do(s, api, operation(observers, inCheck, "mark-photo", "PUT /api/photos/{id}", "Take a photograph back, or put it back"),
		func(ctx context.Context, in *struct {
			PhotoPath
			Body struct {
				Gone bool   `json:"gone"`
				By   string `json:"by,omitempty" maxLength:"80"`
			}
		}) error {
			return s.of(ctx).MarkPhoto(ctx, in.ID, in.Body.Gone, by(ctx, in.Body.By))
		})
	answer(s, api, operation(readers, inCheck, "photo-marks", "GET /api/photos/{id}/marks", "What was marked on a photograph"),
		func(ctx context.Context, in *PhotoPath) (*book.Marks, error) { return s.of(ctx).PhotoMarks(ctx, in.ID) })
	answer(s, api, operation(readers, inCheck, "read-marks", "POST /api/marks", "Read lengths, angles and counts off marks, kept or not"),
		func(ctx context.Context, in *answered[book.Marks]) (*book.ReadOff, error) {
			return s.of(ctx).ReadMarks(ctx, &in.Body)
		})
	huma.Register(
		api,
		operation(readers, inCheck|byToken, "photo-file", "GET /api/photos/{id}/{size}", "A photograph's file, or its thumbnail"),
		s.photoFile,
	)
}

func (s *Server) photoFile(ctx context.Context, in *struct {
	PhotoPath
	Size string `path:"size" enum:"full,thumb"`
}) (*huma.StreamResponse, error) {
	file, kind, err := s.of(ctx).PhotoFile(ctx, in.ID, in.Size == "thumb")
	if err != nil {
		return nil, s.problem(err)
	}
	return &huma.StreamResponse{Body: func(hc huma.Context) {
		defer func() { _ = file.Close() }() // it was only read
		hc.SetHeader("Content-Type", kind)
		hc.SetHeader("Cache-Control", "private, max-age=31536000, immutable")
		serveFile(hc, file)
	}}, nil
}
