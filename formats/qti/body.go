package qti

import (
	"html"
	"slices"
	"strings"

	"pineledger/core/item"
)

// kept are the elements of formatted text that items hold; renamed those that mean
// the same; unwrapped those that only lay out what is in them.
var (
	kept = []string{"p", "br", "strong", "em", "u", "sub", "sup", "ul", "ol", "li", "blockquote", "h3", "h4", "table", "caption", "thead", "tbody", "tr", "th", "td",
		"math", "semantics", "mrow", "mi", "mn", "mo", "mtext", "mfrac", "msqrt", "mroot", "msup", "msub", "msubsup", "mover", "munder", "mtable", "mtr", "mtd", "annotation"}
	renamed = map[string]string{"b": "strong", "i": "em", "h1": "h3", "h2": "h3", "h5": "h4", "h6": "h4", "dl": "ul", "dt": "li", "dd": "li", "cite": "em", "dfn": "em", "var": "em",
		"q": "em", "pre": "p", "address": "p", "tfoot": "tbody"}
	unwrapped = []string{"div", "span", "section", "article", "header", "footer", "aside", "figure", "figcaption", "main", "nav", "code", "kbd", "samp", "small", "big", "tt", "abbr",
		"acronym", "label", "bdi", "bdo", "ruby", "rb", "rp", "rt", "colgroup", "col", "contentBody", "stimulusBody", "mstyle", "mpadded", "mspace", "mfenced", "details", "summary"}
	blocks = []string{"p", "ul", "ol", "li", "blockquote", "h3", "h4", "table"}
)

// bodyWriter turns a body into blocks: text, and places to answer between.
type bodyWriter struct {
	r      *itemReader
	out    []item.Block
	text   strings.Builder
	open   []string // elements that are open around what is being written
	inline bool     // within a paragraph that has boxes or menus in it
}

func newBody(r *itemReader) *bodyWriter { return &bodyWriter{r: r} }

func (r *itemReader) body(n node) *Refusal {
	w := newBody(r)
	if refusal := w.walk(n.inner); refusal != nil {
		return refusal
	}
	w.flush()
	r.out.Body = w.out
	return nil
}

// html is all text so far, for bodies without places to answer.
func (w *bodyWriter) html() string { return strings.TrimSpace(w.text.String()) }

// flush ends a block of text.
func (w *bodyWriter) flush() {
	for i := len(w.open) - 1; i >= 0; i-- {
		w.text.WriteString("</" + w.open[i] + ">")
	}
	text := w.text.String()
	w.text.Reset()
	for _, name := range w.open {
		w.text.WriteString("<" + name + ">")
	}
	if !w.inline {
		text = strings.TrimSpace(text)
	}
	if text == "" || item.PlainText(text) == "" && !strings.Contains(text, "<img") && !strings.Contains(text, "<audio") && (!w.inline || strings.TrimSpace(text) == "") {
		return
	}
	w.out = append(w.out, item.Block{HTML: text, Inline: w.inline})
}

func (w *bodyWriter) walk(list []node) *Refusal {
	for _, n := range list {
		if n.name == "" {
			w.text.WriteString(html.EscapeString(n.text))
			continue
		}
		if refusal := w.element(n); refusal != nil {
			return refusal
		}
	}
	return nil
}

// inlineInteractions stand in a sentence.
var inlineInteractions = []string{"textEntryInteraction", "inlineChoiceInteraction"}

func (w *bodyWriter) element(n node) *Refusal {
	name := n.name
	if to, ok := renamed[name]; ok {
		name = to
	}
	switch {
	case strings.HasSuffix(n.name, "Interaction"):
		return w.interaction(n)
	case n.name == "rubricBlock":
		return w.rubric(n)
	case n.name == "hr", n.name == "stylesheet", n.name == "prompt":
		return nil // a prompt is written by its interaction; a rule parts, as blocks do
	case n.name == "feedbackInline", n.name == "feedbackBlock":
		if inner := n.interactions(); len(inner) > 0 {
			return w.r.refuse(inner[0], "is a place to answer in a feedback, which is not read")
		}
		return nil // it is shown after answering, with the modal ones
	case n.name == "object" && isPage(n):
		return w.r.passageOf(n)
	case n.name == "img", n.name == "object", n.name == "audio", n.name == "picture":
		return w.media(n)
	case slices.Contains([]string{"p", "div", "li", "td"}, n.name) && !w.inline && n.hasInline():
		return w.sentence(n)
	case n.name == "div" && len(w.open) == 0 && !w.inline && w.r.root.name == "assessmentItem":
		w.flush()
		refusal := w.walk(n.inner)
		w.flush()
		return refusal
	case n.name == "span" && n.attr["data-catalog-idref"] != "": // a word that a card goes with
	case slices.Contains(unwrapped, n.name):
		return w.walk(n.inner)
	case !slices.Contains(kept, name):
		return w.r.refuse(n, "is not read in a text")
	}
	if name == "table" && len(n.interactions()) > 0 {
		return w.rows(n)
	}
	if name == "br" {
		w.text.WriteString("<br>")
		return nil
	}
	if w.inline && slices.Contains(blocks, name) {
		return w.walk(n.inner)
	}
	w.text.WriteString("<" + name)
	for _, a := range []string{"scope", "encoding", "display", "xml:lang", "data-catalog-idref"} {
		if v, ok := n.attr[a]; ok {
			w.text.WriteString(" " + strings.TrimPrefix(a, "xml:") + `="` + html.EscapeString(v) + `"`)
		}
	}
	w.text.WriteString(">")
	w.open = append(w.open, name)
	refusal := w.walk(n.inner)
	w.open = w.open[:len(w.open)-1]
	w.text.WriteString("</" + name + ">")
	return refusal
}

func (n node) hasInline() bool { return len(n.all(inlineInteractions...)) > 0 && !n.holdsBlocks() }

// holdsBlocks tells whether a container has paragraphs of its own, which are then
// the sentences.
func (n node) holdsBlocks() bool { return len(n.all("p", "div", "li", "ul", "ol", "table")) > 0 }

func (n node) interactions() []node {
	var out []node
	for _, c := range n.inner {
		if strings.HasSuffix(c.name, "Interaction") {
			out = append(out, c)
		}
		out = append(out, c.interactions()...)
	}
	return out
}

// sentence writes a paragraph with boxes or menus in it as a run of inline blocks.
func (w *bodyWriter) sentence(n node) *Refusal {
	open := w.open
	for i := len(open) - 1; i >= 0; i-- {
		w.text.WriteString("</" + open[i] + ">")
	}
	w.open = nil
	w.flush()
	w.inline = true
	if len(w.out) > 0 && w.out[len(w.out)-1].Inline {
		w.text.WriteString("<br>")
	}
	refusal := w.walk(n.inner)
	w.flush()
	w.inline, w.open = false, open
	w.text.Reset()
	for _, name := range open {
		w.text.WriteString("<" + name + ">")
	}
	return refusal
}

// rows writes a table with boxes or menus in it: each row is a sentence in which the
// cells bear the heads of their columns, which also fits a small screen.
func (w *bodyWriter) rows(table node) *Refusal {
	for _, n := range table.interactions() {
		if !slices.Contains(inlineInteractions, n.name) {
			return w.r.refuse(n, "stands in a table, where only boxes to type in and menus are read")
		}
	}
	if caption, ok := table.child("caption"); ok {
		if refusal := w.element(node{name: "p", inner: caption.inner, line: caption.line}); refusal != nil {
			return refusal
		}
	}
	var heads []string
	for _, row := range table.all("tr") {
		cells := row.children("th", "td")
		if len(row.children("td")) == 0 && len(row.interactions()) == 0 {
			heads = nil
			for _, c := range cells {
				heads = append(heads, c.words())
			}
			continue
		}
		sentence := node{name: "p", line: row.line}
		for i, c := range cells {
			if i > 0 {
				sentence.inner = append(sentence.inner, node{text: "; "})
			}
			if i < len(heads) && heads[i] != "" {
				sentence.inner = append(sentence.inner, node{text: heads[i] + ": "})
			}
			sentence.inner = append(sentence.inner, c.inner...)
		}
		w.flush()
		if refusal := w.rowSentence(sentence); refusal != nil {
			return refusal
		}
	}
	return nil
}

func (w *bodyWriter) rowSentence(n node) *Refusal {
	if len(n.interactions()) == 0 {
		n.name = "div"
		return w.element(n)
	}
	return w.sentence(n)
}

// rubric takes text for adults as directions, and for candidates as text.
func (w *bodyWriter) rubric(n node) *Refusal {
	view := strings.Fields(n.attr["view"])
	if len(view) == 0 || slices.Contains(view, "candidate") {
		return w.walk(n.inner)
	}
	inner := newBody(w.r)
	if refusal := inner.walk(n.inner); refusal != nil {
		return refusal
	}
	if len(view) == 1 && view[0] == "author" {
		w.r.out.Notes = strings.TrimSpace(w.r.out.Notes + " " + n.words())
		return nil
	}
	if n.attr["data-rubric"] == "" { // ours is told by its interaction
		w.r.out.Directions += inner.html()
	}
	return nil
}

func (w *bodyWriter) media(n node) *Refusal {
	if n.name == "picture" {
		return w.walk(n.children("img"))
	}
	source := n.attr["src"]
	if n.name == "object" {
		source = n.attr["data"]
	}
	if source == "" && n.name == "audio" {
		if s, ok := n.child("source"); ok {
			source = s.attr["src"]
		}
	}
	kept, err := w.r.pack.media(w.r.file, source)
	if err != nil {
		return w.r.refuse(n, "%s", err)
	}
	if n.name == "audio" || n.name == "object" && strings.HasPrefix(n.attr["type"], "audio/") {
		w.text.WriteString(`<audio controls src="` + kept.Source + `"></audio>`)
		return nil
	}
	if n.name == "object" && !strings.HasPrefix(n.attr["type"], "image/") {
		return w.r.refuse(n, "has the type %q; pictures and sound are read", n.attr["type"])
	}
	alt := n.attr["alt"]
	if n.name == "object" && alt == "" {
		alt = n.words()
	}
	w.text.WriteString(`<img src="` + kept.Source + `" alt="` + html.EscapeString(alt) + `"`)
	for _, a := range []string{"width", "height"} {
		if _, ok := whole(n.attr[a]); ok {
			w.text.WriteString(" " + a + `="` + n.attr[a] + `"`)
		}
	}
	w.text.WriteString(">")
	return nil
}

// formatted is the text of an element without places to answer.
func (r *itemReader) formatted(list []node) (string, *Refusal) {
	w := newBody(r)
	w.inline = len(list) == 0
	if refusal := w.walk(list); refusal != nil {
		return "", refusal
	}
	return w.html(), nil
}
