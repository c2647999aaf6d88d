package blueprint_test

import (
	"fmt"

	"pineledger/core/blueprint"
)

// Both lines meet the first row, one of them the second: no first come, first served.
func ExampleCompute() {
	tree, err := blueprint.NewTree([]blueprint.Standard{{Code: "M6"}, {Code: "M6.RR", Parent: "M6"}})
	if err != nil {
		panic(err)
	}
	rows := []blueprint.Row{
		{ID: "any of grade 6", Filter: blueprint.Filter{Standards: []string{"M6"}}, Min: 100, Max: 100},
		{ID: "ratio", Filter: blueprint.Filter{Standards: []string{"M6.RR"}}, Min: 100, Max: 100},
	}
	lines := []blueprint.Item{{ID: "i1", Kind: "number", Standards: []string{"M6.RR"}, Points: 100}, {ID: "i2", Kind: "number", Standards: []string{"M6"}, Points: 100}}
	b, err := blueprint.Compute(tree, rows, lines)
	if err != nil {
		panic(err)
	}
	for _, r := range b.Rows {
		fmt.Println(r.ID, r.Lines, r.Balance)
	}
	// Output:
	// any of grade 6 [i2] 0
	// ratio [i1] 0
}
