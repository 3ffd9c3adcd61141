package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"palethicket/core/key"
	"palethicket/core/plate/tile"
	"palethicket/report"
)

type keyCmd struct {
	listFlags
	Taste  string   `help:"What is asked." default:"whole" enum:"whole,bark,twig,no-twig,snow,afar,opposite,genus"`
	Genus  string   `help:"Of the taste genus: which."`
	Age    string   `help:"Of the trees." default:"mature" enum:"young,mature,old,any"`
	Taxa   []string `name:"taxon" help:"Only this taxon, by its scientific name; may be given again."`
	Format string   `help:"As what." default:"json" enum:"json,html,pdf"`
	Paper  string   `help:"Of a PDF." default:"A4" enum:"A4,Letter"`
	Out    string   `help:"File; - writes standard output." default:"-"`
}

func (c *keyCmd) Run(ctx context.Context) error {
	f, among, err := c.among()
	if err != nil {
		return err
	}
	if c.Taste == "genus" && c.Genus == "" {
		return errors.New("say which genus with --genus")
	}
	asked := key.Asked{Among: among, Taste: c.Taste, Genus: c.Genus, Age: c.Age}
	if len(c.Taxa) > 0 {
		asked.Names = c.Taxa
	}
	k, err := key.New(ctx, f, asked)
	if err != nil {
		return fmt.Errorf("making the key: %w", err)
	}
	var out bytes.Buffer
	if err := c.write(&out, k); err != nil {
		return err
	}
	return writeFile(c.Out, bytesTo(out.Bytes()))
}

func (c *keyCmd) write(out *bytes.Buffer, k *key.Key) error {
	switch c.Format {
	case "html":
		return report.KeyHTML(out, k, drawnState)
	case "pdf":
		return report.KeyPDF(out, k, report.KeyPages{Paper: c.Paper, Made: time.Now(), Draw: drawnState})
	}
	enc := json.NewEncoder(out)
	enc.SetIndent("", " ")
	enc.SetEscapeHTML(false)
	return enc.Encode(k)
}

// drawnState is a state drawn small, for paper.
func drawnState(character, state string) (kind string, body []byte) {
	t, err := tile.Draw(character, state, "paper")
	if err != nil || t == nil {
		return "", nil // it is said in words
	}
	return t.Kind, t.Body
}
