package main

import (
	"context"
	"fmt"
	"time"

	"pineledger/core/item"
	"pineledger/core/points"
)

// measureScore scores a right response of each kind over and over on one core.
func measureScore(context.Context, *bench) error {
	four := []string{"a", "b", "c", "d"}
	pairs := []item.Pair{{Choice: 0, Target: 1}, {Choice: 1, Target: 0}, {Choice: 2, Target: 1}, {Choice: 3, Target: 0}}
	for _, k := range []struct {
		item   item.Item
		values []string
	}{
		{item.NewChoice(item.SingleChoice, "x", four, []int{2}, item.AllOrNothing), []string{"C"}},
		{item.NewChoice(item.MultipleChoice, "x", four, []int{0, 2}, item.PerChoice), []string{"A", "C"}},
		{item.NewTrueFalse("x", true), []string{"true"}},
		{item.NewOrder("x", four, []int{3, 2, 0, 1}, item.LongestRun), []string{"D", "C", "A", "B"}},
		{item.NewPairs(item.Sort, "x", four, []string{"p", "q"}, pairs, 1, 0, item.PerPart), []string{"A T2", "B T1", "C T2", "D T1"}},
		{item.NewText("x", []string{"harbor", "harbour"}, item.TextKey{Slips: true}), []string{" Harbour"}},
		{item.NewNumber("x", []string{"3/4"}, item.NumberKey{Tolerance: "1/100"}, ""), []string{"0.75"}},
		{item.NewNumberLine("x", item.Line{From: "0", To: "2", Step: "1/4", Labels: 4}, []string{"3/4"}, ""), []string{"0.75"}},
		{item.NewSelectText("x", []item.Run{{HTML: "a", Selectable: true}, {HTML: " "}, {HTML: "b", Selectable: true}}, []int{1}, 0, item.KeyMinus), []string{"B"}},
	} {
		if problems := k.item.Check(); len(problems) > 0 {
			return fmt.Errorf("%s: %s", k.item.Kind, problems[0])
		}
		response := item.Response{"RESPONSE": k.values}
		n := 0
		start := time.Now()
		for time.Since(start) < time.Second {
			for range 1000 {
				if c := k.item.Score(response, points.One); c.Outcome != item.Right {
					return fmt.Errorf("%s: a right response is %s", k.item.Kind, c.Outcome)
				}
			}
			n += 1000
		}
		aim := ""
		if k.item.Kind == item.SingleChoice || k.item.Kind == item.TrueFalse {
			aim = " (aim: a million)"
		}
		say(fmt.Sprintf("credits of %s on one core", k.item.Kind), "%.0f a second%s", float64(n)/time.Since(start).Seconds(), aim)
	}
	return nil
}
