package supports

import (
	"cmp"
	"slices"

	"pineledger/core/support"
	"pineledger/store/giverows"
)

// GapGroup is one thing that is missing, for all whom it concerns.
type GapGroup struct {
	Letter string
	support.Gap
	Sections int // that it concerns
	Students []int64
}

// groups gathers gaps that are one.
type groups struct {
	at     map[string]int
	in     map[gapAt]bool
	list   []GapGroup
	letter map[string]string
}

type gapAt struct {
	gap     string
	section int64
}

func newGroups() *groups {
	return &groups{at: map[string]int{}, in: map[gapAt]bool{}, letter: map[string]string{}}
}

// add counts a student in, and gives the gap's key.
func (g *groups) add(gap support.Gap, s giverows.SeatOf) string {
	key := gap.Key + "\x00" + gap.Title + "\x00" + gap.Detail
	at, seen := g.at[key]
	if !seen {
		at = len(g.list)
		g.at[key] = at
		g.list = append(g.list, GapGroup{Letter: key, Gap: gap})
	}
	if where := (gapAt{key, s.SectionID}); !g.in[where] {
		g.in[where] = true
		g.list[at].Sections++
	}
	if n := len(g.list[at].Students); n == 0 || g.list[at].Students[n-1] != s.StudentID { // students come one after the other
		g.list[at].Students = append(g.list[at].Students, s.StudentID)
	}
	return key
}

// lettered orders the gaps, those that concern most first, and gives each its letter.
func (g *groups) lettered() []GapGroup {
	slices.SortStableFunc(g.list, func(a, b GapGroup) int { return cmp.Compare(len(b.Students), len(a.Students)) })
	for i := range g.list {
		key := g.list[i].Letter
		g.list[i].Letter = letterOf(i)
		g.letter[key] = g.list[i].Letter
	}
	return g.list
}

// letterOf counts a, b … z, aa, ab …
func letterOf(at int) string {
	out := ""
	for at++; at > 0; at = (at - 1) / 26 {
		out = string(rune('a'+(at-1)%26)) + out
	}
	return out
}
