package paper

import (
	"strconv"
	"strings"

	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"
)

// pixel is the size of a CSS pixel in points, where text is of the common size.
const (
	pixel      = 0.75
	commonSize = 12.0
	tallest    = 500.0 // a picture, so that it fits on a page with words beside it
)

// Look is how a piece of formatted text begins.
type Look struct {
	Bold, Italic bool
	Scale        float64 // of the paper's text; 0 is 1
}

func (p *Paper) begin(l Look) style {
	s := style{size: p.Size, bold: l.Bold, italic: l.Italic}
	if l.Scale > 0 {
		s.size *= l.Scale
	}
	return s
}

// HTML sets formatted text, which is of the safe subset, in a width.
func (p *Paper) HTML(text string, width float64, l Look) []Slab {
	return p.setter(width, l).add(text).done()
}

// Plain sets a text without markup.
func (p *Paper) Plain(text string, width float64, l Look) []Slab {
	return p.HTML(html.EscapeString(text), width, l)
}

// setter gathers what stands on a line until a block ends it.
type setter struct {
	p      *Paper
	width  float64
	base   style
	inline []piece
	out    []Slab
}

func (p *Paper) setter(width float64, l Look) *setter {
	return &setter{p: p, width: width, base: p.begin(l)}
}

// Inline is formatted text and boxes that run on from each other, as in a sentence with gaps.
type Inline struct{ *setter }

// Inline begins such a text.
func (p *Paper) Inline(width float64, l Look) Inline { return Inline{p.setter(width, l)} }

// HTML runs formatted text on.
func (i Inline) HTML(text string) Inline { i.add(text); return i }

// Line draws a line to write on, as wide as so many letters.
func (i Inline) Line(letters float64) Inline {
	size := i.base.size
	i.inline = append(i.inline, piece{width: letters * size / 2, ascent: ascent * size, descent: descent * size, draw: func(x, base float64) {
		i.p.rule(x, base+0.1*size, x+letters*size/2, base+0.1*size, 0.6)
	}})
	return i
}

// Slabs ends it.
func (i Inline) Slabs() []Slab { return i.done() }

func (t *setter) add(text string) *setter {
	nodes, err := html.ParseFragment(strings.NewReader(text), &html.Node{Type: html.ElementNode, Data: "div", DataAtom: atom.Div})
	t.p.note(err)
	for _, n := range nodes {
		t.node(n, t.base)
	}
	return t
}

func (t *setter) done() []Slab {
	t.flush(t.base)
	for len(t.out) > 0 && t.out[len(t.out)-1].Space {
		t.out = t.out[:len(t.out)-1]
	}
	return t.out
}

func (t *setter) flush(s style) {
	t.out = append(t.out, t.p.lines(t.inline, t.width, s)...)
	t.inline = nil
}

func (t *setter) children(n *html.Node, s style) {
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		t.node(c, s)
	}
}

// block sets what an element holds as lines of its own, with room after it.
func (t *setter) block(n *html.Node, s style) {
	t.flush(s)
	t.children(n, s)
	t.flush(s)
	t.out = append(t.out, Gap(0.45*s.size))
}

func (t *setter) node(n *html.Node, s style) {
	if n.Type == html.TextNode {
		t.inline = append(t.inline, t.p.words(n.Data, s, t.width)...)
		return
	}
	switch n.Data {
	case "strong", "b", "th":
		s.bold = true
	case "em", "i":
		s.italic = true
	case "u":
		s.under = true
	case "sup":
		s.rise += 0.38 * s.size
		s.size *= 0.7
	case "sub":
		s.rise -= 0.14 * s.size
		s.size *= 0.7
	case "br":
		t.inline = append(t.inline, piece{end: true})
		return
	case "img":
		t.picture(n, s)
		return
	case "audio":
		t.inline = append(t.inline, t.p.words("[sound: "+attr(n, "aria-label")+"]", style{size: s.size, italic: true}, t.width)...)
		return
	case "math":
		t.formula(n, s)
		return
	case "p", "div", "blockquote":
		t.block(n, s)
		return
	case "h3", "h4":
		s.bold, s.size = true, s.size*1.1
		from := len(t.out)
		t.block(n, s)
		for i := from; i < len(t.out); i++ {
			t.out[i].Keep = true
		}
		return
	case "ul", "ol":
		t.list(n, s)
		return
	case "table":
		t.flush(s)
		t.out = append(append(t.out, t.p.table(rowsOf(n), t.width, s)...), Gap(0.6*s.size))
		return
	}
	t.children(n, s)
}

func attr(n *html.Node, name string) string {
	for _, a := range n.Attr {
		if a.Key == name {
			return a.Val
		}
	}
	return ""
}

func (t *setter) list(n *html.Node, s style) {
	t.flush(s)
	indent, number := 1.6*s.size, 0
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		if c.Data != "li" {
			continue
		}
		number++
		mark := "•"
		if n.Data == "ol" {
			mark = strconv.Itoa(number) + "."
		}
		inner := &setter{p: t.p, width: t.width - indent, base: s}
		inner.children(c, s)
		slabs := Beside(Inset(inner.done(), indent), func(x, base float64) { t.p.text(x+0.3*s.size, base, mark, s) })
		t.out = append(append(t.out, slabs...), Gap(0.2*s.size))
	}
	t.out = append(t.out, Gap(0.25*s.size))
}

// picture sets one as wide as it says, in the measure of the text, and no wider than there is room.
func (t *setter) picture(n *html.Node, s style) {
	pic, err := t.p.picture(attr(n, "src"))
	if err != nil {
		t.p.note(err)
		return
	}
	w, h := t.p.sides(pic)
	number := func(name string) float64 { v, _ := strconv.ParseFloat(attr(n, name), 64); return v }
	if asked := number("width"); asked > 0 {
		w, h = asked, asked*h/w
	}
	w, h = fitted(w*pixel*s.size/commonSize, h*pixel*s.size/commonSize, t.width)
	t.inline = append(t.inline, piece{width: w, ascent: h, descent: 0.2 * s.size, draw: func(x, base float64) { t.p.place(pic, x, base-h, w, h) }})
}

func fitted(w, h, width float64) (float64, float64) {
	if w > width {
		w, h = width, h*width/w
	}
	if h > tallest {
		w, h = w*tallest/h, tallest
	}
	return w, h
}

// Mark is a text on a picture; X and Y are the share of its width and height where its middle is.
type Mark struct {
	Text string
	X, Y float64
}

// Picture sets a picture of so many pixels on a line of its own, with marks on it.
func (p *Paper) Picture(source string, pixels, width float64, marks ...Mark) []Slab {
	pic, err := p.picture(source)
	if err != nil {
		p.note(err)
		return nil
	}
	w, h := p.sides(pic)
	w, h = fitted(pixels*pixel*p.Size/commonSize, pixels*pixel*p.Size/commonSize*h/w, width)
	return []Slab{{Width: w, Height: h + 0.3*p.Size, Base: p.Size, Draw: func(x, y float64) {
		p.place(pic, x, y, w, h)
		for _, m := range marks {
			p.ringed(m.Text, x+m.X*w, y+m.Y*h)
		}
	}}}
}

// ringed draws a short text in a white ring around a middle.
func (p *Paper) ringed(text string, x, y float64) {
	s := style{size: p.Size, bold: true}
	p.pdf.SetDrawColor(0, 0, 0)
	p.pdf.SetFillColor(255, 255, 255)
	p.pdf.SetLineWidth(0.7)
	p.pdf.Circle(x, y, 0.75*s.size, "FD")
	p.text(x-p.measure(text, s)/2, y+0.35*s.size, text, s)
}

// sides gives a picture's own width and height, in pixels.
func (p *Paper) sides(pic picture) (float64, float64) {
	if pic.drawing != nil {
		return pic.drawing.width, pic.drawing.height
	}
	info := p.pdf.GetImageInfo(pic.name)
	info.SetDpi(72)
	return info.Width(), info.Height()
}
