// Package official holds the tables that a state publishes for its tests: how many raw points are which scale score
// and which band, for each test, grade and year.
package official

import (
	"fmt"
	"slices"

	"pineledger/core/band"
	"pineledger/core/points"
)

// Key says which test a table is for.
type Key struct {
	Test    string // as the state calls it; "" where the file does not say
	Subject string
	Grade   string // as in a roster: "06"
	Year    string // "2025–26"
}

// Row is one raw score.
type Row struct {
	Line  int // of the file, from 1
	Raw   points.Points
	Scale *points.Points // nil where the table has none
	Band  string         // "" where the table has none
}

// Table is one test's rows, from raw 0 up.
type Table struct {
	Key
	ID    int64 // where it is kept; 0 where it is not
	Rows  []Row
	Total *points.Points // as the file says it; nil where it does not
}

// Problem is why a table is refused, at the line that makes it so.
type Problem struct {
	Line   int
	Field  string
	Reason string
}

// Most is the highest raw score of the table.
func (t Table) Most() points.Points {
	if len(t.Rows) == 0 {
		return 0
	}
	return t.Rows[len(t.Rows)-1].Raw
}

// Check finds what no published table can have: raw scores that are there twice, fall or leave a gap, scale scores that fall, a band
// that begins again, a total that is another. It names the first of each line.
func (t Table) Check() []Problem {
	var out []Problem
	add := func(line int, field, format string, args ...any) {
		out = append(out, Problem{line, field, fmt.Sprintf(format, args...)})
	}
	if len(t.Rows) < 2 {
		add(0, "raw", "there are fewer than two raw scores")
		return out
	}
	if t.Rows[0].Raw != 0 {
		add(t.Rows[0].Line, "raw", "the first raw score is %s, and 0 is missing", t.Rows[0].Raw)
	}
	step := t.step()
	lines := map[points.Points]int{t.Rows[0].Raw: t.Rows[0].Line}
	bands := map[string]bool{t.Rows[0].Band: true}
	scaled := t.Rows[0].Scale != nil
	for i, r := range t.Rows[1:] {
		before := t.Rows[i]
		first, twice := lines[r.Raw]
		switch {
		case twice:
			add(r.Line, "raw", "the raw score %s is on line %d already", r.Raw, first)
		case r.Raw < before.Raw:
			add(r.Line, "raw", "the raw score falls from %s to %s", before.Raw, r.Raw)
		case r.Raw > before.Raw+step:
			add(r.Line, "raw", "the raw score %s is missing before %s", before.Raw+step, r.Raw)
		case (r.Scale != nil) != scaled:
			add(r.Line, "scale", "some rows have a scale score and some have none")
		case scaled && *r.Scale < *before.Scale:
			add(r.Line, "scale", "the scale score falls from %s to %s", before.Scale, r.Scale)
		case (r.Band == "") != (before.Band == ""):
			add(r.Line, "band", "some rows name a band and some do not")
		case r.Band != before.Band && bands[r.Band]:
			add(r.Line, "band", "the band %s begins again after %s", r.Band, before.Band)
		}
		lines[r.Raw] = r.Line
		bands[r.Band] = true
	}
	if last := t.Rows[len(t.Rows)-1]; t.Total != nil && len(out) == 0 && *t.Total != last.Raw {
		add(last.Line, "total", "the rows end at %s, and the total is given as %s", last.Raw, t.Total)
	}
	return out
}

// step is the smallest difference of two raw scores that follow each other, a whole point at most.
func (t Table) step() points.Points {
	step := points.One
	for i, r := range t.Rows[1:] {
		if d := r.Raw - t.Rows[i].Raw; d > 0 {
			step = min(step, d)
		}
	}
	return step
}

// Cut is where a band begins in a table.
type Cut struct {
	Band  string
	Raw   points.Points
	Of    points.Points  // the table's highest raw score
	Scale *points.Points // of that raw score
	Line  int            // of the file that it came from
}

// Cuts are the bands of a table after the first.
func (t Table) Cuts() []Cut {
	var out []Cut
	for i, r := range t.Rows {
		if i > 0 && r.Band != t.Rows[i-1].Band {
			out = append(out, Cut{r.Band, r.Raw, t.Most(), r.Scale, r.Line})
		}
	}
	return out
}

// On is the raw score that an official cut comes to on a form of another total, by its share of the points: exact, as
// a percent cut is.
func (c Cut) On(total, grain points.Points, rule band.Rule) points.Points {
	exact, unit := int64(c.Raw)*int64(total), int64(c.Of)*int64(grain)
	if rule == band.Nearest {
		return points.Points((2*exact+unit)/(2*unit)) * grain
	}
	return points.Points((exact+unit-1)/unit) * grain
}

// Percent is the cut's share of the table's points in hundredths of a percent, rounded half up.
func (c Cut) Percent() points.Points {
	return points.Points((2*10_000*int64(c.Raw) + int64(c.Of)) / (2 * int64(c.Of)))
}

// Off is a cut of a form that equals nothing official, with the official ones that are nearest to it: of bands of the
// same name where the tables have such, else of any.
type Off struct {
	Band    string        // of the form
	Raw     points.Points // of the form
	Nearest []Choice      // at most two, the nearer first
}

// Choice is an official cut as it would be on the form.
type Choice struct {
	Key
	Table int64
	Cut
	Here points.Points // the raw score on the form
	As   band.Cut      // as the form takes it; it names its row
}

// taken is an official cut as a form takes it, so that it follows where lines change: on the scale where the form's scores are
// converted, else as its share of the points. A share has two decimals; where neither way gives the exact share's score, it is that score.
func (c Choice) taken(cuts band.Cuts, rule band.Rule, conversion []band.Conversion) band.Cut {
	share := points.Points(10_000 * int64(c.Raw) / int64(c.Of))
	ways := []band.Cut{{Percent: &share}, {Percent: new(share + 1)}}
	if c.Scale != nil && len(conversion) > 0 {
		ways = slices.Insert(ways, 0, band.Cut{Scale: c.Scale})
	}
	out := band.Cut{Raw: &c.Here, Of: new(cuts.Total)}
	for _, way := range ways {
		if raw, ok := way.On(cuts.Total, cuts.Grain, rule, conversion); ok && raw == c.Here {
			out = way
			break
		}
	}
	out.Source = &band.Source{Table: c.Table, Raw: c.Raw}
	return out
}

// Differing finds the cuts of a form that equal no official cut, by rule, of the tables that are for it. conversion is the form's
// own, nil for none.
func Differing(cuts band.Cuts, rule band.Rule, conversion []band.Conversion, tables []Table) []Off {
	var choices []Choice
	for _, t := range tables {
		for _, c := range t.Cuts() {
			choice := Choice{Key: t.Key, Table: t.ID, Cut: c, Here: c.On(cuts.Total, cuts.Grain, rule)}
			choice.As = choice.taken(cuts, rule, conversion)
			choices = append(choices, choice)
		}
	}
	if len(choices) == 0 {
		return nil
	}
	var out []Off
	for i, s := range cuts.Starts {
		if i == 0 || s.Raw == nil || slices.ContainsFunc(choices, func(c Choice) bool { return c.Here == *s.Raw }) {
			continue
		}
		near := slices.DeleteFunc(slices.Clone(choices), func(c Choice) bool { return c.Cut.Band != s.Name })
		if len(near) == 0 {
			near = slices.Clone(choices)
		}
		slices.SortStableFunc(near, func(a, b Choice) int { return int(distance(a.Here, *s.Raw) - distance(b.Here, *s.Raw)) })
		off := Off{Band: s.Name, Raw: *s.Raw}
		for _, c := range near {
			if len(off.Nearest) < 2 && !slices.ContainsFunc(off.Nearest, func(o Choice) bool { return o.Here == c.Here }) {
				off.Nearest = append(off.Nearest, c)
			}
		}
		out = append(out, off)
	}
	return out
}

func distance(a, b points.Points) points.Points { return max(a-b, b-a) }
