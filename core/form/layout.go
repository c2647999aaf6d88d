package form

import (
	"fmt"
	"slices"

	"pineledger/core/attempt"
	"pineledger/core/points"
)

// Part is a stretch of lines with directions and tools of its own.
type Part struct {
	Title      string `json:"title"`      // "" for none
	Directions string `json:"directions"` // HTML
	Calculator bool   `json:"calculator"` // whether students have one on the screen
}

// Pool is a stretch of lines of which each student gets some.
type Pool struct {
	Title  string `json:"title"`  // "" for none
	Choose int    `json:"choose"` // lines for each student
}

// Layout is the parts and pools of an assessment.
type Layout struct {
	Parts []Part `json:"parts,omitempty"`
	Pools []Pool `json:"pools,omitempty"`
}

// Placed is what a layout must know of a line. Part and Pool are counted from 1; 0 is none.
type Placed struct {
	Part, Pool   int
	Passage      string // identifier, "" without one
	Points, Step points.Points
}

// Bounds of a layout.
const (
	MostParts = 20
	MostPools = 50
)

// Check refuses a layout that cannot be meant: a part or pool that is not there, parts that
// go back, pools that are torn or reach over a part's end. Its message names line, part or pool.
func (l Layout) Check(lines []Placed) error {
	switch {
	case len(l.Parts) > MostParts:
		return fmt.Errorf("an assessment has %d parts at most", MostParts)
	case len(l.Pools) > MostPools:
		return fmt.Errorf("an assessment has %d pools at most", MostPools)
	}
	for i, p := range l.Pools {
		if p.Choose < 1 {
			return fmt.Errorf("pool %d: each student gets one line at least", i+1)
		}
	}
	seen := map[int]bool{}
	for i, line := range lines {
		before := Placed{}
		if i > 0 {
			before = lines[i-1]
		}
		switch {
		case line.Part < 0 || line.Part > len(l.Parts):
			return fmt.Errorf("line %d: there is no part %d", i+1, line.Part)
		case len(l.Parts) > 0 && line.Part == 0:
			return fmt.Errorf("line %d stands in no part", i+1)
		case line.Part < before.Part:
			return fmt.Errorf("line %d: part %d comes after part %d", i+1, line.Part, before.Part)
		case line.Pool < 0 || line.Pool > len(l.Pools):
			return fmt.Errorf("line %d: there is no pool %d", i+1, line.Pool)
		case line.Pool == 0:
		case line.Pool == before.Pool && line.Part != before.Part:
			return fmt.Errorf("line %d: pool %d reaches over the end of a part", i+1, line.Pool)
		case line.Pool != before.Pool && seen[line.Pool]:
			return fmt.Errorf("line %d: the lines of pool %d do not stand together", i+1, line.Pool)
		}
		seen[line.Pool] = true
	}
	return nil
}

// Faults are the sentences that say what keeps a layout from being sealed.
func (l Layout) Faults(lines []Placed) []string {
	var out []string
	say := func(format string, args ...any) { out = append(out, fmt.Sprintf(format, args...)) }
	for i, p := range l.Parts {
		if !slices.ContainsFunc(lines, func(line Placed) bool { return line.Part == i+1 }) {
			say("%s has no lines.", named("Part", i, p.Title))
		}
	}
	for i, p := range l.Pools {
		name := named("Pool", i, p.Title)
		blocks := poolBlocks(lines, i+1)
		size, n := 0, 0
		alike, fair := true, true
		for _, b := range blocks {
			size = max(size, len(b))
			n += len(b)
			for _, at := range b {
				fair = fair && lines[at].Points == lines[blocks[0][0]].Points
			}
		}
		for _, b := range blocks {
			alike = alike && len(b) == size
		}
		switch {
		case n < p.Choose:
			say("%s gives each student %d of %d lines: it is %d short.", name, p.Choose, n, p.Choose-n)
		case !fair:
			say("%s: its lines are worth unlike points, so its draws would not be equal.", name)
		case !alike:
			say("%s: passages come whole, and its passages and single lines hold unlike numbers of lines.", name)
		case p.Choose%size != 0:
			say("%s: passages come whole with %d lines each, and %d is not a multiple of that.", name, size, p.Choose)
		}
	}
	return out
}

func named(word string, i int, title string) string {
	if title == "" {
		return fmt.Sprintf("%s %d", word, i+1)
	}
	return fmt.Sprintf("%s %d, %s,", word, i+1, title)
}

// poolBlocks gives the lines of a pool as what is drawn together: neighbouring lines of one
// passage, or a line by itself. Numbers are places in lines.
func poolBlocks(lines []Placed, pool int) [][]int {
	var out [][]int
	for i, line := range lines {
		if line.Pool != pool {
			continue
		}
		if k := len(out) - 1; k >= 0 && line.Passage != "" && lines[i-1].Passage == line.Passage && lines[i-1].Pool == pool {
			out[k] = append(out[k], i)
			continue
		}
		out = append(out, []int{i})
	}
	return out
}

// Given are the lines, as places in the list, that the attempt with a seed gets: all that stand
// in no pool, and of each pool as many as it gives, a passage's lines together. nil where there
// are no pools, so that all are given.
func (l Layout) Given(lines []Placed, seed int64) []int {
	if len(l.Pools) == 0 {
		return nil
	}
	out := []int{}
	for i, line := range lines {
		if line.Pool == 0 {
			out = append(out, i)
		}
	}
	for i, p := range l.Pools {
		blocks := poolBlocks(lines, i+1)
		if len(blocks) == 0 {
			continue
		}
		for _, k := range attempt.Chosen(max(1, p.Choose/len(blocks[0])), len(blocks), seed, i+1) {
			out = append(out, blocks[k-1]...)
		}
	}
	slices.Sort(out)
	return out
}

// Each is what every student gets, whatever the seed: the lines in no pool as they are, and for
// each pool as many stand-ins as it gives, worth its points, with the finest step of its lines.
func (l Layout) Each(lines []Placed) []Placed {
	members := l.Members(lines)
	out := make([]Placed, len(members))
	for i, at := range members {
		first := lines[at[0]]
		if first.Pool == 0 {
			out[i] = first
			continue
		}
		out[i] = Placed{Pool: first.Pool, Part: first.Part, Points: first.Points}
		for _, k := range at {
			step := lines[k].Step
			if step == 0 {
				step = lines[k].Points
			}
			out[i].Step = points.GCD(out[i].Step, step)
		}
	}
	return out
}

// Members gives for each of what Each gives the places of the lines that it can be: itself, or all of its pool.
func (l Layout) Members(lines []Placed) [][]int {
	var out [][]int
	pools := make([][]int, len(l.Pools))
	for at, line := range lines {
		if line.Pool == 0 {
			out = append(out, []int{at})
		} else if line.Pool <= len(pools) { // of a pool that is not there nobody gets any
			pools[line.Pool-1] = append(pools[line.Pool-1], at)
		}
	}
	for i, p := range l.Pools {
		for range min(len(pools[i]), p.Choose) {
			out = append(out, pools[i])
		}
	}
	return out
}

// Worth is the sum of the points that every student can earn, and that sum in each part.
func (l Layout) Worth(lines []Placed) (total points.Points, parts []points.Points) {
	parts = make([]points.Points, len(l.Parts))
	for _, line := range l.Each(lines) {
		total += line.Points
		if line.Part > 0 {
			parts[line.Part-1] += line.Points
		}
	}
	return total, parts
}

// Settled mends where lines stand after some were added or taken away by the program: a line without
// a part, or behind its neighbour's, stands in the neighbour's, and what is torn from its pool leaves it.
// Lines that already pass Check stay as they are.
func (l Layout) Settled(lines []Placed) []Placed {
	out := slices.Clone(lines)
	seen := map[int]bool{}
	before := Placed{Part: min(1, len(l.Parts))}
	for i := range out {
		line := &out[i]
		if line.Part > len(l.Parts) || line.Part < before.Part {
			line.Part = before.Part
		}
		if torn := line.Pool != before.Pool && seen[line.Pool] || line.Pool == before.Pool && line.Part != before.Part; torn || line.Pool < 0 || line.Pool > len(l.Pools) {
			line.Pool = 0
		}
		if line.Pool > 0 {
			seen[line.Pool] = true
		}
		before = *line
	}
	return out
}
