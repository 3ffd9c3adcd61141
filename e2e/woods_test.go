package e2e

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/core/tree/answer"
)

// TestADayInTheWoods takes a tract along, and names, starts and photographs trees where
// there is no signal, through a closed and opened tab; at home all of it is there, once.
func TestADayInTheWoods(t *testing.T) {
	t.Parallel()
	a, folder := preparedDevice(t)
	p, kill := newDevice(t, a, folder, phoneWidth, phoneHeight)
	a.stop() // the server is really gone
	p.open("/")
	p.patient(opening).sees("60 of 400 trees")

	var named []string
	for _, l := range treesOf(t, p.asked("/api/trees?status=ready&limit=2")) {
		named = append(named, l.ID)
		p.follow("/trees/" + l.ID)
		p.patient(opening).until(`document.querySelector('[data-work]') !== null`)
		p.press("[data-leader]")
		p.press("#write-name")
		p.press("#keep-name")
		p.patient(opening).until(`document.querySelector('section[aria-label="Name written down"] ol') !== null`)
		p.patient(opening).until(allSent)
	}
	for _, l := range treesOf(t, p.asked("/api/trees?status=open&limit=30")) {
		if l.Leader == answer.Unlisted || len(named) == 10 {
			continue
		}
		named = append(named, l.ID)
		body := fmt.Sprintf(`{"id": %q, "kind": "name", "name": {"rank": "species", "name": %q}}`, newULID(), l.Leader)
		require.Contains(t, p.asks("POST", "/api/trees/"+l.ID+"/entries", body), `"names":[{`)
	}
	require.Len(t, named, 10)
	for _, tag := range []string{"LC-9001", "LC-9002"} {
		body := fmt.Sprintf(`{"id": %q, "tag": %q, "tract": "Lantern Creek watershed forest", "stand": "Upper slope"}`, newULID(), tag)
		require.Contains(t, p.asks("POST", "/api/trees", body), tag)
	}
	p.follow("/files")
	require.Contains(t, p.saved(`[data-format="csv"]`), "LC-9001", "the device's own file, with what home does not have")
	p.press(`[data-format="xlsx"]`)
	p.patient(opening).sees("use CSV or GeoJSON here")

	img := filepath.Join(t.TempDir(), "bark.jpg")
	require.NoError(t, os.WriteFile(img, picture(t), 0o600))
	p.follow("/trees/" + named[0] + "/story")
	p.patient(opening).until(`document.querySelector('summary') !== null`)
	p.press("summary")
	p.upload("[data-photo]", img)
	p.patient(opening).until(`[...document.querySelectorAll('details img')].some((i) => i.naturalWidth === 480)`)

	kill()
	p, _ = newDevice(t, a, folder, phoneWidth, phoneHeight)
	p.open("/woods")
	p.patient(opening).sees("Home is out of reach")
	p.patient(opening).until(`/^\d+ entries$/.test(document.querySelector('[data-waiting]')?.textContent.trim() ?? '')`)
	require.Len(t, treesOf(t, p.asked("/api/trees?text=LC-900")), 3, "two of them new")

	a.start()
	p.nothingWaits()
	for _, id := range named {
		require.Len(t, a.view(id).Names, 1)
	}
	require.NotEmpty(t, a.tree("LC-9002"))
	photos := decoded[[]book.Photo](t, a.answer("/api/trees/"+named[0]+"/photos"))
	require.Len(t, photos, 1)
	res, err := http.Get(a.url("/api/photos/" + photos[0].ID + "/full"))
	require.NoError(t, err)
	defer res.Body.Close()
	whole, err := io.ReadAll(res.Body)
	require.NoError(t, err)
	require.Len(t, whole, photos[0].Bytes)
	p.nothingWaits()
	require.Len(t, a.view(named[0]).Names, 1, "once")
}

// saved is the text of the file that a press saves.
func (p *page) saved(css string) string {
	p.t.Helper()
	p.until(`document.querySelector('` + css + `') !== null`)
	p.eval(`(window.savedText = undefined, window.madeURL ??= URL.createObjectURL,
		URL.createObjectURL = (b) => (b.text().then((t) => (window.savedText = t)), window.madeURL.call(URL, b)), '')`)
	p.press(css)
	p.patient(opening).until(`window.savedText !== undefined`)
	return p.eval(`window.savedText`)
}

func picture(t *testing.T) []byte {
	img := image.NewRGBA(image.Rect(0, 0, 900, 600))
	for i := range 900 * 600 {
		img.Set(i%900, i/900, color.RGBA{uint8(i % 251), 90, 60, 255})
	}
	var body bytes.Buffer
	require.NoError(t, jpeg.Encode(&body, img, nil))
	return body.Bytes()
}

// TestPictureAway keeps the picture of a telephone that has no signal.
func TestPictureAway(t *testing.T) {
	folder := os.Getenv("PT_SCREENSHOTS")
	if folder == "" {
		t.Skip("PT_SCREENSHOTS takes the pictures")
	}
	a, p := openDevice(t, phoneWidth, phoneHeight)
	p.eval(`(localStorage.setItem('palethicket.theme', 'light'), '')`)
	tree := a.tree("LC-303")
	a.stop()
	for _, text := range []string{"Forked at breast height", "Tag renewed"} {
		body := fmt.Sprintf(`{"id": %q, "kind": "facts", "facts": {"remarks": %q}}`, newULID(), text)
		require.Contains(t, p.asks("POST", "/api/trees/"+tree+"/entries", body), text)
	}
	p.follow("/woods")
	p.press("[data-meet]")
	p.patient(opening).sees("Home is out of reach")
	p.sees("2 entries")
	p.follow("/trees/" + tree)
	p.patient(opening).until(`document.querySelector('[data-kept]') !== null`)
	p.press(`[data-section="bark"]`)
	p.until(seenDrawn)      // a device draws them one by one
	time.Sleep(time.Second) // let the fonts settle
	p.shot(filepath.Join(folder, "woods-phone.png"))
}
