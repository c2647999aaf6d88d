package build

import (
	"context"
	"encoding/json"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/assessment"
	"pineledger/core/band"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/ledger"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/buildrows"
)

// Seal freezes the lines, versions, points, keys and cuts of an assessment as a
// form with a fingerprint. It refuses what has faults and names them.
func (a *Build) Seal(ctx context.Context, v roster.Viewer, id int64, version int) (Sheet, error) {
	sheet, err := a.Sheet(ctx, v, id)
	if err != nil {
		return sheet, err
	}
	if len(sheet.Faults) > 0 {
		return sheet, desk.Conflict("It cannot be sealed yet. %s", strings.Join(sheet.Faults, " "))
	}
	if sheet.CutsFault != "" {
		return sheet, desk.Conflict("It cannot be sealed yet: the cuts cannot be computed. %s", sheet.CutsFault)
	}
	return a.change(ctx, v, id, version, SealAct, func(tx *store.Tx, row *buildrows.Assessment) (any, any, error) {
		if err := desk.Move(row, assessment.Seal); err != nil {
			return nil, nil, err
		}
		f, err := FormOf(ctx, tx.Reader, *row)
		if err != nil {
			return nil, nil, err
		}
		document, err := json.Marshal(f)
		if err != nil {
			return nil, nil, err
		}
		fingerprint, err := ledger.Fingerprint(document)
		if err != nil {
			return nil, nil, err
		}
		formID, err := buildrows.AddForm(ctx, tx, buildrows.Form{AssessmentID: id, Edition: row.Edition, Fingerprint: fingerprint, Document: string(document),
			SealedAt: store.Millis(a.Now())}, v.PersonID)
		if err != nil {
			return nil, nil, err
		}
		var items []int64
		lines := make([]bankrows.FormLine, len(f.Lines))
		for i, l := range f.Lines {
			items = append(items, l.ItemID)
			lines[i] = bankrows.FormLine{ItemID: l.ItemID, VersionID: l.VersionID}
		}
		if err := bankrows.AddFormLines(ctx, tx, formID, lines); err != nil {
			return nil, nil, err
		}
		return nil, SealNote{row.Edition, fingerprint, len(f.Lines), f.Total()}, bankrows.CountUse(ctx, tx, items, store.Millis(a.Now()))
	})
}

// SealNote is what the ledger keeps of a seal.
type SealNote struct {
	Edition     int           `json:"edition"`
	Fingerprint string        `json:"fingerprint"`
	Lines       int           `json:"lines"`
	Total       points.Points `json:"total"`
}

// SealAct is its entry's act.
const SealAct = "assessment.seal"

// FormOf gathers all that an assessment's results will be computed from.
func FormOf(ctx context.Context, tx store.Reader, row buildrows.Assessment) (form.Form, error) {
	f := form.Form{Schema: form.Schema, Title: row.Title, ShortTitle: row.ShortTitle, Instructions: row.Instructions, Subject: row.Subject,
		Language: row.Language, Edition: row.Edition, Rule: band.AtLeast, Passages: []form.Passage{}, Standards: []form.Standard{}, Bands: []band.Band{}}
	f.Grades = row.Grades
	var err error
	f.Layout = row.Layout.V
	lines, err := buildrows.Lines(ctx, tx, row.ID)
	if err != nil {
		return f, err
	}
	var passageIDs []int64
	for _, l := range lines {
		passageIDs = append(passageIDs, l.PassageID)
	}
	passages, err := bankrows.Passages(ctx, tx, passageIDs)
	if err != nil {
		return f, err
	}
	identifier := map[int64]string{}
	for _, p := range passages {
		identifier[p.ID] = p.Identifier
		f.Passages = append(f.Passages, form.Passage{Identifier: p.Identifier, Title: p.Title, Body: p.Body, Language: p.Language})
	}
	var codes []string
	for _, l := range lines {
		it, err := item.Read([]byte(l.Document))
		if err != nil {
			return f, err
		}
		line := form.Line{Identifier: l.Identifier, ItemID: l.ItemID, VersionID: l.ID, Version: l.Number, Points: points.Points(l.Points),
			Standards: strings.Fields(l.Standards), Passage: identifier[l.PassageID], Depth: l.Depth, Part: l.Part, Pool: l.Pool, Without: strings.Fields(l.Without), Language: l.Language, Item: it}
		if l.Difficulty != nil {
			d := int(*l.Difficulty)
			line.Difficulty = &d
		}
		codes = append(codes, line.Standards...)
		f.Lines = append(f.Lines, line)
	}
	if f.Standards, err = standardsAbove(ctx, tx, codes); err != nil {
		return f, err
	}
	if row.DocumentHash != "" {
		doc, err := buildrows.DocumentNamed(ctx, tx, row.DocumentHash)
		if err != nil {
			return f, err
		}
		f.Document = &form.Document{Name: doc.Name, Hash: doc.Hash, Pages: doc.Pages}
	}
	if row.MasterySetID > 0 {
		set, err := buildrows.MasteryOf(ctx, tx, row)
		if err != nil {
			return f, err
		}
		f.Mastery = &form.Mastery{Set: set.Name, Least: points.Points(set.Least), Rule: band.Rule(set.Rule), Bands: CoreBands(set.Bands)}
	}
	if row.ConversionID > 0 {
		if f.Conversion, err = buildrows.Conversion(ctx, tx, row.ConversionID); err != nil {
			return f, err
		}
	}
	if f.Reported, err = buildrows.ReportedValues(ctx, tx, row.ID); err != nil || row.BandSetID == 0 {
		return f, err
	}
	set, err := buildrows.BandsOf(ctx, tx, row)
	f.BandSet, f.Rule, f.Bands = set.Name, band.Rule(set.Rule), CoreBands(set.Bands)
	return f, err
}

// standardsAbove gives the standards with these codes and all above them, from top to bottom.
func standardsAbove(ctx context.Context, tx store.Reader, codes []string) ([]form.Standard, error) {
	standards, err := bankrows.FrameworksOfCodes(ctx, tx, codes)
	if err != nil {
		return nil, err
	}
	byID := map[int64]bankrows.Standard{}
	idOf := map[string]int64{}
	for _, s := range standards {
		byID[s.ID] = s
		idOf[s.Code] = s.ID
	}
	wanted := map[int64]bool{}
	for _, code := range codes {
		for id := idOf[code]; id != 0 && !wanted[id]; id = byID[id].ParentID {
			wanted[id] = true
		}
	}
	out := []form.Standard{}
	for _, s := range standards {
		if wanted[s.ID] {
			out = append(out, form.Standard{Code: s.Code, Text: s.Text, Parent: byID[s.ParentID].Code})
		}
	}
	return out, nil
}

// NewEdition opens a sealed assessment for change; the sealed form stays as it is,
// and so does whatever went out with it.
func (a *Build) NewEdition(ctx context.Context, v roster.Viewer, id int64, version int) (Sheet, error) {
	return a.change(ctx, v, id, version, "assessment.edition", func(_ *store.Tx, row *buildrows.Assessment) (any, any, error) {
		if err := desk.Move(row, assessment.Reissue); err != nil {
			return nil, nil, err
		}
		row.Edition++
		return nil, map[string]int{"edition": row.Edition}, nil
	})
}

// EditionListed is a sealed edition of an assessment, with what changed from the one before.
type EditionListed struct {
	Edition     int
	Fingerprint string
	SealedAt    int64
	Lines       int
	Total       points.Points
	Changes     []string
}

// Editions lists what was sealed, the newest first. compare is the edition that each is compared with;
// 0: the one before it.
func (a *Build) Editions(ctx context.Context, v roster.Viewer, id int64, compare int) ([]EditionListed, error) {
	if _, err := desk.Assessment(ctx, a.Store.Reader, v, id); err != nil {
		return nil, err
	}
	rows, err := buildrows.FormsOf(ctx, a.Store.Reader, id)
	if err != nil {
		return nil, err
	}
	forms := map[int]form.Form{}
	for _, row := range rows {
		if forms[row.Edition], err = a.FormByID(ctx, row.ID); err != nil {
			return nil, err
		}
	}
	out := []EditionListed{}
	for i, row := range rows {
		f := forms[row.Edition]
		e := EditionListed{Edition: row.Edition, Fingerprint: row.Fingerprint, SealedAt: row.SealedAt, Lines: len(f.Lines), Total: f.Total(), Changes: []string{}}
		base, has := forms[compare]
		if compare == 0 && i+1 < len(rows) {
			base, has = forms[rows[i+1].Edition], true
		}
		if has && base.Edition != f.Edition {
			e.Changes = append(e.Changes, form.Changes(base, f)...)
		}
		out = append(out, e)
	}
	return out, nil
}

// Shelve puts an assessment away, out of the lists, or brings it back in the state that it had.
func (a *Build) Shelve(ctx context.Context, v roster.Viewer, id int64, version int, away bool) (Sheet, error) {
	name := "assessment.unshelve"
	if away {
		name = "assessment.shelve"
	}
	return a.change(ctx, v, id, version, name, func(tx *store.Tx, row *buildrows.Assessment) (any, any, error) {
		if away {
			if err := row.State.Shelvable(row.Edition); err != nil {
				return nil, nil, desk.Conflict("%s", err)
			}
		}
		return nil, nil, buildrows.Shelve(ctx, tx, id, store.Millis(a.Now()), away)
	})
}

// Delete takes a draft that was never sealed out of every list for good; what it held is free again.
func (a *Build) Delete(ctx context.Context, v roster.Viewer, id int64, version int) error {
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		row, err := toChange(ctx, tx, v, id, version)
		if err != nil {
			return err
		}
		if err := row.State.Deletable(row.Edition); err != nil {
			return desk.Conflict("%s", err)
		}
		lines, err := buildrows.Lines(ctx, tx.Reader, id)
		if err != nil {
			return err
		}
		if err := buildrows.Delete(ctx, tx, id, store.Millis(a.Now())); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "assessment.delete", Thing: "assessment", ID: id, Title: row.Title, Before: noteOfLines(lineRows(lines), row.Layout.V)})
	})
}
