package paper

import (
	"image/color"
	"strings"
	"unicode"
)

// style is how a stretch of text looks.
type style struct {
	size         float64
	bold, italic bool
	under        bool
	rise         float64 // over the base line
}

func (s style) name() string {
	name := ""
	if s.bold {
		name += "B"
	}
	if s.italic {
		name += "I"
	}
	return name
}

// Heights over and under the base line, and of a line of text, in sizes of the text.
const (
	ascent     = 0.98
	descent    = 0.38
	axisHeight = 0.27 // of fraction bars over the base line
)

// runs cuts a text where the face changes.
func runs(text string) (out []struct{ text, family string }) {
	family, from := "", 0
	for i, r := range text {
		now := reading
		if lacking(r) {
			now = signs
		}
		if now != family {
			if i > from {
				out = append(out, struct{ text, family string }{text[from:i], family})
			}
			family, from = now, i
		}
	}
	if from < len(text) {
		out = append(out, struct{ text, family string }{text[from:], family})
	}
	return out
}

// face chooses what is written with; signs look the same in every style.
func (p *Paper) face(family string, s style) {
	name := s.name()
	if family == signs {
		name = ""
	}
	p.pdf.SetFont(family, name, s.size)
}

// measure gives the width of a text without breaks.
func (p *Paper) measure(text string, s style) float64 {
	var sum float64
	for _, run := range runs(text) {
		p.face(run.family, s)
		sum += p.pdf.GetStringWidth(run.text)
	}
	return sum
}

// text draws a text without breaks at a base line.
func (p *Paper) text(x, base float64, text string, s style) {
	var ink color.NRGBA
	if p.ink != nil {
		ink = color.NRGBAModel.Convert(p.ink).(color.NRGBA)
	}
	p.pdf.SetTextColor(int(ink.R), int(ink.G), int(ink.B))
	start := x
	for _, run := range runs(text) {
		p.face(run.family, s)
		p.pdf.Text(x, base-s.rise, run.text)
		x += p.pdf.GetStringWidth(run.text)
	}
	if s.under {
		p.rule(start, base+0.12*s.size, x, base+0.12*s.size, 0.05*s.size)
	}
}

// piece is what stands on a line of text and is not cut.
type piece struct {
	width           float64
	ascent, descent float64
	space           bool // goes where a line ends
	end             bool // the line ends here
	draw            func(x, base float64)
}

func (p *Paper) word(text string, s style) piece {
	return piece{width: p.measure(text, s), ascent: ascent*s.size + s.rise, descent: descent*s.size - s.rise,
		draw: func(x, base float64) { p.text(x, base, text, s) }}
}

// words cuts a text into words and the spaces between them; a word wider than a line is cut where it must be.
func (p *Paper) words(text string, s style, width float64) []piece {
	var out []piece
	for len(text) > 0 {
		end := strings.IndexFunc(text, folds)
		switch {
		case end == 0:
			rest := strings.TrimLeftFunc(text, folds)
			space := p.word(" ", s)
			space.space = true
			if !s.under {
				space.draw = nil
			}
			out, text = append(out, space), rest
			continue
		case end < 0:
			end = len(text)
		}
		word := []rune(text[:end])
		text = text[end:]
		for len(word) > 0 {
			n := len(word)
			w := p.word(string(word), s)
			for w.width > width && n > 1 {
				n = max(1, n*9/10)
				w = p.word(string(word[:n]), s)
			}
			out, word = append(out, w), word[n:]
		}
	}
	return out
}

// folds tells white space that may become a break; a hard space does not.
func folds(r rune) bool { return unicode.IsSpace(r) && r != '\u00a0' }

// lines sets pieces into slabs of a width, ragged at the right. The first two lines of a paragraph stay together, and the last two.
func (p *Paper) lines(pieces []piece, width float64, s style) []Slab {
	var out []Slab
	for len(pieces) > 0 {
		n := fitting(pieces, width)
		if line := trimmed(pieces[:n]); len(line) > 0 || pieces[n-1].end {
			out = append(out, p.line(line, s))
		}
		pieces = pieces[n:]
		for len(pieces) > 0 && pieces[0].space && len(out) > 0 {
			pieces = pieces[1:]
		}
	}
	if n := len(out); n > 1 {
		out[0].Keep, out[n-2].Keep = true, true
	}
	return out
}

// fitting counts the pieces that stand on one line: up to the last space before the width is full, one word at least.
func fitting(pieces []piece, width float64) int {
	var x float64
	cut := 0
	for i, c := range pieces {
		switch {
		case c.end:
			return i + 1
		case c.space:
			cut = i + 1
		case x+c.width > width+0.01 && i > 0:
			if cut > 0 {
				return cut
			}
			return i // pieces without a space between them, too wide together
		}
		x += c.width
	}
	return len(pieces)
}

func trimmed(pieces []piece) []piece {
	out := func(c piece) bool { return c.space || c.end }
	for len(pieces) > 0 && out(pieces[0]) {
		pieces = pieces[1:]
	}
	for len(pieces) > 0 && out(pieces[len(pieces)-1]) {
		pieces = pieces[:len(pieces)-1]
	}
	return pieces
}

func (p *Paper) line(pieces []piece, s style) Slab {
	up, down, width := ascent*s.size, descent*s.size, 0.0
	for _, c := range pieces {
		up, down, width = max(up, c.ascent), max(down, c.descent), width+c.width
	}
	return Slab{Width: width, Height: up + down, Base: up, Draw: func(x, y float64) {
		for _, c := range pieces {
			if c.draw != nil {
				c.draw(x, y+up)
			}
			x += c.width
		}
	}}
}
