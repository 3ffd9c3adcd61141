// Package sheet lays drawings of many trees side by side, on one page that stands alone:
// labelled, or numbered for a trial.
package sheet

import (
	"bytes"
	"context"
	"encoding/base64"
	"fmt"
	"html"

	"palethicket/core/plate"
	"palethicket/core/plate/bark"
	"palethicket/core/plate/fruit"
	"palethicket/core/plate/outline"
	"palethicket/core/plate/twig"
)

// Cell is one tree on a sheet, under some words.
type Cell struct {
	Words string
	Tree  *plate.Tree
	Zone  string
}

// Draw draws a tree's twig, bark, outline, fruit or leaf, and says what sort of picture that is.
func Draw(t *plate.Tree, kind, zone, theme string) (picture []byte, mime string, err error) {
	switch kind {
	case "twig":
		return twig.Draw(t, theme), "image/svg+xml", nil
	case "outline":
		return outline.Draw(t, theme), "image/svg+xml", nil
	case "fruit":
		return fruit.Draw(t, theme), "image/svg+xml", nil
	case "leaf":
		return fruit.DrawLeaf(t, theme), "image/svg+xml", nil
	case "bark":
		picture, err = bark.Draw(t, zone)
		return picture, "image/png", err
	}
	return nil, "", fmt.Errorf("there is no drawing of kind %q", kind)
}

const head = `<!doctype html><meta charset="utf-8"><title>%s</title><style>body{margin:1rem;font:12px sans-serif;display:grid;gap:8px;` +
	`grid-template-columns:repeat(%d,minmax(0,1fr))}h1{grid-column:1/-1;font-size:18px;margin:0}figure{margin:0;display:grid;gap:2px;` +
	`grid-template-columns:repeat(%d,minmax(0,1fr));align-items:end;break-inside:avoid;border:1px solid #ccc;padding:3px}` +
	`img{width:100%%}figcaption{grid-column:1/-1}</style><h1>%s</h1>`

// Page lays out cells as HTML, each with drawings of some kinds. It stops when ctx is done.
func Page(ctx context.Context, title string, cells []Cell, kinds []string, columns int) ([]byte, error) {
	var out bytes.Buffer
	fmt.Fprintf(&out, head, html.EscapeString(title), columns, len(kinds), html.EscapeString(title))
	for _, c := range cells {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		out.WriteString("<figure>")
		for _, kind := range kinds {
			picture, mime, err := Draw(c.Tree, kind, c.Zone, "light")
			if err != nil {
				return nil, err
			}
			fmt.Fprintf(&out, `<img alt="" src="data:%s;base64,%s">`, mime, base64.StdEncoding.EncodeToString(picture))
		}
		fmt.Fprintf(&out, "<figcaption>%s</figcaption></figure>", html.EscapeString(c.Words))
	}
	return out.Bytes(), nil
}
