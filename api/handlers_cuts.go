package api

import (
	"context"
	"fmt"
	"math"
	"mime"
	"time"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app/build"
	"pineledger/app/cuts"
	"pineledger/app/read"
	"pineledger/core/band"
	"pineledger/core/form"
	"pineledger/core/official"
	"pineledger/core/points"
	"pineledger/core/predict"
	"pineledger/core/roster"
)

func bandSetOf(v roster.Viewer, s build.BandSet) contract.BandSet {
	whose := build.WhoseIs(s)
	return contract.BandSet{Id: s.ID, Version: s.Version, Name: s.Name, Whose: contract.BandSetWhose(whose), Of: map[build.Whose]string{build.OfSchool: s.School, build.OfPerson: s.Owner}[whose], Subject: s.Subject, Grades: listed(s.Grades), Year: s.Year, Rule: contract.BandSetRule(s.Rule), Uses: s.Uses,
		MayChange: v.MayChange(s.Owned()), ChangedBy: s.ChangedBy, LockedBy: s.LockedBy, LockedAt: optionalTime(s.LockedAt), Own: s.Own, Course: s.Course, Purpose: s.Purpose, Retired: s.Retired, Stands: s.Stands, Least: points.Points(s.Least),
		Bands: bandsOf(build.CoreBands(s.Bands))}
}

func bandsOf(bands []band.Band) []contract.Band {
	return each(bands, func(b band.Band) contract.Band { return contract.Band{Name: b.Name, Cut: cutOf(b.Cut)} })
}

func cutOf(c band.Cut) contract.Cut {
	out := contract.Cut{Percent: c.Percent, Raw: c.Raw, Of: c.Of, Scale: c.Scale}
	if s := c.Source; s != nil {
		out.Source = &contract.CutSource{TableId: s.Table, Raw: s.Raw}
	}
	return out
}

func bandSetInput(in *contract.BandSetInput, version int) build.BandSetInput {
	return build.BandSetInput{Whose: build.Whose(value(in.Whose)), School: value(in.School), Name: in.Name, Subject: in.Subject, Grades: in.Grades, Course: value(in.Course), Year: value(in.Year), Purpose: value(in.Purpose), Rule: band.Rule(in.Rule), Version: version, Locked: value(in.Locked), Bands: bandsIn(in.Bands),
		Least: points.Points(math.Round(value(in.Least) * 100))}
}

func bandsIn(bands []contract.Band) []band.Band {
	return each(bands, func(b contract.Band) band.Band {
		out := band.Band{Name: b.Name, Cut: band.Cut{Percent: b.Cut.Percent, Raw: b.Cut.Raw, Of: b.Cut.Of, Scale: b.Cut.Scale}}
		if s := b.Cut.Source; s != nil {
			out.Cut.Source = &band.Source{Table: s.TableId, Raw: s.Raw}
		}
		return out
	})
}

func (h *cutsHandlers) ListBandSets(ctx context.Context, r contract.ListBandSetsRequestObject) (contract.ListBandSetsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	sets, err := h.app.Plans.BandSets(ctx, v, value(r.Params.Assessment))
	return contract.ListBandSets200JSONResponse(each(sets, func(s build.OfferedSet) contract.BandSet {
		out := bandSetOf(v, s.BandSet)
		out.Fits, out.Why = s.Match.Fits, s.Match.Why
		return out
	})), err
}

func (h *cutsHandlers) AddBandSet(ctx context.Context, r contract.AddBandSetRequestObject) (contract.AddBandSetResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Plans.PutBandSet(ctx, v, 0, bandSetInput(r.Body, 0))
	if err != nil {
		return nil, err
	}
	return contract.AddBandSet200JSONResponse(bandSetOf(v, s)), nil
}

func (h *cutsHandlers) GetBandSet(ctx context.Context, r contract.GetBandSetRequestObject) (contract.GetBandSetResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Plans.BandSet(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.GetBandSet200JSONResponse(bandSetOf(v, s)), nil
}

func (h *cutsHandlers) PutBandSet(ctx context.Context, r contract.PutBandSetRequestObject) (contract.PutBandSetResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Plans.PutBandSet(ctx, v, r.Id, bandSetInput(r.Body, r.Params.IfMatch))
	if err != nil {
		return nil, err
	}
	return contract.PutBandSet200JSONResponse(bandSetOf(v, s)), nil
}

func (h *cutsHandlers) RetireBandSet(ctx context.Context, r contract.RetireBandSetRequestObject) (contract.RetireBandSetResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Plans.RetireBandSet(ctx, v, r.Id, r.Body.Retired)
	if err != nil {
		return nil, err
	}
	return contract.RetireBandSet200JSONResponse(bandSetOf(v, s)), nil
}

func (h *cutsHandlers) ChooseBands(ctx context.Context, r contract.ChooseBandsRequestObject) (contract.ChooseBandsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Build.ChooseBands(ctx, v, r.Id, r.Params.IfMatch, r.Body.BandSetId)
	if err != nil {
		return nil, err
	}
	return contract.ChooseBands200JSONResponse(sheet(v, s)), nil
}

func (h *cutsHandlers) PutCuts(ctx context.Context, r contract.PutCutsRequestObject) (contract.PutCutsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Build.PutCuts(ctx, v, r.Id, r.Params.IfMatch, bandsIn(r.Body.Bands), band.Rule(value(r.Body.Rule)))
	if err != nil {
		return nil, err
	}
	return contract.PutCuts200JSONResponse(sheet(v, s)), nil
}

func (h *cutsHandlers) ForecastCuts(ctx context.Context, r contract.ForecastCutsRequestObject) (contract.ForecastCutsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	q := cuts.Question{Rule: band.Rule(value(r.Body.Rule)), School: value(r.Body.School), Assumed: cuts.Assumed{Mean: r.Body.Mean, SD: r.Body.Sd}}
	if r.Body.Bands != nil {
		q.Bands = bandsIn(*r.Body.Bands)
	}
	f, err := h.app.Cuts.Forecast(ctx, v, r.Id, q)
	if err != nil {
		return nil, err
	}
	return contract.ForecastCuts200JSONResponse(forecastOf(f)), nil
}

func forecastOf(f cuts.Forecast) contract.Forecast {
	out := contract.Forecast{Cuts: cutsOf(f.Cuts), Scaled: f.Known.Scaled, Many: f.Known.Many, Few: f.Known.Few, Author: f.Known.Author, Unknown: f.Known.Unknown,
		Students: f.Students, Placed: f.Placed, SmallSchools: f.SmallOnes, Because: f.Because,
		Off: each(f.Off, func(o official.Off) contract.OffCut {
			return contract.OffCut{Band: o.Band, Raw: o.Raw, Nearest: each(o.Nearest, officialChoice)}
		}),
		Sources: each(f.Sources, func(s cuts.Taken) contract.CutSourceTold {
			return contract.CutSourceTold{Band: s.Band, TableId: s.Table.ID, Test: s.Table.Test, Grade: s.Table.Grade, Year: s.Table.Year, OfficialBand: s.Official, Raw: s.Raw, Of: points.Points(s.Table.Most)}
		})}
	if p := f.Prediction; p != nil {
		all, schools := outlookOf(p.All), each(p.Groups, outlookOf)
		for i := range schools {
			schools[i].Id = &f.Groups[i]
		}
		scores := each(p.All.Distribution, func(c predict.Chance) contract.ScoreShare { return contract.ScoreShare{Raw: c.Raw, Share: c.Share} })
		out.All, out.Schools, out.Scores = &all, &schools, &scores
	}
	if f.Observed != nil {
		all, schools := observedOf(*f.Observed), each(f.Schools, observedOf)
		out.Observed, out.ObservedSchools = &all, &schools
	}
	return out
}

func outlookOf(o predict.Outlook) contract.Outlook {
	out := contract.Outlook{Name: o.Name, Students: o.N, Mean: o.Mean, Sd: o.SD, Accuracy: o.Accuracy, Consistency: o.Consistency,
		Bands: each(o.Bands, func(b predict.Share) contract.BandOutlook {
			return contract.BandOutlook{Name: b.Name, Share: b.Share, Count: b.Count, Low: b.Low, High: b.High}
		})}
	for _, near := range o.Near {
		for i, b := range out.Bands {
			if b.Name == near.Band {
				out.Bands[i].Near = &near.Share
			}
		}
	}
	return out
}

func officialChoice(c official.Choice) contract.OfficialChoice {
	return contract.OfficialChoice{TableId: c.Table, Band: c.Band, Raw: c.Raw, Of: c.Of, Percent: c.Percent(), Here: float64(c.Here) / 100, Test: c.Test, Grade: c.Grade, Year: c.Year, Line: c.Line, Cut: cutOf(c.As)}
}

func observedOf(t predict.Tallied) contract.Observed {
	out := contract.Observed{Name: t.Name, Students: t.N}
	for _, b := range t.Bands {
		out.Bands = append(out.Bands, struct {
			Count int     `json:"count"`
			Name  string  `json:"name"`
			Share float64 `json:"share"`
		}{b.Count, b.Name, b.Share})
	}
	return out
}

func (h *cutsHandlers) CutsHistory(ctx context.Context, r contract.CutsHistoryRequestObject) (contract.CutsHistoryResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	past, err := h.app.Cuts.History(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.CutsHistory200JSONResponse(historyOf(past)), nil
}

func historyOf(h cuts.History) contract.CutsHistory {
	return contract.CutsHistory{Edition: h.Edition, MayChange: h.MayChange, Versions: each(h.Versions, func(v cuts.Version) contract.CutsVersion {
		return contract.CutsVersion{Id: v.ID, At: timeOf(v.At), By: v.By, Reason: v.Reason, Changed: v.Changed, Bands: bandsOf(v.Bands), Cuts: cutsOf(v.Cuts)}
	})}
}

func (h *cutsHandlers) WeighRecut(ctx context.Context, r contract.WeighRecutRequestObject) (contract.WeighRecutResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	m, err := h.app.Cuts.Weigh(ctx, v, r.Id, bandsIn(r.Body.Bands), cuts.MostNamed)
	if err != nil {
		return nil, err
	}
	return contract.WeighRecut200JSONResponse(contract.CutsMoves{Bands: m.Bands, Moves: m.Moves, Results: m.Results, Beyond: m.Beyond, Waiting: m.Waiting, Changed: m.Changed,
		Schools: each(m.Schools, func(s cuts.MovedSchool) contract.MovedSchool {
			return contract.MovedSchool{Name: s.Name, Results: s.Results, Higher: s.Higher, Lower: s.Lower}
		}),
		Students: each(m.Students, func(s cuts.MovedStudent) contract.MovedStudent {
			return contract.MovedStudent{Student: s.Student, Number: s.Number, School: s.School, Section: s.Section, Raw: points.Points(s.Raw), From: s.From, To: s.To}
		})}), nil
}

func (h *cutsHandlers) ExportMoved(ctx context.Context, r contract.ExportMovedRequestObject) (contract.ExportMovedResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	m, err := h.app.Cuts.Weigh(ctx, v, r.Id, bandsIn(r.Body.Bands), -1)
	if err != nil {
		return nil, err
	}
	body, err := csvBody([]string{"Student", "Number", "School", "Section", "Points", "From", "To"}, each(m.Students, func(s cuts.MovedStudent) []string {
		return []string{s.Student, s.Number, s.School, s.Section, points.Points(s.Raw).String(), m.Bands[s.From], m.Bands[s.To]}
	}))
	name := mime.FormatMediaType("attachment", map[string]string{"filename": "Students whose band would change.csv"})
	return contract.ExportMoved200TextcsvResponse{Body: body, Headers: contract.ExportMoved200ResponseHeaders{ContentDisposition: &name}}, err
}

func (h *cutsHandlers) Recut(ctx context.Context, r contract.RecutRequestObject) (contract.RecutResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	past, err := h.app.Cuts.Recut(ctx, v, r.Id, cuts.Change{Bands: bandsIn(r.Body.Bands), Reason: r.Body.Reason, From: r.Body.From})
	if err != nil {
		return nil, err
	}
	return contract.Recut200JSONResponse(historyOf(past)), nil
}

func (h *cutsHandlers) ListNearCuts(ctx context.Context, r contract.ListNearCutsRequestObject) (contract.ListNearCutsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	near, err := h.app.Cuts.Near(ctx, v, r.Id, cuts.MostNamed)
	if err != nil {
		return nil, err
	}
	return contract.ListNearCuts200JSONResponse(each(near, func(n cuts.Near) contract.NearCut {
		return contract.NearCut{Band: n.Band, Cut: n.Cut, Error: n.Error, Count: n.Count, Students: each(n.Students, func(s cuts.Holder) contract.NearStudent {
			return contract.NearStudent{Student: s.Student, Number: s.Number, School: s.School, Section: s.Section, Raw: points.Points(s.Raw)}
		})}
	})), nil
}

func calibrationOf(c cuts.Calibration) contract.Calibration {
	out := contract.Calibration{Id: c.ID, State: contract.CalibrationState(c.State), Why: c.Why, Attempts: c.Attempts, Items: c.Items, Drifted: c.Drifted, Read: c.Read, Of: c.Of,
		EndedAt: optionalTime(c.EndedAt), By: c.By}
	if c.ID == 0 {
		out.State = contract.CalibrationStateNone
	}
	return out
}

func (h *cutsHandlers) GetCalibration(ctx context.Context, r contract.GetCalibrationRequestObject) (contract.GetCalibrationResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	c, err := h.app.Cuts.NewestCalibration(ctx, v, r.Params.Subject)
	if err != nil {
		return nil, err
	}
	return contract.GetCalibration200JSONResponse(calibrationOf(c)), nil
}

// calibrationWait is how long an answer waits for a calibration that is soon done.
const calibrationWait = 800 * time.Millisecond

func (h *cutsHandlers) Calibrate(ctx context.Context, r contract.CalibrateRequestObject) (contract.CalibrateResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	c, err := h.app.Cuts.Calibrate(ctx, v, r.Body.Subject, calibrationWait)
	if err != nil {
		return nil, err
	}
	return contract.Calibrate200JSONResponse(calibrationOf(c)), nil
}

func (h *cutsHandlers) CancelCalibration(ctx context.Context, r contract.CancelCalibrationRequestObject) (contract.CancelCalibrationResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	c, err := h.app.Cuts.CancelCalibration(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.CancelCalibration200JSONResponse(calibrationOf(c)), nil
}

func (h *cutsHandlers) ListBandSetUses(ctx context.Context, r contract.ListBandSetUsesRequestObject) (contract.ListBandSetUsesResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	uses, err := h.app.Plans.BandSetUses(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.ListBandSetUses200JSONResponse(each(uses, func(u build.BandSetUse) contract.BandSetUse {
		return contract.BandSetUse{AssessmentId: u.AssessmentID, Title: u.Title, State: string(u.State), Own: u.Own, Stands: u.Stands}
	})), nil
}

func (h *cutsHandlers) ChooseMastery(ctx context.Context, r contract.ChooseMasteryRequestObject) (contract.ChooseMasteryResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Build.ChooseMastery(ctx, v, r.Id, r.Params.IfMatch, r.Body.BandSetId)
	if err != nil {
		return nil, err
	}
	return contract.ChooseMastery200JSONResponse(sheet(v, s)), nil
}

func (h *cutsHandlers) GetMastery(ctx context.Context, r contract.GetMasteryRequestObject) (contract.GetMasteryResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	m, err := h.app.Build.Mastery(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	out := contract.Mastery{Newer: m.Newer, Possible: m.Possible, Standards: each(m.Told, masteryStandard)}
	if m.Set != nil {
		out.Set = new(bandSetOf(v, *m.Set))
	}
	return contract.GetMastery200JSONResponse(out), nil
}

func masteryStandard(t form.Told) contract.MasteryStandard {
	s := contract.MasteryStandard{Code: t.Code, Text: t.Text, Points: t.Points, Lines: each(t.Lines, func(l int) int { return l + 1 })}
	if t.Cuts != nil {
		s.Cuts = new(cutsOf(*t.Cuts))
	}
	return s
}

func (h *cutsHandlers) GetMasteryResults(ctx context.Context, r contract.GetMasteryResultsRequestObject) (contract.GetMasteryResultsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	m, err := h.app.Read.Mastery(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	out := contract.MasteryResults{Bands: []string{}, TooFew: each(m.TooFew, masteryStandard), Standards: each(m.Standards, func(s read.Mastered) contract.MasteredStandard {
		return contract.MasteredStandard{Standard: masteryStandard(s.Told), Bands: s.Bands, Waiting: s.Waiting}
	})}
	if m.Set != nil {
		out.Set, out.Least = m.Set.Set, m.Set.Least
		out.Bands = each(m.Set.Bands, func(b band.Band) string { return b.Name })
	}
	return contract.GetMasteryResults200JSONResponse(out), nil
}

func reportedOf(r band.Reported) contract.Reported {
	return contract.Reported{From: r.From, To: r.To, Value: r.Value}
}

func (h *cutsHandlers) PutReported(ctx context.Context, r contract.PutReportedRequestObject) (contract.PutReportedResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	ranges := each(r.Body.Reported, func(r contract.Reported) band.Reported { return band.Reported{From: r.From, To: r.To, Value: r.Value} })
	s, err := h.app.Build.PutReported(ctx, v, r.Id, r.Params.IfMatch, ranges)
	if err != nil {
		return nil, err
	}
	return contract.PutReported200JSONResponse(sheet(v, s)), nil
}

func (h *cutsHandlers) ListConversions(ctx context.Context, r contract.ListConversionsRequestObject) (contract.ListConversionsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	tables, err := h.app.Build.Conversions(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.ListConversions200JSONResponse(each(tables, func(t build.Convertible) contract.Conversion {
		return contract.Conversion{Table: officialListed(t.OfficialTable), Chosen: t.Chosen}
	})), nil
}

func (h *cutsHandlers) ChooseConversion(ctx context.Context, r contract.ChooseConversionRequestObject) (contract.ChooseConversionResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Build.ChooseConversion(ctx, v, r.Id, r.Params.IfMatch, r.Body.TableId)
	if err != nil {
		return nil, err
	}
	return contract.ChooseConversion200JSONResponse(sheet(v, s)), nil
}

func (h *cutsHandlers) ListTwinCuts(ctx context.Context, r contract.ListTwinCutsRequestObject) (contract.ListTwinCutsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	twins, err := h.app.Cuts.Twins(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.ListTwinCuts200JSONResponse(each(twins, func(t cuts.TwinForm) contract.TwinCuts {
		return contract.TwinCuts{Id: t.ID, Letter: t.Letter, Total: t.Total, Cuts: each(t.Cuts, func(c cuts.TwinCut) contract.TwinCut {
			return contract.TwinCut{Band: c.Band, Percent: c.Percent, Ability: c.Ability}
		})}
	})), nil
}

func (h *cutsHandlers) ExportNearCuts(ctx context.Context, r contract.ExportNearCutsRequestObject) (contract.ExportNearCutsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	near, err := h.app.Cuts.Near(ctx, v, r.Id, -1)
	if err != nil {
		return nil, err
	}
	var rows [][]string
	for _, n := range near {
		for _, s := range n.Students {
			rows = append(rows, []string{n.Band, n.Cut.String(), fmt.Sprintf("%.2f", n.Error), s.Student, s.Number, s.School, s.Section, points.Points(s.Raw).String()})
		}
	}
	body, err := csvBody([]string{"Band", "Cut", "Standard error", "Student", "Number", "School", "Section", "Points"}, rows)
	name := mime.FormatMediaType("attachment", map[string]string{"filename": "Students near a cut.csv"})
	return contract.ExportNearCuts200TextcsvResponse{Body: body, Headers: contract.ExportNearCuts200ResponseHeaders{ContentDisposition: &name}}, err
}
