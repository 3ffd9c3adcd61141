// Package record reads the field record: what was looked at on one leafless
// tree, as people write it down. [Resolve] checks a record against a flora and
// turns it into the looks that the evidence model weighs. The format is
// described in docs/field-record.md.
//
//	record.go       the record as people write it
//	parse.go        a fast reader of plain records, beside encoding/json
//	resolve.go      a record as looks to be weighed
//	terms.go        the words a record may use; words.go what is said of a score
package record
