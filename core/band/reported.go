package band

import (
	"fmt"

	"pineledger/core/points"
)

// Reported turns a range of scores into a value that is reported for it: 5 to 7 points into "2".
type Reported struct {
	From  points.Points `json:"from"`
	To    points.Points `json:"to"` // inclusive
	Value string        `json:"value"`
}

// CheckReported refuses ranges that do not hold every reachable score of a form just once, in order. Errors are *PlaceError; no ranges are fine.
func CheckReported(ranges []Reported, total, grain points.Points) error {
	next := points.Points(0) // the first score that no range holds yet
	for i, r := range ranges {
		place := fmt.Sprintf("reported[%d]", i)
		switch {
		case r.Value == "":
			return refuse(place+".value", "a range needs the value that is reported for it")
		case r.From%grain != 0:
			return refuse(place+".from", "%s is no score of this form; scores move in steps of %s", r.From, grain)
		case r.To%grain != 0:
			return refuse(place+".to", "%s is no score of this form; scores move in steps of %s", r.To, grain)
		case r.From > next:
			return refuse(place+".from", "the scores from %s to %s are in no range", next, r.From-grain)
		case r.From < next && i > 0:
			return refuse(place+".from", "%s is in the range before already", r.From)
		case r.From < next:
			return refuse(place+".from", "%s is negative", r.From)
		case r.To < r.From:
			return refuse(place+".to", "%s is below %s, where the range begins", r.To, r.From)
		case r.To > total:
			return refuse(place+".to", "%s is above the total %s", r.To, total)
		}
		next = r.To + grain
	}
	if len(ranges) > 0 && next <= total {
		return refuse(fmt.Sprintf("reported[%d].to", len(ranges)-1), "the scores from %s to %s are in no range", next, total)
	}
	return nil
}

// ReportedOf is the value that is reported for a score; "" where no range holds it. A mean of several tries may lie between two
// ranges: it takes the lower.
func ReportedOf(ranges []Reported, score points.Points) string {
	value := ""
	for _, r := range ranges {
		if r.From <= score {
			value = r.Value
		}
	}
	return value
}
