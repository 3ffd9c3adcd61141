package main

import (
	"errors"
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// TestSilentConnections: two hundred connections that say nothing, where fifty are held, keep
// nobody out; those silent longest are closed.
func TestSilentConnections(t *testing.T) {
	t.Parallel()
	s := httptest.NewUnstartedServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) { w.WriteHeader(http.StatusNoContent) }))
	s.Config = mostConns(&http.Server{Handler: s.Config.Handler}, 50)
	s.Start()
	t.Cleanup(s.Close)
	silent := make([]net.Conn, 200)
	for i := range silent {
		c, err := net.Dial("tcp", s.Listener.Addr().String())
		require.NoError(t, err)
		t.Cleanup(func() { c.Close() })
		silent[i] = c
		if i%20 == 0 {
			res, err := http.Get(s.URL)
			require.NoError(t, err)
			require.NoError(t, res.Body.Close())
			require.Equal(t, http.StatusNoContent, res.StatusCode)
		}
	}
	require.NoError(t, silent[0].SetReadDeadline(time.Now().Add(time.Minute)))
	_, err := silent[0].Read(make([]byte, 1))
	require.Error(t, err)
	require.False(t, errors.Is(err, os.ErrDeadlineExceeded), "the first was closed")
}
