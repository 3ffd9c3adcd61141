package web_test

import (
	"bytes"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
)

// TestAPhotographBreaksOff: of a file that breaks off, or is too large, nothing stays, and whoever sent it is told.
func TestAPhotographBreaksOff(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "book.db")
	s := serving(t, booktest.At(t, path))
	to := "/api/trees/" + s.newTree("LC-1") + "/photos?photo=" + newID()
	nothingStays := func() {
		files, err := os.ReadDir(path + ".photos")
		require.NoError(t, err)
		require.Empty(t, files)
	}
	conn, err := net.Dial("tcp", s.Listener.Addr().String())
	require.NoError(t, err)
	defer conn.Close()
	_, err = fmt.Fprintf(conn, "POST %s HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 1000\r\nConnection: close\r\n\r\n\xff\xd8\xff", to)
	require.NoError(t, err)
	require.NoError(t, conn.(*net.TCPConn).CloseWrite())
	text, err := io.ReadAll(conn)
	require.NoError(t, err)
	require.Contains(t, string(text), "HTTP/1.1 400")
	require.Contains(t, string(text), "broke off")
	nothingStays()

	status, text := s.post(to, bytes.Repeat([]byte("\xff\xd8\xff"), book.PhotoMost/3+1))
	require.Equal(t, http.StatusUnprocessableEntity, status)
	require.Contains(t, string(text), "larger than 20 MB")
	nothingStays()
}
