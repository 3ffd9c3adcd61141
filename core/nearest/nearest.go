// Package nearest finds the known word that a mistyped one was probably meant
// to be, by edit distance.
package nearest

import (
	"fmt"
	"slices"

	"github.com/agnivade/levenshtein"
)

// Of gives the known word closest to the given one, or "" when none is close
// enough to be worth suggesting. Of equally close words the first is given.
func Of(word string, known []string) string {
	best, at := max(2, len(word)/2)+1, ""
	for _, k := range known {
		if d := levenshtein.ComputeDistance(word, k); d < best {
			best, at = d, k
		}
	}
	return at
}

// Unknown makes the error for a word that is not among the known ones, with
// the nearest known word where there is one.
func Unknown(what, word string, known []string) error {
	if slices.Contains(known, word) {
		return nil
	}
	if near := Of(word, known); near != "" {
		return fmt.Errorf("unknown %s %q; did you mean %q?", what, word, near)
	}
	return fmt.Errorf("unknown %s %q", what, word)
}
