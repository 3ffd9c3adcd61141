package photo_test

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/jpeg"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/foreign"
	"palethicket/core/tree/photo"
)

func fixture(t testing.TB, name string) []byte {
	t.Helper()
	file, err := os.ReadFile(filepath.Join("testdata", name))
	require.NoError(t, err)
	return file
}

func thumb(t *testing.T, p *photo.Photo) image.Image {
	t.Helper()
	img, err := jpeg.Decode(bytes.NewReader(p.Thumb))
	require.NoError(t, err)
	return img
}

// TestDayAndPlace reads what exiftool wrote, and only when it may.
func TestDayAndPlace(t *testing.T) {
	p, err := photo.Read(bytes.NewReader(fixture(t, "turned.jpg")), true)
	require.NoError(t, err)
	require.Equal(t, "2026-11-17 09:41", p.Taken.Format("2006-01-02 15:04"))
	require.InDelta(t, 43.5612, p.Position[1], 1e-6)
	require.InDelta(t, -90.6381, p.Position[0], 1e-6, "west")
	p, err = photo.Read(bytes.NewReader(fixture(t, "turned.jpg")), false)
	require.NoError(t, err)
	require.Nil(t, p.Position)
	require.True(t, p.Taken.IsZero())
	p, err = photo.Read(bytes.NewReader(fixture(t, "plain.png")), true)
	require.NoError(t, err)
	require.Nil(t, p.Position, "a file that says nothing is none the worse")
}

// TestRightWayUp: the camera was held on its side; the red corner of the top left
// comes to the top right.
func TestRightWayUp(t *testing.T) {
	p, err := photo.Read(bytes.NewReader(fixture(t, "turned.jpg")), false)
	require.NoError(t, err)
	require.Equal(t, []int{400, 600}, []int{p.Width, p.Height})
	img := thumb(t, p)
	require.Equal(t, image.Pt(320, 480), img.Bounds().Size())
	red := func(x, y int) bool {
		r, g, _, _ := img.At(x, y).RGBA()
		return r > 2*g
	}
	require.True(t, red(300, 20))
	require.False(t, red(20, 20))
	require.False(t, red(300, 460))
	plain, err := photo.Read(bytes.NewReader(fixture(t, "plain.png")), false)
	require.NoError(t, err)
	require.Equal(t, image.Pt(480, 320), thumb(t, plain).Bounds().Size())
}

// bomb is a PNG that says it has far more pixels than it has bytes, of a colour type (PNG, 11.2.1).
func bomb(side uint32, depth, kind byte) []byte {
	head := []byte("\x00\x00\x00\x0dIHDR")
	head = binary.BigEndian.AppendUint32(head, side)
	head = binary.BigEndian.AppendUint32(head, side)
	head = append(head, depth, kind, 0, 0, 0)
	head = binary.BigEndian.AppendUint32(head, crc32.ChecksumIEEE(head[4:]))
	return append([]byte("\x89PNG\r\n\x1a\n"), head...)
}

func TestRefused(t *testing.T) {
	for name, c := range map[string]struct {
		file []byte
		says string
	}{
		"HEIC":      {[]byte("\x00\x00\x00\x18ftypheic\x00\x00\x00\x00"), "set the camera to JPEG"},
		"text":      {[]byte("<svg onload=alert(1)>"), "not a photograph"},
		"empty":     {nil, "not a photograph"},
		"cut short": {fixture(t, "cut-short.jpg"), "damaged"},
		"bomb":      {bomb(60_000, 8, 2), "pixels of 4 bytes"},
		"grey bomb": {bomb(9500, 8, 0), "million"},
		"deep bomb": {bomb(6000, 16, 6), "pixels of 8 bytes"},
		"too large": {append(fixture(t, "turned.jpg"), bytes.Repeat([]byte{0}, photo.MaxBytes)...), "larger than 20 MB"},
	} {
		_, err := photo.Read(bytes.NewReader(c.file), true)
		var refused *photo.Refused
		require.ErrorAs(t, err, &refused, name)
		require.True(t, strings.Contains(refused.Why, c.says), "%s: %s", name, refused.Why)
	}
}

// tiny is a photograph of a few pixels that says when and where it was taken, as
// turned.jpg does.
func tiny(t testing.TB) []byte {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, jpeg.Encode(&out, image.NewGray(image.Rect(0, 0, 8, 8)), nil))
	from := fixture(t, "turned.jpg")
	at := bytes.Index(from, []byte("\xff\xe1"))
	require.Positive(t, at)
	size := int(binary.BigEndian.Uint16(from[at+2:]))
	return slices.Concat(out.Bytes()[:2], from[at:at+2+size], out.Bytes()[2:])
}

// TestADamagedDate: a date that is written as a number breaks the reader of tags; it is
// told as a file that cannot be read.
func TestADamagedDate(t *testing.T) {
	file := tiny(t)
	p, err := photo.Read(bytes.NewReader(file), true)
	require.NoError(t, err)
	require.Equal(t, 2026, p.Taken.Year())
	at := bytes.Index(file, []byte("\x90\x03\x00\x02"))
	require.Positive(t, at)
	file[at+3] = 3 // SHORT instead of ASCII
	_, err = foreign.Read("the photograph", func() (*photo.Photo, error) { return photo.Read(bytes.NewReader(file), true) })
	var damaged *foreign.Damaged
	require.ErrorAs(t, err, &damaged)
}

// FuzzRead takes pictures of a few pixels, so that it looks at many.
func FuzzRead(f *testing.F) {
	f.Add(tiny(f))
	f.Add(bomb(60_000, 8, 2))
	f.Add(tiny(f)[:300])
	f.Fuzz(func(t *testing.T, file []byte) {
		if size, _, err := image.DecodeConfig(bytes.NewReader(file)); err == nil && size.Width*size.Height > 64*64 {
			t.Skip()
		}
		p, err := foreign.Read("it", func() (*photo.Photo, error) { return photo.Read(bytes.NewReader(file), true) })
		require.True(t, (p == nil) != (err == nil))
	})
}
