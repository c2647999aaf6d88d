package predict

import (
	"math"

	"pineledger/core/band"
	"pineledger/core/points"
)

// Group is who will sit a form.
type Group struct {
	Name      string
	N         int // students, above 0
	Abilities []Weighed
}

// Share is a band's part of a group.
type Share struct {
	Name             string
	Share            float64 // 0 to 1
	Count, Low, High float64 // students, and the 95% interval of their number
}

// Near is the part of a group whose expected score is within one standard error of where a band begins.
type Near struct {
	Band  string
	Share float64
}

// Outlook is what the cuts would do to a group.
type Outlook struct {
	Name     string
	N        int
	Mean, SD float64 // of the raw scores, in points
	Bands    []Share
	Near     []Near
	// Accuracy is the share of students whose band is that of their expected score; consistency
	// the share who would get the same band on another day; kappa the latter beyond chance, nil where all are in one band.
	Accuracy, Consistency float64
	Kappa                 *float64
	Distribution          []Chance
}

// Chance is the share of a group that gets a raw score.
type Chance struct {
	Raw   points.Points
	Share float64
}

// Prediction is what cuts would do to each group, and to all.
type Prediction struct {
	Groups []Outlook
	All    Outlook
}

// Prospect is what groups can be expected to score on a form, whatever its cuts are.
type Prospect struct {
	grain  points.Points
	sure   points.Points // of the lines that are credited to all
	occurs []bool        // by raw score, counted in grains above what is sure
	groups []expected
}

// expected is a group with what it can score at each of its abilities.
type expected struct {
	group Group
	at    []outcome
}

// outcome is what students of one ability can score.
type outcome struct {
	weight          float64
	scores          []float64 // chances by raw score
	mean, deviation float64   // of the raw score, in points
}

// slack is what a sum of floats may miss of a cut that it meets exactly, in points.
const slack = 1e-9

// Expect works out what groups can score on a form, whose lines the model's are, one for one. The form has been computed
// without fault, with that grain.
func Expect(form []band.Line, grain points.Points, model []Line, groups []Group) *Prospect {
	p := &Prospect{grain: grain}
	var lines []Line
	for i, l := range form {
		switch {
		case l.Void:
		case l.CreditAll:
			p.sure += l.Points
		default:
			lines = append(lines, model[i])
		}
	}
	p.occurs = occurring(lines, grain)
	for _, g := range groups {
		e := expected{group: g}
		for _, a := range g.Abilities {
			o := outcome{weight: a.Weight, scores: scores(lines, grain, a.Theta), mean: float64(p.sure) / 100}
			var variance float64
			for _, l := range lines {
				mean, v := l.moments(a.Theta)
				o.mean += mean
				variance += v
			}
			o.deviation = math.Sqrt(max(0, variance))
			e.at = append(e.at, o)
		}
		p.groups = append(p.groups, e)
	}
	return p
}

// Of predicts for a form whose cuts are computed. Lines are those of the form, one for one.
func Of(form band.Form, cuts band.Cuts, lines []Line, groups []Group) Prediction {
	return Expect(form.Lines, cuts.Grain, lines, groups).With(cuts)
}

// With tells what cuts would do. They are cuts of the form that was expected of.
func (p *Prospect) With(cuts band.Cuts) Prediction {
	m := p.under(cuts)
	var out Prediction
	all := tally{scores: make([]float64, len(p.occurs)), near: make([]float64, len(m.begins))}
	var n float64
	for _, e := range p.groups {
		t := m.tally(e.at)
		out.Groups = append(out.Groups, m.outlook(e.group.Name, float64(e.group.N), t))
		all.add(t, float64(e.group.N))
		n += float64(e.group.N)
	}
	pooled := tally{scores: make([]float64, len(all.scores)), near: make([]float64, len(all.near))}
	pooled.add(all, 1/n)
	out.All = m.outlook("", n, pooled)
	return out
}

// bands are cuts over the raw scores of a prospect.
type bands struct {
	*Prospect
	cuts   band.Cuts
	bandOf []int // by raw score
	begins []int // the bands after the first that a score can be in or above
}

func (p *Prospect) under(cuts band.Cuts) bands {
	m := bands{p, cuts, make([]int, len(p.occurs)), nil}
	for r := range m.bandOf {
		m.bandOf[r], _ = cuts.Of(p.raw(r)) // from 0 to the total, as it wants
	}
	for i, s := range cuts.Starts {
		if i > 0 && s.Raw != nil {
			m.begins = append(m.begins, i)
		}
	}
	return m
}

// raw is a raw score that was counted in grains above what is sure.
func (p *Prospect) raw(r int) points.Points { return p.sure + points.Points(r)*p.grain }

// occurring tells which raw scores lines can add up to, in grains.
func occurring(lines []Line, grain points.Points) []bool {
	out := []bool{true}
	for _, l := range lines {
		next := make([]bool, len(out)+int(l.Levels[len(l.Levels)-1]/grain))
		for r, can := range out {
			for _, c := range l.Levels {
				next[r+int(c/grain)] = next[r+int(c/grain)] || can
			}
		}
		out = next
	}
	return out
}

// scores are the chances of each raw score at an ability, by the recursion of Lord and Wingersky (1984).
func scores(lines []Line, grain points.Points, theta float64) []float64 {
	out := []float64{1}
	for _, l := range lines {
		next := make([]float64, len(out)+int(l.Levels[len(l.Levels)-1]/grain))
		for k, p := range l.chances(theta) {
			shift := int(l.Levels[k] / grain)
			for r, q := range out {
				next[r+shift] += q * p
			}
		}
		out = next
	}
	return out
}

// tally is what is added up over a group's abilities.
type tally struct {
	scores, near          []float64
	accuracy, consistency float64
}

func (t *tally) add(other tally, weight float64) {
	for r, p := range other.scores {
		t.scores[r] += weight * p
	}
	for i, p := range other.near {
		t.near[i] += weight * p
	}
	t.accuracy += weight * other.accuracy
	t.consistency += weight * other.consistency
}

func (m bands) tally(at []outcome) tally {
	t := tally{scores: make([]float64, len(m.occurs)), near: make([]float64, len(m.begins))}
	inBand := make([]float64, len(m.cuts.Starts))
	for _, o := range at {
		clear(inBand)
		for r, p := range o.scores {
			t.scores[r] += o.weight * p
			inBand[m.bandOf[r]] += p
		}
		for i, b := range m.begins {
			if math.Abs(o.mean-float64(*m.cuts.Starts[b].Raw)/100) <= o.deviation+slack {
				t.near[i] += o.weight
			}
		}
		t.accuracy += o.weight * inBand[m.bandAt(o.mean)]
		for _, p := range inBand {
			t.consistency += o.weight * p * p
		}
	}
	return t
}

// bandAt is the band of a score that is no whole number of grains.
func (m bands) bandAt(score float64) int {
	at := 0
	for i, s := range m.cuts.Starts {
		if s.Raw != nil && float64(*s.Raw)/100 <= score+slack {
			at = i
		}
	}
	return at
}

func (m bands) outlook(name string, n float64, t tally) Outlook {
	out := Outlook{Name: name, N: int(n), Accuracy: t.accuracy, Consistency: t.consistency}
	shares := make([]float64, len(m.cuts.Starts))
	var square float64
	for r, p := range t.scores {
		if !m.occurs[r] {
			continue
		}
		raw := float64(m.raw(r)) / 100
		out.Mean += p * raw
		out.Distribution = append(out.Distribution, Chance{m.raw(r), p})
		shares[m.bandOf[r]] += p
	}
	for _, c := range out.Distribution {
		off := float64(c.Raw)/100 - out.Mean
		square += c.Share * off * off
	}
	out.SD = math.Sqrt(square)
	var chance float64
	for i, s := range shares {
		chance += s * s
		half := 1.96 * math.Sqrt(max(0, s*(1-s))/n)
		out.Bands = append(out.Bands, Share{m.cuts.Starts[i].Name, s, n * s, max(0, n*(s-half)), min(n, n*(s+half))})
	}
	if 1-chance > 1e-12 {
		kappa := (t.consistency - chance) / (1 - chance)
		out.Kappa = &kappa
	}
	for i, b := range m.begins {
		out.Near = append(out.Near, Near{m.cuts.Starts[b].Name, t.near[i]})
	}
	return out
}
