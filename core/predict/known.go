package predict

import (
	"pineledger/core/points"
	"pineledger/core/results"
)

// Source is where the difficulty of a line comes from.
type Source string

const (
	FromMany   Source = "many"    // Sturdy responses or more
	FromFew    Source = "few"     // fewer, but as many as statistics want
	FromAuthor Source = "author"  // an estimate of who wrote it
	NotKnown   Source = "unknown" // none of these
)

// Sturdy is how many responses make a difficulty that hardly moves any more.
const Sturdy = 200

// Seen is what is known of a line before it is given.
type Seen struct {
	Scaled    *float64 // where a calibration put it, in logits; nil where it is on no scale
	Responses int
	Share     float64  // of its points that they earned
	Author    *float64 // 0 to 1; nil without an estimate
	Levels    []points.Points
}

// difficulty is the share that a location is made from, strictly between 0 and 1, and where it comes from.
func (s Seen) difficulty() (share float64, from Source) {
	switch {
	case s.Responses >= Sturdy && inside(s.Share):
		return s.Share, FromMany
	case s.Responses >= results.Fewest && inside(s.Share):
		return s.Share, FromFew
	case s.Author != nil && inside(*s.Author):
		return *s.Author, FromAuthor
	}
	return 0, NotKnown
}

func inside(share float64) bool { return share > 0 && share < 1 }

// Knowledge is how many lines have their difficulty from which source.
type Knowledge struct{ Scaled, Many, Few, Author, Unknown int }

// Lines is how many there are in all.
func (k Knowledge) Lines() int { return k.Scaled + k.Many + k.Few + k.Author + k.Unknown }

// Enough tells whether a prediction can be made: with half of the lines unknown it cannot.
func (k Knowledge) Enough() bool { return 2*k.Unknown < k.Lines() }

// Locate places lines on the scale. Those of which nothing is known take the mean place of the others.
func Locate(seen []Seen) ([]Line, Knowledge) {
	var k Knowledge
	lines := make([]Line, len(seen))
	var unknown []int
	var sum float64
	for i, s := range seen {
		lines[i].Levels = s.Levels
		if s.Scaled != nil && len(s.Levels) == 2 {
			k.Scaled++
			lines[i].B = *s.Scaled
			sum += lines[i].B
			continue
		}
		share, from := s.difficulty()
		switch from {
		case FromMany:
			k.Many++
		case FromFew:
			k.Few++
		case FromAuthor:
			k.Author++
		case NotKnown:
			k.Unknown++
			unknown = append(unknown, i)
			continue
		}
		lines[i].B = Location(share, s.Levels)
		sum += lines[i].B
	}
	if known := len(seen) - len(unknown); known > 0 {
		for _, i := range unknown {
			lines[i].B = sum / float64(known)
		}
	}
	return lines, k
}

// mostLevels bounds the levels of a line; what is scored finer is taken as right or wrong.
const mostLevels = 24

// Levels are the credits that a line can award by its step.
func Levels(worth, step points.Points) []points.Points {
	if step <= 0 || worth/step > mostLevels {
		step = worth
	}
	var out []points.Points
	for l := points.Points(0); l <= worth; l += step {
		out = append(out, l)
	}
	return out
}

// Middle is a line that stands for any of some others: at their mean place, with levels of its own.
func Middle(lines []Line, of []int, levels []points.Points) Line {
	var sum float64
	for _, i := range of {
		sum += lines[i].B
	}
	return Line{sum / float64(len(of)), levels}
}

// Middling is the mean place of lines that are right or wrong, by the shares that got them right, each strictly between 0 and 1.
func Middling(shares []float64) float64 {
	levels := Levels(points.One, points.One)
	var sum float64
	for _, share := range shares {
		sum += Location(share, levels)
	}
	return sum / float64(len(shares))
}
