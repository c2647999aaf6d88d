package compute

import (
	"errors"
	"io"
	"time"

	"pineledger/core/blueprint"
	"pineledger/core/draw"
	"pineledger/core/points"
)

// DrawHelp shows the form of compute draw with an example that works.
const DrawHelp = `Items for one form or several, by a blueprint: the best possible with its proof, or at random.

  {"items":[… as for balance …], "standards":[{"code":"M6.RR","parent":null}],
   "blueprint":{"rows":[… as for balance …],"total":30,"passages":{"max":3,"itemsMin":2,"itemsMax":5,"whole":false},
                "difficulty":{"target":0.60,"tolerance":0.02},"keySpread":2,"fixed":["i4"],"exclude":["i7"],
                "forms":1,"anchors":["i3"],"forbidMeeting":true},
   "mode":"best"|"random","seed":7,"budgetMs":2000}
  Of the blueprint all but rows may be left out. What cannot be met comes back as "feasible":false with its shortage.

Example:
  echo '{"items":[{"id":"i1","kind":"number","points":1,"uses":3},{"id":"i2","kind":"number","points":1}],"standards":[],"blueprint":{"rows":[{"id":"r1","filter":{"kinds":["number"]},"count":{"min":1,"max":1}}]}}' | pineledger compute draw`

const (
	usualBudget = 2000
	mostBudget  = 3_600_000
	// settling is how much longer than its budget a draw may take to settle whether it can be met.
	settling = time.Minute
)

// ErrUnsettled says that it could not be settled in time whether a draw can be met.
var ErrUnsettled = draw.ErrUnsettled

type chosenOut struct {
	ID  string `json:"id"`
	Row string `json:"row"`
}

type formOut struct {
	Items          []chosenOut `json:"items"`
	MeanDifficulty *thousandth `json:"meanDifficulty"`
}

type aimsOut struct {
	Difficulty int `json:"difficulty"`
	Spread     int `json:"spread"`
	Uses       int `json:"uses"`
}

type drawOut struct {
	Feasible  bool      `json:"feasible"`
	Forms     []formOut `json:"forms"`
	Objective aimsOut   `json:"objective"`
	Bound     *aimsOut  `json:"bound"`
	Seed      uint64    `json:"seed"`
}

type shortageOut struct {
	Rows []string      `json:"rows"`
	Need points.Points `json:"need"`
	Have points.Points `json:"have"`
}

type shortOut struct {
	Feasible bool          `json:"feasible"`
	Shortage []shortageOut `json:"shortage"`
	Because  string        `json:"because"`
}

// Draw runs compute draw; errors are *PlaceError and ErrUnsettled.
func Draw(input io.Reader) (any, error) {
	n, err := parse(input)
	if err != nil {
		return nil, err
	}
	r := &reading{}
	o := n.object(r, "items", "standards", "blueprint", "mode", "seed", "budgetMs")
	request, budget := readDraw(o, r)
	standards := readTree(o["standards"], r)
	if r.err != nil {
		return nil, r.err
	}
	if request.Tree, err = blueprint.NewTree(standards); err != nil {
		return nil, placed(err)
	}
	if err := checkAligned("items", request.Tree, request.Items); err != nil {
		return nil, err
	}
	result, err := request.Run(clock(budget))
	if err != nil {
		return nil, placed(err)
	}
	return drawn(result, request.Seed), nil
}

func clock(budget time.Duration) draw.Clock {
	began := time.Now()
	return draw.Clock{
		Left: func() float64 { return 1 - float64(time.Since(began))/float64(budget) },
		Over: func() bool { return time.Since(began) > budget+settling },
	}
}

func readDraw(o map[string]node, r *reading) (draw.Request, time.Duration) {
	request := draw.Request{Mode: draw.Best}
	for _, it := range o["items"].list(r) {
		request.Items = append(request.Items, readItem(it, r))
	}
	request.Plan = readPlan(o["blueprint"], r)
	if !o["mode"].absent() {
		if request.Mode = draw.Mode(o["mode"].text(r)); request.Mode != draw.Best && request.Mode != draw.Random {
			r.refuse("mode", "%q is neither best nor random", request.Mode)
		}
	}
	if !o["seed"].absent() {
		seed := o["seed"].integer(r)
		if seed < 0 {
			r.refuse("seed", "%d is negative", seed)
		}
		request.Seed = uint64(seed)
	}
	budget := usualBudget
	if !o["budgetMs"].absent() {
		if budget = o["budgetMs"].integer(r); budget < 1 || budget > mostBudget {
			r.refuse("budgetMs", "%d is not 1–%d", budget, mostBudget)
		}
	}
	return request, time.Duration(budget) * time.Millisecond
}

func readPlan(n node, r *reading) draw.Plan {
	m := n.object(r, "rows", "total", "passages", "difficulty", "keySpread", "fixed", "exclude", "forms", "anchors", "forbidMeeting")
	plan := draw.Plan{Fixed: m["fixed"].texts(r), Exclude: m["exclude"].texts(r), Anchors: m["anchors"].texts(r), ForbidMeeting: m["forbidMeeting"].boolean(r),
		Total: m["total"].optional(r), KeySpread: m["keySpread"].optional(r)}
	for _, row := range m["rows"].list(r) {
		plan.Rows = append(plan.Rows, readRow(row, r))
	}
	if !m["forms"].absent() {
		if plan.Forms = m["forms"].integer(r); plan.Forms < 1 {
			r.refuse(m["forms"].place, "%d is not 1–%d", plan.Forms, draw.MostForms)
		}
	}
	if !m["passages"].absent() {
		p := m["passages"].object(r, "max", "itemsMin", "itemsMax", "whole")
		plan.Passages = draw.Passages{Max: p["max"].optional(r), Whole: p["whole"].boolean(r)}
		if least := p["itemsMin"].optional(r); least != nil {
			plan.Passages.ItemsMin = *least
		}
		if most := p["itemsMax"].optional(r); most != nil {
			if plan.Passages.ItemsMax = *most; *most == 0 {
				r.refuse(p["itemsMax"].place, "0 leaves no room; for no passages give max 0")
			}
		}
	}
	if !m["difficulty"].absent() {
		d := m["difficulty"].object(r, "target", "tolerance")
		plan.Difficulty = &draw.Target{Target: int(d["target"].decimal(r, 3))}
		if !d["tolerance"].absent() {
			plan.Difficulty.Tolerance = int(d["tolerance"].decimal(r, 3))
		}
	}
	return plan
}

// optional is a whole number that may be left out.
func (n node) optional(r *reading) *int {
	if n.absent() {
		return nil
	}
	v := n.integer(r)
	return &v
}

func drawn(result draw.Result, seed uint64) any {
	if !result.Feasible {
		out := shortOut{Shortage: []shortageOut{}, Because: result.Because}
		for _, s := range result.Shortage {
			out.Shortage = append(out.Shortage, shortageOut{append([]string{}, s.Rows...), points.Points(s.Need), points.Points(s.Have)})
		}
		return out
	}
	out := drawOut{Feasible: true, Objective: aimsOut(result.Objective), Bound: (*aimsOut)(result.Bound), Seed: seed}
	for _, f := range result.Forms {
		form := formOut{Items: []chosenOut{}, MeanDifficulty: (*thousandth)(f.MeanDifficulty)}
		for _, c := range f.Items {
			form.Items = append(form.Items, chosenOut(c))
		}
		out.Forms = append(out.Forms, form)
	}
	return out
}

// placed gives the core's refusals as this package's.
func placed(err error) error {
	var place *blueprint.PlaceError
	if errors.As(err, &place) {
		return &PlaceError{place.Place, place.Reason}
	}
	return err
}
