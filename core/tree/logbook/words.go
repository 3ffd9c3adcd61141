package logbook

import (
	"fmt"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/tree/record"
)

// Words says what an entry of the log added.
func (l *Log) Words(f *flora.Flora, e *Entry) string {
	switch e.Kind {
	case KindLook:
		return record.Froms.Words(e.From) + join(": ", e.Note)
	case KindScore:
		c := f.Character(e.Score.Character)
		if c == nil {
			return e.Score.Character + ": " + e.Score.Words(nil) + e.how()
		}
		return c.Name + ": " + e.Score.Words(c) + e.how()
	case KindNote:
		return "Note: " + e.Note
	case KindFacts:
		return e.Facts.Words(f) + e.how()
	case KindStart:
		return "Started as " + e.Start.Place.Words()
	case KindMove:
		return "Now " + e.Move.Words()
	case KindPhoto:
		return "Photograph" + join(": ", e.Photo.Caption)
	case KindMarks:
		return fmt.Sprintf(
			"Marked on a photograph: %d lengths, %d angles, %d counted",
			len(e.Marks.Lines),
			len(e.Marks.Bends),
			len(e.Marks.Tally),
		)
	case KindUndo:
		if taken := l.Find(e.Entry); taken != nil && taken.Kind != KindUndo {
			return "Undone: " + l.Words(f, taken)
		}
		return "Done again"
	case KindWithdraw:
		if taken := l.Find(e.Entry); taken != nil && taken.Kind != KindWithdraw {
			return "Taken back: " + l.Words(f, taken)
		}
		return "Taken back"
	}
	return e.Name.Words() + join(": ", e.Name.Why)
}

// how says how what was measured was come by.
func (e *Entry) how() string {
	if e.Measured == nil {
		return ""
	}
	return join("; ", e.Measured.Words())
}

// Words says where a tree is.
func (p *Place) Words() string { return fmt.Sprintf("%s in %s, %s", p.Tag, p.Stand, p.Tract) }

// Words says what a name that was given says.
func (n *Naming) Words() string {
	if n.Rank == Undetermined {
		return "Left undetermined"
	}
	switch n.Hedge {
	case Cf:
		return "Named probably " + n.Name
	case InDoubt:
		return "Named " + n.Name + ", in doubt"
	}
	return "Named " + n.Name
}

func join(sep, text string) string {
	if text == "" {
		return ""
	}
	return sep + text
}

// Words says which facts were set, and to what: a case for each fact, none within
// another, so that it is as long as there are facts.
func (p *SetFacts) Words(f *flora.Flora) string {
	var says []string
	add := func(words string) { says = append(says, words) }
	word := func(what string, value *string, terms record.Terms) {
		switch {
		case value == nil:
		case *value == "":
			add(what + "not judged")
		default:
			add(what + terms.Words(*value))
		}
	}
	word("age ", p.Age, record.Ages)
	word("", p.Snow, record.Snows)
	word("", p.Light, record.Lights)
	word("foliage ", p.Foliage, record.Foliages)
	word("vigour ", p.Vigour, record.Vigours)
	if p.Among != nil {
		add("among " + p.Among.Words(f))
	}
	if p.Beyond != nil && len(*p.Beyond) > 0 {
		var beyond []string
		for _, id := range *p.Beyond {
			beyond = append(beyond, strings.ToLower(record.Beyonds.Words(id)))
		}
		add("out of reach: " + strings.Join(beyond, ", "))
	}
	if p.Flat != nil && *p.Flat {
		add("every tree taken as equally common")
	}
	if p.Height != nil {
		add(fmt.Sprintf("height %.3g m", *p.Height))
	}
	if p.Position != nil {
		add(fmt.Sprintf("position %.5f, %.5f", p.Position.Lat, p.Position.Lon))
	}
	if p.Unplaced {
		add("position taken away")
	}
	if p.Remarks != nil {
		add("remarks: " + *p.Remarks)
	}
	if p.Aside != nil && *p.Aside {
		add("set aside as entered by mistake")
	} else if p.Aside != nil {
		add("taken back into the lists")
	}
	if len(says) == 0 {
		return "Nothing out of the ordinary"
	}
	return flora.UpperFirst(strings.Join(says, "; "))
}

// Words says which taxa a tree could be.
func (a Among) Words(f *flora.Flora) string {
	switch {
	case a.List != "":
		return a.List
	case a.Region != "":
		return f.RegionWords(a.Region)
	}
	return "what it was started with"
}
