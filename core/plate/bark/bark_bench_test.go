package bark_test

import (
	"testing"

	"palethicket/core/plate"
	"palethicket/core/plate/bark"
)

func BenchmarkDraw(b *testing.B) {
	for _, texture := range []string{"mesh-ridges", "rough-furrows", "warty-ridges", "papery-curls"} {
		b.Run(texture, func(b *testing.B) {
			t := &plate.Tree{Shows: plate.Shows{"bark.texture": {State: texture}}, Build: plate.OrdinaryBuild, Age: "mature"}
			for b.Loop() {
				if _, err := bark.Draw(t, bark.Breast); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
