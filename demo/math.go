package demo

import (
	"fmt"
	"math/big"
	"math/rand/v2"
	"slices"
	"strings"
)

// A template makes items of one standard. Distractors come from mistakes that
// students make; each template names them in its comments.
type template struct {
	standard string
	depth    int
	p        float64
	make     func(r *rand.Rand) draftItem
}

// perTemplate is how many items each template gives.
const perTemplate = 7

// mathItems makes the mathematics bank.
func mathItems(r *rand.Rand) []draftItem {
	out := fromTemplates(nil, r, templates, perTemplate)
	out = fromTemplates(out, rand.New(rand.NewPCG(41, 7)), furtherTemplates, perFurtherTemplate)
	return append(out, miskeyed())
}

// fromTemplates adds so many items of each template to others. A variant whose distractors
// run into each other is made again with other numbers.
func fromTemplates(out []draftItem, r *rand.Rand, of []template, each int) []draftItem {
	seen := map[string]bool{}
	for _, t := range of {
		for n := 1; n <= each; n++ {
			var it draftItem
			for tries := 0; ; tries++ {
				it = t.make(r)
				if (sound(it) && !seen[it.stem]) || tries > 500 {
					break
				}
			}
			if seen[it.stem] || !sound(it) {
				continue // the template has fewer sound and different items than were wanted
			}
			seen[it.stem] = true
			it.standard, it.depth, it.subject, it.grade = t.standard, t.depth, "mathematics", gradeOf(t.standard)
			it.p = min(.95, max(.15, t.p+(r.Float64()-.5)*.16))
			it.identifier = fmt.Sprintf("%s-%03d", strings.ReplaceAll(t.standard, ".", "-"), countStandard(out, t.standard)+1)
			out = append(out, it)
		}
	}
	return out
}

func countStandard(items []draftItem, standard string) int {
	n := 0
	for _, it := range items {
		if it.standard == standard {
			n++
		}
	}
	return n
}

// sound tells whether all answers differ, in value where they are numbers.
func sound(it draftItem) bool {
	if it.kind == "number" {
		return len(it.right) > 0
	}
	all := append(slices.Clone(it.right), it.wrong...)
	for i, text := range all {
		if v, ok := new(big.Rat).SetString(text); ok {
			all[i] = v.RatString()
		}
	}
	slices.Sort(all)
	return len(slices.Compact(all)) == len(it.right)+len(it.wrong)
}

// miskeyed is the one item with a wrong key, to be found in the results: most
// able students choose 4, and the key says 10.
func miskeyed() draftItem {
	return draftItem{identifier: "M6-EX-3-900", kind: "single-choice", subject: "mathematics", grade: "06", standard: "M6.EX.3", depth: 2, p: .68,
		stem: "Seven equal crates weigh 28 kilograms. How many kilograms does one crate weigh?", right: []string{"4"}, wrong: []string{"10", "21", "35"}, wrongKey: true}
}

func choice(stem, right string, wrong ...string) draftItem {
	return draftItem{kind: "single-choice", stem: stem, right: []string{right}, wrong: wrong}
}

func typed(stem, unit string, right ...string) draftItem {
	return draftItem{kind: "number", stem: stem, right: right, unit: unit}
}

func num(n int) string { return fmt.Sprint(n) }

// between gives a whole number from a to b.
func between(r *rand.Rand, a, b int) int { return a + r.IntN(b-a+1) }

func pick[T any](r *rand.Rand, list ...T) T { return list[r.IntN(len(list))] }

func gcd(a, b int) int {
	for b != 0 {
		a, b = b, a%b
	}
	return a
}

// frac writes a fraction in lowest terms as it is typed: 3/4, 2.
func frac(n, d int) string {
	g := gcd(max(n, -n), d)
	if n, d = n/g, d/g; d == 1 {
		return num(n)
	}
	return fmt.Sprintf("%d/%d", n, d)
}

// signed writes a number with a true minus sign.
func signed(n int) string { return strings.Replace(num(n), "-", "−", 1) }

// cents writes hundredths as a decimal.
func cents(n int) string {
	s := fmt.Sprintf("%d.%02d", n/100, n%100)
	return strings.TrimSuffix(strings.TrimRight(s, "0"), ".")
}

var boats = []string{"Curlew", "Sandpiper", "Heron", "Petrel", "Kittiwake", "Grebe"}

var templates = slices.Concat(grade3, grade4, grade5, grade6, grade7, grade8)

var grade3 = []template{
	{"M3.OP.1a", 1, .82, func(r *rand.Rand) draftItem { // added once; one group too few; one too many
		a, b := between(r, 3, 9), between(r, 3, 9)
		return choice(fmt.Sprintf("There are %d rows of crab pots on the dock. Each row has %d pots. How many pots are there?", a, b), num(a*b), num(a+b), num(a*b-b), num(a*b+b))
	}},
	{"M3.OP.1b", 1, .74, func(r *rand.Rand) draftItem {
		a, b := between(r, 3, 9), between(r, 3, 9)
		return typed(fmt.Sprintf("%d oars are shared equally among %d boats. How many oars does each boat get?", a*b, a), "oars", num(b))
	}},
	{"M3.OP.2", 2, .58, func(r *rand.Rand) draftItem { // forgot the second step; added it; took it from one group
		a, b, c := between(r, 4, 8), between(r, 5, 9), between(r, 3, 9)
		return choice(fmt.Sprintf("A cook buys %d boxes of %d rolls. The crew eats %d rolls. How many rolls are left?", a, b, c), num(a*b-c), num(a*b), num(a*b+c), num(a+b-c))
	}},
	{"M3.FR.1a", 1, .76, func(r *rand.Rand) draftItem { // the part left; part to rest; upside down
		d := pick(r, 4, 6, 8)
		n := between(r, 1, d-1)
		return choice(fmt.Sprintf("A map of the bay is folded into %d equal parts. %d of them show land. What fraction of the map shows land?", d, n),
			fmt.Sprintf("%d/%d", n, d), fmt.Sprintf("%d/%d", d-n, d), fmt.Sprintf("%d/%d", n, d-n), fmt.Sprintf("%d/%d", d, n))
	}},
	{"M3.FR.1b", 2, .61, func(r *rand.Rand) draftItem { // a larger denominator taken for a larger part
		d := pick(r, 3, 4)
		return choice(fmt.Sprintf("Four rope ends were cut from equal ropes: 1/%d, 1/%d, 1/%d and 1/%d of a rope. Which is the longest?", d*2, d, d+5, d+2),
			fmt.Sprintf("1/%d", d), fmt.Sprintf("1/%d", d*2), fmt.Sprintf("1/%d", d+5), fmt.Sprintf("1/%d", d+2))
	}},
	{"M3.MS.1", 2, .57, func(r *rand.Rand) draftItem { // counted an hour as 100 minutes; minutes only; an hour too many
		h, m, long := between(r, 7, 10), pick(r, 35, 40, 45, 50), pick(r, 30, 35, 45, 50)
		end := h*60 + m + long
		return choice(fmt.Sprintf("The ferry %s leaves at %d:%02d and sails for %d minutes. When does it arrive?", pick(r, boats...), h, m, long),
			fmt.Sprintf("%d:%02d", end/60, end%60), fmt.Sprintf("%d:%02d", h, (m+long)%60), fmt.Sprintf("%d:%02d", end/60+1, end%60), fmt.Sprintf("%d:%02d", end/60, (end+10)%60))
	}},
	{"M3.FS.1", 2, .63, func(r *rand.Rand) draftItem { // area; two sides only; one side three times
		a, b := between(r, 3, 9), between(r, 10, 15)
		return choice(fmt.Sprintf("A rectangular net is %d meters long and %d meters wide. What is its perimeter in meters?", b, a), num(2*(a+b)), num(a*b), num(a+b), num(2*a+b))
	}},
}

var grade4 = []template{
	{"M4.NP.1", 1, .75, func(r *rand.Rand) draftItem { // rounded to tens; to thousands; down always
		n := between(r, 12, 89)*100 + between(r, 55, 94)
		return choice(fmt.Sprintf("The lighthouse had %d visitors last year. What is that rounded to the nearest hundred?", n),
			num((n+50)/100*100), num(n/100*100), num((n+5)/10*10), num((n+500)/1000*1000))
	}},
	{"M4.OP.1", 1, .66, func(r *rand.Rand) draftItem { // only tens and ones multiplied; added; a zero lost
		a, b := between(r, 13, 39), between(r, 12, 29)
		return choice(fmt.Sprintf("A ferry makes %d crossings each week with room for %d cars each time. How many cars can cross in a week?", a, b),
			num(a*b), num((a/10)*(b/10)*100+(a%10)*(b%10)), num(a+b), num(a*(b%10)+a*(b/10)))
	}},
	{"M4.OP.2", 2, .52, func(r *rand.Rand) draftItem { // remainder dropped; remainder given; one more
		seats := between(r, 6, 9)
		full := between(r, 4, 9)
		rest := between(r, 1, seats-1)
		return choice(fmt.Sprintf("%d students go out in skiffs that hold %d each. How many skiffs are needed?", seats*full+rest, seats), num(full+1), num(full), num(rest), num(full+2))
	}},
	{"M4.FR.1", 2, .62, func(r *rand.Rand) draftItem { // added instead of multiplied; only one part multiplied
		n, d, k := between(r, 1, 4), between(r, 5, 9), between(r, 2, 4)
		return choice(fmt.Sprintf("Which fraction is equal to %d/%d?", n, d), fmt.Sprintf("%d/%d", n*k, d*k),
			fmt.Sprintf("%d/%d", n+k, d+k), fmt.Sprintf("%d/%d", n*k, d), fmt.Sprintf("%d/%d", n, d*k))
	}},
	{"M4.FR.2", 1, .69, func(r *rand.Rand) draftItem { // denominators added too; tops multiplied; counted one over
		d := pick(r, 7, 9, 11)
		a, b := between(r, 2, 3), between(r, 1, 3)
		return choice(fmt.Sprintf("One tide filled %d/%d of a rain barrel and a storm filled %d/%d more. What fraction of the barrel is full?", a, d, b, d),
			fmt.Sprintf("%d/%d", a+b, d), fmt.Sprintf("%d/%d", a+b, 2*d), fmt.Sprintf("%d/%d", a*b, d), fmt.Sprintf("%d/%d", a+b+1, d))
	}},
	{"M4.MS.1", 1, .64, func(r *rand.Rand) draftItem {
		a := between(r, 3, 12)
		return typed(fmt.Sprintf("A channel is %d kilometers long. How many meters is that?", a), "meters", num(a*1000))
	}},
	{"M4.FS.1", 2, .55, func(r *rand.Rand) draftItem {
		a, b := between(r, 4, 9), between(r, 11, 25)
		return typed(fmt.Sprintf("A rectangular deck has an area of %d square meters and is %d meters wide. How many meters long is it?", a*b, a), "meters", num(b))
	}},
}

var grade5 = []template{
	{"M5.NP.1", 1, .68, func(r *rand.Rand) draftItem { // a place too few; too many; the wrong way
		n := between(r, 112, 987)
		return choice(fmt.Sprintf("What is %s × 100?", cents(n)), num(n), cents(n*10), num(n*10), cents(n/10))
	}},
	{"M5.NP.2", 1, .65, func(r *rand.Rand) draftItem {
		a, b := between(r, 1105, 1990), between(r, 210, 870)
		return typed(fmt.Sprintf("High water was at %s meters and low water at %s meters. How many meters did the water fall?", cents(a), cents(b)), "meters", cents(a-b))
	}},
	{"M5.FR.1", 2, .51, func(r *rand.Rand) draftItem { // tops and bottoms added; bottoms multiplied, tops added; one part forgotten
		b, d := pick(r, 3, 5), pick(r, 4, 7)
		return choice(fmt.Sprintf("A painter used 1/%d of a can of varnish on the mast and 1/%d on the rail. What fraction of the can was used?", b, d),
			frac(b+d, b*d), frac(2, b+d), frac(2, b*d), frac(1, b*d))
	}},
	{"M5.FR.2", 2, .57, func(r *rand.Rand) draftItem {
		d := pick(r, 4, 5, 8)
		n, k := between(r, 2, d-1), between(r, 3, 9)
		return typed(fmt.Sprintf("Each lantern needs %d/%d of a liter of oil. How many liters do %d lanterns need? You may type a fraction.", n, d, k), "liters", frac(n*k, d))
	}},
	{"M5.FS.1", 1, .63, func(r *rand.Rand) draftItem { // added; two edges only; area of the sides
		a, b, c := between(r, 3, 6), between(r, 7, 9), between(r, 2, 5)
		return choice(fmt.Sprintf("A fish box is %d decimeters long, %d wide and %d high. What is its volume in cubic decimeters?", b, a, c), num(a*b*c), num(a+b+c), num(a*b), num(2*(a*b+b*c+a*c)))
	}},
	{"M5.FS.2", 2, .60, func(r *rand.Rand) draftItem { // swapped; moved the wrong way
		x, y, dx, dy := between(r, 1, 4), between(r, 5, 9), between(r, 2, 4), between(r, 1, 3)
		return choice(fmt.Sprintf("On a chart, a buoy lies at (%d, %d). A boat is %d squares to the right of it and %d squares up. Where is the boat?", x, y, dx, dy),
			fmt.Sprintf("(%d, %d)", x+dx, y+dy), fmt.Sprintf("(%d, %d)", y+dy, x+dx), fmt.Sprintf("(%d, %d)", x+dx, y-dy), fmt.Sprintf("(%d, %d)", x+dy, y+dx))
	}},
	{"M5.DC.1", 2, .59, func(r *rand.Rand) draftItem {
		a, b, c := between(r, 14, 28), between(r, 31, 45), between(r, 47, 60)
		it := choice(fmt.Sprintf("<p>A class counted herons from the boardwalk.</p><table><thead><tr><th scope=\"col\">Month</th><th scope=\"col\">Herons</th></tr></thead><tbody><tr><td>March</td><td>%d</td></tr><tr><td>April</td><td>%d</td></tr><tr><td>May</td><td>%d</td></tr></tbody></table><p>How many more herons were counted in May than in March?</p>", a, b, c),
			num(c-a), num(c-b), num(c+a), num(b-a))
		return it
	}},
}

var grade6 = []template{
	{"M6.RR.1a", 1, .74, func(r *rand.Rand) draftItem { // turned round; part to whole; not simplified by the common factor
		a, b, k := pick(r, 2, 3, 4), pick(r, 5, 7, 11), between(r, 2, 5)
		return choice(fmt.Sprintf("A harbor has %d sailboats and %d motorboats. What is the ratio of sailboats to motorboats in simplest form?", a*k, b*k),
			fmt.Sprintf("%d : %d", a, b), fmt.Sprintf("%d : %d", b, a), fmt.Sprintf("%d : %d", a, a+b), fmt.Sprintf("%d : %d", a, b*k))
	}},
	{"M6.RR.1b", 2, .55, func(r *rand.Rand) draftItem { // added the same to both; scaled one part only
		a, b, k := pick(r, 3, 4), pick(r, 5, 7), between(r, 3, 6)
		return draftItem{kind: "multiple-choice", credit: "per-choice", stem: fmt.Sprintf("Which of these ratios are equal to %d : %d? Choose all that are.", a, b),
			right: []string{fmt.Sprintf("%d : %d", a*k, b*k), fmt.Sprintf("%d : %d", a*2, b*2)},
			wrong: []string{fmt.Sprintf("%d : %d", a+k, b+k), fmt.Sprintf("%d : %d", a*k, b), fmt.Sprintf("%d : %d", b*2, a*2)}}
	}},
	{"M6.RR.2", 2, .62, func(r *rand.Rand) draftItem {
		rate, hours := between(r, 12, 24), between(r, 3, 6)
		return typed(fmt.Sprintf("The ferry %s sails %d kilometers in %d hours at a steady speed. How many kilometers does it sail in one hour?", pick(r, boats...), rate*hours, hours), "km", num(rate))
	}},
	{"M6.RR.3a", 2, .56, func(r *rand.Rand) draftItem { // the percent itself; the rest; divided by the percent
		p, whole := pick(r, 15, 20, 25, 30, 40), pick(r, 80, 120, 160, 240)
		return choice(fmt.Sprintf("Of %d seats on a ferry, %d%% are taken. How many seats are taken?", whole, p), num(whole*p/100), num(p), num(whole-whole*p/100), num(whole/p))
	}},
	{"M6.RR.3b", 2, .58, func(r *rand.Rand) draftItem {
		a := between(r, 25, 95) * 10
		return typed(fmt.Sprintf("A rope is %s meters long. How many centimeters is that?", cents(a)), "cm", num(a))
	}},
	{"M6.NP.1", 2, .47, func(r *rand.Rand) draftItem { // multiplied; turned the first one round
		b, c, d := pick(r, 3, 5, 7), between(r, 2, 3), pick(r, 5, 7, 8)
		return choice(fmt.Sprintf("What is 1/%d ÷ %d/%d?", b, c, d), frac(d, b*c), frac(c, b*d), frac(b*c, d), frac(b*d, c))
	}},
	{"M6.NP.2a", 1, .68, func(r *rand.Rand) draftItem { // larger digits taken for a larger number
		a, b, c := between(r, 7, 12), between(r, 2, 6), between(r, 1, 5)
		return choice(fmt.Sprintf("Four readings of a tide gauge are %s, %s, %d and 0 decimeters. Which is the lowest?", signed(-a), signed(-b), c), signed(-a), signed(-b), num(c), "0")
	}},
	{"M6.NP.2b", 2, .54, func(r *rand.Rand) draftItem { // subtracted without signs
		a, b := between(r, 3, 9), between(r, 11, 19)
		return typed(fmt.Sprintf("At noon a thermometer on the pier read %s °C, and at night %s °C. By how many degrees did the temperature fall?", num(b), signed(-a)), "degrees", num(a+b))
	}},
	{"M6.NP.3", 2, .52, func(r *rand.Rand) draftItem { // product; sum; the larger one
		a, b := pick(r, 4, 6, 10), pick(r, 9, 15)
		l := a / gcd(a, b) * b
		return choice(fmt.Sprintf("One buoy flashes every %d seconds and another every %d seconds. They have just flashed together. After how many seconds do they next flash together?", a, b), num(l), num(a*b), num(a+b), num(b))
	}},
	{"M6.EX.1", 1, .63, func(r *rand.Rand) draftItem { // power taken as a product; left to right; bracket ignored
		a, b, c := between(r, 3, 5), between(r, 2, 6), between(r, 2, 4)
		return choice(fmt.Sprintf("<p>What is %d × (%d + %d<sup>2</sup>)?</p>", a, b, c), num(a*(b+c*c)), num(a*(b+c*2)), num(a*b+c*c), num(a*(b+c)*(b+c)))
	}},
	{"M6.EX.2", 2, .59, func(r *rand.Rand) draftItem { // fee and rate swapped; added; fee taken n times
		fee, rate := between(r, 4, 9), between(r, 2, 3)
		return choice(fmt.Sprintf("<p>A kayak costs $%d to rent and $%d more for each hour. Which expression gives the cost in dollars for <em>n</em> hours?</p>", fee, rate),
			fmt.Sprintf("%d + %dn", fee, rate), fmt.Sprintf("%dn + %d", fee, rate), fmt.Sprintf("%d + n", fee+rate), fmt.Sprintf("%dn", fee+rate))
	}},
	{"M6.EX.3", 1, .66, func(r *rand.Rand) draftItem {
		a, x := between(r, 6, 14), between(r, 12, 40)
		return typed(fmt.Sprintf("<p>Solve <em>x</em> + %d = %d.</p>", a, x+a), "", num(x))
	}},
	{"M6.FS.1", 2, .53, func(r *rand.Rand) draftItem { // no half; added; halved twice
		b, h := between(r, 3, 6)*2, between(r, 5, 11)
		return choice(fmt.Sprintf("A triangular sail is %d meters wide at its foot and %d meters high. What is its area in square meters?", b, h), num(b*h/2), num(b*h), num(b+h), num(b*h*2))
	}},
	{"M6.FS.2", 2, .48, func(r *rand.Rand) draftItem {
		a, b := between(r, 3, 9), between(r, 2, 6)*2
		return typed(fmt.Sprintf("A crate is %d meters long, %d meters wide and half a meter high. What is its volume in cubic meters?", a, b), "cubic meters", num(a*b/2))
	}},
	{"M6.DC.1", 2, .57, func(r *rand.Rand) draftItem { // sum; middle one; largest
		m, d, e := between(r, 12, 20), between(r, 2, 4), between(r, 5, 7)
		return choice(fmt.Sprintf("Four storm readings of the wind were %d, %d, %d and %d knots. What is their mean?", m-d, m+e, m-e, m+d), num(m), num(4*m), num(m+e), num(m-d))
	}},
	{"M6.DC.2", 1, .60, func(r *rand.Rand) draftItem { // not put in order; mean of the ends; range
		a := between(r, 3, 8)
		b, c, d, e := a+2, a+3, a+7, a+12
		return choice(fmt.Sprintf("A class counted crabs in five places: %d, %d, %d, %d and %d. What is the median?", d, b, e, a, c), num(c), num(e), num(d), num(e-a))
	}},
}

var grade7 = []template{
	{"M7.RR.1", 2, .58, func(r *rand.Rand) draftItem {
		k, a, b := between(r, 3, 8), between(r, 3, 6), between(r, 7, 11)
		return typed(fmt.Sprintf("%d kilograms of clams cost $%d. At the same price, how many dollars do %d kilograms cost?", a, a*k, b), "dollars", num(b*k))
	}},
	{"M7.RR.2", 2, .47, func(r *rand.Rand) draftItem { // the change alone; taken off; percent added as a number
		p, whole := pick(r, 10, 20, 25), pick(r, 80, 120, 200, 240)
		return choice(fmt.Sprintf("A harbor museum had %d visitors in May and %d%% more in June. How many came in June?", whole, p), num(whole+whole*p/100), num(whole*p/100), num(whole-whole*p/100), num(whole+p))
	}},
	{"M7.NP.1", 1, .61, func(r *rand.Rand) draftItem { // signs lost
		a, b := between(r, 4, 9), between(r, 11, 18)
		return choice(fmt.Sprintf("What is %s − (%s)?", signed(-a), signed(-b)), num(b-a), signed(-a-b), num(a+b), signed(a-b))
	}},
	{"M7.EX.1", 2, .56, func(r *rand.Rand) draftItem {
		a, b, x := between(r, 3, 7), between(r, 4, 15), between(r, 3, 12)
		return typed(fmt.Sprintf("<p>Solve %d<em>x</em> + %d = %d.</p>", a, b, a*x+b), "", num(x))
	}},
	{"M7.FS.1", 2, .45, func(r *rand.Rand) draftItem { // diameter for radius; circumference; radius not squared
		radius := between(r, 3, 9)
		return choice(fmt.Sprintf("A round fish pen has a radius of %d meters. What is its area in square meters?", radius),
			fmt.Sprintf("%dπ", radius*radius), fmt.Sprintf("%dπ", 4*radius*radius), fmt.Sprintf("%dπ", 2*radius), fmt.Sprintf("%dπ", radius))
	}},
	{"M7.DC.1", 2, .60, func(r *rand.Rand) draftItem { // part to part; turned round; one of all
		a, b := pick(r, 3, 4), pick(r, 5, 7)
		return choice(fmt.Sprintf("A bag holds %d white floats and %d blue ones. One is taken without looking. What is the chance that it is white?", a, b),
			fmt.Sprintf("%d/%d", a, a+b), fmt.Sprintf("%d/%d", a, b), fmt.Sprintf("%d/%d", b, a+b), fmt.Sprintf("1/%d", a+b))
	}},
}

var grade8 = []template{
	{"M8.NP.1", 1, .58, func(r *rand.Rand) draftItem { // exponents multiplied; bases multiplied
		b, m, n := pick(r, 3, 5, 7), between(r, 3, 5), pick(r, 2, 3, 5)
		power := func(base, e int) string { return fmt.Sprintf("<p>%d<sup>%d</sup></p>", base, e) }
		return choice(fmt.Sprintf("<p>Which is equal to %d<sup>%d</sup> × %d<sup>%d</sup>?</p>", b, m, b, n), power(b, m+n), power(b, m*n), power(b*b, m+n), power(b*b, m*n))
	}},
	{"M8.EX.1", 2, .50, func(r *rand.Rand) draftItem {
		x, a, c, b := between(r, 2, 9), between(r, 6, 9), between(r, 2, 5), between(r, 3, 14)
		return typed(fmt.Sprintf("<p>Solve %d<em>x</em> + %d = %d<em>x</em> + %d.</p>", a, b, c, (a-c)*x+b), "", num(x))
	}},
	{"M8.EX.2", 2, .52, func(r *rand.Rand) draftItem { // turned round; intercept taken; sign lost
		m, b, x := between(r, 2, 5), between(r, 6, 9), between(r, 2, 4)
		return choice(fmt.Sprintf("A line passes through (0, %d) and (%d, %s). What is its slope?", b, x, signed(b-m*x)), signed(-m), "−1/"+num(m), num(b), num(m))
	}},
	{"M8.FN.1", 2, .55, func(r *rand.Rand) draftItem {
		start, rate, t := between(r, 30, 60), between(r, 2, 4), between(r, 3, 6)
		return typed(fmt.Sprintf("A tank holds %d liters and loses %d liters each hour. How many liters does it hold after %d hours?", start, rate, t), "liters", num(start-rate*t))
	}},
	{"M8.FS.1", 2, .49, func(r *rand.Rand) draftItem { // added; subtracted; squares not undone
		k, side := between(r, 1, 3), pick(r, [3]int{3, 4, 5}, [3]int{5, 12, 13}, [3]int{8, 15, 17})
		a, b, c := side[0]*k, side[1]*k, side[2]*k
		return choice(fmt.Sprintf("A cable runs from the top of a mast of %d meters to a point on the deck %d meters from its foot. How many meters long is the cable?", b, a), num(c), num(a+b), num(b-a), num(a*a+b*b))
	}},
}
