package away_test

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"os"
	"path/filepath"
	"testing"
	"testing/fstest"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/away"
	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/demo/demotest"
	"palethicket/web"
)

func TestMain(m *testing.M) {
	flag.Parse()
	if testing.Short() {
		book.HashLightly() // make nightly has the memory of the real one
	}
	demotest.Main(m, func() {})
}

const (
	tract    = "Lantern Creek watershed forest"
	password = "frost on the bluff path"
)

// home is a server of a book that may be out of reach, lose answers, or be another.
type home struct {
	t    testing.TB
	path string
	book *book.Book
	url  string
	http.Handler
	lead  *http.Cookie
	cut   func(*http.Request) bool // the line breaks before home hears it
	lose  func(*http.Request) bool // home hears it, and its answer is lost
	asked []string

	options func(*book.Options) // what it opens its book with otherwise
}

func (h *home) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	h.asked = append(h.asked, r.Method+" "+r.URL.Path)
	if h.cut != nil && h.cut(r) {
		panic(http.ErrAbortHandler)
	}
	if h.lose != nil && h.lose(r) {
		h.Handler.ServeHTTP(httptest.NewRecorder(), r)
		panic(http.ErrAbortHandler)
	}
	h.Handler.ServeHTTP(w, r)
}

// newHome serves a book with three trees, to a crew or to anybody.
func newHome(t testing.TB, guarded bool) *home {
	t.Helper()
	h := &home{t: t, path: filepath.Join(t.TempDir(), "book.db")}
	h.open(guarded)
	for _, tag := range []string{"LC-1", "LC-2", "LC-3"} {
		start(t, h.book, tag, "")
	}
	return h
}

func (h *home) open(guarded bool) {
	h.t.Helper()
	opt := booktest.Options(h.t)
	if h.options != nil {
		h.options(&opt)
	}
	h.book = booktest.Opened(h.t, h.path, opt)
	if guarded {
		crew, err := h.book.Crew(h.t.Context())
		require.NoError(h.t, err)
		if len(crew) == 0 {
			require.NoError(h.t, h.book.AddMember(h.t.Context(), book.NewMember{Name: "Wren Halloran", Role: book.Lead, Password: password}))
			require.NoError(h.t, h.book.AddMember(h.t.Context(), book.NewMember{Name: "Tobias Okafor", Role: book.Observer, Password: password}))
		}
	}
	log := slog.New(slog.DiscardHandler)
	h.Handler = web.New(h.book, web.Options{Log: log, Guarded: guarded}).Handler(fstest.MapFS{"index.html": {}})
	if h.url == "" {
		s := httptest.NewUnstartedServer(h)
		s.Config.ErrorLog = slog.NewLogLogger(slog.DiscardHandler, slog.LevelError)
		s.Start()
		h.t.Cleanup(s.Close)
		h.url = s.URL
	}
}

func (h *home) ask(method, path, token string, body any, out any) int {
	h.t.Helper()
	text, err := json.Marshal(body)
	require.NoError(h.t, err)
	req, err := http.NewRequest(method, h.url+path, bytes.NewReader(text))
	require.NoError(h.t, err)
	req.Header.Set("Content-Type", "application/json")
	if token != "" {
		req.Header.Set("Authorization", "Bearer "+token)
	} else if h.lead != nil {
		req.AddCookie(h.lead)
	}
	res, err := http.DefaultClient.Do(req)
	require.NoError(h.t, err)
	defer res.Body.Close()
	if out != nil {
		require.NoError(h.t, json.NewDecoder(res.Body).Decode(out))
	}
	for _, c := range res.Cookies() {
		h.lead = c
	}
	return res.StatusCode
}

// device is what took a tract along.
type device struct {
	*away.Device
	t    testing.TB
	book *book.Book
	path string
}

// along has a device take the tract along, or others, for one of the crew where they sign
// in.
func (h *home) along(name string, now func() time.Time, tracts ...string) *device {
	h.t.Helper()
	if len(tracts) == 0 {
		tracts = []string{tract}
	}
	taken := away.Taken{Tracts: tracts, Device: "Wren's phone"}
	if name != "" {
		var who struct{ Role string }
		require.Equal(h.t, 200, h.ask("POST", "/api/session", "", map[string]string{"name": name, "password": password}, &who))
		var token book.Token
		require.Equal(h.t, 200, h.ask("POST", "/api/devices", "", map[string]string{"name": "Wren's phone"}, &token))
		taken.Guarded, taken.Name, taken.Role, taken.Token, taken.Until = true, token.Whose, who.Role, token.Token, token.Until
		taken.Hash = token.Hash
	}
	d := &device{t: h.t, path: filepath.Join(h.t.TempDir(), "device.db")}
	h.fetch(d.path, taken.Token, tracts)
	d.open(now)
	_, err := away.Begin(h.t.Context(), d.book, taken, now())
	require.NoError(h.t, err)
	jar, err := cookiejar.New(nil) // as a browser has
	require.NoError(h.t, err)
	d.Device, err = away.Open(h.t.Context(), d.book, h.url, &http.Client{Jar: jar}, now)
	require.NoError(h.t, err)
	return d
}

// fetch writes what is taken along to a file.
func (h *home) fetch(path, token string, tracts []string) {
	h.t.Helper()
	req, err := http.NewRequest("GET", h.url+"/api/along?"+url.Values{"tract": tracts}.Encode(), nil)
	require.NoError(h.t, err)
	req.Header.Set("Authorization", "Bearer "+token)
	res, err := http.DefaultClient.Do(req)
	require.NoError(h.t, err)
	defer res.Body.Close()
	require.Equal(h.t, 200, res.StatusCode)
	z, err := gzip.NewReader(res.Body)
	require.NoError(h.t, err)
	body, err := io.ReadAll(z)
	require.NoError(h.t, err)
	require.Equal(h.t, res.Header.Get("X-Unpacked"), fmt.Sprint(len(body)))
	require.NoError(h.t, os.WriteFile(path, body, 0o600))
}

func (d *device) open(now func() time.Time) {
	d.t.Helper()
	opt := booktest.Options(d.t)
	opt.Away, opt.Now = true, now
	var err error
	d.book, err = book.Open(d.t.Context(), d.path, opt)
	require.NoError(d.t, err)
	d.t.Cleanup(func() { d.book.Close() })
}

func (d *device) meet() {
	d.t.Helper()
	require.NoError(d.t, d.Meet(d.t.Context()))
	s := d.status()
	require.True(d.t, s.Online)
	require.Empty(d.t, s.Trouble)
}

func (d *device) status() *away.Status {
	d.t.Helper()
	s, err := d.Status(d.t.Context())
	require.NoError(d.t, err)
	return s
}

func start(t testing.TB, b *book.Book, tag, by string) string {
	t.Helper()
	id := ulid.Make().String()
	_, err := b.AddTree(t.Context(), book.NewTree{ID: id, Tag: tag, Tract: tract, Stand: "Upper slope", By: by})
	require.NoError(t, err)
	return id
}

// look scores the bark of a tree.
func look(t testing.TB, b *book.Book, tree, by string, states ...string) string {
	t.Helper()
	id := ulid.Make().String()
	_, err := b.AddEntry(t.Context(), tree, &book.Entry{ID: id, Kind: "look", From: "tree", By: by})
	require.NoError(t, err)
	for _, s := range states {
		_, err = b.AddEntry(t.Context(), tree, &book.Entry{ID: ulid.Make().String(), Kind: "score", Look: id, By: by,
			Score: &book.Score{Character: "bark.texture", States: []string{s}}})
		require.NoError(t, err)
	}
	return id
}

// view is a tree as it is sent, but for its revision.
func view(t testing.TB, b *book.Book, tree string) string {
	t.Helper()
	v, err := b.View(t.Context(), tree)
	require.NoError(t, err)
	text, err := json.Marshal(v)
	require.NoError(t, err)
	return string(text)
}

func treeOf(t testing.TB, b *book.Book, tag string) string {
	t.Helper()
	list, err := b.Trees(t.Context(), book.Query{Text: tag}, 500, 0)
	require.NoError(t, err)
	for _, l := range list.Trees {
		if l.Tag == tag {
			return l.ID
		}
	}
	require.Fail(t, "no tree "+tag)
	return ""
}

// TestADayAway: what is entered away comes home under its name, once, and what was
// entered at home comes along.
func TestADayAway(t *testing.T) {
	t.Parallel()
	h := newHome(t, true)
	d := h.along("Wren Halloran", time.Now)
	require.Equal(t, "", d.status().Trouble)
	tree := treeOf(t, d.book, "LC-1")
	require.Equal(t, view(t, h.book, tree), view(t, d.book, tree), "as it was taken along")

	look(t, d.book, tree, "Wren Halloran", "smooth")
	fresh := start(t, d.book, "LC-90", "Wren Halloran")
	other := treeOf(t, h.book, "LC-2")
	look(t, h.book, other, "Tobias Okafor", "warty-ridges")
	require.Equal(t, 4, d.status().Count, "a visit, a look, a score and a start")
	d.meet()
	require.Zero(t, d.status().Count)
	for _, id := range []string{tree, fresh, other} {
		require.Equal(t, view(t, h.book, id), view(t, d.book, id))
	}
	log, err := h.book.TreeChanges(t.Context(), tree)
	require.NoError(t, err)
	d.meet()
	again, err := h.book.TreeChanges(t.Context(), tree)
	require.NoError(t, err)
	require.Equal(t, log, again, "meeting twice is as once")
	require.Contains(t, string(log.Entries[len(log.Entries)-1].Entry), "Wren Halloran")
}

// TestLinesBreak: whichever question is lost, or whichever answer, the next meeting goes
// on, and nothing is doubled.
func TestLinesBreak(t *testing.T) {
	t.Parallel()
	h := newHome(t, false)
	d := h.along("", time.Now)
	tree := treeOf(t, d.book, "LC-1")
	for round := range 24 {
		look(t, d.book, tree, "", "smooth")
		look(t, h.book, tree, "", "warty-ridges")
		n := 0
		fails := func(*http.Request) bool { n++; return n == 1+round%6 }
		if h.cut, h.lose = fails, nil; round%2 == 1 {
			h.cut, h.lose = nil, fails
		}
		if err := d.Meet(t.Context()); err != nil {
			require.False(t, d.status().Online)
			require.Empty(t, d.status().Trouble, "out of reach is no trouble")
		}
	}
	h.cut, h.lose = nil, nil
	d.meet()
	require.Equal(t, view(t, h.book, tree), view(t, d.book, tree))
	v, err := h.book.View(t.Context(), tree)
	require.NoError(t, err)
	require.Len(t, v.Looks, 48)
}

// TestTwoDevicesOneTree: two devices score one tree and meet home in either order; all
// three books show the same.
func TestTwoDevicesOneTree(t *testing.T) {
	t.Parallel()
	for _, first := range []int{0, 1} {
		h := newHome(t, false)
		devices := []*device{h.along("", time.Now), h.along("", time.Now)}
		tree := treeOf(t, h.book, "LC-1")
		look(t, devices[0].book, tree, "Wren Halloran", "smooth")
		look(t, devices[1].book, tree, "Tobias Okafor", "warty-ridges")
		for _, d := range devices {
			_, err := d.book.AddEntry(t.Context(), tree, &book.Entry{ID: ulid.Make().String(), Kind: "name",
				Name: &book.Naming{Rank: "genus", Name: []string{"Acer", "Ulmus"}[len(d.path)%2]}})
			require.NoError(t, err)
		}
		for _, i := range []int{first, 1 - first, first} {
			devices[i].meet()
		}
		require.Equal(t, view(t, h.book, tree), view(t, devices[0].book, tree))
		require.Equal(t, view(t, h.book, tree), view(t, devices[1].book, tree))
		v, err := h.book.View(t.Context(), tree)
		require.NoError(t, err)
		require.Len(t, v.Looks, 2, "both stand")
	}
}

// TestOneTagTwice: two trees that got one tag on two devices are both kept, and each
// says so of the other.
func TestOneTagTwice(t *testing.T) {
	t.Parallel()
	h := newHome(t, false)
	a, b := h.along("", time.Now), h.along("", time.Now)
	one, two := start(t, a.book, "LC-77", ""), start(t, b.book, "LC-77", "")
	a.meet()
	b.meet()
	a.meet()
	for _, bk := range []*book.Book{h.book, a.book, b.book} {
		for tree, other := range map[string]string{one: two, two: one} {
			v, err := bk.View(t.Context(), tree)
			require.NoError(t, err)
			require.Equal(t, []string{other}, v.SameTag)
		}
	}
	_, err := a.book.MoveTree(t.Context(), one, book.Move{Tag: "LC-77a", Tract: tract, Stand: "Upper slope"})
	require.NoError(t, err)
	a.meet()
	v, err := h.book.View(t.Context(), two)
	require.NoError(t, err)
	require.Empty(t, v.SameTag)
}

// TestHomeOfYesterday: home was restored from a copy. The device notices, tells what home
// lacks again, and hears all anew.
func TestHomeOfYesterday(t *testing.T) {
	t.Parallel()
	h := newHome(t, false)
	d := h.along("", time.Now)
	require.NoError(t, h.book.Close())
	yesterday, err := os.ReadFile(h.path)
	require.NoError(t, err)
	h.open(false)
	tree := treeOf(t, d.book, "LC-1")
	look(t, d.book, tree, "", "smooth")
	fresh := start(t, d.book, "LC-91", "")
	d.meet()
	want := view(t, h.book, tree)
	require.NoError(t, h.book.Close())
	require.NoError(t, os.WriteFile(h.path, yesterday, 0o600))
	for _, beside := range []string{"-wal", "-shm"} {
		_ = os.Remove(h.path + beside) // where it was closed whole there is none
	}
	h.open(false)
	_, err = h.book.View(t.Context(), fresh)
	require.ErrorIs(t, err, book.ErrNoTree, "home lost it")
	for n := range 5 { // and went on without it
		start(t, h.book, fmt.Sprint("LC-20", n), "")
	}
	d.meet()
	require.Equal(t, want, view(t, h.book, tree))
	require.Equal(t, view(t, h.book, fresh), view(t, d.book, fresh))
	require.Equal(t, view(t, h.book, treeOf(t, h.book, "LC-204")), view(t, d.book, treeOf(t, d.book, "LC-204")))
}

// TestWrongClocks: with a clock a day behind or ahead what was seen is corrected, and the
// books agree.
func TestWrongClocks(t *testing.T) {
	t.Parallel()
	for _, off := range []time.Duration{-24 * time.Hour, 24 * time.Hour} {
		h := newHome(t, false)
		tree := treeOf(t, h.book, "LC-1")
		id := look(t, h.book, tree, "", "smooth")
		d := h.along("", func() time.Time { return time.Now().Add(off) })
		score := func(b *book.Book, state string) {
			_, err := b.AddEntry(t.Context(), tree, &book.Entry{ID: ulid.Make().String(), Kind: "score", Look: id,
				Score: &book.Score{Character: "bark.texture", States: []string{state}}})
			require.NoError(t, err)
		}
		score(d.book, "warty-ridges")
		d.meet()
		require.Equal(t, view(t, h.book, tree), view(t, d.book, tree))
		require.Contains(t, view(t, h.book, tree), "warty-ridges", "who corrects what they see comes after it")
		score(h.book, "smooth")
		d.meet()
		require.Equal(t, view(t, h.book, tree), view(t, d.book, tree))
		require.NotContains(t, view(t, h.book, tree), `"warty-ridges"],"value`)
	}
}

// TestSeveralPeople: each person's entries go under their name; those of somebody whose
// account was closed, or who never signed in here, wait and hold up nobody.
func TestSeveralPeople(t *testing.T) {
	t.Parallel()
	h := newHome(t, true)
	d := h.along("Wren Halloran", time.Now)
	tree := treeOf(t, d.book, "LC-1")
	require.NoError(t, d.SignIn(t.Context(), "Tobias Okafor", password))
	require.ErrorIs(t, d.SignIn(t.Context(), "Tobias Okafor", "a wrong password, long"), book.ErrWrongPassword)
	look(t, d.book, tree, "Wren Halloran", "smooth")
	look(t, d.book, tree, "Tobias Okafor", "smooth")
	look(t, d.book, tree, "Marit Sandoval", "smooth")
	closed := true
	require.NoError(t, h.book.ChangeMember(t.Context(), "Tobias Okafor", book.MemberChange{Closed: &closed}))
	require.NoError(t, d.Meet(t.Context()), "the others go on")
	s := d.status()
	require.Len(t, s.Waiting, 2)
	require.Contains(t, s.Waiting[0].Needs, "Marit Sandoval signs in on this device")
	require.Contains(t, s.Waiting[1].Needs, "home no longer takes what Tobias Okafor sends")
	v, err := h.book.View(t.Context(), tree)
	require.NoError(t, err)
	require.Len(t, v.Looks, 1, "Wren's came home")

	open := false
	require.NoError(t, h.book.ChangeMember(t.Context(), "Tobias Okafor", book.MemberChange{Closed: &open}))
	require.NoError(t, d.SignIn(t.Context(), "Tobias Okafor", password))
	d.meet()
	require.Len(t, d.status().Waiting, 1)
	h.cut = func(*http.Request) bool { return true }
	require.ErrorIs(t, d.SignIn(t.Context(), "Marit Sandoval", password), away.ErrOutOfReach)
}
