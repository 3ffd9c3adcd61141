package book

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"sync"

	"palethicket/core/flora"
	"palethicket/core/weigh/ranking"
)

// weighing is the version of how standings are worked out. Raise it when they
// would come out otherwise for the same log and flora.
const weighing = "5"

// digests keeps the digest of a pool: pools are made once and never change.
var digests sync.Map // *flora.Pool to string

// bases gives, for everything a tree can be ranked among, a digest of all that standings
// are worked out from.
type bases struct {
	flora *flora.Flora
	bars  ranking.Bars
}

// all gives those of everything that there is.
func (b *bases) all() (map[flora.Among]string, error) {
	out := map[flora.Among]string{}
	for _, among := range b.flora.Amongs() {
		digest, err := b.of(among)
		if err != nil {
			return nil, err
		}
		out[among] = digest
	}
	return out, nil
}

// of gives the one of what a tree is ranked among; empty where there is no such list or
// region.
func (b *bases) of(among flora.Among) (string, error) {
	pool, err := b.flora.Pool(flora.PoolKey{Among: among, Age: flora.At(flora.AnyAge)})
	if err != nil {
		return "", nil // the tree says so when it is weighed
	}
	kept, ok := digests.Load(pool)
	if !ok {
		digest, err := digestOf(b.flora, pool)
		if err != nil {
			return "", fmt.Errorf("digesting the flora: %w", err)
		}
		digests.Store(pool, digest)
		kept = digest
	}
	return fmt.Sprintf("%s-%.2f", kept, b.bars.Probable), nil
}

func digestOf(f *flora.Flora, pool *flora.Pool) (string, error) {
	sum := sha256.New()
	fmt.Fprintln(sum, weighing)
	enc := json.NewEncoder(sum)
	for i := range f.Characters {
		if err := enc.Encode(f.Characters[i].StateIDs()); err != nil {
			return "", err
		}
	}
	if err := enc.Encode(pool.Model.Taxa()); err != nil {
		return "", err
	}
	return hex.EncodeToString(sum.Sum(nil)[:12]), nil
}
