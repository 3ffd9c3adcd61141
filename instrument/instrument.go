package instrument

import (
	"errors"
	"fmt"
	"net"
	"net/url"
	"slices"
	"strings"
	"time"
)

// Kind is what an instrument is.
type Kind string

// The kinds of instrument.
const (
	Receiver   Kind = "gnss"
	Caliper    Kind = "caliper"
	Hypsometer Kind = "hypsometer"
	Weather    Kind = "weather"
)

// Kinds lists them, with what each is called.
var Kinds = []struct {
	ID    Kind
	Words string
}{{Receiver, "satellite receiver"}, {Caliper, "caliper"}, {Hypsometer, "laser hypsometer"}, {Weather, "weather station"}}

// Words is what a kind is called.
func (k Kind) Words() string {
	for _, known := range Kinds {
		if known.ID == k {
			return known.Words
		}
	}
	return string(k)
}

// Config says where an instrument is.
type Config struct {
	Name    string `json:"name"` // as it is called in the story
	Kind    Kind   `json:"kind"`
	Address string `json:"address"` // host:port, a serial line as /dev/ttyUSB0 or COM3, or of a station http://host:port
	Baud    int    `json:"baud,omitempty"`
}

// Check says what is wrong with where an instrument is said to be.
func (c *Config) Check() error {
	if !slices.ContainsFunc(Kinds, func(k struct {
		ID    Kind
		Words string
	}) bool {
		return k.ID == c.Kind
	}) {
		return fmt.Errorf("%q is no kind of instrument; use gnss, caliper, hypsometer or weather", c.Kind)
	}
	if c.Kind == Weather {
		u, err := url.Parse(c.Address)
		if err != nil || u.Scheme != "http" && u.Scheme != "https" || u.Host == "" {
			return errors.New("a station's address is written as http://127.0.0.1:8094")
		}
		return nil
	}
	if c.serial() {
		if !serialPort.MatchString(c.Address) {
			return fmt.Errorf("%s is no serial line; write its name as /dev/ttyUSB0, /dev/serial/by-id/… or COM3", c.Address)
		}
		if c.Baud < 0 || c.Baud > 921600 {
			return fmt.Errorf("%d is no speed of a serial line", c.Baud)
		}
		return nil
	}
	if _, port, err := net.SplitHostPort(c.Address); err != nil || port == "" || port == "0" {
		return errors.New("write where it is as 127.0.0.1:8091, or the name of a serial line as /dev/ttyUSB0 or COM3")
	}
	return nil
}

// serial says whether the address names a serial line.
func (c *Config) serial() bool {
	return strings.HasPrefix(c.Address, "/dev/") || strings.HasPrefix(c.Address, "COM") && !strings.Contains(c.Address, ":")
}

// Reading is one that an instrument made.
type Reading struct {
	Serial int64     `json:"serial"` // running number, over all instruments
	Kind   string    `json:"kind"`   // diameter, height, range or position
	Text   string    `json:"text"`   // as it was sent: 34.2 cm
	Angle  string    `json:"angle,omitempty"`
	At     time.Time `json:"at"`

	// Of a position: degrees of WGS 84, its error in metres (0: not said) and its dilution.
	Lon    float64 `json:"lon,omitempty"`
	Lat    float64 `json:"lat,omitempty"`
	Within float64 `json:"within_m,omitempty"`
	HDOP   float64 `json:"hdop,omitempty"`
}

// Health is how an instrument does.
type Health string

// How an instrument can do. Only one that is well offers a reading.
const (
	Well       Health = "well"       // it reads, or waits to
	Connecting Health = "connecting" // for the first time
	Unplugged  Health = "unplugged"  // it does not answer; it is tried again
	Silent     Health = "silent"     // it answers, and says nothing
	Garbled    Health = "garbled"    // its last line could not be read
	NoFix      Health = "no-fix"     // a receiver that does not know where it is
	Stale      Health = "stale"      // a receiver that repeats itself
	Jumped     Health = "jumped"     // a receiver that cannot be where it says
)

// State is how an instrument does, and what it read last.
type State struct {
	Config
	Health Health    `json:"health"`
	Says   string    `json:"says"` // in words, with what to do
	Since  time.Time `json:"since"`
	Last   *Reading  `json:"last,omitempty"` // to be offered; nil: there is none
	Bad    int       `json:"bad"`            // lines that could not be read
	Air    *Air      `json:"air,omitempty"`  // of a station
}

// Air is what a weather station says now; what it does not measure is nil.
type Air struct {
	At    time.Time `json:"at"`
	Temp  *float64  `json:"temp_c,omitempty"`
	Snow  *float64  `json:"snow_cm,omitempty"`
	Rain  *float64  `json:"rain_mm_h,omitempty"`
	Wind  *float64  `json:"wind_m_s,omitempty"`
	Words string    `json:"words"`
}
