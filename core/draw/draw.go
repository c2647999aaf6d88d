// Package draw chooses items from a pool by a blueprint: the best possible with a
// proof of how good it is, or at random with a seed; one form or several that are
// equal by construction. What cannot be met is named exactly.
package draw

import (
	"errors"
	"fmt"
	"slices"

	"pineledger/core/blueprint"
)

// Mode says what a draw aims at.
type Mode string

const (
	// Best minimizes the aims in their order.
	Best Mode = "best"
	// Random gives every feasible set of items a real chance.
	Random Mode = "random"
)

// MostForms is how many forms one draw can make.
const MostForms = 26

// Passages are the rules for items that hang on passages, in each form.
type Passages struct {
	Max      *int // passages used at most; nil: any number
	ItemsMin int  // of a passage that is used; 0 as 1
	ItemsMax int  // 0: any number
	Whole    bool // a passage comes with all of its items or not at all
}

// Target is the mean difficulty that a form should have, in thousandths.
type Target struct{ Target, Tolerance int }

// Plan is what each form must be.
type Plan struct {
	Rows       []blueprint.Row
	Total      *int // items in each form; nil: as the rows allow
	Passages   Passages
	Difficulty *Target // nil: any mean
	// Estimate, in thousandths, stands for the difficulties that are not known, in every
	// sum and mean but in no filter. nil: such items are left out of sums and means.
	Estimate  *int
	KeySpread *int // at most this between the most and the least frequent key position; nil: any
	Fixed     []string
	Exclude   []string
	Forms     int      // 0 as 1
	Anchors   []string // with Fixed, exactly what any two forms have in common
	// ForbidMeeting keeps hostile items, and near copies of one another, out of one form.
	ForbidMeeting bool
}

// Request is one draw.
type Request struct {
	Items []blueprint.Item
	Tree  blueprint.Tree
	Plan  Plan
	Mode  Mode   // "" as Best
	Seed  uint64 // 0 is a seed like any other
}

// Chosen is an item with the row that claims it.
type Chosen struct{ ID, Row string }

// Form is one drawn form, its items in the order of the pool.
type Form struct {
	Items []Chosen
	// MeanDifficulty in thousandths, half up, of the items that have one, or an estimate; nil where none has.
	MeanDifficulty *int
}

// Aims are what a best draw minimizes, one after the other.
type Aims struct {
	Difficulty int // thousandths outside the tolerance, summed over the forms
	Spread     int // thousandths between the largest and the smallest sum of difficulties
	Uses       int
}

func (a Aims) less(b Aims) bool {
	if a.Difficulty != b.Difficulty {
		return a.Difficulty < b.Difficulty
	}
	if a.Spread != b.Spread {
		return a.Spread < b.Spread
	}
	return a.Uses < b.Uses
}

// Result of a draw. Where it is feasible it has forms, else what is short.
type Result struct {
	Feasible  bool
	Forms     []Form
	Objective Aims
	// Bound is proven for each aim over all answers that attain the aims before it; nil for a random draw.
	Bound    *Aims
	Shortage []Shortage
	Because  string // "" where there is a form
}

// Shortage is a set of rows that the pool cannot serve, while it can serve any fewer of them.
// Need and Have are hundredths, as points are.
type Shortage struct {
	Rows       []string
	Need, Have int
}

// ErrUnsettled says that within the time nobody could tell whether the draw can be met.
var ErrUnsettled = errors.New("it could not be settled in time whether this can be met")

// Clock tells a draw how its time stands.
type Clock struct {
	// Left is the share of the budget that is left, from 1 down to 0, when the best answer so far will do.
	Left func() float64
	// Over is true once even an open question of feasibility is given up.
	Over func() bool
}

// until is the clock of a part of the budget: from now to when left of it is left.
func (c Clock) until(left float64) Clock {
	began := c.Left()
	return Clock{Over: c.Over, Left: func() float64 {
		if began <= left {
			return 0
		}
		return (c.Left() - left) / (began - left)
	}}
}

// Run draws. Errors are *blueprint.PlaceError for what is refused, and ErrUnsettled.
func (r Request) Run(clock Clock) (Result, error) {
	p, err := newPool(r)
	if err != nil {
		return Result{}, err
	}
	p.trim(false)
	untrimmed := *p
	p.trim(true)
	d := &drawing{pool: p, untrimmed: &untrimmed, clock: clock, seed: r.Seed}
	if d.alone, err = d.shortAlone(); err != nil {
		return Result{}, err
	}
	if p.impossible == "" && d.alone == nil {
		var forms *answer
		if r.Mode == Random {
			forms, err = d.random()
		} else {
			forms, err = d.best()
		}
		if err != nil {
			return Result{}, err
		}
		if forms != nil {
			return d.result(forms, r.Mode), nil
		}
	}
	return d.shortage()
}

// drawing is a draw under way.
type drawing struct {
	pool      *pool
	untrimmed *pool // with the items that those in every form keep out
	clock     Clock
	seed      uint64
	bound     Aims
	alone     []rowShort // rows that are short whatever the others ask
}

func (d *drawing) result(a *answer, mode Mode) Result {
	out := Result{Feasible: true, Objective: a.aims()}
	if mode != Random {
		bound := d.bound
		out.Bound = &bound
	}
	for _, f := range a.forms {
		form := Form{Items: []Chosen{}}
		sum, n := 0, 0
		for _, i := range sorted(f.chosen) {
			it := d.pool.items[i]
			form.Items = append(form.Items, Chosen{it.ID, d.pool.rows[f.claim[i]].ID})
			if it.Difficulty != nil {
				sum += *it.Difficulty
				n++
			}
		}
		if n > 0 {
			mean := (2*sum + n) / (2 * n)
			form.MeanDifficulty = &mean
		}
		out.Forms = append(out.Forms, form)
	}
	return out
}

func sorted(list []int) []int {
	out := slices.Clone(list)
	slices.Sort(out)
	return out
}

func refuse(place, format string, args ...any) error {
	return &blueprint.PlaceError{Place: place, Reason: fmt.Sprintf(format, args...)}
}
