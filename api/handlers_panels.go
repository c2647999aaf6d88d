package api

import (
	"bytes"
	"context"
	"slices"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app/panels"
	"pineledger/core/form"
	"pineledger/core/panel"
	"pineledger/core/predict"
)

func (h *panelHandlers) ListPanels(ctx context.Context, _ contract.ListPanelsRequestObject) (contract.ListPanelsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	listed, err := h.app.Panels.Listed(ctx, v)
	return contract.ListPanels200JSONResponse(each(listed, panelListed)), err
}

func panelListed(p panels.Listed) contract.PanelListed {
	return contract.PanelListed{Id: p.ID, Title: p.Title, AssessmentId: p.AssessmentID, Edition: p.Edition, Method: contract.PanelMethod(p.Method), Chair: p.Chair,
		At: timeOf(p.At), Ended: p.EndedAt != nil, Judges: p.Panel.Judges, Rounds: p.Rounds, Chairs: p.Chairs, Judging: p.Judges}
}

func (h *panelHandlers) BeginPanel(ctx context.Context, r contract.BeginPanelRequestObject) (contract.BeginPanelResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p, err := h.app.Panels.Begin(ctx, v, panels.Beginning{Assessment: r.Body.AssessmentId, Title: r.Body.Title, Method: panel.Method(r.Body.Method),
		Probability: value(r.Body.Probability), Judges: r.Body.Judges})
	if err != nil {
		return nil, err
	}
	return contract.BeginPanel200JSONResponse(panelOf(p)), nil
}

func (h *panelHandlers) GetPanel(ctx context.Context, r contract.GetPanelRequestObject) (contract.GetPanelResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p, err := h.app.Panels.Open(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.GetPanel200JSONResponse(panelOf(p)), nil
}

func panelOf(p panels.Opened) contract.Panel {
	number := map[int64]int{}
	for _, j := range p.Judges {
		number[j.PersonID] = j.Number
	}
	return contract.Panel{Panel: panelListed(panels.Listed{Panel: p.Panel, Chairs: p.MayLead}), Probability: p.Probability, MayLead: p.MayLead, Cuts: p.Cuts, Total: p.Total, Because: p.Because,
		Lines: each(p.Lines, func(l form.Line) contract.PanelLineHead {
			return contract.PanelLineHead{Identifier: l.Identifier, Stem: l.Item.Stem(), Points: l.Points}
		}),
		Judges: each(p.Judges, func(j panels.Judge) contract.PanelJudge {
			return contract.PanelJudge{PersonId: j.PersonID, Name: j.Name, Number: j.Number, LeftAt: optionalTime(j.LeftAt), LeftWhy: j.LeftWhy}
		}),
		Rounds: each(p.Rounds, func(t panels.Told) contract.PanelRound {
			return contract.PanelRound{Number: t.Number, Name: t.Name, Training: t.Training, OpenedAt: timeOf(t.OpenedAt), ClosedAt: optionalTime(t.ClosedAt), FeedbackAt: optionalTime(t.FeedbackAt),
				Works: each(t.Works, func(s panels.Standing) contract.PanelStanding {
					return contract.PanelStanding{Given: s.Given, Of: s.Of, Done: s.Done}
				}),
				Remarks: each(panels.Remarks(p, t), func(s string) string { return s }), Result: panelResult(p.Cuts, &t.Result, t.Shares, -1)}
		}),
		Notes: each(p.Notes, func(n panels.JudgeNote) contract.PanelNote { return panelNote(n, number[n.PersonID]) })}
}

func panelNote(n panels.JudgeNote, judge int) contract.PanelNote {
	return contract.PanelNote{Judge: judge, Line: n.Line + 1, Words: n.Words, At: timeOf(n.At)}
}

// panelResult gives values without whose they are; own is the place of one's own among them, -1 for none.
func panelResult(names []string, r *panel.Round, shares []predict.Share, own int) *contract.PanelResult {
	if r == nil || len(r.Cuts) == 0 {
		return nil
	}
	out := contract.PanelResult{Shares: each(shares, func(s predict.Share) contract.PanelShare { return contract.PanelShare{Name: s.Name, Share: s.Share} }),
		Lines: each(r.Lines, func(l panel.Rated) contract.PanelRated {
			return contract.PanelRated{Mean: l.Mean, Sd: each(l.SD, func(sd *float64) float64 {
				if sd == nil {
					return -1
				}
				return *sd
			})}
		})}
	for i, c := range r.Cuts {
		cut := contract.PanelCut{Name: names[i], Values: slices.Sorted(slices.Values(c.Values)), Mean: c.Mean, Median: c.Median, Sd: c.SD, Se: c.SE, Low: c.Low, High: c.High, Theta: c.Theta,
			Raw: c.Raw, MedianRaw: c.MedianRaw, PercentTenths: c.Tenths}
		if own >= 0 {
			cut.Own = &c.Values[own]
		}
		out.Cuts = append(out.Cuts, cut)
	}
	return &out
}

func (h *panelHandlers) InviteJudges(ctx context.Context, r contract.InviteJudgesRequestObject) (contract.InviteJudgesResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p, err := h.app.Panels.Invite(ctx, v, r.Id, r.Body.Judges)
	if err != nil {
		return nil, err
	}
	return contract.InviteJudges200JSONResponse(panelOf(p)), nil
}

func (h *panelHandlers) MoveJudge(ctx context.Context, r contract.MoveJudgeRequestObject) (contract.MoveJudgeResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p, err := h.app.Panels.Leave(ctx, v, r.Id, r.Person, !r.Body.Left, r.Body.Why)
	if err != nil {
		return nil, err
	}
	return contract.MoveJudge200JSONResponse(panelOf(p)), nil
}

func (h *panelHandlers) OpenRound(ctx context.Context, r contract.OpenRoundRequestObject) (contract.OpenRoundResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p, err := h.app.Panels.OpenRound(ctx, v, r.Id, r.Body.Training)
	if err != nil {
		return nil, err
	}
	return contract.OpenRound200JSONResponse(panelOf(p)), nil
}

func (h *panelHandlers) MoveRound(ctx context.Context, r contract.MoveRoundRequestObject) (contract.MoveRoundResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p, err := h.app.Panels.MoveRound(ctx, v, r.Id, r.Round, panels.Move(r.Body.To))
	if err != nil {
		return nil, err
	}
	return contract.MoveRound200JSONResponse(panelOf(p)), nil
}

func (h *panelHandlers) EndPanel(ctx context.Context, r contract.EndPanelRequestObject) (contract.EndPanelResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p, err := h.app.Panels.End(ctx, v, r.Id, r.Body.Ended)
	if err != nil {
		return nil, err
	}
	return contract.EndPanel200JSONResponse(panelOf(p)), nil
}

func (h *panelHandlers) TakePanelCuts(ctx context.Context, r contract.TakePanelCutsRequestObject) (contract.TakePanelCutsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	set, err := h.app.Panels.Take(ctx, v, r.Id, panels.Taking{Round: r.Body.Round, Median: r.Body.Median, Set: value(r.Body.BandSetId), Name: value(r.Body.Name)})
	if err != nil {
		return nil, err
	}
	return contract.TakePanelCuts200JSONResponse(bandSetOf(v, set)), nil
}

func (h *panelHandlers) PanelReportPdf(ctx context.Context, r contract.PanelReportPdfRequestObject) (contract.PanelReportPdfResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	data, err := h.app.Panels.ReportPDF(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.PanelReportPdf200ApplicationpdfResponse{Body: bytes.NewReader(data), ContentLength: int64(len(data))}, nil
}

func (h *panelHandlers) PanelReportCsv(ctx context.Context, r contract.PanelReportCsvRequestObject) (contract.PanelReportCsvResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	data, err := h.app.Panels.ReportCSV(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.PanelReportCsv200TextcsvResponse{Body: bytes.NewReader(data), ContentLength: int64(len(data))}, nil
}

func (h *panelHandlers) GetPanelAsked(ctx context.Context, r contract.GetPanelAskedRequestObject) (contract.GetPanelAskedResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	a, err := h.app.Panels.Asked(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.GetPanelAsked200JSONResponse(contract.PanelAsked{Panel: panelListed(panels.Listed{Panel: a.Panel, Judges: true}), Probability: a.Probability, Cuts: a.Cuts, Total: a.Total,
		Passages: each(a.Passages, passage),
		Lines: each(a.Lines, func(l form.Line) contract.PanelLine {
			return contract.PanelLine{Identifier: l.Identifier, Points: l.Points, Shown: shown(l.Item.Shown(l.Language)), Key: l.Item.KeyShort(), Keys: keysOf(l.Item), Passage: l.Passage}
		}),
		Booklet: each(a.Booklet, func(e panel.Entry) contract.PanelEntry {
			return contract.PanelEntry{Line: e.Line + 1, Level: e.Level, Location: e.Location}
		})}), nil
}

func (h *panelHandlers) GetPanelWork(ctx context.Context, r contract.GetPanelWorkRequestObject) (contract.GetPanelWorkResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	w, err := h.app.Panels.Work(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.GetPanelWork200JSONResponse(contract.PanelWork{Left: w.Left, Ended: w.Ended,
		Notes: each(w.Notes, func(n panels.JudgeNote) contract.PanelNote { return panelNote(n, 0) }),
		Rounds: each(w.Rounds, func(s panels.Seen) contract.PanelOwnRound {
			return contract.PanelOwnRound{Number: s.Number, Name: s.Name, Training: s.Training, OpenedAt: timeOf(s.OpenedAt), ClosedAt: optionalTime(s.ClosedAt), FeedbackAt: optionalTime(s.FeedbackAt),
				Ratings: each(s.Own.Ratings, func(r []int) []int { return r }), Marks: append([]int{}, s.Own.Marks...), Given: s.Given, Of: s.Of, Done: s.Own.Done,
				Result: panelResult(w.Cuts, s.Result, s.Shares, s.OwnAt)}
		})}), nil
}

func (h *panelHandlers) GivePanelWork(ctx context.Context, r contract.GivePanelWorkRequestObject) (contract.GivePanelWorkResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	given := each(r.Body.Given, func(g contract.PanelGiven) panels.Given {
		return panels.Given{Cut: g.Cut, Line: g.Line, Value: g.Value}
	})
	return contract.GivePanelWork204Response{}, h.app.Panels.Give(ctx, v, r.Id, r.Round, given)
}

func (h *panelHandlers) PutPanelDone(ctx context.Context, r contract.PutPanelDoneRequestObject) (contract.PutPanelDoneResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.PutPanelDone204Response{}, h.app.Panels.PutDone(ctx, v, r.Id, r.Round, r.Body.Done)
}

func (h *panelHandlers) PutPanelNote(ctx context.Context, r contract.PutPanelNoteRequestObject) (contract.PutPanelNoteResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.PutPanelNote204Response{}, h.app.Panels.PutNote(ctx, v, r.Id, r.Line-1, r.Body.Words)
}
