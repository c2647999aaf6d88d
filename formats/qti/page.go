package qti

import (
	"bytes"
	"path"
	"strings"

	"golang.org/x/net/html"
	"golang.org/x/net/html/charset"

	"pineledger/core/item"
)

// isPage tells whether an object is a page of text, as passages are kept by some.
func isPage(n node) bool {
	kind, _, _ := strings.Cut(n.attr["type"], ";")
	if kind != "" {
		return kind == "text/html" || kind == "application/xhtml+xml"
	}
	ending := strings.ToLower(path.Ext(n.attr["data"]))
	return ending == ".html" || ending == ".htm" || ending == ".xhtml"
}

// passageOf takes a page that the body shows as the item's passage.
func (r *itemReader) passageOf(n node) *Refusal {
	if r.passage != nil {
		return r.refuse(n, "is a second passage; an item hangs on one")
	}
	name, err := r.pack.find(path.Dir(r.file), n.attr["data"])
	if err != nil {
		return r.refuse(n, "%s", err)
	}
	p, known := r.pack.passages[name]
	if !known {
		data, err := r.pack.bytes(name, mostXML)
		if err != nil {
			return r.refuse(n, "%q %s", n.attr["data"], err)
		}
		page, err := readPage(data)
		if err != nil {
			return r.refuse(n, "%q %s", n.attr["data"], err)
		}
		body, _ := page.find("body")
		w := newBody(&itemReader{pack: r.pack, file: name, root: page})
		if refusal := w.walk(body.inner); refusal != nil {
			refusal.Reason = n.attr["data"] + ": " + refusal.Reason
			return refusal
		}
		p = Passage{Identifier: strings.TrimSuffix(path.Base(name), path.Ext(name)), Title: titleOf(page), Body: item.Clean(w.html())}
		if p.Title == "" {
			p.Title = p.Identifier
		}
		r.pack.passages[name] = p
	}
	r.passage = &p
	return nil
}

// titleOf is the title that a page gives itself, or its first heading.
func titleOf(page node) string {
	for _, name := range []string{"title", "h1", "h2", "h3"} {
		if n, ok := page.find(name); ok && n.words() != "" {
			return n.words()
		}
	}
	return ""
}

// readPage reads a page of HTML, which need not be well-formed XML.
func readPage(data []byte) (node, error) {
	data, err := inUTF8(data)
	if err != nil {
		return node{}, err
	}
	in, err := charset.NewReader(bytes.NewReader(data), "text/html; charset=utf-8")
	if err != nil {
		return node{}, err
	}
	root, err := html.Parse(in)
	if err != nil {
		return node{}, err
	}
	return fromHTML(root), nil
}

// fromHTML makes an element of one of a page; what is neither element nor text is left out.
func fromHTML(n *html.Node) node {
	if n.Type == html.TextNode {
		return node{text: n.Data, line: 1}
	}
	out := node{name: n.Data, attr: map[string]string{}, line: 1}
	if n.Type == html.DocumentNode {
		out.name = "page"
	}
	for _, a := range n.Attr {
		out.attr[a.Key] = a.Val
	}
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		if c.Type == html.ElementNode && c.Data != "script" && c.Data != "style" || c.Type == html.TextNode {
			out.inner = append(out.inner, fromHTML(c))
		}
	}
	return out
}
