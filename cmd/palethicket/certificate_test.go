package main

import (
	"crypto/tls"
	"crypto/x509"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// TestCertificate: who trusts the authority opens the server by the names that were given, and by no other; what is
// there already stays.
func TestCertificate(t *testing.T) {
	folder := t.TempDir()
	cmd := &certificateCmd{Names: []string{"pump-house.local", "127.0.0.1"}, Out: folder}
	said, err := printed(t, cmd.Run)
	require.NoError(t, err)
	require.Contains(t, said, "https://pump-house.local:8443")
	pair, err := tls.LoadX509KeyPair(filepath.Join(folder, certFile), filepath.Join(folder, keyFile))
	require.NoError(t, err)
	authority, err := os.ReadFile(filepath.Join(folder, authorityFile))
	require.NoError(t, err)

	srv := httptest.NewUnstartedServer(http.NotFoundHandler())
	srv.TLS = &tls.Config{Certificates: []tls.Certificate{pair}}
	srv.StartTLS()
	defer srv.Close()
	trusted := x509.NewCertPool()
	require.True(t, trusted.AppendCertsFromPEM(authority))
	for name, want := range map[string]string{"": "", "pump-house.local": "", "other.local": "not other.local"} {
		client := &http.Client{Transport: &http.Transport{TLSClientConfig: &tls.Config{RootCAs: trusted, ServerName: name}}}
		res, err := client.Get(srv.URL)
		if want != "" {
			require.ErrorContains(t, err, want)
			continue
		}
		require.NoError(t, err)
		require.NoError(t, res.Body.Close())
	}

	_, err = printed(t, cmd.Run)
	require.ErrorContains(t, err, "is there already")
	again, err := os.ReadFile(filepath.Join(folder, authorityFile))
	require.NoError(t, err)
	require.Equal(t, authority, again)
	_, err = certificate([]string{"https://pump-house.local"}, time.Now())
	require.ErrorContains(t, err, "leave out https://")
}
