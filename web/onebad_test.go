package web_test

import (
	"encoding/json"
	"fmt"
	"io"
	"net"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/web"
)

// TestWordsNoFloraHas: answers from a device with another flora may name trees that this one does
// not have. Figures, cards and quizzes go on.
func TestWordsNoFloraHas(t *testing.T) {
	t.Parallel()
	s := serve(t)
	answer := func(card, takenFor string) string {
		return fmt.Sprintf(`{"id": %q, "card": %q, "seed": 7, "at": "2026-11-20T10:00:00Z", "verdict": "wrong", "seconds": 4, "said": "x",
			"rank": "species", "sure": "sure", "taken_for": %q, "true": false}`, newID(), card, takenFor)
	}
	status, text := s.send("POST", "/api/practice/answers?by=Wren", `{"answers": [`+answer("twig:Acer rubrum", "Acer nullum")+`, `+
		answer("twig:Quercus nulla", "Acer rubrum")+`, `+answer("word:bud.shape=nothing", "nothing")+`, `+
		answer("pair:Acer nullum|Acer rubrum", "Acer nullum")+`]}`)
	require.Equal(t, 200, status, string(text))
	for range 4 {
		status, text = s.send("POST", "/api/practice/cards?by=Wren&kind=twig&kind=pair&kind=word&till_sure=true", "")
		require.Equal(t, 200, status, string(text))
		var c book.Card
		require.NoError(t, json.Unmarshal(text, &c))
		_, _, drawing := s.fetch("/api/practice/cards/" + c.ID + "/drawing?by=Wren")
		require.NotEmpty(t, drawing)
		status, text = s.send("POST", "/api/practice/cards/"+c.ID+"/answer?by=Wren", `{"seconds": 2}`)
		require.Equal(t, 200, status, string(text))
	}
	require.Equal(t, 8, get[book.Practised](t, s, "/api/practice/figures?by=Wren").Reviews)
	s.fetch("/api/practice/answers.csv?by=Wren")
}

// TestBadNumbersInAFile: what is no number, and what is beyond any, is refused line by line or left
// out; the other lines are put in.
func TestBadNumbersInAFile(t *testing.T) {
	t.Parallel()
	s := serve(t)
	table := "tag,tract,stand,lat,lon,within_m,height_m\n" +
		"A1,Lantern Creek watershed forest,North cove,43.5,-90.9,inf,12\n" +
		"A2,Lantern Creek watershed forest,North cove,NaN,-90.9,4,12\n" +
		"A3,Lantern Creek watershed forest,North cove,43.5,1e400,4,12\n" +
		"A4,Lantern Creek watershed forest,North cove,43.5,-90.9,4,12\n"
	status, text := s.post("/api/imports?name=trees.csv", []byte(table))
	require.Equal(t, 200, status, string(text))
	var p book.Preview
	require.NoError(t, json.Unmarshal(text, &p))
	mapping, err := json.Marshal(p.Mapping)
	require.NoError(t, err)
	status, text = s.send("POST", "/api/imports/"+p.ID+"/preview", string(mapping))
	require.Equal(t, 200, status, string(text))
	require.NoError(t, json.Unmarshal(text, &p))
	require.Equal(t, 2, p.Good, string(text))
	require.Contains(t, string(text), "NaN\\\" is not in degrees")
	put, err := json.Marshal(web.PutIn{Mapping: p.Mapping, By: "Wren Halloran"})
	require.NoError(t, err)
	status, text = s.send("POST", "/api/imports/"+p.ID, string(put))
	require.Equal(t, 200, status, string(text))
	require.Eventually(t, func() bool { return get[book.Progress](t, s, "/api/imports/"+p.ID).Ended }, waitLong, waitShort)
	trees := get[book.TreeList](t, s, "/api/trees").Trees
	require.Len(t, trees, 2)
	for _, l := range trees {
		at := get[book.TreeView](t, s, "/api/trees/"+l.ID).Facts.Position
		require.NotNil(t, at)
		require.Equal(t, map[string]float64{"A1": 0, "A4": 4}[l.Tag], at.Within)
	}
}

// TestBrokenRequests: what is broken off, or asks for what no server of pages does, is the asker's fault.
func TestBrokenRequests(t *testing.T) {
	t.Parallel()
	s := guarded(t)
	for name, c := range map[string]struct {
		text   string
		status string
	}{
		"a broken chunk":    {"POST /api/session HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nTransfer-Encoding: chunked\r\n\r\nzz\r\n", " 400 "},
		"a tunnel":          {"CONNECT elsewhere.example:443 HTTP/1.1\r\nHost: localhost\r\n\r\n", " 405 "},
		"a body broken off": {"POST /api/session HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nContent-Length: 100\r\n\r\n{", " 400 "},
	} {
		c2, err := net.Dial("tcp", s.Listener.Addr().String())
		require.NoError(t, err)
		_, err = io.WriteString(c2, c.text)
		require.NoError(t, err)
		require.NoError(t, c2.(*net.TCPConn).CloseWrite())
		answer, err := io.ReadAll(c2)
		require.NoError(t, err)
		require.Contains(t, string(answer), c.status, name)
	}
}
