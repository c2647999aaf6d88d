// Package form is a sealed edition of an assessment: all that its results are
// computed from, in one document that never changes.
package form

import (
	"cmp"
	"encoding/json"
	"fmt"
	"slices"

	"pineledger/core/attempt"
	"pineledger/core/band"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/settings"
)

// Schema is the version of the document that this package writes.
const Schema = 1

// Form is a sealed edition.
type Form struct {
	Schema       int         `json:"schema"`
	Title        string      `json:"title"`
	ShortTitle   string      `json:"shortTitle"` // "" for none
	Instructions string      `json:"instructions"`
	Subject      string      `json:"subject"`
	Grades       []string    `json:"grades"`
	Language     string      `json:"language"`
	Edition      int         `json:"edition"` // from 1
	Lines        []Line      `json:"lines"`
	Passages     []Passage   `json:"passages"`
	Standards    []Standard  `json:"standards"` // those of the lines and all above them
	BandSet      string      `json:"bandSet"`   // "" without bands
	Rule         band.Rule   `json:"rule"`      // "" means AtLeast
	Bands        []band.Band `json:"bands"`
	Mastery      *Mastery    `json:"mastery,omitempty"`
	// Reported are the values that are reported for ranges of scores; none where scores speak for themselves.
	Reported []band.Reported `json:"reported,omitempty"`
	// Conversion says which raw score is which on another scale; none where there is no such scale.
	Conversion []band.Conversion `json:"conversion,omitempty"`
	Document   *Document         `json:"document,omitempty"` // that the lines are questions of
	Layout                       // parts and pools
}

// Document is a document that students read beside their answers.
type Document struct {
	Name  string `json:"name"`
	Hash  string `json:"hash"` // SHA-256 of its data
	Pages int    `json:"pages"`
}

// Line is an item at its place, with the version that was sealed.
type Line struct {
	Identifier string        `json:"identifier"`
	ItemID     int64         `json:"itemId"`
	VersionID  int64         `json:"versionId"`
	Version    int           `json:"version"`
	Points     points.Points `json:"points"`
	Standards  []string      `json:"standards"`
	Passage    string        `json:"passage"`            // identifier, "" without one
	Difficulty *int          `json:"difficulty"`         // thousandths; nil for not known
	Depth      int           `json:"depth"`              // 0 for not set
	Part       int           `json:"part,omitempty"`     // counted from 1, 0 for none
	Pool       int           `json:"pool,omitempty"`     // counted from 1, 0 for none
	Without    []string      `json:"without,omitempty"`  // the tools that it is answered without, of settings.OfLines
	Language   string        `json:"language,omitempty"` // of the item, a code of BCP 47; Read fills in the form's where a form says none
	Item       item.Item     `json:"item"`
}

// Passage is a text that lines hang on.
type Passage struct {
	Identifier string `json:"identifier"`
	Title      string `json:"title"`
	Body       string `json:"body"`
	Language   string `json:"language,omitempty"` // as of Line
}

// Standard is a node of the tree that the lines are aligned to.
type Standard struct {
	Code   string `json:"code"`
	Text   string `json:"text"`
	Parent string `json:"parent"` // code, "" for a root
}

// Read parses a sealed document.
func Read(document []byte) (Form, error) {
	var f Form
	if err := json.Unmarshal(document, &f); err != nil {
		return f, fmt.Errorf("sealed form: %w", err)
	}
	if f.Schema != Schema {
		return f, fmt.Errorf("sealed form has schema %d; this program reads %d", f.Schema, Schema)
	}
	for i, l := range f.Lines {
		f.Lines[i].Language = cmp.Or(l.Language, f.Language)
	}
	for i, p := range f.Passages {
		f.Passages[i].Language = cmp.Or(p.Language, f.Language)
	}
	return f, nil
}

// Placed is what the form's layout must know of its lines.
func (f Form) Placed() []Placed {
	out := make([]Placed, len(f.Lines))
	for i, l := range f.Lines {
		out[i] = Placed{Part: l.Part, Pool: l.Pool, Passage: l.Passage, Points: l.Points, Step: l.Item.Step(l.Points)}
	}
	return out
}

// Given are the places in Lines that the attempt with a seed gets; nil for all.
func (f Form) Given(seed int64) []int { return f.Layout.Given(f.Placed(), seed) }

// Withheld are the tools that a line, counted from 0, is answered without: its own, and a calculator in a part that has none where
// another part has one.
func (f Form) Withheld(at int) []string {
	l := f.Lines[at]
	out := slices.Clone(l.Without)
	calculators := slices.ContainsFunc(f.Parts, func(p Part) bool { return p.Calculator })
	if calculators && (l.Part == 0 || !f.Parts[l.Part-1].Calculator) && !slices.Contains(out, settings.Calculator) {
		out = append(out, settings.Calculator)
	}
	return out
}

// Withholds tells whether some line is answered without a tool of its own, so that the tools change from line to line.
func (f Form) Withholds() bool {
	return slices.ContainsFunc(f.Lines, func(l Line) bool { return len(l.Without) > 0 })
}

// Total is the sum of the points that a student can earn: of a pool, those of the lines it gives.
func (f Form) Total() points.Points {
	total, _ := f.Worth(f.Placed())
	return total
}

// Count is how many lines each student gets.
func (f Form) Count() int { return len(f.Each(f.Placed())) }

// Cuts computes where each band begins on this form; errors are *band.PlaceError.
func (f Form) Cuts() (band.Cuts, error) {
	bands := f.Bands
	if len(bands) == 0 {
		bands = []band.Band{{Name: "All"}}
	}
	return f.Layout.Cuts(f.Placed(), f.Rule, bands, f.Conversion)
}

// Cuts computes where bands begin on lines in this layout, with the conversion of their scores to another scale or nil; errors
// are *band.PlaceError.
func (l Layout) Cuts(placed []Placed, rule band.Rule, bands []band.Band, conversion []band.Conversion) (band.Cuts, error) {
	each := l.Each(placed)
	lines := make([]band.Line, len(each))
	for i, line := range each {
		lines[i] = band.Line{Points: line.Points, Step: line.Step}
	}
	return band.Compute(band.Form{Lines: lines, Rule: rule, Bands: bands, Conversion: conversion})
}

// Score is what the answers of one attempt earn.
type Score struct {
	Raw     points.Points // of the lines that are scored
	Band    int           // place in Bands, -1 without bands and while a line waits for its reader
	Final   bool          // no line waits for its reader
	Credits []item.Credit
}

// Score computes an attempt's score. responses are by line, counted from 0; a
// missing one is omitted, or not reached when nothing after it is answered. given are
// the lines that the attempt was given, nil for all; the others are not asked for.
func (f Form) Score(responses map[int]item.Response, given []int) (Score, error) {
	s := Score{Band: -1, Final: true, Credits: make([]item.Credit, len(f.Lines))}
	if given == nil {
		given = all(len(f.Lines))
	}
	for i := range s.Credits {
		s.Credits[i] = item.Credit{Outcome: item.NotGiven, Why: "This attempt did not draw the line from its pool."}
	}
	answered := make([]bool, len(given))
	for k, i := range given {
		l := f.Lines[i]
		s.Credits[i] = l.Item.Score(responses[i], l.Points)
		answered[k] = l.Item.Answered(responses[i])
		s.Raw += s.Credits[i].Credit
		s.Final = s.Final && s.Credits[i].Outcome != item.Unread
	}
	for _, i := range given[attempt.LastReached(answered)+1:] {
		s.Credits[i].Outcome = item.NotReached
		s.Credits[i].Why = "Nothing was answered from here to the end."
	}
	if !s.Final {
		return s, nil
	}
	var err error
	s.Band, err = f.BandOf(s.Raw)
	return s, err
}

// BandOf is the place in Bands of a final result, which may be a mean of several; -1 without bands.
func (f Form) BandOf(raw points.Points) (int, error) {
	if len(f.Bands) == 0 {
		return -1, nil
	}
	cuts, err := f.Cuts()
	if err != nil {
		return -1, err
	}
	return cuts.Of(raw)
}

func all(n int) []int {
	out := make([]int, n)
	for i := range out {
		out[i] = i
	}
	return out
}

// Strand is a standard of the second level with the lines aligned to it or below it.
type Strand struct {
	Standard
	Lines []int // places in Lines
}

// Under gathers, for each child of a standard ("" for the roots) that any line is
// aligned to, the lines under it. A line aligned to two of them counts in both,
// aligned twice under one it counts once.
func (f Form) Under(parent string) []Strand {
	above := map[string]string{}
	for _, s := range f.Standards {
		above[s.Code] = s.Parent
	}
	var out []Strand
	for _, s := range f.Standards {
		if s.Parent != parent {
			continue
		}
		strand := Strand{Standard: s}
		for i, l := range f.Lines {
			if anyUnder(above, l.Standards, s.Code) {
				strand.Lines = append(strand.Lines, i)
			}
		}
		if len(strand.Lines) > 0 {
			out = append(out, strand)
		}
	}
	return out
}

// Top is the standard below which the lines first part: its children are the
// strands that a report compares. "" when they part at the roots.
func (f Form) Top() string {
	top := ""
	for {
		strands := f.Under(top)
		if len(strands) != 1 || len(f.Under(strands[0].Code)) == 0 {
			return top
		}
		top = strands[0].Code
	}
}

func anyUnder(above map[string]string, codes []string, top string) bool {
	for _, code := range codes {
		for at := code; at != ""; at = above[at] {
			if at == top {
				return true
			}
		}
	}
	return false
}
