package tour

// NearestFirst is what one gains by going to whatever is nearest and still fits: what plans are
// held against.
func NearestFirst(d *Day) (worth float64) {
	n := len(d.Stops)
	been := make([]bool, n)
	at, spent := n, 0.0
	for {
		next := -1
		for i := range n {
			fits := !been[i] && spent+d.Way(at, i)+d.Stops[i].Minutes+d.Way(i, n+1) <= d.Minutes
			if fits && (next < 0 || d.Way(at, i) < d.Way(at, next)) {
				next = i
			}
		}
		if next < 0 {
			return worth
		}
		spent += d.Way(at, next) + d.Stops[next].Minutes
		worth += d.Stops[next].Worth
		been[next], at = true, next
	}
}
