package web_test

import (
	"io"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/web"
)

const password = "seven cold mornings"

// guarded serves a book beyond its machine, with a crew of three.
func guarded(t *testing.T) *httptest.Server {
	t.Helper()
	b := booktest.New(t)
	for name, role := range map[string]string{"Wren Halloran": book.Lead} {
		require.NoError(t, b.AddMember(t.Context(), book.NewMember{Name: name, Role: role, Password: password}))
	}
	for name, role := range map[string]string{"Tobias Okafor": book.Observer, "Marit Sandoval": book.Reader} {
		require.NoError(t, b.AddMember(t.Context(), book.NewMember{Name: name, Role: role, Password: password}))
	}
	s := httptest.NewServer(web.New(b, web.Options{Log: quiet.Log, Guarded: true}).Handler(pages))
	t.Cleanup(s.Close)
	return s
}

func ask(t *testing.T, s *httptest.Server, method, path, body string, cookie *http.Cookie, headers ...string) *http.Response {
	t.Helper()
	res := answered(t, s, method, path, body, cookie, headers...)
	require.NoError(t, res.Body.Close())
	return res
}

// answered is the answer to a request, its body still to be read.
func answered(t *testing.T, s *httptest.Server, method, path, body string, cookie *http.Cookie, headers ...string) *http.Response {
	t.Helper()
	req, err := http.NewRequest(method, s.URL+path, strings.NewReader(body))
	require.NoError(t, err)
	req.Header.Set("Content-Type", "application/json")
	for i := 0; i < len(headers); i += 2 {
		req.Header.Set(headers[i], headers[i+1])
	}
	if cookie != nil {
		req.AddCookie(cookie)
	}
	res, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	return res
}

func signIn(t *testing.T, s *httptest.Server, name string) *http.Cookie {
	t.Helper()
	res := ask(t, s, "POST", "/api/session", `{"name": "`+name+`", "password": "`+password+`"}`, nil)
	require.Equal(t, 200, res.StatusCode)
	require.Len(t, res.Cookies(), 1)
	return res.Cookies()[0]
}

func TestEachAsFarAsTheirRole(t *testing.T) {
	t.Parallel()
	s := guarded(t)
	tree := func() string {
		return `{"id": "` + newID() + `", "tag": "` + newID() + `", "tract": "Lantern Creek watershed forest", "stand": "Upper slope"}`
	}
	visit := `{"id": "` + newID() + `", "tract": "Lantern Creek watershed forest", "day": "2026-11-25", "snow": "none"}`
	stand := `{"tract": "Lantern Creek watershed forest", "stand": "Upper slope", "remarks": "steep"}`
	for name, want := range map[string][]int{ // reading, a tree, a visit, a stand, the crew, what names must reach, that out of bounds
		"":               {401, 401, 401, 401, 401, 401, 401},
		"Marit Sandoval": {200, 403, 403, 403, 403, 403, 403},
		"Tobias Okafor":  {200, 201, 204, 403, 403, 403, 403},
		"Wren Halloran":  {200, 201, 204, 204, 200, 200, 422},
	} {
		var cookie *http.Cookie
		if name != "" {
			cookie = signIn(t, s, name)
		}
		got := []int{
			ask(t, s, "GET", "/api/trees", "", cookie).StatusCode,
			ask(t, s, "POST", "/api/trees", tree(), cookie).StatusCode,
			ask(t, s, "PUT", "/api/visits", visit, cookie).StatusCode,
			ask(t, s, "PUT", "/api/stands", stand, cookie).StatusCode,
			ask(t, s, "GET", "/api/crew", "", cookie).StatusCode,
			ask(t, s, "PUT", "/api/bars", `{"probably": 0.75}`, cookie).StatusCode,
			ask(t, s, "PUT", "/api/bars", `{"probably": 0.3}`, cookie).StatusCode,
		}
		require.Equal(t, want, got, name)
	}
	require.Equal(t, 200, ask(t, s, "GET", "/", "", nil).StatusCode, "the pages themselves say nothing")
}

func TestCookie(t *testing.T) {
	t.Parallel()
	s := guarded(t)
	c := signIn(t, s, "Wren Halloran")
	require.True(t, c.HttpOnly)
	require.Equal(t, http.SameSiteStrictMode, c.SameSite)
	require.Equal(t, 200, ask(t, s, "GET", "/api/trees", "", c).StatusCode)
	require.Equal(t, 200, ask(t, s, "DELETE", "/api/session", "", c).StatusCode)
	require.Equal(t, 401, ask(t, s, "GET", "/api/trees", "", c).StatusCode, "signed out")
}

// TestOtherPagesCannotWrite: a page from elsewhere cannot have a browser write,
// signed in or not.
func TestOtherPagesCannotWrite(t *testing.T) {
	t.Parallel()
	s := guarded(t)
	c := signIn(t, s, "Wren Halloran")
	body := `{"tract": "Lantern Creek watershed forest", "stand": "Upper slope"}`
	require.Equal(t, 403, ask(t, s, "PUT", "/api/stands", body, c, "Sec-Fetch-Site", "cross-site").StatusCode)
	require.Equal(t, 403, ask(t, s, "PUT", "/api/stands", body, c, "Origin", "https://elsewhere.example").StatusCode)
	require.Equal(t, 204, ask(t, s, "PUT", "/api/stands", body, c, "Sec-Fetch-Site", "same-origin").StatusCode)
	alone := serve(t)
	require.Equal(t, 403, ask(t, alone.Server, "PUT", "/api/stands", body, nil, "Sec-Fetch-Site", "cross-site").StatusCode)
}

// TestWhoEnteredIt: signed in, nobody enters in another's name.
func TestWhoEnteredIt(t *testing.T) {
	t.Parallel()
	s := guarded(t)
	c := signIn(t, s, "Tobias Okafor")
	id := newID()
	require.Equal(
		t,
		201,
		ask(
			t,
			s,
			"POST",
			"/api/trees",
			`{"id": "`+id+`", "tag": "LC-1", "tract": "Lantern Creek watershed forest", "stand": "Upper slope"}`,
			c,
		).StatusCode,
	)
	require.Equal(
		t,
		200,
		ask(
			t,
			s,
			"POST",
			"/api/trees/"+id+"/entries",
			`{"id": "`+newID()+`", "kind": "note", "note": "leans"}`,
			c,
		).StatusCode,
	)
	others := ask(
		t,
		s,
		"POST",
		"/api/trees/"+id+"/entries",
		`{"id": "`+newID()+`", "kind": "note", "note": "bent", "by": "Wren Halloran"}`,
		c,
	)
	require.Equal(t, 401, others.StatusCode, "it waits for who made it")
	req, err := http.NewRequest("GET", s.URL+"/api/trees/"+id+"/story", nil)
	require.NoError(t, err)
	req.AddCookie(c)
	res, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	defer res.Body.Close()
	var text strings.Builder
	_, err = io.Copy(&text, res.Body)
	require.NoError(t, err)
	require.Contains(t, text.String(), `"by":"Tobias Okafor"`)
	require.NotContains(t, text.String(), "Wren")
}
