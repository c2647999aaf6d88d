package booklet

import (
	"html"
	"slices"
	"strings"

	"pineledger/core/item"
	"pineledger/formats/paper"
)

// Directions say for each kind what is done on paper in the place of a press or a drag; kinds that explain themselves have none.
var Directions = map[item.Kind]string{
	item.MultipleChoice: "Circle all correct answers.",
	item.Order:          "Number these in order.",
	item.Match:          "Write the letter of the match next to each one.",
	item.Sort:           "Write each letter in its group.",
	item.BoxTable:       "Mark the correct boxes.",
	item.SelectText:     "Underline your answer.",
	item.Spot:           "Mark the spot.",
	item.NumberLine:     "Mark the point on the number line.",
}

// Rows to write on where an item does not say how many.
const (
	shortRows = 3
	longRows  = 10
)

// item sets what a student sees of an item. What runs on on the screen runs on here.
func (s *setting) item(shown item.Shown, width float64) []paper.Slab {
	var out []paper.Slab
	open := s.Inline(width, paper.Look{})
	end := func() {
		out = append(out, open.Slabs()...)
		open = s.Inline(width, paper.Look{})
	}
	for _, block := range shown.Body {
		if block.HTML != "" {
			if !block.Inline {
				end()
			}
			open.HTML(block.HTML)
		}
		in := block.Interaction
		if in == nil {
			continue
		}
		kind := in.Kind
		if kind == "" {
			kind = shown.Kind
		}
		if block.Inline && len(in.Choices) == 0 {
			open.HTML(" ").Line(blank).HTML(" " + html.EscapeString(in.Unit))
			continue
		}
		end()
		out = append(append(out, paper.Gap(0.3*s.size)), s.answer(kind, in, width)...)
	}
	end()
	return out
}

// blank is how long a line for a word or number is, in letters.
const blank = 14

// answer sets where a student answers.
func (s *setting) answer(kind item.Kind, in *item.Interaction, width float64) []paper.Slab {
	var out []paper.Slab
	if d := Directions[kind]; d != "" {
		out = append(s.Plain(d, width, paper.Look{Italic: true}), paper.Gap(0.2*s.size))
	}
	switch {
	case in.Line != nil:
		return append(out, s.NumberLine(minus(in.Line.Places()), in.Line.Labels, width)...)
	case in.Picture != nil && kind == item.Spot:
		return append(out, s.Picture(in.Picture.Source, float64(in.Picture.Width), width)...)
	case in.Picture != nil:
		out = append(out, s.Picture(in.Picture.Source, float64(in.Picture.Width), width, places(in)...)...)
	}
	return append(out, s.asked(kind, in, width)...)
}

// places are the short names of what has its place on a picture.
func places(in *item.Interaction) []paper.Mark {
	var out []paper.Mark
	for _, c := range slices.Concat(in.Choices, in.Targets) {
		if c.Area != nil {
			x, y := c.Area.Middle()
			out = append(out, paper.Mark{Text: c.OnPicture(), X: float64(x) / float64(in.Picture.Width), Y: float64(y) / float64(in.Picture.Height)})
		}
	}
	return out
}

// asked sets what is offered, or room to write.
func (s *setting) asked(kind item.Kind, in *item.Interaction, width float64) []paper.Slab {
	var out []paper.Slab
	switch {
	case kind == item.Menus:
		return append(out, s.menus(in, width)...)
	case kind == item.SelectText:
		text := s.Inline(width, paper.Look{})
		for _, c := range in.Choices {
			text.HTML(c.HTML)
		}
		return append(out, text.Slabs()...)
	case kind == item.BoxTable:
		return append(out, s.boxes(in, width)...)
	case len(gaps(in)) > 0:
		return append(out, s.pairs(in, width)...)
	case kind == item.Order:
		for _, c := range in.Choices {
			out = append(out, paper.Kept(s.Blanks(func(inset float64) []paper.Slab { return s.HTML(c.HTML, width-inset, paper.Look{}) }, 2.5))...)
			out = append(out, paper.Gap(0.3*s.size))
		}
		return out
	case len(in.Choices) > 0:
		return append(out, s.choices(in.Choices, width)...)
	case kind == item.ShortWritten || kind == item.LongWritten:
		rows := in.Rows
		if rows == 0 && kind == item.LongWritten {
			rows = longRows
		} else if rows == 0 {
			rows = shortRows
		}
		return append(out, s.WritingLines(rows, width)...)
	case kind == item.Examiner:
		return out
	}
	return append(out, s.Inline(width, paper.Look{}).Line(blank).HTML(" "+html.EscapeString(in.Unit)).Slabs()...)
}

func minus(places []string) []string {
	out := make([]string, len(places))
	for i, p := range places {
		out[i] = strings.Replace(p, "-", "−", 1)
	}
	return out
}

func gaps(in *item.Interaction) []item.Choice {
	var out []item.Choice
	for _, t := range in.Targets {
		if !t.Plain {
			out = append(out, t)
		}
	}
	return out
}

// labels are what choices are named by: their own, or letters.
func labels(choices []item.Choice) []string {
	out := make([]string, len(choices))
	for i, c := range choices {
		if out[i] = c.Label; out[i] == "" {
			out[i] = item.Label(i)
		}
	}
	return out
}

func (s *setting) choices(choices []item.Choice, width float64) []paper.Slab {
	var out []paper.Slab
	for i, label := range labels(choices) {
		one := s.Circled(label, func(inset float64) []paper.Slab {
			if choices[i].Label != "" {
				return nil // in a document, which says the rest
			}
			return s.HTML(choices[i].HTML, width-inset, paper.Look{})
		})
		out = append(append(out, one...), paper.Gap(0.35*s.size))
	}
	return out
}

// leastBeside is how wide two columns of an item are together at least, in sizes of the text.
const leastBeside = 17

// pairs sets choices with their letters beside what they are joined to, or above it where letters are large.
func (s *setting) pairs(in *item.Interaction, width float64) []paper.Slab {
	half := width/2 - s.size
	stacked := width < leastBeside*s.size
	if stacked {
		half = width
	}
	var left, right []paper.Slab
	for i, label := range labels(in.Choices) {
		left = append(left, s.Marked(s.HTML(in.Choices[i].HTML, half-1.6*s.size, paper.Look{}), label, paper.Look{Bold: true}, 1.6)...)
		left = append(left, paper.Gap(0.3*s.size))
	}
	for _, t := range gaps(in) {
		right = append(right, s.Blanks(func(inset float64) []paper.Slab { return s.HTML(t.HTML, half-inset, paper.Look{}) }, 3)...)
		right = append(right, paper.Gap(0.3*s.size))
	}
	if stacked {
		return append(append(left, paper.Gap(0.5*s.size)), right...)
	}
	return paper.SideBySide(left, right, half+2*s.size)
}

func (s *setting) boxes(in *item.Interaction, width float64) []paper.Slab {
	head := []paper.Cell{{}}
	for _, t := range gaps(in) {
		head = append(head, paper.Cell{HTML: t.HTML, Look: paper.Look{Bold: true}, Middle: true})
	}
	rows := [][]paper.Cell{head}
	for _, c := range in.Choices {
		row := []paper.Cell{{HTML: c.HTML}}
		for range gaps(in) {
			row = append(row, paper.Cell{HTML: "☐", Middle: true})
		}
		rows = append(rows, row)
	}
	return s.Table(rows, width, paper.Look{})
}

// menus sets a sentence with what each menu offers in brackets.
func (s *setting) menus(in *item.Interaction, width float64) []paper.Slab {
	text := s.Inline(width, paper.Look{})
	for _, t := range in.Targets {
		if t.Plain {
			text.HTML(t.HTML)
			continue
		}
		text.HTML("[")
		first := true
		for _, c := range in.Choices {
			if c.In != "" && c.In != t.ID {
				continue
			}
			if !first {
				text.HTML(" / ")
			}
			first = false
			text.HTML(c.HTML)
		}
		text.HTML("]")
	}
	return text.Slabs()
}
