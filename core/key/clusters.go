package key

import (
	"math"
	"slices"
)

const (
	singly    = 40 // of so many taxa each is a cluster too
	clustered = 60 // clusters at a node, at most: those that were joined last
)

// compare works out how unlike each two taxa of the list are: in how many characters an observer would read them apart.
func (g *grower) compare(taxa []int) {
	g.unlike = make([][]float64, len(g.pool.Taxa))
	for i, a := range taxa {
		g.unlike[a] = make([]float64, len(g.pool.Taxa))
		for _, b := range taxa[:i] {
			for _, col := range g.columns {
				g.unlike[a][b] += col.apart(a, b)
			}
			g.unlike[b][a] = g.unlike[a][b]
		}
	}
}

// apart is how often two taxa are read apart by a character; 0 where it is not known of both.
func (col *column) apart(a, b int) (sum float64) {
	if col.shows[a] == nil || col.shows[b] == nil {
		return 0
	}
	for i, x := range col.reads[a] {
		sum += math.Abs(x-col.reads[b][i]) / 2
	}
	return sum * col.seen[a] * col.seen[b]
}

// clusters are sets of a node's taxa that are like each other, by average linkage (Sokal & Michener 1958, Univ. Kansas Sci.
// Bull. 38:1409): for each taxon of the node 1 where it is of the set, and 0 where it is not.
func (g *grower) clusters(n *node) (sets [][]float64) {
	members := make([][]int, len(n.taxa))
	far := make([][]float64, len(n.taxa))
	live := make([]int, len(n.taxa))
	add := func(members []int) {
		set := make([]float64, len(n.taxa))
		for _, i := range members {
			set[i] = 1
		}
		sets = append(sets, set)
	}
	for i, a := range n.taxa {
		live[i], members[i] = i, []int{i}
		for _, b := range n.taxa {
			far[i] = append(far[i], g.unlike[a][b])
		}
		if len(n.taxa) <= singly {
			add(members[i])
		}
	}
	for len(live) > 2 {
		x, y := nearest(live, far)
		i, j := live[x], live[y]
		a, b := float64(len(members[i])), float64(len(members[j]))
		for _, k := range live {
			far[i][k] = (a*far[i][k] + b*far[j][k]) / (a + b)
			far[k][i] = far[i][k]
		}
		members[i] = append(slices.Clone(members[i]), members[j]...)
		live = slices.Delete(live, y, y+1)
		if len(live) < clustered {
			add(members[i])
		}
	}
	return sets
}

// nearest are the two of live that are least far apart, by their places there.
func nearest(live []int, far [][]float64) (x, y int) {
	best := math.Inf(1)
	for i := range live {
		for j := i + 1; j < len(live); j++ {
			if d := far[live[i]][live[j]]; d < best {
				x, y, best = i, j, d
			}
		}
	}
	return x, y
}
