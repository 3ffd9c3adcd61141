package record_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/tree/record"
)

// written are records in every shape that people and programs write, and some
// that nobody should.
var written = []string{
	`{}`, ` { "id" : "LC-1" , "looks" : [ ] } `,
	`{"id":"LC-412","region":"eastern-north-america","age":"mature","foliage":"bare","flat":true,"snow":"deep","date":"2026-01-31",
	"observer":"Ö. Lantern","note":"x","position":[-90.8,43.5],"out_of_reach":["hand","crown"],"looks":[{"from":"tree","scores":[
	{"character":"bark.texture","states":["mesh-ridges","long-ridges"],"certainty":"sure","zone":"base"},
	{"character":"bark.furrow-depth","value":1.4e1,"unit":"mm","readings":3,"how":"ruler"},
	{"character":"twig.arrangement","pairs":0,"nodes":6},{"character":"fruit.hanging","seen":false,"visibility":"poor"}]}]}`,
	`{"id":"a","note":"line\nbreak \u00e9"}`, `{"id":null}`, `{"id":"a","id":"b"}`, `{"ID":"a"}`, `{"boots":"green"}`,
	`{"looks":[{"scores":[{"states":[]}]}]}`, `{"looks":[{"scores":[{"readings":3.0}]}]}`, `{"looks":[{"scores":[{"value":01}]}]}`,
	`{"looks":[{"scores":[{"value":-0.5E+2}]}]}`, `{"position":[1]}`, `{"position":[1,2,3]}`, `{"id":"a"} {}`, `{"id":"a",}`,
	`{"flat":1}`, `{"id":7}`, `[]`, ``, `{"looks":[{},]}`, `{"looks":7}`, "{\"id\":\"\xff\"}", "{\"id\":\"a\tb\"}", `{"looks":[{"scores":[{"value":1e999}]}]}`,
}

// same holds Parse to what the standard library reads from the same bytes.
func same(t *testing.T, raw []byte) {
	var got, want record.Record
	err, wantErr := record.Parse(raw, &got), json.Unmarshal(raw, &want)
	if wantErr != nil {
		require.Error(t, err, "%s", raw)
		return
	}
	require.NoError(t, err, "%s", raw)
	require.Equal(t, want, got, "%s", raw)
}

func TestParseReadsWhatJSONReads(t *testing.T) {
	for _, raw := range written {
		same(t, []byte(raw))
	}
}

func TestParserForgetsTheRecordBefore(t *testing.T) {
	var p record.Parser
	for range 2 {
		for _, raw := range written {
			var got, want record.Record
			if json.Unmarshal([]byte(raw), &want) == nil {
				require.NoError(t, p.Parse([]byte(raw), &got))
				require.Equal(t, want, got, "%s", raw)
			}
		}
	}
}

func FuzzParse(f *testing.F) {
	for _, raw := range written {
		f.Add([]byte(raw))
	}
	f.Fuzz(func(t *testing.T, raw []byte) { same(t, raw) })
}
