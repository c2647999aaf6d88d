package compute

import (
	"fmt"
	"io"

	"pineledger/core/points"
	"pineledger/core/stats"
)

// StatsHelp shows the form of compute stats with an example that works.
const StatsHelp = `How a form and its lines worked, by classical test theory and on the Rasch scale.

  {"max":[1,1,2],"credits":[[1,0,2],[0,1,1]],    a row a student, a column a line
   "omitted":[[false,false,true],…],             optional
   "rasch":false}                                default false

Example:
  echo '{"max":[1,1],"credits":[[1,0],[0,1],[1,1],[0,0],[1,0],[0,1],[1,0],[1,1],[0,0],[1,0]],"rasch":true}' | pineledger compute stats`

type csemOut struct {
	Raw  points.Points `json:"raw"`
	CSEM float64       `json:"csem"`
}

type formLineOut struct {
	P              float64      `json:"p"`
	Discrimination *float64     `json:"discrimination"`
	Omitted        float64      `json:"omitted"`
	NotReached     float64      `json:"notReached"`
	Flags          []stats.Flag `json:"flags"`
}

type raschOut struct {
	B      []*float64 `json:"b"`
	SE     []*float64 `json:"se"`
	Infit  []*float64 `json:"infit"`
	Outfit []*float64 `json:"outfit"`
}

type reasonOut struct {
	At      string `json:"at"`
	Because string `json:"because"`
}

type statsOut struct {
	N              int           `json:"n"`
	Mean           *float64      `json:"mean"`
	SD             *float64      `json:"sd"`
	Alpha          *float64      `json:"alpha"`
	SEM            *float64      `json:"sem"`
	CSEM           []csemOut     `json:"csem"`
	AlphaIfDropped []*float64    `json:"alphaIfDropped"`
	Lines          []formLineOut `json:"lines"`
	Rasch          *raschOut     `json:"rasch"`
	Reasons        []reasonOut   `json:"reasons"`
}

// Stats runs compute stats; errors are *PlaceError.
func Stats(input io.Reader) (any, error) {
	n, err := parse(input)
	if err != nil {
		return nil, err
	}
	r := &reading{}
	o := n.object(r, "max", "credits", "omitted", "rasch")
	in := readResponses(o, r)
	wanted := o["rasch"].boolean(r)
	if r.err != nil {
		return nil, r.err
	}
	f := stats.OfForm(in)
	out := statsOut{N: f.N, Mean: f.Mean, SD: f.SD, Alpha: f.Alpha, SEM: f.SEM, AlphaIfDropped: f.AlphaIfDropped, Reasons: []reasonOut{}}
	for _, c := range f.CSEM {
		out.CSEM = append(out.CSEM, csemOut{c.Raw, c.Error})
	}
	for _, l := range f.Lines {
		out.Lines = append(out.Lines, formLineOut(l))
	}
	for _, reason := range f.Reasons {
		out.Reasons = append(out.Reasons, reasonOut(reason))
	}
	if wanted && f.Lines != nil {
		var reasons []reasonOut
		out.Rasch, reasons = rasch(in)
		out.Reasons = append(out.Reasons, reasons...)
	}
	return out, nil
}

func readResponses(o map[string]node, r *reading) stats.Responses {
	var in stats.Responses
	for _, m := range o["max"].list(r) {
		most := pointsOf(m, r)
		if most <= 0 {
			r.refuse(m.place, "%s is not above 0", most)
		}
		in.Most = append(in.Most, most)
	}
	if len(in.Most) == 0 {
		r.refuse(o["max"].place, "has no line")
	}
	for _, row := range o["credits"].list(r) {
		credits := make([]points.Points, len(in.Most))
		for l, c := range row.sized(r, len(in.Most), "lines") {
			if credits[l] = pointsOf(c, r); credits[l] < 0 || credits[l] > in.Most[l] {
				r.refuse(c.place, "%s is not from 0 to %s", credits[l], in.Most[l])
			}
		}
		in.Credits = append(in.Credits, credits)
	}
	if o["omitted"].absent() {
		return in
	}
	in.Omitted = make([][]bool, len(in.Credits))
	for s, row := range o["omitted"].sized(r, len(in.Credits), "students") {
		in.Omitted[s] = make([]bool, len(in.Most))
		for l, left := range row.sized(r, len(in.Most), "lines") {
			if left.absent() {
				r.refuse(left.place, "is not true or false")
			}
			in.Omitted[s][l] = left.boolean(r)
		}
	}
	return in
}

func rasch(in stats.Responses) (*raschOut, []reasonOut) {
	marks := make([][]stats.Mark, len(in.Credits))
	for s, row := range in.Credits {
		marks[s] = make([]stats.Mark, len(row))
		for l, c := range row {
			switch c {
			case 0:
				marks[s][l] = stats.Wrong
			case in.Most[l]:
				marks[s][l] = stats.Right
			default:
				return nil, []reasonOut{{"rasch", fmt.Sprintf("line %d gives parts of its points", l)}}
			}
		}
	}
	scale, because := stats.Calibrate(marks)
	if because != "" {
		return nil, []reasonOut{{"rasch", because}}
	}
	var out raschOut
	var reasons []reasonOut
	for l, line := range scale {
		if line == nil {
			out.B, out.SE, out.Infit, out.Outfit = append(out.B, nil), append(out.SE, nil), append(out.Infit, nil), append(out.Outfit, nil)
			reasons = append(reasons, reasonOut{fmt.Sprintf("rasch.b[%d]", l), "everybody got it right, or nobody"})
			continue
		}
		out.B, out.SE = append(out.B, &line.B), append(out.SE, &line.SE)
		out.Infit, out.Outfit = append(out.Infit, &line.Infit), append(out.Outfit, &line.Outfit)
	}
	return &out, reasons
}
