package book

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"sync"

	"palethicket/core/stand/worklist"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/record"
	"palethicket/store"
)

// alike keeps what trees come to of which next to nothing was scored: an inventory has
// thousands that say the same.
type alike struct {
	mu  sync.Mutex
	old map[string]*outcome
	now map[string]*outcome
}

// outcome is what a tree comes to for lists. It is shared: nobody changes it.
type outcome struct {
	*answer.Result
	posteriors store.Posteriors
	common     *store.Common // nil for a tree of which more was scored
	alike      string        // digest of the key; "" likewise
}

// alikeMost is how many are kept before the older half is forgotten.
const alikeMost = 2048

func (a *alike) get(key string) *outcome {
	a.mu.Lock()
	defer a.mu.Unlock()
	if res := a.now[key]; res != nil {
		return res
	}
	return a.old[key]
}

func (a *alike) put(key string, res *outcome) {
	a.mu.Lock()
	defer a.mu.Unlock()
	if a.now == nil || len(a.now) >= alikeMost {
		a.old, a.now = a.now, map[string]*outcome{}
	}
	a.now[key] = res
}

// alikeKey is what a record says of the tree itself, where that is little; "" where it
// is more.
func alikeKey(rec *record.Record) string {
	scores := 0
	for _, l := range rec.Looks {
		scores += len(l.Scores)
	}
	if scores > 1 {
		return ""
	}
	text, err := json.Marshal(record.Record{Region: rec.Region, List: rec.List, Age: rec.Age, Foliage: rec.Foliage, Snow: rec.Snow,
		Beyond: rec.Beyond, Flat: rec.Flat, Looks: rec.Looks})
	if err != nil {
		return ""
	}
	return string(text)
}

// foreseen is what the tree comes to for lists, or nil where it cannot be weighed.
func (s *sheet) foreseen() *outcome {
	if s.fault != nil {
		return nil
	}
	key := alikeKey(s.log.Record("", s.tree.Started()))
	if out := s.alike.get(key); key != "" && out != nil {
		return out
	}
	if s.weigh(); s.fault != nil {
		return nil
	}
	out := &outcome{Result: s.weighed.Result(answer.Options{Next: answer.Usual.Next}), posteriors: store.Posteriors{}}
	for _, r := range out.Ranking {
		if r.Posterior >= worklist.Counts {
			out.posteriors[r.Taxon] = r.Posterior
		}
	}
	if key == "" {
		return out
	}
	sum := sha256.Sum256([]byte(key))
	out.alike = hex.EncodeToString(sum[:16])
	if out.common, s.fault = store.InCommon(out.posteriors); s.fault != nil {
		return nil
	}
	s.alike.put(key, out)
	return out
}
