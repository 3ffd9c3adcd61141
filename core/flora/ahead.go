package flora

import (
	"hash/fnv"
	"io/fs"
	"runtime"

	"go.yaml.in/yaml/v3"
)

// document is a file of the flora as it was read.
type document struct {
	doc    *yaml.Node
	digest []byte // of its text
	err    error  // it is no YAML
	unread error  // there is no such file

	ready chan struct{} // closed once the rest is there
}

// ahead are the files of a folder by name, being read on all processors before they are
// asked for: reading YAML is most of what loading a flora takes.
type ahead map[string]*document

func readAhead(dir fs.FS) ahead {
	names, _ := fs.Glob(dir, "*.yaml") // of a folder that cannot be listed each file is read when it is asked for
	a, next := ahead{}, make(chan string, len(names))
	for _, name := range names {
		a[name] = &document{ready: make(chan struct{})}
		next <- name
	}
	close(next)
	for range min(runtime.GOMAXPROCS(0), len(names)) {
		go func() {
			for name := range next {
				a[name].read(dir, name)
				close(a[name].ready)
			}
		}()
	}
	return a
}

// get waits for a file, or reads one that is not among them.
func (a ahead) get(dir fs.FS, name string) *document {
	if d := a[name]; d != nil {
		<-d.ready
		return d
	}
	d := &document{}
	d.read(dir, name)
	return d
}

func (d *document) read(dir fs.FS, name string) {
	text, err := fs.ReadFile(dir, name)
	if err != nil {
		d.unread = err
		return
	}
	d.digest, d.doc = digestOf(text), &yaml.Node{}
	d.err = yaml.Unmarshal(text, d.doc)
}

func digestOf(text []byte) []byte {
	h := fnv.New64a()
	_, _ = h.Write(text)
	return h.Sum(nil)
}
