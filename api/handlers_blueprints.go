package api

import (
	"context"

	"pineledger/app"
	"pineledger/core/roster"
	"pineledger/store"
)

func keptOut(v roster.Viewer, b store.KeptBlueprint) KeptBlueprint {
	return KeptBlueprint{Id: b.ID, Title: b.Title, Subject: b.Subject, Grades: jsonStrings(b.Grades), School: b.School, Rows: b.RowCount,
		Version: b.Version, ChangedAt: timeOf(b.ChangedAt), ChangedBy: b.ChangedBy, MayChange: v.MayChange(b.Owned()), Own: b.SchoolID == v.HomeSchool()}
}

func (h *handlers) ListBlueprints(ctx context.Context, r ListBlueprintsRequestObject) (ListBlueprintsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.KeptBlueprints(ctx, v, value(r.Params.Words), value(r.Params.Subject))
	return ListBlueprints200JSONResponse(each(list, func(b store.KeptBlueprint) KeptBlueprint { return keptOut(v, b) })), err
}

func (h *handlers) KeepBlueprint(ctx context.Context, r KeepBlueprintRequestObject) (KeepBlueprintResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	b, err := h.app.KeepBlueprint(ctx, v, r.Body.AssessmentId, r.Body.Title, value(r.Body.Replace))
	if err != nil {
		return nil, err
	}
	return KeepBlueprint200JSONResponse(keptOut(v, b)), nil
}

func (h *handlers) GetKeptRows(ctx context.Context, r GetKeptRowsRequestObject) (GetKeptRowsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	rows, err := h.app.KeptRows(ctx, v, r.Id)
	return GetKeptRows200JSONResponse(each(rows, func(r app.RowInput) BlueprintRowInput {
		return BlueprintRowInput{Title: r.Title, Filter: filterOf(r.Filter), ByPoints: r.ByPoints, Min: r.Min, Max: r.Max}
	})), err
}

func (h *handlers) DropBlueprint(ctx context.Context, r DropBlueprintRequestObject) (DropBlueprintResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	return DropBlueprint204Response{}, h.app.DropBlueprint(ctx, v, r.Id, r.Params.IfMatch)
}
