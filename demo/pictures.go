package demo

import (
	"fmt"
	"math"
	"strings"

	"pineledger/core/item"
)

// drawing is a picture drawn by this program, with what it shows in words.
type drawing struct {
	name          string
	alt           string
	width, height int
	svg           string
}

// The colors of the drawings: ink, water, wood, sand and a mark.
const (
	ink   = "#14322b"
	water = "#7fb0c4"
	wood  = "#8a6b45"
	sand  = "#e4d6b4"
	sky   = "#dcebf2"
	mark  = "#c2571a"
)

func draw(name, alt string, width, height int, shapes ...string) drawing {
	return drawing{name, alt, width, height, fmt.Sprintf(`<svg xmlns="http://www.w3.org/2000/svg" width="%d" height="%d" viewBox="0 0 %d %d"><rect x="0" y="0" width="%d" height="%d" fill="#ffffff"/>%s</svg>`,
		width, height, width, height, width, height, strings.Join(shapes, ""))}
}

func box(x, y, w, h int, fill string) string {
	return fmt.Sprintf(`<rect x="%d" y="%d" width="%d" height="%d" fill="%s" stroke="%s" stroke-width="2"/>`, x, y, w, h, fill, ink)
}

func disc(x, y, r int, fill string) string {
	return fmt.Sprintf(`<circle cx="%d" cy="%d" r="%d" fill="%s" stroke="%s" stroke-width="2"/>`, x, y, r, fill, ink)
}

func stroke(x1, y1, x2, y2, width int, color string) string {
	return fmt.Sprintf(`<line x1="%d" y1="%d" x2="%d" y2="%d" stroke="%s" stroke-width="%d"/>`, x1, y1, x2, y2, color, width)
}

func figure(fill string, at ...int) string {
	var points []string
	for i := 0; i+1 < len(at); i += 2 {
		points = append(points, fmt.Sprintf("%d,%d", at[i], at[i+1]))
	}
	return fmt.Sprintf(`<polygon points="%s" fill="%s" stroke="%s" stroke-width="2"/>`, strings.Join(points, " "), fill, ink)
}

func caption(x, y, size int, text string) string {
	return fmt.Sprintf(`<text x="%d" y="%d" font-size="%d" text-anchor="middle" fill="%s" font-family="sans-serif">%s</text>`, x, y, size, ink, text)
}

// gridUnit is the distance of the lines of a grid, gridEdge that of its first line
// from the edge.
const (
	gridUnit = 50
	gridEdge = 40
	gridSide = 6
)

// gridAt is where a point of a grid is drawn.
func gridAt(x, y int) (int, int) { return gridEdge + x*gridUnit, gridEdge + (gridSide-y)*gridUnit }

func grid(name, alt string, more ...string) drawing {
	var shapes []string
	for i := range gridSide + 1 {
		left, top := gridAt(i, i)
		first, last := gridAt(0, 0)
		right, upper := gridAt(gridSide, gridSide)
		width := 1
		if i == 0 {
			width = 3
		}
		shapes = append(shapes, stroke(left, upper, left, last, width, ink), stroke(first, top, right, top, width, ink),
			caption(left, last+22, 16, num(i)), caption(first-18, top+6, 16, num(i)))
	}
	side := gridEdge*2 + gridSide*gridUnit
	return draw(name, alt, side, side, append(shapes, more...)...)
}

// bars is a bar graph: labels and values beside each other, and the area of each bar.
func bars(name, alt string, labels []string, values []int) (drawing, []item.Area) {
	const wide, gap, high, unit = 60, 30, 240, 20
	var shapes []string
	var areas []item.Area
	for i, v := range values {
		x := 50 + i*(wide+gap)
		shapes = append(shapes, box(x, high-v*unit, wide, v*unit, water), caption(x+wide/2, high+22, 16, labels[i]))
		areas = append(areas, item.Area{Shape: item.Rectangle, At: []int{x, high - v*unit, x + wide, high}})
	}
	for v := 0; v <= 10; v += 2 {
		shapes = append(shapes, stroke(36, high-v*unit, 44, high-v*unit, 2, ink), caption(22, high-v*unit+6, 15, num(v)))
	}
	shapes = append(shapes, stroke(44, 20, 44, high, 2, ink), stroke(44, high, 50+len(values)*(wide+gap), high, 2, ink))
	return draw(name, alt, 70+len(values)*(wide+gap), high+36, shapes...), areas
}

func thermometer() (drawing, func(degree int) int) {
	at := func(degree int) int { return 160 - degree*12 }
	var shapes []string
	for d := -10; d <= 10; d++ {
		width := 12
		if d%5 == 0 {
			width = 22
			shapes = append(shapes, caption(136, at(d)+6, 16, strings.ReplaceAll(num(d), "-", "−")))
		}
		shapes = append(shapes, stroke(92, at(d), 92+width, at(d), 2, ink))
	}
	shapes = append(shapes, box(66, 30, 24, 262, "#ffffff"))
	return draw("thermometer.svg", "A thermometer from 10 degrees below zero to 10 above, with a mark for each degree", 180, 320, shapes...), at
}

// wave is a wave of three crests and the places of its crests.
func wave() (drawing, [][2]int) {
	var path strings.Builder
	for x := 0; x <= 460; x += 4 {
		y := 110 - 60*math.Sin(float64(x)/460*6*math.Pi)
		fmt.Fprintf(&path, "%s%d %.1f ", map[bool]string{true: "M", false: "L"}[x == 0], x+20, y)
	}
	var crests [][2]int
	for i := range 3 {
		crests = append(crests, [2]int{20 + int(460*(float64(i)+.25)/3), 50})
	}
	line := fmt.Sprintf(`<path d="%s" fill="none" stroke="%s" stroke-width="4"/>`, strings.TrimSpace(path.String()), ink)
	return draw("wave.svg", "A wave that goes up and down three times along a dashed line of rest", 500, 220,
		fmt.Sprintf(`<line x1="20" y1="110" x2="480" y2="110" stroke="%s" stroke-dasharray="6 6" stroke-width="2"/>`, ink), line), crests
}

// dots is so many dots in rows of five, for counting.
func dots(name string, n int, color string) drawing {
	var shapes []string
	for i := range n {
		shapes = append(shapes, disc(50+i%5*80, 50+i/5*80, 26, color))
	}
	return draw(name, "Dots to be counted", 420, 20+80*((n+4)/5), shapes...)
}
