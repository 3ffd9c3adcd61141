package flora

import (
	"encoding/binary"
	"errors"
	"fmt"
	"hash/fnv"

	"go.yaml.in/yaml/v3"
)

// Reading YAML is most of what loading a flora takes, and in a browser it takes ten times
// as long as natively. There the flora comes with its files parsed beforehand: each
// beside its text, under a longer name. It is made by the command's flora parse.

// Parsed ends the names of such files.
const Parsed = ".parsed"

// Parse writes a digest of a YAML file's text, and its nodes one after another, comments left out: of each its
// kind, style, line, column, how many nodes are in it, its tag and value, and of one that
// stands for another (*name) the number of that.
func Parse(text []byte) ([]byte, error) {
	var doc yaml.Node
	if err := yaml.Unmarshal(text, &doc); err != nil {
		return nil, err
	}
	out := binary.AppendUvarint(digestOf(text), uint64(count(&doc)))
	return appendNode(out, &doc, map[*yaml.Node]int{})
}

// digestLen is how many bytes of a parsed file come before its nodes: a digest of its text.
const digestLen = 8

func digestOf(text []byte) []byte {
	h := fnv.New64a()
	_, _ = h.Write(text)
	return h.Sum(nil)
}

func count(n *yaml.Node) int {
	sum := 1
	for _, c := range n.Content {
		sum += count(c)
	}
	return sum
}

func appendNode(out []byte, n *yaml.Node, numbers map[*yaml.Node]int) ([]byte, error) {
	numbers[n] = len(numbers)
	for _, x := range []int{int(n.Kind), int(n.Style), n.Line, n.Column, len(n.Content)} {
		out = binary.AppendUvarint(out, uint64(x))
	}
	for _, text := range []string{n.Tag, n.Value} {
		out = append(binary.AppendUvarint(out, uint64(len(text))), text...)
	}
	if n.Kind == yaml.AliasNode {
		number, ok := numbers[n.Alias]
		if !ok {
			return nil, fmt.Errorf("line %d: *%s stands before what it stands for", n.Line, n.Value)
		}
		out = binary.AppendUvarint(out, uint64(number))
	}
	for _, c := range n.Content {
		var err error
		if out, err = appendNode(out, c, numbers); err != nil {
			return nil, err
		}
	}
	return out, nil
}

var errParsed = errors.New("its parsed form is cut short: make it anew")

// nodes reads what [Parse] wrote.
func nodes(parsed []byte) (*yaml.Node, error) {
	if len(parsed) < digestLen {
		return nil, errParsed
	}
	parsed = parsed[digestLen:]
	n, used := binary.Uvarint(parsed)
	if used <= 0 || n > uint64(len(parsed)) {
		return nil, errParsed
	}
	d := &nodeReader{text: string(parsed), at: used, all: make([]yaml.Node, n), kids: make([]*yaml.Node, n)}
	top := d.node()
	if d.short {
		return nil, errParsed
	}
	return top, nil
}

type nodeReader struct {
	text  string
	at    int
	all   []yaml.Node
	begun int // of all
	kids  []*yaml.Node
	short bool
}

func (d *nodeReader) node() *yaml.Node {
	if d.begun == len(d.all) || d.short {
		d.short = true
		return &yaml.Node{}
	}
	n := &d.all[d.begun]
	d.begun++
	n.Kind, n.Style, n.Line, n.Column = yaml.Kind(d.int()), yaml.Style(d.int()), d.int(), d.int()
	within := d.int()
	n.Tag, n.Value = d.string(), d.string()
	if n.Kind == yaml.AliasNode {
		if number := d.int(); number < d.begun {
			n.Alias = &d.all[number]
		}
	}
	if within > len(d.kids) {
		d.short = true
		return n
	}
	n.Content, d.kids = d.kids[:within:within], d.kids[within:]
	for i := range n.Content {
		n.Content[i] = d.node()
	}
	return n
}

func (d *nodeReader) int() int {
	x, shift := 0, 0
	for ; d.at < len(d.text) && shift < 63; shift += 7 {
		b := d.text[d.at]
		d.at++
		x |= int(b&0x7f) << shift
		if b < 0x80 {
			return x
		}
	}
	d.short = true
	return 0
}

func (d *nodeReader) string() string {
	n := d.int()
	if n > len(d.text)-d.at {
		d.short = true
		return ""
	}
	d.at += n
	return d.text[d.at-n : d.at]
}
