package app

import (
	"context"
	"encoding/json"
	"fmt"
	"strings"

	"pineledger/core/blueprint"
	"pineledger/core/form"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
)

// RowInput is a blueprint row as a person types it.
type RowInput struct {
	Title    string
	Filter   blueprint.Filter
	ByPoints bool
	Min, Max points.Points
}

// PutBlueprint replaces the blueprint.
func (a *App) PutBlueprint(ctx context.Context, v roster.Viewer, id int64, version int, in []RowInput) (Sheet, error) {
	if len(in) > 200 {
		return Sheet{}, invalid("/rows", "A blueprint has 200 rows at most.")
	}
	return a.change(ctx, v, id, version, "assessment.blueprint", func(tx *store.Tx, row *store.Assessment) (any, any, error) {
		if err := mustBeDraft(row); err != nil {
			return nil, nil, err
		}
		before, err := tx.Blueprint(ctx, id)
		if err != nil {
			return nil, nil, err
		}
		if err := checkBanks(ctx, tx.Reader, v, in, before); err != nil {
			return nil, nil, err
		}
		rows := make([]store.BlueprintRow, len(in))
		for i, r := range in {
			filter, err := json.Marshal(r.Filter)
			if err != nil {
				return nil, nil, err
			}
			rows[i] = store.BlueprintRow{Title: strings.TrimSpace(r.Title), Filter: string(filter), ByPoints: r.ByPoints, Least: int64(r.Min), Most: int64(r.Max)}
		}
		if _, err := balance(ctx, tx.Reader, rows, nil, form.Layout{}); err != nil {
			return nil, nil, err
		}
		return before, rows, tx.PutBlueprint(ctx, id, rows)
	})
}

// checkBanks refuses a bank that who types may not look into, unless the blueprint named it before.
func checkBanks(ctx context.Context, r store.Reader, v roster.Viewer, in []RowInput, before []store.BlueprintRow) error {
	open, err := banksFor(ctx, r, v)
	if err != nil {
		return err
	}
	known := map[string]bool{}
	for _, b := range open.rows {
		known[b.Name] = true
	}
	for _, row := range before {
		var f blueprint.Filter
		if err := json.Unmarshal([]byte(row.Filter), &f); err != nil {
			return err
		}
		for _, name := range f.Banks {
			known[name] = true
		}
	}
	for i, row := range in {
		for _, name := range row.Filter.Banks {
			if !known[name] {
				return invalid(fmt.Sprintf("/rows/%d/filter/banks", i), "Row %d: no bank that you may look into is called %q.", i+1, name)
			}
		}
	}
	return nil
}
