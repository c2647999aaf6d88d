package item

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// Picture is a picture with what it shows in words. Its width and height are the
// units in which areas and spots are given.
type Picture struct {
	Source string `json:"source"` // where the media shelf serves it
	Alt    string `json:"alt"`
	Width  int    `json:"width"`
	Height int    `json:"height"`
}

// Area is a part of a picture, its border included.
type Area struct {
	Shape string `json:"shape"` // circle: x y r; rectangle: left top right bottom; polygon: x y x y …
	At    []int  `json:"at"`
	Value string `json:"value,omitempty"` // what a mapping gives for it
}

// Shapes of an area.
const (
	Circle    = "circle"
	Rectangle = "rectangle"
	Polygon   = "polygon"
)

const (
	mostSide    = 10_000 // the longest side of a picture
	mostCorners = 400    // numbers of a polygon
)

func (a Area) check() error {
	for _, n := range a.At {
		if n < -mostSide || n > 2*mostSide {
			return fmt.Errorf("%d is far outside of any picture", n)
		}
	}
	switch {
	case a.Shape == Circle && len(a.At) == 3 && a.At[2] > 0:
	case a.Shape == Rectangle && len(a.At) == 4 && a.At[0] <= a.At[2] && a.At[1] <= a.At[3]:
	case a.Shape == Polygon && len(a.At) >= 6 && len(a.At)%2 == 0 && len(a.At) <= mostCorners:
	default:
		return fmt.Errorf("is no circle (x y r), rectangle (left top right bottom) or polygon (x y x y x y …)")
	}
	return nil
}

// Contains tells whether a spot is in the area or on its border, exactly. An area that is none holds no spot.
func (a Area) Contains(x, y int) bool {
	if a.check() != nil {
		return false
	}
	switch a.Shape {
	case Circle:
		dx, dy := x-a.At[0], y-a.At[1]
		return dx*dx+dy*dy <= a.At[2]*a.At[2]
	case Rectangle:
		return x >= a.At[0] && x <= a.At[2] && y >= a.At[1] && y <= a.At[3]
	}
	inside := false
	for i := 0; i < len(a.At); i += 2 {
		j := (i + len(a.At) - 2) % len(a.At)
		x1, y1, x2, y2 := a.At[j], a.At[j+1], a.At[i], a.At[i+1]
		cross := (x2-x1)*(y-y1) - (y2-y1)*(x-x1)
		if cross == 0 && min(x1, x2) <= x && x <= max(x1, x2) && min(y1, y2) <= y && y <= max(y1, y2) {
			return true
		}
		// The ray to the right of the spot crosses an edge that spans its height.
		if (y1 > y) != (y2 > y) && (cross > 0) == (y2 > y1) {
			inside = !inside
		}
	}
	return inside
}

// spot wants a place on a picture. With choices, each has an area that is seen, and a
// response names choices; without, a response is spots "x y" and the key is the
// areas of the declaration, which no student gets.
var spot = kindRules{
	credits: []CreditRule{AllOrNothing, PerChoice, KeyMinus, PerPart, Mapped},
	check:   checkSpot,
	accepts: acceptsSpot,
	score:   scoreSpot,
	steps: func(credit CreditRule, in Interaction, d Declaration) int64 {
		switch {
		case len(in.Choices) > 0:
			return multipleSteps(credit, in, d)
		case credit == PerPart:
			return int64(max(len(d.Areas), 1))
		default:
			return 1
		}
	},
	keyShort: func(in Interaction, d Declaration) string {
		if len(in.Choices) > 0 {
			return labels(in, d.Correct)
		}
		return strings.Join(areaWords(d.Areas), " or ")
	},
	short: func(in Interaction, values []string) []string {
		if len(in.Choices) > 0 {
			return choiceLabels(in, values)
		}
		return values
	},
}

func areaWords(areas []Area) []string {
	out := make([]string, len(areas))
	for i, a := range areas {
		if a.check() != nil {
			out[i] = "an area that is none"
			continue
		}
		switch a.Shape {
		case Circle:
			out[i] = fmt.Sprintf("%d %d ± %d", a.At[0], a.At[1], a.At[2])
		case Rectangle:
			out[i] = fmt.Sprintf("%d %d to %d %d", a.At[0], a.At[1], a.At[2], a.At[3])
		default:
			out[i] = fmt.Sprintf("%s at %d %d", a.Shape, a.At[0], a.At[1])
		}
	}
	return out
}

// Middle is the middle of the box around an area; of an area that is none it is 0, 0.
func (a Area) Middle() (x, y int) {
	if a.check() != nil {
		return 0, 0
	}
	switch a.Shape {
	case Circle:
		return a.At[0], a.At[1]
	case Rectangle:
		return (a.At[0] + a.At[2]) / 2, (a.At[1] + a.At[3]) / 2
	}
	var xs, ys []int
	for i := 0; i < len(a.At); i += 2 {
		xs, ys = append(xs, a.At[i]), append(ys, a.At[i+1])
	}
	return (slices.Min(xs) + slices.Max(xs)) / 2, (slices.Min(ys) + slices.Max(ys)) / 2
}

// OnPicture is the short name that stands at a thing's place on a picture: what its text begins with, up to a full stop.
func (c Choice) OnPicture() string {
	name, _, _ := strings.Cut(PlainText(c.HTML), ". ")
	return name
}

// checkPlaces checks what is ordered or joined on a picture: the picture, and where each thing is on it.
func (in Interaction) checkPlaces() []Problem {
	if in.Picture == nil {
		return nil
	}
	out := in.checkPicture()
	placed := 0
	for name, list := range map[string][]Choice{"choices": in.Choices, "targets": in.Targets} {
		for i, c := range list {
			if c.Area == nil {
				continue
			}
			placed++
			if err := c.Area.check(); err != nil {
				out = append(out, Problem{fmt.Sprintf("%s[%d]", name, i), err.Error()})
			}
		}
	}
	if placed == 0 {
		out = append(out, Problem{"picture", "nothing of what is asked for has a place on the picture"})
	}
	return out
}

func (in Interaction) checkPicture() []Problem {
	var out []Problem
	switch p := in.Picture; {
	case p == nil || p.Source == "":
		out = append(out, Problem{"picture", "the picture is missing"})
	case p.Width < 1 || p.Height < 1 || p.Width > mostSide || p.Height > mostSide:
		out = append(out, Problem{"picture", fmt.Sprintf("its sides are not 1 to %d", mostSide)})
	case strings.TrimSpace(p.Alt) == "":
		out = append(out, Problem{"picture", "the picture has no alternative text"})
	}
	return out
}

func checkSpot(in Interaction, d Declaration) []Problem {
	out := in.checkPicture()
	if len(in.Choices) > 0 {
		for i, c := range in.Choices {
			if c.Area == nil {
				out = append(out, Problem{fmt.Sprintf("choices[%d]", i), "has no area on the picture"})
			} else if err := c.Area.check(); err != nil {
				out = append(out, Problem{fmt.Sprintf("choices[%d]", i), err.Error()})
			}
		}
		return append(out, checkOffered(in, d)...)
	}
	if len(d.Areas) == 0 {
		out = append(out, Problem{"declarations[0].areas", "there is no key: no area is right"})
	}
	for _, a := range d.Areas {
		if err := a.check(); err != nil {
			out = append(out, Problem{"declarations[0].areas", "an area " + err.Error()})
		}
	}
	return out
}

func acceptsSpot(in Interaction, values []string) error {
	if len(in.Choices) > 0 {
		return acceptsChoices(in, values)
	}
	if in.MaxChoices > 0 && len(values) > in.MaxChoices {
		return &ResponseError{in.Response, fmt.Sprintf("has %d spots, %d at most", len(values), in.MaxChoices)}
	}
	for _, v := range values {
		if _, _, ok := readSpot(v); !ok {
			return &ResponseError{in.Response, fmt.Sprintf("gives %q, which is no spot such as %q", v, "120 45")}
		}
	}
	return nil
}

func readSpot(value string) (x, y int, ok bool) {
	left, right, found := strings.Cut(strings.TrimSpace(value), " ")
	x, errX := strconv.Atoi(left)
	y, errY := strconv.Atoi(strings.TrimSpace(right))
	within := func(n int) bool { return n >= -mostSide && n <= 2*mostSide }
	return x, y, found && errX == nil && errY == nil && within(x) && within(y)
}

// areaAt is the first area that a spot is in, or -1.
func areaAt(areas []Area, value string) int {
	x, y, ok := readSpot(value)
	if !ok {
		return -1
	}
	return slices.IndexFunc(areas, func(a Area) bool { return a.Contains(x, y) })
}

// scoreSpot: one spot is right in any of the areas. Where more than one is asked
// for, all or nothing wants every area hit and no spot beside them.
func scoreSpot(credit CreditRule, in Interaction, d Declaration, values []string) share {
	if len(in.Choices) > 0 {
		return scoreMultiple(credit, in, d, values)
	}
	hit := map[int]bool{}
	beside := 0
	for _, v := range values {
		if at := areaAt(d.Areas, v); at >= 0 {
			hit[at] = true
		} else {
			beside++
		}
	}
	why := fmt.Sprintf("Marked %s; right is %s.", strings.Join(values, ", "), strings.Join(areaWords(d.Areas), " or "))
	n := int64(len(d.Areas))
	switch {
	case credit == PerPart:
		right := max(int64(len(hit)-beside), 0)
		return share{num: right, den: n, why: fmt.Sprintf("%s %d areas hit, %d spots beside them, of %d.", why, len(hit), beside, n)}
	case beside == 0 && (in.MaxChoices == 1 || int64(len(hit)) == n):
		return whole(why)
	}
	return nothing(why)
}

// NewSpot makes an item whose answer is one spot in any of the areas of a picture.
func NewSpot(stem string, picture Picture, areas []Area) Item {
	it := build(Spot, stem, Interaction{Response: "RESPONSE", Picture: &picture, MaxChoices: 1},
		Declaration{Response: "RESPONSE", Areas: areas}, AllOrNothing)
	return it
}
