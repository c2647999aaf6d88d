package paper

import (
	"bytes"
	"errors"
	"image"
	"image/color"
	"image/png"
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/formats/paper/papertest"
)

func blank(size float64, columns int) *Paper {
	return New(Options{Title: "Tides", Language: "en", Size: size, Columns: columns, Foot: "Tides", Made: time.Unix(0, 0)})
}

func written(t *testing.T, p *Paper, slabs []Slab) []string {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, p.Write(&out, slabs))
	return papertest.Pages(t, out.Bytes())
}

func TestTextIsReadBackInItsOrder(t *testing.T) {
	p := blank(12, 1)
	pages := written(t, p, p.HTML(`<h3>At the <em>pier</em></h3><p>Is 3 ≤ π, and is ∠ABC → right?</p><ul><li>One</li><li>Two<ol><li>inner</li></ol></li></ul>
		<table><caption>Catch</caption><tr><th>Day</th><th>Crates</th></tr><tr><td>Monday</td><td>4</td></tr></table>
		<blockquote>H<sub>2</sub>O &amp; <u>salt</u><br>next</blockquote><audio src="/media/x" aria-label="a horn"></audio>`, p.Width(), Look{}))
	require.Len(t, pages, 1)
	assert.Equal(t, "At the pier Is 3 ≤ π , and is ∠ ABC → right? One • Two • inner 1. Catch Day Crates Monday 4 H 2 O & salt next [sound: a horn] Tides 1 / 1",
		strings.Join(strings.Fields(pages[0]), " "), "a sign that the face lacks is set in another, apart")
}

// No line is wider than there is room, and no letter is lost, whatever the words.
func TestLinesKeepToTheirWidth(t *testing.T) {
	p := blank(12, 1)
	rapid.Check(t, func(t *rapid.T) {
		text := strings.Join(rapid.SliceOf(rapid.StringMatching(`[a-zé≤]{1,40}`)).Draw(t, "words"), " ")
		width := rapid.Float64Range(30, 400).Draw(t, "width")
		s := p.begin(Look{Bold: rapid.Bool().Draw(t, "bold")})
		var letters strings.Builder
		for _, slab := range p.lines(p.words(text, s, width), width, s) {
			assert.LessOrEqual(t, slab.Width, width+0.02)
		}
		for _, c := range p.words(text, s, width) {
			if !c.space {
				letters.WriteString("x")
			}
		}
		var sum float64
		for _, c := range p.words(text, s, width) {
			sum += c.width
		}
		assert.InDelta(t, p.measure(text, s), sum, 0.01*float64(len(text))+0.1, "pieces are together as wide as the text")
	})
}

// Slabs keep their order, stay on the page, and what is kept together stands in one column where it fits.
func TestPagesBreakWhereTheyMay(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := blank(12, rapid.IntRange(1, 2).Draw(t, "columns"))
		const full = pageHeight - 2*margin - foot
		n := rapid.IntRange(0, 60).Draw(t, "slabs")
		slabs := make([]Slab, n)
		for i := range slabs {
			slabs[i] = Slab{Height: rapid.Float64Range(1, full).Draw(t, "height"), Keep: rapid.Bool().Draw(t, "keep"), Space: rapid.IntRange(0, 5).Draw(t, "space") == 0, Width: float64(i)}
		}
		where := map[int][2]float64{}
		last := -1.0
		for page, list := range p.pages(slabs) {
			y, x := 0.0, 0.0
			for _, s := range list {
				assert.Greater(t, s.Width, last, "in their order")
				last = s.Width
				if s.x != x {
					x, y = s.x, margin
				}
				assert.InDelta(t, y, s.y, 0.01, "one under the other")
				y += s.Height
				assert.LessOrEqual(t, s.y+s.Height, pageHeight-margin-foot+0.01)
				where[int(s.Width)] = [2]float64{float64(page), s.x}
			}
		}
		for i, s := range slabs {
			if _, set := where[i]; !set {
				assert.True(t, s.Space, "only room goes")
			}
		}
		for i := 0; i < n; {
			end := i + 1
			for end < n && slabs[end-1].Keep {
				end++
			}
			if heightOf(slabs[i:end]) <= full {
				for k := i + 1; k < end; k++ {
					a, ok := where[k-1]
					b, too := where[k]
					assert.True(t, !ok || !too || a == b, "slabs %d and %d are kept together", k-1, k)
				}
			}
			i = end
		}
	})
}

func TestColumnsOfATableShareTheWidth(t *testing.T) {
	assert.Equal(t, []float64{20, 30}, shared([]float64{20, 30}, 100), "what they need")
	assert.Equal(t, []float64{20, 40, 40}, shared([]float64{20, 300, 90}, 100), "the small one keeps, the others share")
	assert.Equal(t, []float64{50, 50}, shared([]float64{70, 80}, 100))
}

func mathBox(t *testing.T, p *Paper, markup string) piece {
	t.Helper()
	set := p.setter(400, Look{})
	set.add("<math>" + markup + "</math>")
	require.Len(t, set.inline, 1)
	return set.inline[0]
}

func TestFormulasAreBoxesInBoxes(t *testing.T) {
	p := blank(20, 1)
	half := mathBox(t, p, "<mfrac><mn>1</mn><mn>2</mn></mfrac>")
	one := mathBox(t, p, "<mn>1</mn>")
	assert.Greater(t, half.ascent, one.ascent)
	assert.Greater(t, half.descent, one.descent)
	squared := mathBox(t, p, "<msup><mi>x</mi><mn>2</mn></msup>")
	assert.Less(t, squared.width, mathBox(t, p, "<mi>x</mi><mn>2</mn>").width, "an index is smaller")
	assert.Greater(t, mathBox(t, p, "<msub><mi>x</mi><mn>2</mn></msub>").descent, squared.descent)
	fenced := mathBox(t, p, "<mo>(</mo><mfrac><mn>1</mn><mn>2</mn></mfrac><mo>)</mo>")
	assert.InDelta(t, half.ascent, fenced.ascent, 0.01, "brackets grow with what they hold")
	minus := func(markup string) float64 { return mathBox(t, p, markup).width }
	assert.Greater(t, minus("<mn>5</mn><mo>−</mo><mn>3</mn>"), minus("<mn>5</mn>")+minus("<mo>−</mo><mn>3</mn>"), "room around a minus that subtracts")
	assert.InDelta(t, minus("<mo>|</mo><mo>−</mo><mn>3</mn>"), minus("<mo>|</mo>")+minus("<mo>−</mo><mn>3</mn>"), 0.01, "and none where it is a sign")
	phantom := mathBox(t, p, "<mphantom><mn>12</mn></mphantom>")
	assert.InDelta(t, mathBox(t, p, "<mn>12</mn>").width, phantom.width, 0.01)
	assert.InDelta(t, 40, mathBox(t, p, `<mspace width="2em"></mspace>`).width, 0.01)
}

func TestEveryElementOfAFormulaIsSet(t *testing.T) {
	p := blank(12, 1)
	pages := written(t, p, p.HTML(`<p>So <math><semantics><mrow><msqrt><mi>a</mi></msqrt><mroot><mi>b</mi><mn>3</mn></mroot><msubsup><mi>c</mi><mn>4</mn><mn>5</mn></msubsup>
		<mover><mi>d</mi><mo>¯</mo></mover><munder><mi>e</mi><mi>f</mi></munder><munderover><mo>∑</mo><mi>g</mi><mi>h</mi></munderover>
		<mrow><mo>[</mo><mtable><mtr><mtd><mi>i</mi></mtd><mtd><mi>j</mi></mtd></mtr><mtr><mtd><mi>k</mi></mtd></mtr></mtable><mo>]</mo></mrow>
		<menclose notation="longdiv"><mi>l</mi></menclose><mstyle><mi>sin</mi><mi>x</mi></mstyle><mtext>if so</mtext><mphantom><mi>z</mi></mphantom></mrow><annotation encoding="application/x-tex">\TeX</annotation></semantics></math>.</p>
		<math display="block"><mn>1</mn><mo>-</mo><mn>2</mn></math>`, p.Width(), Look{}))
	assert.Equal(t, "So a 3 b c 5 4 d e f ∑ h g [ i j k ] l sin x if so . 1 − 2 Tides 1 / 1", strings.Join(strings.Fields(pages[0]), " "))
}

const boat = `<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100" viewBox="0 0 100 50"><defs><linearGradient id="sea"><stop offset="0" stop-color="#000000"/><stop offset="1" stop-color="#0000ff"/></linearGradient></defs>
	<g transform="translate(10 5) scale(2)" stroke="#ff0000" stroke-width="3" stroke-dasharray="4 2" stroke-linecap="round"><rect x="1" y="2" width="10" height="5" fill="#00ff00" fill-opacity="0.5"/></g>
	<path d="M 1 1 L 9 1 Q 9 9 5 9 C 4 9 1 4 1 1 Z" fill="url(#sea)" stroke="none"/>
	<g font-size="10" text-anchor="middle"><text x="50" y="40" transform="rotate(90 50 40)">mast <tspan font-weight="bold">head</tspan><tspan x="60" dy="3">keel</tspan></text></g><text display="none">hidden</text></svg>`

func TestADrawingIsReadWithItsPlacesColorsAndTexts(t *testing.T) {
	d, err := readDrawing([]byte(boat))
	require.NoError(t, err)
	assert.Equal(t, []float64{200, 100}, []float64{d.width, d.height})
	require.Len(t, d.icon.SVGPaths, 2)
	m, paints := looked(&d.icon.SVGPaths[0])
	assert.InDeltaSlice(t, []float64{2, 0, 0, 2, 10, 5}, []float64{m.A, m.B, m.C, m.D, m.E, m.F}, 0.001)
	require.Len(t, paints, 2)
	assert.Equal(t, []bool{true, false}, []bool{paints[0].fill, paints[1].fill}, "filled, then outlined")
	assert.Equal(t, color.NRGBA{G: 255, A: 127}, paints[0].color)
	assert.Equal(t, color.NRGBA{R: 255, A: 255}, paints[1].color)
	_, paints = looked(&d.icon.SVGPaths[1])
	require.Len(t, paints, 1)
	blue := color.NRGBAModel.Convert(paints[0].color).(color.NRGBA).B
	assert.InDelta(t, 127, float64(blue), 20, "of a gradient the color in its middle")

	require.Len(t, d.labels, 2)
	keel, mast := d.labels[0], d.labels[1]
	assert.Equal(t, []any{"mast head", "middle", 10.0, false}, []any{mast.text, mast.anchor, mast.style.size, mast.style.bold})
	assert.Equal(t, []any{"keel", 60.0, 43.0}, []any{keel.text, keel.x, keel.y})
	assert.InDelta(t, 90, math.Atan2(mast.at.B, mast.at.A)*180/math.Pi, 0.001)
	x, y := mast.at.Transform(50, 40)
	assert.InDeltaSlice(t, []float64{50, 40}, []float64{x, y}, 0.001, "turned around itself")
}

func TestADrawingThatCannotBeSetIsRefusedWithItsReason(t *testing.T) {
	for want, svg := range map[string]string{
		"clip-path":         `<svg width="9" height="9"><rect width="3" height="3" clip-path="url(#c)"/></svg>`,
		"pattern":           `<svg width="9" height="9"><defs><pattern id="p"/></defs></svg>`,
		"marker-end":        `<svg width="9" height="9"><line x2="3" marker-end="url(#m)"/></svg>`,
		"cannot be read":    `<svg`,
		"does not say":      `<svg><rect width="3" height="3"/></svg>`,
		"svg element image": `<svg width="9" height="9"><image/></svg>`,
	} {
		_, err := readDrawing([]byte(svg))
		var refused *DrawingError
		require.ErrorAs(t, err, &refused, want)
		assert.Contains(t, err.Error(), want)
	}
}

func TestPicturesOfTheShelf(t *testing.T) {
	var deep bytes.Buffer
	require.NoError(t, png.Encode(&deep, image.NewNRGBA64(image.Rect(0, 0, 40, 20))))
	files := map[string]struct {
		kind string
		data []byte
	}{"/media/deep": {"image/png", deep.Bytes()}, "/media/boat": {"image/svg+xml", []byte(boat)}}
	p := New(Options{Size: 12, Made: time.Unix(0, 0), Media: func(source string) (string, []byte, error) {
		f, ok := files[source]
		if !ok {
			return "", nil, errors.New("there is no such file")
		}
		return f.kind, f.data, nil
	}})
	slabs := p.HTML(`<p>A boat <img src="/media/boat" width="100" alt="a boat"> and <img src="/media/deep" alt="dots"></p>`, p.Width(), Look{})
	require.Len(t, slabs, 1)
	assert.InDelta(t, 100*pixel/2, slabs[0].Base, 0.01, "as wide as it says, half as high")
	picture := p.Picture("/media/boat", 4000, p.Width())
	assert.InDelta(t, p.Width(), picture[0].Width, 0.01, "no wider than there is room")
	marked := p.Picture("/media/deep", 40, p.Width(), Mark{Text: "Q7", X: 0.5, Y: 0.5})
	pages := written(t, p, slices.Concat(slabs, marked, picture))
	assert.Contains(t, pages[0], "mast head", "its texts are text")
	assert.Contains(t, pages[0], "Q7", "a mark too")
	p.HTML(`<img src="/media/gone">`, p.Width(), Look{})
	assert.ErrorContains(t, p.Err(), "no such file")
}
