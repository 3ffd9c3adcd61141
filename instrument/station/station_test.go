package station

import (
	"context"
	"net"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

func answering(t testing.TB, body string) *Client {
	t.Helper()
	s := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) { _, _ = w.Write([]byte(body)) }))
	t.Cleanup(s.Close)
	return New(s.URL, &net.Dialer{})
}

// TestAnswers: the shapes of answers are those of the examples of OGC 18-088 (from memory).
func TestAnswers(t *testing.T) {
	c := answering(
		t,
		`{"value":[{"@iot.id":7,"name":"air","ObservedProperty":{"name":"Air temperature"},"unitOfMeasurement":{"symbol":"°C"}},
		{"@iot.id":8,"name":"snow","ObservedProperty":{"name":"Snow depth"},"unitOfMeasurement":{"symbol":"in"}}]}`,
	)
	streams, err := c.Streams(t.Context())
	require.NoError(t, err)
	require.Equal(t, map[Property]string{AirTemperature: "7"}, streams)
	o, err := answering(t, `{"value":[{"phenomenonTime":"2027-03-01T06:00:00Z/2027-03-01T07:00:00Z","result":-4.5}]}`).
		Latest(t.Context(), AirTemperature, "7")
	require.NoError(t, err)
	require.Equal(t, -4.5, o.Value)
	require.Equal(t, 6, o.At.UTC().Hour())
	for body, says := range map[string]string{
		`{`:           "no SensorThings",
		`[]`:          "no SensorThings",
		`{"value":[]`: "no SensorThings",
		`{"value":[{"@iot.id":1,"ObservedProperty":{"name":"air temperature"},"unitOfMeasurement":{"symbol":"K"}}]}`: `want °C`,
		`{"value":[]}`:                        "nothing that is of use",
		strings.Repeat(" ", mostBytes) + "{}": "longer than",
	} {
		_, err := answering(t, body).Streams(t.Context())
		require.ErrorContains(t, err, says)
	}
	for body, says := range map[string]string{
		`{"value":[{"phenomenonTime":"yesterday","result":1}]}`:             "no time",
		`{"value":[{"phenomenonTime":"2027-03-01T06:00:00Z","result":99}]}`: "no value that it could have",
		`{"value":[]}`: "no value yet",
	} {
		_, err := answering(t, body).Latest(t.Context(), AirTemperature, "7")
		require.ErrorContains(t, err, says)
	}
	_, err = answering(t, `{"value":[],"@iot.nextLink":"http://192.0.2.1/elsewhere"}`).Since(t.Context(), AirTemperature, "7", time.Now())
	require.ErrorContains(t, err, "elsewhere")
}

func FuzzAnswers(f *testing.F) {
	f.Add(`{"value":[{"@iot.id":7,"ObservedProperty":{"name":"Air temperature"},"unitOfMeasurement":{"symbol":"°C"}}]}`)
	f.Add(`{"value":[{"phenomenonTime":"2027-03-01T06:00:00Z","result":-4.5}]}`)
	var body string
	s := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) { _, _ = w.Write([]byte(body)) }))
	f.Cleanup(s.Close)
	c := New(s.URL, &net.Dialer{})
	f.Fuzz(func(t *testing.T, answer string) {
		body = answer
		ctx, done := context.WithTimeout(t.Context(), time.Second)
		defer done()
		_, _ = c.Streams(ctx)
		if o, err := c.Latest(ctx, AirTemperature, "1"); err == nil && (o.Value < -60 || o.Value > 60) {
			t.Fatalf("%q is %v °C", answer, o.Value)
		}
	})
}
