package draw

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"pineledger/core/milp"
	"pineledger/core/points"
)

// shortage explains why there is no answer: sets of rows that the pool cannot
// serve, each as small as can be; or, where the pool could serve any rows, the
// rule that stands in the way.
func (d *drawing) shortage() (Result, error) {
	p := d.untrimmed
	var out Result
	left := make([]bool, len(p.rows))
	for j, r := range p.rows {
		left[j] = r.Min > 0
	}
	for _, s := range d.alone {
		out.Shortage = append(out.Shortage, s.Shortage)
		left[s.row] = false
	}
	for {
		set, have, need, err := d.blocking(left)
		if err != nil {
			return Result{}, err
		}
		if set == nil {
			break
		}
		out.Shortage = append(out.Shortage, Shortage{p.names(set), need, have})
		for _, j := range set {
			left[j] = false
		}
	}
	if out.Shortage != nil {
		out.Because = "the pool has too few items for these rows"
		if len(out.Shortage) > 1 {
			out.Because = "the pool has too few items for each of these sets of rows"
		}
		return out, nil
	}
	return d.ruleInTheWay()
}

func onlyRow(rows, j int) []bool {
	out := make([]bool, rows)
	out[j] = true
	return out
}

// rowShort is a row that is short by itself.
type rowShort struct {
	Shortage
	row int
}

// shortAlone finds the rows that are short each by itself: the plainest shortages,
// seen without a search through the whole pool.
func (d *drawing) shortAlone() ([]rowShort, error) {
	p := d.untrimmed
	var out []rowShort
	for j, r := range p.rows {
		if p.capacity(j) >= p.forms*int(r.Min) {
			continue
		}
		have, need, err := d.serve(onlyRow(len(p.rows), j))
		if err != nil {
			return nil, err
		}
		out = append(out, rowShort{Shortage{p.names([]int{j}), need, have}, j})
	}
	return out, nil
}

// capacity is more than a row can get in all forms together, in hundredths, counting
// the rules for passages and leaving out those for hostile items.
func (p *pool) capacity(row int) int {
	sum := 0
	of := make([]int, len(p.passages))
	for i, rows := range p.meets {
		if !slices.Contains(rows, row) {
			continue
		}
		worth := int(p.worth(i, row))
		if p.shared[i] {
			worth *= p.forms
		}
		if k := p.passage[i]; k >= 0 {
			of[k] += worth
		} else {
			sum += worth
		}
	}
	slices.SortFunc(of, func(a, b int) int { return b - a })
	if most := p.plan.Passages.Max; most != nil {
		of = of[:min(len(of), *most*p.forms)]
	}
	for _, n := range of {
		sum += n
	}
	return sum
}

func (p *pool) names(set []int) []string {
	var out []string
	for _, j := range set {
		out = append(out, p.rows[j].ID)
	}
	return out
}

// blocking finds a set of these rows that is short while no part of it is; nil: none.
func (d *drawing) blocking(rows []bool) (set []int, have, need int, err error) {
	rows = slices.Clone(rows)
	if d.fillable(rows) {
		return nil, 0, 0, nil
	}
	if short, err := d.short(rows); err != nil || !short {
		return nil, 0, 0, err
	}
	for j := len(rows) - 1; j >= 0; j-- { // so that of several sets the first rows come first
		if !rows[j] {
			continue
		}
		rows[j] = false
		short, err := d.short(rows)
		if err != nil {
			return nil, 0, 0, err
		}
		rows[j] = !short
	}
	if have, need, err = d.serve(rows); err != nil {
		return nil, 0, 0, err
	}
	for j, in := range rows {
		if in {
			set = append(set, j)
		}
	}
	return set, have, need, nil
}

// fillable tells whether a short search finds forms in which these rows have their
// minimum, under the rules that serve keeps to. False proves nothing.
func (d *drawing) fillable(rows []bool) bool {
	p := *d.untrimmed
	p.rows = slices.Clone(p.rows)
	for j := range p.rows {
		if !rows[j] {
			p.rows[j].Min = 0
		}
	}
	m := newModel(&p, p.forms, 1, looseness{total: true, keys: true, fixed: true})
	_, found := d.firstWithin(m, nil, d.clock.Over)
	return found
}

// serve gives what the rows need over all forms and the most that the pool can
// give them, in hundredths, each row counting at most its minimum, under holds,
// exclusions, and the rules for passages and hostile items alone. Whatever is chosen has a row
// with room for it: a passage that comes whole and fits no row gives nothing. Lines in common count once.
func (d *drawing) serve(rows []bool) (have, need int, err error) {
	p := d.untrimmed
	need = p.needed(rows)
	most, err := d.most(p.serving(rows), servingOnly(rows), math.Inf(1))
	if err != nil || most >= need {
		return need, need, err
	}
	again := 0
	if p.forms > 1 {
		if again, err = d.sharedShare(rows); err != nil {
			return 0, 0, err
		}
	}
	return most - again, need - again, nil
}

// short tells whether the pool can give rows less than they need.
func (d *drawing) short(rows []bool) (bool, error) {
	need, pool := d.untrimmed.needed(rows), d.untrimmed.serving(rows)
	// Only an answer that gives them all is looked for.
	most, err := d.most(pool, servingOnly(rows), float64(int(pool.grain())-need))
	return most < need, err
}

// needed is what rows are to have at least in all forms, in hundredths.
func (p *pool) needed(rows []bool) int {
	need := 0
	for j, r := range p.rows {
		if rows[j] {
			need += p.forms * int(r.Min)
		}
	}
	return need
}

// servingOnly leaves only the rules under which rows are short.
func servingOnly(rows []bool) looseness {
	return looseness{filling: true, total: true, keys: true, fixed: true, rows: rows}
}

// serving is the pool without the items that cannot matter to some rows: those that meet
// none of them and hang on no passage of one that does.
func (p *pool) serving(rows []bool) *pool {
	counts := func(i int) bool { return slices.ContainsFunc(p.meets[i], func(j int) bool { return rows[j] }) }
	out := make([]bool, len(p.items))
	for i := range p.items {
		out[i] = !counts(i) && (p.passage[i] < 0 || !slices.ContainsFunc(p.passages[p.passage[i]], counts))
	}
	only := *p
	only.keep(out)
	return &only
}

// sharedShare is what the lines in common give the rows in all forms but one.
func (d *drawing) sharedShare(rows []bool) (int, error) {
	p := d.untrimmed
	only := *p
	out := make([]bool, len(p.items))
	for i := range out {
		out[i] = !p.shared[i]
	}
	only.keep(out)
	only.forms = 1
	most, err := d.most(&only, servingOnly(rows), math.Inf(1))
	return most * (p.forms - 1), err
}

// most is the most that the counted rows can get, in hundredths; 0 where that costs
// no less than known, which is below zero as each hundredth got is.
func (d *drawing) most(p *pool, loose looseness, known float64) (int, error) {
	m := newModel(p, p.forms, 1, loose)
	m.program.Minimize(m.off)
	best := known
	found := milp.Search{Program: m.program, Step: float64(p.grain()), Known: best, Lazy: m.lazy, Stop: d.clock.Over, Visit: func(x []float64, whole bool) float64 {
		if whole {
			best = math.Min(best, cost(m.off, x))
		}
		return best
	}}.Run()
	if !found.Proven {
		return 0, ErrUnsettled
	}
	if best == known {
		return 0, nil // not even nothing can be chosen, or nothing better than known
	}
	return int(-best), nil
}

// grain is what every sum of the rows' fillings is a multiple of, in hundredths.
func (p *pool) grain() points.Points {
	out := points.Points(0)
	for j, r := range p.rows {
		out = gcd(out, r.Min)
		if !r.ByPoints {
			out = gcd(out, points.One)
		}
		for _, c := range p.classes {
			if r.ByPoints && slices.Contains(c.rows, j) {
				out = gcd(out, c.points)
			}
		}
	}
	return max(out, 1)
}

func gcd(a, b points.Points) points.Points {
	for b != 0 {
		a, b = b, a%b
	}
	return a
}

// ruleInTheWay finds a rule without which there would be an answer, and the most
// that can be had under it.
func (d *drawing) ruleInTheWay() (Result, error) {
	p := d.untrimmed
	culprit, because := p.rule, p.impossible
	if culprit == "" {
		for _, c := range d.suspects() {
			ok, err := d.feasibleWithout(c.loose)
			if err != nil {
				return Result{}, err
			}
			if ok {
				culprit, because = c.rule, c.says
				break
			}
		}
	}
	if culprit == "" {
		culprit, because = ruleRows, "the rules cannot all be met together: "+strings.Join(d.asked(), ", ")
	}
	need, have, err := d.mostUnderAll(culprit)
	if err != nil {
		return Result{}, err
	}
	var all []int
	for j := range p.rows {
		all = append(all, j)
	}
	return Result{Shortage: []Shortage{{p.names(all), need, have}}, Because: string(culprit) + ": " + because}, nil
}

type suspect struct {
	rule  rule
	loose looseness
	says  string
}

// suspects are the rules of the plan that could stand in the way, the plainest first.
func (d *drawing) suspects() []suspect {
	plan := d.untrimmed.plan
	var out []suspect
	if plan.Total != nil {
		out = append(out, suspect{ruleTotal, looseness{total: true}, fmt.Sprintf("the rows cannot be met with exactly %d items", *plan.Total)})
	}
	if plan.KeySpread != nil {
		out = append(out, suspect{ruleKeys, looseness{keys: true}, fmt.Sprintf("the keys cannot be spread so that positions differ by %d at most", *plan.KeySpread)})
	}
	if len(plan.Fixed)+len(plan.Anchors) > 0 {
		out = append(out, suspect{ruleFixed, looseness{fixed: true}, "the items that must stay leave no way to meet the rows"})
	}
	if plan.Passages != (Passages{}) {
		out = append(out, suspect{rulePassages, looseness{passages: true}, "the rules for passages leave no way to meet the rows"})
	}
	if plan.ForbidMeeting {
		out = append(out, suspect{ruleHostile, looseness{hostile: true}, "items that must not meet leave no way to meet the rows"})
	}
	return out
}

func (d *drawing) asked() []string {
	var out []string
	for _, s := range d.suspects() {
		out = append(out, string(s.rule))
	}
	if out == nil {
		out = []string{"the rows' least and most"}
	}
	return out
}

// feasibleWithout tells whether there is an answer once a rule is left out.
func (d *drawing) feasibleWithout(loose looseness) (bool, error) {
	m := newModel(d.untrimmed, d.untrimmed.forms, 1, loose)
	found := false
	result := milp.Search{Program: m.program, Step: 1, Known: math.Inf(1), Lazy: m.lazy, Stop: d.clock.Over, Visit: func(_ []float64, whole bool) float64 {
		if found = found || whole; found {
			return 0
		}
		return math.Inf(1)
	}}.Run()
	if !found && !result.Proven {
		return false, ErrUnsettled
	}
	return found, nil
}

// mostUnderAll gives what is asked in all forms together and the most that can
// be had of it under every rule: items for a total, items that must stay, else what
// the rows are to have at least.
func (d *drawing) mostUnderAll(culprit rule) (need, have int, err error) {
	p := d.untrimmed
	for _, r := range p.rows {
		need += p.forms * int(r.Min)
	}
	loose := looseness{filling: true}
	if culprit == ruleTotal {
		// Where the rows ask for more than so many items can give, that is what is short; else the items are.
		loose.total, loose.upTo = true, true
		if have, err = d.most(p, loose, math.Inf(1)); err != nil || have < need {
			return need, have, err
		}
		return p.forms * *p.plan.Total * int(points.One), d.mostItems(), nil
	}
	if culprit == ruleFixed {
		return len(p.sharedIDs()) * int(points.One), d.mostStaying(), nil
	}
	have, err = d.most(p, loose, math.Inf(1))
	return need, have, err
}

// mostStaying is the most of the items that must stay that can stand together, in hundredths.
func (d *drawing) mostStaying() int {
	m := newModel(d.untrimmed, d.untrimmed.forms, 1, looseness{fixed: true})
	var staying []milp.Term
	for i, column := range m.parts[0].x {
		if d.untrimmed.shared[i] {
			staying = append(staying, milp.Term{Column: column, Value: -1})
		}
	}
	return d.least(m, staying)
}

// least gives what an aim that is below zero comes to, as hundredths above it.
func (d *drawing) least(m *model, aim []milp.Term) int {
	m.program.Minimize(aim)
	best := 0.0
	milp.Search{Program: m.program, Step: 1, Known: math.Inf(1), Lazy: m.lazy, Stop: d.clock.Over, Visit: func(x []float64, whole bool) float64 {
		if whole {
			best = math.Min(best, cost(aim, x))
		}
		return best
	}}.Run()
	return int(-best) * int(points.One)
}

// mostItems is the most items, up to the total, that the rows can take under every other rule, in hundredths.
func (d *drawing) mostItems() int {
	p := d.untrimmed
	m := newModel(p, p.forms, 1, looseness{total: true, upTo: true})
	var all []milp.Term
	for _, t := range m.parts {
		for _, column := range t.x {
			all = append(all, milp.Term{Column: column, Value: -1})
		}
	}
	return d.least(m, all)
}
