// Package support knows accommodations: what there is, what a student has and when it holds, what it does to how
// an assessment is given, and what an assessment cannot offer yet.
package support

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"pineledger/core/settings"
)

// Group is where a support stands in the catalog and in a matrix.
type Group string

// Groups, in the order of a matrix.
const (
	When      Group = "When"
	Shown     Group = "How it is shown"
	Answering Group = "Answering"
	Where     Group = "Where"
)

// Groups lists them.
var Groups = []Group{When, Shown, Answering, Where}

// By says who provides a support.
type By string

const (
	ByItself By = "program"
	ByPerson By = "person"
	OnPaper  By = "paper"
)

// Support is one entry of the catalog.
type Support struct {
	Key   string
	Group Group
	Name  string
	Short string // heads a column
	Does  string // for staff, a sentence
	By    By
	Kind  settings.Kind // of its value
	// Feature is its name in an Access for All profile of QTI 3; "" where the standard has none.
	Feature string
	// Needs says what it asks of the assessment, the device or the room; "" for nothing.
	Needs string
	// does turns how everyone works into how this student works; nil where the program does not do it by a setting.
	does func(v settings.Values, value json.RawMessage)
}

// Provided tells whether somebody must be named for it, or its paper made. A seat is only kept free.
func (s Support) Provided() bool { return s.By != ByItself && s.Key != Seat }

// Needed is how many people or papers a section needs for so many students with a support: one each, and one adult for a group.
func Needed(key string, students int) int {
	if key == SmallGroup {
		return min(students, 1)
	}
	return students
}

// Words say a value, "" where the name says it all.
func (s Support) Words(value json.RawMessage) string { return s.Kind.Words(value) }

// Check gives a value in its one form; the error is a sentence for the screen.
func (s Support) Check(value json.RawMessage) (json.RawMessage, error) {
	v, err := s.Kind.Check(value)
	if err == nil && s.empty(v) {
		err = settings.Refusal("Choose what of it.")
	}
	return v, err
}

// empty tells of a value that gives nothing.
func (s Support) empty(value json.RawMessage) bool {
	return string(value) == "[]" || string(value) == "false" || string(value) == `""`
}

var byKey = func() map[string]Support {
	out := map[string]Support{}
	for _, s := range Catalog {
		out[s.Key] = s
	}
	return out
}()

// ByKey gives a support; false where there is none.
func ByKey(key string) (Support, bool) {
	s, ok := byKey[key]
	return s, ok
}

// place is where a support stands in the catalog; what is not in it stands last.
func place(key string) int {
	if at, known := places[key]; known {
		return at
	}
	return len(Catalog)
}

var places = func() map[string]int {
	out := map[string]int{}
	for i, s := range Catalog {
		out[s.Key] = i
	}
	return out
}()

// Source is why a student has a support in a sitting.
type Source string

const (
	FromProfile Source = "profile"
	FromToday   Source = "today" // added for one sitting, with a reason
)

// Given is a support in force for one student in one sitting. It is kept with the terms of an attempt.
type Given struct {
	Key    string          `json:"key"`
	Value  json.RawMessage `json:"value"`
	Source Source          `json:"source"`
	// Apart tells that it breaks what is measured and was let with a reason: the result does not compare.
	Apart bool `json:"apart,omitempty"`
}

// Name is that of its support, its key where there is none.
func (g Given) Name() string {
	if s, ok := ByKey(g.Key); ok {
		return s.Name
	}
	return g.Key
}

// Said is a given support in words: its name, with its value where that says more.
func (g Given) Said() string {
	s, ok := ByKey(g.Key)
	if !ok {
		return g.Key
	}
	if words := s.Words(g.Value); words != "" {
		return fmt.Sprintf("%s: %s", s.Name, words)
	}
	return s.Name
}

// Apart tells whether a result with these supports does not compare.
func Apart(given []Given) bool {
	return slices.ContainsFunc(given, func(g Given) bool { return g.Apart })
}

// valueOf reads the checked value of a given support; the zero value without it.
func valueOf[T any](given []Given, key string) T {
	var out T
	for _, g := range given {
		if g.Key == key {
			if err := json.Unmarshal(g.Value, &out); err != nil {
				var zero T
				return zero
			}
		}
	}
	return out
}

// Has tells whether a support is among those given.
func Has(given []Given, key string) bool {
	return slices.ContainsFunc(given, func(g Given) bool { return g.Key == key })
}

// Values is how a student with supports works where everyone works as v says. A support never takes away what everyone
// has. shut are settings that a lock keeps accommodations from.
func Values(v settings.Values, given []Given, shut []string) settings.Values {
	if len(given) == 0 {
		return v
	}
	out := settings.Values{}
	for key, value := range v {
		out[key] = value
	}
	for _, g := range given {
		if s, ok := ByKey(g.Key); ok && s.does != nil && !Shut(g.Key, shut) {
			s.does(out, g.Value)
		}
	}
	return out
}

// Shut tells whether a lock keeps a support away, given the settings that are locked against accommodations.
func Shut(key string, shut []string) bool {
	return slices.ContainsFunc(changes[key], func(setting string) bool { return slices.Contains(shut, setting) })
}

// Short says a value for a narrow cell; "" where having it says all.
func Short(g Given) string {
	switch g.Key {
	case ExtraTime:
		v := text(g.Value)
		if v == Unlimited {
			return "∞"
		}
		return strings.NewReplacer(".25", "¼", ".5", "½", ".75", "¾").Replace(v)
	case ExtraMinutes, Breaks, SeveralDays:
		return string(g.Value)
	case InLanguage, Directions:
		return text(g.Value)
	}
	return ""
}
