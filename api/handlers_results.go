package api

import (
	"bytes"
	"cmp"
	"context"
	"fmt"
	"mime"
	"strconv"
	"strings"
	"time"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app/desk"
	"pineledger/app/read"
	"pineledger/app/record"
	"pineledger/core/attempt"
	"pineledger/core/band"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/ledger"
	"pineledger/core/points"
	"pineledger/core/results"
	"pineledger/formats/table"
)

func resultListed(r read.ResultListed) contract.ResultListed {
	return contract.ResultListed{Id: r.DistributionID, AssessmentId: r.AssessmentID, Title: r.Title, Subject: r.Subject, Grades: listed(r.Grades),
		OpensAt: timeOf(r.OpensAt), ClosesAt: timeOf(r.ClosesAt), Sections: r.Sections, Seats: r.Seats, Begun: r.Begun, Scored: r.Scored, Waiting: r.Waiting}
}

func (h *readHandlers) ListResults(ctx context.Context, _ contract.ListResultsRequestObject) (contract.ListResultsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Read.Results(ctx, v)
	return contract.ListResults200JSONResponse(each(list, resultListed)), err
}

func resultLine(l read.ResultLine) contract.ResultLine {
	return contract.ResultLine{Number: l.Number, ItemId: l.ItemID, Identifier: l.Identifier, Stem: l.Stem, Standards: append([]string{}, l.Standards...), Points: l.Points, Key: l.Key}
}

func headOf(head read.ResultHead) contract.ResultHead {
	out := contract.ResultHead{Result: resultListed(head.ResultListed), Edition: head.Edition, Fingerprint: head.Fingerprint, Total: head.Total, BandSet: head.BandSet, KeysClosed: head.KeysClosed, KeysOpen: head.KeysOpen, NotComparable: head.NotComparable, Lines: each(head.Lines, resultLine)}
	if head.Cuts != nil {
		cuts := cutsOf(*head.Cuts)
		out.Cuts = &cuts
	}
	if head.Recut != nil {
		out.Recut = &contract.RecutTold{At: timeOf(head.Recut.At), By: head.Recut.By, Reason: head.Recut.Reason}
	}
	return out
}

func (h *readHandlers) OpenKeys(ctx context.Context, r contract.OpenKeysRequestObject) (contract.OpenKeysResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.OpenKeys204Response{}, h.app.Read.OpenKeys(ctx, v, r.Id, r.Body.Open)
}

func groupOf(g read.Group) contract.Group {
	return contract.Group{SchoolId: g.SchoolID, School: g.School, SectionId: g.SectionID, Section: g.Section, N: g.N, Waiting: g.Waiting, Bands: g.Bands, MeanTenths: g.Mean,
		Strands: each(g.Strands, func(s results.Share) contract.StrandShare {
			return contract.StrandShare{Earned: s.Earned, Possible: s.Possible, Tenths: s.Tenths()}
		})}
}

func (h *readHandlers) byBand(ctx context.Context, distribution int64, parent *string) (read.ByBand, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return read.ByBand{}, err
	}
	return h.app.Read.ResultsByBand(ctx, v, distribution, value(parent))
}

func (h *readHandlers) GetResultsByBand(ctx context.Context, r contract.GetResultsByBandRequestObject) (contract.GetResultsByBandResponseObject, error) {
	b, err := h.byBand(ctx, r.Id, r.Params.Parent)
	if err != nil {
		return nil, err
	}
	return contract.GetResultsByBand200JSONResponse(contract.ByBand{Head: headOf(b.Head), Parent: b.Parent,
		Strands: each(b.Strands, func(s form.Strand) contract.Strand {
			return contract.Strand{Code: s.Code, Text: s.Text, Lines: s.Lines}
		}),
		Sections: each(b.Rows, groupOf), Schools: each(b.Schools, groupOf), All: groupOf(b.All), Beside: each(b.Beside, groupOf)}), nil
}

// tenths writes tenths of a percent: 633 is "63.3".
func tenths(n int64) string {
	if n < 0 {
		return ""
	}
	return fmt.Sprintf("%d.%d", n/10, n%10)
}

func (h *readHandlers) ExportResultsByBand(ctx context.Context, r contract.ExportResultsByBandRequestObject) (contract.ExportResultsByBandResponseObject, error) {
	b, err := h.byBand(ctx, r.Id, r.Params.Parent)
	if err != nil {
		return nil, err
	}
	columns := []string{"School", "Section", "n", "Not scored yet"}
	if b.Head.Cuts != nil {
		for _, s := range b.Head.Cuts.Starts {
			columns = append(columns, s.Name)
		}
	}
	columns = append(columns, "Mean percent")
	for _, s := range b.Strands {
		columns = append(columns, s.Code+" percent")
	}
	row := func(g read.Group, school, section string) []string {
		out := []string{school, section, strconv.Itoa(g.N), strconv.Itoa(g.Waiting)}
		if b.Head.Cuts != nil {
			for _, n := range g.Bands {
				out = append(out, strconv.Itoa(n))
			}
		}
		out = append(out, tenths(g.Mean))
		for _, s := range g.Strands {
			out = append(out, tenths(s.Tenths()))
		}
		return out
	}
	var rows [][]string
	for _, g := range b.Rows {
		rows = append(rows, row(g, g.School, g.Section))
	}
	for _, g := range b.Schools {
		rows = append(rows, row(g, g.School, "all sections"))
	}
	rows = append(rows, row(b.All, "all schools", "all sections"))
	name, err := h.fileName(ctx, b.Head, "by band")
	if err != nil {
		return nil, err
	}
	body, err := csvBody(columns, rows)
	return contract.ExportResultsByBand200TextcsvResponse{Body: body, Headers: contract.ExportResultsByBand200ResponseHeaders{ContentDisposition: name}}, err
}

// csvBody writes a table with the mark by which spreadsheets know UTF-8.
func csvBody(columns []string, rows [][]string) (*bytes.Buffer, error) {
	out := bytes.NewBufferString("\ufeff")
	return out, table.Write(out, columns, rows)
}

const matrixPage = 150

func (h *readHandlers) GetMatrix(ctx context.Context, r contract.GetMatrixRequestObject) (contract.GetMatrixResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p := r.Params
	q := read.MatrixQuery{MatrixFilter: read.MatrixFilter{SchoolID: value(p.School), SectionID: value(p.Section), Band: p.Band, Words: value(p.Words)},
		Sort: value(p.Sort), Limit: value(p.Limit)}
	if q.Limit == 0 {
		q.Limit = matrixPage
	}
	if p.Cursor != nil {
		if q.Offset, err = strconv.Atoi(*p.Cursor); err != nil {
			return nil, &desk.InvalidError{Fields: []desk.FieldError{{Pointer: "/cursor", Message: "cursor: is not one that was given."}}}
		}
	}
	m, err := h.app.Read.Matrix(ctx, v, r.Id, q)
	if err != nil {
		return nil, err
	}
	out := contract.Matrix{Head: headOf(m.Head), Total: m.Total, Rows: each(m.Rows, matrixRow),
		Lines: each(m.Lines, func(l results.Line) contract.LineSummary {
			return contract.LineSummary{N: l.N, Difficulty: l.Difficulty, Omitted: l.Omitted}
		})}
	if next := q.Offset + len(m.Rows); next < m.Total {
		out.Next = strconv.Itoa(next)
	}
	return contract.GetMatrix200JSONResponse(out), nil
}

var outcomeLetters = map[item.Outcome]byte{item.Right: 'r', item.Part: 'p', item.Wrong: 'w', item.Omitted: 'o', item.NotReached: 'n', item.Unread: 'u', item.NotGiven: 'g'}

func matrixRow(r read.MatrixRow) contract.MatrixRow {
	outcomes := make([]byte, len(r.Credits))
	for i, c := range r.Credits {
		outcomes[i] = outcomeLetters[c.Outcome]
	}
	return contract.MatrixRow{AttemptId: r.AttemptID, Student: r.Student, Number: r.Number, School: r.School, Section: r.Section, Final: r.Final, Why: r.Why, Apart: r.Apart, Raw: r.Raw, Band: r.Band,
		Credits: each(r.Credits, func(c attempt.LineCredit) points.Points { return c.Credit }), Outcomes: string(outcomes)}
}

func (h *readHandlers) ExportMatrix(ctx context.Context, r contract.ExportMatrixRequestObject) (contract.ExportMatrixResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p := r.Params
	m, err := h.app.Read.MatrixSheet(ctx, v, r.Id, read.MatrixQuery{Sort: value(p.Sort),
		MatrixFilter: read.MatrixFilter{SchoolID: value(p.School), SectionID: value(p.Section), Band: p.Band, Words: value(p.Words)}})
	if err != nil {
		return nil, err
	}
	columns := []string{"Family name", "Given name", "Number", "School", "Section", "Raw", "Percent", "Band"}
	if len(m.Head.Conversion) > 0 {
		columns = append(columns, "Scale score")
	}
	if len(m.Head.Reported) > 0 {
		columns = append(columns, "Reported value")
	}
	for _, code := range m.Standards {
		columns = append(columns, code+" percent")
	}
	for _, l := range m.Head.Lines {
		columns = append(columns, strings.TrimSpace(fmt.Sprintf("Line %d (%s) %s", l.Number, l.Points, strings.Join(l.Standards, " "))))
	}
	if m.Head.NotComparable > 0 {
		columns = append(columns, "Compares")
	}
	rows := each(m.Rows, func(row read.MatrixRow) []string {
		cells := matrixCells(m, row)
		if m.Head.NotComparable > 0 {
			cells = append(cells, map[bool]string{true: "no", false: "yes"}[row.Apart])
		}
		return cells
	})
	for _, x := range m.Absent {
		why := "not begun"
		if x.Begun {
			why = "not handed in"
		}
		rows = append(rows, append([]string{x.Family, x.Given, x.Number, x.School, x.Section, why}, make([]string, len(columns)-6)...))
	}
	name, err := h.fileName(ctx, m.Head, "students and lines")
	if err != nil {
		return nil, err
	}
	body, err := csvBody(columns, rows)
	return contract.ExportMatrix200TextcsvResponse{Body: body, Headers: contract.ExportMatrix200ResponseHeaders{ContentDisposition: name}}, err
}

// matrixCells are a student's row. No answer is not the same as a wrong one, and what was not reached not the same as what was left out.
func matrixCells(m read.MatrixSheet, row read.MatrixRow) []string {
	out := []string{row.Family, row.Given, row.Number, row.School, row.Section, "not scored yet", "", ""}
	if row.Final {
		band := ""
		if row.Band >= 0 && m.Head.Cuts != nil {
			band = m.Head.Cuts.Starts[row.Band].Name
		}
		out = append(out[:5], row.Raw.String(), tenths(points.Tenths(row.Raw, m.Head.Total)), band)
	}
	if len(m.Head.Conversion) > 0 {
		scale := ""
		if s := band.ScaleOf(m.Head.Conversion, row.Raw); s != nil && row.Final {
			scale = s.String()
		}
		out = append(out, scale)
	}
	if len(m.Head.Reported) > 0 {
		value := ""
		if row.Final {
			value = band.ReportedOf(m.Head.Reported, row.Raw)
		}
		out = append(out, value)
	}
	for _, s := range m.Shares(row.Credits) {
		out = append(out, tenths(s.Tenths()))
	}
	for _, c := range row.Credits {
		words := map[item.Outcome]string{item.Omitted: "omitted", item.NotReached: "not reached", item.NotGiven: "not given", item.Unread: "not scored yet"}
		if said := words[c.Outcome]; said != "" {
			out = append(out, said)
		} else {
			out = append(out, c.Credit.String())
		}
	}
	return out
}

// fileName names a file after the assessment, what it holds and the day in the district.
func (h *readHandlers) fileName(ctx context.Context, head read.ResultHead, what string) (string, error) {
	zone, err := h.app.Read.Zone(ctx)
	name := fmt.Sprintf("%s, %s, %s.csv", head.Title, what, h.app.Now().In(cmp.Or(zone, time.UTC)).Format(time.DateOnly))
	return mime.FormatMediaType("attachment", map[string]string{"filename": strings.Map(fileLetter, name)}), err
}

// fileLetter keeps letters out of a name that file systems do not take.
func fileLetter(r rune) rune {
	if strings.ContainsRune(`/\:*?"<>|`, r) || r < ' ' {
		return '-'
	}
	return r
}

func (h *readHandlers) GetTrail(ctx context.Context, r contract.GetTrailRequestObject) (contract.GetTrailResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	t, err := h.app.Read.Trail(ctx, v, r.Id, r.Attempt)
	if err != nil {
		return nil, err
	}
	return contract.GetTrail200JSONResponse(contract.Trail{Head: headOf(t.Head), Student: t.Student.Student, Number: t.Student.Number, School: t.Student.School, Section: t.Student.Section,
		Final: t.Student.Final, Why: t.Student.Why, Apart: t.Attempt.Apart, Supports: each(t.Attempt.Terms.Supports, givenSupport), Raw: t.Student.Raw, PercentTenths: t.Percent, Reported: t.Value, Scale: t.Scale, Band: t.Student.Band, StartedAt: timeOf(t.Attempt.StartedAt),
		Lines: each(t.Lines, func(l read.TrailLine) contract.TrailLine {
			out := contract.TrailLine{Line: resultLine(l.ResultLine), Version: l.Version, Rule: string(l.Rule), Response: l.Response,
				Credit: l.Credit.Credit, Outcome: string(l.Credit.Outcome), Why: l.Credit.Why}
			if l.Saved > 0 {
				saved := timeOf(l.Saved)
				out.SavedAt = &saved
			}
			return out
		}),
		Scorings: each(t.Scorings, func(s read.Scoring) contract.TrailScoring {
			out := contract.TrailScoring{Kind: contract.TrailScoringKind(s.Kind), At: timeOf(s.At), Final: s.Final, Raw: s.Raw, Band: s.Band}
			if s.Band >= 0 && s.Band < len(s.Cuts) {
				out.Cut = new(float64(s.Cuts[s.Band]) / 100)
			}
			return out
		})}), nil
}

func (h *readHandlers) ListLedger(ctx context.Context, r contract.ListLedgerRequestObject) (contract.ListLedgerResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p := r.Params
	entries, err := h.app.Record.Ledger(ctx, v, record.LedgerQuery{Before: value(p.Before), Thing: value(p.Thing), ThingID: value(p.ThingId), Words: value(p.Words), Limit: value(p.Limit)})
	return contract.ListLedger200JSONResponse(each(entries, func(e ledger.Entry) contract.LedgerEntry {
		return contract.LedgerEntry{Number: e.Number, At: e.At, Actor: e.Actor, Act: e.Act, Did: desk.Spoken(e.Act), Thing: e.Thing, ThingId: e.ThingID, Title: e.Title, Before: e.Before, After: e.After, Hash: e.Hash}
	})), err
}
