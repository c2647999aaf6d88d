package api

import (
	"context"
	"fmt"
	"mime"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app/cuts"
	"pineledger/core/official"
	"pineledger/core/points"
)

func officialListed(t cuts.OfficialListed) contract.OfficialTable {
	return contract.OfficialTable{Id: t.ID, Test: t.Test, Subject: t.Subject, Grade: t.Grade, Year: t.Year, Source: t.Source, At: timeOf(t.At), Most: points.Points(t.Most), Bands: t.Bands}
}

func (h *cutsHandlers) ListOfficialTables(ctx context.Context, _ contract.ListOfficialTablesRequestObject) (contract.ListOfficialTablesResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	tables, err := h.app.Cuts.OfficialTables(ctx, v)
	return contract.ListOfficialTables200JSONResponse(each(tables, officialListed)), err
}

func (h *cutsHandlers) GetOfficialTable(ctx context.Context, r contract.GetOfficialTableRequestObject) (contract.GetOfficialTableResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	t, err := h.app.Cuts.OfficialTable(ctx, v, r.Id, value(r.Params.Beside))
	if err != nil {
		return nil, err
	}
	return contract.GetOfficialTable200JSONResponse{
		Table: officialListed(t.OfficialTable),
		Rows: each(t.Rows, func(row official.Row) contract.OfficialRow {
			return contract.OfficialRow{Raw: row.Raw, Scale: row.Scale, Band: row.Band, Line: row.Line}
		}),
		Cuts: each(t.Cuts, func(c official.Cut) contract.OfficialCut {
			out := contract.OfficialCut{Band: c.Band, Raw: c.Raw, Of: c.Of, Percent: c.Percent(), Scale: c.Scale, Line: c.Line}
			if before, there := t.Before[c.Band]; there {
				out.Before = new(float64(before.Percent()) / 100)
			}
			return out
		}),
		Others: each(t.Others, officialListed),
	}, nil
}

// ExportOfficialTable writes the columns that an import knows.
func (h *cutsHandlers) ExportOfficialTable(ctx context.Context, r contract.ExportOfficialTableRequestObject) (contract.ExportOfficialTableResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	t, err := h.app.Cuts.OfficialTable(ctx, v, r.Id, 0)
	if err != nil {
		return nil, err
	}
	rows := each(t.Rows, func(row official.Row) []string {
		scale := ""
		if row.Scale != nil {
			scale = row.Scale.String()
		}
		return []string{t.Test, t.Subject, t.Grade, t.Year, row.Raw.String(), scale, row.Band}
	})
	body, err := csvBody([]string{"Test", "Subject", "Grade", "Year", "Raw score", "Scale score", "Band"}, rows)
	name := mime.FormatMediaType("attachment", map[string]string{"filename": fmt.Sprintf("Official table, %s, grade %s, %s.csv", t.Subject, t.Grade, t.Year)})
	return contract.ExportOfficialTable200TextcsvResponse{Body: body, Headers: contract.ExportOfficialTable200ResponseHeaders{ContentDisposition: &name}}, err
}
