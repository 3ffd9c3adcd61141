package web

import (
	"context"
	"errors"
	"net/http"
	"os"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
	"palethicket/core/tree/photo"
	"palethicket/store"
)

// PhotoPath names a photograph in a path.
type PhotoPath struct {
	ID string `path:"id"`
}

func (s *Server) photoOperations(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-photos", Method: http.MethodGet, Path: "/api/trees/{id}/photos",
		Summary: "A tree's photographs"},
		func(ctx context.Context, in *TreePath) (*struct{ Body []store.Photo }, error) {
			photos, err := s.book.Store.PhotosOf(ctx, in.ID)
			return &struct{ Body []store.Photo }{photos}, s.problem(err)
		})
	huma.Register(api, huma.Operation{OperationID: "add-photo", Method: http.MethodPost, Path: "/api/trees/{id}/photos",
		Summary: "Keep a photograph with a look", MaxBodyBytes: photo.MaxBytes + 1<<20, BodyReadTimeout: uploadTime}, s.addPhoto)
	huma.Register(api, huma.Operation{OperationID: "mark-photo", Method: http.MethodPut, Path: "/api/photos/{id}",
		Summary: "Take a photograph back, or put it back"},
		func(ctx context.Context, in *struct {
			PhotoPath
			Body struct {
				Gone bool `json:"gone"`
			}
		}) (*struct{}, error) {
			return nil, s.problem(s.book.Store.MarkPhoto(ctx, in.ID, in.Body.Gone))
		})
	huma.Register(api, huma.Operation{OperationID: "photo-file", Method: http.MethodGet, Path: "/api/photos/{id}/{size}",
		Summary: "A photograph's file, or its thumbnail"}, s.photoFile)
}

func (s *Server) addPhoto(ctx context.Context, in *struct {
	TreePath
	Photo     string `query:"photo" required:"true" minLength:"26" maxLength:"26" doc:"ULID, made by who adds it"`
	Look      string `query:"look" maxLength:"26" doc:"Id of the look; absent: of the tree at large"`
	Caption   string `query:"caption" maxLength:"200"`
	By        string `query:"by" maxLength:"80"`
	ReadPlace bool   `query:"read_place" doc:"The day and the place may be read from the file"`
	RawBody   []byte `contentType:"application/octet-stream"`
}) (*struct{ Body *store.Photo }, error) {
	p, err := s.book.AddPhoto(ctx, book.NewPhoto{ID: in.Photo, Tree: in.ID, Look: in.Look, Caption: in.Caption,
		By: by(ctx, in.By), ReadPlace: in.ReadPlace}, in.RawBody)
	var refused *photo.Refused
	if errors.As(err, &refused) {
		return nil, huma.Error422UnprocessableEntity(refused.Why)
	}
	return &struct{ Body *store.Photo }{p}, s.problem(err)
}

func (s *Server) photoFile(ctx context.Context, in *struct {
	PhotoPath
	Size string `path:"size" enum:"full,thumb"`
}) (*struct {
	ContentType string `header:"Content-Type"`
	Cache       string `header:"Cache-Control"`
	Body        []byte
}, error) {
	p, path, err := s.book.Store.PhotoFile(ctx, in.ID, in.Size == "thumb")
	if err != nil {
		return nil, s.problem(err)
	}
	body, err := os.ReadFile(path)
	if err != nil {
		return nil, s.problem(err)
	}
	out := &struct {
		ContentType string `header:"Content-Type"`
		Cache       string `header:"Cache-Control"`
		Body        []byte
	}{p.Kind, "private, max-age=31536000, immutable", body}
	if in.Size == "thumb" {
		out.ContentType = "image/jpeg"
	}
	return out, nil
}
