// Package label reads the names that people give to trees, tracts, stands, lists and
// themselves, so that two that look the same are the same, and each can be read.
package label

import (
	"fmt"
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/text/unicode/norm"
)

// Most letters of the names.
const (
	TagMost  = 40
	NameMost = 80
)

// Clean gives a name as it is kept: in Unicode's composed form (NFC), each run of
// spaces of any kind one space and none at the ends, without characters that show
// nothing or turn the direction of writing. A name that is then empty, longer than
// most letters, or holds what cannot be read is refused.
func Clean(text string, most int) (string, error) {
	if !utf8.ValidString(text) || strings.ContainsRune(text, utf8.RuneError) {
		return "", fmt.Errorf("it holds a letter that could not be read (�); write it again")
	}
	var out strings.Builder
	space := false
	for _, r := range norm.NFC.String(text) {
		switch {
		case unicode.IsSpace(r) || blank(r):
			space = out.Len() > 0
		case invisible(r):
		case unicode.Is(unicode.C, r) || r >= 0xFDD0 && r <= 0xFDEF || r&0xFFFE == 0xFFFE:
			return "", fmt.Errorf("it holds the character U+%04X, which cannot be read; leave it out", r)
		default:
			if space {
				out.WriteByte(' ')
				space = false
			}
			out.WriteRune(r)
		}
	}
	clean := norm.NFC.String(out.String()) // what stood apart may now compose
	switch n := utf8.RuneCountInString(clean); {
	case n == 0:
		return "", fmt.Errorf("it is empty")
	case n > most:
		return "", fmt.Errorf("it has %d letters; at most %d are kept", n, most)
	}
	return clean, nil
}

// blank says whether a character is drawn as nothing though it is no space.
func blank(r rune) bool {
	switch r {
	case 0x115F, 0x1160, 0x2800, 0x3164, 0xFFA0: // fillers of Hangul, and Braille without a point
		return true
	}
	return false
}

// invisible says whether a character only directs how others are drawn: formats such
// as zero-width joiners and marks of direction, and selectors of variants.
func invisible(r rune) bool {
	return unicode.In(r, unicode.Cf, unicode.Variation_Selector) || r == 0x034F
}
