package compute

import (
	"encoding/json"
	"fmt"
	"io"
	"slices"

	"pineledger/core/band"
	"pineledger/core/panel"
	"pineledger/core/points"
	"pineledger/core/predict"
)

// PanelHelp shows the form of compute panel with an example that works.
const PanelHelp = `The cuts that a panel of judges set, round by round.

  {"method":"angoff"|"orderedItems",
   "lines":[{"points":1,"step":1,"b":-0.3,"levels":[0,1]}],     step, b and levels optional; b for orderedItems
   "rule":"atLeast"|"nearest","cuts":["Underway","On course"],
   "responseProbability":0.667,                                 default 2/3, for orderedItems
   "rounds":[{"judges":[{"judge":"J1","ratings":[[0.45],[0.7]]}|{"judge":"J1","marks":[7,15]}]}]}

Example:
  echo '{"method":"angoff","lines":[{"points":1},{"points":2,"step":1}],"rule":"atLeast","cuts":["On course"],"rounds":[{"judges":[{"judge":"J1","ratings":[[0.6,0.5]]},{"judge":"J2","ratings":[[0.7,0.4]]}]}]}' | pineledger compute panel`

type entryOut struct {
	Line     int     `json:"line"`
	Level    int     `json:"level"`
	Location float64 `json:"location"`
}

type valueOut struct {
	Judge string  `json:"judge"`
	Value float64 `json:"value"`
}

type panelCutOut struct {
	Name    string        `json:"name"`
	Judges  []valueOut    `json:"judges"`
	Mean    float64       `json:"mean"`
	Median  float64       `json:"median"`
	SD      *float64      `json:"sd"`
	SE      *float64      `json:"se"`
	Low     float64       `json:"low"`
	High    float64       `json:"high"`
	Theta   *float64      `json:"theta"`
	Raw     points.Points `json:"raw"`
	Percent json.Number   `json:"percent"`
}

type ratedOut struct {
	Mean []float64  `json:"mean"`
	SD   []*float64 `json:"sd"`
}

type roundOut struct {
	Cuts  []panelCutOut `json:"cuts"`
	Lines []ratedOut    `json:"lines"`
}

type disorderOut struct {
	Kind  string   `json:"kind"`
	Round int      `json:"round"`
	Judge string   `json:"judge"`
	Cuts  []string `json:"cuts"`
}

type panelOut struct {
	Booklet  []entryOut    `json:"booklet"`
	Rounds   []roundOut    `json:"rounds"`
	Cautions []disorderOut `json:"cautions"`
}

// panelIn is the whole input, read.
type panelIn struct {
	ordered bool
	form    panel.Form
	lines   []predict.Line
	booklet []panel.Entry
	cuts    []string
	rounds  []node
}

// Panel runs compute panel; errors are *PlaceError.
func Panel(input io.Reader) (any, error) {
	n, err := parse(input)
	if err != nil {
		return nil, err
	}
	r := &reading{}
	in := readPanel(n, r)
	if r.err != nil {
		return nil, r.err
	}
	out := panelOut{Cautions: []disorderOut{}}
	for _, e := range in.booklet {
		out.Booklet = append(out.Booklet, entryOut(e))
	}
	for i, round := range in.rounds {
		computed, cautions := in.round(round, i+1, r)
		if r.err != nil {
			return nil, r.err
		}
		out.Rounds = append(out.Rounds, computed)
		out.Cautions = append(out.Cautions, cautions...)
	}
	return out, nil
}

func readPanel(n node, r *reading) (in panelIn) {
	o := n.object(r, "method", "lines", "rule", "cuts", "responseProbability", "rounds")
	switch method := o["method"].text(r); method {
	case "angoff", "orderedItems":
		in.ordered = method == "orderedItems"
	default:
		r.refuse(o["method"].place, "%q is not angoff or orderedItems", method)
	}
	var lines []band.Line
	for _, l := range o["lines"].list(r) {
		m := l.object(r, "points", "step", "b", "levels")
		line := band.Line{Points: pointsOf(m["points"], r)}
		if step := m["step"]; !step.absent() {
			if line.Step = pointsOf(step, r); line.Step <= 0 {
				r.refuse(step.place, "%s is not above 0", line.Step)
			}
		}
		located := predict.Line{Levels: readLevels(m["levels"], r, line.Points, max(1, line.Step))}
		if in.ordered {
			located.B = m["b"].float(r, -farthestB, farthestB)
		}
		lines, in.lines = append(lines, line), append(in.lines, located)
	}
	rule := band.Rule(o["rule"].text(r))
	if rule != band.AtLeast && rule != band.Nearest {
		r.refuse(o["rule"].place, "%q is not atLeast or nearest", rule)
	}
	for _, c := range o["cuts"].list(r) {
		name := c.text(r)
		if name == "" || slices.Contains(in.cuts, name) {
			r.refuse(c.place, "%q is not a name of its own", name)
		}
		in.cuts = append(in.cuts, name)
	}
	if len(in.cuts) == 0 {
		r.refuse(o["cuts"].place, "has no cut")
	}
	in.rounds = o["rounds"].list(r)
	if len(in.rounds) == 0 {
		r.refuse(o["rounds"].place, "has no round")
	}
	probability := 2.0 / 3
	if p := o["responseProbability"]; in.ordered && !p.absent() {
		probability = p.float(r, 0.5, 0.9)
	}
	if r.err != nil {
		return in
	}
	form, err := panel.NewForm(lines, rule)
	if err != nil {
		r.err = at("", err)
		return in
	}
	if in.form = form; in.ordered {
		in.booklet = panel.Booklet(in.lines, probability)
	}
	return in
}

func (in panelIn) round(n node, number int, r *reading) (out roundOut, cautions []disorderOut) {
	var names []string
	var ratings []panel.Ratings
	var marks [][]int
	list := n.object(r, "judges")["judges"]
	for _, j := range list.list(r) {
		m := j.object(r, "judge", "ratings", "marks")
		name := m["judge"].text(r)
		if name == "" || slices.Contains(names, name) {
			r.refuse(m["judge"].place, "%q is not a judge of its own", name)
		}
		names = append(names, name)
		if in.ordered {
			if m["ratings"].given {
				r.refuse(m["ratings"].place, "has no place with orderedItems: give marks")
			}
			marks = append(marks, in.readMarks(m["marks"], r))
		} else {
			if m["marks"].given {
				r.refuse(m["marks"].place, "has no place with angoff: give ratings")
			}
			ratings = append(ratings, in.readRatings(m["ratings"], r))
		}
	}
	if len(names) == 0 {
		r.refuse(list.place, "has no judge")
	}
	if r.err != nil {
		return out, nil
	}
	var cuts []panel.Cut
	var disorders []panel.Disorder
	if in.ordered {
		cuts, disorders = panel.OrderedItems(in.form, in.lines, in.booklet, marks)
	} else {
		var rated []panel.Rated
		cuts, rated, disorders = panel.Angoff(in.form, ratings)
		for _, l := range rated {
			out.Lines = append(out.Lines, ratedOut(l))
		}
	}
	for i, c := range cuts {
		cut := panelCutOut{Name: in.cuts[i], Mean: c.Mean, Median: c.Median, SD: c.SD, SE: c.SE, Low: c.Low, High: c.High, Theta: c.Theta, Raw: c.Raw,
			Percent: json.Number(fmt.Sprintf("%d.%d", c.Tenths/10, c.Tenths%10))}
		for j, v := range c.Values {
			cut.Judges = append(cut.Judges, valueOut{names[j], v})
		}
		out.Cuts = append(out.Cuts, cut)
	}
	for _, d := range disorders {
		cautions = append(cautions, disorderOut{"order", number, names[d.Judge], in.cuts[d.Cut : d.Cut+2]})
	}
	return out, cautions
}

// readRatings gives a judge's shares, a list a cut.
func (in panelIn) readRatings(n node, r *reading) panel.Ratings {
	var out panel.Ratings
	for _, c := range n.sized(r, len(in.cuts), "cuts") {
		var shares []int
		for _, l := range c.sized(r, len(in.lines), "lines") {
			share := int(l.decimal(r, 2))
			if share < 0 || share > 100 {
				r.refuse(l.place, "%s is not from 0 to 1", l.value)
			}
			shares = append(shares, share)
		}
		out = append(out, shares)
	}
	return out
}

// readMarks gives a judge's places in the booklet, one a cut.
func (in panelIn) readMarks(n node, r *reading) (out []int) {
	for _, m := range n.sized(r, len(in.cuts), "cuts") {
		out = append(out, m.whole(r, 1, len(in.booklet)))
	}
	return out
}
