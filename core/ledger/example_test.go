package ledger_test

import (
	"fmt"
	"time"

	"pineledger/core/ledger"
)

// An entry that was changed later does not match its hash, also the last one.
func ExampleWalk() {
	first := ledger.Entry{Number: 1, At: time.UnixMilli(0), Actor: "Ines Okafor", Act: "assessment.seal"}
	first.Hash = ledger.Chain(ledger.Genesis, first)
	last := ledger.Entry{Number: 2, At: time.UnixMilli(1), Actor: "Ines Okafor", Act: "distribution.send"}
	last.Hash = ledger.Chain(first.Hash, last)
	last.Actor = "Somebody"
	var walk ledger.Walk
	for _, e := range []ledger.Entry{first, last} {
		fmt.Println(e.Number, walk.Next(e))
	}
	// Output:
	// 1 <nil>
	// 2 ledger entry 2: does not match its hash: it or an entry before it was changed
}
