package plate

import (
	"fmt"
	"image/color"
)

// Colors are what the colour states look like in daylight: swatches beside their names,
// and the washes of drawings.
var Colors = map[string]color.RGBA{
	"white": rgb(0xf4f1ea), "cream": rgb(0xe9dcbc), "pale-grey": rgb(0xc2c0b9), "mid-grey": rgb(0x979590), "dark-grey": rgb(0x62605e),
	"grey-brown": rgb(0x8a7d6d), "brown": rgb(0x765640), "red-brown": rgb(0x8a4b34), "purple-brown": rgb(0x604048),
	"golden": rgb(0xc9a04a), "olive": rgb(0x7f7d50), "salmon": rgb(0xd59b7d), "orange": rgb(0xc87a35), "near-black": rgb(0x38322e),
	"silver-white": rgb(0xe0e3e4), "yellow": rgb(0xd9b840), "pink": rgb(0xcf968d), "purple": rgb(0x6a4062), "green": rgb(0x61824a),
	"red": rgb(0xa63a33), "dark-brown": rgb(0x4d3728), "yellow-brown": rgb(0xab8850), "bright-green": rgb(0x679c45),
	"grey": rgb(0x92908b), "tan": rgb(0xb99d79), "sulphur-yellow": rgb(0xd3bb2e), "two-tone": rgb(0x8a4b34),
}

func rgb(x uint32) color.RGBA { return color.RGBA{uint8(x >> 16), uint8(x >> 8), uint8(x), 255} }

// Mix gives a colour between two.
func Mix(a, b color.RGBA, t float64) color.RGBA {
	t = Clamp(t, 0, 1)
	mix := func(x, y uint8) uint8 { return uint8(float64(x) + (float64(y)-float64(x))*t + 0.5) }
	return color.RGBA{mix(a.R, b.R), mix(a.G, b.G), mix(a.B, b.B), 255}
}

// Hex writes a colour as SVG does.
func Hex(c color.RGBA) string { return fmt.Sprintf("#%02x%02x%02x", c.R, c.G, c.B) }

// Wash is the colour that a state is drawn with, a little paler than it is, as ink stands
// on it; "none" where the state is not known.
func Wash(state string) string {
	c, ok := Colors[state]
	if !ok {
		return "none"
	}
	return Hex(Mix(c, rgb(0xffffff), 0.14))
}
