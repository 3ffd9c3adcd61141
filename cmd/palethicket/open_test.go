package main

import (
	"context"
	"crypto/tls"
	"crypto/x509"
	"net/http"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
)

// certifiedHere writes a certificate for this machine and its key, and gives a pool that trusts it.
func certifiedHere(t *testing.T) (cert, key string, trusted *x509.CertPool) {
	t.Helper()
	files, err := certificate([]string{"127.0.0.1"}, time.Now())
	require.NoError(t, err)
	trusted = x509.NewCertPool()
	require.True(t, trusted.AppendCertsFromPEM(files[authorityFile]))
	return writeTemp(t, certFile, string(files[certFile])), writeTemp(t, keyFile, string(files[keyFile])), trusted
}

// TestServeOverTLS serves a book with a list, which other commands then know of.
func TestServeOverTLS(t *testing.T) {
	t.Parallel()
	cert, key, trusted := certifiedHere(t)
	list := writeTemp(t, "avenue.yaml", "name: Avenue\nregion: eastern-north-america\ntaxa:\n  Acer rubrum: common\n  Tilia cordata: rare\n")
	addr, data := freePort(t), filepath.Join(t.TempDir(), "book.db")
	c := &serveCmd{bookFlags{floraFlag{Lists: []string{list}}, data}, listenFlags{Listen: addr, Cert: cert, Key: key}}
	ctx, stop := context.WithCancel(t.Context())
	done := make(chan error, 1)
	go func() { done <- c.Run(ctx) }()
	client := &http.Client{Transport: &http.Transport{TLSClientConfig: &tls.Config{RootCAs: trusted}}}
	require.Eventually(t, func() bool {
		res, err := client.Get("https://" + addr + "/api/stands")
		if err != nil {
			return false
		}
		defer res.Body.Close()
		return res.StatusCode == http.StatusOK
	}, waitLong, 50*time.Millisecond)
	stop()
	require.NoError(t, <-done)

	other := &bookFlags{Data: data}
	b, err := other.open(t.Context(), false)
	require.NoError(t, err)
	defer b.Close()
	require.Equal(t, []string{list}, other.Lists)
	_, err = b.AddTree(t.Context(), book.NewTree{ID: ulid.Make().String(), Tag: "PH-1", Tract: "Lantern Creek watershed forest",
		Stand: "Pump house avenue", Region: "eastern-north-america", List: "Avenue"})
	require.NoError(t, err)
}

func TestABadCertificateIsRefused(t *testing.T) {
	t.Parallel()
	_, key, _ := certifiedHere(t)
	_, err := listen(listenFlags{Listen: freePort(t), Cert: writeTemp(t, "cert.pem", "no certificate"), Key: key})
	require.ErrorContains(t, err, "reading the certificate")
}

// TestAFloraThatIsGoneIsExplained says whose wish it was, and how to wish otherwise.
func TestAFloraThatIsGoneIsExplained(t *testing.T) {
	t.Parallel()
	data := filepath.Join(t.TempDir(), "book.db")
	b, err := (&bookFlags{Data: data}).open(t.Context(), false)
	require.NoError(t, err)
	gone := filepath.Join(t.TempDir(), "gone")
	require.NoError(t, b.RememberServed(t.Context(), book.Served{Flora: gone}))
	require.NoError(t, b.Close())
	_, err = (&bookFlags{Data: data}).open(t.Context(), false)
	require.ErrorContains(t, err, gone)
	require.ErrorContains(t, err, "name others with --flora and --list")
}

func TestCheckReadsEveryTree(t *testing.T) {
	data := filepath.Join(t.TempDir(), "book.db")
	b, err := (&bookFlags{Data: data}).open(t.Context(), false)
	require.NoError(t, err)
	require.NoError(t, b.Close())
	said, err := printed(t, func() error { return (&checkCmd{bookFlags: bookFlags{Data: data}}).Run(t.Context()) })
	require.NoError(t, err)
	require.Contains(t, said, "is whole")
	require.NoError(t, os.WriteFile(data, []byte("SQLite format 3\x00 and nothing else"), 0o600))
	_, err = printed(t, func() error { return (&checkCmd{bookFlags: bookFlags{Data: data}}).Run(t.Context()) })
	require.Error(t, err)
}
