package paper

import (
	"bytes"
	"image/color"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"github.com/beevik/etree"
	"github.com/fyne-io/oksvg"
	"github.com/srwiley/rasterx"
)

// drawing is a picture in SVG: shapes, and over them texts.
type drawing struct {
	icon          *oksvg.SvgIcon
	width, height float64 // in pixels
	labels        []label
}

// label is a text of a drawing, where it stands on it.
type label struct {
	text   string
	at     rasterx.Matrix2D // from the label's own measure to the view box
	x, y   float64
	anchor string
	style  style
	color  color.Color
}

// DrawingError says what of a drawing cannot be set.
type DrawingError struct{ Reason string }

func (e *DrawingError) Error() string { return e.Reason }

// readDrawing reads the shapes with the registry's reader, which knows no text, and the texts here.
func readDrawing(data []byte) (*drawing, error) {
	doc := etree.NewDocument()
	if err := doc.ReadFromBytes(data); err != nil || doc.Root() == nil {
		return nil, &DrawingError{"it cannot be read"}
	}
	root := doc.Root()
	if err := beyond(root); err != nil {
		return nil, err
	}
	d := &drawing{}
	d.gather(root, inherited{matrix: rasterx.Identity, size: 16, color: color.Black})
	for _, e := range append(root.FindElements("//text"), root.FindElements("//title")...) {
		e.Parent().RemoveChild(e)
	}
	for _, e := range root.FindElements("//*[@transform]") {
		// The registry's reader takes one number for a height of nothing.
		e.CreateAttr("transform", evenScale.ReplaceAllString(e.SelectAttrValue("transform", ""), "scale($1 $1)"))
	}
	shapes, err := doc.WriteToBytes()
	if err != nil {
		return nil, err
	}
	if d.icon, err = oksvg.ReadIconStream(bytes.NewReader(shapes), oksvg.StrictErrorMode); err != nil {
		return nil, &DrawingError{err.Error()}
	}
	view := &d.icon.ViewBox
	d.width, d.height = number(root, "width", view.W), number(root, "height", view.H)
	if view.W == 0 || view.H == 0 {
		view.W, view.H = d.width, d.height
	}
	if view.W <= 0 || view.H <= 0 || d.width <= 0 || d.height <= 0 {
		return nil, &DrawingError{"it does not say its size"}
	}
	return d, nil
}

// beyond tells what of a drawing the registry's reader would pass over without a word.
func beyond(e *etree.Element) error {
	if slices.Contains([]string{"marker", "pattern", "clipPath", "symbol"}, e.Tag) {
		return &DrawingError{"it has a " + e.Tag}
	}
	for _, name := range []string{"clip-path", "marker-start", "marker-mid", "marker-end"} {
		if e.SelectAttrValue(name, "none") != "none" {
			return &DrawingError{"it has a " + name}
		}
	}
	for _, child := range e.ChildElements() {
		if err := beyond(child); err != nil {
			return err
		}
	}
	return nil
}

// number reads an attribute that is a number, of pixels where it is a length.
func number(e *etree.Element, name string, otherwise float64) float64 {
	v, err := strconv.ParseFloat(strings.TrimSuffix(strings.TrimSpace(e.SelectAttrValue(name, "")), "px"), 64)
	if err != nil || !finite(v) {
		return otherwise
	}
	return v
}

func finite(v float64) bool { return !math.IsNaN(v) && !math.IsInf(v, 0) }

// inherited is what a text takes from the elements around it.
type inherited struct {
	matrix       rasterx.Matrix2D
	size         float64
	anchor       string
	bold, italic bool
	color        color.Color
	hidden       bool
}

func (in inherited) with(e *etree.Element) inherited {
	in.matrix = in.matrix.Mult(transformOf(e.SelectAttrValue("transform", "")))
	in.size = number(e, "font-size", in.size)
	in.anchor = e.SelectAttrValue("text-anchor", in.anchor)
	if weight := e.SelectAttrValue("font-weight", ""); weight != "" {
		in.bold = weight == "bold" || weight >= "600"
	}
	if s := e.SelectAttrValue("font-style", ""); s != "" {
		in.italic = s == "italic" || s == "oblique"
	}
	if fill := e.SelectAttrValue("fill", ""); fill != "" && fill != "none" {
		if c, err := oksvg.ParseSVGColor(fill); err == nil && c != nil {
			in.color = c
		}
	}
	in.hidden = in.hidden || e.SelectAttrValue("display", "") == "none" || e.SelectAttrValue("visibility", "") == "hidden"
	return in
}

// gather collects the texts of an element and of those in it.
func (d *drawing) gather(e *etree.Element, in inherited) {
	if e.Tag == "defs" {
		return
	}
	in = in.with(e)
	if e.Tag == "text" && !in.hidden {
		d.text(e, in, number(e, "x", 0), number(e, "y", 0))
		return
	}
	for _, child := range e.ChildElements() {
		d.gather(child, in)
	}
}

// text takes a text and its spans; a span without a place of its own is set on the line before it.
func (d *drawing) text(e *etree.Element, in inherited, x, y float64) {
	x, y = x+number(e, "dx", 0), y+number(e, "dy", 0)
	if b := e.SelectAttrValue("dominant-baseline", ""); b == "middle" || b == "central" {
		y += 0.35 * in.size
	}
	text := ""
	for _, child := range e.Child {
		switch c := child.(type) {
		case *etree.CharData:
			text += c.Data
		case *etree.Element:
			if c.SelectAttr("x") == nil && c.SelectAttr("y") == nil && c.SelectAttr("dy") == nil {
				text += c.Text()
				continue
			}
			d.text(c, in.with(c), number(c, "x", x), number(c, "y", y))
		}
	}
	if text = strings.Join(strings.Fields(text), " "); text != "" {
		d.labels = append(d.labels, label{text: text, at: in.matrix, x: x, y: y, anchor: in.anchor, color: in.color,
			style: style{size: in.size, bold: in.bold, italic: in.italic}})
	}
}

var evenScale = regexp.MustCompile(`scale\s*\(\s*([^\s,)]+)\s*\)`)

var transformCall = regexp.MustCompile(`(\w+)\s*\(([^)]*)\)`)

// transformOf reads a transform attribute; what it does not know changes nothing.
func transformOf(text string) rasterx.Matrix2D {
	m := rasterx.Identity
	for _, call := range transformCall.FindAllStringSubmatch(text, -1) {
		var n [6]float64
		fields := strings.FieldsFunc(call[2], func(r rune) bool { return r == ',' || r == ' ' })
		for i := 0; i < len(fields) && i < len(n); i++ {
			if v, err := strconv.ParseFloat(fields[i], 64); err == nil && finite(v) {
				n[i] = v
			}
		}
		switch call[1] {
		case "translate":
			m = m.Translate(n[0], n[1])
		case "scale":
			if len(fields) == 1 {
				n[1] = n[0]
			}
			m = m.Scale(n[0], n[1])
		case "rotate":
			m = m.Translate(n[1], n[2]).Rotate(n[0]*math.Pi/180).Translate(-n[1], -n[2])
		case "matrix":
			m = m.Mult(rasterx.Matrix2D{A: n[0], B: n[1], C: n[2], D: n[3], E: n[4], F: n[5]})
		}
	}
	return m
}

// draw sets a drawing into a rectangle, as vectors.
func (p *Paper) draw(d *drawing, x, y, w, h float64) {
	view := d.icon.ViewBox
	scale := min(w/view.W, h/view.H)
	// In the middle of the rectangle, as preserveAspectRatio has it unless it says otherwise.
	x, y = x+(w-scale*view.W)/2-scale*view.X, y+(h-scale*view.H)/2-scale*view.Y
	p.pdf.ClipRect(x+scale*view.X, y+scale*view.Y, scale*view.W, scale*view.H, false)
	for i := range d.icon.SVGPaths {
		p.shape(&d.icon.SVGPaths[i], rasterx.Identity.Translate(x, y).Scale(scale, scale))
	}
	for _, l := range d.labels {
		p.label(l, x, y, scale)
	}
	p.pdf.ClipEnd()
}

func (p *Paper) label(l label, x, y, scale float64) {
	s := l.style
	turn := math.Atan2(l.at.B, l.at.A) * 180 / math.Pi
	s.size *= scale * math.Sqrt(math.Abs(l.at.A*l.at.D-l.at.B*l.at.C))
	left, base := l.at.Transform(l.x, l.y)
	left, base = x+scale*left, y+scale*base
	width := p.measure(l.text, s)
	p.pdf.TransformBegin()
	p.pdf.TransformRotate(-turn, left, base)
	switch l.anchor {
	case "middle":
		left -= width / 2
	case "end":
		left -= width
	}
	p.colored(l.color, func() { p.text(left, base, l.text, s) })
	p.pdf.TransformEnd()
}

// colored draws text in a color.
func (p *Paper) colored(c color.Color, draw func()) {
	p.ink = c
	draw()
	p.ink = nil
}
