package book

import (
	"context"
	"encoding/json"
	"fmt"

	"palethicket/core/tree/logbook"
)

// Changes are entries that a book got.
type Changes struct {
	Book    string `json:"book" doc:"Which book it is"`
	Version int    `json:"version" doc:"Shape of the entries"`
	Entries []Sent `json:"entries"`
	Last    int    `json:"last" doc:"The running number to ask after next"`
	LastID  string `json:"last_id" doc:"Id of the entry of that number, to be sent along"`
	More    bool   `json:"more" doc:"There are more already"`
	Lost    bool   `json:"lost,omitempty" doc:"It is an older copy, without the entry heard last: ask from the start, and tell it again"`
}

// Changes tells what the book got after its running number, of some tracts or of all.
// heard is the id of the entry of that number, if known: where another has it, the book
// is an older copy of the one that was asked before.
func (b *Book) Changes(ctx context.Context, after int, heard string, tracts []string) (*Changes, error) {
	if heard != "" {
		holds, err := b.store.Holds(ctx, after, heard)
		if err != nil || !holds {
			return &Changes{Book: b.id, Version: LogVersion, Entries: []Sent{}, Lost: !holds}, err
		}
	}
	changes, last, err := b.store.Changes(ctx, after, tracts, ChangesMost)
	if err != nil {
		return nil, err
	}
	out := &Changes{Book: b.id, Version: LogVersion, Entries: make([]Sent, len(changes)), Last: last, More: len(changes) == ChangesMost}
	for i, c := range changes {
		text, err := json.Marshal(c.Entry)
		if err != nil {
			return nil, fmt.Errorf("writing entry %d: %w", c.Seq, err)
		}
		out.Entries[i], out.LastID = Sent{c.Tree, text}, c.Entry.ID
	}
	return out, nil
}

// TreeChanges tells a whole tree, with the visits that it was looked at on, as a book asks
// that hears of one it does not have.
func (b *Book) TreeChanges(ctx context.Context, tree string) (*Changes, error) {
	_, log, err := b.store.Log(ctx, tree)
	if err != nil {
		return nil, err
	}
	out := &Changes{Book: b.id, Version: LogVersion, Entries: []Sent{}}
	tell := func(tree string, log []logbook.Entry) error {
		for i := range log {
			text, err := json.Marshal(log[i])
			if err != nil {
				return fmt.Errorf("writing entry %s: %w", log[i].ID, err)
			}
			out.Entries = append(out.Entries, Sent{tree, text})
		}
		return nil
	}
	told := map[string]bool{"": true}
	for i := range log {
		if told[log[i].Visit] {
			continue
		}
		told[log[i].Visit] = true
		visit, err := b.store.About(ctx, (&logbook.Entry{Kind: logbook.KindVisit, Walk: &logbook.Visit{ID: log[i].Visit}}).About())
		if err == nil {
			err = tell("", visit)
		}
		if err != nil {
			return nil, err
		}
	}
	return out, tell(tree, log)
}
