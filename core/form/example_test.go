package form_test

import (
	"fmt"

	"pineledger/core/form"
)

// Each student gets one of the three lines of a pool; the same seed draws the same.
func ExampleLayout_Given() {
	layout := form.Layout{Pools: []form.Pool{{Choose: 1}}}
	lines := []form.Placed{{Points: 100}, {Pool: 1, Points: 100}, {Pool: 1, Points: 100}, {Pool: 1, Points: 100}}
	first, again := layout.Given(lines, 7), layout.Given(lines, 7)
	fmt.Println(len(first), fmt.Sprint(first) == fmt.Sprint(again))
	// Output: 2 true
}
