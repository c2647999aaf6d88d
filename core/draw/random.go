package draw

import (
	"math"
	"math/rand/v2"
	"slices"

	"pineledger/core/blueprint"
	"pineledger/core/milp"
	"pineledger/core/points"
)

// How far a random draw counts all answers before it walks among them instead.
const (
	mostCounted = 40_000 // choices tried
	// walkEach is how many trades are tried for each chosen item of each form.
	walkEach  = 60
	walkLeast = 2_000
)

// random gives one of the answers, each set of items with a real chance. Where
// they are few they are counted and one is taken evenly. Else a random corner of
// the answers is found and a walk of random trades goes on from there: each step
// is as likely as the step back, so in the long run every answer that trades lead
// to is equally likely.
func (d *drawing) random() (*answer, error) {
	noise := rand.New(rand.NewPCG(d.seed, 0x9e3779b97f4a7c15))
	if c := newCount(d.pool, noise); c.run() {
		if c.kept == nil {
			return nil, nil
		}
		return newAnswer(d.pool, c.kept), nil
	}
	a, err := d.anyAnswer(noise)
	if a == nil || err != nil {
		return nil, err
	}
	d.walk(a, noise)
	return a, nil
}

// anyAnswer finds an answer that is cheapest at random costs.
func (d *drawing) anyAnswer(noise *rand.Rand) (*answer, error) {
	m := newModel(d.pool, d.pool.forms, 1, looseness{})
	var aim []milp.Term
	for _, t := range m.parts {
		for _, column := range t.x {
			aim = append(aim, milp.Term{Column: column, Value: noise.Float64()})
		}
	}
	m.program.Minimize(sum(aim))
	var a *answer
	found := milp.Search{Program: m.program, Known: math.Inf(1), Lazy: m.lazy, Stop: func() bool { return a != nil || d.clock.Over() },
		Visit: func(x []float64, whole bool) float64 {
			if whole && a == nil {
				a = newAnswer(d.pool, m.chosen(x))
			}
			return math.Inf(1)
		}}.Run()
	if a == nil && !found.Proven {
		return nil, ErrUnsettled
	}
	return a, nil
}

// count goes through all answers and keeps one of them, each with the same chance.
type count struct {
	p     *pool
	noise *rand.Rand
	forms [][]int
	tried int
	seen  int
	kept  [][]int
	rest  [][]int  // items from i on that meet each row, to see early what cannot be filled
	seats []*seats // of each form, within the rows' maxima; nil where rows count points
}

func newCount(p *pool, noise *rand.Rand) *count {
	c := &count{p: p, noise: noise, forms: make([][]int, p.forms), seats: make([]*seats, p.forms)}
	if !p.byPoints() {
		for f := range c.seats {
			c.seats[f] = &seats{p: p, fill: make([]int, len(p.rows))}
		}
	}
	c.rest = make([][]int, len(p.items)+1)
	c.rest[len(p.items)] = make([]int, len(p.rows))
	for i := len(p.items) - 1; i >= 0; i-- {
		c.rest[i] = slices.Clone(c.rest[i+1])
		for _, r := range p.meets[i] {
			c.rest[i][r]++
		}
	}
	return c
}

// run tells whether all answers were seen.
func (c *count) run() bool {
	if len(c.p.items) > 64 {
		return false
	}
	c.from(0)
	return c.tried <= mostCounted
}

// from decides on item i and those after it.
func (c *count) from(i int) {
	if c.tried++; c.tried > mostCounted {
		return
	}
	if !c.possible(i) {
		return
	}
	if i == len(c.p.items) {
		if c.whole() {
			if c.seen++; c.noise.IntN(c.seen) == 0 {
				c.kept = make([][]int, len(c.forms))
				for f, items := range c.forms {
					c.kept[f] = slices.Clone(items)
				}
			}
		}
		return
	}
	if c.p.shared[i] {
		c.put(i, 0)
		return
	}
	c.from(i + 1)
	for f := range c.forms {
		if !c.p.clash(i, c.forms[f]) {
			c.into(f, i, func() { c.from(i + 1) })
		}
	}
}

// whole tells whether what is chosen is an answer.
func (c *count) whole() bool {
	if !c.p.obeysButRows(c.forms) {
		return false
	}
	for f, items := range c.forms {
		if (c.seats[f] == nil || !c.seats[f].full()) && c.p.claims(items) == nil {
			return false
		}
	}
	return true
}

// put puts an item into all forms from f on, and decides on those after it.
func (c *count) put(i, f int) {
	if f == len(c.forms) {
		c.from(i + 1)
		return
	}
	c.into(f, i, func() { c.put(i, f+1) })
}

// into goes on with an item in a form, where the rows have room for it.
func (c *count) into(f, i int, goOn func()) {
	before := c.seats[f]
	if before != nil {
		next := before.clone()
		if !next.seat(i) {
			return
		}
		c.seats[f] = next
	}
	c.forms[f] = append(c.forms[f], i)
	goOn()
	c.forms[f], c.seats[f] = c.forms[f][:len(c.forms[f])-1], before
}

// possible tells whether what is chosen up to item i can still become an answer: each
// row must still be able to get its minimum.
func (c *count) possible(i int) bool {
	p := c.p
	for _, items := range c.forms {
		if p.plan.Total != nil && (len(items) > *p.plan.Total || len(items)+len(p.items)-i < *p.plan.Total) {
			return false
		}
		meets := slices.Clone(c.rest[i])
		for _, chosen := range items {
			for _, r := range p.meets[chosen] {
				meets[r]++
			}
		}
		for j, r := range p.rows {
			if !r.ByPoints && meets[j] < int(r.Min/points.One) {
				return false
			}
		}
	}
	return true
}

func (p *pool) byPoints() bool {
	return slices.ContainsFunc(p.rows, func(r blueprint.Row) bool { return r.ByPoints })
}

// obeys tells whether forms that are claimed by no row yet are an answer.
func (p *pool) obeys(forms [][]int) bool {
	if !p.obeysButRows(forms) {
		return false
	}
	for _, items := range forms {
		if p.claims(items) == nil {
			return false
		}
	}
	return true
}

// obeysButRows is obeys without asking which rows claim the items.
func (p *pool) obeysButRows(forms [][]int) bool {
	for _, items := range forms {
		if p.plan.Total != nil && len(items) != *p.plan.Total || !p.passagesObeyed(items) || !p.keysObeyed(items) {
			return false
		}
		if slices.ContainsFunc(items, func(i int) bool { return p.clash(i, items) }) {
			return false
		}
	}
	return true
}

func (p *pool) passagesObeyed(items []int) bool {
	rules := p.plan.Passages
	of := map[int]int{}
	for _, i := range items {
		if k := p.passage[i]; k >= 0 {
			of[k]++
		}
	}
	if rules.Max != nil && len(of) > *rules.Max {
		return false
	}
	for k, n := range of {
		if n < rules.ItemsMin || rules.ItemsMax > 0 && n > rules.ItemsMax || rules.Whole && n < len(p.passages[k]) {
			return false
		}
	}
	return true
}

func (p *pool) keysObeyed(items []int) bool {
	if p.plan.KeySpread == nil || p.keys == 0 {
		return true
	}
	at := make([]int, p.keys)
	for _, i := range items {
		if k := p.key[i]; k >= 0 {
			at[k]++
		}
	}
	return slices.Max(at)-slices.Min(at) <= *p.plan.KeySpread
}

// walk changes an answer by random moves: an item for another, an item more, an
// item less, and a passage's items for those of another passage.
func (d *drawing) walk(a *answer, noise *rand.Rand) {
	p := d.pool
	n := len(p.items)
	if n == 0 {
		return
	}
	steps := walkLeast
	for _, h := range a.forms {
		steps += walkEach * len(h.chosen)
	}
	forms := make([][]int, len(a.forms))
	for f, h := range a.forms {
		forms[f] = slices.Clone(h.chosen)
	}
	claimed := make([]*seats, len(forms))
	for f := range forms {
		claimed[f] = newSeats(p, forms[f])
	}
	for range steps { // a number of steps, not a time: the same seed must draw the same everywhere
		next, f := p.moved(forms, noise)
		if next == nil || !p.obeysButRows(next) {
			continue
		}
		if claimed[f] == nil {
			if p.claims(next[f]) != nil {
				forms = next
			}
		} else if s := claimed[f].with(next[f]); s != nil {
			forms, claimed[f] = next, s
		}
	}
	*a = *newAnswer(p, forms)
}

// moved proposes a change of one form, and tells which; the change back is as likely. nil: nothing to try.
func (p *pool) moved(forms [][]int, noise *rand.Rand) (moved [][]int, f int) {
	next := make([][]int, len(forms))
	for f := range forms {
		next[f] = slices.Clone(forms[f])
	}
	toggle := func(f, i int) bool {
		if p.shared[i] {
			return false
		}
		if at := slices.Index(next[f], i); at >= 0 {
			next[f] = slices.Delete(next[f], at, at+1)
			return true
		}
		for g := range next {
			if g != f && slices.Contains(next[g], i) {
				return false
			}
		}
		next[f] = append(next[f], i)
		return true
	}
	f = noise.IntN(len(forms))
	changes := 2
	switch noise.IntN(8) {
	case 0: // one more or less
		changes = 1
	case 1: // two for two
		changes = 4
	case 2:
		if len(p.passages) > 1 {
			return p.passagesMoved(next, f, noise), f
		}
	}
	for k := range changes {
		i := noise.IntN(len(p.items))
		// Half of the items that are tried are ones in the form: else large pools would hardly move.
		if k%2 == 0 && changes > 1 {
			if len(next[f]) == 0 {
				return nil, f
			}
			i = next[f][noise.IntN(len(next[f]))]
		}
		if !toggle(f, i) {
			return nil, f
		}
	}
	if changes > 1 && len(next[f]) != len(forms[f]) {
		return nil, f
	}
	return next, f
}

// passagesMoved trades the items of one passage for as many of another.
func (p *pool) passagesMoved(next [][]int, f int, noise *rand.Rand) [][]int {
	from, to := noise.IntN(len(p.passages)), noise.IntN(len(p.passages))
	if from == to {
		return nil
	}
	var out []int
	for _, i := range p.passages[from] {
		if slices.Contains(next[f], i) {
			if p.shared[i] {
				return nil
			}
			out = append(out, i)
		}
	}
	for g := range next {
		if slices.ContainsFunc(p.passages[to], func(i int) bool { return slices.Contains(next[g], i) }) {
			return nil
		}
	}
	if len(out) == 0 || len(out) > len(p.passages[to]) || len(p.passages[to]) != len(p.passages[from]) {
		return nil
	}
	next[f] = slices.DeleteFunc(next[f], func(i int) bool { return slices.Contains(out, i) })
	for _, k := range noise.Perm(len(p.passages[to]))[:len(out)] {
		next[f] = append(next[f], p.passages[to][k])
	}
	return next
}
