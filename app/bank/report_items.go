package bank

import (
	"context"
	"slices"

	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/giverows"
)

// Faults that an item is reported for.
var Faults = []string{bank.WrongKey, "unclear", "wrong alignment", "picture", "other"}

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
	bankrows.ItemReport
	Uses    []ItemUse
	MayMend bool
}

// ReportItem says that something is wrong with an item, from wherever it is seen:
// number is the version that was seen, 0 for the newest.
func (a *Word) ReportItem(ctx context.Context, v roster.Viewer, id int64, number int, fault, words string) error {
	if !v.IsStaff() {
		return desk.ErrForbidden
	}
	if !slices.Contains(Faults, fault) {
		return desk.Invalid("/fault", "Choose what is wrong.")
	}
	words, err := wordsWithin("/words", words, mostReport)
	if err != nil {
		return err
	}
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		row, err := a.itemToReport(ctx, tx, v, id)
		if err != nil {
			return err
		}
		if number == 0 {
			number = row.Version
		}
		if number < 1 || number > row.Version {
			return desk.Invalid("/version", "Version %d does not exist; the newest is %d.", number, row.Version)
		}
		report := bankrows.ItemReport{ItemID: id, Version: number, Fault: fault, Words: words, PersonID: v.PersonID, At: store.Millis(a.Now()), State: reportOpen}
		if err := bankrows.AddItemReport(ctx, tx, report); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "item.report", Thing: "item", ID: id, Title: row.Identifier, After: map[string]string{"fault": fault, "words": words}})
	})
}

// itemToReport gives an item that a viewer has before them: in a bank, or on an
// assessment or result that is theirs to see.
func (a *Word) itemToReport(ctx context.Context, tx *store.Tx, v roster.Viewer, id int64) (bankrows.Item, error) {
	row, _, err := a.bank.itemFor(ctx, tx.Reader, v, id)
	if err == nil {
		return row, nil
	}
	uses, usesErr := bankrows.UsesOf(ctx, tx.Reader, id)
	if usesErr != nil {
		return row, usesErr
	}
	for _, u := range uses {
		seen := v.MaySee(roster.Owned{OwnerID: u.OwnerID, SchoolID: u.SchoolID})
		if !seen && v.MayReadKeys() {
			given, err := giverows.Sittings(ctx, tx.Reader, v.Scope(), giverows.SittingFilter{AssessmentID: u.AssessmentID, Limit: 1})
			if err != nil {
				return row, err
			}
			seen = len(given) > 0
		}
		if seen {
			return bankrows.ItemByID(ctx, tx.Reader, id)
		}
	}
	return row, err
}

// Reports lists the open reports on items that are the viewer's to mend: their
// own, those they edit, and those of banks they keep.
func (a *Word) Reports(ctx context.Context, v roster.Viewer) ([]ItemReport, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	rows, err := bankrows.OpenReports(ctx, a.Store.Reader)
	if err != nil {
		return nil, err
	}
	return a.reportsToMend(ctx, v, rows, false)
}

// ItemReports lists all reports on an item, the newest first.
func (a *Word) ItemReports(ctx context.Context, v roster.Viewer, id int64) ([]ItemReport, error) {
	if _, _, err := a.bank.itemFor(ctx, a.Store.Reader, v, id); err != nil {
		return nil, err
	}
	rows, err := bankrows.ReportsOn(ctx, a.Store.Reader, id)
	if err != nil {
		return nil, err
	}
	return a.reportsToMend(ctx, v, rows, true)
}

func (a *Word) reportsToMend(ctx context.Context, v roster.Viewer, rows []bankrows.ItemReport, all bool) ([]ItemReport, error) {
	ids := make([]int64, len(rows))
	for i, r := range rows {
		ids[i] = r.ItemID
	}
	rights, err := a.bank.RightsTo(ctx, a.Store.Reader, v, ids)
	if err != nil {
		return nil, err
	}
	items, _, err := bankrows.Items(ctx, a.Store.Reader, bankrows.ItemQuery{Scope: bankrows.ItemScope{All: true}, Only: ids, Limit: len(ids)})
	if err != nil {
		return nil, err
	}
	out := []ItemReport{}
	for _, row := range rows {
		at := slices.IndexFunc(items, func(it bankrows.Item) bool { return it.ID == row.ItemID })
		if at < 0 {
			continue
		}
		mends := mayMend(rights, items[at])
		if !mends && !all {
			continue
		}
		r := ItemReport{ItemReport: row, MayMend: mends}
		if mends {
			if r.Uses, err = a.bank.usesFor(ctx, v, row.ItemID); err != nil {
				return nil, err
			}
		}
		out = append(out, r)
	}
	return out, nil
}

// mayMend: who may change the item, and who keeps its bank, answer a report.
func mayMend(rights ItemRights, it bankrows.Item) bool {
	return rights.May(bank.Change, it).May || rights.May(bank.Keep, it).May && rights.May(bank.See, it).May
}

// CloseReport answers a report: mended or declined, with words. Who reported it is
// told, and for a mended item so is everyone whose draft or sealed assessment holds it.
func (a *Word) CloseReport(ctx context.Context, v roster.Viewer, id int64, mended bool, answer string) error {
	if !v.MayBuild() {
		return desk.ErrForbidden
	}
	answer, err := wordsWithin("/answer", answer, mostReport)
	if err != nil {
		return err
	}
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		report, err := bankrows.ReportByID(ctx, tx.Reader, id)
		if err != nil {
			return err
		}
		row, err := bankrows.ItemByID(ctx, tx.Reader, report.ItemID)
		if err != nil {
			return err
		}
		rights, err := a.bank.RightsTo(ctx, tx.Reader, v, []int64{row.ID})
		if err != nil {
			return err
		}
		switch {
		case !rights.May(bank.See, row).May:
			return desk.ErrNotFound
		case !mayMend(rights, row):
			return desk.Refusal(rights.May(bank.Change, row))
		case report.State != reportOpen:
			return desk.Conflict("This report is answered already.")
		}
		report.State, report.Answer = reportDeclined, answer
		if mended {
			report.State = reportMended
		}
		if err := bankrows.CloseReport(ctx, tx, report, v.PersonID, store.Millis(a.Now())); err != nil {
			return err
		}
		if err := a.tellOfReport(ctx, tx, v, report, row); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "item.report." + report.State, Thing: "item", ID: row.ID, Title: row.Identifier, Before: report.Words, After: answer})
	})
}

func (a *Word) tellOfReport(ctx context.Context, tx *store.Tx, v roster.Viewer, report bankrows.ItemReport, row bankrows.Item) error {
	told := map[int64]bool{v.PersonID: true}
	if !told[report.PersonID] {
		told[report.PersonID] = true
		if err := a.bank.tell(ctx, tx, report.PersonID, itemPath(row.ID), "Your report on %s (%s) is answered: %s. %s", row.Identifier, report.Fault, report.State, report.Answer); err != nil {
			return err
		}
	}
	if report.State != reportMended {
		return nil
	}
	uses, err := bankrows.UsesOf(ctx, tx.Reader, row.ID)
	if err != nil {
		return err
	}
	for _, u := range uses {
		if u.OwnerID == 0 || told[u.OwnerID] {
			continue
		}
		told[u.OwnerID] = true
		if err := a.bank.tell(ctx, tx, u.OwnerID, linesPath(u.AssessmentID), "%s, line %d of %s, is mended (%s): version %d is the newest. %s", row.Identifier, u.Line, u.Title, report.Fault, row.Version, report.Answer); err != nil {
			return err
		}
	}
	return nil
}
