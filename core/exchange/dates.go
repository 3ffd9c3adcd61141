package exchange

import (
	"fmt"
	"regexp"
	"strings"
	"time"

	"palethicket/core/tree/record"
)

// The orders that figures of a day can have.
const (
	DayFirst   = "day-first"   // 3/4/2026 is the 3rd of April
	MonthFirst = "month-first" // 3/4/2026 is the 4th of March
)

var (
	figures = regexp.MustCompile(`^(\d{1,2})[./ -](\d{1,2})[./ -](\d{4}|\d{2})$`)
	ordinal = regexp.MustCompile(`(\d)(?:st|nd|rd|th)\b`)
)

// worded are the ways that people write a day whose month is a word.
var worded = []string{"2 Jan 2006", "2 January 2006", "Jan 2 2006", "January 2 2006", "2-Jan-2006", "2-Jan-06", "2006 Jan 2"}

// readDay reads a day as people write it: 2026-11-17, 17 Nov 2026, Nov 17, 2026,
// 17.11.2026, 11/17/2026. order says which figure comes first where neither can only be
// the day; figures with points are of the day first (common practice).
func readDay(text, order string) (time.Time, error) {
	if day, err := record.ParseDate(text); err == nil {
		return day, nil
	}
	if m := figures.FindStringSubmatch(text); m != nil {
		return figured(text, m, order)
	}
	plain := ordinal.ReplaceAllString(strings.Join(strings.Fields(strings.NewReplacer(",", " ", ".", " ").Replace(text)), " "), "$1")
	for _, layout := range append([]string{"2006/1/2", "2006.1.2", "20060102"}, worded...) {
		for _, t := range []string{text, plain} {
			if day, err := time.Parse(layout, t); err == nil {
				return day, nil
			}
		}
	}
	return time.Time{}, fmt.Errorf("%q is not read as a day; write it as 2026-01-31", text)
}

// figured reads a day written in figures.
func figured(text string, m []string, order string) (time.Time, error) {
	a, b, year := digits(m[1]), digits(m[2]), digits(m[3])
	if len(m[3]) == 2 { // a century is not written; nobody looks ahead
		year += 1900
		if year < 1950 {
			year += 100
		}
	}
	first := orderOf(text, m)
	if first == "" {
		first = order
	}
	if first == "" && a == b {
		first = DayFirst // both say the same
	}
	var day, month int
	switch first {
	case DayFirst:
		day, month = a, b
	case MonthFirst:
		month, day = a, b
	default:
		return time.Time{}, fmt.Errorf("%q can be read in two ways: say whether the day or the month comes first", text)
	}
	t := time.Date(year, time.Month(month), day, 0, 0, 0, 0, time.UTC)
	if month < 1 || t.Month() != time.Month(month) {
		return time.Time{}, fmt.Errorf("there is no day %q with the %s first", text, strings.TrimSuffix(first, "-first"))
	}
	return t, nil
}

// orderOf says which figure comes first where the figures alone tell, or "".
func orderOf(text string, m []string) string {
	switch {
	case digits(m[1]) > 12 || strings.Contains(text, "."):
		return DayFirst
	case digits(m[2]) > 12:
		return MonthFirst
	}
	return ""
}

func digits(s string) (n int) {
	for _, c := range s {
		n = 10*n + int(c-'0')
	}
	return n
}

// orderOfDays gives the order that the days of a column are in, where one of them tells;
// ask says that some can be read in two ways and none tells.
func (s *Sheet) orderOfDays(column int) (order string, ask bool) {
	for i := range s.Rows {
		if column >= len(s.Rows[i].Cells) {
			continue
		}
		text := strings.TrimSpace(s.Rows[i].Cells[column])
		m := figures.FindStringSubmatch(text)
		if m == nil || strings.Contains(text, ".") {
			continue
		}
		if order := orderOf(text, m); order != "" {
			return order, false
		}
		ask = ask || m[1] != m[2]
	}
	return "", ask
}
