package flora

import (
	"fmt"
	"slices"

	"github.com/agnivade/levenshtein"
)

// Nearest gives the known word closest to the given one, or "" when none is close
// enough, by edit distance, to be worth suggesting. Of equally close words the first is given.
func Nearest(word string, known []string) string {
	best, at := max(2, len(word)/2)+1, ""
	for _, k := range known {
		if d := levenshtein.ComputeDistance(word, k); d < best {
			best, at = d, k
		}
	}
	return at
}

// UnknownWord makes the error for a word that is not among the known ones, with
// the nearest known word where there is one.
func UnknownWord(what, word string, known []string) error {
	if slices.Contains(known, word) {
		return nil
	}
	if near := Nearest(word, known); near != "" {
		return fmt.Errorf("unknown %s %q; did you mean %q?", what, word, near)
	}
	return fmt.Errorf("unknown %s %q", what, word)
}
