// Package nmea reads the sentences of NMEA 0183 that a satellite receiver says where it is
// with: GGA, RMC, GSA and GST, of GPS (GP), GLONASS (GL), Galileo (GA) or several (GN).
// The form of each field is that of the sentences' published descriptions, from memory; the
// tests hold it to published examples.
package nmea

import (
	"errors"
	"fmt"
	"math"
	"strconv"
	"strings"
	"time"
)

// Most is how many characters a line may have; the standard allows 82, receivers more.
const Most = 120

// Sentence is one that was read. Which fields count follows from Type.
type Sentence struct {
	Talker string // GP, GN, GL or GA
	Type   string // GGA, RMC, GSA or GST

	Clock    time.Duration // since midnight, UTC; of GGA, RMC and GST
	Date     time.Time     // RMC: the day; zero where it is not known
	Fix      bool          // GGA, RMC, GSA: there is one
	Quality  int           // GGA: 1 by itself, 2 corrected, 4 and 5 by carrier phase, 6 reckoned on
	Lat, Lon float64       // GGA and RMC with a fix: degrees
	Used     int           // GGA, GSA: satellites used
	HDOP     float64       // GGA, GSA: dilution; 0: not said
	Altitude float64       // GGA: m above the sea
	Within   float64       // GST: one standard deviation of the position, in m
}

// The reasons why a line is not a sentence.
var (
	ErrGarbage  = errors.New("this is no NMEA sentence")
	ErrChecksum = errors.New("the checksum is another than the line's")
	ErrOther    = errors.New("a sentence of another kind") // well formed, and of no use here
)

// talkers are the satellites' systems.
var talkers = map[string]bool{"GP": true, "GN": true, "GL": true, "GA": true}

// Read reads a line, with or without its end. Its checksum must be there and right.
func Read(line string) (*Sentence, error) {
	line = strings.TrimRight(line, "\r\n")
	if len(line) < len("$GPGGA*00") || len(line) > Most || line[0] != '$' {
		return nil, ErrGarbage
	}
	body, sum, ok := strings.Cut(line[1:], "*")
	if !ok || len(sum) != 2 {
		return nil, ErrGarbage
	}
	want, err := strconv.ParseUint(sum, 16, 8)
	if err != nil {
		return nil, ErrGarbage
	}
	if uint8(want) != Checksum(body) {
		return nil, ErrChecksum
	}
	f := strings.Split(body, ",")
	if len(f[0]) != 5 || !talkers[f[0][:2]] {
		return nil, ErrOther
	}
	s := &Sentence{Talker: f[0][:2], Type: f[0][2:]}
	read := readers[s.Type]
	if read == nil {
		return nil, ErrOther
	}
	p := &fields{of: f[1:]}
	read(s, p)
	if p.err != nil {
		return nil, fmt.Errorf("%s: %w", s.Type, p.err)
	}
	return s, nil
}

// Checksum is the exclusive or of what stands between $ and *.
func Checksum(body string) (sum uint8) {
	for i := range len(body) {
		sum ^= body[i]
	}
	return sum
}

// Write puts $, checksum and line end around what a sentence says.
func Write(body string) string { return fmt.Sprintf("$%s*%02X\r\n", body, Checksum(body)) }

var readers = map[string]func(*Sentence, *fields){"GGA": gga, "RMC": rmc, "GSA": gsa, "GST": gst}

func gga(s *Sentence, f *fields) {
	s.Quality = int(f.number(5, 0, 8))
	s.Fix = s.Quality > 0
	s.Used, s.HDOP = int(f.number(6, 0, 99)), f.number(7, 0, 100)
	s.Altitude = f.number(8, -1000, 20000)
	s.place(f, 0)
}

func rmc(s *Sentence, f *fields) {
	s.Fix = f.text(1) == "A"
	if !s.Fix && f.text(1) != "V" {
		f.wrong(1, "want A or V")
	}
	if day := f.text(8); day != "" {
		var err error
		if s.Date, err = time.Parse("020106", day); err != nil {
			f.wrong(8, "no day")
		}
	}
	s.Clock = f.clock(0)
	if s.Fix {
		s.Lat, s.Lon = f.degrees(2, "N", "S", 90), f.degrees(4, "E", "W", 180)
	}
}

func gsa(s *Sentence, f *fields) {
	mode := f.number(1, 1, 3)
	s.Fix = mode > 1
	for i := 2; i < 14; i++ {
		if f.text(i) != "" {
			s.Used++
		}
	}
	s.HDOP = f.number(15, 0, 100)
}

func gst(s *Sentence, f *fields) {
	s.Clock = f.clock(0)
	lat, lon := f.number(5, 0, 1e5), f.number(6, 0, 1e5)
	s.Within = math.Hypot(lat, lon)
}

// place reads the clock, latitude and longitude of a GGA.
func (s *Sentence) place(f *fields, at int) {
	if s.Fix || f.text(at) != "" {
		s.Clock = f.clock(at)
	}
	if s.Fix {
		s.Lat, s.Lon = f.degrees(at+1, "N", "S", 90), f.degrees(at+3, "E", "W", 180)
	}
}

// fields are those of a sentence after its name; the first that is wrong is kept.
type fields struct {
	of  []string
	err error
}

func (f *fields) wrong(i int, says string) {
	if f.err == nil {
		f.err = fmt.Errorf("field %d: %s", i+1, says)
	}
}

func (f *fields) text(i int) string {
	if i >= len(f.of) {
		f.wrong(i, "it is missing")
		return ""
	}
	return f.of[i]
}

// number reads a figure between two; an empty field is 0.
func (f *fields) number(i int, least, most float64) float64 {
	text := f.text(i)
	if text == "" {
		return 0
	}
	x, err := decimal(text)
	if err != nil || x < least || x > most {
		f.wrong(i, "no figure that it could have")
		return 0
	}
	return x
}

// decimal reads digits with a point, and a sign; nothing else that Go would take.
func decimal(text string) (float64, error) {
	if strings.Trim(text, "0123456789.-+") != "" {
		return 0, strconv.ErrSyntax
	}
	return strconv.ParseFloat(text, 64)
}

// clock reads hhmmss.ss.
func (f *fields) clock(i int) time.Duration {
	text := f.text(i)
	if len(text) < 6 || strings.Trim(text, "0123456789.") != "" {
		f.wrong(i, "no time of day")
		return 0
	}
	h, _ := strconv.Atoi(text[:2])
	m, _ := strconv.Atoi(text[2:4])
	sec, err := strconv.ParseFloat(text[4:], 64)
	if err != nil || h > 23 || m > 59 || sec >= 61 {
		f.wrong(i, "no time of day")
	}
	return time.Duration(h)*time.Hour + time.Duration(m)*time.Minute + time.Duration(sec*float64(time.Second))
}

// degrees reads ddmm.mmmm and the letter after it.
func (f *fields) degrees(i int, plus, minus string, most float64) float64 {
	text, side := f.text(i), f.text(i+1)
	x, err := decimal(text)
	if err != nil || x < 0 || side != plus && side != minus {
		f.wrong(i, "no latitude or longitude")
		return 0
	}
	whole := math.Floor(x / 100)
	minutes := x - 100*whole
	d := whole + minutes/60
	if minutes >= 60 || d > most {
		f.wrong(i, "no latitude or longitude")
		return 0
	}
	if side == minus {
		return -d
	}
	return d
}
