// Package photo checks photographs that come with a look, reads from them when
// and where they were taken, and makes thumbnails.
package photo

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	_ "image/png" // read as JPEG is
	"io"
	"math"
	"slices"
	"time"

	"github.com/bep/imagemeta"
	"golang.org/x/image/draw"
)

// Limits of photographs.
const (
	MaxBytes  = 20 << 20
	maxPixels = 80_000_000
	// maxUnpacked is how many bytes its pixels may take in memory: a PNG of half a megabyte can hold gigabytes.
	maxUnpacked = 240 << 20
	// thumbSide is the longer side of a thumbnail, in pixels.
	thumbSide    = 480
	thumbQuality = 82
)

// Photo is what is known of a photograph.
type Photo struct {
	Kind          string // image/jpeg or image/png
	Width, Height int    // pixels, the right way up
	Taken         time.Time
	Position      *[2]float64 // longitude, latitude in degrees of WGS 84; nil: not known
	Thumb         []byte      // JPEG
}

// Refused says why a file is not taken as a photograph.
type Refused struct{ Why string }

func (r *Refused) Error() string { return r.Why }

// Read checks a photograph and reads it. The day and the position are read only if
// they may be; a file that carries neither is none the worse. A file that is not
// a JPEG or PNG, or that is too large, gives [*Refused].
func Read(file io.ReadSeeker, readPosition bool) (*Photo, error) {
	kind, err := begin(file)
	if err != nil {
		return nil, err
	}
	size, _, err := image.DecodeConfig(file)
	if err != nil {
		return nil, &Refused{"the photograph is damaged and cannot be read"}
	}
	if each := bytesOf(size.ColorModel); size.Width*size.Height*each > maxUnpacked {
		return nil, &Refused{
			fmt.Sprintf("the photograph has %d × %d pixels of %d bytes; save it smaller, or as JPEG", size.Width, size.Height, each),
		}
	}
	if size.Width*size.Height > maxPixels {
		return nil, &Refused{
			fmt.Sprintf("the photograph has %d × %d pixels; at most %d million are read", size.Width, size.Height, maxPixels/1_000_000),
		}
	}
	p := &Photo{Kind: kind, Width: size.Width, Height: size.Height}
	if err := rewind(file); err != nil {
		return nil, err
	}
	turn := p.exif(file, readPosition)
	if err := rewind(file); err != nil {
		return nil, err
	}
	full, _, err := image.Decode(file)
	if err != nil {
		return nil, &Refused{"the photograph is cut short or damaged and cannot be read"}
	}
	small := upright(shrink(full), turn)
	if turn >= 5 { // turned by a quarter
		p.Width, p.Height = p.Height, p.Width
	}
	var out bytes.Buffer
	if err := jpeg.Encode(&out, small, &jpeg.Options{Quality: thumbQuality}); err != nil {
		return nil, fmt.Errorf("making a thumbnail: %w", err)
	}
	p.Thumb = out.Bytes()
	return p, nil
}

// bytesOf is how many bytes a pixel takes once it is unpacked.
func bytesOf(m color.Model) int {
	switch m {
	case color.GrayModel:
		return 1
	case color.Gray16Model:
		return 2
	case color.YCbCrModel:
		return 3
	case color.RGBA64Model, color.NRGBA64Model:
		return 8
	}
	if _, palette := m.(color.Palette); palette {
		return 1
	}
	return 4
}

// begin tells the kind of a file that is not too large, and leaves it at its start.
func begin(file io.ReadSeeker) (kind string, err error) {
	size, err := file.Seek(0, io.SeekEnd)
	if err != nil {
		return "", fmt.Errorf("reading a photograph: %w", err)
	}
	if size > MaxBytes {
		return "", &Refused{fmt.Sprintf("the photograph is larger than %d MB; make it smaller", MaxBytes>>20)}
	}
	if err := rewind(file); err != nil {
		return "", err
	}
	var head [16]byte
	n, err := io.ReadFull(file, head[:])
	if err != nil && !errors.Is(err, io.EOF) && !errors.Is(err, io.ErrUnexpectedEOF) {
		return "", fmt.Errorf("reading a photograph: %w", err)
	}
	if kind, err = kindOf(head[:n]); err != nil {
		return "", err
	}
	return kind, rewind(file)
}

func rewind(file io.Seeker) error {
	if _, err := file.Seek(0, io.SeekStart); err != nil {
		return fmt.Errorf("reading a photograph: %w", err)
	}
	return nil
}

// kindOf tells by what the file begins with, whatever it is called.
func kindOf(head []byte) (string, error) {
	switch {
	case bytes.HasPrefix(head, []byte("\xff\xd8\xff")):
		return "image/jpeg", nil
	case bytes.HasPrefix(head, []byte("\x89PNG\r\n\x1a\n")):
		return "image/png", nil
	case len(head) > 12 && string(head[4:8]) == "ftyp" && slices.Contains([]string{"he", "mi", "ms"}, string(head[8:10])):
		return "", &Refused{
			"this is a HEIC photograph, which cannot be shown here; set the camera to JPEG (often called most compatible), or save it as JPEG",
		}
	}
	return "", &Refused{"this is not a photograph in JPEG or PNG"}
}

// exif reads what the camera wrote, and gives which way up the picture is: EXIF's
// orientation, 1 to 8.
func (p *Photo) exif(file io.ReadSeeker, readPosition bool) int {
	var tags imagemeta.Tags
	format := imagemeta.JPEG
	if p.Kind == "image/png" {
		format = imagemeta.PNG
	}
	_, err := imagemeta.Decode(imagemeta.Options{R: file, ImageFormat: format, Sources: imagemeta.EXIF,
		ShouldHandleTag: func(imagemeta.TagInfo) bool { return true },
		HandleTag:       func(t imagemeta.TagInfo) error { tags.Add(t); return nil }, Timeout: 5 * time.Second})
	if err != nil && !errors.Is(err, imagemeta.ErrStopWalking) {
		return 1 // what the camera wrote is damaged; the picture is not
	}
	if readPosition {
		p.readPlace(&tags)
	}
	if t, ok := tags.EXIF()["Orientation"]; ok {
		if turn, ok := t.Value.(uint16); ok && turn >= 1 && turn <= 8 {
			return int(turn)
		}
	}
	return 1
}

// readPlace takes over when and where the camera says it was, if it can have been.
func (p *Photo) readPlace(tags *imagemeta.Tags) {
	if taken, err := tags.GetDateTime(); err == nil && taken.Year() > 1970 {
		p.Taken = taken
	}
	lat, lon, err := tags.GetLatLong()
	if err == nil && (lat != 0 || lon != 0) && math.Abs(lat) <= 90 && math.Abs(lon) <= 180 {
		p.Position = &[2]float64{lon, lat}
	}
}

func shrink(full image.Image) image.Image {
	b := full.Bounds()
	scale := float64(thumbSide) / float64(max(b.Dx(), b.Dy()))
	if scale >= 1 {
		return full
	}
	small := image.NewRGBA(image.Rect(0, 0, max(1, int(float64(b.Dx())*scale)), max(1, int(float64(b.Dy())*scale))))
	draw.ApproxBiLinear.Scale(small, small.Bounds(), full, b, draw.Src, nil)
	return small
}

// upright turns and mirrors a picture as EXIF's orientation says (EXIF 2.32,
// 4.6.4, tag 274).
func upright(img image.Image, turn int) image.Image {
	if turn == 1 {
		return img
	}
	b := img.Bounds()
	w, h := b.Dx(), b.Dy()
	size := image.Rect(0, 0, w, h)
	if turn >= 5 {
		size = image.Rect(0, 0, h, w)
	}
	out := image.NewRGBA(size)
	for y := range h {
		for x := range w {
			to := [...]image.Point{2: {w - 1 - x, y}, 3: {w - 1 - x, h - 1 - y}, 4: {x, h - 1 - y},
				5: {y, x}, 6: {h - 1 - y, x}, 7: {h - 1 - y, w - 1 - x}, 8: {y, w - 1 - x}}[turn]
			out.Set(to.X, to.Y, img.At(b.Min.X+x, b.Min.Y+y))
		}
	}
	return out
}
