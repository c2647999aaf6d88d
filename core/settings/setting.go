package settings

import (
	"encoding/json"
	"fmt"
	"slices"
)

// Group is where a screen shows a setting.
type Group string

// Groups, in the order of a student's way through.
const (
	When     Group = "When they work"
	Door     Group = "At the door"
	Work     Group = "While they work"
	Tools    Group = "Tools for everyone"
	Tries    Group = "Tries and late work"
	Feedback Group = "What a student sees afterwards"
	Reports  Group = "In reports and on paper"
)

// Groups lists them.
var Groups = []Group{When, Door, Work, Tools, Tries, Feedback, Reports}

// Setting is one entry of the catalog.
type Setting struct {
	Key     string
	Group   Group
	Common  bool // among those asked about most
	Name    string
	Does    string // what it does, in a sentence
	Kind    Kind
	Default json.RawMessage // where no level says anything
	Levels  []Level         // where it may be set
	Begun   Begun           // what may still change once somebody has begun
}

// At tells whether the setting may be set at a level.
func (s Setting) At(level Level) bool { return slices.Contains(s.Levels, level) }

// Check gives a value in its one form; the error is a sentence for the screen.
func (s Setting) Check(value json.RawMessage) (json.RawMessage, error) { return s.Kind.Check(value) }

// Words say a value, or the default where there is none.
func (s Setting) Words(value json.RawMessage) string { return s.Kind.Words(s.orDefault(value)) }

func (s Setting) orDefault(value json.RawMessage) json.RawMessage {
	if value == nil {
		return s.Default
	}
	return value
}

// Same tells whether two values are one; nil stands for the default.
func (s Setting) Same(a, b json.RawMessage) bool {
	return string(s.orDefault(a)) == string(s.orDefault(b))
}

// Begun says how a setting may change once somebody has begun. The zero value lets it.
type Begun struct {
	more   func(before, after json.RawMessage) bool // nil: nothing or anything
	fixed  bool
	Reason string // why not, and the way that exists; a sentence
}

// Only what gives more may be changed to.
func only(reason string, more func(before, after json.RawMessage) bool) Begun {
	return Begun{more: more, fixed: true, Reason: reason}
}

// fixed lets nothing change.
func fixed(reason string) Begun { return Begun{fixed: true, Reason: reason} }

// Says is in words what may change once somebody has begun.
func (b Begun) Says() string {
	if b.Reason == "" {
		return "This may change at any time."
	}
	return b.Reason
}

// BegunError says why a value may not change any more.
type BegunError struct{ Setting Setting }

func (e *BegunError) Error() string {
	return fmt.Sprintf("%s: somebody has begun. %s", e.Setting.Name, e.Setting.Begun.Reason)
}

// MayBecome tells whether a value in force may become another after somebody has begun; the error is a *BegunError.
// nil stands for the default.
func (s Setting) MayBecome(before, after json.RawMessage) error {
	if s.Same(before, after) || !s.Begun.fixed {
		return nil
	}
	if s.Begun.more != nil && s.Begun.more(s.orDefault(before), s.orDefault(after)) {
		return nil
	}
	return &BegunError{s}
}

// What counts as more.

// moreTime: a longer limit, or none.
func moreTime(before, after json.RawMessage) bool {
	a, b := read[int](before), read[int](after)
	return b == 0 || a != 0 && b >= a
}

func moreNumber(before, after json.RawMessage) bool { return read[int](after) >= read[int](before) }

func lessNumber(before, after json.RawMessage) bool { return read[int](after) <= read[int](before) }

func switchedOn(_, after json.RawMessage) bool { return read[bool](after) }

func switchedOff(_, after json.RawMessage) bool { return !read[bool](after) }

// morePicked: all that was picked, and more.
func morePicked(before, after json.RawMessage) bool {
	now := read[[]string](after)
	return !slices.ContainsFunc(read[[]string](before), func(one string) bool { return !slices.Contains(now, one) })
}

// onward: an option further down the list.
func onward(options []Option) func(before, after json.RawMessage) bool {
	place := func(value json.RawMessage) int {
		return slices.IndexFunc(options, func(o Option) bool { return o.Value == read[string](value) })
	}
	return func(before, after json.RawMessage) bool { return place(after) >= place(before) }
}
