package identify

import (
	"bufio"
	"encoding/json"
	"fmt"
	"io"

	"palethicket/core/record"
)

// Failure answers a record that could not be read.
type Failure struct {
	ID    string `json:"id"`
	Error string `json:"error"`
}

// Stream answers a document of records, {"records": […]}, with a document of
// results in the same order, one record in memory at a time. A record that
// cannot be read gets a [Failure]; failed counts them. A document that is not
// JSON of that shape is an error.
func (e *Engine) Stream(w io.Writer, r io.Reader, opt Options) (failed int, err error) {
	in := json.NewDecoder(bufio.NewReaderSize(r, 1<<16))
	out := bufio.NewWriterSize(w, 1<<16)
	if err := toRecords(in); err != nil {
		return 0, fmt.Errorf("reading the records: %w", err)
	}
	fmt.Fprint(out, `{"results": [`)
	for n := 0; in.More(); n++ {
		var raw json.RawMessage
		if err := in.Decode(&raw); err != nil {
			return failed, fmt.Errorf("reading record %d: %w", n+1, err)
		}
		res, ok := e.answer(raw, opt)
		if !ok {
			failed++
		}
		line, err := json.Marshal(res)
		if err != nil {
			return failed, fmt.Errorf("writing result %d: %w", n+1, err)
		}
		if n > 0 {
			out.WriteByte(',')
		}
		out.WriteByte('\n')
		out.Write(line)
	}
	fmt.Fprint(out, "\n]}\n")
	if err := out.Flush(); err != nil {
		return failed, fmt.Errorf("writing the results: %w", err)
	}
	return failed, nil
}

func (e *Engine) answer(raw json.RawMessage, opt Options) (any, bool) {
	var rec record.Record
	if err := json.Unmarshal(raw, &rec); err != nil {
		return Failure{rec.ID, fmt.Sprintf("the record does not have the format's shape: %v", err)}, false
	}
	res, err := e.Identify(&rec, opt)
	if err != nil {
		return Failure{rec.ID, err.Error()}, false
	}
	return res, true
}

// toRecords reads up to the first record of the document.
func toRecords(in *json.Decoder) error {
	if err := want(in, json.Delim('{')); err != nil {
		return err
	}
	for in.More() {
		key, err := in.Token()
		if err != nil {
			return err
		}
		if key == "records" {
			return want(in, json.Delim('['))
		}
		var skipped json.RawMessage
		if err := in.Decode(&skipped); err != nil {
			return err
		}
	}
	return fmt.Errorf(`the document has no "records"`)
}

func want(in *json.Decoder, d json.Delim) error {
	got, err := in.Token()
	if err != nil {
		return err
	}
	if got != d {
		return fmt.Errorf("found %v where %v should be", got, d)
	}
	return nil
}
