// Package paper sets formatted text, formulas, pictures and tables on pages and
// writes them as PDF. Everything is measured in points, from the top left.
package paper

import (
	"bytes"
	"embed"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	_ "image/jpeg" // pictures of the shelf
	"image/png"
	"io"
	"slices"
	"time"

	"codeberg.org/go-pdf/fpdf"
	"github.com/go-fonts/dejavu/dejavusans"
	"golang.org/x/image/font/sfnt"
)

// The page is US Letter.
const (
	pageWidth, pageHeight = 612.0, 792.0
	margin                = 54.0
	gutter                = 26.0
	foot                  = 20.0 // room under the text for the line at the foot
)

// Options say how pages are set.
type Options struct {
	Title    string
	Language string  // as in BCP 47
	Size     float64 // of the text, in points
	Columns  int     // 1 or 2
	Foot     string  // at the left under each page; its number stands at the right
	Made     time.Time
	// Media gives a picture of the media shelf by its source: its media type and data.
	Media func(source string) (kind string, data []byte, err error)
}

// Paper is where slabs are made and then set on pages. The first error of any step stays and comes out of Write.
type Paper struct {
	Options
	pdf      *fpdf.Fpdf
	pictures map[string]picture
	ink      color.Color // of text; black where it is nil
	err      error
}

//go:embed fonts/*.ttf
var fonts embed.FS

// The reading face, and a face that has the signs which it lacks.
const (
	reading = "reading"
	signs   = "signs"
)

// lacking tells of a rune whether the reading face lacks it.
var lacking = func() func(rune) bool {
	data, err := fonts.ReadFile("fonts/regular.ttf")
	if err != nil {
		panic(err)
	}
	font, err := sfnt.Parse(data)
	if err != nil {
		panic(err)
	}
	return func(r rune) bool {
		var buffer sfnt.Buffer
		glyph, err := font.GlyphIndex(&buffer, r)
		return err != nil || glyph == 0
	}
}()

// New begins a paper.
func New(o Options) *Paper {
	pdf := fpdf.NewCustom(&fpdf.InitType{UnitStr: "pt", Size: fpdf.SizeType{Wd: pageWidth, Ht: pageHeight}})
	pdf.SetAutoPageBreak(false, 0)
	pdf.SetMargins(margin, margin, margin)
	pdf.SetTitle(o.Title, true)
	pdf.SetLang(o.Language)
	pdf.SetCreator("Pine Ledger", true)
	pdf.SetCreationDate(o.Made)
	pdf.SetModificationDate(o.Made)
	p := &Paper{Options: o, pdf: pdf, pictures: map[string]picture{}}
	for style, file := range map[string]string{"": "regular", "B": "bold", "I": "italic", "BI": "bold-italic"} {
		data, err := fonts.ReadFile("fonts/" + file + ".ttf")
		p.note(err)
		pdf.AddUTF8FontFromBytes(reading, style, data)
	}
	pdf.AddUTF8FontFromBytes(signs, "", slices.Clone(dejavusans.TTF))
	return p
}

func (p *Paper) note(err error) {
	if p.err == nil {
		p.err = err
	}
}

// Width is that of a column.
func (p *Paper) Width() float64 {
	if p.Columns == 2 {
		return (pageWidth - 2*margin - gutter) / 2
	}
	return pageWidth - 2*margin
}

// Write sets slabs on pages, with a foot on each, and writes the document.
func (p *Paper) Write(w io.Writer, slabs []Slab) error {
	pages := p.pages(slabs)
	small := style{size: min(p.Size*0.75, 12)}
	for i, page := range pages {
		p.pdf.AddPage()
		for _, s := range page {
			if s.Draw != nil {
				s.Draw(s.x, s.y)
			}
		}
		p.text(margin, pageHeight-margin+small.size, p.Foot, small)
		number := fmt.Sprintf("%d / %d", i+1, len(pages))
		p.text(pageWidth-margin-p.measure(number, small), pageHeight-margin+small.size, number, small)
	}
	if p.err != nil {
		return p.err
	}
	return p.pdf.Output(w)
}

// picture is one of the media shelf as the document holds it.
type picture struct {
	name    string // of a picture of dots
	drawing *drawing
}

func (p *Paper) picture(source string) (picture, error) {
	if known, ok := p.pictures[source]; ok {
		return known, nil
	}
	kind, data, err := p.Media(source)
	if err != nil {
		return picture{}, err
	}
	var out picture
	if kind == "image/svg+xml" {
		out.drawing, err = readDrawing(data)
	} else {
		out.name, err = source, p.register(source, kind, data)
	}
	if err != nil {
		return picture{}, fmt.Errorf("picture %s: %w", source, err)
	}
	p.pictures[source] = out
	return out, nil
}

// register puts a picture of dots into the document. PNG comes in kinds that PDF does not have, so it is written anew with eight bits.
func (p *Paper) register(name, kind string, data []byte) error {
	if kind == "image/png" {
		dots, _, err := image.Decode(bytes.NewReader(data))
		if err != nil {
			return err
		}
		plain := image.NewNRGBA(dots.Bounds())
		draw.Draw(plain, plain.Bounds(), dots, dots.Bounds().Min, draw.Src)
		var out bytes.Buffer
		if err := png.Encode(&out, plain); err != nil {
			return err
		}
		data = out.Bytes()
	}
	p.pdf.RegisterImageOptionsReader(name, fpdf.ImageOptions{ImageType: p.pdf.ImageTypeFromMime(kind)}, bytes.NewReader(data))
	return p.pdf.Error()
}

// place draws a picture into a rectangle.
func (p *Paper) place(pic picture, x, y, w, h float64) {
	if pic.drawing != nil {
		p.draw(pic.drawing, x, y, w, h)
		return
	}
	p.pdf.ImageOptions(pic.name, x, y, w, h, false, fpdf.ImageOptions{}, 0, "")
}

// rule is a straight line as wide as given.
func (p *Paper) rule(x1, y1, x2, y2, width float64) {
	p.pdf.SetDrawColor(0, 0, 0)
	p.pdf.SetLineWidth(width)
	p.pdf.Line(x1, y1, x2, y2)
}

// Err gives the first error of what was set so far.
func (p *Paper) Err() error {
	if p.err != nil {
		return p.err
	}
	return p.pdf.Error()
}
