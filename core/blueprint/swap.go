package blueprint

import (
	"cmp"
	"fmt"
	"slices"
)

// Equal is an item that could take a line's place, with why it stands where it does.
type Equal struct {
	Item   Item
	Why    []string
	serves bool // the row that claims the line
}

// easeStep is how far difficulties may be apart, in thousandths, and still count as alike.
const easeStep = 50

// Swaps ranks items that could take a line's place, the nearest equal first: by the row that
// claims the line (nil: none, then by its standards), difficulty in steps of 0.05, depth,
// kind, and how often they were used.
func (t Tree) Swaps(line Item, row *Filter, pool []Item) []Equal {
	var out []Equal
	for _, it := range pool {
		if it.ID == line.ID || it.Hold {
			continue
		}
		e := Equal{Item: it, serves: t.serves(line, row, it)}
		e.Why = e.why(line, row)
		out = append(out, e)
	}
	slices.SortStableFunc(out, func(a, b Equal) int {
		return cmp.Or(
			rankBool(b.serves)-rankBool(a.serves),
			apart(line, a.Item)/easeStep-apart(line, b.Item)/easeStep,
			distance(a.Item.Depth, line.Depth)-distance(b.Item.Depth, line.Depth),
			rankBool(b.Item.Kind == line.Kind)-rankBool(a.Item.Kind == line.Kind),
			a.Item.Uses-b.Item.Uses,
			apart(line, a.Item)-apart(line, b.Item),
			cmp.Compare(a.Item.ID, b.Item.ID),
		)
	})
	return out
}

// serves tells whether an item would serve the line's row, or without one, shares a standard with it.
func (t Tree) serves(line Item, row *Filter, it Item) bool {
	if row != nil {
		return t.Meets(*row, it)
	}
	return slices.ContainsFunc(it.Standards, func(code string) bool { return slices.Contains(line.Standards, code) })
}

func (e Equal) why(line Item, row *Filter) []string {
	var out []string
	switch {
	case e.serves && row != nil:
		out = append(out, "same row")
	case e.serves:
		out = append(out, "same standard")
	case row != nil:
		out = append(out, "another row")
	default:
		out = append(out, "another standard")
	}
	switch d := apart(line, e.Item); {
	case d == unknownApart:
		out = append(out, "difficulty not known")
	case d < easeStep:
		out = append(out, "as hard")
	case *e.Item.Difficulty > *line.Difficulty:
		out = append(out, fmt.Sprintf("easier by %.2f", float64(d)/1000))
	default:
		out = append(out, fmt.Sprintf("harder by %.2f", float64(d)/1000))
	}
	if e.Item.Depth != line.Depth {
		out = append(out, fmt.Sprintf("depth %d, not %d", e.Item.Depth, line.Depth))
	}
	if e.Item.Kind != line.Kind {
		out = append(out, "another kind")
	}
	return out
}

// unknownApart stands for a difference of difficulties that is not known: farther than any.
const unknownApart = 2000

func apart(a, b Item) int {
	if a.Difficulty == nil || b.Difficulty == nil {
		return unknownApart
	}
	return distance(*a.Difficulty, *b.Difficulty)
}

func distance(a, b int) int { return max(a-b, b-a) }

func rankBool(b bool) int {
	if b {
		return 1
	}
	return 0
}
