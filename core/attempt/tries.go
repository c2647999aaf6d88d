package attempt

import (
	"fmt"

	"pineledger/core/points"
	"pineledger/core/settings"
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
	Raw    points.Points // what it earned
	Lost   settings.Deductions
}

// Counted is the result of a seat's tries.
type Counted struct {
	Try   int // the one that counts; of a mean, the last
	Final bool
	Raw   points.Points // less what is taken off
	Why   string
}

// Counting chooses among the tries of a seat, in the order they were made, each less what it loses. One that
// waits for a reader could still be the best, and is part of a mean: until it is
// scored, such a result is not final either. Of equal tries the earlier is the best.
// No try gives false.
func Counting(tries []Try, keep Keep) (Counted, bool) {
	if len(tries) == 0 {
		return Counted{}, false
	}
	last := tries[len(tries)-1]
	if len(tries) == 1 {
		return Counted{last.Number, last.Final, last.worth(), "The only try." + last.losses()}, true
	}
	if keep == KeepLast {
		return Counted{last.Number, last.Final, last.worth(), fmt.Sprintf("The last of %d tries.%s", len(tries), last.losses())}, true
	}
	out := Counted{Final: true}
	best, sum, losses := tries[0], points.Points(0), ""
	for _, t := range tries {
		out.Final = out.Final && t.Final
		sum += t.worth()
		losses += t.losses()
		if t.worth() > best.worth() {
			best = t
		}
	}
	if keep == KeepMean {
		out.Try, out.Raw = last.Number, (2*sum+points.Points(len(tries)))/points.Points(2*len(tries)) // half up, once
		out.Why = fmt.Sprintf("The mean of %d tries.%s", len(tries), losses)
		return out, true
	}
	out.Try, out.Raw, out.Why = best.Number, best.worth(), fmt.Sprintf("The best of %d tries.%s", len(tries), best.losses())
	return out, true
}

// worth is what a try counts.
func (t Try) worth() points.Points { return t.Lost.Of(t.Raw) }

// losses says what is taken off a try, "" for nothing.
func (t Try) losses() string {
	out := ""
	if t.Lost.Retake > 0 {
		out += fmt.Sprintf(" Try %d earned %s and loses %s as a retake.", t.Number, t.Raw, t.Lost.Retake)
	}
	if t.Lost.Late > 0 {
		days := "1 day"
		if t.Lost.Days > 1 {
			days = fmt.Sprintf("%d days", t.Lost.Days)
		}
		out += fmt.Sprintf(" Try %d earned %s and loses %s as it came %s late.", t.Number, t.Raw, t.Lost.Late, days)
	}
	return out
}
