//go:build !js

package book

import (
	"bytes"
	"crypto/sha256"
	_ "embed"
	"sort"
	"strings"
)

// commonPasswords are the first eight bytes of SHA-256 of each of the ten thousand commonest
// passwords, sorted (scripts/common-passwords.mjs).
//
//go:embed common-passwords.bin
var commonPasswords string

// common says whether a password is one that many have, written once or over and over.
func common(password string) bool {
	word := strings.ToLower(password)
	for n := len(word); n > 0; n-- {
		if strings.Repeat(word[:n], len(word)/n+1)[:len(word)] == word && isCommon(word[:n]) {
			return true
		}
	}
	return false
}

func isCommon(word string) bool {
	const size = 8
	sum := sha256.Sum256([]byte(word))
	at := func(i int) []byte { return []byte(commonPasswords[i*size : (i+1)*size]) }
	n := len(commonPasswords) / size
	i := sort.Search(n, func(i int) bool { return bytes.Compare(at(i), sum[:size]) >= 0 })
	return i < n && bytes.Equal(at(i), sum[:size])
}
