package app

import (
	"context"
	"strings"
	"unicode/utf8"

	"pineledger/core/roster"
	"pineledger/store"
)

// Purposes lists what assessments are for, in the district's order.
func (a *App) Purposes(ctx context.Context, v roster.Viewer) ([]string, error) {
	if !v.MayBuild() {
		return nil, ErrForbidden
	}
	return a.store.Purposes(ctx)
}

// mostPurposes bounds the district's list.
const mostPurposes = 40

// PutPurposes replaces the list. An assessment keeps the purpose that it has, on the list or not.
func (a *App) PutPurposes(ctx context.Context, v roster.Viewer, names []string) ([]string, error) {
	if !v.MayImport() {
		return nil, ErrForbidden
	}
	names = tidyLabels(names)
	for i, n := range names {
		names[i] = strings.ToLower(n)
	}
	names = tidyLabels(names)
	if len(names) == 0 || len(names) > mostPurposes {
		return nil, invalid("/purposes", "The list has from 1 to %d purposes.", mostPurposes)
	}
	for _, n := range names {
		if utf8.RuneCountInString(n) > mostLabel {
			return nil, invalid("/purposes", "%q is longer than %d characters.", n, mostLabel)
		}
	}
	err := a.store.Write(ctx, func(tx *store.Tx) error {
		before, err := tx.Purposes(ctx)
		if err != nil {
			return err
		}
		if err := tx.PutPurposes(ctx, names); err != nil {
			return err
		}
		return a.record(ctx, tx, v, act{name: "district.purposes", thing: "district", id: 1, title: "purposes", before: before, after: names})
	})
	return names, err
}
