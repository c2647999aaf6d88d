package draw_test

import (
	"flag"
	"fmt"
	"math/rand/v2"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/blueprint"
	"pineledger/core/draw"
	"pineledger/core/points"
)

var rewrite = flag.Bool("rewrite", false, "write testdata anew: what was drawn with a seed is drawn otherwise from now on")

// A draw is kept with its seed so that anybody can repeat it, years later too. What these
// requests draw is therefore written down, and how good it was and was proven to be.
func TestASeedDrawsWhatItDrewBefore(t *testing.T) {
	for _, family := range []struct {
		file    string
		request func(*testing.T, uint64) draw.Request
		seeds   uint64
	}{
		{"testdata/drawn.txt", mixed, 72},
		{"testdata/tight.txt", tight, 240},
	} {
		t.Run(family.file, func(t *testing.T) {
			var now strings.Builder
			for seed := range family.seeds {
				r := family.request(t, seed)
				asked := 0
				result, err := r.Run(draw.Clock{
					Left: func() float64 { asked++; return max(0, 1-float64(asked)/500) }, // asks instead of seconds: the same on every machine
					Over: func() bool { return asked > 200_000 },
				})
				require.NoError(t, err, "seed %d", seed)
				if result.Feasible {
					holds(t, r, result)
				}
				fmt.Fprintf(&now, "%d: %s\n", seed, said(result))
			}
			if *rewrite {
				require.NoError(t, os.WriteFile(family.file, []byte(now.String()), 0o644))
			}
			before, err := os.ReadFile(family.file)
			require.NoError(t, err)
			assert.Equal(t, string(before), now.String())
		})
	}
}

func said(r draw.Result) string {
	if !r.Feasible {
		return fmt.Sprint("short ", r.Shortage, " ", r.Because)
	}
	var forms []string
	for _, f := range r.Forms {
		var items []string
		for _, c := range f.Items {
			items = append(items, c.ID+"/"+c.Row)
		}
		forms = append(forms, strings.Join(items, " "))
	}
	out := strings.Join(forms, " | ") + fmt.Sprint(" aims ", r.Objective)
	if r.Bound != nil {
		out += fmt.Sprint(" bound ", *r.Bound)
	}
	return out
}

// mixed is a request of a few dozen to a few hundred items that uses the rules in turn, alone and together.
func mixed(t *testing.T, seed uint64) draw.Request {
	noise := rand.New(rand.NewPCG(seed, 23))
	chance := func(of int) bool { return noise.IntN(of) == 0 }
	r := draw.Request{Tree: tree(t), Seed: seed, Mode: []draw.Mode{draw.Best, draw.Random}[seed%2]}
	n := 20 + noise.IntN(60)
	if seed%8 > 5 {
		n *= 6
	}
	if seed%24 == 6 { // a pool that a best draw thins out
		n *= 8
	}
	for i := range n {
		it := blueprint.Item{ID: fmt.Sprintf("i%d", i), Kind: []string{"single-choice", "number", "text"}[noise.IntN(3)], Depth: 1 + noise.IntN(4), Uses: noise.IntN(12),
			Standards: [][]string{{"M6.RR"}, {"M6.NS"}, {"M6.RR", "M6.NS"}, {"M6"}}[noise.IntN(4)], Points: []points.Points{100, 100, 100, 200, 150}[noise.IntN(5)]}
		if !chance(8) {
			p := 250 + noise.IntN(650)
			it.Difficulty = &p
		}
		if it.Kind == "single-choice" {
			it.Key = string(rune('A' + noise.IntN(3)))
		}
		if chance(3) {
			it.Passage = fmt.Sprintf("p%d", i/8)
		}
		if chance(10) && i > 0 {
			it.Enemies = []string{fmt.Sprintf("i%d", noise.IntN(i))}
		}
		if seed%4 == 3 && chance(4) {
			it.Kin = fmt.Sprint("like ", noise.IntN(8))
		}
		it.Hold = chance(25)
		r.Items = append(r.Items, it)
	}
	least := func(k int) (int, int) { a := 1 + noise.IntN(k); return a, a + noise.IntN(3) }
	for j, f := range []blueprint.Filter{{Standards: []string{"M6.RR"}}, {Standards: []string{"M6.NS"}, Kinds: []string{"number", "text"}}, {Depth: []int{3, 4}}, {Difficulty: &[2]int{600, 900}}} {
		if j > 0 && chance(3) {
			continue
		}
		a, b := least(6)
		row := count(fmt.Sprintf("r%d", j), a, b, f)
		row.ByPoints = chance(4)
		r.Plan.Rows = append(r.Plan.Rows, row)
	}
	p := &r.Plan
	p.Forms = 1 + int(seed/3)%3
	if chance(2) {
		p.Difficulty = &draw.Target{Target: 500 + noise.IntN(200), Tolerance: noise.IntN(20)}
	}
	if chance(3) {
		p.KeySpread = intp(1 + noise.IntN(2))
	}
	p.ForbidMeeting = chance(2)
	switch noise.IntN(5) {
	case 0:
		p.Passages.Max = intp(1 + noise.IntN(2))
	case 1:
		p.Passages.ItemsMin = 2
	case 2:
		p.Passages.ItemsMax = 1 + noise.IntN(2)
	case 3:
		p.Passages.Whole = true
	}
	if chance(4) {
		p.Exclude = []string{"i8", "i9"}
	}
	for _, it := range r.Items[:6] {
		if p.Forms > 1 && chance(6) && !it.Hold && it.Passage == "" && r.Tree.Meets(p.Rows[0].Filter, it) {
			p.Anchors = append(p.Anchors, it.ID)
		}
	}
	return r
}

// tight is a request of a dozen items or two whose rules leave few answers, or none for a reason that must be named.
func tight(t *testing.T, seed uint64) draw.Request {
	noise := rand.New(rand.NewPCG(seed, 41))
	chance := func(of int) bool { return noise.IntN(of) == 0 }
	r := draw.Request{Tree: tree(t), Seed: seed, Mode: []draw.Mode{draw.Best, draw.Best, draw.Random}[seed%3]}
	p := &r.Plan
	p.Forms = 1 + int(seed/3)%3
	p.ForbidMeeting = chance(2)
	for i := range 3*p.Forms + 2 + noise.IntN(12) {
		it := blueprint.Item{ID: fmt.Sprintf("i%d", i), Kind: []string{"single-choice", "single-choice", "number"}[noise.IntN(3)], Depth: 1 + noise.IntN(2), Uses: noise.IntN(9),
			Standards: [][]string{{"M6.RR"}, {"M6.NS"}, {"M6.RR", "M6.NS"}, nil}[noise.IntN(4)], Points: []points.Points{100, 100, 200, 150}[noise.IntN(4)], Hold: chance(20)}
		if !chance(6) {
			d := 300 + noise.IntN(600)
			it.Difficulty = &d
		}
		if it.Kind == "single-choice" {
			it.Key = []string{"A", "B", "C", ""}[noise.IntN(4)]
		}
		if chance(2) {
			it.Passage = []string{"p", "q", "r", "s"}[noise.IntN(4)]
		}
		if chance(4) && i > 0 {
			it.Enemies = []string{fmt.Sprintf("i%d", noise.IntN(i))}
		}
		if chance(4) {
			it.Kin = []string{"visitors", "tides"}[noise.IntN(2)]
		}
		r.Items = append(r.Items, it)
	}
	for j := range 1 + noise.IntN(3) {
		row := blueprint.Row{ID: fmt.Sprintf("r%d", j), ByPoints: chance(4), Filter: []blueprint.Filter{{}, {Standards: []string{"M6.RR"}}, {Standards: []string{"M6.NS"}}, {Standards: []string{"M6"}},
			{Kinds: []string{"single-choice"}}, {Depth: []int{1}}, {Difficulty: &[2]int{500, 900}}}[noise.IntN(7)]}
		row.Min = points.One * points.Points(noise.IntN(4))
		row.Max = row.Min + points.One*points.Points(noise.IntN(2))
		p.Rows = append(p.Rows, row)
	}
	if chance(3) {
		p.Total = intp(2 + noise.IntN(4))
	}
	if chance(2) {
		p.Difficulty = &draw.Target{Target: 450 + noise.IntN(300), Tolerance: noise.IntN(40)}
	}
	if chance(3) {
		p.KeySpread = intp(noise.IntN(3))
	}
	if chance(4) {
		p.Passages.Max = intp(noise.IntN(3))
	}
	if chance(4) {
		p.Passages.ItemsMin = 1 + noise.IntN(2)
	}
	if chance(4) {
		p.Passages.ItemsMax = max(p.Passages.ItemsMin, 1+noise.IntN(3))
	}
	p.Passages.Whole = chance(4)
	if chance(8) {
		p.Exclude = []string{"i1", "i2"}
	}
	for _, list := range []*[]string{&p.Fixed, &p.Anchors} {
		if it := r.Items[3+noise.IntN(3)-1]; chance(4) && !it.Hold && len(*list) == 0 && it.ID != "i2" {
			*list = []string{it.ID}
		}
	}
	return r
}
