package nmea

import (
	"math/rand/v2"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// The sentences below are those that descriptions of the standard print as examples (the
// widely reprinted ones of the NMEA FAQ and of gpsd's NMEA Revealed; from memory).
func TestPublishedSentences(t *testing.T) {
	s, err := Read("$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*47\r\n")
	require.NoError(t, err)
	require.Equal(t, "GP GGA", s.Talker+" "+s.Type)
	require.InDelta(t, 48.1173, s.Lat, 1e-9)
	require.InDelta(t, 11.516666666, s.Lon, 1e-8)
	require.Equal(t, 12*time.Hour+35*time.Minute+19*time.Second, s.Clock)
	require.Equal(t, []any{true, 1, 8, 0.9, 545.4}, []any{s.Fix, s.Quality, s.Used, s.HDOP, s.Altitude})

	s, err = Read("$GPRMC,123519,A,4807.038,N,01131.000,E,022.4,084.4,230394,003.1,W*6A")
	require.NoError(t, err)
	require.True(t, s.Fix)
	require.Equal(t, "1994-03-23", s.Date.Format(time.DateOnly))

	s, err = Read("$GPGSA,A,3,04,05,,09,12,,,24,,,,,2.5,1.3,2.1*39")
	require.NoError(t, err)
	require.Equal(t, []any{true, 5, 1.3}, []any{s.Fix, s.Used, s.HDOP})

	s, err = Read("$GPGST,172814.0,0.006,0.023,0.020,273.6,0.023,0.020,0.031*6A")
	require.NoError(t, err)
	require.InDelta(t, 0.0305, s.Within, 1e-4)

	s, err = Read("$GPGGA,172814.0,3723.46587704,N,12202.26957864,W,2,6,1.2,18.893,M,-25.669,M,2.0,0031*4F")
	require.NoError(t, err)
	require.InDelta(t, -122.037826, s.Lon, 1e-6)
	require.Equal(t, 2, s.Quality)
}

func TestRefused(t *testing.T) {
	for line, want := range map[string]error{
		"":         ErrGarbage,
		"\x00\xff": ErrGarbage,
		"$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*48": ErrChecksum,
		"$GPGGA,123519,4807.038,N,0113":                                     ErrGarbage,
		Write("GPGSV,1,1,00"):                                               ErrOther,
		Write("XXGGA,123519"):                                               ErrOther,
		"$" + strings.Repeat("9", 200):                                      ErrGarbage,
	} {
		_, err := Read(line)
		require.ErrorIs(t, err, want, line)
	}
	for _, body := range []string{
		"GPGGA,123519,9907.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,", // past the pole
		"GPGGA,123519,4807.038,X,01131.000,E,1,08,0.9,545.4,M,46.9,M,,",
		"GPGGA,123519,4867.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,", // 67 minutes
		"GPGGA,253519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,",
		"GPGGA,123519,NaN,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,",
		"GPGGA,123519,4807.038,N,01131.000,E,1,08,1e1,545.4,M,46.9,M,,",
		"GPRMC,123519,A",
		"GPRMC,123519,Q,4807.038,N,01131.000,E,022.4,084.4,230394,003.1,W",
	} {
		_, err := Read(Write(body))
		require.Error(t, err, body)
	}
}

// TestDamage changes, cuts and mixes lines: what is still taken says what a whole line said.
func TestDamage(t *testing.T) {
	rng := rand.New(rand.NewPCG(7, 7))
	whole := []string{
		Write("GPGGA,123519,4334.238,N,09037.800,W,1,08,0.9,300.4,M,46.9,M,,"),
		Write("GNRMC,123519,A,4334.238,N,09037.800,W,000.0,000.0,280226,,"),
		Write("GPGST,123519.0,1.0,2.0,1.0,90.0,2.0,1.5,3.0"),
	}
	taken := 0
	for range 10_000 {
		line := []byte(whole[rng.IntN(len(whole))])
		switch rng.IntN(4) {
		case 0:
			line = line[:rng.IntN(len(line))]
		case 1:
			line[rng.IntN(len(line)-2)] ^= 1 << rng.IntN(8)
		case 2:
			at := rng.IntN(len(line))
			line = append(line[:at:at], whole[rng.IntN(len(whole))]...)
		default:
			for i := range line {
				line[i] = byte(rng.IntN(256))
			}
		}
		s, err := Read(string(line))
		if err != nil {
			continue
		}
		taken++
		if s.Type == "GGA" || s.Type == "RMC" {
			require.InDelta(t, 43.5706, s.Lat, 0.001, "%q", line)
			require.InDelta(t, -90.63, s.Lon, 0.001, "%q", line)
		}
	}
	require.Less(t, taken, 500) // cut at the line's end, or mixed into a whole one
}

func FuzzRead(f *testing.F) {
	f.Add("$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*47")
	f.Add("$GPGST,172814.0,0.006,0.023,0.020,273.6,0.023,0.020,0.031*6A")
	f.Fuzz(func(t *testing.T, line string) {
		for _, text := range []string{line, Write(line)} {
			s, err := Read(text)
			if err != nil {
				continue
			}
			if s.Lat < -90 || s.Lat > 90 || s.Lon < -180 || s.Lon > 180 || s.Clock < 0 || s.Clock > 25*time.Hour || s.Within < 0 {
				t.Fatalf("%q reads as %+v", text, s)
			}
		}
	})
}
