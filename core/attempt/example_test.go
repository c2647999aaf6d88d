package attempt_test

import (
	"fmt"

	"pineledger/core/attempt"
)

// The second try is better, and the best counts.
func ExampleCounting() {
	counted, _ := attempt.Counting([]attempt.Try{{Number: 1, Final: true, Raw: 1200}, {Number: 2, Final: true, Raw: 1450}}, attempt.KeepBest)
	fmt.Println(counted.Try, counted.Raw, counted.Why)
	// Output: 2 14.5 The best of 2 tries.
}
