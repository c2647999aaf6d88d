package paper

import (
	"bytes"
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"
	"pgregory.net/rapid"

	"pineledger/formats/paper/papertest"
)

// markup draws formatted text of the safe subset, as deep as given.
func markup(t *rapid.T, deep int) string {
	var out strings.Builder
	for range rapid.IntRange(0, 4).Draw(t, "pieces") {
		word := rapid.StringMatching(`[a-zA-Zé≤∠ ]{0,12}`).Draw(t, "word")
		if deep == 0 {
			out.WriteString(word)
			continue
		}
		inner := func() string { return markup(t, deep-1) }
		switch rapid.IntRange(0, 9).Draw(t, "element") {
		case 0:
			out.WriteString("<p>" + inner() + "</p>")
		case 1:
			out.WriteString("<ul><li>" + inner() + "</li><li>" + inner() + "</li></ul>")
		case 2:
			out.WriteString("<ol><li>" + inner() + "</li></ol>")
		case 3:
			out.WriteString("<table><tr><th>" + inner() + "</th><td>" + word + "</td></tr><tr><td>" + inner() + "</td></tr></table>")
		case 4:
			out.WriteString("<strong>" + inner() + "</strong>")
		case 5:
			out.WriteString("<em>" + word + "</em><sub>" + inner() + "</sub>")
		case 6:
			out.WriteString("<u>" + word + "</u><br>")
		case 7:
			out.WriteString("<blockquote>" + inner() + "</blockquote>")
		case 8:
			out.WriteString("<math>" + formula(t, 3) + "</math>")
		default:
			out.WriteString(word)
		}
	}
	return out.String()
}

// formula draws MathML of the safe subset.
func formula(t *rapid.T, deep int) string {
	if deep == 0 {
		return rapid.SampledFrom([]string{"<mi>x</mi>", "<mn>12</mn>", "<mo>+</mo>", "<mo>(</mo>", "<mo>|</mo>", "<mtext>if</mtext>", "<mspace width=\"1em\"></mspace>", "<mi>sin</mi>", "<mo>−</mo>", ""}).Draw(t, "leaf")
	}
	inner := func() string { return formula(t, deep-1) }
	row := func() string { return "<mrow>" + inner() + inner() + "</mrow>" }
	element := rapid.SampledFrom([]string{"mfrac", "msqrt", "mroot", "msup", "msub", "msubsup", "mover", "munder", "munderover", "mrow", "mtable", "menclose", "mstyle", "mpadded", "mphantom"}).Draw(t, "box")
	switch element {
	case "mtable":
		return "<mtable><mtr><mtd>" + row() + "</mtd><mtd>" + row() + "</mtd></mtr><mtr><mtd>" + row() + "</mtd></mtr></mtable>"
	case "menclose":
		return `<menclose notation="box longdiv updiagonalstrike">` + row() + "</menclose>"
	}
	// Fewer and more children than an element takes come too.
	var kids strings.Builder
	for range rapid.IntRange(0, 4).Draw(t, "kids") {
		kids.WriteString(row())
	}
	return "<" + element + ">" + kids.String() + "</" + element + ">"
}

// Whatever is written, it is set in its width and makes a sound document.
func TestAnyFormattedTextIsSet(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := blank(rapid.SampledFrom([]float64{10, 12, 24}).Draw(t, "size"), rapid.IntRange(1, 2).Draw(t, "columns"))
		text := markup(t, 3)
		slabs := p.HTML(text, p.Width(), Look{})
		for _, s := range slabs {
			assert.False(t, math.IsNaN(s.Height) || math.IsInf(s.Height, 0) || s.Height < 0, "%v in %s", s.Height, text)
			assert.LessOrEqual(t, s.Base, s.Height+0.01)
		}
		if n := len(slabs); n > 0 {
			assert.False(t, slabs[n-1].Space, "no room is left at the end")
		}
		var out bytes.Buffer
		require.NoError(t, p.Write(&out, slabs), text)
		assert.Contains(t, out.String(), "%PDF-")
	})
}

// A box holds its parts: it is as wide as what stands side by side in it, and as high as the highest.
func TestAFormulaHoldsItsParts(t *testing.T) {
	p := blank(12, 1)
	box := func(markup string) piece {
		nodes, err := html.ParseFragment(strings.NewReader("<math>"+markup+"</math>"), &html.Node{Type: html.ElementNode, Data: "div", DataAtom: atom.Div})
		require.NoError(t, err)
		return p.math(nodes[0], style{size: 12})
	}
	rapid.Check(t, func(t *rapid.T) {
		a, b := "<mrow>"+formula(t, 2)+"</mrow>", "<mrow>"+formula(t, 2)+"</mrow>"
		one, two := box(a), box(b)
		for _, x := range []float64{one.width, one.ascent, one.descent} {
			assert.False(t, math.IsNaN(x) || math.IsInf(x, 0), a)
		}
		assert.GreaterOrEqual(t, one.width, 0.0)
		both := box("<mrow>" + a + b + "</mrow>")
		assert.InDelta(t, one.width+two.width, both.width, 0.01, "%s %s", a, b)
		assert.InDelta(t, max(one.ascent, two.ascent), both.ascent, 0.01)
		half := box("<mfrac>" + a + b + "</mfrac>")
		assert.GreaterOrEqual(t, half.width+0.01, 0.8*max(one.width, two.width), "numbers of a fraction are smaller, and fit")
		root := box("<msqrt>" + a + "</msqrt>")
		assert.Greater(t, root.width, one.width)
		assert.Greater(t, root.ascent, one.ascent)
	})
}

// What is one slab in a table is not cut: every word of a row is on one page.
func TestRowsOfATableAreNotCut(t *testing.T) {
	p := blank(18, 1)
	var text strings.Builder
	for i := range 60 {
		fmt.Fprintf(&text, "<tr><td>begin%d</td><td>%s</td><td>end%d</td></tr>", i, strings.Repeat("tide and ferry ", i%7+1), i)
	}
	pages := written(t, p, p.HTML("<table>"+text.String()+"</table>", p.Width(), Look{}))
	require.Greater(t, len(pages), 2)
	for i := range 60 {
		for _, page := range pages {
			words := strings.Fields(page)
			begins, ends := false, false
			for _, w := range words {
				begins, ends = begins || w == fmt.Sprintf("begin%d", i), ends || w == fmt.Sprintf("end%d", i)
			}
			assert.Equal(t, begins, ends, "row %d", i)
		}
	}
}

// A drawing that the shelf lets in is set or refused with its reason, whatever is in it.
func FuzzDrawing(f *testing.F) {
	f.Add([]byte(boat))
	f.Add([]byte(`<svg width="9" height="9"><path d="M0 0 A 3 3 0 0 1 6 6 S 1 2 3 4 T 5 6 H 7 V 8 z m 1 1 l 2 2"/></svg>`))
	f.Add([]byte(`<svg viewBox="0 0 9 9"><g transform="scale(0) rotate(1,2)"><circle r="-1"/><ellipse rx="2"/></g><use href="#x"/></svg>`))
	f.Add([]byte(`<svg width="9" height="9"><linearGradient id="a"/><rect fill="url(#a)" width="9" height="9" rx="3"/><text>x<tspan x="1">y</tspan></text></svg>`))
	f.Add([]byte(`<svg width="1e9" height="1e-9"><polyline points="1,2 3"/><line x1="a"/></svg>`))
	f.Fuzz(func(t *testing.T, data []byte) {
		d, err := readDrawing(data)
		if err != nil {
			var refused *DrawingError
			assert.ErrorAs(t, err, &refused)
			return
		}
		p := blank(12, 1)
		var out bytes.Buffer
		require.NoError(t, p.Write(&out, []Slab{{Height: 100, Draw: func(x, y float64) { p.draw(d, x, y, 200, 100) }}}))
		papertest.Pages(t, out.Bytes())
	})
}

// soup draws an element with attributes that need not make sense, and what is in it.
func soup(t *rapid.T, deep int) string {
	tag := rapid.SampledFrom([]string{"g", "path", "rect", "circle", "ellipse", "line", "polyline", "polygon", "text", "tspan", "use", "defs", "linearGradient", "radialGradient", "stop", "title", "desc"}).Draw(t, "tag")
	var out strings.Builder
	out.WriteString("<" + tag)
	for _, name := range rapid.SliceOfNDistinct(rapid.SampledFrom([]string{"id", "x", "y", "x1", "x2", "cx", "r", "rx", "ry", "dx", "dy", "width", "height", "d", "points", "transform", "fill", "fill-opacity", "fill-rule",
		"stroke", "stroke-width", "stroke-dasharray", "stroke-linecap", "stroke-linejoin", "opacity", "font-size", "text-anchor", "offset", "stop-color", "gradientUnits", "gradientTransform", "href", "display"}), 0, 6, rapid.ID[string]).Draw(t, "names") {
		value := rapid.SampledFrom([]string{"", "1", "-3", "1e9", "0", "NaN", "10%", "5px", "url(#a)", "url(#", "#a", "red", "#zz", "#12345678", "none", "currentColor", "inherit", "M0 0L1", "M 0 0 L 9 9 Z", "A 1 1", "M1 1A3 3 0 0 1 6 6",
			"rotate(", "scale()", "scale(2)", "matrix(1)", "matrix(1 0 0 1 2 3)", "skewX(9)", "1,2 3", "1,2 3,4 5,6", "4 2", "round", "bevel", "middle", "evenodd", "userSpaceOnUse", "a"}).Draw(t, "value")
		fmt.Fprintf(&out, " %s=%q", name, value)
	}
	out.WriteString(">")
	if deep > 0 {
		for range rapid.IntRange(0, 3).Draw(t, "children") {
			out.WriteString(soup(t, deep-1))
		}
	}
	return out.String() + "mast</" + tag + ">"
}

func TestAnyDrawingIsSetOrRefused(t *testing.T) {
	set := 0
	rapid.Check(t, func(t *rapid.T) {
		svg := `<svg xmlns="http://www.w3.org/2000/svg" width="100" height="50">` + soup(t, 3) + soup(t, 2) + "</svg>"
		d, err := readDrawing([]byte(svg))
		if err != nil {
			var refused *DrawingError
			assert.ErrorAs(t, err, &refused)
			return
		}
		set++
		p := blank(12, 1)
		p.pdf.SetCompression(false) // so that what is written can be read
		var out bytes.Buffer
		require.NoError(t, p.Write(&out, []Slab{{Height: 100, Draw: func(x, y float64) { p.draw(d, x, y, 200, 100) }}}))
		_, content, _ := bytes.Cut(out.Bytes(), []byte("stream\n"))
		content, _, _ = bytes.Cut(content, []byte("endstream"))
		assert.False(t, bytes.Contains(content, []byte("NaN")) || bytes.Contains(content, []byte("Inf")), svg)
	})
	assert.Positive(t, set)
}
