package web

import (
	"context"
	"encoding/json"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
	"palethicket/store"
)

// groundBytes is how large a boundary or the contours of a tract may be.
const groundBytes = 16 << 20

// placeOperations are about tracts, stands and visits.
func (s *Server) placeOperations(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-places", Method: http.MethodGet, Path: "/api/places",
		Summary: "Tracts and their stands"},
		func(ctx context.Context, _ *struct{}) (*struct{ Body []store.Place }, error) {
			places, err := s.book.Store.Places(ctx)
			return &struct{ Body []store.Place }{places}, s.problem(err)
		})
	huma.Register(api, huma.Operation{OperationID: "map", Method: http.MethodGet, Path: "/api/map",
		Summary: "The ground of every tract and stand"},
		func(ctx context.Context, _ *struct{}) (*struct{ Body *book.Map }, error) {
			m, err := s.book.Map(ctx)
			return &struct{ Body *book.Map }{m}, s.problem(err)
		})
	huma.Register(api, huma.Operation{OperationID: "dots", Method: http.MethodGet, Path: "/api/map/trees",
		Summary: "The trees that have a position"},
		func(ctx context.Context, in *TreeQuery) (*struct{ Body []book.Dot }, error) {
			dots, err := s.book.Dots(ctx, s.query(in))
			return &struct{ Body []book.Dot }{dots}, s.problem(err)
		})
	huma.Register(api, huma.Operation{OperationID: "put-stand", Method: http.MethodPut, Path: "/api/stands",
		Summary: "Keep a stand's boundary and remarks", MaxBodyBytes: groundBytes},
		func(ctx context.Context, in *struct{ Body StandBody }) (*struct{}, error) {
			b := in.Body
			return nil, s.problem(s.book.PutStand(ctx, b.Tract, b.Stand, b.Remarks, b.Boundary))
		})
	huma.Register(api, huma.Operation{OperationID: "put-tract", Method: http.MethodPut, Path: "/api/tracts",
		Summary: "Keep a tract's boundary, the features of its map and remarks", MaxBodyBytes: groundBytes},
		func(ctx context.Context, in *struct{ Body TractBody }) (*struct{}, error) {
			b := in.Body
			return nil, s.problem(s.book.PutTract(ctx, b.Tract, b.Remarks, b.Boundary, b.Ground))
		})
	huma.Register(api, huma.Operation{OperationID: "list-visits", Method: http.MethodGet, Path: "/api/visits",
		Summary: "Visits, the latest first"},
		func(ctx context.Context, in *struct {
			Tract string `query:"tract"`
		}) (*struct{ Body []store.Visit }, error) {
			visits, err := s.book.Store.Visits(ctx, in.Tract)
			return &struct{ Body []store.Visit }{visits}, s.problem(err)
		})
	huma.Register(api, huma.Operation{OperationID: "put-visit", Method: http.MethodPut, Path: "/api/visits",
		Summary: "Keep a visit: its day, crew, weather and snow"},
		func(ctx context.Context, in *struct{ Body store.Visit }) (*struct{}, error) {
			return nil, s.problem(s.book.Store.PutVisit(ctx, in.Body))
		})
}

// StandBody is a stand as it is sent.
type StandBody struct {
	Tract    string          `json:"tract" minLength:"1" maxLength:"80" pattern:"\\S"`
	Stand    string          `json:"stand" minLength:"1" maxLength:"80" pattern:"\\S"`
	Remarks  string          `json:"remarks,omitempty" maxLength:"2000"`
	Boundary json.RawMessage `json:"boundary,omitempty" doc:"GeoJSON that holds a polygon; absent: as it is"`
}

// TractBody is a tract as it is sent.
type TractBody struct {
	Tract    string          `json:"tract" minLength:"1" maxLength:"80" pattern:"\\S"`
	Remarks  string          `json:"remarks,omitempty" maxLength:"2000"`
	Boundary json.RawMessage `json:"boundary,omitempty" doc:"GeoJSON that holds a polygon; absent: as it is"`
	Ground   json.RawMessage `json:"ground,omitempty" doc:"GeoJSON feature collection of streams, contours, tracks and buildings; absent: as it is"`
}
