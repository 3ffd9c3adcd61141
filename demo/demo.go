// Package demo fills an empty book with the Lantern Creek watershed forest, an
// invented woodland of a water company in the hills of south-western Wisconsin.
// Places, people and trees are made up.
package demo

import (
	"bytes"
	"context"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/paulmach/orb/geojson"
	"go.yaml.in/yaml/v3"

	"palethicket/book"
	"palethicket/core/flora"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/store"
)

//go:embed lantern-creek.yaml
var scenario []byte

//go:embed forest.yaml
var groundFile []byte

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
func Fill(ctx context.Context, b *book.Book) error {
	if n, err := b.Store.Count(ctx); err != nil || n > 0 {
		return err
	}
	if err := fill(ctx, b); err != nil {
		return fmt.Errorf("making the demo forest: %w", err)
	}
	return nil
}

func fill(ctx context.Context, b *book.Book) error {
	var byHand forest
	if err := yaml.Unmarshal(scenario, &byHand); err != nil {
		return err
	}
	var w woods
	if err := errors.Join(yaml.Unmarshal(groundFile, &w), w.read()); err != nil {
		return err
	}
	here, err := flora.ReadListYAML(bytes.NewReader(treesHere))
	if err != nil {
		return err
	}
	if err := errors.Join(b.Store.PutList(ctx, here), b.Reload(ctx)); err != nil {
		return err
	}
	ids := rand.NewChaCha8([32]byte{'l', 'a', 'n', 't', 'e', 'r', 'n'})
	if err := w.put(ctx, b, byHand.Tract, ids); err != nil {
		return err
	}
	src := rand.NewPCG(1906, 43)
	c := crowd{drawer: &drawer{flora: b.Shelf().Flora, rng: rand.New(src), src: src}, engine: b.Shelf().Engine,
		list: here.Name, tract: byHand.Tract, woods: &w, ids: ids}
	trees, err := c.byHand(&byHand)
	if err != nil {
		return err
	}
	drawn, err := c.trees()
	if err != nil {
		return err
	}
	if err := b.Store.AddBatch(ctx, nil, append(trees, drawn...), nil); err != nil {
		return err
	}
	return c.hang(ctx, b)
}

// put puts the ground into the book: tract, stands and visits.
func (w *woods) put(ctx context.Context, b *book.Book, tract string, ids *rand.ChaCha8) error {
	boundary, err := json.Marshal(geojson.NewGeometry(w.Origin.polygon(w.Boundary)))
	if err != nil {
		return err
	}
	ground, err := json.Marshal(w.ground())
	if err != nil {
		return err
	}
	if err := b.PutTract(ctx, tract, w.Remarks, boundary, ground); err != nil {
		return err
	}
	for _, s := range w.Stands {
		ring, err := json.Marshal(geojson.NewGeometry(w.Origin.polygon(s.Boundary)))
		if err != nil {
			return err
		}
		if err := b.PutStand(ctx, tract, s.Name, s.Remarks, ring); err != nil {
			return err
		}
	}
	for _, v := range w.visits(tract, ids) {
		if err := b.Store.PutVisit(ctx, v); err != nil {
			return err
		}
	}
	return nil
}

// byHand lays out the trees that are written in the scenario.
func (c *crowd) byHand(fo *forest) ([]store.TreeLog, error) {
	var out []store.TreeLog
	for i := range fo.Trees {
		t := &fo.Trees[i]
		at, err := time.ParseInLocation("2006-01-02 15:04", t.Date, time.Local)
		if err != nil {
			return nil, fmt.Errorf("tree %s: %w", t.Tag, err)
		}
		s := c.woods.stand(t.Stand)
		if s == nil {
			return nil, fmt.Errorf("tree %s: there is no stand %s", t.Tag, t.Stand)
		}
		where, err := s.within(c.rng.Float64)
		if err != nil {
			return nil, err
		}
		w := writer{clock: at, rng: c.ids}
		tree := store.Tree{ID: w.id(), Tag: t.Tag, Tract: fo.Tract, Stand: t.Stand, Region: c.list}
		p := c.woods.Origin.point(where)
		log, err := w.log(c.engine, c.list, t, &logbook.Position{Lon: p[0], Lat: p[1], Within: 4})
		if err != nil {
			return nil, fmt.Errorf("tree %s: %w", t.Tag, err)
		}
		out = append(out, store.TreeLog{Tree: tree, Log: log})
	}
	return out, nil
}

func (w *woods) stand(name string) *stand {
	for i := range w.Stands {
		if w.Stands[i].Name == name {
			return &w.Stands[i]
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

// entry makes an entry by somebody.
func (w *writer) entry(by string, e logbook.Entry) logbook.Entry {
	e.ID, e.By = w.id(), by
	return e
}

func (w *writer) log(engine *answer.Engine, region string, t *tree, at *logbook.Position) ([]logbook.Entry, error) {
	var log []logbook.Entry
	add := func(e logbook.Entry) string {
		log = append(log, w.entry(t.By, e))
		return log[len(log)-1].ID
	}
	facts := logbook.Facts{Age: &t.Age, Position: at}
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
		res, err := engine.Identify(logbook.Replay(log).Record(t.Tag, region), answer.Options{})
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
