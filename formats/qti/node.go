// Package qti reads and writes packages of items in QTI: it writes 3.0 and reads
// 3.0, 2.2 and 2.1. What it cannot represent it names with file and element.
package qti

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"unicode"
)

// Bounds of one XML file, against files made to exhaust memory.
const (
	mostXML      = 8 << 20 // bytes
	mostDeep     = 100
	mostElements = 200_000
)

// node is an element of an XML file. Elements of QTI 3 bear the names of QTI 2
// (qti-choice-interaction is choiceInteraction), so that one reader reads all.
type node struct {
	name  string
	attr  map[string]string
	inner []node // text has no name
	text  string
	line  int
	three bool   // written with the names of QTI 3
	space string // its namespace; "" for none
}

// parse reads a whole file. There are no entities but those of XML itself: the
// decoder reads none from a document type, and one that declares any is refused.
func parse(data []byte) (node, error) {
	if len(data) > mostXML {
		return node{}, fmt.Errorf("is larger than %d bytes", mostXML)
	}
	data, err := inUTF8(data)
	if err != nil {
		return node{}, err
	}
	d := xml.NewDecoder(bytes.NewReader(data))
	var stack []node
	count := 0
	root := node{}
	for {
		token, err := d.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return node{}, fmt.Errorf("is not well-formed XML: %w", err)
		}
		line, _ := d.InputPos()
		switch t := token.(type) {
		case xml.StartElement:
			if count++; count > mostElements || len(stack) >= mostDeep {
				return node{}, fmt.Errorf("has more than %d elements or %d levels", mostElements, mostDeep)
			}
			stack = append(stack, element(t, line))
		case xml.EndElement:
			done := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			if len(stack) == 0 {
				root = done
				continue
			}
			top := &stack[len(stack)-1]
			top.inner = append(top.inner, done)
		case xml.CharData:
			if len(stack) > 0 {
				top := &stack[len(stack)-1]
				top.inner = append(top.inner, node{text: string(t), line: line})
			}
		case xml.Directive:
			if bytes.Contains(t, []byte("[")) {
				return node{}, errors.New("declares a document type of its own, which is not read")
			}
		}
	}
	if root.name == "" {
		return node{}, errors.New("holds no element")
	}
	return root, nil
}

func element(t xml.StartElement, line int) node {
	n := node{name: t.Name.Local, space: t.Name.Space, attr: map[string]string{}, line: line}
	rest, isThree := strings.CutPrefix(n.name, "qti-")
	if isThree {
		n.name, n.three = camel(rest), true
	}
	for _, a := range t.Attr {
		name := a.Name.Local
		if a.Name.Space == "xml" || a.Name.Space == "http://www.w3.org/XML/1998/namespace" {
			name = "xml:" + name
		}
		if isThree && !strings.HasPrefix(name, "data-") && !strings.HasPrefix(name, "aria-") {
			name = camel(name)
		}
		n.attr[name] = a.Value
	}
	return n
}

// spaces are the namespaces of what an item holds: those of QTI, and of the texts in it.
var spaces = []string{"", "http://www.imsglobal.org/xsd/imsqti_v2p0", "http://www.imsglobal.org/xsd/imsqti_v2p1", "http://www.imsglobal.org/xsd/imsqti_v2p2",
	itemNamespace, mathNamespace, "http://www.w3.org/1999/xhtml", "http://www.w3.org/2001/10/synthesis", "http://www.w3.org/2010/10/synthesis",
	"http://www.imsglobal.org/xsd/imsqtiv2p2_html5_v1p0"}

// foreign finds the first element of another namespace: it may bear the name of one
// that is read, and would mean something else.
func (n node) foreign() (node, bool) {
	if n.name != "" && !slices.Contains(spaces, n.space) {
		return n, true
	}
	for _, c := range n.inner {
		if other, found := c.foreign(); found {
			return other, true
		}
	}
	return node{}, false
}

// camel turns max-choices into maxChoices.
func camel(name string) string {
	var out strings.Builder
	up := false
	for _, r := range name {
		switch {
		case r == '-':
			up = true
		case up:
			out.WriteRune(unicode.ToUpper(r))
			up = false
		default:
			out.WriteRune(r)
		}
	}
	return out.String()
}

// kebab turns isNull into is-null.
func kebab(name string) string {
	var out strings.Builder
	for _, r := range name {
		if unicode.IsUpper(r) {
			out.WriteByte('-')
			r = unicode.ToLower(r)
		}
		out.WriteRune(r)
	}
	return out.String()
}

// children are the elements in it, those of some names only where any are given.
func (n node) children(names ...string) []node {
	var out []node
	for _, c := range n.inner {
		if c.name == "" {
			continue
		}
		if len(names) == 0 {
			out = append(out, c)
		}
		for _, name := range names {
			if c.name == name {
				out = append(out, c)
			}
		}
	}
	return out
}

func (n node) child(name string) (node, bool) {
	list := n.children(name)
	if len(list) == 0 {
		return node{}, false
	}
	return list[0], true
}

// all are the elements of a name anywhere in it.
func (n node) all(names ...string) []node {
	var out []node
	for _, c := range n.inner {
		for _, name := range names {
			if c.name == name {
				out = append(out, c)
			}
		}
		out = append(out, c.all(names...)...)
	}
	return out
}

// find gives the first element of a name anywhere in it.
func (n node) find(name string) (node, bool) {
	list := n.all(name)
	if len(list) == 0 {
		return node{}, false
	}
	return list[0], true
}

// words is the text in it, white space folded.
func (n node) words() string { return strings.Join(strings.Fields(n.raw()), " ") }

func (n node) raw() string {
	if n.name == "" {
		return n.text
	}
	var out strings.Builder
	for _, c := range n.inner {
		out.WriteString(c.raw())
	}
	return out.String()
}
