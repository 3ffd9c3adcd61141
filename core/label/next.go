package label

import (
	"regexp"
	"strconv"
	"unicode/utf8"
)

// figure is the last number of a tag, with what stands before and after it.
var figure = regexp.MustCompile(`^(.*?)(\d{1,12})(\D*)$`)

// Next is the tag after one: its last number counted up, with as many digits. A tag without a
// number gets one.
func Next(tag string) string {
	next := tag + " 2"
	if m := figure.FindStringSubmatch(tag); m != nil {
		n, _ := strconv.Atoi(m[2]) // twelve digits at most
		digits := strconv.Itoa(n + 1)
		for len(digits) < len(m[2]) {
			digits = "0" + digits
		}
		next = m[1] + digits + m[3]
	}
	if tag == "" || utf8.RuneCountInString(next) > TagMost {
		return "1"
	}
	return next
}
