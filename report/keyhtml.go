package report

import (
	_ "embed"
	"encoding/base64"
	"fmt"
	"html/template"
	"io"

	"palethicket/core/key"
)

//go:embed key.html
var keyPage string

// KeyHTML writes a key as one page with all it needs in it.
func KeyHTML(w io.Writer, k *key.Key, draw func(character, state string) (kind string, body []byte)) error {
	pictures := func(l *key.Lead) (out []template.URL) {
		for _, s := range l.States {
			kind, body := draw(l.Character, s)
			if body == nil || len(out) == figureMost {
				continue
			}
			out = append(out, template.URL("data:"+kind+";base64,"+base64.StdEncoding.EncodeToString(body))) //nolint:gosec // our own
		}
		return out
	}
	t, err := template.New("key").Funcs(template.FuncMap{
		"pictures": func(l key.Lead) []template.URL { return pictures(&l) },
		"letter":   func(i int) string { return string(rune('a' + i)) }, "lines": endLines,
	}).Parse(keyPage)
	if err != nil {
		return fmt.Errorf("reading the page of keys: %w", err)
	}
	if err := t.Execute(w, k); err != nil {
		return fmt.Errorf("writing the key: %w", err)
	}
	return nil
}
