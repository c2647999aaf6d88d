package app

import (
	"context"
	"slices"

	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/store"
)

// Faults that an item is reported for.
var Faults = []string{"wrong key", "unclear", "wrong alignment", "picture", "other"}

// States of a report.
const (
	reportOpen     = "open"
	reportMended   = "mended"
	reportDeclined = "declined" // there is nothing to mend
)

// mostReport bounds the words of a report and of its answer.
const mostReport = 2000

// ItemReport is a report with every draft and sealed assessment that holds the item.
type ItemReport struct {
	store.ItemReport
	Uses    []ItemUse
	MayMend bool
}

// ReportItem says that something is wrong with an item, from wherever it is seen:
// number is the version that was seen, 0 for the newest.
func (a *App) ReportItem(ctx context.Context, v roster.Viewer, id int64, number int, fault, words string) error {
	if !v.IsStaff() {
		return ErrForbidden
	}
	if !slices.Contains(Faults, fault) {
		return invalid("/fault", "Choose what is wrong.")
	}
	words, err := wordsWithin("/words", words, mostReport)
	if err != nil {
		return err
	}
	return a.store.Write(ctx, func(tx *store.Tx) error {
		row, err := a.itemToReport(ctx, tx, v, id)
		if err != nil {
			return err
		}
		if number == 0 {
			number = row.Version
		}
		if number < 1 || number > row.Version {
			return invalid("/version", "Version %d does not exist; the newest is %d.", number, row.Version)
		}
		report := store.ItemReport{ItemID: id, Version: number, Fault: fault, Words: words, PersonID: v.PersonID, At: store.Millis(a.now()), State: reportOpen}
		if err := tx.AddItemReport(ctx, report); err != nil {
			return err
		}
		return a.record(ctx, tx, v, act{name: "item.report", thing: "item", id: id, title: row.Identifier, after: map[string]string{"fault": fault, "words": words}})
	})
}

// itemToReport gives an item that a viewer has before them: in a bank, or on an
// assessment or result that is theirs to see.
func (a *App) itemToReport(ctx context.Context, tx *store.Tx, v roster.Viewer, id int64) (store.Item, error) {
	row, _, err := a.itemFor(ctx, tx.Reader, v, id)
	if err == nil {
		return row, nil
	}
	uses, usesErr := tx.UsesOf(ctx, id)
	if usesErr != nil {
		return row, usesErr
	}
	for _, u := range uses {
		seen := v.MaySee(roster.Owned{OwnerID: u.OwnerID, SchoolID: u.SchoolID})
		if !seen && v.MayReadKeys() {
			given, err := tx.Sittings(ctx, v.Scope(), store.SittingFilter{AssessmentID: u.AssessmentID, Limit: 1})
			if err != nil {
				return row, err
			}
			seen = len(given) > 0
		}
		if seen {
			return tx.ItemByID(ctx, id)
		}
	}
	return row, err
}

// Reports lists the open reports on items that are the viewer's to mend: their
// own, those they edit, and those of banks they keep.
func (a *App) Reports(ctx context.Context, v roster.Viewer) ([]ItemReport, error) {
	if !v.MayBuild() {
		return nil, ErrForbidden
	}
	rows, err := a.store.OpenReports(ctx)
	if err != nil {
		return nil, err
	}
	return a.reportsToMend(ctx, v, rows, false)
}

// ItemReports lists all reports on an item, the newest first.
func (a *App) ItemReports(ctx context.Context, v roster.Viewer, id int64) ([]ItemReport, error) {
	if _, _, err := a.itemFor(ctx, a.store.Reader, v, id); err != nil {
		return nil, err
	}
	rows, err := a.store.ReportsOn(ctx, id)
	if err != nil {
		return nil, err
	}
	return a.reportsToMend(ctx, v, rows, true)
}

func (a *App) reportsToMend(ctx context.Context, v roster.Viewer, rows []store.ItemReport, all bool) ([]ItemReport, error) {
	ids := make([]int64, len(rows))
	for i, r := range rows {
		ids[i] = r.ItemID
	}
	rights, err := a.rightsTo(ctx, a.store.Reader, v, ids)
	if err != nil {
		return nil, err
	}
	items, _, err := a.store.Items(ctx, store.ItemQuery{Scope: store.ItemScope{All: true}, Only: ids, Limit: len(ids)})
	if err != nil {
		return nil, err
	}
	out := []ItemReport{}
	for _, row := range rows {
		at := slices.IndexFunc(items, func(it store.Item) bool { return it.ID == row.ItemID })
		if at < 0 {
			continue
		}
		mends := mayMend(rights, items[at])
		if !mends && !all {
			continue
		}
		r := ItemReport{ItemReport: row, MayMend: mends}
		if mends {
			if r.Uses, err = a.usesFor(ctx, v, row.ItemID); err != nil {
				return nil, err
			}
		}
		out = append(out, r)
	}
	return out, nil
}

// mayMend: who may change the item, and who keeps its bank, answer a report.
func mayMend(rights itemRights, it store.Item) bool {
	return rights.may(bank.Change, it).May || rights.may(bank.Keep, it).May && rights.may(bank.See, it).May
}

// CloseReport answers a report: mended or declined, with words. Who reported it is
// told, and for a mended item so is everyone whose draft or sealed assessment holds it.
func (a *App) CloseReport(ctx context.Context, v roster.Viewer, id int64, mended bool, answer string) error {
	if !v.MayBuild() {
		return ErrForbidden
	}
	answer, err := wordsWithin("/answer", answer, mostReport)
	if err != nil {
		return err
	}
	return a.store.Write(ctx, func(tx *store.Tx) error {
		report, err := tx.ReportByID(ctx, id)
		if err != nil {
			return err
		}
		row, err := tx.ItemByID(ctx, report.ItemID)
		if err != nil {
			return err
		}
		rights, err := a.rightsTo(ctx, tx.Reader, v, []int64{row.ID})
		if err != nil {
			return err
		}
		switch {
		case !rights.may(bank.See, row).May:
			return ErrNotFound
		case !mayMend(rights, row):
			return refusal(rights.may(bank.Change, row))
		case report.State != reportOpen:
			return conflict("This report is answered already.")
		}
		report.State, report.Answer = reportDeclined, answer
		if mended {
			report.State = reportMended
		}
		if err := tx.CloseReport(ctx, report, v.PersonID, store.Millis(a.now())); err != nil {
			return err
		}
		if err := a.tellOfReport(ctx, tx, v, report, row); err != nil {
			return err
		}
		return a.record(ctx, tx, v, act{name: "item.report." + report.State, thing: "item", id: row.ID, title: row.Identifier, before: report.Words, after: answer})
	})
}

func (a *App) tellOfReport(ctx context.Context, tx *store.Tx, v roster.Viewer, report store.ItemReport, row store.Item) error {
	told := map[int64]bool{v.PersonID: true}
	if !told[report.PersonID] {
		told[report.PersonID] = true
		if err := a.tell(ctx, tx, report.PersonID, itemPath(row.ID), "Your report on %s (%s) is answered: %s. %s", row.Identifier, report.Fault, report.State, report.Answer); err != nil {
			return err
		}
	}
	if report.State != reportMended {
		return nil
	}
	uses, err := tx.UsesOf(ctx, row.ID)
	if err != nil {
		return err
	}
	for _, u := range uses {
		if u.OwnerID == 0 || told[u.OwnerID] {
			continue
		}
		told[u.OwnerID] = true
		if err := a.tell(ctx, tx, u.OwnerID, linesPath(u.AssessmentID), "%s, line %d of %s, is mended (%s): version %d is the newest. %s", row.Identifier, u.Line, u.Title, report.Fault, row.Version, report.Answer); err != nil {
			return err
		}
	}
	return nil
}
