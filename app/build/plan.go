package build

import (
	"context"
	"fmt"
	"strings"

	"pineledger/app/bank"
	"pineledger/app/desk"
	"pineledger/core/blueprint"
	"pineledger/core/form"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/sqlite"
)

// RowInput is a blueprint row as a person types it.
type RowInput struct {
	Title    string
	Filter   blueprint.Filter
	ByPoints bool
	Min, Max points.Points
}

// PutBlueprint replaces the blueprint.
func (a *Build) PutBlueprint(ctx context.Context, v roster.Viewer, id int64, version int, in []RowInput) (Sheet, error) {
	if len(in) > 200 {
		return Sheet{}, desk.Invalid("/rows", "A blueprint has 200 rows at most.")
	}
	return a.change(ctx, v, id, version, "assessment.blueprint", func(tx *store.Tx, row *buildrows.Assessment) (any, any, error) {
		if err := desk.MustBeDraft(row); err != nil {
			return nil, nil, err
		}
		before, err := buildrows.Blueprint(ctx, tx.Reader, id)
		if err != nil {
			return nil, nil, err
		}
		if err := checkBanks(ctx, tx.Reader, v, in, before); err != nil {
			return nil, nil, err
		}
		rows := make([]buildrows.BlueprintRow, len(in))
		for i, r := range in {
			rows[i] = buildrows.BlueprintRow{Title: strings.TrimSpace(r.Title), Filter: sqlite.JSON[blueprint.Filter]{V: r.Filter}, ByPoints: r.ByPoints, Least: int64(r.Min), Most: int64(r.Max)}
		}
		if _, err := balance(ctx, tx.Reader, rows, nil, form.Layout{}); err != nil {
			return nil, nil, err
		}
		was, err := rowNotes(before)
		if err != nil {
			return nil, nil, err
		}
		is, err := rowNotes(rows)
		if err != nil {
			return nil, nil, err
		}
		return was, is, buildrows.PutBlueprint(ctx, tx, id, rows)
	})
}

// checkBanks refuses a bank that who types may not look into, unless the blueprint named it before.
func checkBanks(ctx context.Context, r store.Reader, v roster.Viewer, in []RowInput, before []buildrows.BlueprintRow) error {
	open, err := bank.BanksFor(ctx, r, v)
	if err != nil {
		return err
	}
	known := map[string]bool{}
	for _, b := range open.Rows {
		known[b.Name] = true
	}
	for _, row := range before {
		for _, name := range row.Filter.V.Banks {
			known[name] = true
		}
	}
	for i, row := range in {
		for _, name := range row.Filter.Banks {
			if !known[name] {
				return desk.Invalid(fmt.Sprintf("/rows/%d/filter/banks", i), "Row %d: no bank that you may look into is called %q.", i+1, name)
			}
		}
	}
	return nil
}
