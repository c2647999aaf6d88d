// Package results sums up what students earned: by groups of them and by line. It
// knows how few are too few for a figure to be told.
package results

import (
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/points"
)

// Fewest is how many students a statistic is told of: under ten, one student makes it.
const Fewest = 10

// Group is the results of some students together. Its zero value, given bands and
// strands by NewGroup, has no students.
type Group struct {
	N       int           // students with a final result
	Waiting int           // students of whom something waits for a reader; they are in no other figure
	Bands   []int         // final results in each band
	Raw     points.Points // sum of the final results
	Strands []Share       // in the order of the strands that are asked for
}

// Share is what was earned of what could be.
type Share struct{ Earned, Possible points.Points }

// NewGroup is a group without students.
func NewGroup(bands, strands int) Group {
	return Group{Bands: make([]int, bands), Strands: make([]Share, strands)}
}

// Final counts n students whose results are final and sum to raw. band is -1 where
// there are no bands.
func (g *Group) Final(n, band int, raw points.Points) {
	g.N += n
	g.Raw += raw
	if band >= 0 {
		g.Bands[band] += n
	}
}

// Line counts n scored answers to a line, counted from 0 and worth most each, that earned
// so much together, into every strand that has the line.
func (g *Group) Line(strands []form.Strand, line int, most points.Points, n int, earned points.Points) {
	for i, strand := range strands {
		for _, l := range strand.Lines {
			if l == line {
				g.Strands[i].Earned += earned
				g.Strands[i].Possible += most * points.Points(n)
			}
		}
	}
}

// MayStandBeside tells whether a group may be told to somebody who sees a part of it already:
// it adds to the part, and neither it nor its rest are too few, since the rest can be worked out.
func (g Group) MayStandBeside(part Group) bool {
	rest := g.N - part.N
	return rest >= Fewest && g.N >= Fewest
}

// Add adds the students of another group, with the same bands and strands.
func (g *Group) Add(other Group) {
	g.N += other.N
	g.Waiting += other.Waiting
	g.Raw += other.Raw
	for i, n := range other.Bands {
		g.Bands[i] += n
	}
	for i, s := range other.Strands {
		g.Strands[i].Earned += s.Earned
		g.Strands[i].Possible += s.Possible
	}
}

// MeanTenths is the mean of the final results in tenths of a percent of the total; -1 without one.
func (g Group) MeanTenths(total points.Points) int64 {
	if g.N == 0 {
		return -1
	}
	return points.Tenths(g.Raw, total*points.Points(g.N))
}

// Tenths is the share in tenths of a percent; -1 where nothing could be earned.
func (s Share) Tenths() int64 {
	if s.Possible == 0 {
		return -1
	}
	return points.Tenths(s.Earned, s.Possible)
}

// Line is how some students did on a line.
type Line struct {
	N          int   // students whose answer is scored
	Difficulty int64 // mean credit over points in thousandths, rounded half up; -1 for fewer than Fewest
	Omitted    int   // blank before a line that was answered
	earned     points.Points
}

// Lines sums up how students did on each line of a form. What a student was not given, and what waits for a
// reader, is in no figure.
type Lines struct{ lines []Line }

// NewLines is for a form of so many lines.
func NewLines(n int) Lines { return Lines{make([]Line, n)} }

// Count counts what one student earned on a line, counted from 0.
func (l Lines) Count(line int, credit points.Points, outcome item.Outcome) {
	if outcome == item.NotGiven || outcome == item.Unread {
		return
	}
	at := &l.lines[line]
	at.N++
	at.earned += credit
	if outcome == item.Omitted { // what was not reached stands apart
		at.Omitted++
	}
}

// Of gives the lines, each worth so much.
func (l Lines) Of(worth func(line int) points.Points) []Line {
	for i := range l.lines {
		at := &l.lines[i]
		at.Difficulty = -1
		if possible := int64(worth(i)) * int64(at.N); at.N >= Fewest && possible > 0 {
			at.Difficulty = (int64(at.earned)*2000 + possible) / (2 * possible)
		}
	}
	return l.lines
}
