package logbook_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
)

func TestPositions(t *testing.T) {
	at := func(lon, lat float64) error {
		e := logbook.Entry{ID: id(1), Kind: logbook.KindFacts, Facts: &logbook.SetFacts{Position: &logbook.Position{Lon: lon, Lat: lat}}}
		return e.Check()
	}
	require.NoError(t, at(-90.64, 43.56))
	require.NoError(t, at(180, -90))
	require.ErrorContains(t, at(43.56, -90.64), "lat: -90.64 is off the globe")
	require.ErrorContains(t, at(181, 0), "lon")
	require.ErrorContains(t, at(0, math.NaN()), "lat")
	st := logbook.Replay([]logbook.Entry{
		{ID: id(1), Kind: logbook.KindFacts, Facts: &logbook.SetFacts{Position: &logbook.Position{Lon: -90.64, Lat: 43.56}}},
		{ID: id(2), Kind: logbook.KindFacts, Facts: &logbook.SetFacts{Remarks: ptr("leans")}},
	})
	rec := st.Record("LC-1", logbook.Among{Region: "eastern-north-america"})
	require.Equal(t, &[2]float64{-90.64, 43.56}, rec.Position, "longitude first")
	require.Equal(t, "leans", rec.Note)
}

func TestMeasured(t *testing.T) {
	log := []logbook.Entry{
		{ID: id(1), Kind: logbook.KindLook, From: "tree"},
		score(2, id(1), record.Score{Character: "form.dbh", Value: ptr(12.0), Unit: "in"}),
	}
	s, ok := logbook.Replay(log).Measured("form.dbh")
	require.True(t, ok)
	require.InDelta(t, 30.48, record.Centimetres(&s), 1e-9)
	_, ok = logbook.Replay(log).Measured("bud.length")
	require.False(t, ok)
	require.Equal(t, 31.0, record.Centimetres(&record.Score{Value: ptr(31.0)}), "its own unit is the centimetre")
	require.Zero(t, record.Centimetres(&record.Score{}))
}
