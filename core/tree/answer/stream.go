package answer

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"runtime"
	"sync"

	"palethicket/core/tree/record"
)

// Failure answers a record that could not be read.
type Failure struct {
	ID    string `json:"id"`
	Error string `json:"error"`
}

// Stream answers a document of records, {"records": […]}, with a document of
// results in the same order. Records are answered by as many goroutines as
// there are processors, a batch at a time, so memory does not grow with the
// document. A record that cannot be read gets a [Failure]; failed counts them.
// A document that is not JSON of that shape is an error.
//
// With opt.Explain each result is a whole [Result]; without, it is the short
// form of docs/field-record.md. progress, which may be nil, hears how many are
// done.
func (e *Engine) Stream(ctx context.Context, w io.Writer, r io.Reader, opt Options, progress func(done int)) (failed int, err error) {
	ctx, stop := context.WithCancel(ctx)
	defer stop()
	queue := make(chan chan batch, waiting) // in the order of the records
	var readErr error
	go func() {
		readErr = e.feed(ctx, r, queue, opt)
		close(queue)
	}()
	out := bufio.NewWriterSize(w, 1<<16)
	fmt.Fprint(out, `{"results": [`)
	done, comma := 0, "\n"
	for answers := range queue {
		b := <-answers
		if b.err != nil {
			return failed, fmt.Errorf("writing a result: %w", b.err)
		}
		fmt.Fprint(out, comma)
		if _, err := out.Write(b.results); err != nil {
			return failed, fmt.Errorf("writing the results: %w", err)
		}
		buffers.Put(&b.results)
		comma = ",\n"
		failed, done = failed+b.failed, done+b.records
		if progress != nil {
			progress(done)
		}
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

// batch is some records answered, as JSON between commas.
type batch struct {
	results         []byte
	records, failed int
	err             error
}

// waiting is how many batches may be answered before they are written, so that a
// disk that stops for breath does not stop the work.
const waiting = 64

// batchBytes is how much of the document is answered in one go.
const batchBytes = 1 << 16

// feed cuts the document into records, starts answering each batch of them, and
// queues the answers.
func (e *Engine) feed(ctx context.Context, r io.Reader, queue chan<- chan batch, opt Options) error {
	cut, err := newCutter(r)
	if err != nil {
		return err
	}
	working := make(chan struct{}, runtime.GOMAXPROCS(0))
	for {
		records, err := cut.next(batchBytes)
		if err != nil {
			return err
		}
		if len(records) == 0 {
			return nil
		}
		answers := make(chan batch, 1)
		select {
		case queue <- answers:
		case <-ctx.Done():
			return fmt.Errorf("stopped: %w", ctx.Err())
		}
		working <- struct{}{}
		go func() {
			defer func() { <-working }()
			answers <- e.answerAll(records, opt)
		}()
	}
}

// buffers are results that were written, to be used again.
var buffers = sync.Pool{New: func() any { return new([]byte) }}

func (e *Engine) answerAll(records [][]byte, opt Options) batch {
	b := batch{records: len(records), results: (*buffers.Get().(*[]byte))[:0]}
	var parser record.Parser
	for i, raw := range records {
		if i > 0 {
			b.results = append(b.results, ",\n"...)
		}
		var err error
		if b.results, err = e.answer(b.results, raw, &parser, opt); err != nil {
			b.failed++
			text, err := json.Marshal(Failure{idOf(raw), err.Error()})
			if err != nil {
				b.err = err
				return b
			}
			b.results = append(b.results, text...)
		}
	}
	return b
}

// answer writes the answer to a record after to.
func (e *Engine) answer(to, raw []byte, parser *record.Parser, opt Options) ([]byte, error) {
	var rec record.Record
	if err := parser.Parse(raw, &rec); err != nil {
		return to, err
	}
	if opt.Explain {
		res, err := e.Identify(&rec, opt)
		if err != nil {
			return to, err
		}
		text, err := json.Marshal(res)
		return append(to, text...), err
	}
	w, err := e.Weigh(&rec)
	if err != nil {
		return to, err
	}
	defer w.Close()
	return w.appendShort(to, w.ranker, opt), nil
}

// idOf reads the id of a record that may be otherwise unreadable.
func idOf(raw []byte) string {
	var rec struct {
		ID string `json:"id"`
	}
	if err := json.Unmarshal(raw, &rec); err != nil {
		var wrong *json.UnmarshalTypeError
		if !errors.As(err, &wrong) {
			return ""
		}
	}
	return rec.ID
}

// cutter cuts the array of records into its elements without reading them.
type cutter struct {
	in   *bufio.Reader
	n    int // records cut so far
	done bool
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

// newCutter reads up to the first record of the document.
func newCutter(r io.Reader) (*cutter, error) {
	in := bufio.NewReaderSize(r, batchBytes)
	head := json.NewDecoder(in)
	if err := toRecords(head); err != nil {
		return nil, fmt.Errorf("reading the records: %w", err)
	}
	rest := io.MultiReader(head.Buffered(), in) // the decoder reads ahead
	return &cutter{in: bufio.NewReaderSize(rest, batchBytes)}, nil
}

// next cuts whole records off, about as many bytes as asked for; none are left
// where it gives none.
func (c *cutter) next(atLeast int) (records [][]byte, err error) {
	all := make([]byte, 0, atLeast+atLeast/4) // records follow each other in it
	for start := 0; !c.done && start < atLeast; start = len(all) {
		first, err := c.firstByte()
		if err != nil {
			return nil, err
		}
		switch {
		case first == ']':
			c.done = true
			return records, nil
		case first == ',' && c.n > 0:
			continue
		case first != '{':
			return nil, fmt.Errorf("reading record %d: found %q where a record should begin", c.n+1, first)
		}
		if all, err = c.object(append(all, '{')); err != nil {
			return nil, fmt.Errorf("reading record %d: %w", c.n+1, err)
		}
		c.n++
		records = append(records, all[start:len(all):len(all)])
	}
	return records, nil
}

// firstByte passes over white space.
func (c *cutter) firstByte() (byte, error) {
	for {
		b, err := c.in.ReadByte()
		if err != nil {
			return 0, fmt.Errorf("reading the records: the document ends within them: %w", unexpected(err))
		}
		if bytes.IndexByte([]byte(" \t\r\n"), b) < 0 {
			return b, nil
		}
	}
}

// object reads to the brace that closes the one just read, and adds it to raw.
// Braces in strings do not count.
func (c *cutter) object(raw []byte) ([]byte, error) {
	depth, inString, escaped := 1, false, -1 // escaped is where a byte stands behind a backslash
	for {
		if _, err := c.in.Peek(1); err != nil {
			return nil, unexpected(err)
		}
		chunk, _ := c.in.Peek(c.in.Buffered())
		for i, b := range chunk {
			switch {
			case !telling[b] || i == escaped:
				continue
			case b == '"':
				inString = !inString
			case inString && b == '\\':
				escaped = i + 1
			case inString:
			case b == '{':
				depth++
			case b == '}':
				depth--
			}
			if depth == 0 {
				chunk = chunk[:i+1]
				break
			}
		}
		raw = append(raw, chunk...)
		if _, err := c.in.Discard(len(chunk)); err != nil || depth == 0 {
			return raw, err
		}
		escaped -= len(chunk)
	}
}

// telling are the bytes that say where an object ends.
var telling = [256]bool{'"': true, '\\': true, '{': true, '}': true}

func unexpected(err error) error {
	if errors.Is(err, io.EOF) {
		return io.ErrUnexpectedEOF
	}
	return err
}
