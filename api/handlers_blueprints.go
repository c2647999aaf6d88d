package api

import (
	"context"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app/build"
	"pineledger/core/roster"
)

func keptOut(v roster.Viewer, b build.KeptBlueprint) contract.KeptBlueprint {
	return contract.KeptBlueprint{Id: b.ID, Title: b.Title, Subject: b.Subject, Grades: listed(b.Grades), School: b.School, Rows: b.RowCount,
		Version: b.Version, ChangedAt: timeOf(b.ChangedAt), ChangedBy: b.ChangedBy, MayChange: v.MayChange(b.Owned()), Own: b.SchoolID == v.HomeSchool()}
}

func (h *buildHandlers) ListBlueprints(ctx context.Context, r contract.ListBlueprintsRequestObject) (contract.ListBlueprintsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Plans.KeptBlueprints(ctx, v, value(r.Params.Words), value(r.Params.Subject))
	return contract.ListBlueprints200JSONResponse(each(list, func(b build.KeptBlueprint) contract.KeptBlueprint { return keptOut(v, b) })), err
}

func (h *buildHandlers) KeepBlueprint(ctx context.Context, r contract.KeepBlueprintRequestObject) (contract.KeepBlueprintResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	b, err := h.app.Plans.KeepBlueprint(ctx, v, r.Body.AssessmentId, r.Body.Title, value(r.Body.Replace))
	if err != nil {
		return nil, err
	}
	return contract.KeepBlueprint200JSONResponse(keptOut(v, b)), nil
}

func (h *buildHandlers) GetKeptRows(ctx context.Context, r contract.GetKeptRowsRequestObject) (contract.GetKeptRowsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	rows, err := h.app.Plans.KeptRows(ctx, v, r.Id)
	return contract.GetKeptRows200JSONResponse(each(rows, func(r build.RowInput) contract.BlueprintRowInput {
		return contract.BlueprintRowInput{Title: r.Title, Filter: filterOf(r.Filter), ByPoints: r.ByPoints, Min: r.Min, Max: r.Max}
	})), err
}

func (h *buildHandlers) DropBlueprint(ctx context.Context, r contract.DropBlueprintRequestObject) (contract.DropBlueprintResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.DropBlueprint204Response{}, h.app.Plans.DropBlueprint(ctx, v, r.Id, r.Params.IfMatch)
}
