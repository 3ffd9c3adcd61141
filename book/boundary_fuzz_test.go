package book

import (
	"encoding/json"
	"errors"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/foreign"
)

// FuzzGround reads whatever comes as a boundary or as the terrain of a tract: it is
// refused by name, or kept as GeoJSON that reads again.
func FuzzGround(f *testing.F) {
	for _, text := range []string{
		`{"type":"Polygon","coordinates":[[[0,0],[1,0],[1,1],[0,0]]]}`, `{"type":"FeatureCollection","features":[null]}`, `null`,
		`{"type":"Feature","geometry":{"type":"MultiPolygon","coordinates":[[]]}}`, `{"type":"GeometryCollection","geometries":[null]}`,
		`{"type":"FeatureCollection","features":[{"type":"Feature","properties":{"kind":"stream"},"geometry":{"type":"LineString","coordinates":[[0,0],[1,1]]}}]}`,
	} {
		f.Add([]byte(text))
	}
	f.Fuzz(func(t *testing.T, text []byte) {
		for _, read := range []func(json.RawMessage) (json.RawMessage, error){boundaryText, terrainText} {
			kept, err := read(text)
			var damaged *foreign.Damaged
			require.False(t, errors.As(err, &damaged))
			if err != nil {
				require.NotNil(t, FieldsOf(err))
				continue
			}
			again, err := read(kept)
			require.NoError(t, err)
			require.Equal(t, string(kept), string(again))
		}
	})
}
