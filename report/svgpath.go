package report

import (
	"iter"
	"strconv"
	"strings"
)

// takes is how many numbers each letter of a path takes.
var takes = map[byte]int{'M': 2, 'L': 2, 'H': 1, 'h': 1, 'V': 1, 'v': 1, 'Q': 4, 'C': 6, 'Z': 0}

// segments gives the letters of a path with their numbers; numbers that follow without a letter are of
// the one before.
func segments(d string) iter.Seq2[byte, []float64] {
	return func(yield func(byte, []float64) bool) {
		var op byte
		var n []float64
		for d = strings.TrimLeft(d, " ,"); d != ""; d = strings.TrimLeft(d, " ,") {
			if _, letter := takes[d[0]]; letter {
				op, n, d = d[0], nil, d[1:]
				if op == 'Z' && !yield(op, nil) {
					return
				}
				continue
			}
			x, rest := number(d)
			if rest == d {
				return // nothing that these drawings write
			}
			d = rest
			if n = append(n, x); len(n) == takes[op] {
				if !yield(op, n) {
					return
				}
				if n = nil; op == 'M' {
					op = 'L' // more places after a move are lines
				}
			}
		}
	}
}

// number reads the number that a text begins with: they may stand without a space where a sign or a
// second point begins the next.
func number(d string) (x float64, rest string) {
	end, point := 0, false
	for ; end < len(d); end++ {
		c := d[end]
		switch {
		case c >= '0' && c <= '9':
		case c == '-' && end == 0:
		case c == '.' && !point:
			point = true
		default:
			x, _ = strconv.ParseFloat(d[:end], 64)
			return x, d[end:]
		}
	}
	x, _ = strconv.ParseFloat(d, 64)
	return x, ""
}
