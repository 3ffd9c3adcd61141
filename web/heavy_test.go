package web_test

import (
	"bytes"
	"net/http"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"
)

// TestManyFilesAtOnce: forty people each read a file in at once. Each is answered, or told when to
// come again; lists are answered meanwhile.
func TestManyFilesAtOnce(t *testing.T) {
	t.Parallel()
	s := guarded(t)
	lead := signIn(t, s, "Wren Halloran")
	file := "tag,tract,stand\n" + string(bytes.Repeat([]byte("LC-1,Lantern Creek watershed forest,North cove\n"), 20_000))
	var mu sync.Mutex
	got := map[int]int{}
	var wg sync.WaitGroup
	for range 40 {
		wg.Go(func() {
			res := ask(t, s, "POST", "/api/imports?name=a.csv", file, lead)
			mu.Lock()
			defer mu.Unlock()
			got[res.StatusCode]++
			if res.StatusCode == http.StatusServiceUnavailable {
				require.NotEmpty(t, res.Header.Get("Retry-After"))
			}
		})
	}
	require.Equal(t, 200, ask(t, s, "GET", "/api/trees", "", lead).StatusCode)
	wg.Wait()
	require.Positive(t, got[200])
	require.Positive(t, got[503])
	require.Equal(t, 40, got[200]+got[422]+got[503], got)
	status, text := call(t, s, lead, "POST", "/api/imports?name=a.csv", file)
	require.NotEqual(t, 503, status, "there is room again: %s", text)
}
