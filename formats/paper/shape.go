package paper

import (
	"image"
	"image/color"
	"math"
	"reflect"

	"github.com/fyne-io/oksvg"
	"github.com/srwiley/rasterx"
	"golang.org/x/image/math/fixed"
)

// shape draws a shape of a drawing as a path of the page: filled, then outlined.
func (p *Paper) shape(shape *oksvg.SvgPath, place rasterx.Matrix2D) {
	own, paints := looked(shape)
	m := place.Mult(own)
	for _, paint := range paints {
		c := color.NRGBAModel.Convert(paint.color).(color.NRGBA)
		if c.A == 0 {
			continue
		}
		p.pdf.SetAlpha(float64(c.A)/0xFF, "Normal")
		operation := "f"
		switch {
		case !paint.fill:
			operation = "S"
			p.pen(shape, math.Sqrt(math.Abs(m.A*m.D-m.B*m.C)))
			p.pdf.SetDrawColor(int(c.R), int(c.G), int(c.B))
		case paint.evenOdd:
			operation = "f*"
			fallthrough
		default:
			p.pdf.SetFillColor(int(c.R), int(c.G), int(c.B))
		}
		p.path(shape.Path, m)
		p.pdf.DrawPath(operation)
		p.pdf.SetAlpha(1, "Normal")
		p.pdf.SetDashPattern(nil, 0)
		p.pdf.SetLineCapStyle("butt")
		p.pdf.SetLineJoinStyle("miter")
	}
}

// pen sets how an outline is drawn. Widths and dashes are in the shape's own measure.
func (p *Paper) pen(shape *oksvg.SvgPath, scale float64) {
	p.pdf.SetLineWidth(shape.LineWidth * scale)
	same := func(a, b rasterx.CapFunc) bool {
		return a != nil && reflect.ValueOf(a).Pointer() == reflect.ValueOf(b).Pointer()
	}
	switch {
	case same(shape.LineCap, rasterx.RoundCap):
		p.pdf.SetLineCapStyle("round")
	case same(shape.LineCap, rasterx.SquareCap):
		p.pdf.SetLineCapStyle("square")
	}
	switch shape.LineJoin {
	case rasterx.Round, rasterx.Arc, rasterx.ArcClip:
		p.pdf.SetLineJoinStyle("round")
	case rasterx.Bevel:
		p.pdf.SetLineJoinStyle("bevel")
	}
	var dashes []float64
	for _, d := range shape.Dash {
		dashes = append(dashes, d*scale)
	}
	if len(dashes) > 0 {
		p.pdf.SetDashPattern(dashes, shape.DashOffset*scale)
	}
}

// path writes a path of lines and curves, each command followed by its points.
func (p *Paper) path(path rasterx.Path, m rasterx.Matrix2D) {
	point := func(i int) (float64, float64) {
		return m.Transform(float64(path[i])/64, float64(path[i+1])/64)
	}
	for i := 0; i < len(path); {
		switch rasterx.PathCommand(path[i]) {
		case rasterx.PathMoveTo:
			p.pdf.MoveTo(point(i + 1))
			i += 3
		case rasterx.PathLineTo:
			p.pdf.LineTo(point(i + 1))
			i += 3
		case rasterx.PathQuadTo:
			cx, cy := point(i + 1)
			x, y := point(i + 3)
			p.pdf.CurveTo(cx, cy, x, y)
			i += 5
		case rasterx.PathCubicTo:
			ax, ay := point(i + 1)
			bx, by := point(i + 3)
			x, y := point(i + 5)
			p.pdf.CurveBezierCubicTo(ax, ay, bx, by, x, y)
			i += 7
		default:
			p.pdf.ClosePath()
			i++
		}
	}
}

// paint is one way in which a shape is painted.
type paint struct {
	fill    bool
	evenOdd bool
	color   color.Color
}

// looked finds out how a shape is placed and painted. The registry's reader tells neither, but
// paints on any scanner: what it does with a known triangle gives the matrix, what it does with
// the shape itself the colors.
func looked(shape *oksvg.SvgPath) (rasterx.Matrix2D, []paint) {
	const side = 1000
	probe := *shape
	probe.Path = nil
	probe.Path.Start(fixed.P(0, 0))
	probe.Path.Line(fixed.P(side, 0))
	probe.Path.Line(fixed.P(0, side))
	probe.Path.Stop(true)
	probe.SetFillColor(color.Black)
	probe.SetLineColor(nil)
	var seen watcher
	probe.Draw(rasterx.NewDasher(side, side, &seen), 1)
	at := func(i int) (float64, float64) { return float64(seen.points[i].X) / 64, float64(seen.points[i].Y) / 64 }
	e, f := at(0)
	ax, ay := at(1)
	bx, by := at(2)
	m := rasterx.Matrix2D{A: (ax - e) / side, B: (ay - f) / side, C: (bx - e) / side, D: (by - f) / side, E: e, F: f}

	seen = watcher{}
	shape.Draw(rasterx.NewDasher(side, side, &seen), 1)
	return m, seen.paints
}

// watcher is a scanner that paints nothing and remembers what it was told.
type watcher struct {
	points  []fixed.Point26_6
	paints  []paint
	now     paint
	outline fixed.Rectangle26_6
}

func (w *watcher) Start(a fixed.Point26_6) { w.Line(a) }

func (w *watcher) Line(b fixed.Point26_6) {
	w.points = append(w.points, b)
	dot := fixed.Rectangle26_6{Min: b, Max: b.Add(fixed.Point26_6{X: 1, Y: 1})}
	if w.outline.Empty() {
		w.outline = dot
	}
	w.outline = w.outline.Union(dot)
}

// SetWinding is told before a shape is filled, and not before it is outlined.
func (w *watcher) SetWinding(nonZero bool) { w.now.fill, w.now.evenOdd = true, !nonZero }

// SetColor takes a color; of a gradient the one in its middle.
func (w *watcher) SetColor(c interface{}) {
	switch c := c.(type) {
	case color.Color:
		w.now.color = c
	case rasterx.ColorFunc:
		middle := w.outline.Min.Add(w.outline.Max).Div(fixed.I(2))
		w.now.color = c(middle.X.Round(), middle.Y.Round())
	}
}

func (w *watcher) Draw() {
	if w.now.color != nil {
		w.paints = append(w.paints, w.now)
	}
}

func (w *watcher) Clear() {
	w.now, w.outline = paint{}, fixed.Rectangle26_6{}
}

func (w *watcher) GetPathExtent() fixed.Rectangle26_6 { return w.outline }
func (w *watcher) SetBounds(int, int)                 {}
func (w *watcher) SetClip(image.Rectangle)            {}
