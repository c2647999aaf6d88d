package paper

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/net/html"
)

// A formula is set from MathML Core, the parts that the safe subset lets in, by boxes as in
// https://www.w3.org/TR/mathml-core/ with the sizes of the reading face.

const (
	smaller  = 0.71 // of an index to its base, as MathML Core has it
	smallest = 5.0  // points
	bar      = 0.06 // width of a fraction bar, in sizes of the text
)

// formula runs a formula on, or sets one that is displayed on a line of its own.
func (t *setter) formula(n *html.Node, s style) {
	box := t.p.math(n, s)
	if attr(n, "display") != "block" {
		t.inline = append(t.inline, box)
		return
	}
	t.flush(s)
	t.inline = []piece{box}
	t.flush(s)
	t.out = append(t.out, Gap(0.3*s.size))
}

func (p *Paper) math(n *html.Node, s style) piece {
	kids := elements(n)
	arg := func(i int, s style) piece {
		if i < len(kids) {
			return p.math(kids[i], s)
		}
		return piece{}
	}
	index := s
	index.size = max(s.size*smaller, smallest)
	switch n.Data {
	case "mi", "mn", "mtext":
		text := textOf(n)
		s.italic = n.Data == "mi" && len([]rune(text)) == 1 && attr(n, "mathvariant") != "normal" || attr(n, "mathvariant") == "italic"
		box := p.glyphs(text, s)
		if n.Data == "mi" && len([]rune(text)) > 1 {
			box.width += 0.16 * s.size // as between sin and x
		}
		return box
	case "mo":
		return p.operator(n, textOf(n), s)
	case "mspace":
		return piece{width: length(attr(n, "width"), s.size)}
	case "mphantom":
		box := p.mathRow(kids, s)
		box.draw = nil
		return box
	case "mfrac":
		return p.fraction(arg(0, fractionStyle(s)), arg(1, fractionStyle(s)), attr(n, "linethickness") != "0", s)
	case "msqrt":
		return p.root(p.mathRow(kids, s), piece{}, s)
	case "mroot":
		return p.root(arg(0, s), arg(1, index), s)
	case "msup":
		return scripts(arg(0, s), piece{}, arg(1, index), s)
	case "msub":
		return scripts(arg(0, s), arg(1, index), piece{}, s)
	case "msubsup":
		return scripts(arg(0, s), arg(1, index), arg(2, index), s)
	case "mover":
		return p.stacked(arg(0, s), piece{}, p.accent(kids, 1, index), s)
	case "munder":
		return p.stacked(arg(0, s), p.accent(kids, 1, index), piece{}, s)
	case "munderover":
		return p.stacked(arg(0, s), arg(1, index), arg(2, index), s)
	case "mtable":
		return p.matrix(kids, s)
	case "menclose":
		return p.enclosed(p.mathRow(kids, s), strings.Fields(attr(n, "notation")), s)
	case "semantics":
		return arg(0, s)
	case "annotation":
		return piece{}
	}
	return p.mathRow(kids, s) // math, mrow, mstyle, mpadded, mtd
}

// fractionStyle keeps fractions in a line readable: they shrink once, not again and again.
func fractionStyle(s style) style {
	s.size = max(s.size*0.82, smallest+1)
	return s
}

func elements(n *html.Node) []*html.Node {
	var out []*html.Node
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		if c.Type == html.ElementNode {
			out = append(out, c)
		}
	}
	return out
}

func textOf(n *html.Node) string {
	var out strings.Builder
	for c := range n.Descendants() {
		if c.Type == html.TextNode {
			out.WriteString(c.Data)
		}
	}
	return strings.Join(strings.Fields(out.String()), " ")
}

// length reads a length of MathML in ems or points.
func length(text string, size float64) float64 {
	number := strings.TrimRight(text, "abcdefghijklmnopqrstuvwxyz%")
	v, err := strconv.ParseFloat(number, 64)
	switch {
	case err != nil:
		return 0
	case strings.HasSuffix(text, "em"):
		return v * size
	case strings.HasSuffix(text, "px"):
		return v * pixel
	}
	return v
}

// glyphs are letters as high as they look, so that boxes stand close.
func (p *Paper) glyphs(text string, s style) piece {
	return piece{width: p.measure(text, s), ascent: 0.74 * s.size, descent: 0.22 * s.size, draw: func(x, base float64) { p.text(x, base, text, s) }}
}

var fences = "()[]{}|‖⌊⌋⌈⌉"

// spaced are the operators with room around them, in sizes of the text.
var spaced = map[string]float64{"+": .22, "−": .22, "±": .22, "×": .22, "·": .18, "⋅": .18, "÷": .22, "=": .28, "≠": .28, "<": .28, ">": .28, "≤": .28, "≥": .28, "≈": .28,
	"→": .28, "←": .28, "↔": .28, "∈": .28, "∥": .28, "⊥": .28, ":": .2, "≅": .28, "∼": .28}

func (p *Paper) operator(n *html.Node, text string, s style) piece {
	if text == "-" {
		text = "−"
	}
	if strings.Contains("∑∏", text) {
		s.size *= 1.35
	}
	box := p.glyphs(text, s)
	room := spaced[text] * s.size
	if attr(n, "form") == "prefix" || alone(n) {
		room = 0
	}
	if text == "," || text == ";" {
		box.width += 0.2 * s.size
	}
	draw := box.draw
	box.width += 2 * room
	box.draw = func(x, base float64) { draw(x+room, base) }
	return box
}

// alone tells of a sign whether it stands before what it belongs to, as the minus of −3 does.
func alone(n *html.Node) bool {
	before := elementBefore(n)
	switch {
	case before == nil:
		return true
	case textOf(before) == "|" && elementBefore(before) == nil:
		return true // which opens an absolute value
	}
	return before.Data == "mo" && !slices.Contains([]string{")", "]", "}", "|", "%", "!", "°"}, textOf(before))
}

func elementBefore(n *html.Node) *html.Node {
	before := n.PrevSibling
	for before != nil && before.Type != html.ElementNode {
		before = before.PrevSibling
	}
	return before
}

// mathRow sets boxes side by side; fences grow with what stands between them.
func (p *Paper) mathRow(kids []*html.Node, s style) piece {
	boxes := make([]piece, len(kids))
	var up, down float64
	for i, k := range kids {
		boxes[i] = p.math(k, s)
		up, down = max(up, boxes[i].ascent), max(down, boxes[i].descent)
	}
	for i, k := range kids {
		if text := textOf(k); k.Data == "mo" && len([]rune(text)) == 1 && strings.Contains(fences, text) && attr(k, "stretchy") != "false" && up+down > 1.2*s.size {
			boxes[i] = p.fence(text, up, down, s)
		}
	}
	return beside(boxes)
}

func beside(boxes []piece) piece {
	var out piece
	for _, b := range boxes {
		out.width += b.width
		out.ascent, out.descent = max(out.ascent, b.ascent), max(out.descent, b.descent)
	}
	out.draw = func(x, base float64) {
		for _, b := range boxes {
			if b.draw != nil {
				b.draw(x, base)
			}
			x += b.width
		}
	}
	return out
}

// fence is a bracket drawn as high as what it holds: the letter, stretched.
func (p *Paper) fence(text string, up, down float64, s style) piece {
	scale := (up + down) / (0.95 * s.size)
	width := p.measure(text, s)
	return piece{width: width, ascent: up, descent: down, draw: func(x, base float64) {
		p.pdf.TransformBegin()
		p.pdf.TransformScaleY(scale*100, x, base+down)
		p.text(x, base+down-0.2*s.size, text, s)
		p.pdf.TransformEnd()
	}}
}

func (p *Paper) fraction(over, under piece, ruled bool, s style) piece {
	axis, thick, room := axisHeight*s.size, bar*s.size, 0.12*s.size
	width := max(over.width, under.width) + 0.25*s.size
	return piece{width: width + 0.16*s.size, ascent: axis + room + over.descent + over.ascent, descent: under.ascent + under.descent + room - axis,
		draw: func(x, base float64) {
			x += 0.08 * s.size
			at(over, x+(width-over.width)/2, base-axis-room-over.descent)
			at(under, x+(width-under.width)/2, base-axis+room+under.ascent)
			if ruled {
				p.rule(x, base-axis, x+width, base-axis, thick)
			}
		}}
}

func at(b piece, x, base float64) {
	if b.draw != nil {
		b.draw(x, base)
	}
}

func (p *Paper) root(inner, degree piece, s style) piece {
	thick := bar * s.size
	up, down := max(inner.ascent, 0.7*s.size)+0.18*s.size, max(inner.descent, 0.1*s.size)
	hook := 0.55 * s.size
	lead := max(0, degree.width-0.25*s.size)
	return piece{width: lead + hook + inner.width + 0.15*s.size, ascent: max(up+thick, 0.55*up+degree.ascent+degree.descent), descent: down, draw: func(x, base float64) {
		at(degree, x, base-0.5*up)
		x += lead
		p.pdf.SetDrawColor(0, 0, 0)
		p.pdf.SetLineWidth(thick)
		p.pdf.SetLineJoinStyle("miter")
		p.pdf.MoveTo(x+0.05*s.size, base-0.3*up)
		for _, to := range [][2]float64{{x + 0.17*s.size, base - 0.36*up}, {x + 0.34*s.size, base + down}, {x + hook, base - up}, {x + hook + inner.width + 0.1*s.size, base - up}} {
			p.pdf.LineTo(to[0], to[1])
		}
		p.pdf.DrawPath("D")
		at(inner, x+hook, base)
	}}
}

func scripts(base, sub, sup piece, s style) piece {
	rise := max(0.36*s.size, base.ascent-0.38*s.size)
	drop := max(0.16*s.size, base.descent-0.05*s.size)
	out := piece{width: base.width + max(sub.width, sup.width) + 0.04*s.size, ascent: base.ascent, descent: base.descent}
	if sup.draw != nil {
		out.ascent = max(out.ascent, rise+sup.ascent)
	}
	if sub.draw != nil {
		out.descent = max(out.descent, drop+sub.descent)
	}
	out.draw = func(x, y float64) {
		at(base, x, y)
		at(sup, x+base.width+0.02*s.size, y-rise)
		at(sub, x+base.width+0.02*s.size, y+drop)
	}
	return out
}

// accent gives what stands over or under a base; a bar is drawn as wide as the base.
func (p *Paper) accent(kids []*html.Node, i int, s style) piece {
	if i >= len(kids) {
		return piece{}
	}
	if text := textOf(kids[i]); kids[i].Data == "mo" && strings.Contains("¯‾_―─", text) && text != "" {
		return piece{width: -1, ascent: 0.1 * s.size}
	}
	return p.math(kids[i], s)
}

func (p *Paper) stacked(base, under, over piece, s style) piece {
	width := max(base.width, under.width, over.width)
	room := 0.06 * s.size
	out := piece{width: width, ascent: base.ascent, descent: base.descent}
	up, down := base.ascent+room+over.descent, base.descent+room+under.ascent
	if over.ascent > 0 {
		out.ascent = up + over.ascent
	}
	if under.ascent > 0 {
		out.descent = down + under.descent
	}
	mark := func(b piece, x, y float64) {
		if b.width < 0 {
			p.rule(x+(width-base.width)/2, y, x+(width+base.width)/2, y, bar*s.size)
			return
		}
		at(b, x+(width-b.width)/2, y)
	}
	out.draw = func(x, y float64) {
		at(base, x+(width-base.width)/2, y)
		mark(over, x, y-up)
		mark(under, x, y+down)
	}
	return out
}

func (p *Paper) matrix(rows []*html.Node, s style) piece {
	var cells [][]piece
	var widths []float64
	for _, r := range rows {
		var row []piece
		for i, c := range elements(r) {
			box := p.math(c, s)
			if i == len(widths) {
				widths = append(widths, 0)
			}
			widths[i] = max(widths[i], box.width)
			row = append(row, box)
		}
		cells = append(cells, row)
	}
	gap, room := 0.8*s.size, 0.3*s.size
	var width, height float64
	for _, w := range widths {
		width += w + gap
	}
	ups := make([]float64, len(cells))
	for i, row := range cells {
		line := beside(row)
		ups[i] = height + line.ascent
		height += line.ascent + line.descent + room
	}
	height = math.Max(height-room, 0)
	axis := axisHeight * s.size
	top := height/2 + axis
	return piece{width: max(width-gap, 0), ascent: top, descent: height - top, draw: func(x, base float64) {
		for i, row := range cells {
			at := x
			for k, box := range row {
				if box.draw != nil {
					box.draw(at+(widths[k]-box.width)/2, base-top+ups[i])
				}
				at += widths[k] + gap
			}
		}
	}}
}

// enclosed draws the notations of menclose that are lines.
func (p *Paper) enclosed(inner piece, notations []string, s style) piece {
	pad := 0.2 * s.size
	out := piece{width: inner.width + 2*pad, ascent: inner.ascent + pad, descent: inner.descent + pad}
	out.draw = func(x, base float64) {
		at(inner, x+pad, base)
		left, right, top, bottom := x, x+out.width, base-out.ascent, base+out.descent
		lines := map[string][][4]float64{
			"left": {{left, top, left, bottom}}, "right": {{right, top, right, bottom}}, "top": {{left, top, right, top}}, "bottom": {{left, bottom, right, bottom}},
			"box":              {{left, top, right, top}, {left, bottom, right, bottom}, {left, top, left, bottom}, {right, top, right, bottom}},
			"longdiv":          {{left, top, right, top}, {left, top, left, bottom}},
			"updiagonalstrike": {{left, bottom, right, top}}, "downdiagonalstrike": {{left, top, right, bottom}},
			"horizontalstrike": {{left, (top + bottom) / 2, right, (top + bottom) / 2}}, "verticalstrike": {{(left + right) / 2, top, (left + right) / 2, bottom}},
		}
		for _, n := range notations {
			for _, l := range lines[n] {
				p.rule(l[0], l[1], l[2], l[3], bar*s.size)
			}
		}
	}
	return out
}
