// Package weather says what the weather does to looking at trees, and to who looks: what of a
// visit it suggests, each with its reason, and what to beware of. Nothing of it is set by
// itself. The bounds are common practice, from memory.
package weather

import (
	"fmt"
	"time"

	"palethicket/core/day/light"
)

// Now is what is known of the weather; what is not known is nil.
type Now struct {
	Temp *float64 // °C
	Snow *float64 // cm that lie
	Rain *float64 // mm in an hour, as rain or snow
	Wind *float64 // m/s
}

// Preset is something of the visit that the weather suggests.
type Preset struct {
	Field string // snow, light or out_of_reach
	Value string
	Words string
	Why   string
}

// Caution is what to beware of.
type Caution string

// The bounds (common practice, from memory).
const (
	patchyCM   = 1.0
	deepCM     = 15.0
	wetMM      = 0.1
	rimeBelow  = 0.0  // °C, with a fog or drizzle that freezes
	strongWind = 10.0 // m/s, Beaufort 5 to 6: dead tops and hung branches come down
	stormWind  = 14.0
	cold       = -15.0
	colourLow  = 6.0 // degrees that the sun must stand high for colours to be right
)

// Of says what the weather suggests at a place and time.
func Of(w Now, lat, lon float64, at time.Time) (presets []Preset, cautions []Caution) {
	switch {
	case w.Snow == nil:
	case *w.Snow >= deepCM:
		presets = append(
			presets,
			Preset{
				"snow",
				"deep",
				"Deep snow",
				fmt.Sprintf("%.0f cm lie: litter, fallen twigs and the base of trunks are hidden", *w.Snow),
			},
		)
	case *w.Snow >= patchyCM:
		presets = append(
			presets,
			Preset{"snow", "patchy", "Patchy snow", fmt.Sprintf("%.0f cm lie: some of the litter is hidden", *w.Snow)},
		)
	default:
		presets = append(presets, Preset{"snow", "none", "No snow", "none lies at the station"})
	}
	if why := poorLight(w, lat, lon, at); why != "" {
		presets = append(presets, Preset{"light", "poor", "Poor light", why})
	}
	return presets, cautionsOf(w)
}

// poorLight is why colors are not to be trusted, or "".
func poorLight(w Now, lat, lon float64, at time.Time) string {
	height := light.Height(lat, lon, at)
	switch {
	case height < 0:
		return "the sun is below the horizon: colors are not to be trusted"
	case height < colourLow:
		return fmt.Sprintf("the sun stands only %.0f° high: colors turn warm", height)
	case w.Rain != nil && *w.Rain >= wetMM && w.Temp != nil && *w.Temp <= rimeBelow:
		return "it snows or freezes on: rime and snow cover bark, buds and twigs"
	case w.Rain != nil && *w.Rain >= wetMM:
		return "it rains: wet bark looks black, and grays look brown"
	}
	return ""
}

func cautionsOf(w Now) (out []Caution) {
	if w.Wind != nil && *w.Wind >= stormWind {
		out = append(
			out,
			Caution(fmt.Sprintf("Wind of %.0f m/s: keep out of the woods. Dead tops, hung branches and dying ash come down.", *w.Wind)),
		)
	} else if w.Wind != nil && *w.Wind >= strongWind {
		out = append(
			out,
			Caution(
				fmt.Sprintf("Wind of %.0f m/s: keep away from dead tops, hung branches and dying ash, and out of old stands.", *w.Wind),
			),
		)
	}
	if w.Temp != nil && *w.Temp <= cold {
		out = append(out, Caution(fmt.Sprintf("%.0f °C: fingers and phones fail; plan short rounds and a place to warm up.", *w.Temp)))
	}
	if w.Temp != nil && w.Rain != nil && *w.Rain >= wetMM && *w.Temp > -4 && *w.Temp <= 1 {
		out = append(out, "Rain near freezing: ice on slopes, logs and branches.")
	}
	return out
}

// Slower is how much slower snow makes who walks, by what is said of the visit (common
// practice, from memory; on skis or snowshoes set it yourself).
func Slower(snow string) float64 {
	switch snow {
	case "patchy":
		return 1.15
	case "deep":
		return 1.6
	}
	return 1
}
