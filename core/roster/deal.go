package roster

import "slices"

// Deal says how twin forms go over the seats of the sections that they are given to.
type Deal string

const (
	OneForm   Deal = ""         // the form that is sent, to all
	BySeat    Deal = "seats"    // a form after the other over the seats of each section
	BySection Deal = "sections" // each section gets one
)

// Known tells whether there is such a way.
func (d Deal) Known() bool { return d == OneForm || d == BySeat || d == BySection }

// Over gives each seat of some sections one of n forms, counted from 0. By seat each form comes equally often in each section and
// in all of them together, to a difference of one. By section each goes to the form with the fewest seats so far. n is at least 1.
func (d Deal) Over(sections []int, n int) [][]int {
	all := make([]int, n)
	out := make([][]int, len(sections))
	for i, seats := range sections {
		here := make([]int, n)
		for range seats {
			form := 0
			if d == BySeat {
				form = Fewest(here, all)
			} else if d == BySection {
				form = slices.Index(here, slices.Max(here)) // that of the first seat
				if here[form] == 0 {
					form = Fewest(here, all)
				}
			}
			out[i] = append(out[i], form)
			here[form]++
			all[form]++
		}
	}
	return out
}

// Fewest is the form that has the fewest seats here, among those the one with the fewest in all, among those the first.
func Fewest(here, all []int) int {
	best := 0
	for form := range here {
		if here[form] < here[best] || here[form] == here[best] && all[form] < all[best] {
			best = form
		}
	}
	return best
}
