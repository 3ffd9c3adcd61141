package web

import (
	"errors"
	"io"
	"net"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"
)

// Upload is a file that comes as the body. It is read while it is answered, so that nobody
// has it whole in memory.
type Upload struct{ body io.Reader }

// Resolve takes the body over before huma would read it.
func (u *Upload) Resolve(hc huma.Context) []error {
	u.body = hc.BodyReader()
	_ = hc.SetReadDeadline(time.Now().Add(uploadTime)) // a device's own book has no line
	return nil
}

// Read says of a body that breaks off that it did.
func (u *Upload) Read(p []byte) (int, error) {
	n, err := u.body.Read(p)
	var slow net.Error
	switch {
	case err == nil, errors.Is(err, io.EOF):
		return n, err
	case errors.As(err, &slow) && slow.Timeout():
		return n, huma.NewError(http.StatusRequestTimeout, "the file took too long to arrive; send it again")
	}
	return n, huma.Error400BadRequest(brokenOff)
}

// anyFile describes a body that is a file.
func anyFile() *huma.RequestBody {
	return &huma.RequestBody{Required: true, Content: map[string]*huma.MediaType{
		"application/octet-stream": {Schema: &huma.Schema{Type: huma.TypeString, Format: "binary"}}}}
}

// serveFile sends a file, or the part of it that was asked for, as fast as whoever asked reads it.
func serveFile(hc huma.Context, file io.ReadSeeker) {
	r, w := humachi.Unwrap(hc)
	http.ServeContent(&patientWriter{w, &patient{w: w, to: http.NewResponseController(w), sent: true}}, r, "", time.Time{}, file)
}
