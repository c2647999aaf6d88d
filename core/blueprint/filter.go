// Package blueprint compares what an assessment plans with what it holds.
package blueprint

import (
	"fmt"
	"slices"

	"pineledger/core/points"
)

// Kinds are all kinds of item that a filter may name (WORDS of the trade; not
// all of them can be written yet).
var Kinds = []string{
	"single-choice", "multiple-choice", "true-false", "order", "match", "sort", "spot", "number-line", "select-text",
	"text", "number", "menus", "box-table", "parts", "short-written", "extended-written", "examiner",
}

// Item is what a blueprint must know of an item or a line.
type Item struct {
	ID         string
	Standards  []string
	Kind       string
	Depth      int    // depth of knowledge, 1 to 4; 0 when not set
	Difficulty *int   // p-value in thousandths; nil when not known
	Language   string // "": no filter that names a language takes it
	Passage    string // "" when it hangs on none
	Points     points.Points
	Tags       []string
	Bank       string // name of the bank that it lies in, or comes from
	// What only a draw looks at.
	Uses    int      // how often it was given
	Key     string   // position of the key of a single choice; "" when it has none
	Enemies []string // items that it must not meet on a form
	Kin     string   // near copies have the same; at most one of them comes to a form. "": none
	Hold    bool     // on hold for somebody else
}

// Filter says which items serve a row. A nil part does not restrict.
type Filter struct {
	Standards  []string `json:"standards,omitempty"` // each with everything below it
	Kinds      []string `json:"kinds,omitempty"`
	Depth      []int    `json:"depth,omitempty"`
	Difficulty *[2]int  `json:"difficulty,omitempty"` // inclusive, in thousandths; items without one do not match
	Language   string   `json:"language,omitempty"`   // "" for any
	Tags       []string `json:"tags,omitempty"`       // all of them
	Without    []string `json:"without,omitempty"`    // none of them
	Banks      []string `json:"banks,omitempty"`      // from any of these
}

// A PlaceError tells which part of the input is refused and why.
type PlaceError struct{ Place, Reason string }

func (e *PlaceError) Error() string { return e.Place + ": " + e.Reason }

func refuse(place, format string, args ...any) error {
	return &PlaceError{place, fmt.Sprintf(format, args...)}
}

// Tree is a framework's standards: each code with the code above it, "" for a root.
type Tree struct{ parent map[string]string }

// Standard is one node of a tree.
type Standard struct{ Code, Parent string }

// NewTree checks that codes are given once, parents exist and nothing is above itself.
func NewTree(standards []Standard) (Tree, error) {
	t := Tree{map[string]string{}}
	for i, s := range standards {
		if s.Code == "" {
			return t, refuse(fmt.Sprintf("standards[%d].code", i), "is empty")
		}
		if _, twice := t.parent[s.Code]; twice {
			return t, refuse(fmt.Sprintf("standards[%d].code", i), "%q is given twice", s.Code)
		}
		t.parent[s.Code] = s.Parent
	}
	for i, s := range standards {
		place := fmt.Sprintf("standards[%d].parent", i)
		if s.Parent != "" && !t.Has(s.Parent) {
			return t, refuse(place, "%q is not in the tree", s.Parent)
		}
	}
	// Walk up from each code; what has been seen to end at a root is not walked again.
	sound := map[string]bool{"": true}
	for i, s := range standards {
		var way []string
		on := map[string]bool{}
		for at := s.Code; !sound[at]; at = t.parent[at] {
			if on[at] {
				return t, refuse(fmt.Sprintf("standards[%d].parent", i), "%q is above itself", at)
			}
			on[at] = true
			way = append(way, at)
		}
		for _, at := range way {
			sound[at] = true
		}
	}
	return t, nil
}

// Has tells whether a code is in the tree.
func (t Tree) Has(code string) bool { _, ok := t.parent[code]; return ok }

// Under tells whether a code is the other or anywhere below it.
func (t Tree) Under(code, top string) bool {
	for code != "" {
		if code == top {
			return true
		}
		code = t.parent[code]
	}
	return false
}

// Meets tells whether an item serves a filter.
func (t Tree) Meets(f Filter, it Item) bool {
	if f.Standards != nil && !slices.ContainsFunc(it.Standards, func(code string) bool {
		return slices.ContainsFunc(f.Standards, func(top string) bool { return t.Under(code, top) })
	}) {
		return false
	}
	if f.Difficulty != nil && (it.Difficulty == nil || *it.Difficulty < f.Difficulty[0] || *it.Difficulty > f.Difficulty[1]) {
		return false
	}
	for _, tag := range f.Tags {
		if !slices.Contains(it.Tags, tag) {
			return false
		}
	}
	for _, tag := range f.Without {
		if slices.Contains(it.Tags, tag) {
			return false
		}
	}
	return (f.Kinds == nil || slices.Contains(f.Kinds, it.Kind)) &&
		(f.Banks == nil || slices.Contains(f.Banks, it.Bank)) &&
		(f.Depth == nil || slices.Contains(f.Depth, it.Depth)) &&
		(f.Language == "" || f.Language == it.Language)
}

func (t Tree) checkFilter(place string, f Filter) error {
	for i, code := range f.Standards {
		if !t.Has(code) {
			return refuse(fmt.Sprintf("%s.standards[%d]", place, i), "%q is not in the tree", code)
		}
	}
	for i, k := range f.Kinds {
		if !slices.Contains(Kinds, k) {
			return refuse(fmt.Sprintf("%s.kinds[%d]", place, i), "%q is not a kind of item", k)
		}
	}
	for _, d := range f.Depth {
		if d < 1 || d > 4 {
			return refuse(place+".depth", "%d is not 1–4", d)
		}
	}
	if d := f.Difficulty; d != nil && (d[0] < 0 || d[1] > 1000 || d[0] > d[1]) {
		return refuse(place+".difficulty", "is not a range from 0 to 1")
	}
	lists := []struct {
		name  string
		empty bool
	}{
		{"standards", f.Standards != nil && len(f.Standards) == 0},
		{"kinds", f.Kinds != nil && len(f.Kinds) == 0},
		{"depth", f.Depth != nil && len(f.Depth) == 0},
		{"tags", f.Tags != nil && len(f.Tags) == 0},
		{"without", f.Without != nil && len(f.Without) == 0},
	}
	for _, l := range lists {
		if l.empty {
			return refuse(place+"."+l.name, "is empty; leave it out where nothing is asked")
		}
	}
	return nil
}
