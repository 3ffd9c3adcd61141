package exchange

import (
	"archive/zip"
	"bytes"
	"fmt"
	"io"
)

// Limits of archives, so that a small file cannot unpack to fill the machine.
const (
	maxUnzipped = 256 << 20 // of an archive, whose tables are read as they unpack
	maxWorkbook = 96 << 20  // of a workbook
	maxEntries  = 200
	maxRatio    = 200
	maxMeta     = 1 << 20 // of what describes an archive
)

// checkZip refuses an archive that would unpack to more than most bytes, from what it
// says of itself; what it then unpacks to is bounded again by [unzip].
func checkZip(file []byte, most uint64) error {
	z, err := zip.NewReader(bytes.NewReader(file), int64(len(file)))
	if err != nil {
		return fmt.Errorf("it is not a whole archive: %w", err)
	}
	if len(z.File) > maxEntries {
		return fmt.Errorf("it holds %d files; at most %d are read", len(z.File), maxEntries)
	}
	total := uint64(0)
	for _, f := range z.File {
		total += f.UncompressedSize64
		if total > most {
			return tooMuch("it unpacks to more than %d MB; nothing was unpacked", most>>20)
		}
		if f.UncompressedSize64 > 1<<20 && f.UncompressedSize64 > maxRatio*f.CompressedSize64 {
			return fmt.Errorf("%s in it unpacks to more than %d times its size; nothing was unpacked", f.Name, maxRatio)
		}
	}
	return nil
}

// unzip opens a file of an archive, of which no more than most bytes are handed on.
func unzip(z *zip.Reader, name string, most int64) (io.ReadCloser, error) {
	f, err := z.Open(name)
	if err != nil {
		return nil, fmt.Errorf("there is no %s in it", name)
	}
	return &bounded{f, name, most}, nil
}

// bounded reads a file until it is longer than it may be.
type bounded struct {
	io.ReadCloser
	name string
	left int64
}

func (b *bounded) Read(p []byte) (int, error) {
	n, err := b.ReadCloser.Read(p)
	if b.left -= int64(n); b.left < 0 {
		return 0, tooMuch("%s unpacks to more than it may", b.name)
	}
	return n, err
}
