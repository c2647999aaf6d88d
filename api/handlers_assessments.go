package api

import (
	"context"

	"pineledger/app"
	"pineledger/core/band"
	"pineledger/core/bank"
	"pineledger/core/blueprint"
	"pineledger/core/form"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
)

func bandSetOf(v roster.Viewer, s store.BandSet) BandSet {
	return BandSet{Id: s.ID, Version: s.Version, Name: s.Name, Subject: s.Subject, Grades: jsonStrings(s.Grades), Rule: BandSetRule(s.Rule), Uses: s.Uses,
		MayChange: v.MayChange(roster.Owned{OwnerID: s.OwnerID, SchoolID: s.SchoolID}), ChangedBy: s.ChangedBy,
		Bands: each(app.CoreBands(s.Bands), func(b band.Band) Band {
			return Band{Name: b.Name, Cut: Cut{Percent: b.Cut.Percent, Raw: b.Cut.Raw, Of: b.Cut.Of}}
		})}
}

func bandSetInput(in *BandSetInput, version int) app.BandSetInput {
	return app.BandSetInput{Name: in.Name, Subject: in.Subject, Grades: in.Grades, Rule: band.Rule(in.Rule), Version: version,
		Bands: each(in.Bands, func(b Band) band.Band {
			return band.Band{Name: b.Name, Cut: band.Cut{Percent: b.Cut.Percent, Raw: b.Cut.Raw, Of: b.Cut.Of}}
		})}
}

func (h *handlers) ListBandSets(ctx context.Context, _ ListBandSetsRequestObject) (ListBandSetsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	sets, err := h.app.BandSets(ctx, v)
	return ListBandSets200JSONResponse(each(sets, func(s store.BandSet) BandSet { return bandSetOf(v, s) })), err
}

func (h *handlers) AddBandSet(ctx context.Context, r AddBandSetRequestObject) (AddBandSetResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.PutBandSet(ctx, v, 0, bandSetInput(r.Body, 0))
	if err != nil {
		return nil, err
	}
	return AddBandSet200JSONResponse(bandSetOf(v, s)), nil
}

func (h *handlers) GetBandSet(ctx context.Context, r GetBandSetRequestObject) (GetBandSetResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.BandSet(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return GetBandSet200JSONResponse(bandSetOf(v, s)), nil
}

func (h *handlers) PutBandSet(ctx context.Context, r PutBandSetRequestObject) (PutBandSetResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.PutBandSet(ctx, v, r.Id, bandSetInput(r.Body, r.Params.IfMatch))
	if err != nil {
		return nil, err
	}
	return PutBandSet200JSONResponse(bandSetOf(v, s)), nil
}

func assessmentListed(a store.AssessmentListed) AssessmentListed {
	return AssessmentListed{Id: a.ID, Title: a.Title, Subject: a.Subject, Grades: jsonStrings(a.Grades), Purpose: a.Purpose, Course: a.Course, Labels: jsonStrings(a.Labels), Year: a.Year, State: a.State,
		Edition: a.Edition, OwnerId: a.OwnerID, Owner: a.Owner, Lines: a.Lines, Points: points.Points(a.Points), ChangedAt: timeOf(a.ChangedAt), ChangedBy: a.ChangedBy}
}

func (h *handlers) ListAssessments(ctx context.Context, r ListAssessmentsRequestObject) (ListAssessmentsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	p := r.Params
	f := store.AssessmentFilter{Words: value(p.Words), Grade: value(p.Grade), Subject: value(p.Subject), Course: value(p.Course), Year: value(p.Year),
		State: string(value(p.State)), Label: value(p.Label), OpenedFirst: value(p.Sort) == Opened}
	f.OwnerID = value(p.Owner)
	if value(p.Mine) {
		f.OwnerID = v.PersonID
	}
	list, err := h.app.Assessments(ctx, v, f)
	return ListAssessments200JSONResponse(each(list, assessmentListed)), err
}

func outlineIn(o *Outline) app.Outline {
	return app.Outline{Title: o.Title, ShortTitle: o.ShortTitle, Description: o.Description, Instructions: o.Instructions, Subject: o.Subject,
		Grades: o.Grades, Purpose: o.Purpose, Language: o.Language, Year: o.Year, Course: value(o.Course), Labels: value(o.Labels)}
}

func (h *handlers) StartAssessment(ctx context.Context, r StartAssessmentRequestObject) (StartAssessmentResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.StartAssessment(ctx, v, outlineIn(r.Body))
	if err != nil {
		return nil, err
	}
	return StartAssessment200JSONResponse(sheet(v, s)), nil
}

func (h *handlers) GetSheet(ctx context.Context, r GetSheetRequestObject) (GetSheetResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Sheet(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return GetSheet200JSONResponse(sheet(v, s)), nil
}

func (h *handlers) PutOutline(ctx context.Context, r PutOutlineRequestObject) (PutOutlineResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.PutOutline(ctx, v, r.Id, r.Params.IfMatch, outlineIn(r.Body))
	if err != nil {
		return nil, err
	}
	return PutOutline200JSONResponse(sheet(v, s)), nil
}

func (h *handlers) PutLines(ctx context.Context, r PutLinesRequestObject) (PutLinesResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	lines := each(r.Body.Lines, func(l LineInput) app.LineInput {
		return app.LineInput{ItemID: l.ItemId, VersionID: value(l.VersionId), Points: l.Points, Part: value(l.Part), Pool: value(l.Pool)}
	})
	var s app.Sheet
	if layout := r.Body.Layout; layout != nil {
		s, err = h.app.PutLayout(ctx, v, r.Id, r.Params.IfMatch, lines, layoutIn(*layout))
	} else {
		s, err = h.app.PutLines(ctx, v, r.Id, r.Params.IfMatch, lines)
	}
	if err != nil {
		return nil, err
	}
	return PutLines200JSONResponse(sheet(v, s)), nil
}

func layoutIn(l Layout) form.Layout {
	return form.Layout{Parts: each(l.Parts, func(p TestPart) form.Part {
		return form.Part{Title: p.Title, Directions: p.Directions, Calculator: p.Calculator}
	}), Pools: each(l.Pools, func(p Pool) form.Pool { return form.Pool{Title: p.Title, Choose: p.Choose} })}
}

func testPart(p form.Part) TestPart {
	return TestPart{Title: p.Title, Directions: p.Directions, Calculator: p.Calculator}
}

func layoutOut(l form.Layout) Layout {
	return Layout{Parts: each(l.Parts, testPart), Pools: each(l.Pools, func(p form.Pool) Pool { return Pool{Title: p.Title, Choose: p.Choose} })}
}

func (h *handlers) PutBlueprint(ctx context.Context, r PutBlueprintRequestObject) (PutBlueprintResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	rows := each(r.Body.Rows, func(row BlueprintRowInput) app.RowInput {
		return app.RowInput{Title: row.Title, Filter: filterIn(row.Filter), ByPoints: row.ByPoints, Min: row.Min, Max: row.Max}
	})
	s, err := h.app.PutBlueprint(ctx, v, r.Id, r.Params.IfMatch, rows)
	if err != nil {
		return nil, err
	}
	return PutBlueprint200JSONResponse(sheet(v, s)), nil
}

func (h *handlers) ChooseBands(ctx context.Context, r ChooseBandsRequestObject) (ChooseBandsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.ChooseBands(ctx, v, r.Id, r.Params.IfMatch, r.Body.BandSetId)
	if err != nil {
		return nil, err
	}
	return ChooseBands200JSONResponse(sheet(v, s)), nil
}

func (h *handlers) SealAssessment(ctx context.Context, r SealAssessmentRequestObject) (SealAssessmentResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Seal(ctx, v, r.Id, r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	return SealAssessment200JSONResponse(sheet(v, s)), nil
}

func (h *handlers) BeginEdition(ctx context.Context, r BeginEditionRequestObject) (BeginEditionResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.NewEdition(ctx, v, r.Id, r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	return BeginEdition200JSONResponse(sheet(v, s)), nil
}

func labelsOf(list string) *[]string {
	labels := jsonStrings(list)
	return &labels
}

func (h *handlers) ListPurposes(ctx context.Context, _ ListPurposesRequestObject) (ListPurposesResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Purposes(ctx, v)
	return ListPurposes200JSONResponse(list), err
}

func (h *handlers) PutPurposes(ctx context.Context, r PutPurposesRequestObject) (PutPurposesResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.PutPurposes(ctx, v, r.Body.Purposes)
	return PutPurposes200JSONResponse(list), err
}

func sheet(v roster.Viewer, s app.Sheet) Sheet {
	a := s.Assessment
	out := Sheet{Id: a.ID, Version: a.Version, State: SheetState(a.State), Edition: a.Edition, MayChange: s.MayChange, MaySend: s.MaySend, MayCopy: s.MayCopy, MayPrint: s.MayPrint,
		Shares: each(a.Shares, shareOf), ChangedAt: timeOf(a.ChangedAt), ChangedBy: a.ChangedBy,
		Outline: Outline{Title: a.Title, ShortTitle: a.ShortTitle, Description: a.Description, Instructions: a.Instructions, Subject: a.Subject,
			Grades: jsonStrings(a.Grades), Purpose: a.Purpose, Language: a.Language, Year: a.Year, Course: &a.Course, Labels: labelsOf(a.Labels)},
		Lines: each(s.Lines, lineOf), Layout: layoutOut(s.Layout), Worth: append([]points.Points{}, s.Worth...), Each: s.Each, Total: s.Total, Rows: each(s.Rows, rowOf), Shortage: s.Shortage, Excess: s.Excess,
		PoolStates: each(s.Pools, func(p app.SheetPool) PoolState {
			return PoolState{Lines: p.Lines, Points: p.Points, Counts: append([]int{}, p.Counts...)}
		}),
		Forms: each(s.Forms, func(f store.Assessment) TwinForm {
			return TwinForm{Id: f.ID, Letter: f.FormLetter, Title: f.Title, State: f.State}
		}),
		Sittings: each(s.Sittings, sittingOf), Faults: append([]string{}, s.Faults...), CutsFault: some(s.CutsFault),
		Parts: each(s.Parts, func(p app.Part) Part { return Part{Name: p.Name, State: p.State, Status: PartStatus(p.Status)} })}
	if s.Document != nil {
		out.Document = &KeyedDocument{Name: s.Document.Name, Hash: s.Document.Hash, Pages: s.Document.Pages}
		key := each(s.Key, keyRowOf)
		out.Key = &key
	}
	if l := s.Link; l != nil {
		out.Link = &Link{Copy: l.Copy, Print: l.Print, MadeBy: l.MadeBy, MadeAt: timeOf(l.MadeAt)}
	}
	if s.CopiedFrom != nil {
		out.CopiedFrom = &AssessmentNamed{Id: s.CopiedFrom.ID, Title: s.CopiedFrom.Title}
	}
	if s.BandSet != nil {
		set := bandSetOf(v, *s.BandSet)
		out.BandSet = &set
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

func lineOf(l app.SheetLine) Line {
	out := Line{ItemId: l.ItemID, VersionId: l.ID, Version: l.Number, NewestVersion: l.Newest, Identifier: l.Identifier, Kind: l.Kind, Stem: l.Stem,
		Standards: codes(l.Standards), Depth: l.Depth, Language: l.Language, Passage: l.Passage, Points: points.Points(l.Points), Key: l.KeyShort, Row: l.Row, Part: l.Part, Pool: l.Line.Pool, NewestVersionId: l.NewestID, Own: l.Own, Unconfirmed: l.Unconfirmed, Editor: some(l.Editor)}
	if l.OriginID > 0 {
		out.Origin = &ItemOrigin{ItemId: l.OriginID, Identifier: l.OriginIdentifier, Version: l.OriginNumber}
	}
	if l.Difficulty.Valid {
		d := int(l.Difficulty.Int64)
		out.Difficulty = &d
	}
	return out
}

func rowOf(r app.SheetRow) BlueprintRow {
	return BlueprintRow{Title: r.Title, Filter: filterOf(r.Filter), ByPoints: r.ByPoints, Min: r.Min, Max: r.Max, Placed: r.Balance.Placed, Balance: r.Balance.Balance}
}

func filterOf(f blueprint.Filter) BlueprintFilter {
	out := BlueprintFilter{Standards: someOf(f.Standards), Kinds: someOf(f.Kinds), Depth: someOf(f.Depth), Language: some(f.Language), Tags: someOf(f.Tags), Without: someOf(f.Without), Banks: someOf(f.Banks)}
	if f.Difficulty != nil {
		ends := []int{f.Difficulty[0], f.Difficulty[1]}
		out.Difficulty = &ends
	}
	return out
}

func filterIn(f BlueprintFilter) blueprint.Filter {
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

func cutsOf(c band.Cuts) Cuts {
	return Cuts{Total: c.Total, Grain: c.Grain,
		Starts:   each(c.Starts, func(s band.Start) CutStart { return CutStart{Name: s.Name, Raw: s.Raw, PercentTenths: s.PercentTenths} }),
		Cautions: each(c.Cautions, func(k band.Caution) Caution { return Caution{Kind: CautionKind(k.Kind), Bands: k.Bands} })}
}

func distributionOf(d app.DistributionView) Distribution {
	return Distribution{Version: d.Distribution.Version, Sections: d.Targets.Sections, LeftOut: d.Targets.LeftOut, Opens: d.Opens, Closes: d.Closes,
		Minutes: d.Distribution.Minutes, Candidates: each(d.Candidates, sectionOf), SectionCount: d.Sections, StudentCount: d.Students,
		Findings: each(d.Findings, func(f roster.Finding) Finding {
			return Finding{Code: f.Code, Severity: FindingSeverity(f.Severity), Text: f.Text, Part: f.Part}
		})}
}

func (h *handlers) GetDistribution(ctx context.Context, r GetDistributionRequestObject) (GetDistributionResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Distribution(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return GetDistribution200JSONResponse(distributionOf(d)), nil
}

func (h *handlers) PutDistribution(ctx context.Context, r PutDistributionRequestObject) (PutDistributionResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.PutDistribution(ctx, v, r.Id, app.DistributionInput{Sections: r.Body.Sections, LeftOut: r.Body.LeftOut,
		Opens: r.Body.Opens, Closes: r.Body.Closes, Minutes: r.Body.Minutes, Version: r.Params.IfMatch})
	if err != nil {
		return nil, err
	}
	return PutDistribution200JSONResponse(distributionOf(d)), nil
}

func (h *handlers) SendDistribution(ctx context.Context, r SendDistributionRequestObject) (SendDistributionResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Send(ctx, v, r.Id, r.Params.IfMatch, r.Body.Reasons)
	if err != nil {
		return nil, err
	}
	return SendDistribution200JSONResponse(sheet(v, s)), nil
}
