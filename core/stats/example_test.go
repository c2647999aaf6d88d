package stats_test

import (
	"fmt"

	"pineledger/core/points"
	"pineledger/core/stats"
)

// Of ten students six earned the point; those who did were better on the rest, too.
func ExampleOfLine() {
	var answers []stats.Answer
	for i := range 10 {
		a := stats.Answer{Raw: points.Points(i) * 100}
		if i >= 4 {
			a.Credit = 100
		}
		answers = append(answers, a)
	}
	line := stats.OfLine(100, answers)
	fmt.Printf("%d %.2f\n", line.Difficulty, *line.Discrimination)
	// Output: 600 0.79
}
