package demo

import "slices"

// Planned are the characters that the drawn looks score.
func Planned() []string {
	return slices.Concat(atSite.chars, atBark.chars, atCrown.chars, atTwig.chars, atGround.chars)
}
