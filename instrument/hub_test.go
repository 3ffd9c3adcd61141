package instrument_test

import (
	"context"
	"fmt"
	"io"
	"net"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"palethicket/core/measure"
	"palethicket/instrument"
	"palethicket/instrument/nmea"
	"palethicket/instrument/simulate"
)

// simulated starts an instrument that does not exist and gives where it is.
func simulated(t *testing.T, kind instrument.Kind, o simulate.Options) instrument.Config {
	t.Helper()
	ln, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, stop := context.WithCancel(context.Background())
	ended := make(chan error, 1)
	go func() { ended <- simulate.Serve(ctx, ln, kind, o) }()
	t.Cleanup(func() { stop(); require.NoError(t, <-ended) })
	address := ln.Addr().String()
	if kind == instrument.Weather {
		address = "http://" + address
	}
	return instrument.Config{Name: string(kind) + " of the crew", Kind: kind, Address: address}
}

func listening(t *testing.T, configs ...instrument.Config) *instrument.Hub {
	t.Helper()
	hub := instrument.NewHub(true)
	t.Cleanup(hub.Close)
	hub.Listen(configs)
	return hub
}

func reaches(t *testing.T, hub *instrument.Hub, health instrument.Health) instrument.State {
	t.Helper()
	var st instrument.State
	require.Eventually(t, func() bool {
		all, _ := hub.States()
		if len(all) == 0 {
			return false
		}
		st = all[0]
		return st.Health == health && (health != instrument.Well || st.Last != nil || st.Air != nil)
	}, 20*time.Second, 5*time.Millisecond, "to be %s; it is %+v", health, &st)
	return st
}

func TestReadingsArrive(t *testing.T) {
	t.Parallel()
	for kind, fits := range map[instrument.Kind]string{
		instrument.Receiver: "position", instrument.Caliper: "diameter", instrument.Hypsometer: "height range",
	} {
		hub := listening(t, simulated(t, kind, simulate.Options{Every: 20 * time.Millisecond}))
		st := reaches(t, hub, instrument.Well)
		require.Contains(t, fits, st.Last.Kind)
		require.Empty(t, st.Bad)
		if kind == instrument.Receiver {
			require.InDelta(t, simulate.AtLat, st.Last.Lat, 0.0003)
			require.InDelta(t, simulate.AtLon, st.Last.Lon, 0.0003)
			require.Greater(t, st.Last.Within, 1.0)
		}
	}
}

// TestFaults: each is said plainly, and nothing is offered while it lasts; what is offered
// before and after is right.
func TestFaults(t *testing.T) {
	t.Parallel()
	comes := map[simulate.Fault]instrument.Health{
		simulate.NoFix: instrument.NoFix, simulate.StaleFix: instrument.Stale, simulate.WildJump: instrument.Jumped,
		simulate.Checksum: instrument.Garbled, simulate.HalfLine: instrument.Garbled, simulate.Garbage: instrument.Garbled,
		simulate.WrongUnit: instrument.Garbled, simulate.Unplugged: instrument.Unplugged, simulate.Slow: instrument.Well,
	}
	for _, kind := range []instrument.Kind{instrument.Receiver, instrument.Caliper, instrument.Hypsometer} {
		for _, fault := range simulate.Faults(kind) {
			t.Run(string(kind)+" "+string(fault), func(t *testing.T) {
				t.Parallel()
				hub := listening(t, simulated(t, kind, simulate.Options{Every: 40 * time.Millisecond, Fault: fault}))
				st := reaches(t, hub, comes[fault])
				if fault != simulate.Slow {
					require.Nil(t, st.Last)
					require.NotEmpty(t, st.Says)
				}
				for range 20 {
					all, _ := hub.States()
					if r := all[0].Last; r != nil {
						plausible(t, r)
					}
					time.Sleep(10 * time.Millisecond)
				}
			})
		}
	}
}

// plausible refuses what the simulated instruments never mean to send.
func plausible(t *testing.T, r *instrument.Reading) {
	t.Helper()
	if r.Kind == "position" {
		assert.InDelta(t, simulate.AtLat, r.Lat, 0.2) // where a first fix jumped to, it cannot be known
		assert.InDelta(t, simulate.AtLon, r.Lon, 0.001)
		return
	}
	long, err := measure.Metres(r.Text)
	require.NoError(t, err)
	least, most := 0.18, 0.52 // of the simulated caliper
	if r.Kind != "diameter" {
		least, most = 20, 33
	}
	assert.True(t, long[0] >= least && long[0] <= most, r.Text)
}

// TestComesBack: one that was unplugged is heard again, without being asked for.
func TestComesBack(t *testing.T) {
	t.Parallel()
	ln, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	at := ln.Addr().String()
	require.NoError(t, ln.Close())
	hub := listening(t, instrument.Config{Name: "Caliper", Kind: instrument.Caliper, Address: at})
	st := reaches(t, hub, instrument.Unplugged)
	require.Contains(t, st.Says, "plugged in")
	ln, err = net.Listen("tcp", at)
	require.NoError(t, err)
	ctx, stop := context.WithCancel(context.Background())
	t.Cleanup(stop)
	go func() {
		_ = simulate.Serve(ctx, ln, instrument.Caliper, simulate.Options{Every: 20 * time.Millisecond})
	}()
	reaches(t, hub, instrument.Well)
}

// TestStuck: one that holds its line open and sends no line end blocks nothing, and fills no memory.
func TestStuck(t *testing.T) {
	t.Parallel()
	ln, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { _ = ln.Close() })
	go func() {
		for conn, err := ln.Accept(); err == nil; conn, err = ln.Accept() {
			t.Cleanup(func() { _ = conn.Close() }) // held open till then
			go func() { _, _ = io.Copy(conn, strings.NewReader(strings.Repeat("9", 4<<20))) }()
		}
	}()
	hub := listening(t, instrument.Config{Name: "Receiver", Kind: instrument.Receiver, Address: ln.Addr().String()},
		simulated(t, instrument.Caliper, simulate.Options{Every: 20 * time.Millisecond}))
	reaches(t, hub, instrument.Silent)
	all, _ := hub.States()
	require.Equal(t, instrument.Well, all[1].Health)
	began := time.Now()
	hub.Listen(nil)
	require.Less(t, time.Since(began), time.Second)
}

func TestStation(t *testing.T) {
	t.Parallel()
	c := simulated(t, instrument.Weather, simulate.Options{})
	hub := listening(t, c)
	st := reaches(t, hub, instrument.Well)
	require.Contains(t, st.Air.Words, "°C")
	require.NotNil(t, st.Air.Snow)
	from := time.Now().Add(-60 * 24 * time.Hour)
	temps, err := hub.Temperatures(t.Context(), c.Address, from)
	require.NoError(t, err)
	require.InDelta(t, 60*24, len(temps), 2) // over two pages
	require.True(t, temps[0].At.Before(temps[1].At))
	for _, fault := range simulate.Faults(instrument.Weather) {
		if fault == simulate.Slow {
			continue // it takes longer than a station is waited for
		}
		st := reaches(t, listening(t, simulated(t, instrument.Weather, simulate.Options{Fault: fault})), instrument.Unplugged)
		require.Nil(t, st.Air)
	}
}

// TestOwnAddresses: an instrument on the machine itself is reached only where that is allowed, by
// whatever name.
func TestOwnAddresses(t *testing.T) {
	t.Parallel()
	c := simulated(t, instrument.Weather, simulate.Options{})
	_, port, err := net.SplitHostPort(strings.TrimPrefix(c.Address, "http://"))
	require.NoError(t, err)
	hub := instrument.NewHub(false)
	t.Cleanup(hub.Close)
	for _, host := range []string{"127.0.0.1", "localhost", "0.0.0.0", "[::1]", "[::ffff:127.0.0.1]", "169.254.169.254", "[fe80::1]"} {
		_, err := hub.Temperatures(t.Context(), "http://"+host+":"+port, time.Now())
		require.ErrorIs(t, err, instrument.ErrOwn, host)
	}
	c = simulated(t, instrument.Caliper, simulate.Options{})
	hub.Listen([]instrument.Config{c})
	require.Contains(t, reaches(t, hub, instrument.Unplugged).Says, "to allow it")
}

// TestConfigs: what is no instrument, or nowhere, is refused by a word.
func TestConfigs(t *testing.T) {
	for _, c := range []instrument.Config{
		{Kind: "hat", Address: "127.0.0.1:1"}, {Kind: instrument.Caliper, Address: "127.0.0.1"},
		{Kind: instrument.Caliper, Address: "127.0.0.1:0"},
		{Kind: instrument.Weather, Address: "127.0.0.1:80"}, {Kind: instrument.Weather, Address: "file:///etc"},
		{Kind: instrument.Receiver, Address: "/dev/ttyUSB0", Baud: -1},
		{Kind: instrument.Receiver, Address: "/dev/watchdog"}, {Kind: instrument.Receiver, Address: "/dev/tty"},
		{Kind: instrument.Receiver, Address: "/dev/ttyUSB0/../sda"}, {Kind: instrument.Receiver, Address: "COM3 and more"},
	} {
		require.Error(t, c.Check(), "%+v", c)
	}
	for _, c := range []instrument.Config{
		{Kind: instrument.Caliper, Address: "127.0.0.1:8092"}, {Kind: instrument.Receiver, Address: "/dev/ttyUSB0"},
		{Kind: instrument.Receiver, Address: "COM3", Baud: 9600}, {Kind: instrument.Weather, Address: "http://127.0.0.1:8094"},
	} {
		require.NoError(t, c.Check(), "%+v", c)
	}
}

// BenchmarkThroughput has eight receivers send ten fixes a second each, watched by a window,
// and says how much of a core that takes: `go test ./instrument -run - -bench Throughput -benchtime 1x`.
func BenchmarkThroughput(b *testing.B) {
	var configs []instrument.Config
	for i := range 8 {
		ln, err := net.Listen("tcp", "127.0.0.1:0")
		require.NoError(b, err)
		b.Cleanup(func() { _ = ln.Close() })
		configs = append(configs, instrument.Config{Name: fmt.Sprint(i), Kind: instrument.Receiver, Address: ln.Addr().String()})
		go func() {
			for conn, err := ln.Accept(); err == nil; conn, err = ln.Accept() {
				go func() {
					for n := 0; ; n++ {
						clock := fmt.Sprintf("12%02d%05.2f", n/600%60, float64(n%600)/10)
						_, err := conn.Write([]byte(nmea.Write("GNGGA," + clock + ",4334.238,N,09037.800,W,1,08,0.9,300.4,M,46.9,M,,")))
						if err != nil {
							return
						}
						time.Sleep(100 * time.Millisecond)
					}
				}()
			}
		}()
	}
	for b.Loop() {
		sending := senders(b, configs)
		hub := instrument.NewHub(true)
		hub.Listen(configs)
		const long = 10 * time.Second
		before := cpu(b)
		time.Sleep(long)
		used := cpu(b) - before
		states, changes := hub.States()
		require.Equal(b, instrument.Well, states[0].Health)
		hub.Close()
		b.ReportMetric(100*(used-sending).Seconds()/long.Seconds(), "%core")
		b.ReportMetric(float64(changes)/long.Seconds(), "readings/s")
	}
}

// senders is what the eight take by themselves, of as long a time.
func senders(b *testing.B, configs []instrument.Config) time.Duration {
	before := cpu(b)
	for _, c := range configs {
		conn, err := net.Dial("tcp", c.Address)
		require.NoError(b, err)
		defer func() { _ = conn.Close() }()
	}
	time.Sleep(10 * time.Second)
	return cpu(b) - before
}

func cpu(b *testing.B) time.Duration {
	var use syscall.Rusage
	require.NoError(b, syscall.Getrusage(syscall.RUSAGE_SELF, &use))
	return time.Duration(use.Utime.Nano() + use.Stime.Nano())
}

// TestReadAgainMeanwhile: a reading can be taken though the instrument has read again since: nobody else took it.
func TestReadAgainMeanwhile(t *testing.T) {
	t.Parallel()
	hub := listening(t, simulated(t, instrument.Caliper, simulate.Options{Every: 20 * time.Millisecond}))
	first := reaches(t, hub, instrument.Well).Last.Serial
	require.Eventually(t, func() bool { return reaches(t, hub, instrument.Well).Last.Serial > first }, time.Minute, time.Millisecond)
	require.True(t, hub.Take(first))
	require.False(t, hub.Take(first))
}

// TestTaken: a reading that one person takes is offered to nobody else, and nothing is taken twice.
func TestTaken(t *testing.T) {
	t.Parallel()
	hub := listening(t, simulated(t, instrument.Caliper, simulate.Options{Every: time.Hour}))
	st := reaches(t, hub, instrument.Well)
	require.False(t, hub.Take(st.Last.Serial+1))
	require.True(t, hub.Take(st.Last.Serial))
	require.False(t, hub.Take(st.Last.Serial))
	all, _ := hub.States()
	require.Nil(t, all[0].Last)
	require.Equal(t, instrument.Well, all[0].Health)
}
