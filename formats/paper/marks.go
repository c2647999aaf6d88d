package paper

// em is one size of the paper's text, in points.
func (p *Paper) em() float64 { return p.Size }

// Marked sets a text at the left of slabs, which move right to make room for so many sizes of the text.
func (p *Paper) Marked(slabs []Slab, mark string, l Look, room float64) []Slab {
	s := p.begin(l)
	return Beside(Inset(slabs, room*p.em()), func(x, base float64) { p.text(x, base, mark, s) })
}

// Circled sets a label in a ring at the left of slabs, which are made for what is left of the width once they moved right by inset.
func (p *Paper) Circled(label string, slabs func(inset float64) []Slab) []Slab {
	s := style{size: p.Size, bold: true}
	text := p.measure(label, s)
	ring := max(1.5*p.em(), text+0.7*p.em())
	inset := ring + 0.5*p.em()
	out := slabs(inset)
	if len(out) == 0 {
		out = []Slab{p.line(nil, s)}
	}
	return Beside(Inset(out, inset), func(x, base float64) {
		p.pdf.SetDrawColor(0, 0, 0)
		p.pdf.SetLineWidth(0.7)
		p.pdf.RoundedRect(x, base-1.02*p.em(), ring, 1.4*p.em(), 0.68*p.em(), "1234", "D")
		p.text(x+(ring-text)/2, base, label, s)
	})
}

// Blanks sets a line to write on at the left of slabs, as wide as so many sizes of the text; slabs as for Circled.
func (p *Paper) Blanks(slabs func(inset float64) []Slab, width float64) []Slab {
	inset := (width + 0.5) * p.em()
	return Beside(Inset(slabs(inset), inset), func(x, base float64) { p.rule(x, base+0.1*p.em(), x+width*p.em(), base+0.1*p.em(), 0.6) })
}

// AtRight sets a small text at the right end of a width, on the first line.
func (p *Paper) AtRight(slabs []Slab, text string, width float64) []Slab {
	s := style{size: 0.75 * p.Size}
	return Beside(slabs, func(x, base float64) { p.text(x+width-p.measure(text, s), base, text, s) })
}

// WritingLines are lines to write on.
func (p *Paper) WritingLines(n int, width float64) []Slab {
	out := make([]Slab, n)
	height := max(1.9*p.em(), 22) // room for a hand, also in small print
	for i := range out {
		out[i] = Slab{Width: width, Height: height, Base: height, Draw: func(x, y float64) { p.rule(x, y+height, x+width, y+height, 0.5) }}
	}
	return out
}

// NumberLine has a tick at each place; every so many bear their number.
func (p *Paper) NumberLine(places []string, every int, width float64) []Slab {
	small := style{size: 0.9 * p.Size}
	edge := p.em()
	step := (width - 2*edge) / float64(max(len(places)-1, 1))
	return []Slab{{Width: width, Height: 3.2 * p.em(), Base: p.em(), Draw: func(x, y float64) {
		top := y + 1.1*p.em()
		p.rule(x+edge/2, top, x+width-edge/2, top, 1)
		for i, place := range places {
			at := x + edge + float64(i)*step
			if i%max(every, 1) != 0 {
				p.rule(at, top-0.2*p.em(), at, top+0.2*p.em(), 0.6)
				continue
			}
			p.rule(at, top-0.4*p.em(), at, top+0.4*p.em(), 0.9)
			p.text(at-p.measure(place, small)/2, top+1.4*p.em(), place, small)
		}
	}}}
}

// SideBySide sets two columns beside each other as one slab.
func SideBySide(left, right []Slab, at float64) []Slab {
	height := max(heightOf(left), heightOf(right))
	if height == 0 {
		return nil
	}
	column := func(slabs []Slab, x, y float64) {
		for _, s := range slabs {
			if s.Draw != nil {
				s.Draw(x, y)
			}
			y += s.Height
		}
	}
	out := Slab{Width: at + widest(right), Height: height, Draw: func(x, y float64) {
		column(left, x, y)
		column(right, x+at, y)
	}}
	if len(left) > 0 {
		out.Base = left[0].Base
	}
	return []Slab{out}
}

// Ruled draws a line over the whole width, above slabs.
func (p *Paper) Ruled(width, thick float64) Slab {
	return Slab{Width: width, Height: 0.5 * p.em(), Keep: true, Draw: func(x, y float64) { p.rule(x, y, x+width, y, thick) }}
}
