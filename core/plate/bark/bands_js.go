package bark

import "time"

// bands is how many a picture is drawn in: between them a browser gets to other presses.
const bands = 16

// inBands does something with bands of rows one after another.
func inBands(rows int, do func(from, to int)) {
	for i := range bands {
		do(rows*i/bands, rows*(i+1)/bands)
		time.Sleep(time.Millisecond)
	}
}
