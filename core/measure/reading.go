package measure

import (
	"errors"
	"fmt"
	"strings"
)

// In reads one length as it is written, "60 ft" or "18.3", in a unit: in that it was
// written with, else in the one it is taken to be in. words say what was understood.
func In(text, taken, to string) (value float64, words string, err error) {
	r, err := Read(text)
	if err != nil {
		return 0, "", err
	}
	if len(r.Values) > 1 {
		return 0, "", errors.New("write one figure here, such as 18.3 or 60 ft")
	}
	if r.Unit == "" {
		r.Unit = taken
	}
	factor, err := Factor(r.Unit, to)
	if err != nil {
		return 0, "", err
	}
	value = r.Values[0] * factor
	if words = fmt.Sprintf("%.4g %s", r.Values[0], r.Unit); r.Unit != to {
		words += fmt.Sprintf(" = %.3g %s", value, to)
	}
	return value, strings.TrimSpace(words), nil
}
