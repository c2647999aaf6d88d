package paper

// Slab is a strip of a column that is never cut: a line of text, a row of a table, a picture.
type Slab struct {
	Width, Height float64
	Base          float64 // of its first line of text, from its top
	Space         bool    // nothing but room, which goes where a column begins
	Keep          bool    // stands in one column with the next, where both fit into one
	Draw          func(x, y float64)

	x, y float64 // where it came to stand
}

// Kept makes slabs stand in one column, where they fit into one.
func Kept(slabs []Slab) []Slab {
	for i := range slabs {
		slabs[i].Keep = i < len(slabs)-1
	}
	return slabs
}

// Inset moves slabs to the right.
func Inset(slabs []Slab, by float64) []Slab {
	for i := range slabs {
		draw := slabs[i].Draw
		slabs[i].Width += by
		if draw != nil {
			slabs[i].Draw = func(x, y float64) { draw(x+by, y) }
		}
	}
	return slabs
}

// Beside draws something more with the first slab that is not only room, at its base line.
func Beside(slabs []Slab, more func(x, base float64)) []Slab {
	for i := range slabs {
		if slabs[i].Space {
			continue
		}
		draw, base := slabs[i].Draw, slabs[i].Base
		slabs[i].Draw = func(x, y float64) {
			if draw != nil {
				draw(x, y)
			}
			more(x, y+base)
		}
		break
	}
	return slabs
}

// Gap is room that goes where a column begins.
func Gap(height float64) Slab { return Slab{Height: height, Space: true} }

func heightOf(slabs []Slab) float64 {
	var sum float64
	for _, s := range slabs {
		sum += s.Height
	}
	return sum
}

// pages breaks slabs into columns and pages: what is kept together moves as a whole, unless it is taller than a column.
func (p *Paper) pages(slabs []Slab) [][]Slab {
	const (
		full      = pageHeight - 2*margin - foot
		mostBegun = 0.6 // so far down begins what is taller than a column
	)
	out := [][]Slab{nil}
	column, y := 0, 0.0
	next := func() {
		y = 0
		if column++; column >= max(p.Columns, 1) {
			column = 0
			out = append(out, nil)
		}
	}
	place := func(s Slab) {
		if y > 0 && y+s.Height > full {
			next()
		}
		if s.Space && y == 0 {
			return
		}
		s.x, s.y = margin+float64(column)*(p.Width()+gutter), margin+y
		y += s.Height
		out[len(out)-1] = append(out[len(out)-1], s)
	}
	for i := 0; i < len(slabs); {
		end := i + 1
		for end < len(slabs) && slabs[end-1].Keep {
			end++
		}
		together := slabs[i:end]
		if h := heightOf(together); y > 0 && y+h > full && (h <= full || y > full*mostBegun) {
			next()
		}
		for _, s := range together {
			place(s)
		}
		i = end
	}
	if len(out) > 1 && out[len(out)-1] == nil {
		out = out[:len(out)-1]
	}
	return out
}
