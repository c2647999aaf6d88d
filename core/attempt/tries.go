package attempt

import (
	"fmt"

	"pineledger/core/points"
)

// Keep says which of a seat's tries counts.
type Keep string

const (
	KeepBest Keep = "best"
	KeepLast Keep = "last"
	KeepMean Keep = "mean"
)

// Try is one attempt of a seat that was handed in, as far as it is scored.
type Try struct {
	Number int // 1 for the first
	Final  bool
	Raw    points.Points
}

// Counted is the result of a seat's tries.
type Counted struct {
	Try   int // the one that counts; of a mean, the last
	Final bool
	Raw   points.Points
	Why   string
}

// Counting chooses among the tries of a seat, in the order they were made. One that
// waits for a reader could still be the best, and is part of a mean: until it is
// scored, such a result is not final either. Of equal tries the earlier is the best.
// No try gives false.
func Counting(tries []Try, keep Keep) (Counted, bool) {
	if len(tries) == 0 {
		return Counted{}, false
	}
	last := tries[len(tries)-1]
	if len(tries) == 1 {
		return Counted{last.Number, last.Final, last.Raw, "The only try."}, true
	}
	out := Counted{Try: last.Number, Final: last.Final, Raw: last.Raw, Why: fmt.Sprintf("The last of %d tries.", len(tries))}
	if keep == KeepLast {
		return out, true
	}
	out.Final = true
	best, sum := tries[0], points.Points(0)
	for _, t := range tries {
		out.Final = out.Final && t.Final
		sum += t.Raw
		if t.Raw > best.Raw {
			best = t
		}
	}
	if keep == KeepMean {
		out.Raw = (2*sum + points.Points(len(tries))) / points.Points(2*len(tries)) // half up, once
		out.Why = fmt.Sprintf("The mean of %d tries.", len(tries))
		return out, true
	}
	out.Try, out.Raw, out.Why = best.Number, best.Raw, fmt.Sprintf("The best of %d tries.", len(tries))
	return out, true
}
