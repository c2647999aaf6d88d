package main

import (
	"context"
	"fmt"
	"math/rand/v2"
	"runtime"
	"time"

	"pineledger/core/blueprint"
	"pineledger/core/draw"
	"pineledger/core/points"
)

// drawPool makes a pool as a large bank has it: a fifth of the items hang on
// passages of 3 to 6, uses from 0 to 12, difficulties around 0.58.
func drawPool(n int) []blueprint.Item {
	noise := rand.New(rand.NewPCG(6, 26))
	kinds := []string{"single-choice", "single-choice", "single-choice", "multiple-choice", "number", "text", "match", "order"}
	var items []blueprint.Item
	passage, left := 0, 0
	for i := range n {
		difficulty := min(max(int(noise.NormFloat64()*160)+580, 80), 980)
		it := blueprint.Item{ID: fmt.Sprintf("i%d", i), Standards: []string{fmt.Sprintf("S%d.%d", noise.IntN(6), noise.IntN(6))}, Kind: kinds[noise.IntN(len(kinds))],
			Depth: 1 + noise.IntN(4), Difficulty: &difficulty, Points: points.One, Uses: noise.IntN(13), Key: string(rune('A' + noise.IntN(4)))}
		if left == 0 && noise.IntN(18) == 0 {
			passage, left = passage+1, 3+noise.IntN(4)
		}
		if left > 0 {
			left--
			it.Passage = fmt.Sprintf("p%d", passage)
		}
		if noise.IntN(20) == 0 && i > 0 {
			it.Enemies = []string{items[noise.IntN(i)].ID}
		}
		items = append(items, it)
	}
	return items
}

// drawPlan asks for 40 lines by 15 rows that overlap in standard, kind, depth and difficulty.
func drawPlan() (blueprint.Tree, draw.Plan, error) {
	var standards []blueprint.Standard
	for s := range 6 {
		standards = append(standards, blueprint.Standard{Code: fmt.Sprintf("S%d", s)})
		for t := range 6 {
			standards = append(standards, blueprint.Standard{Code: fmt.Sprintf("S%d.%d", s, t), Parent: fmt.Sprintf("S%d", s)})
		}
	}
	tree, err := blueprint.NewTree(standards)
	passages, spread := 4, 2
	plan := draw.Plan{Passages: draw.Passages{Max: &passages, ItemsMin: 2, ItemsMax: 5}, Difficulty: &draw.Target{Target: 600}, KeySpread: &spread, ForbidMeeting: true}
	add := func(n int, f blueprint.Filter) {
		count := points.One * points.Points(n)
		plan.Rows = append(plan.Rows, blueprint.Row{ID: fmt.Sprintf("r%d", len(plan.Rows)+1), Filter: f, Min: count, Max: count})
	}
	for s := range 6 {
		add(3, blueprint.Filter{Standards: []string{fmt.Sprintf("S%d", s)}})
	}
	for s := range 3 {
		add(2, blueprint.Filter{Standards: []string{fmt.Sprintf("S%d.1", s), fmt.Sprintf("S%d.2", s+3)}, Kinds: []string{"number", "text"}})
	}
	for depth := range 4 {
		add(3, blueprint.Filter{Depth: []int{depth + 1}, Kinds: []string{"single-choice", "match"}})
	}
	add(2, blueprint.Filter{Difficulty: &[2]int{300, 500}})
	add(2, blueprint.Filter{Difficulty: &[2]int{700, 900}, Kinds: []string{"single-choice"}})
	total := 40
	plan.Total = &total
	return tree, plan, err
}

// roomy lets rows and the total take more, asks for no difficulty and has passages come
// whole: forms that may hold different numbers of items are the hardest to make equal.
func roomy(plan *draw.Plan) {
	for j := range plan.Rows {
		plan.Rows[j].Max += 4 * points.One
	}
	plan.Total, plan.Difficulty, plan.Passages = nil, nil, draw.Passages{Max: plan.Passages.Max, Whole: true}
}

// twice asks for two times as many lines.
func twice(plan *draw.Plan) {
	for j := range plan.Rows {
		plan.Rows[j].Min, plan.Rows[j].Max = 2*plan.Rows[j].Min, 2*plan.Rows[j].Max
	}
	total := 2 * *plan.Total
	plan.Total = &total
}

// measureDraw draws from 2,000 to 20,000 items, one form and twin forms, the best and at random.
func measureDraw(context.Context, *bench) error {
	for _, c := range []struct {
		items, forms int
		shape        func(*draw.Plan)
		mode         draw.Mode
		what         string
		budget       time.Duration
		aim          string
	}{
		{2000, 1, nil, draw.Best, "40 lines", 2 * time.Second, "under 2 s within 1 %"},
		{20000, 1, nil, draw.Best, "40 lines", 2 * time.Second, "under 2 s within 1 %"},
		{20000, 1, roomy, draw.Best, "a form of roomy rows and whole passages", 2 * time.Second, "under 2 s within 1 %"},
		{2000, 3, nil, draw.Best, "3 × 40 lines", 10 * time.Second, "under 10 s"},
		{20000, 3, nil, draw.Best, "3 × 40 lines", 10 * time.Second, "under 10 s"},
		{10000, 2, roomy, draw.Best, "2 forms of roomy rows and whole passages", 2 * time.Second, "spread 0 in 2 s"},
		{2000, 1, twice, draw.Random, "80 lines at random", 2 * time.Second, "under 0.1 s"},
	} {
		tree, plan, err := drawPlan()
		if err != nil {
			return err
		}
		plan.Forms = c.forms
		if c.shape != nil {
			c.shape(&plan)
		}
		r := draw.Request{Items: drawPool(c.items), Tree: tree, Plan: plan, Mode: c.mode, Seed: 1}
		began := time.Now()
		result, err := r.Run(draw.Clock{Left: func() float64 { return 1 - time.Since(began).Seconds()/c.budget.Seconds() }, Over: func() bool { return time.Since(began) > time.Minute }})
		if err != nil {
			return err
		}
		took := time.Since(began)
		what := fmt.Sprintf("draw of %s from %d items, 15 rows", c.what, c.items)
		switch {
		case !result.Feasible:
			say(what, "%s: not feasible: %s %v", brief(took), result.Because, result.Shortage)
		case result.Bound == nil:
			say(what, "%s (aim: %s)", brief(took), c.aim)
		default:
			say(what, "%s, aims %v, proven bounds %v (aim: %s)", brief(took), result.Objective, *result.Bound, c.aim)
		}
	}
	var memory runtime.MemStats
	runtime.ReadMemStats(&memory)
	say("memory of this process after the draws", "%d MB (aim: under 300)", memory.Sys>>20)
	return nil
}
