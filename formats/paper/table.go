package paper

import (
	"golang.org/x/net/html"
)

// Cell is one of a table: formatted text in a look.
type Cell struct {
	HTML   string
	Look   Look
	Middle bool
	node   *html.Node // or what an element holds
}

// Table sets rows of cells with lines around them, as wide as they need and no wider than given.
func (p *Paper) Table(rows [][]Cell, width float64, l Look) []Slab {
	return p.table(rows, width, p.begin(l))
}

func rowsOf(table *html.Node) [][]Cell {
	var rows [][]Cell
	for n := range table.Descendants() {
		switch n.Data {
		case "caption":
			rows = append(rows, []Cell{{node: n, Look: Look{Italic: true}}})
		case "tr":
			rows = append(rows, nil)
		case "td", "th":
			rows[len(rows)-1] = append(rows[len(rows)-1], Cell{node: n, Look: Look{Bold: n.Data == "th"}})
		}
	}
	return rows
}

// wide is wider than any text; what is set in it shows how much room it needs.
const wide = 100_000

func (p *Paper) cell(c Cell, width float64, s style) []Slab {
	s.bold, s.italic = s.bold || c.Look.Bold, s.italic || c.Look.Italic
	t := &setter{p: p, width: width, base: s}
	if c.node != nil {
		t.children(c.node, s)
	} else {
		t.add(c.HTML)
	}
	return t.done()
}

func widest(slabs []Slab) float64 {
	var w float64
	for _, s := range slabs {
		w = max(w, s.Width)
	}
	return w
}

func (p *Paper) table(rows [][]Cell, width float64, s style) []Slab {
	pad := 0.5 * s.size
	var needs []float64
	for _, row := range rows {
		for i, c := range row {
			if i == len(needs) {
				needs = append(needs, 0)
			}
			needs[i] = max(needs[i], widest(p.cell(c, wide, s))+2*pad)
		}
	}
	widths := shared(needs, width)
	var out []Slab
	for _, row := range rows {
		out = append(out, p.row(row, widths, pad, s))
	}
	return out
}

func (p *Paper) row(row []Cell, widths []float64, pad float64, s style) Slab {
	cells := make([][]Slab, len(row))
	height, total := (ascent+descent)*s.size, 0.0 // of an empty row too
	for i, c := range row {
		cells[i] = p.cell(c, widths[i]-2*pad+0.02, s)
		height, total = max(height, heightOf(cells[i])), total+widths[i]
	}
	height += pad
	return Slab{Width: total, Height: height, Base: pad/2 + ascent*s.size, Draw: func(x, y float64) {
		for i, c := range cells {
			p.pdf.SetDrawColor(0, 0, 0)
			p.pdf.SetLineWidth(0.5)
			p.pdf.Rect(x, y, widths[i], height, "D")
			at := y + pad/2
			for _, slab := range c {
				if slab.Draw != nil {
					inset := pad
					if row[i].Middle {
						inset = (widths[i] - slab.Width) / 2
					}
					slab.Draw(x+inset, at)
				}
				at += slab.Height
			}
			x += widths[i]
		}
	}}
}

// shared gives each column what it needs; where that is too much, the columns that need more than
// an even share of what is left share it.
func shared(needs []float64, width float64) []float64 {
	out := make([]float64, len(needs))
	left, open := width, len(needs)
	for changed := true; changed && open > 0; {
		changed = false
		share := left / float64(open)
		for i, need := range needs {
			if out[i] == 0 && need <= share {
				out[i], left, open, changed = need, left-need, open-1, true
			}
		}
	}
	for i := range out {
		if out[i] == 0 {
			out[i] = left / float64(open)
		}
	}
	return out
}
