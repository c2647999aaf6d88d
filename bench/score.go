package main

import (
	"context"
	"fmt"
	"strings"
	"time"

	"pineledger/core/item"
	"pineledger/core/points"
)

// measureScore scores a right response of each kind over and over on one core.
func measureScore(context.Context, *bench) error {
	picture := item.Picture{Source: "/media/" + strings.Repeat("0", 64), Alt: "x", Width: 100, Height: 100}
	spot := item.NewSpot("x", picture, []item.Area{{Shape: item.Circle, At: []int{20, 20, 5}}, {Shape: item.Polygon, At: []int{50, 50, 90, 50, 70, 90}}})
	told, _ := item.NewChoice(item.MultipleChoice, "x", []string{"a", "b", "c", "d"}, []int{0, 2}, item.PerChoice).AsRules()
	for _, k := range append(everyKind(), right(spot, "70 60"), right(told, "A", "C")) {
		if problems := k.item.Check(); len(problems) > 0 {
			return fmt.Errorf("%s: %s", k.item.Kind, problems[0])
		}
		n := 0
		start := time.Now()
		for time.Since(start) < time.Second {
			for range 1000 {
				if c := k.item.Score(k.response, points.One); c.Outcome != item.Right {
					return fmt.Errorf("%s: a right response is %s", k.item.Kind, c.Outcome)
				}
			}
			n += 1000
		}
		aim := ""
		if k.item.Kind == item.SingleChoice || k.item.Kind == item.TrueFalse {
			aim = " (aim: a million)"
		}
		name := string(k.item.Kind)
		if k.item.Credit == item.AsWritten {
			name += " by rules as written"
		}
		say(fmt.Sprintf("credits of %s on one core", name), "%.0f a second%s", float64(n)/time.Since(start).Seconds(), aim)
	}
	return nil
}
