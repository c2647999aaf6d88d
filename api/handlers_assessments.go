package api

import (
	"context"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app/build"
	"pineledger/core/band"
	"pineledger/core/bank"
	"pineledger/core/blueprint"
	"pineledger/core/form"
	"pineledger/core/points"
	"pineledger/core/roster"
)

func assessmentListed(a build.AssessmentListed) contract.AssessmentListed {
	return contract.AssessmentListed{Id: a.ID, Title: a.Title, Subject: a.Subject, Grades: listed(a.Grades), Purpose: a.Purpose, Course: a.Course, Labels: listed(a.Labels), Year: a.Year, State: string(a.Shown()),
		Edition: a.Edition, OwnerId: a.OwnerID, Owner: a.Owner, Lines: a.Lines, Points: points.Points(a.Points), ChangedAt: timeOf(a.ChangedAt), ChangedBy: a.ChangedBy}
}

func (h *buildHandlers) ListAssessments(ctx context.Context, r contract.ListAssessmentsRequestObject) (contract.ListAssessmentsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p := r.Params
	f := build.AssessmentFilter{Words: value(p.Words), Grade: value(p.Grade), Subject: value(p.Subject), Course: value(p.Course), Year: value(p.Year),
		State: string(value(p.State)), Label: value(p.Label), OpenedFirst: value(p.Sort) == contract.Opened}
	f.OwnerID = value(p.Owner)
	if value(p.Mine) {
		f.OwnerID = v.PersonID
	}
	list, err := h.app.Build.Assessments(ctx, v, f)
	return contract.ListAssessments200JSONResponse(each(list, assessmentListed)), err
}

func outlineIn(o *contract.Outline) build.Outline {
	return build.Outline{Title: o.Title, ShortTitle: o.ShortTitle, Description: o.Description, Instructions: o.Instructions, Subject: o.Subject,
		Grades: o.Grades, Purpose: o.Purpose, Language: o.Language, Year: o.Year, Course: value(o.Course), Labels: value(o.Labels)}
}

func (h *buildHandlers) StartAssessment(ctx context.Context, r contract.StartAssessmentRequestObject) (contract.StartAssessmentResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Build.StartAssessment(ctx, v, outlineIn(r.Body))
	if err != nil {
		return nil, err
	}
	return contract.StartAssessment200JSONResponse(sheet(v, s)), nil
}

func (h *buildHandlers) GetSheet(ctx context.Context, r contract.GetSheetRequestObject) (contract.GetSheetResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Build.Sheet(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.GetSheet200JSONResponse(sheet(v, s)), nil
}

func (h *buildHandlers) PutOutline(ctx context.Context, r contract.PutOutlineRequestObject) (contract.PutOutlineResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Build.PutOutline(ctx, v, r.Id, r.Params.IfMatch, outlineIn(r.Body))
	if err != nil {
		return nil, err
	}
	return contract.PutOutline200JSONResponse(sheet(v, s)), nil
}

func (h *buildHandlers) PutLines(ctx context.Context, r contract.PutLinesRequestObject) (contract.PutLinesResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	lines := each(r.Body.Lines, func(l contract.LineInput) build.LineInput {
		return build.LineInput{ItemID: l.ItemId, VersionID: value(l.VersionId), Points: l.Points, Part: value(l.Part), Pool: value(l.Pool), Without: value(l.Without)}
	})
	var s build.Sheet
	if layout := r.Body.Layout; layout != nil {
		s, err = h.app.Build.PutLayout(ctx, v, r.Id, r.Params.IfMatch, lines, layoutIn(*layout))
	} else {
		s, err = h.app.Build.PutLines(ctx, v, r.Id, r.Params.IfMatch, lines)
	}
	if err != nil {
		return nil, err
	}
	return contract.PutLines200JSONResponse(sheet(v, s)), nil
}

func layoutIn(l contract.Layout) form.Layout {
	return form.Layout{Parts: each(l.Parts, func(p contract.TestPart) form.Part {
		return form.Part{Title: p.Title, Directions: p.Directions, Calculator: p.Calculator}
	}), Pools: each(l.Pools, func(p contract.Pool) form.Pool { return form.Pool{Title: p.Title, Choose: p.Choose} })}
}

func testPart(p form.Part) contract.TestPart {
	return contract.TestPart{Title: p.Title, Directions: p.Directions, Calculator: p.Calculator}
}

func layoutOut(l form.Layout) contract.Layout {
	return contract.Layout{Parts: each(l.Parts, testPart), Pools: each(l.Pools, func(p form.Pool) contract.Pool { return contract.Pool{Title: p.Title, Choose: p.Choose} })}
}

func (h *buildHandlers) PutBlueprint(ctx context.Context, r contract.PutBlueprintRequestObject) (contract.PutBlueprintResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	rows := each(r.Body.Rows, func(row contract.BlueprintRowInput) build.RowInput {
		return build.RowInput{Title: row.Title, Filter: filterIn(row.Filter), ByPoints: row.ByPoints, Min: row.Min, Max: row.Max}
	})
	s, err := h.app.Build.PutBlueprint(ctx, v, r.Id, r.Params.IfMatch, rows)
	if err != nil {
		return nil, err
	}
	return contract.PutBlueprint200JSONResponse(sheet(v, s)), nil
}

func (h *buildHandlers) SealAssessment(ctx context.Context, r contract.SealAssessmentRequestObject) (contract.SealAssessmentResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Build.Seal(ctx, v, r.Id, r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	return contract.SealAssessment200JSONResponse(sheet(v, s)), nil
}

func (h *buildHandlers) BeginEdition(ctx context.Context, r contract.BeginEditionRequestObject) (contract.BeginEditionResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Build.NewEdition(ctx, v, r.Id, r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	return contract.BeginEdition200JSONResponse(sheet(v, s)), nil
}

func (h *buildHandlers) ShelveAssessment(ctx context.Context, r contract.ShelveAssessmentRequestObject) (contract.ShelveAssessmentResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Build.Shelve(ctx, v, r.Id, r.Params.IfMatch, r.Body.Shelved)
	if err != nil {
		return nil, err
	}
	return contract.ShelveAssessment200JSONResponse(sheet(v, s)), nil
}

func (h *buildHandlers) DeleteAssessment(ctx context.Context, r contract.DeleteAssessmentRequestObject) (contract.DeleteAssessmentResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.DeleteAssessment204Response{}, h.app.Build.Delete(ctx, v, r.Id, r.Params.IfMatch)
}

func labelsOf(list []string) *[]string {
	labels := listed(list)
	return &labels
}

func (h *buildHandlers) ListSubjects(ctx context.Context, _ contract.ListSubjectsRequestObject) (contract.ListSubjectsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Subjects(ctx, v)
	return contract.ListSubjects200JSONResponse(list), err
}

func (h *buildHandlers) ListPurposes(ctx context.Context, _ contract.ListPurposesRequestObject) (contract.ListPurposesResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Purposes(ctx, v)
	return contract.ListPurposes200JSONResponse(list), err
}

func (h *buildHandlers) PutPurposes(ctx context.Context, r contract.PutPurposesRequestObject) (contract.PutPurposesResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.PutPurposes(ctx, v, r.Body.Purposes)
	return contract.PutPurposes200JSONResponse(list), err
}

func sheet(v roster.Viewer, s build.Sheet) contract.Sheet {
	a := s.Assessment
	out := contract.Sheet{Id: a.ID, Version: a.Version, State: contract.SheetState(a.Shown()), Edition: a.Edition, MayChange: s.MayChange, MaySend: s.MaySend, MayCopy: s.MayCopy, MayPrint: s.MayPrint,
		Shares: each(a.Shares, shareOf), ChangedAt: timeOf(a.ChangedAt), ChangedBy: a.ChangedBy,
		Outline: contract.Outline{Title: a.Title, ShortTitle: a.ShortTitle, Description: a.Description, Instructions: a.Instructions, Subject: a.Subject,
			Grades: listed(a.Grades), Purpose: a.Purpose, Language: a.Language, Year: a.Year, Course: &a.Course, Labels: labelsOf(a.Labels)},
		Lines: each(s.Lines, lineOf), Layout: layoutOut(s.Layout), Worth: append([]points.Points{}, s.Worth...), Each: s.Each, Total: s.Total, Rows: each(s.Rows, rowOf), Shortage: s.Shortage, Excess: s.Excess,
		PoolStates: each(s.Pools, func(p build.SheetPool) contract.PoolState {
			return contract.PoolState{Lines: p.Lines, Points: p.Points, Counts: append([]int{}, p.Counts...)}
		}),
		Forms: each(s.Forms, func(f build.Assessment) contract.TwinForm {
			return contract.TwinForm{Id: f.ID, Letter: f.FormLetter, Title: f.Title, State: string(f.State)}
		}),
		Sittings: each(s.Sittings, sittingOf), Faults: append([]string{}, s.Faults...), CutsFault: some(s.CutsFault), Reported: each(s.Reported, reportedOf), ReportedFault: some(s.ReportedFault),
		Parts: each(s.Parts, func(p build.Part) contract.Part {
			return contract.Part{Name: p.Name, State: p.State, Status: contract.PartStatus(p.Status)}
		})}
	if s.Document != nil {
		out.Document = &contract.KeyedDocument{Name: s.Document.Name, Hash: s.Document.Hash, Pages: s.Document.Pages}
		key := each(s.Key, keyRowOf)
		out.Key = &key
	}
	if l := s.Link; l != nil {
		out.Link = &contract.Link{Copy: l.Copy, Print: l.Print, MadeBy: l.MadeBy, MadeAt: timeOf(l.MadeAt)}
	}
	if s.CopiedFrom != nil {
		out.CopiedFrom = &contract.AssessmentNamed{Id: s.CopiedFrom.ID, Title: s.CopiedFrom.Title}
	}
	if s.BandSet != nil {
		set := bandSetOf(v, *s.BandSet)
		out.BandSet = &set
		if len(s.NewerBands) > 0 {
			out.NewerBands = &s.NewerBands
		}
	}
	if s.Cuts != nil {
		cuts := cutsOf(*s.Cuts)
		out.Cuts = &cuts
	}
	if s.Form != nil {
		sealed := timeOf(s.Form.SealedAt)
		out.Fingerprint, out.SealedAt = &s.Form.Fingerprint, &sealed
	}
	return out
}

func lineTool(t build.LineTool) contract.LineTool {
	return contract.LineTool{Key: t.Key, Name: t.Name, Words: some(t.Words)}
}

func lineOf(l build.SheetLine) contract.Line {
	out := contract.Line{ItemId: l.ItemID, VersionId: l.ID, Version: l.Number, NewestVersion: l.Newest, Identifier: l.Identifier, Kind: l.Kind, Stem: l.Stem,
		Standards: codes(l.Standards), Depth: l.Depth, Language: l.Language, Passage: l.Passage, Points: points.Points(l.Points), Key: l.KeyShort, Row: l.Row, Part: l.Part, Pool: l.Line.Pool, NewestVersionId: l.NewestID, Own: l.Own, Unconfirmed: l.Unconfirmed, Editor: some(l.Editor), Cautions: l.Cautions, PassageId: l.PassageID}
	if l.Without != "" {
		out.Withheld = new(each(build.ToolsOf(l.Without), lineTool))
	}
	if l.OriginID > 0 {
		out.Origin = &contract.ItemOrigin{ItemId: l.OriginID, Identifier: l.OriginIdentifier, Version: l.OriginNumber}
	}
	if l.Difficulty != nil {
		d := int(*l.Difficulty)
		out.Difficulty = &d
	}
	return out
}

func rowOf(r build.SheetRow) contract.BlueprintRow {
	return contract.BlueprintRow{Title: r.Title, Filter: filterOf(r.Filter), ByPoints: r.ByPoints, Min: r.Min, Max: r.Max, Placed: r.Balance.Placed, Balance: r.Balance.Balance}
}

func filterOf(f blueprint.Filter) contract.BlueprintFilter {
	out := contract.BlueprintFilter{Standards: someOf(f.Standards), Kinds: someOf(f.Kinds), Depth: someOf(f.Depth), Language: some(f.Language), Tags: someOf(f.Tags), Without: someOf(f.Without), Banks: someOf(f.Banks)}
	if f.Difficulty != nil {
		ends := []int{f.Difficulty[0], f.Difficulty[1]}
		out.Difficulty = &ends
	}
	return out
}

func filterIn(f contract.BlueprintFilter) blueprint.Filter {
	out := blueprint.Filter{Standards: value(f.Standards), Kinds: value(f.Kinds), Depth: value(f.Depth), Language: value(f.Language), Tags: value(f.Tags), Without: value(f.Without), Banks: value(f.Banks)}
	out.Difficulty = difficultyIn(f.Difficulty, value(f.Ease))
	return out
}

// difficultyIn gives a range of difficulty, or the one that a label stands for.
func difficultyIn[E ~string](ends *[]int, ease E) *[2]int {
	switch {
	case ends != nil:
		return &[2]int{(*ends)[0], (*ends)[1]}
	case ease != "":
		from, to := bank.Ease(ease).Range()
		return &[2]int{from, to}
	}
	return nil
}

// someOf is a list that may be left out.
func someOf[T any](list []T) *[]T {
	if list == nil {
		return nil
	}
	return &list
}

func cutsOf(c band.Cuts) contract.Cuts {
	starts := make([]contract.CutStart, len(c.Starts))
	for i, rounded := range c.Rounded() {
		s := c.Starts[i]
		starts[i] = contract.CutStart{Name: s.Name, Raw: s.Raw, PercentTenths: s.PercentTenths, Scale: s.Scale, Rounded: rounded}
	}
	return contract.Cuts{Total: c.Total, Grain: c.Grain, Starts: starts,
		Cautions: each(c.Cautions, func(k band.Caution) contract.Caution {
			return contract.Caution{Kind: contract.CautionKind(k.Kind), Bands: k.Bands}
		})}
}
