package away

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"strconv"
	"time"

	"palethicket/book"
)

// Program is what home says of itself.
type Program struct {
	Book       string  `json:"book" doc:"Which book it is"`
	Version    string  `json:"version" doc:"Of the program"`
	LogVersion int     `json:"log_version" doc:"Shape of the entries that it writes"`
	Schema     int64   `json:"schema" doc:"Shape of its books"`
	Flora      string  `json:"flora" doc:"What names are weighed with there; another where they would come out otherwise"`
	Probably   float64 `json:"probably" doc:"From when a name is probable there"`
	Guarded    bool    `json:"guarded" doc:"The crew sign in there"`
}

// home is the server that a device came from.
type home struct {
	base   string
	client *http.Client
}

// unreachable is given where home gave no answer of its own.
type unreachable struct{ err error }

func (u *unreachable) Error() string { return "home cannot be reached" }
func (u *unreachable) Unwrap() error { return u.err }

// said is what home answered other than what was asked for.
type said struct {
	Status int
	Detail string `json:"detail"`
	Errors []struct {
		Message string `json:"message"`
	} `json:"errors"`
}

func (s *said) Error() string {
	if len(s.Errors) > 0 && s.Errors[0].Message != "" {
		return s.Errors[0].Message
	}
	return s.Detail
}

// patience is how long an answer of home's may take.
const patience = 2 * time.Minute

// ask asks home, and reads the answer into out where it is not nil. Without an answer
// of home's it gives [*unreachable], for one that says no [*said].
func (h *home) ask(ctx context.Context, method, path, token string, in, out any) error {
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	req, err := h.question(ctx, method, path, token, in)
	if err != nil {
		return err
	}
	res, err := h.client.Do(req)
	if err != nil {
		return &unreachable{err}
	}
	defer res.Body.Close()
	text, err := io.ReadAll(res.Body)
	if err != nil || res.StatusCode == http.StatusBadGateway || res.StatusCode == http.StatusServiceUnavailable ||
		res.StatusCode == http.StatusGatewayTimeout {
		return &unreachable{fmt.Errorf("answered %s: %w", res.Status, err)}
	}
	if res.StatusCode >= 300 {
		no := &said{Status: res.StatusCode, Detail: res.Status}
		// Another program on the way may answer anything, as one that asks for a fee; only that
		// something is too large is believed of it.
		if err := json.Unmarshal(text, no); err != nil && no.Status != http.StatusRequestEntityTooLarge {
			return &unreachable{fmt.Errorf("something else than home answered %s", res.Status)}
		}
		return no
	}
	if out == nil {
		return nil
	}
	if err := json.Unmarshal(text, out); err != nil {
		return &unreachable{fmt.Errorf("something else than home answered: %w", err)}
	}
	return nil
}

// question is a request to home: in is sent as it is where it is bytes, else as JSON.
func (h *home) question(ctx context.Context, method, path, token string, in any) (*http.Request, error) {
	kind := "application/octet-stream"
	body, raw := in.([]byte)
	if !raw && in != nil {
		var err error
		if body, err = json.Marshal(in); err != nil {
			return nil, err
		}
		kind = "application/json"
	}
	req, err := http.NewRequestWithContext(ctx, method, h.base+path, bytes.NewReader(body))
	if err != nil {
		return nil, err
	}
	if in != nil {
		req.Header.Set("Content-Type", kind)
	}
	if token != "" {
		req.Header.Set("Authorization", "Bearer "+token)
	}
	return req, nil
}

func (h *home) program(ctx context.Context) (p Program, err error) {
	return p, h.ask(ctx, http.MethodGet, "/api/program", "", nil, &p)
}

func (h *home) tell(ctx context.Context, token string, entries []book.Sent, again bool) (met []book.Met, err error) {
	m := book.Meeting{Version: book.LogVersion, Entries: entries, Again: again}
	if err = h.ask(ctx, http.MethodPost, "/api/meeting", token, m, &met); err == nil && len(met) != len(entries) {
		err = &unreachable{errors.New("home did not answer every entry")}
	}
	return met, err
}

func (h *home) changes(ctx context.Context, token string, s *state, holds int) (c book.Changes, err error) {
	q := url.Values{"after": {strconv.Itoa(s.After)}, "tract": s.Tracts, "holds": {strconv.Itoa(holds)}}
	if s.Heard != "" {
		q.Set("heard", s.Heard)
	}
	return c, h.ask(ctx, http.MethodGet, "/api/changes?"+q.Encode(), token, nil, &c)
}

func (h *home) tree(ctx context.Context, token, id string) (c book.Changes, err error) {
	return c, h.ask(ctx, http.MethodGet, "/api/trees/"+id+"/log", token, nil, &c)
}

func (h *home) arriving(ctx context.Context, token, photo string) (a book.Arriving, err error) {
	return a, h.ask(ctx, http.MethodGet, "/api/photos/"+photo+"/arriving", token, nil, &a)
}

func (h *home) piece(ctx context.Context, token, photo string, at int64, piece []byte) (a book.Arriving, err error) {
	path := "/api/photos/" + photo + "/arriving?at=" + strconv.FormatInt(at, 10)
	return a, h.ask(ctx, http.MethodPut, path, token, piece, &a)
}

// signIn signs somebody in at home and gets this device a token of theirs.
func (h *home) signIn(ctx context.Context, name, password, device string) (t book.Token, role string, err error) {
	var who struct{ Name, Role string }
	in := map[string]string{"name": name, "password": password}
	if err = h.ask(ctx, http.MethodPost, "/api/session", "", in, &who); err != nil {
		return t, "", err
	}
	return t, who.Role, h.ask(ctx, http.MethodPost, "/api/devices", "", book.NewDevice{Name: device}, &t)
}
