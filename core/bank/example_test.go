package bank_test

import (
	"fmt"

	"pineledger/core/bank"
)

// A passage is read paragraph by paragraph.
func ExampleRead() {
	f := bank.Read([]string{"The ferry waits. The tide is low.", "Nobody hurries"})
	fmt.Println(f.Words, f.Sentences)
	// Output: 9 3
}
