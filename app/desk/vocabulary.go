package desk

import (
	"context"
	"slices"
	"strings"
	"unicode/utf8"

	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/officerows"
)

// SubjectCode is how a subject is kept: "mathematics", "reading", "science".
func SubjectCode(s string) string { return strings.ToLower(strings.TrimSpace(s)) }

// TidyLabels trims labels and keeps each once.
func TidyLabels(labels []string) []string {
	out := []string{}
	for _, l := range labels {
		if l = strings.TrimSpace(l); l != "" && !slices.Contains(out, l) {
			out = append(out, l)
		}
	}
	return out
}

// What an outline may name. Grades are OneRoster's codes.
var (
	Languages = []string{"en", "es"}
	Grades    = []string{"KG", "01", "02", "03", "04", "05", "06", "07", "08", "09", "10", "11", "12"}
)

// Bounds of the labels of an assessment.
const (
	MostLabels = 20
	MostLabel  = 60 // characters
)

// mostPurposes bounds the district's list.
const mostPurposes = 40

// Purposes lists what assessments are for, in the district's order.
func (a *Desk) Purposes(ctx context.Context, v roster.Viewer) ([]string, error) {
	if !v.MayBuild() {
		return nil, ErrForbidden
	}
	return buildrows.Purposes(ctx, a.Store.Reader)
}

// PutPurposes replaces the list. An assessment keeps the purpose that it has, on the list or not.
func (a *Desk) PutPurposes(ctx context.Context, v roster.Viewer, names []string) ([]string, error) {
	if !v.MayImport() {
		return nil, ErrForbidden
	}
	names = TidyLabels(names)
	for i, n := range names {
		names[i] = strings.ToLower(n)
	}
	names = TidyLabels(names)
	if len(names) == 0 || len(names) > mostPurposes {
		return nil, Invalid("/purposes", "The list has from 1 to %d purposes.", mostPurposes)
	}
	for _, n := range names {
		if utf8.RuneCountInString(n) > MostLabel {
			return nil, Invalid("/purposes", "%q is longer than %d characters.", n, MostLabel)
		}
	}
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		before, err := buildrows.Purposes(ctx, tx.Reader)
		if err != nil {
			return err
		}
		if err := buildrows.PutPurposes(ctx, tx, names); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, Act{Name: "district.purposes", Thing: "district", ID: 1, Title: "purposes", Before: before, After: names})
	})
	return names, err
}

// Subjects lists what the district teaches: its courses' and frameworks' subjects, and
// those that it names besides.
func (a *Desk) Subjects(ctx context.Context, v roster.Viewer) ([]string, error) {
	if !v.MayReadKeys() {
		return nil, ErrForbidden
	}
	return officerows.Subjects(ctx, a.Store.Reader)
}
