package web

import (
	"fmt"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"
)

// What is sent is bounded before it is read as anything: huma checks a body against the schema
// as a whole and says of each part what is wrong, with the part's value. A small body of many
// unknown keys would have an answer of gigabytes.
const (
	depthMost  = 5000 // of objects and arrays in one another; an entry has a bound of its own
	keysMost   = 1000 // of one object
	errorsMost = 20   // told of one request
	wordsMost  = 300  // bytes of one error's words or place
)

// boundedJSON is JSON as bodies are sent: bounded, then read.
func boundedJSON() huma.Format {
	read := huma.DefaultJSONFormat.Unmarshal
	return huma.Format{Marshal: huma.DefaultJSONFormat.Marshal, Unmarshal: func(body []byte, v any) error {
		if err := bounded(body); err != nil {
			return err
		}
		return read(body, v)
	}}
}

// bounded refuses JSON that is nested too deeply or has an object of too many keys. Whether it is JSON at
// all is left to whoever reads it.
func bounded(body []byte) error {
	var keys []int // of the objects and arrays that are open
	quoted := false
	for i := 0; i < len(body); i++ {
		switch c := body[i]; {
		case quoted:
			if c == '\\' {
				i++
			}
			quoted = c != '"'
		case c == '"':
			quoted = true
		case c == '{' || c == '[':
			if keys = append(keys, 0); len(keys) > depthMost {
				return fmt.Errorf("the body is nested more than %d deep; nothing was stored", depthMost)
			}
		case (c == '}' || c == ']') && len(keys) > 0:
			keys = keys[:len(keys)-1]
		case c == ':' && len(keys) > 0:
			keys[len(keys)-1]++
			if keys[len(keys)-1] > keysMost {
				return fmt.Errorf("an object of the body has more than %d keys; nothing was stored", keysMost)
			}
		}
	}
	return nil
}

// unreadBody is what huma says, as if it were its own fault, of a body that breaks off.
const unreadBody = "cannot read request body"

// brokenOff is said of it instead.
const brokenOff = "the body broke off or cannot be read; send it again"

// huma makes all problems by one function of the whole program.
func init() {
	plain := huma.NewError
	huma.NewError = func(status int, words string, errs ...error) huma.StatusError {
		if status == http.StatusInternalServerError && words == unreadBody {
			status, words = http.StatusBadRequest, brokenOff
		}
		more := len(errs) - errorsMost
		errs = slices.DeleteFunc(slices.Clone(errs[:min(len(errs), errorsMost)]), func(err error) bool { return err == nil })
		problem, ok := plain(status, short(words), errs...).(*huma.ErrorModel)
		if !ok {
			return plain(status, short(words))
		}
		for _, d := range problem.Errors {
			*d = huma.ErrorDetail{Message: short(d.Message), Location: short(d.Location)} // not the value, which may be as large as the body
		}
		if more > 0 {
			problem.Errors = append(problem.Errors, &huma.ErrorDetail{Message: fmt.Sprintf("and %d more", more)})
		}
		return problem
	}
}

func short(words string) string {
	if len(words) <= wordsMost {
		return words
	}
	cut := wordsMost
	for cut > 0 && words[cut]&0xC0 == 0x80 { // within a letter
		cut--
	}
	return words[:cut] + "…"
}
