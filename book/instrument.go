package book

import (
	"context"
	"encoding/json"
	"fmt"
	"strings"

	"palethicket/core/label"
	"palethicket/instrument"
	"palethicket/store"
)

// Instrument is one that is listened to where the book is served.
type Instrument struct {
	Name    string `json:"name" minLength:"1" maxLength:"40" doc:"As the story says it"`
	Kind    string `json:"kind" enum:"gnss,caliper,hypsometer,weather"`
	Address string `json:"address" minLength:"1" maxLength:"200" doc:"host:port, a serial line, or of a station http://host:port"`
	Baud    int    `json:"baud,omitempty" minimum:"0" maximum:"921600" doc:"Of a serial line; absent: 4800"`
}

// instrumentsSetting is where they are kept, and mostInstruments how many there may be.
const (
	instrumentsSetting = "instruments"
	mostInstruments    = 12
)

// Instruments gives those of the book, in the order they were named.
func (b *Book) Instruments(ctx context.Context) ([]Instrument, error) {
	out := []Instrument{}
	text, err := b.store.Setting(ctx, instrumentsSetting)
	if err != nil || text == "" {
		return out, err
	}
	if err := json.Unmarshal([]byte(text), &out); err != nil {
		return nil, fmt.Errorf("reading the book's instruments: %w", err)
	}
	return out, nil
}

// PutInstruments keeps them in place of those there were.
func (b *Book) PutInstruments(ctx context.Context, all []Instrument) error {
	if len(all) > mostInstruments {
		return &FieldError{"instruments", fmt.Sprintf("there are %d; name %d at most", len(all), mostInstruments)}
	}
	seen := map[string]bool{}
	for i := range all {
		at := func(field string) string { return fmt.Sprintf("instruments[%d].%s", i, field) }
		if err := cleanNames(nameField{at("name"), &all[i].Name, label.TagMost}); err != nil {
			return err
		}
		all[i].Address = strings.TrimSpace(all[i].Address)
		if seen[all[i].Name] {
			return &FieldError{at("name"), "another has this name"}
		}
		seen[all[i].Name] = true
		c := all[i].config()
		if err := c.Check(); err != nil {
			return &FieldError{at("address"), err.Error()}
		}
	}
	text, err := json.Marshal(all)
	if err != nil {
		return fmt.Errorf("keeping the instruments: %w", err)
	}
	return b.store.Write(ctx, func(tx *store.Tx) error { return tx.PutSetting(ctx, instrumentsSetting, string(text)) })
}

func (i *Instrument) config() instrument.Config {
	return instrument.Config{Name: i.Name, Kind: instrument.Kind(i.Kind), Address: i.Address, Baud: i.Baud}
}

// Listen has a hub listen to the book's instruments.
func (b *Book) Listen(ctx context.Context, hub *instrument.Hub) error {
	all, err := b.Instruments(ctx)
	if err != nil {
		return err
	}
	hub.Listen(each(all, func(i Instrument) instrument.Config { return i.config() }))
	return nil
}
