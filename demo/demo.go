// Package demo fills an empty book with the Lantern Creek watershed forest, an
// invented woodland of a water company in the hills of south-western Wisconsin.
// Places, people and trees are made up.
package demo

import (
	"bytes"
	"context"
	_ "embed"
	"fmt"
	"math/rand/v2"
	"time"

	"github.com/oklog/ulid/v2"
	"go.yaml.in/yaml/v3"

	"palethicket/core/flora"
	"palethicket/core/identify"
	"palethicket/core/logbook"
	"palethicket/core/record"
	"palethicket/store"
)

//go:embed lantern-creek.yaml
var scenario []byte

//go:embed trees-here.yaml
var treesHere []byte

type forest struct {
	Tract string `yaml:"tract"`
	Trees []tree `yaml:"trees"`
}

type tree struct {
	Tag    string   `yaml:"tag"`
	Stand  string   `yaml:"stand"`
	Date   string   `yaml:"date"`
	By     string   `yaml:"by"`
	Age    string   `yaml:"age"`
	Snow   string   `yaml:"snow"`
	Beyond []string `yaml:"out_of_reach"`
	Looks  []struct {
		From   string         `yaml:"from"`
		Note   string         `yaml:"note"`
		Scores []record.Score `yaml:"scores"`
	} `yaml:"looks"`
	Names []struct {
		Rank string `yaml:"rank"`
		Name string `yaml:"name"`
		Why  string `yaml:"why"`
		By   string `yaml:"by"`
	} `yaml:"names"`
}

// Fill puts the forest into a book that holds no trees. A book that holds some
// is left alone.
func Fill(ctx context.Context, s *store.Store, f *flora.Flora) error {
	if n, err := s.Count(ctx); err != nil || n > 0 {
		return err
	}
	var fo forest
	if err := yaml.Unmarshal(scenario, &fo); err != nil {
		return fmt.Errorf("reading the demo forest: %w", err)
	}
	here, err := flora.ReadListYAML(bytes.NewReader(treesHere))
	if err != nil {
		return fmt.Errorf("reading the demo forest's list: %w", err)
	}
	if f, err = f.With(here); err != nil {
		return fmt.Errorf("reading the demo forest's list: %w", err)
	}
	if err := s.PutList(ctx, here); err != nil {
		return err
	}
	engine := identify.NewEngine(f)
	rng := rand.NewChaCha8([32]byte{'l', 'a', 'n', 't', 'e', 'r', 'n'})
	for i := range fo.Trees {
		t := &fo.Trees[i]
		at, err := time.Parse("2006-01-02 15:04", t.Date)
		if err != nil {
			return fmt.Errorf("demo tree %s: %w", t.Tag, err)
		}
		w := writer{clock: at, rng: rng}
		entries, err := w.log(engine, here.Name, t)
		if err != nil {
			return fmt.Errorf("demo tree %s: %w", t.Tag, err)
		}
		place := store.Tree{ID: w.id(), Tag: t.Tag, Tract: fo.Tract, Stand: t.Stand, Region: here.Name}
		if err := s.AddTree(ctx, place, entries...); err != nil {
			return fmt.Errorf("demo tree %s: %w", t.Tag, err)
		}
	}
	return nil
}

// writer makes entries a few seconds apart, as someone at a tree would.
type writer struct {
	clock time.Time
	rng   *rand.ChaCha8
}

func (w *writer) id() string {
	w.clock = w.clock.Add(17 * time.Second)
	return ulid.MustNew(ulid.Timestamp(w.clock), w.rng).String()
}

func (w *writer) log(engine *identify.Engine, region string, t *tree) ([]logbook.Entry, error) {
	var log []logbook.Entry
	add := func(e logbook.Entry) string {
		e.ID, e.By = w.id(), t.By
		log = append(log, e)
		return e.ID
	}
	facts := logbook.Facts{Age: &t.Age}
	if t.Snow != "" {
		facts.Snow = &t.Snow
	}
	if t.Beyond != nil {
		facts.Beyond = &t.Beyond
	}
	add(logbook.Entry{Kind: logbook.KindFacts, Facts: &facts})
	for _, l := range t.Looks {
		look := add(logbook.Entry{Kind: logbook.KindLook, From: l.From, Note: l.Note})
		for i := range l.Scores {
			add(logbook.Entry{Kind: logbook.KindScore, Look: look, Score: &l.Scores[i]})
		}
	}
	for _, n := range t.Names {
		res, err := engine.Identify(logbook.Replay(log).Record(t.Tag, region), identify.Options{})
		if err != nil {
			return nil, err
		}
		name := &logbook.Naming{Rank: n.Rank, Name: n.Name, Why: n.Why, Leader: res.Ranking[0].Taxon}
		if n.Rank != "undetermined" {
			if name.Posterior, err = engine.Share(res, region, n.Rank, n.Name); err != nil {
				return nil, err
			}
		}
		by := t.By
		if n.By != "" {
			by = n.By
		}
		e := logbook.Entry{ID: w.id(), Kind: logbook.KindName, By: by, Name: name}
		log = append(log, e)
	}
	return log, nil
}
