package flora

import (
	"fmt"
	"io/fs"
	"testing/fstest"
)

// Own is a flora other than the one in the program, whole or in one file, or lists beside
// it.
type Own struct {
	Files map[string][]byte // a whole flora by the names of its files; empty: the one in the program
	Name  string            // of the file with all of it, as for [LoadOutside]; empty: there is none
	Text  []byte
	Lists []List
}

// None says whether it is the flora in the program and nothing beside it.
func (o *Own) None() bool { return o.Name == "" && len(o.Files) == 0 && len(o.Lists) == 0 }

// ReadFolder reads the files of a whole flora.
func ReadFolder(dir fs.FS) (map[string][]byte, error) {
	names, err := fs.Glob(dir, "*.yaml")
	if err != nil {
		return nil, err
	}
	out := map[string][]byte{}
	for _, name := range names {
		if out[name], err = fs.ReadFile(dir, name); err != nil {
			return nil, fmt.Errorf("reading the flora: %w", err)
		}
	}
	return out, nil
}

// Load gives the flora with its lists; shipped is the one in the program.
func (o *Own) Load(shipped fs.FS) (*Flora, error) {
	f, err := o.taxa(shipped)
	if err != nil || len(o.Lists) == 0 {
		return f, err
	}
	return f.With(o.Lists...)
}

func (o *Own) taxa(shipped fs.FS) (*Flora, error) {
	if o.Name != "" {
		return LoadOutside(shipped, o.Name, o.Text)
	}
	if len(o.Files) == 0 {
		return Load(shipped)
	}
	dir := fstest.MapFS{}
	for name, text := range o.Files {
		dir[name] = &fstest.MapFile{Data: text}
	}
	return Load(dir)
}
