package form

import (
	"pineledger/core/attempt"
	"pineledger/core/band"
	"pineledger/core/item"
	"pineledger/core/points"
)

// Mastery says how results are told standard by standard.
type Mastery struct {
	Set   string        `json:"set"`
	Least points.Points `json:"least"` // of a standard with fewer points nothing is told
	Rule  band.Rule     `json:"rule"`
	Bands []band.Band   `json:"bands"` // their cuts are percents
}

// LeastOf is the least number of points of a standard from which mastery is told where nobody says another.
const LeastOf = 3 * points.One

// name is what a set of mastery is called among changes.
func (m *Mastery) name() string {
	if m == nil {
		return "none"
	}
	return m.Set
}

// Told is a standard with what can be told of it.
type Told struct {
	Standard
	Lines  []int         // places of the lines aligned to it or to anything under it that every student gets, rising
	Points points.Points // of those lines
	Cuts   *band.Cuts    // nil where the points are too few
}

// Tells gives, in the order of the form, each standard that a line is aligned to or lies under, with what can be told of its mastery; one
// that holds all lines is the form itself and is left out. A line that is aligned to two standards counts in full in both. Lines of a
// pool do not come to everybody and are not counted on. Errors are *band.PlaceError.
func (f Form) Tells() ([]Told, error) {
	if f.Mastery == nil {
		return nil, nil
	}
	above := map[string]string{}
	for _, s := range f.Standards {
		above[s.Code] = s.Parent
	}
	var out []Told
	whole := map[string]bool{}
	for code := f.Top(); code != ""; code = above[code] {
		whole[code] = true
	}
	for _, s := range f.Standards {
		if whole[s.Code] {
			continue
		}
		told := Told{Standard: s}
		var lines []band.Line
		for i, l := range f.Lines {
			if l.Pool == 0 && anyUnder(above, l.Standards, s.Code) {
				told.Lines = append(told.Lines, i)
				told.Points += l.Points
				lines = append(lines, band.Line{Points: l.Points, Step: l.Item.Step(l.Points)})
			}
		}
		if told.Points >= f.Mastery.Least && told.Points > 0 {
			cuts, err := band.Compute(band.Form{Lines: lines, Rule: f.Mastery.Rule, Bands: f.Mastery.Bands})
			if err != nil {
				return nil, err
			}
			told.Cuts = &cuts
		}
		out = append(out, told)
	}
	return out, nil
}

// Of is what a student earned on the lines of a standard, and the band that is; ok is false where nothing can be told, or a line waits for
// its reader. credits are line by line.
func (t Told) Of(credits []attempt.LineCredit) (earned points.Points, at int, ok bool) {
	if t.Cuts == nil {
		return 0, 0, false
	}
	for _, l := range t.Lines {
		if credits[l].Outcome == item.Unread {
			return 0, 0, false
		}
		earned += credits[l].Credit
	}
	at, err := t.Cuts.Of(earned)
	return earned, at, err == nil
}
