package answer_test

import (
	"bytes"
	"encoding/json"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora/floratest"
	"palethicket/core/tree/answer"
)

// TestTheDocumentedRecord answers the record of docs/field-record.md: what comes is what the page says comes.
func TestTheDocumentedRecord(t *testing.T) {
	page, err := os.ReadFile("../../../docs/field-record.md")
	require.NoError(t, err)
	blocks := strings.Split(string(page), "```json\n")
	require.Len(t, blocks, 3)
	asked, _, _ := strings.Cut(blocks[1], "```")
	said, _, _ := strings.Cut(blocks[2], "```")

	type named struct {
		Rank, Name, Words string
		Posterior         float64
	}
	type result struct {
		ID      string
		Ranking []struct {
			Taxon     string
			Posterior float64
		}
		Named, Probably named
		Credible        []string
		Looks           []struct{ Belongs float64 }
		Again           []struct {
			Look, Score       int
			Character, Leader string
		} `json:"check_again"`
		Fit  float64
		Next []struct {
			Character string
			Bits      float64
			Seconds   int
		}
	}
	var want result
	require.NoError(t, json.Unmarshal([]byte(said), &want))
	var out bytes.Buffer
	failed, err := answer.NewEngine(floratest.Shipped(t)).Stream(t.Context(), &out, strings.NewReader(asked), answer.Brief, nil)
	require.NoError(t, err)
	require.Zero(t, failed)
	var all struct{ Results []result }
	require.NoError(t, json.Unmarshal(out.Bytes(), &all))
	got := all.Results[0]
	require.Equal(t, want.Credible, got.Credible)
	for i, r := range want.Ranking {
		require.Equal(t, r.Taxon, got.Ranking[i].Taxon)
		require.InDelta(t, r.Posterior, got.Ranking[i].Posterior, 5e-4)
	}
	for _, n := range [][2]named{{want.Named, got.Named}, {want.Probably, got.Probably}} {
		require.InDelta(t, n[0].Posterior, n[1].Posterior, 5e-4)
		n[0].Posterior = n[1].Posterior
		require.Equal(t, n[0], n[1])
	}
	for i, l := range want.Looks {
		require.InDelta(t, l.Belongs, got.Looks[i].Belongs, 5e-4)
	}
	require.Equal(t, want.Again[0], got.Again[0])
	require.InDelta(t, want.Next[0].Bits, got.Next[0].Bits, 5e-3)
	require.Equal(t, want.Next[0].Character, got.Next[0].Character)
	require.InDelta(t, want.Fit, got.Fit, 0.1, "of specimens that are drawn")
}

// TestTypedMeasures: a measure as it was written is read.
func TestTypedMeasures(t *testing.T) {
	var out bytes.Buffer
	failed, err := answer.NewEngine(floratest.Shipped(t)).Stream(t.Context(), &out, strings.NewReader(`{"records": [
		{"id": "a", "looks": [{"from": "crown", "scores": [{"character": "bud.length", "typed": "1/4 in"}]}]},
		{"id": "b", "looks": [{"from": "crown", "scores": [{"character": "bud.length", "value": 6.35}]}]},
		{"id": "c", "looks": [{"from": "crown", "scores": [{"character": "bud.length", "typed": "short"}]}]}]}`), answer.Brief, nil)
	require.NoError(t, err)
	require.Equal(t, 1, failed)
	var all struct {
		Results []struct {
			Ranking json.RawMessage
			Error   string
		}
	}
	require.NoError(t, json.Unmarshal(out.Bytes(), &all))
	require.JSONEq(t, string(all.Results[1].Ranking), string(all.Results[0].Ranking))
	require.Contains(t, all.Results[2].Error, `looks[0].scores[0].typed: "short" is not a measurement`)
}
