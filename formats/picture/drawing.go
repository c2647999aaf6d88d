package picture

import (
	"bytes"
	"errors"
	"math"
	"slices"
	"strconv"
	"strings"

	"github.com/beevik/etree"
)

// The subset of SVG that a drawing keeps: shapes and text, no scripts, no styles
// that reach outside, no links, nothing that loads.
var (
	drawn = []string{"svg", "g", "defs", "title", "desc", "path", "rect", "circle", "ellipse", "line", "polyline", "polygon", "text", "tspan",
		"linearGradient", "radialGradient", "stop", "clipPath", "marker", "pattern", "symbol", "use"}
	attributes = []string{"id", "x", "y", "x1", "y1", "x2", "y2", "cx", "cy", "r", "rx", "ry", "dx", "dy", "width", "height", "d", "points", "viewBox", "preserveAspectRatio",
		"transform", "fill", "fill-opacity", "fill-rule", "stroke", "stroke-width", "stroke-linecap", "stroke-linejoin", "stroke-dasharray", "stroke-opacity", "opacity",
		"font-size", "font-family", "font-weight", "font-style", "text-anchor", "dominant-baseline", "letter-spacing", "offset", "stop-color", "stop-opacity",
		"gradientUnits", "gradientTransform", "clip-path", "clip-rule", "marker-start", "marker-mid", "marker-end", "markerWidth", "markerHeight", "refX", "refY", "orient",
		"markerUnits", "patternUnits", "href", "role", "aria-label", "color", "display", "visibility", "xmlns"}
)

const (
	svgNamespace = "http://www.w3.org/2000/svg"
	mostDrawn    = 100_000 // elements
	mostNested   = 100
)

var errNotDrawing = errors.New("is text, not a drawing in SVG")

func drawing(data []byte) (Clean, error) {
	doc := etree.NewDocument()
	if !bytes.Contains(data, []byte("<svg")) {
		return Clean{}, errNotDrawing
	}
	if err := doc.ReadFromBytes(data); err != nil || doc.Root() == nil || doc.Root().Tag != "svg" {
		return Clean{}, errNotDrawing
	}
	count := 0
	if err := cleaned(doc.Root(), 0, &count); err != nil {
		return Clean{}, err
	}
	root := doc.Root().Copy()
	root.Space = ""
	root.RemoveAttr("xmlns")
	root.CreateAttr("xmlns", svgNamespace)
	out := Clean{Type: "image/svg+xml", Ending: ".svg"}
	if out.Width, out.Height = sides(root); out.Width == 0 || out.Height == 0 {
		return Clean{}, errors.New("is a drawing that does not say its size")
	}
	kept := etree.NewDocument()
	kept.SetRoot(root)
	var err error
	out.Data, err = kept.WriteToBytes()
	return out, err
}

func cleaned(e *etree.Element, deep int, count *int) error {
	if *count++; *count > mostDrawn || deep > mostNested {
		return errors.New("is a drawing of too many parts")
	}
	e.Space = ""
	var kept []etree.Attr
	for _, a := range e.Attr {
		local := a.Space == "" || a.Space == "xlink" && a.Key == "href"
		if !local || !slices.Contains(attributes, a.Key) || reachesOut(a.Key, a.Value) {
			continue
		}
		a.Space = ""
		kept = append(kept, a)
	}
	e.Attr = kept
	for _, child := range slices.Clone(e.Child) {
		switch c := child.(type) {
		case *etree.Element:
			if !slices.Contains(drawn, c.Tag) {
				e.RemoveChild(c)
				continue
			}
			if err := cleaned(c, deep+1, count); err != nil {
				return err
			}
		case *etree.CharData:
		default: // comments, instructions
			e.RemoveChild(child)
		}
	}
	return nil
}

// reachesOut tells an attribute that refers to anything but a part of the drawing.
func reachesOut(name, value string) bool {
	v := strings.ToLower(strings.ReplaceAll(value, " ", ""))
	if name == "href" {
		return !strings.HasPrefix(v, "#")
	}
	return strings.Contains(v, "url(") && !strings.Contains(v, "url(#") || strings.Contains(v, "javascript:") || strings.Contains(v, "data:")
}

// sides reads the size of a drawing, from its view where it has no sides of its own.
func sides(root *etree.Element) (width, height int) {
	length := func(s string) int {
		v, err := strconv.ParseFloat(strings.TrimSuffix(strings.TrimSpace(s), "px"), 64)
		if err != nil || v < 1 || v > mostSide {
			return 0
		}
		return int(math.Round(v))
	}
	width, height = length(root.SelectAttrValue("width", "")), length(root.SelectAttrValue("height", ""))
	if view := strings.Fields(strings.ReplaceAll(root.SelectAttrValue("viewBox", ""), ",", " ")); (width == 0 || height == 0) && len(view) == 4 {
		width, height = length(view[2]), length(view[3])
	}
	return width, height
}
