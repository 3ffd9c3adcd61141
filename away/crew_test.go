package away_test

import (
	"net/http"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/away"
	"palethicket/book"
)

// TestAnybodyTakesATractAlong: whatever their role, and they sign in again without a signal.
func TestAnybodyTakesATractAlong(t *testing.T) {
	t.Parallel()
	h := newHome(t, true)
	require.NoError(t, h.book.AddMember(t.Context(), book.NewMember{Name: "Marit Sandoval", Role: book.Reader, Password: password}))
	for name, role := range map[string]string{"Wren Halloran": book.Lead, "Tobias Okafor": book.Observer, "Marit Sandoval": book.Reader} {
		d := h.along(name, time.Now)
		_, who, err := d.book.SignIn(t.Context(), name, password)
		require.NoError(t, err, "without a signal")
		require.Equal(t, role, who.Role)
		_, _, err = d.book.SignIn(t.Context(), name, "another password, long")
		require.ErrorIs(t, err, book.ErrWrongPassword)
	}
}

// TestTokensAreRenewed: whoever signs in with a connection gets a token that home takes, whatever became of the one
// before and whatever the clock says; and taking along anew keeps the fresher one.
func TestTokensAreRenewed(t *testing.T) {
	t.Parallel()
	h := newHome(t, true)
	now := time.Now()
	d := h.along("Tobias Okafor", func() time.Time { return now })
	tree := treeOf(t, d.book, "LC-1")
	now = now.AddDate(0, 0, 40) // the clock is wrong
	look(t, d.book, tree, "Tobias Okafor", "smooth")
	require.NoError(t, d.Meet(t.Context()), "home says whether a token still runs")
	require.Empty(t, d.status().Waiting)

	devices, err := h.book.Devices(t.Context(), "")
	require.NoError(t, err)
	require.NoError(t, h.book.EndDevice(t.Context(), devices[0].ID, ""))
	look(t, d.book, tree, "Tobias Okafor", "smooth")
	require.Error(t, d.Meet(t.Context()))
	require.Contains(t, d.status().Waiting[0].Needs, "until Tobias Okafor signs in here with a connection")
	require.NoError(t, d.SignIn(t.Context(), "Tobias Okafor", password))
	require.NoError(t, d.Meet(t.Context()))
	require.Empty(t, d.status().Waiting)

	again := h.along("Tobias Okafor", time.Now)
	_, err = away.Carry(t.Context(), d.book, again.book)
	require.NoError(t, err)
	again.open(time.Now)
	again.Device, err = away.Open(t.Context(), again.book, h.url, http.DefaultClient, time.Now)
	require.NoError(t, err)
	look(t, again.book, tree, "Tobias Okafor", "smooth")
	require.NoError(t, again.Meet(t.Context()))
	require.Empty(t, again.status().Waiting)
}

// TestAPortalIsNotHome: what answers in home's place ends no token.
func TestAPortalIsNotHome(t *testing.T) {
	t.Parallel()
	h := newHome(t, true)
	d := h.along("Tobias Okafor", time.Now)
	look(t, d.book, treeOf(t, d.book, "LC-1"), "Tobias Okafor", "smooth")
	inside := h.Handler
	for _, status := range []int{401, 403, 511, 404, 200} {
		h.Handler = http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
			w.Header().Set("Content-Type", "text/html")
			w.WriteHeader(status)
			_, _ = w.Write([]byte("<html>Pay here"))
		})
		require.Error(t, d.Meet(t.Context()))
		require.False(t, d.status().Online, status)
		require.Empty(t, d.status().Waiting[0].Needs, status)
	}
	h.Handler = inside
	require.NoError(t, d.Meet(t.Context()))
	require.Empty(t, d.status().Waiting)
}

// TestRestoredFromABackup: a server that was restored gets back what any device knows, others' entries too; then all
// three books hold the same.
func TestRestoredFromABackup(t *testing.T) {
	t.Parallel()
	h := newHome(t, true)
	wren, tobias := h.along("Wren Halloran", time.Now), h.along("Tobias Okafor", time.Now)
	require.NoError(t, h.book.Close())
	yesterday, err := os.ReadFile(h.path)
	require.NoError(t, err)
	h.open(true)
	tree := treeOf(t, h.book, "LC-1")
	look(t, h.book, tree, "Marit Sandoval", "smooth") // at the server, by somebody who has no device
	theirs := start(t, h.book, "LC-70", "Marit Sandoval")
	look(t, tobias.book, tree, "Tobias Okafor", "smooth")
	mine := start(t, tobias.book, "LC-71", "Tobias Okafor")
	tobias.meet()
	wren.meet() // heard all of it
	look(t, wren.book, mine, "Wren Halloran", "smooth")
	wren.meet()
	tobias.meet()
	ids := []string{tree, theirs, mine}
	var want []string
	for _, id := range ids {
		want = append(want, view(t, h.book, id))
	}

	require.NoError(t, h.book.Close())
	require.NoError(t, os.WriteFile(h.path, yesterday, 0o600))
	for _, beside := range []string{"-wal", "-shm"} {
		_ = os.Remove(h.path + beside)
	}
	h.open(true)
	look(t, tobias.book, theirs, "Tobias Okafor", "smooth") // of a tree that home has not yet again
	_ = tobias.Meet(t.Context())
	for _, w := range tobias.status().Refused {
		require.Fail(t, "nothing is refused for good", "%+v", w)
	}
	for range 2 {
		wren.meet()
		tobias.meet()
	}
	require.Empty(t, tobias.status().Waiting)
	for i, id := range ids {
		require.Equal(t, view(t, h.book, id), view(t, wren.book, id))
		require.Equal(t, view(t, h.book, id), view(t, tobias.book, id))
		if id != theirs {
			require.Equal(t, want[i], view(t, h.book, id))
		}
	}
}

// TestTooLarge: what lies between takes no large requests; one entry that is too large alone holds up no other.
func TestTooLarge(t *testing.T) {
	t.Parallel()
	h := newHome(t, false)
	d := h.along("", time.Now)
	tree := treeOf(t, d.book, "LC-1")
	_, err := d.book.AddEntry(t.Context(), tree, &book.Entry{ID: ulid.Make().String(), Kind: "note", Look: look(t, d.book, tree, "", "smooth"),
		Note: strings.Repeat("long ", 399)})
	require.NoError(t, err)
	for range 20 {
		look(t, d.book, tree, "", "smooth")
	}
	inside := h.Handler
	h.Handler = http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.ContentLength > 1500 {
			http.Error(w, "<html>too large", http.StatusRequestEntityTooLarge)
			return
		}
		inside.ServeHTTP(w, r)
	})
	require.NoError(t, d.Meet(t.Context()))
	s := d.status()
	require.Empty(t, s.Waiting)
	require.Len(t, s.Refused, 1)
	require.Contains(t, s.Refused[0].Why, "takes nothing so large")
}
