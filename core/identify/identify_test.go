package identify_test

import (
	"encoding/json"
	"github.com/stretchr/testify/require"
	"palethicket/core/flora"
	"palethicket/core/identify"
	"palethicket/core/record"
	files "palethicket/flora"
	"testing"
	"time"
)

func TestX(t *testing.T) {
	f, err := flora.Load(files.Files)
	require.NoError(t, err)
	e := identify.NewEngine(f)
	var r record.Record
	require.NoError(t, json.Unmarshal([]byte(`{"id":"T-1","age":"mature","looks":[{"from":"tree","scores":[{"character":"bark.texture","states":["mesh-ridges"],"certainty":"sure","zone":"breast"},{"character":"bark.furrow-depth","value":14,"readings":3}]},{"from":"crown","scores":[{"character":"twig.arrangement","pairs":4,"nodes":6},{"character":"fruit.hanging","seen":false,"visibility":"partial"}]}]}`), &r))
	for i := 0; i < 3; i++ {
		s := time.Now()
		res, err := e.Identify(&r, identify.Usual)
		require.NoError(t, err)
		t.Log(time.Since(s))
		res.Ranking = res.Ranking[:8]
		b, _ := json.MarshalIndent(res, "", " ")
		if i == 2 {
			t.Log(string(b))
		}
	}
}
