package predict

import (
	"fmt"

	"pineledger/core/band"
	"pineledger/core/results"
)

// Got is what students of a group have got.
type Got struct {
	Name   string
	Scores []band.Scored
}

// Tallied is how a group's scores fall into bands.
type Tallied struct {
	Name  string
	N     int
	Bands []InBand
}

// InBand is a band's part of a group.
type InBand struct {
	Name  string
	Count int
	Share float64 // 0 to 1
}

// Observe tells what cuts make of scores that were got, group by group and of all. Groups of fewer than results.Fewest
// are left out of both, so that nobody can be worked out; with nobody left all is nil. A score that the cuts' form cannot hold
// is an error.
func Observe(cuts band.Cuts, groups []Got) (each []Tallied, all *Tallied, err error) {
	sum := newTallied("", cuts)
	for _, g := range groups {
		t := newTallied(g.Name, cuts)
		for _, s := range g.Scores {
			at, err := cuts.Of(s.Raw)
			if err != nil {
				return nil, nil, fmt.Errorf("%s %w %s", s.Raw, err, cuts.Total)
			}
			t.Bands[at].Count += s.N
			t.N += s.N
		}
		if t.N < results.Fewest {
			continue
		}
		for i, b := range t.Bands {
			sum.Bands[i].Count += b.Count
		}
		sum.N += t.N
		each = append(each, t.shared())
	}
	if sum.N == 0 {
		return nil, nil, nil
	}
	sum = sum.shared()
	return each, &sum, nil
}

func newTallied(name string, cuts band.Cuts) Tallied {
	t := Tallied{Name: name}
	for _, s := range cuts.Starts {
		t.Bands = append(t.Bands, InBand{Name: s.Name})
	}
	return t
}

func (t Tallied) shared() Tallied {
	for i := range t.Bands {
		t.Bands[i].Share = float64(t.Bands[i].Count) / float64(t.N)
	}
	return t
}
