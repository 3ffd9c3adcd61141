package main

import (
	"encoding/json"
	"fmt"
	"os"
	"strconv"
	"strings"
	"time"

	"palethicket/core/day/light"
)

type lightCmd struct {
	At   string `help:"Where: latitude,longitude in degrees, as 43.57,-90.63." required:""`
	Date string `help:"The day, as 2026-12-21; absent: today."`
}

func (c *lightCmd) Run() error {
	lat, lon, ok := strings.Cut(c.At, ",")
	y, errY := strconv.ParseFloat(strings.TrimSpace(lat), 64)
	x, errX := strconv.ParseFloat(strings.TrimSpace(lon), 64)
	if !ok || errY != nil || errX != nil {
		return fmt.Errorf("--at: %q is no place; write it as 43.57,-90.63", c.At)
	}
	day := time.Now()
	if c.Date != "" {
		var err error
		if day, err = time.Parse(time.DateOnly, c.Date); err != nil {
			return fmt.Errorf("--date: %q is no day; write it as 2026-12-21", c.Date)
		}
	}
	d, err := light.Of(y, x, day)
	if err != nil {
		return fmt.Errorf("--at: %w", err)
	}
	out := struct {
		Dawn    *string `json:"dawn"`
		Sunrise *string `json:"sunrise"`
		Noon    *string `json:"noon"`
		Sunset  *string `json:"sunset"`
		Dusk    *string `json:"dusk"`
		Says    string  `json:"says,omitempty"`
	}{event(d.Dawn), event(d.Sunrise), event(d.Noon), event(d.Sunset), event(d.Dusk), d.Says}
	enc := json.NewEncoder(os.Stdout)
	enc.SetIndent("", " ")
	return enc.Encode(out)
}

// event is when something happens, or nil where it does not.
func event(t time.Time) *string {
	if t.IsZero() {
		return nil
	}
	text := t.Format(time.RFC3339)
	return &text
}
