package main

import (
	"errors"
	"fmt"
	"io"
	"os"
)

// stdio is the name of standard input and output.
const stdio = "-"

// reading opens a file, or standard input.
func reading(path string) (io.ReadCloser, error) {
	if path == stdio {
		return io.NopCloser(os.Stdin), nil
	}
	file, err := os.Open(path)
	if err != nil {
		return nil, fmt.Errorf("reading %s: %w", path, err)
	}
	return file, nil
}

// readFile reads a file, or standard input, of at most so many bytes and one more, by which who
// reads sees that it is too long.
func readFile(path string, most int64) ([]byte, error) {
	in, err := reading(path)
	if err != nil {
		return nil, err
	}
	defer in.Close()
	text, err := io.ReadAll(io.LimitReader(in, most+1))
	if err != nil {
		return nil, fmt.Errorf("reading %s: %w", path, err)
	}
	return text, nil
}

// writeFile writes a file, or to standard output. Of a file that cannot be written whole
// nothing stays.
func writeFile(path string, write func(io.Writer) error) error {
	return writeTo(path, os.O_CREATE|os.O_TRUNC|os.O_WRONLY, write)
}

// writeNew is writeFile for a file that must not be there yet.
func writeNew(path string, write func(io.Writer) error) error {
	return writeTo(path, os.O_CREATE|os.O_EXCL|os.O_WRONLY, write)
}

func writeTo(path string, how int, write func(io.Writer) error) error {
	if path == stdio {
		return write(os.Stdout)
	}
	out, err := os.OpenFile(path, how, 0o644)
	if errors.Is(err, os.ErrExist) {
		return fmt.Errorf("%s is there already: choose another name, or move it away", path)
	}
	if err != nil {
		return fmt.Errorf("making %s: %w", path, err)
	}
	info, err := out.Stat()
	if err != nil {
		return errors.Join(err, out.Close())
	}
	if err = errors.Join(write(out), out.Close()); err != nil && info.Mode().IsRegular() { // a device stays
		return errors.Join(err, os.Remove(path))
	}
	return err
}

// bytesTo writes what is made already.
func bytesTo(text []byte) func(io.Writer) error {
	return func(out io.Writer) error {
		_, err := out.Write(text)
		return err
	}
}
