package support

import (
	"fmt"
	"strings"

	"pineledger/core/settings"
)

// Mend is what would close a gap.
type Mend string

const (
	MendLines    Mend = "lines"    // change or swap lines, in a new edition
	MendHours    Mend = "hours"    // longer hours or a longer window
	MendDays     Mend = "days"     // let the student go on another day
	MendAllow    Mend = "allow"    // with a reason; the result is marked
	MendWithout  Mend = "without"  // give it without what breaks
	MendName     Mend = "name"     // name who provides it
	MendMade     Mend = "made"     // note that it is made
	MendUnlock   Mend = "unlock"   // a lock in the settings
	MendContinue Mend = "continue" // the profile: another value
)

// Gap is what an assessment cannot give a student yet.
type Gap struct {
	Key    string // of the support
	Title  string // what is missing, a few words
	Detail string // a sentence
	Mends  []Mend
	Lines  []int // counted from 1
	// Still tells that the student gets the support, but for what is missing.
	Still bool
}

// Standing is what is known of a student's sitting beside the supports themselves.
type Standing struct {
	Times    Times
	Shut     []string // settings that are locked against accommodations
	Rules    []Construct
	Rulings  map[string]Ruling
	Provided func(key string) bool // whether somebody is named, or the paper is made
}

// Gaps tells what of a student's supports is not possible yet, in the order given.
func (o Offer) Gaps(given []Given, s Standing) []Gap {
	var out []Gap
	for _, g := range given {
		one, known := ByKey(g.Key)
		if !known {
			continue
		}
		if Shut(g.Key, s.Shut) {
			out = append(out, Gap{Key: g.Key, Title: one.Name + " is locked", Detail: "A lock in the settings holds for accommodations too.", Mends: []Mend{MendUnlock}})
			continue
		}
		if verdict := o.Breaks(g, s.Rules); verdict != nil && s.Rulings[g.Key] == "" {
			mends := []Mend{MendAllow, MendWithout}
			out = append(out, Gap{Key: g.Key, Title: breaking(one, verdict), Detail: verdict.Why, Mends: mends, Lines: verdict.Lines, Still: verdict.Rest || len(verdict.Parts) > 0 && len(readParts(g.Value)) > len(verdict.Parts)})
			continue
		}
		out = append(out, o.missing(one, g, given, s)...)
	}
	return out
}

func breaking(s Support, v *Verdict) string {
	if len(v.Parts) > 0 {
		return fmt.Sprintf("%s: %s", s.Name, strings.Join(v.Parts, ", "))
	}
	return s.Name + " where it is measured"
}

// missing is what a support asks for and does not find.
func (o Offer) missing(one Support, g Given, given []Given, s Standing) []Gap {
	switch g.Key {
	case ExtraTime, ExtraMinutes:
		return tooShort(one, given, s)
	case SeveralDays:
		var days int
		if n := s.Times.Days; n > 0 {
			days = valueOf[int](given, SeveralDays)
			if days > n {
				return []Gap{{Key: g.Key, Title: "Too few days", Detail: fmt.Sprintf("%d days are needed; the window has %d.", days, n), Mends: []Mend{MendHours}, Still: true}}
			}
		}
		return nil
	case InLanguage:
		return o.untranslated(text(g.Value))
	case Directions:
		if to := text(g.Value); to != "es" && to != o.Language {
			return []Gap{{Key: g.Key, Title: "No directions in " + LanguageName(to), Detail: "The student's screen speaks English and Spanish.", Mends: []Mend{MendName}}}
		} else if o.Instructions && to != o.Language {
			return []Gap{{Key: g.Key, Title: "Its own instructions in one language", Detail: "The screen is in " + LanguageName(to) + "; the instructions of this assessment are not.", Mends: []Mend{MendName}, Still: true}}
		}
		return nil
	case ReadAloud:
		if lines := o.linesWhere(func(l Line) bool { return l.NoWords }); len(lines) > 0 {
			return []Gap{{Key: g.Key, Title: "No words for the picture of " + linesSaid(lines), Detail: "It cannot be read aloud.", Mends: []Mend{MendLines}, Lines: lines, Still: true}}
		}
		if o.Book {
			return []Gap{{Key: g.Key, Title: "A document cannot be read aloud", Detail: "Only the questions beside it are.", Mends: []Mend{MendName}, Still: true}}
		}
		return nil
	case Glossary:
		if len(o.linesWhere(func(l Line) bool { return l.Glossary })) == 0 {
			return []Gap{{Key: g.Key, Title: "No line has a glossary", Detail: "There is nothing to explain words with.", Mends: []Mend{MendLines}}}
		}
		return nil
	}
	if one.Provided() && s.Provided != nil && !s.Provided(g.Key) {
		if one.By == OnPaper {
			return []Gap{{Key: g.Key, Title: one.Name + " not made", Detail: "Make it before the day.", Mends: []Mend{MendMade}}}
		}
		return []Gap{{Key: g.Key, Title: "Nobody is named: " + lower(one.Name), Detail: "Name who provides it.", Mends: []Mend{MendName}}}
	}
	return nil
}

// tooShort tells where a window or its longest day does not hold what a student is allowed.
func tooShort(one Support, given []Given, s Standing) []Gap {
	need := Needs(s.Times, given, s.Shut)
	switch {
	case need == 0 || s.Times.Total == 0 || one.Key == ExtraMinutes && Has(given, ExtraTime):
		return nil
	case need > s.Times.Total:
		return []Gap{{Key: one.Key, Title: "The window is too short", Detail: fmt.Sprintf("%d minutes are needed; the window holds %d.", need, s.Times.Total), Mends: []Mend{MendHours}}}
	case need > s.Times.Longest && !Has(given, SeveralDays):
		return []Gap{{Key: one.Key, Title: "No day is long enough", Detail: fmt.Sprintf("%d minutes are needed; a day has %d.", need, s.Times.Longest), Mends: []Mend{MendDays, MendHours}, Still: true}}
	}
	return nil
}

// untranslated names what is not there in a language.
func (o Offer) untranslated(language string) []Gap {
	if language == o.Language {
		return nil
	}
	name := LanguageName(language)
	var out []Gap
	lines := o.linesWhere(func(l Line) bool {
		for _, has := range l.Languages {
			if has == language {
				return false
			}
		}
		return true
	})
	if len(lines) > 0 {
		out = append(out, Gap{Key: InLanguage, Title: fmt.Sprintf("No %s text for %s", name, linesSaid(lines)), Detail: fmt.Sprintf("%s has %d of %d lines.", name, len(o.Lines)-len(lines), len(o.Lines)),
			Mends: []Mend{MendLines}, Lines: lines, Still: len(lines) < len(o.Lines)})
	}
	n := 0
	for _, p := range o.Passages {
		if p.Language != language {
			n++
		}
	}
	if n > 0 {
		out = append(out, Gap{Key: InLanguage, Title: fmt.Sprintf("Passages not in %s", name), Detail: fmt.Sprintf("%d of %d passages stay in %s.", n, len(o.Passages), LanguageName(o.Language)), Mends: []Mend{MendLines}, Still: true})
	}
	return out
}

// Lacks says in a few words each what of an assessment is not written in a language.
func (o Offer) Lacks(language string) []string {
	var out []string
	for _, g := range o.untranslated(language) {
		out = append(out, g.Title)
	}
	return out
}

// linesSaid names a few lines, and counts many.
func linesSaid(lines []int) string {
	switch n := len(lines); {
	case n == 1:
		return fmt.Sprintf("line %d", lines[0])
	case n <= 4:
		words := make([]string, n)
		for i, l := range lines {
			words[i] = fmt.Sprint(l)
		}
		return "lines " + strings.Join(words[:n-1], ", ") + " and " + words[n-1]
	default:
		return fmt.Sprintf("%d lines", n)
	}
}

func lower(s string) string { return strings.ToLower(s[:1]) + s[1:] }

// ReadAll are the parts that can be read aloud.
func ReadAll() []string {
	var out []string
	for _, o := range settings.ReadParts {
		out = append(out, o.Value)
	}
	return out
}
