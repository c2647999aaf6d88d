package compute

import (
	"io"

	"pineledger/core/band"
	"pineledger/core/points"
	"pineledger/core/predict"
)

// PredictHelp shows the form of compute predict with an example that works.
const PredictHelp = `What cuts would do, from the lines' difficulties and the ability of those who will sit.

  {"cuts":<the whole input of compute cuts>,
   "lines":[{"b":-0.35}|{"p":0.72}|{"b":0.4,"levels":[0,1,2]}],   one for each of cuts.lines
   "groups":[{"name":"Heron Point","n":74,"ability":{"mean":0.1,"sd":0.9}}|{"name":"6-A","thetas":[0.3,-1.2]}]}

Example:
  echo '{"cuts":{"lines":[{"points":1},{"points":1}],"bands":[{"name":"Launching"},{"name":"On course","cut":{"percent":70}}]},"lines":[{"b":-0.3},{"p":0.6}],"groups":[{"name":"6-A","n":24,"ability":{"mean":0,"sd":1}}]}' | pineledger compute predict`

// AbilityHelp shows the form of compute ability with an example that works.
const AbilityHelp = `The ability that each raw score of a form speaks for.

  {"lines":[{"points":1,"b":-0.35},{"points":2,"b":0.4,"levels":[0,1,2]}]}

Example:
  echo '{"lines":[{"points":1,"b":-0.35},{"points":2,"b":0.4,"levels":[0,1,2]}]}' | pineledger compute ability`

// Bounds of what is predicted from.
const (
	farthestB  = 10      // logits from the mean
	mostScores = 100_000 // raw scores that a form can have
)

// readLevels gives the credits of a line, [0, points] where they are left out.
func readLevels(n node, r *reading, worth, step points.Points) []points.Points {
	if n.absent() {
		return []points.Points{0, worth}
	}
	var levels []points.Points
	for _, l := range n.list(r) {
		levels = append(levels, pointsOf(l, r))
	}
	if r.err == nil {
		if err := predict.CheckLevels(levels, worth, step); err != nil {
			r.refuse(n.place, "%s", err)
		}
	}
	return levels
}

type locationOut struct {
	B float64 `json:"b"`
}

type chanceOut struct {
	Raw   points.Points `json:"raw"`
	Share float64       `json:"share"`
}

type shareOut struct {
	Name  string  `json:"name"`
	Share float64 `json:"share"`
	Count float64 `json:"count"`
	Low   float64 `json:"low"`
	High  float64 `json:"high"`
}

type nearOut struct {
	Band  string  `json:"band"`
	Share float64 `json:"share"`
}

type outlookOut struct {
	Name         string      `json:"name,omitempty"`
	N            int         `json:"n"`
	Mean         float64     `json:"mean"`
	SD           float64     `json:"sd"`
	Bands        []shareOut  `json:"bands"`
	Near         []nearOut   `json:"near"`
	Accuracy     float64     `json:"accuracy"`
	Consistency  float64     `json:"consistency"`
	Kappa        *float64    `json:"kappa"`
	Distribution []chanceOut `json:"distribution"`
}

type predictOut struct {
	Lines  []locationOut `json:"lines"`
	Groups []outlookOut  `json:"groups"`
	All    outlookOut    `json:"all"`
}

// Predict runs compute predict; errors are *PlaceError.
func Predict(input io.Reader) (any, error) {
	n, err := parse(input)
	if err != nil {
		return nil, err
	}
	r := &reading{}
	o := n.object(r, "cuts", "lines", "groups")
	f := readForm(o["cuts"], r)
	if r.err != nil {
		return nil, r.err
	}
	cuts, err := band.Compute(f)
	if err != nil {
		return nil, at("cuts.", err)
	}
	if cuts.Total/cuts.Grain > mostScores {
		r.refuse("cuts.lines", "have more than %d possible scores", mostScores)
	}
	var lines []predict.Line
	for i, l := range o["lines"].sized(r, len(f.Lines), "lines in cuts.lines") {
		lines = append(lines, readLocated(l, r, f.Lines[i]))
	}
	groups := readGroups(o["groups"], r)
	if r.err != nil {
		return nil, r.err
	}
	out := predictOut{}
	for _, l := range lines {
		out.Lines = append(out.Lines, locationOut{l.B})
	}
	p := predict.Of(f, cuts, lines, groups)
	for _, g := range p.Groups {
		out.Groups = append(out.Groups, outlook(g))
	}
	out.All = outlook(p.All)
	return out, nil
}

// readLocated gives a line with its place on the scale, by its b or its p.
func readLocated(n node, r *reading, l band.Line) predict.Line {
	m := n.object(r, "b", "p", "levels")
	step := l.Step
	if step == 0 {
		step = l.Points
	}
	out := predict.Line{Levels: readLevels(m["levels"], r, l.Points, step)}
	switch b, p := m["b"], m["p"]; {
	case b.absent() == p.absent():
		r.refuse(n.place, "give one of b and p")
	case !b.absent():
		out.B = b.float(r, -farthestB, farthestB)
	default:
		share := p.float(r, 0, 1)
		if share == 0 || share == 1 {
			r.refuse(p.place, "%v is not between 0 and 1", share)
		}
		if r.err == nil {
			out.B = predict.Location(share, out.Levels)
		}
	}
	return out
}

func readGroups(n node, r *reading) (groups []predict.Group) {
	seen := map[string]bool{}
	list := n.list(r)
	if len(list) == 0 {
		r.refuse(n.place, "has no group")
	}
	for _, g := range list {
		m := g.object(r, "name", "n", "ability", "thetas")
		out := predict.Group{Name: m["name"].text(r)}
		switch {
		case out.Name == "":
			r.refuse(m["name"].place, "a group needs a name")
		case seen[out.Name]:
			r.refuse(m["name"].place, "%q is used twice", out.Name)
		case m["ability"].absent() == m["thetas"].absent():
			r.refuse(g.place, "give one of ability and thetas")
		case !m["thetas"].absent():
			if m["n"].given {
				r.refuse(m["n"].place, "is the number of the thetas and is not given beside them")
			}
			var thetas []float64
			for _, t := range m["thetas"].list(r) {
				thetas = append(thetas, t.float(r, -mostAbility, mostAbility))
			}
			if len(thetas) == 0 {
				r.refuse(m["thetas"].place, "has no ability")
			}
			out.N, out.Abilities = len(thetas), predict.Each(thetas)
		default:
			a := m["ability"].object(r, "mean", "sd")
			out.N = m["n"].whole(r, 1, mostStudents)
			out.Abilities = predict.Normal(a["mean"].float(r, -mostAbility, mostAbility), a["sd"].float(r, 0, mostAbility))
		}
		seen[out.Name] = true
		groups = append(groups, out)
	}
	return groups
}

// Bounds of groups.
const (
	mostAbility  = 1000 // logits
	mostStudents = 100_000_000
)

func outlook(p predict.Outlook) outlookOut {
	out := outlookOut{Name: p.Name, N: p.N, Mean: p.Mean, SD: p.SD, Near: []nearOut{}, Accuracy: p.Accuracy, Consistency: p.Consistency, Kappa: p.Kappa}
	for _, b := range p.Bands {
		out.Bands = append(out.Bands, shareOut(b))
	}
	for _, near := range p.Near {
		out.Near = append(out.Near, nearOut(near))
	}
	for _, c := range p.Distribution {
		out.Distribution = append(out.Distribution, chanceOut(c))
	}
	return out
}

type abilityOut struct {
	Raw   points.Points `json:"raw"`
	Theta float64       `json:"theta"`
	SE    float64       `json:"se"`
}

// Ability runs compute ability; errors are *PlaceError.
func Ability(input io.Reader) (any, error) {
	n, err := parse(input)
	if err != nil {
		return nil, err
	}
	r := &reading{}
	o := n.object(r, "lines")
	var lines []predict.Line
	var total, grain points.Points
	for _, l := range o["lines"].list(r) {
		m := l.object(r, "points", "b", "levels")
		worth := pointsOf(m["points"], r)
		if worth <= 0 {
			r.refuse(m["points"].place, "%s is not above 0", worth)
		}
		line := predict.Line{B: m["b"].float(r, -farthestB, farthestB), Levels: readLevels(m["levels"], r, worth, 1)}
		for _, c := range line.Levels {
			grain = points.GCD(grain, max(0, c))
		}
		total += worth
		lines = append(lines, line)
	}
	switch {
	case r.err != nil:
		return nil, r.err
	case len(lines) == 0:
		return nil, &PlaceError{"lines", "has no line"}
	case total/grain > mostScores:
		r.refuse("lines", "have more than %d possible scores", mostScores)
		return nil, r.err
	}
	out := []abilityOut{}
	for _, a := range predict.Abilities(lines) {
		out = append(out, abilityOut(a))
	}
	return map[string][]abilityOut{"table": out}, nil
}
