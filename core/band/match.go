package band

import (
	"fmt"
	"slices"
	"strings"

	"pineledger/core/roster"
)

// Scope is what a set of bands is for, or what bands are wanted for. What is empty is for any.
type Scope struct {
	Subject string
	Grades  []string // as in a roster: "06"
	Course  string
	Year    string
	Purpose string
}

// Match tells how well a set fits what is wanted.
type Match struct {
	Fits bool   // nothing that the set is for is something else
	How  int    // of two that fit the larger is nearer: it is for something more particular
	Why  string // "for mathematics, grade 6, 2026–27"; "for any" where the set is for everything
}

// For matches a set with what is wanted. A purpose weighs more than a year, that more than a course, a grade and
// a subject: a set for one purpose was made for it.
func (s Scope) For(want Scope) Match {
	grades := slices.DeleteFunc(slices.Clone(want.Grades), func(g string) bool { return !slices.Contains(s.Grades, g) })
	m := Match{Fits: true}
	var words []string
	for _, part := range []struct {
		set, met bool
		weight   int
		word     string
	}{
		{s.Subject != "", s.Subject == want.Subject, 1, s.Subject},
		{len(s.Grades) > 0, len(grades) > 0, 2, gradeWords(grades)},
		{s.Course != "", s.Course == want.Course, 4, s.Course},
		{s.Year != "", s.Year == want.Year, 8, s.Year},
		{s.Purpose != "", s.Purpose == want.Purpose, 16, s.Purpose},
	} {
		switch {
		case !part.set:
		case part.met:
			m.How += part.weight
			words = append(words, part.word)
		default:
			m.Fits = false
		}
	}
	if !m.Fits {
		return Match{}
	}
	m.Why = "for any"
	if len(words) > 0 {
		m.Why = "for " + strings.Join(words, ", ")
	}
	return m
}

func gradeWords(grades []string) string {
	if len(grades) == 0 {
		return ""
	}
	words := make([]string, len(grades))
	for i, g := range grades {
		words[i] = strings.TrimPrefix(roster.GradeName(g), "grade ")
	}
	if len(words) == 1 {
		return "grade " + words[0]
	}
	return "grades " + strings.Join(words, ", ")
}

// Changes says in sentences what a newer version of a set's bands would change.
func Changes(before, after []Band) []string {
	var out []string
	was := map[string]Band{}
	for _, b := range before {
		was[b.Name] = b
	}
	is := map[string]bool{}
	for _, b := range after {
		is[b.Name] = true
		old, there := was[b.Name]
		switch {
		case !there:
			out = append(out, fmt.Sprintf("%s is new, from %s.", b.Name, b.Cut))
		case old.Cut.String() != b.Cut.String():
			out = append(out, fmt.Sprintf("%s begins at %s instead of %s.", b.Name, b.Cut, old.Cut))
		}
	}
	for _, b := range before {
		if !is[b.Name] {
			out = append(out, fmt.Sprintf("%s is gone.", b.Name))
		}
	}
	if len(out) == 0 && !slices.EqualFunc(before, after, func(a, b Band) bool { return a.Name == b.Name }) {
		out = append(out, "The bands stand in another order.")
	}
	return out
}

// String says where a cut lies: "43%", "24 of 38 points", "560 on the scale"; "0" for the first band's.
func (c Cut) String() string {
	switch {
	case c.Percent != nil:
		return c.Percent.String() + "%"
	case c.Raw != nil && c.Of != nil:
		return fmt.Sprintf("%s of %s points", c.Raw, c.Of)
	case c.Raw != nil:
		return c.Raw.String() + " points"
	case c.Scale != nil:
		return c.Scale.String() + " on the scale"
	}
	return "0"
}
