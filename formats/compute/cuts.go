package compute

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"

	"pineledger/core/band"
	"pineledger/core/points"
)

// CutsHelp shows the form of compute cuts with an example that works.
const CutsHelp = `Where each band begins on a form.

  {"lines":[{"points":2,"step":1,"void":false,"creditAll":false}],   step: default its points
   "rule":"atLeast"|"nearest",                                      default atLeast
   "conversion":[{"raw":0,"scale":300}],                            optional
   "bands":[{"name":"Launching"},{"name":"Underway","cut":{"percent":43}|{"raw":24,"of":38}|{"scale":560}}]}

Example:
  echo '{"lines":[{"points":18,"step":1}],"bands":[{"name":"Launching"},{"name":"On course","cut":{"percent":70}}]}' | pineledger compute cuts`

// BandHelp shows the form of compute band with an example that works.
const BandHelp = `The band of each score.

  {"cuts":<the whole input of compute cuts>,"scores":[17,16.5]}

Example:
  echo '{"cuts":{"lines":[{"points":18,"step":1}],"bands":[{"name":"Launching"},{"name":"On course","cut":{"percent":70}}]},"scores":[12,13]}' | pineledger compute band`

func pointsOf(n node, r *reading) points.Points { return points.Points(n.decimal(r, 2)) }

func optionalPoints(n node, r *reading) *points.Points {
	if n.absent() {
		return nil
	}
	p := pointsOf(n, r)
	return &p
}

func readForm(n node, r *reading) band.Form {
	o := n.object(r, "lines", "rule", "conversion", "bands")
	var f band.Form
	for _, l := range o["lines"].list(r) {
		m := l.object(r, "points", "step", "void", "creditAll")
		line := band.Line{Points: pointsOf(m["points"], r), Void: m["void"].boolean(r), CreditAll: m["creditAll"].boolean(r)}
		if step := m["step"]; !step.absent() {
			if line.Step = pointsOf(step, r); line.Step <= 0 {
				r.refuse(step.place, "%s is not above 0", line.Step)
			}
		}
		f.Lines = append(f.Lines, line)
	}
	if !o["rule"].absent() {
		if f.Rule = band.Rule(o["rule"].text(r)); f.Rule == "" {
			r.refuse(o["rule"].place, `"" is not atLeast or nearest`)
		}
	}
	if !o["conversion"].absent() {
		f.Conversion = []band.Conversion{}
		for _, c := range o["conversion"].list(r) {
			m := c.object(r, "raw", "scale")
			f.Conversion = append(f.Conversion, band.Conversion{Raw: pointsOf(m["raw"], r), Scale: pointsOf(m["scale"], r)})
		}
	}
	for _, b := range o["bands"].list(r) {
		m := b.object(r, "name", "cut")
		out := band.Band{Name: m["name"].text(r)}
		if !m["cut"].absent() {
			c := m["cut"].object(r, "percent", "raw", "of", "scale")
			out.Cut = band.Cut{Percent: optionalPoints(c["percent"], r), Raw: optionalPoints(c["raw"], r), Of: optionalPoints(c["of"], r), Scale: optionalPoints(c["scale"], r)}
		}
		f.Bands = append(f.Bands, out)
	}
	return f
}

// at puts the place of a core's refusal below a prefix.
func at(prefix string, err error) error {
	var place *band.PlaceError
	if errors.As(err, &place) {
		return &PlaceError{prefix + place.Place, place.Reason}
	}
	return err
}

type bandOut struct {
	Name    string         `json:"name"`
	Raw     *points.Points `json:"raw"`
	Percent *json.Number   `json:"percent"`
}

type cautionOut struct {
	Kind  band.CautionKind `json:"kind"`
	Bands []string         `json:"bands"`
}

type cutsOut struct {
	Total    points.Points `json:"total"`
	Grain    points.Points `json:"grain"`
	Bands    []bandOut     `json:"bands"`
	Cautions []cautionOut  `json:"cautions"`
}

// Cuts runs compute cuts; errors are *PlaceError.
func Cuts(input io.Reader) (any, error) {
	n, err := parse(input)
	if err != nil {
		return nil, err
	}
	r := &reading{}
	f := readForm(n, r)
	if r.err != nil {
		return nil, r.err
	}
	cuts, err := band.Compute(f)
	if err != nil {
		return nil, at("", err)
	}
	out := cutsOut{Total: cuts.Total, Grain: cuts.Grain, Cautions: []cautionOut{}}
	for _, s := range cuts.Starts {
		b := bandOut{Name: s.Name, Raw: s.Raw}
		if s.PercentTenths != nil {
			percent := json.Number(fmt.Sprintf("%d.%d", *s.PercentTenths/10, *s.PercentTenths%10))
			b.Percent = &percent
		}
		out.Bands = append(out.Bands, b)
	}
	for _, c := range cuts.Cautions {
		out.Cautions = append(out.Cautions, cautionOut(c))
	}
	return out, nil
}

// Band runs compute band; errors are *PlaceError.
func Band(input io.Reader) (any, error) {
	n, err := parse(input)
	if err != nil {
		return nil, err
	}
	r := &reading{}
	o := n.object(r, "cuts", "scores")
	f := readForm(o["cuts"], r)
	scores := o["scores"].list(r)
	if r.err != nil {
		return nil, r.err
	}
	cuts, err := band.Compute(f)
	if err != nil {
		return nil, at("cuts.", err)
	}
	names := []string{}
	for _, s := range scores {
		score := pointsOf(s, r)
		if r.err != nil {
			return nil, r.err
		}
		i, err := cuts.Of(score)
		if err != nil {
			return nil, &PlaceError{s.place, fmt.Sprintf("%s %s %s", score, err, cuts.Total)}
		}
		names = append(names, cuts.Starts[i].Name)
	}
	return map[string][]string{"bands": names}, nil
}
