// Package band turns cut scores into raw scores on a form and raw scores into
// performance bands.
//
// A cut begins a band and is inclusive. Percent cuts are derived from the form's
// total in integers; raw cuts are kept as given; scale cuts go through the form's
// conversion table. Nothing is silently mended: what a reader of results ought to
// know comes back as cautions beside the cuts.
package band

import (
	"errors"
	"fmt"
	"math"
	"slices"

	"pineledger/core/points"
)

// Rule says which reachable raw score a percent cut becomes.
type Rule string

const (
	// AtLeast takes the smallest reachable raw score that is no less than the
	// percent of the total. It is the default.
	AtLeast Rule = "atLeast"
	// Nearest takes the reachable raw score nearest to it, halves upward.
	Nearest Rule = "nearest"
)

// Line is what a cut must know of a form's line.
type Line struct {
	Points    points.Points // above 0
	Step      points.Points // smallest change of its credit; 0 means Points
	Void      bool          // leaves both sides of every score
	CreditAll bool          // credited to all: stays in the total
}

// Cut is where a band begins. Exactly one of Percent, Raw and Scale is set; the
// first band of a set has none and begins at 0.
type Cut struct {
	Percent *points.Points `json:"percent,omitempty"` // hundredths of a percent, 0 to 100
	Raw     *points.Points `json:"raw,omitempty"`     // nil where the cut is no number of points
	Of      *points.Points `json:"of,omitempty"`      // the total that Raw was set for, when known
	Scale   *points.Points `json:"scale,omitempty"`   // nil where the cut is on no other scale
	Source  *Source        `json:"source,omitempty"`  // what it was taken from; nil where somebody set it
}

// Source is a row of an official table.
type Source struct {
	Table int64         `json:"table"` // as it is kept
	Raw   points.Points `json:"raw"`
}

func (c Cut) none() bool { return c.Percent == nil && c.Raw == nil && c.Scale == nil }

// Band is a named stretch of scores.
type Band struct {
	Name string `json:"name"`
	Cut  Cut    `json:"cut"`
}

// Conversion is one row of a raw-to-scale table.
type Conversion struct {
	Raw   points.Points `json:"raw"`
	Scale points.Points `json:"scale"`
}

// Form is all that the cuts of a form are computed from.
type Form struct {
	Lines      []Line
	Rule       Rule // "" means AtLeast
	Conversion []Conversion
	Bands      []Band
}

// Start is where a band begins on a form. Raw is nil when no score is in it.
type Start struct {
	Name          string
	Raw           *points.Points // nil where the cut cannot be told in points
	PercentTenths *int64         // tenths of a percent of the total, for display
	Scale         *points.Points // of that raw score; nil without a conversion
}

// CautionKind names what a person should look at before using the cuts.
type CautionKind string

const (
	SameRaw     CautionKind = "sameRaw"     // two or more bands begin at one raw score
	AboveTotal  CautionKind = "aboveTotal"  // no score can reach the band
	Unreachable CautionKind = "unreachable" // the cut is no score of this form
	OtherTotal  CautionKind = "otherTotal"  // a raw cut was set for another total
	Order       CautionKind = "order"       // a band begins below the one before it
)

// Caution names one kind of trouble and the bands it touches, in order.
type Caution struct {
	Kind  CautionKind
	Bands []string
}

// Cuts is the answer: the form's total and grain and where each band begins.
type Cuts struct {
	Total    points.Points
	Grain    points.Points // greatest common divisor of the steps
	Starts   []Start
	Cautions []Caution
}

// A PlaceError tells which part of the input is refused and why.
type PlaceError struct {
	Place  string
	Reason string
}

func (e *PlaceError) Error() string { return e.Place + ": " + e.Reason }

func refuse(place, format string, args ...any) error {
	return &PlaceError{Place: place, Reason: fmt.Sprintf(format, args...)}
}

// ErrScore is given for a score that the form cannot hold.
var ErrScore = errors.New("is not between 0 and the total")

// Compute checks the form and gives its cuts. Errors are *PlaceError.
func Compute(f Form) (Cuts, error) {
	total, grain, err := totals(f.Lines)
	if err != nil {
		return Cuts{}, err
	}
	if f.Rule != "" && f.Rule != AtLeast && f.Rule != Nearest {
		return Cuts{}, refuse("rule", "%q is not atLeast or nearest", f.Rule)
	}
	if err := checkConversion(f.Conversion, total, grain); err != nil {
		return Cuts{}, err
	}
	if err := checkBands(f.Bands, f.Conversion != nil); err != nil {
		return Cuts{}, err
	}
	out := Cuts{Total: total, Grain: grain}
	for i, b := range f.Bands {
		start := Start{Name: b.Name}
		if raw, ok := b.Cut.On(total, grain, f.Rule, f.Conversion); ok || i == 0 {
			tenths := points.Tenths(raw, total)
			start.Raw, start.PercentTenths = &raw, &tenths
			start.Scale = ScaleOf(f.Conversion, raw)
		}
		out.Starts = append(out.Starts, start)
	}
	out.Cautions = cautions(f.Bands, out)
	return out, nil
}

func totals(lines []Line) (total, grain points.Points, err error) {
	for i, l := range lines {
		step := l.Step
		if step == 0 {
			step = l.Points
		}
		switch {
		case l.Points <= 0:
			return 0, 0, refuse(fmt.Sprintf("lines[%d].points", i), "%s is not above 0", l.Points)
		case step < 0 || l.Points%step != 0:
			return 0, 0, refuse(fmt.Sprintf("lines[%d].step", i), "%s does not divide %s points", step, l.Points)
		case l.Void && l.CreditAll:
			return 0, 0, refuse(fmt.Sprintf("lines[%d]", i), "a line cannot be void and credited to all")
		}
		if l.Void {
			continue
		}
		total += l.Points
		grain = points.GCD(grain, step)
	}
	if total == 0 {
		return 0, 0, refuse("lines", "no line is left to score")
	}
	return total, grain, nil
}

func checkConversion(table []Conversion, total, grain points.Points) error {
	if table == nil {
		return nil
	}
	next := points.Points(0)
	for i, row := range table {
		place := fmt.Sprintf("conversion[%d]", i)
		switch {
		case i > 0 && row.Raw <= table[i-1].Raw:
			return refuse(place+".raw", "%s does not rise", row.Raw)
		case row.Raw%grain != 0:
			return refuse(place+".raw", "%s is not a multiple of the grain %s", row.Raw, grain)
		case row.Raw > total:
			return refuse(place+".raw", "%s is above the total %s", row.Raw, total)
		case row.Raw != next:
			return refuse(place+".raw", "%s is missing before %s", next, row.Raw)
		case i > 0 && row.Scale < table[i-1].Scale:
			return refuse(place+".scale", "%s falls below %s", row.Scale, table[i-1].Scale)
		}
		next = row.Raw + grain
	}
	if next <= total {
		return refuse("conversion", "the raw score %s is missing", next)
	}
	return nil
}

func checkBands(bands []Band, hasConversion bool) error {
	if len(bands) == 0 {
		return refuse("bands", "at least one band is needed")
	}
	seen := map[string]bool{}
	for i, b := range bands {
		place := fmt.Sprintf("bands[%d]", i)
		switch {
		case b.Name == "":
			return refuse(place+".name", "a band needs a name")
		case seen[b.Name]:
			return refuse(place+".name", "%q is used twice", b.Name)
		case i == 0 && !b.Cut.none():
			return refuse(place+".cut", "the first band begins at 0 and has no cut")
		case i > 0 && b.Cut.none():
			return refuse(place+".cut", "a cut is missing")
		}
		seen[b.Name] = true
		if err := checkCut(place+".cut", b.Cut, hasConversion); err != nil {
			return err
		}
	}
	return nil
}

func checkCut(place string, c Cut, hasConversion bool) error {
	given := 0
	for _, v := range []*points.Points{c.Percent, c.Raw, c.Scale} {
		if v != nil {
			given++
		}
	}
	switch {
	case given > 1:
		return refuse(place, "give one of percent, raw and scale")
	case c.Percent != nil && (*c.Percent < 0 || *c.Percent > 100*points.One):
		return refuse(place+".percent", "%s is not between 0 and 100", *c.Percent)
	case c.Raw != nil && *c.Raw < 0:
		return refuse(place+".raw", "%s is negative", *c.Raw)
	case c.Scale != nil && *c.Scale < 0:
		return refuse(place+".scale", "%s is negative", *c.Scale)
	case c.Scale != nil && !hasConversion:
		return refuse(place+".scale", "a scale cut needs a conversion table")
	case c.Of != nil && c.Raw == nil:
		return refuse(place+".of", "only a raw cut names its total")
	case c.Of != nil && *c.Of <= 0:
		return refuse(place+".of", "%s is not above 0", *c.Of)
	}
	return nil
}

// On gives the raw score at which the cut lies on a form of that total and grain; ok is false where no score reaches it.
func (c Cut) On(total, grain points.Points, rule Rule, conversion []Conversion) (raw points.Points, ok bool) {
	switch {
	case c.Percent != nil:
		return percentCut(*c.Percent, total, grain, rule), true
	case c.Raw != nil:
		return *c.Raw, true
	case c.Scale != nil:
		for _, row := range conversion {
			if row.Scale >= *c.Scale {
				return row.Raw, true
			}
		}
		return 0, false
	}
	return 0, false
}

// ScaleOf is the scale score of a raw score; nil where the conversion has none for it, as for a mean between two scores.
func ScaleOf(table []Conversion, raw points.Points) *points.Points {
	for _, row := range table {
		if row.Raw == raw {
			return &row.Scale
		}
	}
	return nil
}

// percentCut works on p·T and grain·100·100, all integers: percent is in
// hundredths of a percent, so p·T/100 hundredths of a point is percent·total/10000.
func percentCut(percent, total, grain points.Points, rule Rule) points.Points {
	exact := int64(percent) * int64(total)
	unit := int64(grain) * 10_000
	if rule == Nearest {
		return points.Points((2*exact+unit)/(2*unit)) * grain
	}
	return points.Points((exact+unit-1)/unit) * grain
}

// cautions come kind by kind, within a kind in the order of the bands.
func cautions(bands []Band, c Cuts) []Caution {
	out := sameRaw(c.Starts)
	var above, unreachable, otherTotal, order []Caution
	for i, start := range c.Starts {
		switch {
		case start.Raw == nil || *start.Raw > c.Total:
			above = append(above, Caution{AboveTotal, []string{start.Name}})
		case *start.Raw%c.Grain != 0:
			unreachable = append(unreachable, Caution{Unreachable, []string{start.Name}})
		}
		if of := bands[i].Cut.Of; of != nil && *of != c.Total {
			otherTotal = append(otherTotal, Caution{OtherTotal, []string{start.Name}})
		}
		if i == 0 || start.Raw == nil || c.Starts[i-1].Raw == nil {
			continue // a band that no score reaches begins nowhere
		}
		if *start.Raw < *c.Starts[i-1].Raw {
			order = append(order, Caution{Order, []string{c.Starts[i-1].Name, start.Name}})
		}
	}
	return slices.Concat(out, above, unreachable, otherTotal, order)
}

func sameRaw(starts []Start) []Caution {
	var out []Caution
	told := map[points.Points]bool{}
	for i, first := range starts {
		if first.Raw == nil || told[*first.Raw] {
			continue
		}
		names := []string{first.Name}
		for _, other := range starts[i+1:] {
			if other.Raw != nil && *other.Raw == *first.Raw {
				names = append(names, other.Name)
			}
		}
		if len(names) > 1 {
			told[*first.Raw] = true
			out = append(out, Caution{SameRaw, names})
		}
	}
	return out
}

// Rounded gives the whole points that cuts in parts of points round up to, one for each band: nil where the
// cut is a whole number of points already, or no such score can be reached.
func (c Cuts) Rounded() []*points.Points {
	out := make([]*points.Points, len(c.Starts))
	for i, s := range c.Starts {
		if s.Raw == nil || *s.Raw%points.One == 0 {
			continue
		}
		up := (*s.Raw + points.One - 1) / points.One * points.One
		if up <= c.Total && up%c.Grain == 0 {
			out[i] = &up
		}
	}
	return out
}

// Of gives the index of the band that holds a score: the last in order whose
// beginning is no more than the score. It fails with ErrScore outside 0…total.
func (c Cuts) Of(score points.Points) (int, error) {
	if score < 0 || score > c.Total {
		return 0, ErrScore
	}
	at := 0
	for i, start := range c.Starts {
		if start.Raw != nil && *start.Raw <= score {
			at = i
		}
	}
	return at, nil
}

// slack is what a sum of floats may miss of a score that it meets exactly, in grains.
const slack = 1e-9

// Reached is the raw score that an expected one, in points, becomes by the rule: the smallest multiple of the grain that is no less, or the
// nearest, halves upward.
func Reached(expected float64, grain points.Points, rule Rule) points.Points {
	grains := expected * 100 / float64(grain)
	if rule == Nearest {
		return points.Points(math.Floor(grains+0.5+slack)) * grain
	}
	return points.Points(math.Ceil(grains-slack)) * grain
}
