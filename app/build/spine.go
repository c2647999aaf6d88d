package build

import (
	"fmt"

	"pineledger/app/desk"
	"pineledger/core/attempt"
	"pineledger/core/points"
)

// Status of a part of the spine.
const (
	done      = "done"
	wanting   = "wanting"
	untouched = "untouched"
)

// spine says for each part, in the order of the work, how it stands.
func (s *Sheet) spine() []Part {
	parts := []Part{{"outline", "complete", done}, s.blueprintPart(), s.linesPart(), s.cutsPart(), s.settingsPart(), s.supportsPart()}
	return append(parts, s.distributionPart(), s.roomsPart(), s.resultsPart())
}

// planned is how many items the rows that count items ask for.
func (s *Sheet) planned() int {
	var sum points.Points
	for _, r := range s.Rows {
		if !r.ByPoints {
			sum += r.Min
		}
	}
	return int(sum / points.One)
}

func (s *Sheet) blueprintPart() Part {
	if len(s.Rows) == 0 {
		return Part{"blueprint", "no rows", untouched}
	}
	return Part{"blueprint", fmt.Sprintf("%s, %s", desk.Plural(s.planned(), "item"), desk.Plural(len(s.Rows), "row")), done}
}

func (s *Sheet) linesPart() Part {
	n, planned := len(s.Lines), s.planned()
	lines := desk.Plural(n, "line")
	if s.Each < n {
		lines += fmt.Sprintf(", %d for each", s.Each)
	}
	switch {
	case n == 0:
		return Part{"lines", "none yet", untouched}
	case s.Assessment.State.IsSealed():
		return Part{"lines", lines + ", sealed", done}
	case s.Incomplete > 0:
		return Part{"lines", fmt.Sprintf("%s, %d incomplete", desk.Plural(n, "line"), s.Incomplete), wanting}
	case s.Unsettled > 0:
		return Part{"lines", fmt.Sprintf("%s, %d to mend", lines, s.Unsettled), wanting}
	case s.unconfirmed() > 0:
		return Part{"lines", fmt.Sprintf("%s, %d to confirm", desk.Plural(n, "line"), s.unconfirmed()), wanting}
	case s.Shortage > 0 || s.Excess > 0:
		return Part{"lines", fmt.Sprintf("%d of %s", s.Each, desk.Plural(planned, "line")), wanting}
	default:
		return Part{"lines", lines, done}
	}
}

// unconfirmed counts the own copies whose alignment nobody has looked at since.
func (s *Sheet) unconfirmed() int {
	n := 0
	for _, l := range s.Lines {
		if l.Unconfirmed {
			n++
		}
	}
	return n
}

func (s *Sheet) cutsPart() Part {
	switch {
	case s.BandSet == nil:
		return Part{"cuts", "no band set", untouched}
	case s.CutsFault != "" || s.Cuts != nil && len(s.Cuts.Cautions) > 0:
		return Part{"cuts", desk.Plural(len(s.BandSet.Bands), "band") + ", look again", wanting}
	default:
		return Part{"cuts", desk.Plural(len(s.BandSet.Bands), "band"), done}
	}
}

func (s *Sheet) settingsPart() Part {
	if s.Differs == 0 {
		return Part{"settings", "as usual", done}
	}
	if s.Differs == 1 {
		return Part{"settings", "1 differs", done}
	}
	return Part{"settings", fmt.Sprintf("%d differ", s.Differs), done}
}

func (s *Sheet) supportsPart() Part {
	if s.Supported == 0 {
		return Part{"supports", "nobody yet", untouched}
	}
	return Part{"supports", desk.Plural(s.Supported, "student"), done}
}

func (s *Sheet) distributionPart() Part {
	if len(s.Sittings) == 0 && s.Prepared > 0 {
		return Part{"distribution", desk.Plural(s.Prepared, "section") + ", not sent", wanting}
	}
	if len(s.Sittings) == 0 {
		return Part{"distribution", "not begun", untouched}
	}
	return Part{"distribution", "to " + desk.Plural(len(s.Sittings), "section"), done}
}

func (s *Sheet) roomsPart() Part {
	if len(s.Sittings) == 0 {
		return Part{"rooms", "", untouched}
	}
	doors := map[attempt.DoorState]int{}
	for _, g := range s.Sittings {
		doors[g.Door]++
	}
	if n := doors[attempt.Open] + doors[attempt.Held]; n > 0 {
		return Part{"rooms", fmt.Sprintf("%d open, %d waiting", n, doors[attempt.Waiting]), wanting}
	}
	return Part{"rooms", fmt.Sprintf("%d closed, %d waiting", doors[attempt.Closed], doors[attempt.Waiting]), done}
}

func (s *Sheet) resultsPart() Part {
	handedIn := 0
	for _, g := range s.Sittings {
		handedIn += g.Done
	}
	if handedIn == 0 {
		return Part{"results", "", untouched}
	}
	return Part{"results", fmt.Sprintf("%d handed in", handedIn), done}
}
