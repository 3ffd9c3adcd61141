package exchange

import (
	"archive/zip"
	"bytes"
	"fmt"
	"io"
)

// Limits of archives, so that a small file cannot unpack to fill the machine.
const (
	maxUnzipped = 256 << 20
	maxEntries  = 200
	maxRatio    = 200
)

// checkZip refuses an archive that would unpack to too much, from what it says
// of itself; what it then unpacks to is bounded again by [unzip].
func checkZip(file []byte) error {
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
		if total > maxUnzipped {
			return fmt.Errorf("it unpacks to more than %d MB; nothing was unpacked", maxUnzipped>>20)
		}
		if f.UncompressedSize64 > 1<<20 && f.UncompressedSize64 > maxRatio*f.CompressedSize64 {
			return fmt.Errorf("%s in it unpacks to more than %d times its size; nothing was unpacked", f.Name, maxRatio)
		}
	}
	return nil
}

// unzip unpacks one file of an archive, and no more than is allowed.
func unzip(z *zip.Reader, name string) ([]byte, error) {
	f, err := z.Open(name)
	if err != nil {
		return nil, fmt.Errorf("there is no %s in it", name)
	}
	defer f.Close()
	text, err := io.ReadAll(io.LimitReader(f, maxUnzipped+1))
	if err != nil {
		return nil, fmt.Errorf("unpacking %s: %w", name, err)
	}
	if len(text) > maxUnzipped {
		return nil, fmt.Errorf("%s unpacks to more than %d MB", name, maxUnzipped>>20)
	}
	return text, nil
}
