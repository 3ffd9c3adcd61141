package web_test

import (
	"compress/gzip"
	"io"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestPacked: answers and pages go over the line packed, and unfold to what they are unpacked.
func TestPacked(t *testing.T) {
	s := serve(t)
	fetched := func(path, packed string) (body []byte, encoding string) {
		r, err := http.NewRequest(http.MethodGet, s.URL+path, nil)
		require.NoError(t, err)
		r.Header.Set("Accept-Encoding", packed) // said by us, nothing unpacks it on the way
		got, err := http.DefaultClient.Do(r)
		require.NoError(t, err)
		defer func() { _ = got.Body.Close() }()
		require.Equal(t, http.StatusOK, got.StatusCode, path)
		var from io.Reader = got.Body
		if encoding = got.Header.Get("Content-Encoding"); encoding == "gzip" {
			from, err = gzip.NewReader(got.Body)
			require.NoError(t, err)
		}
		body, err = io.ReadAll(from)
		require.NoError(t, err)
		return body, encoding
	}
	for _, path := range []string{"/", "/api/vocabulary"} {
		plain, encoding := fetched(path, "identity")
		assert.Empty(t, encoding, path)
		packed, encoding := fetched(path, "gzip")
		assert.Equal(t, "gzip", encoding, path)
		assert.Equal(t, plain, packed, path)
	}
}
