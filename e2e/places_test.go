package e2e

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// TestANewStandIsAskedAbout: a slip is asked about, made when it is said to be meant, and mended under Stands.
func TestANewStandIsAskedAbout(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/")
	p.press("[data-add-tree]")
	p.until(`document.querySelector('#new-tract').value !== ''`) // the book has one tract
	p.write("#new-tag", "LC-9911")
	p.write("#new-stand", "Nort cove")
	p.press("#new-start")
	p.sees("Do you mean North cove?")
	p.press("#new-yes")
	p.until(`document.querySelector('[data-from]') !== null`)

	p.open("/stands")
	p.press(`[data-stand="Nort cove"]`)
	p.press("[data-edit-place]")
	p.clear("[data-place-name]")
	p.write("[data-place-name]", "north cove\r")
	p.sees("There is North cove already")
	p.press("[data-yes]")
	p.until(`document.querySelector('[data-stand="Nort cove"]') === null`)
	require.Equal(t, "North cove", a.view(a.tree("LC-9911")).Tree.Stand)
}
