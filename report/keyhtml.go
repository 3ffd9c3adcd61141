package report

import (
	_ "embed"
	"encoding/base64"
	"fmt"
	"html/template"
	"io"
	"strings"

	"palethicket/core/key"
)

//go:embed key.html
var keyPage string

// KeyHTML writes a key as one page with all it needs in it.
func KeyHTML(w io.Writer, k *key.Key, draw func(character, state string) (kind string, body []byte)) error {
	classes := map[string]string{} // each drawing stands once in the page
	style := &strings.Builder{}
	picture := func(m key.Mark) (string, error) {
		id := m.Character + "=" + m.Shows
		class, had := classes[id]
		if m.Shows == "" || had {
			return class, nil
		}
		if kind, body := draw(m.Character, m.Shows); body != nil {
			class = fmt.Sprintf("p%d", len(classes))
			fmt.Fprintf(style, ".%s{background-image:url(data:%s;base64,%s)}\n", class, kind, base64.StdEncoding.EncodeToString(body))
		}
		classes[id] = class
		return class, nil
	}
	t, err := template.New("key").Funcs(template.FuncMap{
		"picture":  picture,
		"letter":   func(i int) string { return string(rune('a' + i)) },
		"lines":    endLines,
		"pictures": func() template.CSS { return template.CSS(style.String()) }, //nolint:gosec // our own
	}).Parse(keyPage)
	if err != nil {
		return fmt.Errorf("reading the page of keys: %w", err)
	}
	if err := t.Execute(w, k); err != nil {
		return fmt.Errorf("writing the key: %w", err)
	}
	return nil
}
