package bark

import (
	"math"
	"math/rand/v2"
)

// noise is chance that hangs on the place alone, for one individual: a table, begun at a
// place of its own. It repeats after 251 units aslant, which is more than any picture shows.
type noise struct{ seed uint32 }

const tableSize = 1 << 16

// chances is the table, as whole numbers and from 0 to 1.
var chances = func() (t struct {
	whole [tableSize]uint32
	share [tableSize]float32
}) {
	r := rand.New(rand.NewPCG(1, 2))
	for i := range t.whole {
		t.whole[i] = r.Uint32()
		t.share[i] = float32(t.whole[i]>>8) / (1 << 24)
	}
	return t
}()

func (n noise) place(x, y int32) uint32 { return (uint32(x) + uint32(y)*251 + n.seed) % tableSize }

func (n noise) hash(x, y int32) uint32 { return chances.whole[n.place(x, y)] }

// at is chance from 0 to 1 for one place of a grid.
func (n noise) at(x, y int32) float64 { return float64(chances.share[n.place(x, y)]) }

// smooth is chance from -1 to 1 that changes smoothly over about one unit.
func (n noise) smooth(x, y float64) float64 {
	fx, fy := math.Floor(x), math.Floor(y)
	ix, iy := int32(fx), int32(fy)
	tx, ty := x-fx, y-fy
	tx, ty = tx*tx*(3-2*tx), ty*ty*(3-2*ty)
	i := n.place(ix, iy)
	a, b := float64(chances.share[i]), float64(chances.share[(i+1)%tableSize])
	c, d := float64(chances.share[(i+251)%tableSize]), float64(chances.share[(i+252)%tableSize])
	a += (b - a) * tx
	c += (d - c) * tx
	return 2*(a+(c-a)*ty) - 1
}

// rough is smooth with finer detail in it, from about -1 to 1.
func (n noise) rough(x, y float64, octaves int) float64 {
	sum, k, all := 0.0, 1.0, 0.0
	for range octaves {
		sum += k * n.smooth(x, y)
		all += k
		x, y, k = 2.03*x+17.1, 2.03*y-9.7, k/2
	}
	return sum / all
}

// cell is where a place lies in a mosaic of cells: how far it is from the edge (0 at the
// edge, about 1 in the middle), its chance, and the way from the cell's middle.
type cell struct {
	edge   float64
	chance float64
	dx, dy float64
}

// cells is a mosaic whose rows stand on the gaps of each other, as bricks do; angular
// measures it by the sum of both ways, which makes diamonds.
func (n noise) cells(x, y, jitter float64, angular bool) cell {
	iy := int32(math.Floor(y))
	first, second := math.Inf(1), math.Inf(1)
	var out cell
	for j := iy - 1; j <= iy+1; j++ {
		shift := 0.5 * float64(j&1)
		ix := int32(math.Floor(x - shift))
		for i := ix - 1; i <= ix+1; i++ {
			h := n.hash(i, j)
			px := float64(i) + shift + 0.5 + jitter*(float64(h&0xffff)/65536-0.5)
			py := float64(j) + 0.5 + jitter*(float64(h>>16)/65536-0.5)
			dx, dy := x-px, y-py
			d := dx*dx + dy*dy
			if angular {
				d = math.Abs(dx) + math.Abs(dy)
			}
			switch {
			case d < first:
				second, first = first, d
				out.dx, out.dy, out.chance = dx, dy, float64((h*0x9E3779B1)>>8)/(1<<24)
			case d < second:
				second = d
			}
		}
	}
	if angular {
		out.edge = second - first
	} else {
		out.edge = math.Sqrt(second) - math.Sqrt(first)
	}
	return out
}
