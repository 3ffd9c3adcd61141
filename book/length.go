package book

import "palethicket/core/measure"

// Length is a length as it was understood.
type Length struct {
	Value float64 `json:"value" doc:"In the unit it is wanted in"`
	Words string  `json:"words" doc:"60 ft = 18.3 m"`
}

// ReadLength reads a length as people write it.
func ReadLength(typed, taken, to string) (*Length, error) {
	value, words, err := measure.In(typed, taken, to)
	if err != nil {
		return nil, &FieldError{"typed", err.Error()}
	}
	return &Length{value, words}, nil
}
