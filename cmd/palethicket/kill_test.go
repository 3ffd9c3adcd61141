package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/store"
)

// TestServedElsewhere is the server that TestKilledServerLosesNothing kills: the
// test binary runs itself.
func TestServedElsewhere(t *testing.T) {
	t.Parallel()
	if os.Getenv("PT_KILL_BOOK") == "" {
		t.Skip("run by TestKilledServerLosesNothing")
	}
	require.NoError(
		t,
		serve(t.Context(), bookFlags{Data: os.Getenv("PT_KILL_BOOK")}, listenFlags{Listen: os.Getenv("PT_KILL_LISTEN")}, nothing),
	)
}

// served starts a server in a process of its own.
func served(t *testing.T, data, addr string) *exec.Cmd {
	cmd := exec.Command(os.Args[0], "-test.run=^TestServedElsewhere$")
	cmd.Env = append(os.Environ(), "PT_KILL_BOOK="+data, "PT_KILL_LISTEN="+addr)
	require.NoError(t, cmd.Start())
	require.Eventually(t, func() bool {
		res, err := http.Get("http://" + addr + "/api/trees")
		if err != nil {
			return false
		}
		return res.Body.Close() == nil && res.StatusCode == http.StatusOK
	}, waitLong, 20*time.Millisecond)
	return cmd
}

// writing is what somebody keeps sending, and how an acknowledged one is found again.
type writing struct {
	name string
	send func(addr, tree, look string, n int) (what string, ok bool)
	kept func(t *testing.T, b *book.Book, tree string) map[string]bool
}

// people send requests, each over a connection that stays open.
var people = &http.Client{Transport: &http.Transport{MaxIdleConnsPerHost: 1000}}

// ask sends a request, and gives the status of the answer and its text.
func ask(method, url, kind string, body []byte) (status int, text []byte, err error) {
	req, err := http.NewRequest(method, url, bytes.NewReader(body))
	if err != nil {
		return 0, nil, err
	}
	req.Header.Set("Content-Type", kind)
	res, err := people.Do(req)
	if err != nil {
		return 0, nil, err
	}
	text, err = io.ReadAll(res.Body)
	return res.StatusCode, text, errors.Join(err, res.Body.Close())
}

// sentTo sends a request and says whether it was acknowledged.
func sentTo(method, url, kind string, body []byte) bool {
	status, _, err := ask(method, url, kind, body)
	return err == nil && status < 300
}

func sentJSON(method, url string, body any) bool {
	text, err := json.Marshal(body)
	return err == nil && sentTo(method, url, "application/json", text)
}

// writings are all kinds of writing that the kill is in the middle of.
var writings = []writing{
	{"scores", func(addr, tree, look string, _ int) (string, bool) {
		e := logbook.Entry{ID: ulid.Make().String(), Kind: logbook.KindScore, Look: look,
			Score: &record.Score{Character: "bud.coat", States: []string{"bare"}}}
		return e.ID, sentJSON("POST", "http://"+addr+"/api/trees/"+tree+"/entries", e)
	}, func(t *testing.T, b *book.Book, tree string) map[string]bool {
		kept := map[string]bool{}
		story, err := b.Story(t.Context(), tree)
		require.NoError(t, err)
		for _, s := range story.Steps {
			kept[s.Entry] = true
		}
		return kept
	}},
	{"moves", func(addr, tree, _ string, n int) (string, bool) {
		stand := fmt.Sprintf("Stand %d %s", n, ulid.Make())
		return stand, sentJSON("POST", "http://"+addr+"/api/trees/"+tree+"/move",
			book.Move{Tag: "LC-1", Tract: "Lantern Creek watershed forest", Stand: stand, New: true})
	}, func(t *testing.T, b *book.Book, tree string) map[string]bool {
		kept := map[string]bool{}
		story, err := b.Story(t.Context(), tree)
		require.NoError(t, err)
		for _, s := range story.Steps {
			stand, _, _ := strings.Cut(strings.TrimPrefix(s.Words, "Now LC-1 in "), ",")
			kept[stand] = true
		}
		return kept
	}},
	{"visits", func(addr, _, _ string, _ int) (string, bool) {
		v := book.Visit{ID: ulid.Make().String(), Tract: "Lantern Creek watershed forest", Day: "2026-11-17", Snow: "none"}
		return v.ID, sentJSON("PUT", "http://"+addr+"/api/visits", v)
	}, func(t *testing.T, b *book.Book, _ string) map[string]bool {
		kept := map[string]bool{}
		visits, err := b.Visits(t.Context(), "")
		require.NoError(t, err)
		for _, v := range visits {
			kept[v.ID] = true
		}
		return kept
	}},
	{"lists", func(addr, _, _ string, n int) (string, bool) {
		taxa := markedTaxa(n)
		l := book.NewList{Name: fmt.Sprint("List ", n%3), Region: "eastern-north-america", Taxa: taxa}
		text, err := json.Marshal(taxa)
		return string(text), err == nil && sentJSON("PUT", "http://"+addr+"/api/lists", l)
	}, func(t *testing.T, b *book.Book, _ string) map[string]bool {
		kept := map[string]bool{}
		for after, more := 0, true; more; {
			c, err := b.Changes(t.Context(), after, "", nil)
			require.NoError(t, err)
			for _, sent := range c.Entries {
				var e logbook.Entry
				require.NoError(t, json.Unmarshal(sent.Entry, &e))
				if e.List == nil {
					continue
				}
				var body struct{ Taxa json.RawMessage }
				require.NoError(t, json.Unmarshal(e.List.Body, &body))
				kept[string(body.Taxa)] = true
			}
			after, more = c.Last, c.More
		}
		return kept
	}},
	{"photographs", func(addr, tree, look string, n int) (string, bool) {
		picture := image.NewGray(image.Rect(0, 0, 16, 16))
		picture.Pix[0], picture.Pix[1] = byte(n), byte(n>>8)
		var file bytes.Buffer
		if jpeg.Encode(&file, picture, nil) != nil {
			return "", false
		}
		id := ulid.Make().String()
		return id, sentTo("POST", "http://"+addr+"/api/trees/"+tree+"/photos?photo="+id+"&look="+look, "application/octet-stream", file.Bytes())
	}, func(t *testing.T, b *book.Book, tree string) map[string]bool {
		kept := map[string]bool{}
		photos, err := b.Photos(t.Context(), tree)
		require.NoError(t, err)
		for _, p := range photos {
			_, _, err := booktest.ReadPhoto(t, b, p.ID, false)
			require.NoError(t, err, "a line has its file")
			kept[p.ID] = true
		}
		return kept
	}},
}

// markedTaxa are the taxa of a list like no other: a number written in abundances.
func markedTaxa(n int) map[string]string {
	taxa := map[string]string{}
	for _, name := range []string{"Acer rubrum", "Acer saccharum", "Celtis occidentalis", "Fraxinus americana", "Juglans nigra", "Quercus alba",
		"Quercus rubra", "Tilia americana", "Ulmus americana", "Carya ovata"} {
		taxa[name] = []string{"abundant", "common", "occasional", "rare"}[n%4]
		n /= 4
	}
	return taxa
}

// kills is how often the server is killed; PT_KILLS asks for another number.
func kills() int {
	if n, err := strconv.Atoi(os.Getenv("PT_KILLS")); err == nil {
		return n
	}
	if testing.Short() {
		return 3
	}
	return 70
}

// oneLook starts a tree with one look in it, and closes the book for others.
func oneLook(t *testing.T, b *book.Book, tag string) (tree, look string) {
	t.Helper()
	tree = ulid.Make().String()
	_, err := b.AddTree(t.Context(), book.NewTree{ID: tree, Tag: tag, Tract: "Lantern Creek watershed forest", Stand: "Creek bottom"})
	require.NoError(t, err)
	v, err := b.AddEntry(t.Context(), tree, &book.Entry{ID: ulid.Make().String(), Kind: "look", From: "tree"})
	require.NoError(t, err)
	return tree, v.Looks[0].ID
}

// TestKilledServerLosesNothing kills the server (SIGKILL) in the middle of a stream of
// writes of every kind, over and over, and counts: what was acknowledged is in the book.
func TestKilledServerLosesNothing(t *testing.T) {
	t.Parallel()
	path, addr := filepath.Join(t.TempDir(), "book.db"), freePort(t)
	b := booktest.At(t, path)
	tree, look := oneLook(t, b, "LC-1")
	require.NoError(t, b.Close())

	acknowledged, begun := make([][]string, len(writings)), make([]atomic.Bool, len(writings))
	for round := range kills() {
		cmd := served(t, path, addr)
		var people sync.WaitGroup
		for i, w := range writings {
			people.Go(func() {
				for n := 0; ; n++ {
					what, ok := w.send(addr, tree, look, round*1000+n)
					if !ok {
						return
					}
					acknowledged[i] = append(acknowledged[i], what)
					begun[i].Store(true)
				}
			})
		}
		if round == 0 { // on however slow a machine, each kind is under way before the first kill
			require.Eventually(t, func() bool {
				for i := range begun {
					if !begun[i].Load() {
						return false
					}
				}
				return true
			}, time.Minute, 10*time.Millisecond)
		}
		time.Sleep(time.Duration(300+(round*137)%400) * time.Millisecond)
		require.NoError(t, cmd.Process.Kill())
		_ = cmd.Wait() // it was killed, and says so
		people.Wait()
	}
	require.NoError(t, store.Check(t.Context(), path))
	b = booktest.At(t, path)
	for i, w := range writings {
		require.NotEmpty(t, acknowledged[i], w.name)
		kept := w.kept(t, b, tree)
		for _, what := range acknowledged[i] {
			require.True(t, kept[what], "%s: %s was acknowledged and is lost", w.name, what)
		}
		t.Logf("%s: %d acknowledged", w.name, len(acknowledged[i]))
	}
}
