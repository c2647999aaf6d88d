package item

import "slices"

// Told is what a student may read about an answer.
type Told struct {
	Why    string   // of right or wrong, in HTML; "" for none
	GoOver []string // what to go over again, in HTML, each once
}

// Tell gives what the item says to a student who answered so, with an outcome. Advice is for wrong answers alone.
func (it Item) Tell(r Response, outcome Outcome) Told {
	var out Told
	if it.Feedback == nil {
		return out
	}
	switch outcome {
	case Right:
		out.Why = it.Feedback.Right
	case Part, Wrong, Omitted, NotReached:
		out.Why = it.Feedback.Wrong
	}
	if outcome == Right {
		return out
	}
	for _, a := range it.Feedback.ByAnswers {
		if slices.Contains(r[a.Response], a.Value) && !slices.Contains(out.GoOver, a.HTML) {
			out.GoOver = append(out.GoOver, a.HTML)
		}
	}
	return out
}
