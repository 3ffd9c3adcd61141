package practice

import (
	"bytes"
	"maps"

	"palethicket/core/flora"
	"palethicket/core/plate"
	"palethicket/core/plate/sheet"
	"palethicket/core/plate/tile"
)

// Draw draws what a card shows, as an image of a media type. Of a word it is the part that shows
// it, without a title, which would say what is asked.
func (ind *Individual) Draw(theme string) (image []byte, kind string, err error) {
	if ind.Kind == Word {
		part, err := tile.Part(ind.Tree, ind.Character, ind.State, theme)
		if err != nil {
			return nil, "", err
		}
		if part != nil {
			return part.Body, part.Kind, nil
		}
	}
	what := ind.Part
	if what == "ground" {
		what = "leaf"
	}
	image, kind, err = sheet.Draw(ind.Tree, what, flora.ZoneWords[flora.Breast], theme)
	if ind.Kind == Word {
		image = tile.Untitled(image)
	}
	return image, kind, err
}

// tells says whether the drawing of a word card is another than if the tree showed another of the
// states that are offered. Barks are always drawn apart.
func (ind *Individual) tells(states []flora.State) (bool, error) {
	if ind.Part == "bark" {
		return true, nil
	}
	shown, _, err := ind.Draw(plate.Themes[0])
	if err != nil {
		return false, err
	}
	for _, s := range states {
		if s.ID == ind.State {
			continue
		}
		if other, _, err := ind.with(s.ID).Draw(plate.Themes[0]); err != nil || bytes.Equal(shown, other) {
			return false, err
		}
	}
	return true, nil
}

// with is the same individual but for the state that is asked.
func (ind *Individual) with(state string) *Individual {
	out, tree := *ind, *ind.Tree
	tree.Shows = maps.Clone(tree.Shows)
	is := tree.Shows[ind.Character]
	is.State = state
	tree.Shows[ind.Character] = is
	out.Tree, out.State = &tree, state
	return &out
}
