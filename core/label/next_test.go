package label_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/label"
)

func TestNext(t *testing.T) {
	for last, next := range map[string]string{
		"LC-401": "LC-402", "LC-009": "LC-010", "99": "100", "7b": "8b", "2026-7": "2026-8", "oak": "oak 2", "": "1",
		strings.Repeat("9", label.TagMost): "1", strings.Repeat("ä", label.TagMost): "1",
	} {
		require.Equal(t, next, label.Next(last), "after %q", last)
	}
}
