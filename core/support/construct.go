package support

import (
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"pineledger/core/settings"
)

// Construct is a rule of the district: what a support would break.
type Construct struct {
	Support  string // key
	Part     string // of what is read, "" for all of it
	Subject  string // "" for every subject
	Standard string // lines aligned to it or to anything whose code begins with it; "" for all lines
	Why      string // a sentence
}

// Bounds of the district's rules.
const (
	MostRules    = 200
	mostWhy      = 200 // characters
	mostStandard = 60
)

// RuleFault tells what is wrong with one of the district's rules.
type RuleFault struct {
	Rule  int    // counted from 0; len(rules) where there are too many
	Field string // support, part, subject, standard or why
	Text  string
}

func (f *RuleFault) Error() string { return f.Text }

// CheckRules trims the district's rules and tells what is wrong with the first that cannot stand, as a *RuleFault: an unknown
// support, part or subject, no reason, or the same thing ruled twice.
func CheckRules(rules []Construct, subjects []string) ([]Construct, error) {
	if len(rules) > MostRules {
		return nil, &RuleFault{len(rules), "support", fmt.Sprintf("There can be at most %d rules.", MostRules)}
	}
	out := make([]Construct, len(rules))
	for i, r := range rules {
		r.Standard, r.Why = strings.TrimSpace(r.Standard), strings.TrimSpace(r.Why)
		one, known := ByKey(r.Support)
		_, inParts := one.Kind.(settings.Picks)
		fault := func(field, text string, args ...any) error { return &RuleFault{i, field, fmt.Sprintf(text, args...)} }
		switch {
		case !known:
			return nil, fault("support", "There is no such support.")
		case r.Part != "" && !inParts:
			return nil, fault("part", "%s is not read in parts.", one.Name)
		case r.Part != "" && !slices.Contains(ReadAll(), r.Part):
			return nil, fault("part", "There is no such part.")
		case r.Subject != "" && !slices.Contains(subjects, r.Subject):
			return nil, fault("subject", "%q is none of the district's subjects.", r.Subject)
		case utf8.RuneCountInString(r.Standard) > mostStandard:
			return nil, fault("standard", "A code has at most %d characters.", mostStandard)
		case r.Why == "":
			return nil, fault("why", "Say what it breaks; coordinators read it when they decide.")
		case utf8.RuneCountInString(r.Why) > mostWhy:
			return nil, fault("why", "Write at most %d characters.", mostWhy)
		}
		if slices.ContainsFunc(out[:i], r.sameAs) {
			return nil, fault("support", "%s stands here twice for the same part, subject and standard.", one.Name)
		}
		out[i] = r
	}
	return out, nil
}

// sameAs tells whether two rules are about the same thing, whatever their reasons.
func (r Construct) sameAs(other Construct) bool {
	r.Why, other.Why = "", ""
	return r == other
}

// Verdict is what of a support would break what is measured.
type Verdict struct {
	Why   string   // of each rule that is broken
	Parts []string // of what is read; none: the support as a whole
	Lines []int    // counted from 1
	// Rest tells that it may be given on all other lines, where nothing breaks.
	Rest bool
}

// Breaks tells what of a support would break what an assessment measures, by every rule that it meets; nil: nothing of it.
func (o Offer) Breaks(g Given, rules []Construct) *Verdict {
	var v Verdict
	var whys []string
	whole := false
	broken := func(why string, lines []int) {
		if !slices.Contains(whys, why) {
			whys = append(whys, why)
		}
		v.Lines = append(v.Lines, lines...)
	}
	withheld := o.linesWhere(func(l Line) bool { return l.withholds(g) })
	if lines := withheld; len(lines) > 0 {
		broken("Some of it is to be answered without.", lines)
	}
	for _, r := range rules {
		if r.Support != g.Key || r.Subject != "" && r.Subject != o.Subject || r.Part != "" && !slices.Contains(readParts(g.Value), r.Part) {
			continue
		}
		lines := o.linesWhere(r.takes)
		if len(lines) == 0 {
			continue
		}
		broken(r.Why, lines)
		whole = whole || r.Part == ""
		if r.Part != "" && !slices.Contains(v.Parts, r.Part) {
			v.Parts = append(v.Parts, r.Part)
		}
	}
	if len(whys) == 0 {
		return nil
	}
	if whole {
		v.Parts = nil
	}
	v.Rest = len(withheld) > 0 && len(withheld) < len(o.Lines) && len(whys) == 1
	slices.Sort(v.Lines)
	v.Lines = slices.Compact(v.Lines)
	v.Why = strings.Join(whys, " ")
	return &v
}

// withholds tells whether a line is answered without the tool that a support gives.
func (l Line) withholds(g Given) bool {
	return slices.ContainsFunc(changes[g.Key], func(tool string) bool { return slices.Contains(l.Without, tool) })
}

func (r Construct) takes(l Line) bool {
	if r.Part == settings.ReadPassages && l.Passage == "" {
		return false
	}
	return r.Standard == "" || slices.ContainsFunc(l.Standards, func(code string) bool { return strings.HasPrefix(code, r.Standard) })
}
