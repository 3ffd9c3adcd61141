package demo

import (
	"bytes"
	"cmp"
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
	"palethicket/core/tree/stamp"
)

//go:embed lantern-creek.yaml
var scenario []byte

//go:embed forest.yaml
var woodsFile []byte

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
	if list, err := b.Trees(ctx, book.Query{}, 1, 0); err != nil || list.Total > 0 {
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
	if err := errors.Join(yaml.Unmarshal(woodsFile, &w), w.read()); err != nil {
		return err
	}
	here, err := flora.ReadListYAML(bytes.NewReader(treesHere))
	if err != nil {
		return err
	}
	if _, err := b.PutList(ctx, book.NewList{Name: here.Name, Region: here.Region, Taxa: here.Abundance}, ""); err != nil {
		return err
	}
	ids := rand.NewChaCha8([32]byte{'l', 'a', 'n', 't', 'e', 'r', 'n'})
	if err := w.put(ctx, b, byHand.Tract, ids); err != nil {
		return err
	}
	src := rand.NewPCG(1906, 43)
	f, among := b.Flora(), flora.Among{Region: here.Region, List: here.Name}
	c := crowd{
		drawer: &drawer{flora: f, among: among, rng: rand.New(src), src: src},
		engine: answer.NewEngine(f),
		tract:  byHand.Tract,
		woods:  &w,
		ids:    ids,
		truth:  map[string]string{},
	}
	trees, err := c.byHand(&byHand)
	if err != nil {
		return err
	}
	drawn, err := c.trees()
	if err != nil {
		return err
	}
	all := append(trees, drawn...)
	p, err := newProof(&c, all)
	if err != nil {
		return err
	}
	p.spring()
	if err := c.measured(all); err != nil {
		return err
	}
	if err := b.AddTrees(ctx, all); err != nil {
		return err
	}
	return errors.Join(c.hang(ctx, b), p.checks(ctx, b), p.practised(ctx, b), c.sampled(ctx, b))
}

// put puts the map into the book: tract, stands and visits.
func (w *woods) put(ctx context.Context, b *book.Book, tract string, ids *rand.ChaCha8) error {
	boundary, err := json.Marshal(geojson.NewGeometry(w.Origin.polygon(w.Boundary)))
	if err != nil {
		return err
	}
	terrain, err := json.Marshal(w.terrain())
	if err != nil {
		return err
	}
	land := book.NewTract{Tract: tract, Remarks: w.Remarks, Boundary: boundary, Terrain: terrain, New: true}
	if err := b.PutTract(ctx, land, ""); err != nil {
		return err
	}
	for _, s := range w.Stands {
		ring, err := json.Marshal(geojson.NewGeometry(w.Origin.polygon(s.Boundary)))
		if err != nil {
			return err
		}
		if err := b.PutStand(ctx, book.NewStand{Tract: tract, Stand: s.Name, Remarks: s.Remarks, Boundary: ring, New: true}, ""); err != nil {
			return err
		}
	}
	for _, v := range w.visits(tract, ids) {
		if err := b.PutVisit(ctx, v, ""); err != nil {
			return err
		}
	}
	return nil
}

// byHand lays out the trees that are written in the scenario.
func (c *crowd) byHand(fo *forest) ([]book.TreeLog, error) {
	var out []book.TreeLog
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
		tree := book.Tree{ID: w.id(), Tag: t.Tag, Tract: fo.Tract, Stand: t.Stand, Region: c.among.Region, List: c.among.List}
		p := c.woods.Origin.point(where)
		log := w.log(t, &logbook.Position{Lon: p[0], Lat: p[1], Within: 4})
		out = append(out, book.TreeLog{Tree: tree, Log: log})
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
	e.Stamp = stamp.OfID(e.ID)
	return e
}

func (w *writer) log(t *tree, at *logbook.Position) []logbook.Entry {
	var log []logbook.Entry
	add := func(by string, e logbook.Entry) string {
		log = append(log, w.entry(by, e))
		return log[len(log)-1].ID
	}
	facts := logbook.SetFacts{Age: &t.Age, Position: at}
	if t.Snow != "" {
		facts.Snow = &t.Snow
	}
	if t.Beyond != nil {
		facts.Beyond = &t.Beyond
	}
	add(t.By, logbook.Entry{Kind: logbook.KindFacts, Facts: &facts})
	for _, l := range t.Looks {
		look := add(t.By, logbook.Entry{Kind: logbook.KindLook, From: l.From, Note: l.Note})
		for i := range l.Scores {
			add(t.By, logbook.Entry{Kind: logbook.KindScore, Look: look, Score: &l.Scores[i]})
		}
	}
	for _, n := range t.Names {
		add(cmp.Or(n.By, t.By), logbook.Entry{Kind: logbook.KindName, Name: &logbook.Naming{Rank: n.Rank, Name: n.Name, Why: n.Why}})
	}
	return log
}
