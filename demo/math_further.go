package demo

import (
	"fmt"
	"math/rand/v2"
)

// perFurtherTemplate is how many items each further template gives.
const perFurtherTemplate = 3

// furtherTemplates give standards that are often asked for tasks of another story, since
// a form does not hold two that differ in their numbers alone.
var furtherTemplates = []template{
	{"M4.NP.1", 1, .7, func(r *rand.Rand) draftItem { // down always; to hundreds; a place too far
		n := between(r, 12, 89)*1000 + between(r, 555, 940)
		return choice(fmt.Sprintf("A cannery packed %d cans in a week. What is that rounded to the nearest thousand?", n),
			num((n+500)/1000*1000), num(n/1000*1000), num((n+50)/100*100), num((n+5000)/10000*10000))
	}},
	{"M4.OP.1", 1, .68, func(r *rand.Rand) draftItem { // tens and ones apart only; added; one shelf forgotten
		a, b := between(r, 13, 29), between(r, 12, 38)
		return choice(fmt.Sprintf("Each of %d shelves in the net loft holds %d floats. How many floats do all the shelves hold?", a, b),
			num(a*b), num((a/10)*(b/10)*100+(a%10)*(b%10)), num(a+b), num((a-1)*b))
	}},
	{"M4.OP.1", 2, .61, func(r *rand.Rand) draftItem {
		a, b := between(r, 6, 9), between(r, 112, 389)
		return typed(fmt.Sprintf("A cannery runs %d lines, and each fills %d cans an hour. How many cans do they fill in one hour?", a, b), "cans", num(a*b))
	}},
	{"M4.OP.2", 2, .56, func(r *rand.Rand) draftItem {
		each, full := between(r, 6, 9), between(r, 11, 24)
		rest := between(r, 1, each-1)
		return typed(fmt.Sprintf("%d lanterns are packed into crates of %d. As many crates as possible are full. How many lanterns are left over?", each*full+rest, each), "lanterns", num(rest))
	}},
	{"M4.OP.2", 2, .58, func(r *rand.Rand) draftItem { // one too many; what is left; length of a piece
		each, full := between(r, 4, 9), between(r, 11, 19)
		rest := between(r, 1, each-1)
		return choice(fmt.Sprintf("A rope of %d meters is cut into pieces of %d meters. How many whole pieces are there?", each*full+rest, each), num(full), num(full+1), num(rest), num(each))
	}},
	{"M4.MS.1", 1, .67, func(r *rand.Rand) draftItem {
		a := between(r, 3, 48)
		return typed(fmt.Sprintf("An anchor weighs %d kilograms. How many grams is that?", a), "grams", num(a*1000))
	}},
	{"M4.MS.1", 2, .57, func(r *rand.Rand) draftItem { // an hour taken as 100 minutes; the minutes forgotten; an hour taken as a day
		h, m := between(r, 2, 6), between(r, 11, 49)
		return choice(fmt.Sprintf("A ferry crossing takes %d hours and %d minutes. How many minutes is that?", h, m), num(h*60+m), num(h*100+m), num(h*60), num(h*24+m))
	}},
	{"M4.FS.1", 1, .64, func(r *rand.Rand) draftItem { // perimeter; two sides; doubled
		a, b := between(r, 4, 9), between(r, 11, 25)
		return choice(fmt.Sprintf("The garden behind the lighthouse is %d meters long and %d meters wide. What is its area in square meters?", b, a), num(a*b), num(2*(a+b)), num(a+b), num(2*a*b))
	}},
	{"M4.FS.1", 2, .5, func(r *rand.Rand) draftItem {
		a, b := between(r, 4, 9), between(r, 11, 25)
		return typed(fmt.Sprintf("A rectangular dock has a perimeter of %d meters and is %d meters wide. How many meters long is it?", 2*(a+b), a), "meters", num(b))
	}},
	{"M6.RR.2", 2, .6, func(r *rand.Rand) draftItem {
		rate, minutes := between(r, 14, 36), between(r, 4, 9)
		return typed(fmt.Sprintf("A pump empties %d liters out of a hold in %d minutes at a steady rate. How many liters does it empty in one minute?", rate*minutes, minutes), "liters", num(rate))
	}},
	{"M6.RR.3a", 2, .54, func(r *rand.Rand) draftItem { // the number itself; the rest; the rest of a hundred
		p, whole := pick(r, 15, 20, 30, 35, 45), pick(r, 40, 60, 80, 120)
		part := whole * p / 100
		return choice(fmt.Sprintf("%d of the %d boats in a harbor are blue. What percent of the boats are blue?", part, whole), num(p), num(part), num(whole-part), num(100-p))
	}},
}
