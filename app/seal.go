package app

import (
	"context"
	"encoding/json"
	"strings"

	"pineledger/core/band"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/ledger"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
)

// Seal freezes the lines, versions, points, keys and cuts of an assessment as a
// form with a fingerprint. It refuses what has faults and names them.
func (a *App) Seal(ctx context.Context, v roster.Viewer, id int64, version int) (Sheet, error) {
	sheet, err := a.Sheet(ctx, v, id)
	if err != nil {
		return sheet, err
	}
	if len(sheet.Faults) > 0 {
		return sheet, conflict("It cannot be sealed yet. %s", strings.Join(sheet.Faults, " "))
	}
	if sheet.CutsFault != "" {
		return sheet, conflict("It cannot be sealed yet: the cuts cannot be computed. %s", sheet.CutsFault)
	}
	return a.change(ctx, v, id, version, sealAct, func(tx *store.Tx, row *store.Assessment) (any, any, error) {
		if err := mustBeDraft(row); err != nil {
			return nil, nil, err
		}
		f, err := formOf(ctx, tx.Reader, *row)
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
		formID, err := tx.AddForm(ctx, store.Form{AssessmentID: id, Edition: row.Edition, Fingerprint: fingerprint, Document: string(document),
			SealedAt: store.Millis(a.now())}, v.PersonID)
		if err != nil {
			return nil, nil, err
		}
		var items []int64
		lines := make([]store.FormLine, len(f.Lines))
		for i, l := range f.Lines {
			items = append(items, l.ItemID)
			lines[i] = store.FormLine{ItemID: l.ItemID, VersionID: l.VersionID}
		}
		if err := tx.AddFormLines(ctx, formID, lines); err != nil {
			return nil, nil, err
		}
		row.State = Sealed
		return nil, sealNote{row.Edition, fingerprint, len(f.Lines), f.Total()}, tx.CountUse(ctx, items, store.Millis(a.now()))
	})
}

// sealNote is what the ledger keeps of a seal.
type sealNote struct {
	Edition     int           `json:"edition"`
	Fingerprint string        `json:"fingerprint"`
	Lines       int           `json:"lines"`
	Total       points.Points `json:"total"`
}

// sealAct is its entry's act.
const sealAct = "assessment.seal"

// formOf gathers all that an assessment's results will be computed from.
func formOf(ctx context.Context, tx store.Reader, row store.Assessment) (form.Form, error) {
	f := form.Form{Schema: form.Schema, Title: row.Title, ShortTitle: row.ShortTitle, Instructions: row.Instructions, Subject: row.Subject,
		Language: row.Language, Edition: row.Edition, Rule: band.AtLeast, Passages: []form.Passage{}, Standards: []form.Standard{}, Bands: []band.Band{}}
	if err := json.Unmarshal([]byte(row.Grades), &f.Grades); err != nil {
		return f, err
	}
	var err error
	if f.Layout, err = layoutOf(row); err != nil {
		return f, err
	}
	lines, err := tx.Lines(ctx, row.ID)
	if err != nil {
		return f, err
	}
	var passageIDs []int64
	for _, l := range lines {
		passageIDs = append(passageIDs, l.PassageID)
	}
	passages, err := tx.Passages(ctx, passageIDs)
	if err != nil {
		return f, err
	}
	identifier := map[int64]string{}
	for _, p := range passages {
		identifier[p.ID] = p.Identifier
		f.Passages = append(f.Passages, form.Passage{Identifier: p.Identifier, Title: p.Title, Body: p.Body})
	}
	var codes []string
	for _, l := range lines {
		it, err := item.Read([]byte(l.Document))
		if err != nil {
			return f, err
		}
		line := form.Line{Identifier: l.Identifier, ItemID: l.ItemID, VersionID: l.ID, Version: l.Number, Points: points.Points(l.Points),
			Standards: strings.Fields(l.Standards), Passage: identifier[l.PassageID], Depth: l.Depth, Part: l.Part, Pool: l.Pool, Item: it}
		if l.Difficulty.Valid {
			d := int(l.Difficulty.Int64)
			line.Difficulty = &d
		}
		codes = append(codes, line.Standards...)
		f.Lines = append(f.Lines, line)
	}
	if f.Standards, err = standardsAbove(ctx, tx, codes); err != nil {
		return f, err
	}
	if row.DocumentHash != "" {
		doc, err := tx.DocumentNamed(ctx, row.DocumentHash)
		if err != nil {
			return f, err
		}
		f.Document = &form.Document{Name: doc.Name, Hash: doc.Hash, Pages: doc.Pages}
	}
	if row.BandSetID == 0 {
		return f, nil
	}
	set, err := tx.BandSetByID(ctx, row.BandSetID)
	f.BandSet, f.Rule, f.Bands = set.Name, band.Rule(set.Rule), CoreBands(set.Bands)
	return f, err
}

// standardsAbove gives the standards with these codes and all above them, from top to bottom.
func standardsAbove(ctx context.Context, tx store.Reader, codes []string) ([]form.Standard, error) {
	standards, err := tx.FrameworksOfCodes(ctx, codes)
	if err != nil {
		return nil, err
	}
	byID := map[int64]store.Standard{}
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
func (a *App) NewEdition(ctx context.Context, v roster.Viewer, id int64, version int) (Sheet, error) {
	return a.change(ctx, v, id, version, "assessment.edition", func(_ *store.Tx, row *store.Assessment) (any, any, error) {
		if row.State == Draft {
			return nil, nil, conflict("Edition %d is still a draft.", row.Edition)
		}
		row.State = Draft
		row.Edition++
		return nil, map[string]int{"edition": row.Edition}, nil
	})
}
