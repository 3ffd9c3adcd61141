package demo

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"math"

	"palethicket/book"
	"palethicket/core/tree/stamp"
)

// pictures are the trees that have a picture, and how their bark is drawn: a
// stand-in for a photograph, as the forest is invented.
var pictures = []struct {
	tag    string
	ridges float64 // across the picture
	dark   color.RGBA
	pale   color.RGBA
}{
	{"LC-101", 14, color.RGBA{62, 54, 48, 255}, color.RGBA{150, 138, 124, 255}},
	{"LC-204", 19, color.RGBA{84, 78, 70, 255}, color.RGBA{176, 168, 154, 255}},
	{"LC-301", 9, color.RGBA{70, 62, 52, 255}, color.RGBA{142, 132, 110, 255}},
}

// hang puts the pictures to the first looks of their trees.
func (c *crowd) hang(ctx context.Context, b *book.Book) error {
	for i, p := range pictures {
		found, err := b.Trees(ctx, book.Query{Tract: c.tract, Text: p.tag}, 1, 0)
		if err != nil || len(found.Trees) == 0 {
			return errors.Join(fmt.Errorf("hanging the picture of %s: no such tree", p.tag), err)
		}
		v, err := b.View(ctx, found.Trees[0].ID)
		if err != nil {
			return err
		}
		var file bytes.Buffer
		if err := jpeg.Encode(&file, bark(p.ridges, p.dark, p.pale), &jpeg.Options{Quality: 85}); err != nil {
			return fmt.Errorf("drawing the picture of %s: %w", p.tag, err)
		}
		look := v.Looks[min(1, len(v.Looks)-1)].ID
		w := writer{clock: stamp.OfID(look).Time(), rng: c.ids}
		_, err = b.AddPhoto(ctx, book.NewPhoto{ID: w.id(), Tree: v.Tree.ID, Look: look, By: "Wren Halloran",
			Caption: fmt.Sprintf("Bark at breast height, drawn (%d of %d)", i+1, len(pictures))}, bytes.NewReader(file.Bytes()))
		if err != nil {
			return err
		}
	}
	return nil
}

// bark draws ridges that wander and join, lit from the left.
func bark(ridges float64, dark, pale color.RGBA) image.Image {
	const wide, high = 900, 600
	img := image.NewRGBA(image.Rect(0, 0, wide, high))
	for y := range high {
		for x := range wide {
			u, v := float64(x)/wide, float64(y)/high
			wander := 0.018*math.Sin(9*v+14*u) + 0.012*math.Sin(23*v-6*u)
			ridge := math.Sin(2 * math.Pi * ridges * (u + wander))
			crack := 0.5 + 0.5*math.Sin(61*v+5*math.Sin(11*u)+3*ridge)
			light := 0.5 + 0.42*ridge - 0.16*crack*crack*crack
			img.SetRGBA(x, y, mix(dark, pale, max(0, min(1, light))))
		}
	}
	return img
}

func mix(a, b color.RGBA, s float64) color.RGBA {
	of := func(a, b uint8) uint8 { return uint8(float64(a) + s*(float64(b)-float64(a))) }
	return color.RGBA{of(a.R, b.R), of(a.G, b.G), of(a.B, b.B), 255}
}
