package exchange

import "strings"

// CodeOf is a taxon's symbol of the national plant list, or its first letters where that is not known; "" for a kind.
func CodeOf(taxon string) string {
	codes, err := published()
	if err != nil {
		return ""
	}
	for written, name := range codes {
		if name == taxon && !numeral.MatchString(written) {
			return written
		}
	}
	return strings.ToUpper(letters4(taxon))
}
