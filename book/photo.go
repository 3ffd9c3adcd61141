package book

import (
	"context"
	"errors"
	"fmt"
	"io"
	"slices"
	"sync"
	"time"

	"palethicket/core/foreign"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/photo"
	"palethicket/store"
)

// decoders bounds how many photographs are unpacked at once, as a large one
// takes hundreds of megabytes.
var decoders = make(chan struct{}, 1)

// PhotoMost is how many bytes a photograph may have.
const PhotoMost = photo.MaxBytes

// NewPhoto is a photograph as it comes.
type NewPhoto struct {
	ID           string
	Tree         string
	Look         string // empty: of the tree at large
	By           string
	Caption      string
	ReadPosition bool // the day and the position may be read from the file
}

// Photo is a photograph of a look.
type Photo struct {
	ID      string   `json:"id"`
	Tree    string   `json:"tree"`
	Look    string   `json:"look" doc:"Id of the look; empty: of the tree at large"`
	Kind    string   `json:"kind"`
	Bytes   int      `json:"bytes"`
	Width   int      `json:"width"`
	Height  int      `json:"height"`
	Taken   string   `json:"taken" doc:"When, if the file says so and it might be read; else empty"`
	Lon     *float64 `json:"lon,omitempty"`
	Lat     *float64 `json:"lat,omitempty"`
	By      string   `json:"by"`
	Caption string   `json:"caption"`
	Gone    bool     `json:"gone" doc:"Taken back; the file stays"`
}

func photoOf(p store.Photo) Photo {
	return Photo{p.ID, p.Tree, p.Look, p.Kind, p.Bytes, p.Width, p.Height, p.Taken, p.Lon, p.Lat, p.By, p.Caption, p.Gone}
}

// Photos lists a tree's photographs, without those taken back.
func (b *Book) Photos(ctx context.Context, tree string) ([]Photo, error) {
	photos, err := b.store.PhotosOf(ctx, tree)
	return each(photos, photoOf), err
}

// AddPhoto keeps a photograph with a look. Where the position may be read, and the
// tree has none, it is offered with the photograph and not put on the tree. A file
// that is no photograph gives a [*FileError]. Sending it again changes nothing, but
// for a file that was damaged meanwhile, which is mended.
func (b *Book) AddPhoto(ctx context.Context, n NewPhoto, body io.Reader) (_ *Photo, err error) {
	if err := b.hasLook(ctx, n.Tree, n.Look); err != nil {
		return nil, err
	}
	file, err := b.store.Receive(io.LimitReader(body, PhotoMost+1))
	if err != nil {
		return nil, fmt.Errorf("receiving a photograph: %w", err)
	}
	defer func() { err = errors.Join(err, file.Close()) }()
	read, err := b.keepPhoto(ctx, file, n.ReadPosition)
	var refused *photo.Refused
	var damaged *foreign.Damaged
	if errors.As(err, &refused) || errors.As(err, &damaged) {
		return nil, &FileError{err}
	}
	if err != nil {
		return nil, err
	}
	e := logbook.Entry{ID: n.ID, Kind: logbook.KindPhoto, By: n.By, Look: n.Look, Photo: &logbook.Photo{Digest: file.Digest, Kind: read.Kind,
		Bytes: int(file.Bytes), Width: read.Width, Height: read.Height, Caption: n.Caption}}
	if !read.Taken.IsZero() {
		e.Photo.Taken = read.Taken.Format(time.RFC3339)
	}
	if at := read.Position; at != nil {
		e.Photo.Lon, e.Photo.Lat = &at[0], &at[1]
	}
	s, err := b.press(ctx, n.Tree, func(s *sheet) error { return s.add(e, "") })
	if err != nil {
		return nil, err
	}
	s.close()
	out := photoOf(photoLine(n.Tree, &e))
	return &out, nil
}

// photoLine is the line of a photograph that an entry put up.
func photoLine(tree string, e *logbook.Entry) store.Photo {
	p := e.Photo
	return store.Photo{ID: e.ID, Tree: tree, Look: e.Look, Digest: p.Digest, Kind: p.Kind, Bytes: p.Bytes, Width: p.Width, Height: p.Height,
		Taken: p.Taken, Lon: p.Lon, Lat: p.Lat, By: e.By, Caption: p.Caption}
}

// keepPhoto checks a photograph's file and keeps it.
func (b *Book) keepPhoto(ctx context.Context, file *store.Received, readPosition bool) (*photo.Photo, error) {
	read, err := unpack(file, readPosition)
	if err != nil {
		return nil, err
	}
	return read, b.store.KeepPhotoFile(ctx, file, read.Thumb)
}

func unpack(file io.ReadSeeker, readPosition bool) (*photo.Photo, error) {
	decoders <- struct{}{}
	defer func() { <-decoders }()
	return foreign.Read("the photograph", func() (*photo.Photo, error) { return photo.Read(file, readPosition) })
}

// hasLook refuses a photograph of a look that is not there before it is unpacked.
func (b *Book) hasLook(ctx context.Context, tree, look string) error {
	s, err := b.open(ctx, b.store.Reader, tree)
	if err != nil || look == "" {
		return err
	}
	return s.log.Fits(&logbook.Entry{Kind: logbook.KindPhoto, Look: look})
}

// MarkPhoto takes a photograph back, or puts it back. Where it is so already nothing
// changes.
func (b *Book) MarkPhoto(ctx context.Context, id string, gone bool, by string) error {
	p, err := b.store.Photo(ctx, id)
	if err != nil {
		return err
	}
	s, err := b.press(ctx, p.Tree, func(s *sheet) error {
		if slices.Contains(s.log.Photos, id) != gone {
			return nil
		}
		if gone {
			return s.add(logbook.Entry{ID: newID(), Kind: logbook.KindWithdraw, By: by, Entry: id}, "")
		}
		for _, taken := range s.log.Withdrawals(id) {
			s.extend(logbook.Entry{ID: newID(), Kind: logbook.KindUndo, By: by, Entry: taken})
		}
		return nil
	})
	if err != nil {
		return err
	}
	s.close()
	return nil
}

// PhotoFile opens a photograph's file, or its thumbnail, and gives its media type.
func (b *Book) PhotoFile(ctx context.Context, id string, thumb bool) (file io.ReadSeekCloser, kind string, err error) {
	p, file, err := b.store.PhotoFile(ctx, id, thumb)
	if kind = p.Kind; thumb {
		kind = "image/jpeg"
	}
	return file, kind, err
}

// Arriving says how much of a photograph's file is here.
type Arriving struct {
	Bytes int64 `json:"bytes" doc:"How much is here; the next piece begins there"`
	Whole bool  `json:"whole"`
}

// arriving are the photographs whose pieces are taken in, one at a time each.
var arriving sync.Mutex

// PhotoArriving says how much is here of the file of a photograph that a device put up,
// or gives [store.ErrNoPhoto] for one that nobody told of.
func (b *Book) PhotoArriving(ctx context.Context, id string) (*Arriving, error) {
	p, err := b.store.Photo(ctx, id)
	if err != nil {
		return nil, err
	}
	n, whole, err := b.store.Arrived(p.Digest, id)
	return &Arriving{n, whole}, err
}

// PhotoPiece takes in a piece of such a file, which begins at a byte. One that does not
// begin where the file ends so far changes nothing; the answer says where the next
// begins. A file that turns out another than it was said to be, or no photograph, gives a
// [*FileError], and has to be sent from its start.
func (b *Book) PhotoPiece(ctx context.Context, id string, at int64, piece []byte) (_ *Arriving, err error) {
	p, err := b.store.Photo(ctx, id)
	if err != nil {
		return nil, err
	}
	arriving.Lock()
	defer arriving.Unlock()
	n, whole, err := b.store.Arrived(p.Digest, id)
	if err != nil || whole || at != n {
		return &Arriving{n, whole}, err
	}
	if p.Bytes > PhotoMost {
		return nil, &FileError{fmt.Errorf("a photograph has %d MB at most", PhotoMost>>20)}
	}
	if at+int64(len(piece)) > int64(p.Bytes) {
		return nil, &FileError{errors.New("there is more of it than was said; send it from its start")}
	}
	if err := b.store.Arrive(id, piece); err != nil {
		return nil, err
	}
	if n += int64(len(piece)); n < int64(p.Bytes) {
		return &Arriving{n, false}, nil
	}
	file, err := b.store.TakeArrived(id)
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, file.Close()) }()
	if file.Digest != p.Digest {
		return nil, &FileError{errors.New("it is another file than was said; send it from its start")}
	}
	read, err := unpack(file, false)
	if err != nil {
		return nil, &FileError{err}
	}
	return &Arriving{n, true}, b.store.KeepPhotoFile(ctx, file, read.Thumb)
}
