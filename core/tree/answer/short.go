package answer

import (
	"encoding/json"
	"math"
	"strconv"

	"palethicket/core/weigh/ranking"
)

// appendShort writes the answer in the short form of docs/field-record.md: what
// was found, without the words that explain it. Chances have six figures.
func (a *answer) appendShort(b []byte, ranker *ranking.Ranker, opt Options) []byte {
	b = appendString(append(b, `{"id":`...), a.Record.ID)
	b = append(b, `,"ranking":[`...)
	for i, h := range a.verdict.Order() {
		b = append(comma(b, i), a.kit.named[h]...)
		b = append(appendNumber(b, a.verdict.Posterior[h]), '}')
	}
	b = appendName(append(b, `],"named":`...), a.named())
	b = appendName(append(b, `,"probably":`...), a.probably())
	b = append(b, `,"credible":[`...)
	for i, h := range a.verdict.Credible(ranking.CredibleLevel) {
		b = appendString(comma(b, i), a.name(h))
	}
	b = append(b, `],"looks":[`...)
	for i := range a.Record.Looks {
		b = append(appendNumber(append(comma(b, i), `{"belongs":`...), a.verdict.Belongs[i]), '}')
	}
	b = append(b, `],"check_again":[`...)
	for i, c := range a.checks(ranker.Flips(a.Looks)) {
		b = strconv.AppendInt(append(comma(b, i), `{"look":`...), int64(c.Look), 10)
		b = strconv.AppendInt(append(b, `,"score":`...), int64(c.Score), 10)
		b = appendString(append(b, `,"character":`...), c.Character)
		b = append(appendString(append(b, `,"leader":`...), c.Leader), '}')
	}
	b = appendNumber(append(b, `],"fit":`...), a.fit(opt.Draws))
	b = append(b, `,"next":[`...)
	for i, k := range a.candidates(a.verdict.Posterior, opt.Next) {
		c, _ := a.Pool.Character(k.char)
		b = appendString(append(comma(b, i), `{"character":`...), c.ID)
		b = appendNumber(append(b, `,"bits":`...), k.bits)
		b = append(strconv.AppendInt(append(b, `,"seconds":`...), int64(c.Seconds), 10), '}')
	}
	return append(b, "]}"...)
}

func appendName(b []byte, n Name) []byte {
	b = appendString(append(b, `{"rank":`...), string(n.Rank))
	b = appendString(append(b, `,"name":`...), n.Name)
	b = appendNumber(append(b, `,"posterior":`...), n.Posterior)
	return append(appendString(append(b, `,"words":`...), n.Words), '}')
}

func comma(b []byte, i int) []byte {
	if i > 0 {
		b = append(b, ',')
	}
	return b
}

// figures is how many figures a chance is written with.
const figures = 6

// powers[i] is 10^i, as far as chances go.
var powers = func() (p [lowest + figures + 1]float64) {
	for i := range p {
		p[i], _ = strconv.ParseFloat("1e"+strconv.Itoa(i), 64)
	}
	return p
}()

// lowest is the exponent, sign aside, of the smallest chance written here; what
// is smaller is left to strconv, which takes five times as long.
const lowest = 60

// pairs holds the numbers from 00 to 99, so that figures are written two at a time.
var pairs = func() string {
	var text []byte
	for i := range 100 {
		text = append(text, byte('0'+i/10), byte('0'+i%10))
	}
	return string(text)
}()

// appendNumber writes a chance, or some bits, as 1.23456e-05.
func appendNumber(b []byte, x float64) []byte {
	two := int(math.Float64bits(x)>>52&0x7ff) - 1022 // as [math.Frexp], for what is not tiny
	ten := ((two-1)*1233)>>12 + 1                    // log10(2) is nearly 1233/4096: one too many, or right
	if !(x > 0) || ten > 1 || ten < -lowest+1 {
		return strconv.AppendFloat(b, x, 'g', figures, 64)
	}
	digits := uint64(x*powers[figures-1-ten] + 0.5)
	if digits < 100_000 {
		ten--
		digits = uint64(x*powers[figures-1-ten] + 0.5)
	}
	if digits >= 1_000_000 {
		ten++
		digits /= 10
	}
	first, third, fifth := digits/10_000*2, digits/100%100*2, digits%100*2
	b = append(b, pairs[first], '.', pairs[first+1], pairs[third], pairs[third+1], pairs[fifth], pairs[fifth+1])
	if ten == 0 {
		return b
	}
	b = append(b, 'e')
	return strconv.AppendInt(b, int64(ten), 10)
}

// appendString writes a JSON string. Names of the flora need no escapes; what
// came with a record may.
func appendString(b []byte, s string) []byte {
	for i := range len(s) {
		if c := s[i]; c < ' ' || c == '"' || c == '\\' {
			quoted, _ := json.Marshal(s) // a string always can be
			return append(b, quoted...)
		}
	}
	return append(append(append(b, '"'), s...), '"')
}
