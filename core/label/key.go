package label

import (
	"strings"
	"unicode"

	"golang.org/x/text/unicode/norm"
)

// Key is what a name is found by: its letters in small ones, without spaces. Two names of
// one key are one name, written in two ways.
func Key(name string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsSpace(r) {
			return -1
		}
		return r
	}, strings.ToLower(norm.NFC.String(name)))
}

// Same gives the name among known ones that has the key of a name: the one that is
// written alike where there are several, and "" where there is none.
func Same(name string, known []string) string {
	found, key := "", Key(name)
	for _, k := range known {
		if k == name {
			return k
		}
		if found == "" && Key(k) == key {
			found = k
		}
	}
	return found
}
