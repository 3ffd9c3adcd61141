package simulate

import (
	"math"
	"math/rand/v2"
	"time"
)

// hour is what the invented weather of one hour is.
type hour struct{ temp, snow, rain, wind float64 }

// At is the invented air temperature of Lantern Creek at an hour, in °C: the year's course
// and the day's, and what drifts over some days, drawn by the hour alone, so that every
// station says the same. The year's mean and swing are like south-western Wisconsin's
// (7.5 °C, 14.5 °C to either side, coldest about 20 January; from memory).
func at(t time.Time) float64 {
	t = t.UTC()
	year := 2 * math.Pi * (float64(t.YearDay()) - 20 + float64(t.Hour())/24) / 365.25
	local := float64((t.Hour()+18)%24) + float64(t.Minute())/60 // about six hours behind
	day := 2 * math.Pi * (local - 15) / 24
	return 7.5 - 14.5*math.Cos(year) + 4*math.Cos(day) + drift(t, 96, 1)*4 + drift(t, 17, 2)*1.5
}

// drift goes smoothly between values drawn every so many hours.
func drift(t time.Time, hours int64, which uint64) float64 {
	n := t.Unix() / 3600
	k := n / hours
	draw := func(k int64) float64 { return rand.New(rand.NewPCG(uint64(k), which)).NormFloat64() }
	part := (float64(n%hours) + float64(t.Minute())/60) / float64(hours)
	part = part * part * (3 - 2*part)
	return draw(k)*(1-part) + draw(k+1)*part
}

// snowDays is how far back snow is remembered.
const snowDays = 90

// weather is the hour's weather; snow lies as it fell and melted over the days before.
func weather(t time.Time) hour {
	h := hour{temp: round(at(t)), wind: round(2.5 + 1.5*math.Abs(drift(t, 9, 3)))}
	h.rain = falls(t)
	for d := snowDays; d >= 0; d-- {
		day := t.Add(-time.Duration(d) * 24 * time.Hour)
		temp := at(day)
		if fell := falls(day) * 24; temp < 0.5 {
			h.snow += fell * 0.8 // cm from mm
		} else {
			h.snow -= 1.5 * temp
		}
		h.snow = max(0, h.snow*0.985)
	}
	h.snow = math.Round(h.snow)
	return h
}

// falls is how much falls in an hour, in mm.
func falls(t time.Time) float64 { return round(max(0, drift(t, 31, 4)-0.9) * 0.8) }

func round(x float64) float64 { return math.Round(x*10) / 10 }
