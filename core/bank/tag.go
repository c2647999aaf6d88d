package bank

import (
	"slices"
	"strings"
	"unicode/utf8"

	"pineledger/core/roster"
)

// TagScope is for whom a tag exists. Outside it a tag neither shows nor matches.
type TagScope string

const (
	ForEveryone TagScope = "everyone"
	ForSchool   TagScope = "school"
	ForCourse   TagScope = "course" // those who teach a section of it
	ForPerson   TagScope = "person"
)

// Tag is what rights to a tag depend on. ScopeID is the school's, course's or
// person's id, 0 for everyone.
type Tag struct {
	Scope   TagScope
	ScopeID int64
}

// SeesTag tells whether a tag exists for a person.
func SeesTag(v roster.Viewer, t Tag) bool {
	if !v.MayReadKeys() {
		return false
	}
	switch t.Scope {
	case ForEveryone:
		return true
	case ForSchool:
		return v.WorksAt(t.ScopeID)
	case ForCourse:
		return v.Scope().District || slices.Contains(v.Courses, t.ScopeID)
	}
	return t.Scope == ForPerson && t.ScopeID == v.PersonID
}

// MayTag tells whether a person may put such a tag on an item, or take it off:
// who sees it, and for everyone's tags who builds.
func MayTag(v roster.Viewer, t Tag) bool {
	return SeesTag(v, t) && (t.Scope != ForEveryone || v.MayBuild())
}

// MayRename tells whether a person may rename or merge a tag wherever it stands:
// one's own, and as a coordinator of its school, or of the district.
func MayRename(v roster.Viewer, t Tag) bool {
	s := v.Scope()
	switch t.Scope {
	case ForPerson:
		return SeesTag(v, t)
	case ForSchool:
		return s.District || slices.Contains(s.Schools, t.ScopeID)
	}
	return s.District
}

// MostTagLetters bounds a tag's name.
const MostTagLetters = 40

// TagName brings a typed tag into the form in which tags are kept: lower-case
// words joined by hyphens, at most MostTagLetters letters. Nothing is left of a
// text without letters or digits.
func TagName(typed string) string {
	words := strings.FieldsFunc(strings.ToLower(typed), func(r rune) bool { return strings.ContainsRune(" \t\r\n\u00a0,;-", r) })
	name := strings.Join(words, "-")
	for utf8.RuneCountInString(name) > MostTagLetters {
		name = string([]rune(name)[:MostTagLetters])
	}
	return strings.Trim(name, "-")
}

// TagNames parts a typed text at commas and semicolons, each name once.
func TagNames(typed string) []string {
	out := []string{}
	for _, part := range strings.FieldsFunc(typed, func(r rune) bool { return r == ',' || r == ';' }) {
		if name := TagName(part); name != "" && !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	return out
}
