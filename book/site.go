package book

import (
	"context"
	"errors"

	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/store"
)

// recent is how many of a stand's trees are asked, those that were worked at last first.
const recent = 8

// siteOfStand opens a look at the site with what was said of it at another tree of the stand:
// the ground is the same for all of them, and is judged once. Who is at this tree corrects it.
func (b *Book) siteOfStand(ctx context.Context, from store.Reader, s *sheet, by string) ([]logbook.Entry, error) {
	trees, err := from.LastOfStand(ctx, s.tree.Tract, s.tree.Stand, recent)
	if err != nil {
		return nil, err
	}
	for _, id := range trees {
		other, err := b.open(ctx, from, id)
		if errors.Is(err, store.ErrNoTree) {
			continue
		}
		if err != nil {
			return nil, err
		}
		scores := other.siteScores()
		tag := other.tree.Tag
		other.close()
		if len(scores) > 0 {
			return siteLook(scores, "As at "+tag+", in the same stand.", by), nil
		}
	}
	return nil, nil
}

// siteScores are what was scored last of each character of the site.
func (s *sheet) siteScores() (scores []record.Score) {
	at := map[string]int{}
	for _, l := range s.log.Looks {
		for _, sc := range l.Scores {
			c := s.flora.Character(sc.Character)
			if c == nil || c.Section != "setting" {
				continue
			}
			if i, ok := at[sc.Character]; ok {
				scores[i] = sc.Score
				continue
			}
			at[sc.Character] = len(scores)
			scores = append(scores, sc.Score)
		}
	}
	return scores
}

func siteLook(scores []record.Score, note, by string) []logbook.Entry {
	look := logbook.Entry{ID: newID(), Kind: logbook.KindLook, By: by, From: "site", Note: note}
	out := []logbook.Entry{look}
	for i := range scores {
		out = append(out, logbook.Entry{ID: newID(), Kind: logbook.KindScore, By: by, Look: look.ID, Score: &scores[i]})
	}
	return out
}
