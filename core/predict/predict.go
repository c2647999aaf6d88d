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

// Of predicts for a form whose cuts are computed. Lines are those of the form, one for one.
func Of(form band.Form, cuts band.Cuts, lines []Line, groups []Group) Prediction {
	m := newModel(form, cuts, lines)
	var out Prediction
	all := make([]float64, len(m.bandOf))
	var n, accuracy, consistency float64
	near := make([]float64, len(m.begins))
	for _, g := range groups {
		t := m.tally(g)
		out.Groups = append(out.Groups, m.outlook(g.Name, float64(g.N), t))
		weight := float64(g.N)
		n += weight
		for r, p := range t.scores {
			all[r] += weight * p
		}
		for i, p := range t.near {
			near[i] += weight * p
		}
		accuracy += weight * t.accuracy
		consistency += weight * t.consistency
	}
	for _, list := range [][]float64{all, near} {
		for i := range list {
			list[i] /= n
		}
	}
	out.All = m.outlook("", n, tally{all, near, accuracy / n, consistency / n})
	return out
}

// model is a form ready for abilities: raw scores are counted in grains.
type model struct {
	cuts   band.Cuts
	lines  []Line // those that count and are not credited to all
	sure   points.Points
	occurs []bool // by raw score, from what is sure on
	bandOf []int  // by raw score
	begins []int  // the bands after the first that a score can be in or above
}

// slack is what a sum of floats may miss of a cut that it meets exactly, in points.
const slack = 1e-9

func newModel(form band.Form, cuts band.Cuts, lines []Line) *model {
	m := &model{cuts: cuts}
	for i, l := range form.Lines {
		switch {
		case l.Void:
		case l.CreditAll:
			m.sure += l.Points
		default:
			m.lines = append(m.lines, lines[i])
		}
	}
	m.occurs = occurring(m.lines, cuts.Grain)
	m.bandOf = make([]int, len(m.occurs))
	for r := range m.bandOf {
		m.bandOf[r], _ = cuts.Of(m.raw(r)) // from 0 to the total, as it wants
	}
	for i, s := range cuts.Starts {
		if i > 0 && s.Raw != nil {
			m.begins = append(m.begins, i)
		}
	}
	return m
}

// raw is a raw score that was counted in grains above what is sure.
func (m *model) raw(r int) points.Points { return m.sure + points.Points(r)*m.cuts.Grain }

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

func (m *model) tally(g Group) tally {
	t := tally{scores: make([]float64, len(m.occurs)), near: make([]float64, len(m.begins))}
	inBand := make([]float64, len(m.cuts.Starts))
	for _, a := range g.Abilities {
		clear(inBand)
		for r, p := range scores(m.lines, m.cuts.Grain, a.Theta) {
			t.scores[r] += a.Weight * p
			inBand[m.bandOf[r]] += p
		}
		expected, variance := float64(m.sure)/100, 0.0
		for _, l := range m.lines {
			e, v := l.moments(a.Theta)
			expected += e
			variance += v
		}
		for i, b := range m.begins {
			if math.Abs(expected-float64(*m.cuts.Starts[b].Raw)/100) <= math.Sqrt(max(0, variance))+slack {
				t.near[i] += a.Weight
			}
		}
		t.accuracy += a.Weight * inBand[m.bandAt(expected)]
		for _, p := range inBand {
			t.consistency += a.Weight * p * p
		}
	}
	return t
}

// bandAt is the band of a score that is no whole number of grains.
func (m *model) bandAt(expected float64) int {
	at := 0
	for i, s := range m.cuts.Starts {
		if s.Raw != nil && float64(*s.Raw)/100 <= expected+slack {
			at = i
		}
	}
	return at
}

func (m *model) outlook(name string, n float64, t tally) Outlook {
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
