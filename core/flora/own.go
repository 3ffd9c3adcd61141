package flora

import (
	"fmt"
	"io/fs"
	"maps"
	"path"
	"slices"
	"testing/fstest"
)

// Own is a flora other than the one in the program, whole or in one file, or lists beside
// it: all that a device needs to read a book as it is read at home.
type Own struct {
	Files map[string][]byte `json:"files"` // a whole flora, YAML or [Parsed], by name; empty: the one in the program
	Name  string            `json:"name"`  // of the file with all of it, as for [LoadOutside]; empty: there is none
	Text  []byte            `json:"text"`
	Lists []List            `json:"lists"`
}

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

// Parsed gives the same with its files parsed, for where reading YAML takes long.
func (o *Own) Parsed() (*Own, error) {
	out := &Own{Files: map[string][]byte{}, Name: o.Name, Text: o.Text, Lists: o.Lists}
	for _, name := range slices.Sorted(maps.Keys(o.Files)) {
		if path.Ext(name) == Parsed {
			continue
		}
		parsed, err := Parse(o.Files[name])
		if err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
		out.Files[name], out.Files[name+Parsed] = nil, parsed // the text is looked for by its name only
	}
	return out, nil
}
