package web_test

import (
	"bufio"
	"bytes"
	"compress/gzip"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"net/netip"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/demo/demotest"
	"palethicket/web"
)

// behindProxy serves a guarded book to a proxy on this machine.
func behindProxy(t *testing.T, trusted string, every time.Duration) *httptest.Server {
	t.Helper()
	b := booktest.New(t)
	require.NoError(t, b.AddMember(t.Context(), book.NewMember{Name: "Wren Halloran", Role: book.Lead, Password: password}))
	s := httptest.NewServer(web.New(b, web.Options{Log: quiet.Log, Guarded: true,
		Proxies: []netip.Prefix{netip.MustParsePrefix(trusted)}, SignInEvery: every}).Handler(pages))
	t.Cleanup(s.Close)
	return s
}

// triesFrom tries to sign in from an address behind the proxy.
func triesFrom(t *testing.T, s *httptest.Server, from, name, word string) *http.Response {
	t.Helper()
	return ask(t, s, "POST", "/api/session", `{"name": "`+name+`", "password": "`+word+`"}`, nil, "X-Forwarded-For", from)
}

// TestGuessingIsSlow: after some free tries a network gets one try at a time, every so often, by
// whatever name and address of the network. A right password from the same address gets its turn.
func TestGuessingIsSlow(t *testing.T) {
	t.Parallel()
	const every = 100 * time.Millisecond
	s := behindProxy(t, "127.0.0.1/32", every)
	began := time.Now()
	var looked atomic.Int64
	guessing, stop := context.WithCancel(t.Context())
	var wg sync.WaitGroup
	for i := range 8 { // a /64 is one network
		wg.Go(func() {
			for guessing.Err() == nil {
				from, name := fmt.Sprintf("2001:db8::%d", i), []string{" wren\u00a0HALLORAN\u200b", "nobody"}[i%2]
				if triesFrom(t, s, from, name, "a wrong password").StatusCode == 401 {
					looked.Add(1)
				}
			}
		})
	}
	res := triesFrom(t, s, "2001:db8::7", "Wren Halloran", password)
	require.Equal(t, 200, res.StatusCode, "nobody is shut out")
	stop()
	wg.Wait()
	turns := int64(time.Since(began)/every) + 1
	require.LessOrEqual(t, looked.Load(), 2*3+turns, "three are free, again after a right one; else one a turn")
	require.Equal(t, 200, triesFrom(t, s, "203.0.113.9", "Wren Halloran", password).StatusCode)
}

// TestHops: of what a proxy says of where a request came from, only addresses count.
func TestHops(t *testing.T) {
	t.Parallel()
	s := behindProxy(t, "127.0.0.1/32", time.Hour)
	for _, from := range []string{"guess", "<b>x</b>", "198.51.100.9, guess", "198.51.100.10:"} {
		require.Equal(t, 401, triesFrom(t, s, from, "nobody", "a wrong password").StatusCode)
	}
	require.Equal(t, 401, triesFrom(t, s, "guess, 198.51.100.9", "nobody", "a wrong password").StatusCode, "this one has an address")
	ctx, cancel := context.WithTimeout(t.Context(), time.Second)
	defer cancel()
	body := strings.NewReader(`{"name": "nobody", "password": "a wrong password"}`)
	req, err := http.NewRequestWithContext(ctx, "POST", s.URL+"/api/session", body)
	require.NoError(t, err)
	req.Header.Set("Content-Type", "application/json")
	req.Header.Set("X-Forwarded-For", "guess9")
	_, err = http.DefaultClient.Do(req)
	require.ErrorIs(t, err, context.DeadlineExceeded, "invented names are one network: it waits for its turn")
}

// TestProxies: what a proxy says counts where it is trusted, and only there.
func TestProxies(t *testing.T) {
	t.Parallel()
	session := func(s *httptest.Server) (*http.Cookie, string) {
		res := ask(t, s, "POST", "/api/session", `{"name": "Wren Halloran", "password": "`+password+`"}`, nil, "X-Forwarded-Proto", "https")
		require.Equal(t, 200, res.StatusCode)
		return res.Cookies()[0], res.Header.Get("Strict-Transport-Security")
	}
	cookie, hsts := session(behindProxy(t, "127.0.0.0/8", 0))
	require.True(t, cookie.Secure)
	require.Equal(t, "max-age=31536000", hsts)
	cookie, hsts = session(behindProxy(t, "10.0.0.0/8", 0))
	require.False(t, cookie.Secure, "anybody can say so")
	require.Empty(t, hsts)
}

// TestOtherNamesOfThisMachine: a page whose name was turned to this machine reads and
// writes nothing.
func TestOtherNamesOfThisMachine(t *testing.T) {
	t.Parallel()
	s := serve(t)
	for host, want := range map[string]int{"127.0.0.1:8080": 200, "localhost": 200, "[::1]:80": 200, "lantern.example": 421, "lantern.example:8080": 421,
		"192.168.1.4": 421, "127.0.0.1.example": 421, "": 400} {
		req, err := http.NewRequest("GET", s.URL+"/api/trees", nil)
		require.NoError(t, err)
		req.Host = host
		if host == "" {
			continue // the client fills it in
		}
		res, err := http.DefaultClient.Do(req)
		require.NoError(t, err)
		require.NoError(t, res.Body.Close())
		require.Equal(t, want, res.StatusCode, host)
	}
}

// TestEveryRefusalIsAProblem: whatever cannot be answered is refused as RFC 9457 says,
// and nothing of it is stored.
func TestEveryRefusalIsAProblem(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tree := s.newTree("LC-1")
	before := get[book.Story](t, s, "/api/trees/"+tree+"/story")
	entries := "/api/trees/" + tree + "/entries"
	for _, c := range []struct {
		method, path, body string
		status             int
		says               string
		headers            []string
	}{
		{"DELETE", "/api/trees", "", 405, "nothing to DELETE", nil},
		{"GET", "/api/nothing", "", 404, "nothing at this address", nil},
		{"POST", entries, "", 400, "body", nil},
		{"POST", entries, "null", 422, "", nil},
		{"POST", entries, `{"id": `, 400, "", nil},
		{"POST", entries, strings.Repeat(`{"facts":`, 11_000), 400, "", nil},
		{"POST", entries, `{"id": "` + newID() + `", "kind": "facts", "facts": {"extra": ` + strings.Repeat("[", 9000) + strings.Repeat("]", 9000) + `}}`, 400, "nested more than", nil},
		{"POST", entries, `{"id": "` + newID() + `", "kind": "facts", "facts": {"extra": {"a": ` + strings.Repeat("[", 2000) + strings.Repeat("]", 2000) + `}}}`, 422, "body.facts.extra", nil},
		{"POST", entries, `{"id": "` + newID() + `", "kind": "facts"}`, 422, "body.facts", nil},
		{"POST", entries, `{"id": "` + newID() + `", "kind": "facts", "facts": {"position": {"lon": -90.9, "lat": 43.5, "within_m": 1e999}}}`, 400, "", nil},
		{"POST", entries, `{"id": "` + newID() + `", "kind": "facts", "facts": {"extra": "text"}}`, 422, "body.facts.extra", nil},
		{"POST", entries, `{"id": "` + newID() + `", "kind": "note", "look": "` + newID() + `", "note": "x"}`, 422, "body.look", nil},
		{"POST", entries, `{"id": "` + newID() + `", "kind": "look", "from": "tree"}`, 403, "another site", []string{"Sec-Fetch-Site", "cross-site"}},
		{"POST", "/api/trees", `{"id": "` + newID() + `", "tag": "\u200b", "tract": "T", "stand": "S"}`, 422, "body.tag", nil},
		{"POST", "/api/trees", `{"id": "` + newID() + `", "tag": "A\ud800", "tract": "T", "stand": "S"}`, 422, "could not be read", nil},
		{"POST", "/api/trees", `{"id": "` + newID() + `", "tag": "A", "tract": "T\u0007", "stand": "S"}`, 422, "body.tract", nil},
		{"POST", "/api/trees", `{"id": "` + newID() + `", "tag": " LC\u00ad-1 ", "tract": "Lantern\u2003Creek watershed forest", "stand": "S", "new": true}`, 409, "body.tag", nil},
		{"PUT", "/api/visits", `{"id": "` + newID() + `", "tract": "T", "day": "1066-10-14"}`, 422, "body.day", nil},
		{"PUT", "/api/stands", `{"tract": "T", "stand": "S", "boundary": {"type": "Polygon", "coordinates": [[[1,1],[2,2],[3,3],[1,1]]]}}`, 422, "no area", nil},
		{"PUT", "/api/stands", `{"tract": "T", "stand": "S", "boundary": {"type": "Polygon", "coordinates": [[[1,1],[2,1],[2,2]]]}}`, 422, "not closed", nil},
		{"PUT", "/api/stands", `{"tract": "T", "stand": "S", "boundary": {"type": "Polygon", "coordinates": [[[1,91],[2,91],[2,92],[1,91]]]}}`, 422, "off the globe", nil},
		{"PUT", "/api/stands", `{"tract": "T", "stand": "S", "boundary": {"type": "Polygon", "coordinates": []}}`, 422, "body.boundary", nil},
		{"PUT", "/api/stands", `{"tract": "T", "stand": "S", "boundary": {"type": "FeatureCollection", "features": [null]}}`, 422, "body.boundary", nil},
		{"PUT", "/api/stands", `{"tract": "T", "stand": "S", "boundary": {"type": "Feature", "geometry": null}}`, 422, "body.boundary", nil},
		{"PUT", "/api/stands", `{"tract": "T", "stand": "S", "boundary": {"type": "GeometryCollection", "geometries": [null]}}`, 422, "body.boundary", nil},
		{"PUT", "/api/tracts", `{"tract": "T", "terrain": {"type": "FeatureCollection", "features": [null]}}`, 422, "body.terrain", nil},
		{"PUT", "/api/tracts", `{"tract": "T", "terrain": {"type": "FeatureCollection", "features": [{"type": "Feature", "geometry": null}]}}`, 422, "body.terrain", nil},
		{"PUT", "/api/tracts", `{"tract": "T", "terrain": {"type": "FeatureCollection", "features": [{"type": "Feature", "geometry": {"type": "LineString", "coordinates": []}}]}}`, 422, "body.terrain", nil},
		{"POST", "/api/imports?name=x.geojson", `{"type": "FeatureCollection", "features": [null]}`, 422, "", nil},
		{"GET", "/api/export/docx", "", 422, "", nil},
	} {
		res := answered(t, s.Server, c.method, c.path, c.body, nil, c.headers...)
		text, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		require.NoError(t, res.Body.Close())
		what := c.method + " " + c.path + " " + c.body[:min(len(c.body), 200)]
		require.Equal(t, c.status, res.StatusCode, "%s: %s", what, text)
		require.Equal(t, "application/problem+json", res.Header.Get("Content-Type"), what)
		var p problem
		require.NoError(t, json.Unmarshal(text, &p), what)
		require.Equal(t, c.status, p.Status)
		require.Contains(t, string(text), c.says, what)
	}
	require.Equal(t, before, get[book.Story](t, s, "/api/trees/"+tree+"/story"))
	require.Len(t, get[[]book.Stand](t, s, "/api/stands"), 1, "no tract or stand of what was refused stays")
	require.Empty(t, get[[]book.Visit](t, s, "/api/visits"))
}

// TestHeaders keep pages from doing what they are not meant to.
func TestHeaders(t *testing.T) {
	t.Parallel()
	s := serve(t)
	res, err := http.Get(s.URL + "/")
	require.NoError(t, err)
	require.NoError(t, res.Body.Close())
	for _, part := range []string{"form-action 'self'", "base-uri 'none'", "frame-ancestors 'none'", "default-src 'self'"} {
		require.Contains(t, res.Header.Get("Content-Security-Policy"), part)
	}
	require.Empty(t, res.Header.Get("Strict-Transport-Security"), "it is not served over TLS")
}

// TestManyExports: any number of files are read at once, each whole, and lists are
// answered meanwhile, also while nobody takes what they asked for.
func TestManyExports(t *testing.T) {
	t.Parallel()
	s := serving(t, demotest.New(t))
	slow := make([]net.Conn, 12)
	for i := range slow { // asks for a file and does not read it
		c, err := net.Dial("tcp", s.Listener.Addr().String())
		require.NoError(t, err)
		defer c.Close()
		_, err = io.WriteString(c, "GET /api/export/json HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n")
		require.NoError(t, err)
		slow[i] = c
	}
	var wg sync.WaitGroup
	files := make([][]byte, 12)
	for i := range files {
		wg.Go(func() { _, _, files[i] = s.fetch("/api/export/csv") })
	}
	longest := time.Duration(0)
	for range 20 {
		began := time.Now()
		require.Equal(t, 400, get[book.TreeList](t, s, "/api/trees").Total)
		longest = max(longest, time.Since(began))
	}
	wg.Wait()
	for _, file := range files {
		require.Equal(t, files[0], file)
	}
	require.Equal(t, 401, bytes.Count(files[0], []byte("\n")))
	status, err := bufio.NewReader(slow[0]).ReadString('\n')
	require.NoError(t, err)
	require.Contains(t, status, "200", "whoever was slow gets theirs")
	t.Logf("the slowest list took %s", longest)
}

// TestClientsThatLeft: what they asked for stops, and others are answered.
func TestClientsThatLeft(t *testing.T) {
	t.Parallel()
	s := serving(t, demotest.New(t))
	for range 40 {
		c, err := net.Dial("tcp", s.Listener.Addr().String())
		require.NoError(t, err)
		_, err = io.WriteString(c, "GET /api/export/dwca HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n")
		require.NoError(t, err)
		require.NoError(t, c.Close())
	}
	_, _, file := s.fetch("/api/export/gpx")
	require.Contains(t, string(file), "<wpt ")
}

// TestIdleConnections: a thousand that say nothing do no harm.
func TestIdleConnections(t *testing.T) {
	t.Parallel()
	s := serve(t)
	for range 1000 {
		c, err := net.Dial("tcp", s.Listener.Addr().String())
		require.NoError(t, err)
		defer c.Close()
	}
	s.newTree("LC-1")
	require.Equal(t, 1, get[book.TreeList](t, s, "/api/trees").Total)
}

// TestDevices: a device gets a token of who is signed in, sends in their name alone,
// and is ended by the lead.
func TestDevices(t *testing.T) {
	t.Parallel()
	s := guarded(t)
	observer, lead := signIn(t, s, "Tobias Okafor"), signIn(t, s, "Wren Halloran")
	var token book.Token
	read := func(method, path, body string, cookie *http.Cookie, into any, headers ...string) int {
		t.Helper()
		res := answered(t, s, method, path, body, cookie, headers...)
		defer res.Body.Close()
		if into != nil {
			require.NoError(t, json.NewDecoder(res.Body).Decode(into))
		}
		return res.StatusCode
	}
	require.Equal(t, 200, read("POST", "/api/devices", `{"name": "tablet"}`, observer, &token))
	require.Equal(t, "Tobias Okafor", token.Whose)
	bearer := []string{"Authorization", "Bearer " + token.Token}
	id := newID()
	entry := func(by string) string {
		return `{"version": 1, "entries": [{"tree": "` + id + `", "entry": {"id": "` + id + `", "kind": "start", "by": "` + by +
			`", "start": {"tag": "LC-1", "tract": "Lantern Creek watershed forest", "stand": "Upper slope", "region": "eastern-north-america"}}}]}`
	}
	var answers []book.Met
	require.Equal(t, 200, read("POST", "/api/meeting", entry("Wren Halloran"), nil, &answers, bearer...))
	require.Equal(t, book.Refused, answers[0].Answer, "nobody's name is put on what others made")
	again := strings.Replace(entry("Wren Halloran"), `"version": 1`, `"version": 1, "again": true`, 1)
	require.Equal(t, 200, read("POST", "/api/meeting", again, nil, &answers, bearer...))
	require.Equal(t, book.Refused, answers[0].Answer, "nor what an observer says that the book lost")
	require.Equal(t, 200, read("POST", "/api/meeting", entry("Marit Sandoval"), lead, &answers))
	require.Equal(t, book.Refused, answers[0].Answer, "nor by a lead, but for what the book lost")
	require.Equal(t, 200, read("POST", "/api/meeting", entry("Tobias Okafor"), nil, &answers, bearer...))
	require.Equal(t, book.Taken, answers[0].Answer)
	var changes book.Changes
	require.Equal(t, 200, read("GET", "/api/changes?holds=12", "", nil, &changes, bearer...))
	require.Len(t, changes.Entries, 1)
	var devices []book.Device
	require.Equal(t, 200, read("GET", "/api/devices", "", observer, &devices))
	require.Equal(t, 12, devices[0].Holds)
	require.NotEmpty(t, devices[0].Met)
	require.Equal(t, 200, read("GET", "/api/trees/"+id+"/log", "", nil, &changes, bearer...))
	require.Equal(t, 409, read("POST", "/api/meeting", `{"version": 0, "entries": []}`, nil, nil, bearer...), "it is told to renew itself")

	var leads book.Token
	require.Equal(t, 200, read("POST", "/api/devices", `{"name": "Wren's phone"}`, lead, &leads))
	require.Equal(t, 404, read("DELETE", "/api/devices/"+leads.ID, "", observer, nil), "not another's")
	var own book.Token
	require.Equal(t, 200, read("POST", "/api/devices", `{"name": "a try"}`, observer, &own))
	require.Equal(t, 204, read("DELETE", "/api/devices/"+own.ID, "", observer, nil), "one's own")
	require.Equal(t, 204, read("DELETE", "/api/devices/"+token.ID, "", lead, nil))
	require.Equal(t, 401, read("POST", "/api/meeting", entry("Tobias Okafor"), nil, nil, bearer...))
	require.Equal(t, 404, read("DELETE", "/api/devices/nothing", "", lead, nil))
	require.Equal(t, 200, read("GET", "/api/devices", "", observer, &devices))
	require.Equal(t, []string{"Tobias Okafor", "Tobias Okafor"}, []string{devices[0].Whose, devices[1].Whose}, "one's own alone")
	require.Equal(t, 200, read("GET", "/api/devices", "", lead, &devices))
	require.True(t, devices[0].Ended)
	alone := serve(t)
	status, _ := alone.send("POST", "/api/devices", `{"name": "tablet"}`)
	require.Equal(t, 409, status, "on one's own machine a device needs none")
}

// TestAlongGoesOn: a download that broke off goes on with the same bytes, whatever was
// entered meanwhile; one that the book does not keep any more begins anew.
func TestAlongGoesOn(t *testing.T) {
	t.Setenv("TMPDIR", t.TempDir())
	s := serve(t)
	s.newTree("LC-1")
	ask := func(headers ...string) (*http.Response, []byte) {
		t.Helper()
		res := answered(t, s.Server, "GET", "/api/along?tract=Lantern+Creek+watershed+forest", "", nil, headers...)
		defer res.Body.Close()
		body, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		return res, body
	}
	first, whole := ask()
	require.Equal(t, 200, first.StatusCode)
	tag := first.Header.Get("ETag")
	again, same := ask()
	require.Equal(t, tag, again.Header.Get("ETag"), "a crew shares it while nothing is entered")
	require.Equal(t, whole, same)

	s.newTree("LC-2")
	rest, body := ask("Range", "bytes=1000-", "If-Range", tag)
	require.Equal(t, 206, rest.StatusCode)
	require.Equal(t, whole[1000:], body)
	require.Equal(t, first.Header.Get("X-Unpacked"), rest.Header.Get("X-Unpacked"))
	left, err := filepath.Glob(filepath.Join(os.TempDir(), "palethicket-*", "along.db.gz"))
	require.NoError(t, err)
	require.NotEmpty(t, left)
	for _, path := range left {
		require.NoError(t, os.Remove(path)) // as a system does that clears up
	}
	cleared, _ := ask("Range", "bytes=1000-", "If-Range", tag)
	require.Equal(t, 200, cleared.StatusCode, "it is made anew")
	anew, body := ask("Range", "bytes=1000-", "If-Range", `"01KB0000000000000000000000"`)
	require.Equal(t, 200, anew.StatusCode)
	require.NotEqual(t, tag, anew.Header.Get("ETag"))
	z, err := gzip.NewReader(bytes.NewReader(body))
	require.NoError(t, err)
	unpacked, err := io.ReadAll(z)
	require.NoError(t, err)
	require.Equal(t, anew.Header.Get("X-Unpacked"), fmt.Sprint(len(unpacked)))
}
