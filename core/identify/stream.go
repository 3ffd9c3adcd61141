package identify

import (
	"bufio"
	"encoding/json"
	"fmt"
	"io"
	"runtime"

	"palethicket/core/record"
)

// Failure answers a record that could not be read.
type Failure struct {
	ID    string `json:"id"`
	Error string `json:"error"`
}

// Stream answers a document of records, {"records": […]}, with a document of
// results in the same order. Records are answered by as many goroutines as
// there are processors, a few at a time, so memory does not grow with the
// document. A record that cannot be read gets a [Failure]; failed counts them.
// A document that is not JSON of that shape is an error.
func (e *Engine) Stream(w io.Writer, r io.Reader, opt Options) (failed int, err error) {
	in := json.NewDecoder(bufio.NewReaderSize(r, 1<<16))
	if err := toRecords(in); err != nil {
		return 0, fmt.Errorf("reading the records: %w", err)
	}
	out := bufio.NewWriterSize(w, 1<<16)
	queue := make(chan chan line, 4*runtime.GOMAXPROCS(0)) // in the order of the records
	stop := make(chan struct{})
	defer close(stop)
	var readErr error
	go func() {
		readErr = e.feed(in, queue, stop, opt)
		close(queue)
	}()
	fmt.Fprint(out, `{"results": [`)
	comma := ""
	for answer := range queue {
		l := <-answer
		if l.err != nil {
			return failed, fmt.Errorf("writing a result: %w", l.err)
		}
		if l.failed {
			failed++
		}
		fmt.Fprintf(out, "%s\n%s", comma, l.text)
		comma = ","
	}
	if readErr != nil {
		return failed, readErr
	}
	fmt.Fprint(out, "\n]}\n")
	if err := out.Flush(); err != nil {
		return failed, fmt.Errorf("writing the results: %w", err)
	}
	return failed, nil
}

// line is a result written as JSON.
type line struct {
	text   []byte
	failed bool
	err    error
}

// feed reads the records, starts answering each, and queues the answers.
func (e *Engine) feed(in *json.Decoder, queue chan<- chan line, stop <-chan struct{}, opt Options) error {
	working := make(chan struct{}, runtime.GOMAXPROCS(0))
	for n := 1; in.More(); n++ {
		var raw json.RawMessage
		if err := in.Decode(&raw); err != nil {
			return fmt.Errorf("reading record %d: %w", n, err)
		}
		answer := make(chan line, 1)
		select {
		case queue <- answer:
		case <-stop:
			return nil
		}
		working <- struct{}{}
		go func() {
			defer func() { <-working }()
			res, ok := e.answer(raw, opt)
			text, err := json.Marshal(res)
			answer <- line{text, !ok, err}
		}()
	}
	if _, err := in.Token(); err != nil {
		return fmt.Errorf("reading the records: %w", err)
	}
	return nil
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
