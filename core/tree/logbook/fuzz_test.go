package logbook_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/tree/logbook"
)

// FuzzLog makes a log of bytes, five to an entry, and hands it on in another order, with
// repeats, split over two books that meet: the same stands. What was undone twice is as
// what was undone once.
func FuzzLog(f *testing.F) {
	f.Add([]byte{0, 1, 0, 0, 0, 1, 2, 0, 0, 1, 3, 3, 2, 0, 0, 4, 4, 3, 0, 0}, uint64(7))
	f.Add([]byte{0, 9, 0, 0, 0, 1, 1, 1, 0, 0, 1, 1, 1, 0, 1, 3, 2, 1, 0, 0, 4, 3, 4, 0, 0, 4, 4, 4, 0, 0}, uint64(99))
	f.Fuzz(func(t *testing.T, bytes []byte, order uint64) {
		if len(bytes) > 200 {
			t.Skip()
		}
		l := logbook.NewLog([]logbook.Entry{start(0)})
		for n := 0; n+5 <= len(bytes); n += 5 {
			if e := made(l, uint64(n/5+1), bytes[n:n+5]); l.Refers(&e) == nil {
				l.Add(e)
			}
		}
		want := shown(&l.State)
		one, two := logbook.NewLog(nil), logbook.NewLog(nil)
		left := append([]logbook.Entry{}, l.Entries...)
		for len(left) > 0 {
			i := int(order % uint64(len(left)))
			order = order*6364136223846793005 + 1442695040888963407
			to := []*logbook.Log{one, two}[order>>63]
			to.Add(left[i])
			left = append(left[:i], left[i+1:]...)
		}
		told := append(append([]logbook.Entry{}, one.Entries...), two.Entries...)
		for _, to := range []*logbook.Log{one, two} {
			for _, e := range told {
				if to.Find(e.ID) == nil {
					to.Add(e)
				}
			}
		}
		require.Equal(t, want, shown(&one.State))
		require.Equal(t, want, shown(&two.State))
		for _, act := range l.Acts() {
			back := logbook.Entry{ID: id(900), Kind: logbook.KindUndo, By: act.By, Entry: act.Entry}
			if l.Fits(&back) != nil {
				continue
			}
			once := logbook.NewLog(append(append([]logbook.Entry{}, l.Entries...), back))
			again := back
			again.ID = id(901)
			require.ErrorContains(t, once.Fits(&again), "undone already")
			twice := logbook.NewLog(append(append([]logbook.Entry{}, once.Entries...), again))
			require.Equal(t, shown(&once.State), shown(&twice.State))
		}
	})
}

// made makes an entry of five bytes: its kind, time, what it refers to, what it says, who.
func made(l *logbook.Log, n uint64, b []byte) logbook.Entry {
	of := l.Entries[int(b[2])%len(l.Entries)].ID
	e := logbook.Entry{ID: id(n), By: []string{"Ada", "Ben"}[b[4]%2], Stamp: stampOf(int64(b[1]), "N")}
	switch b[0] % 8 {
	case 0:
		e.Kind, e.From = logbook.KindLook, "tree"
	case 1:
		s := coat([]string{"bare", "downy", "silky"}[b[3]%3])
		e.Kind, e.Look, e.Score = logbook.KindScore, of, &s
	case 2:
		e.Kind, e.Look, e.Note = logbook.KindNote, of, string(rune('a'+b[3]%5))
	case 3:
		e.Kind, e.Entry = logbook.KindWithdraw, of
	case 4:
		e.Kind, e.Entry = logbook.KindUndo, of
	case 5:
		e.Kind, e.Facts = logbook.KindFacts, &logbook.SetFacts{Age: ptr([]string{"", "young", "old"}[b[3]%3])}
	case 6:
		e.Kind, e.Move = logbook.KindMove, &logbook.Place{Tag: string(rune('A' + b[3]%5)), Tract: "T", Stand: "S"}
	case 7:
		e.Kind, e.Name = logbook.KindName, &logbook.Naming{Rank: "genus", Name: []string{"Acer", "Tilia"}[b[3]%2]}
	}
	return e
}
