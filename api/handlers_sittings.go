package api

import (
	"context"
	"time"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app/bank"
	"pineledger/app/give"
	"pineledger/app/take"
	"pineledger/core/attempt"
	"pineledger/core/item"
)

func sittingOf(s take.Sitting) contract.Sitting {
	out := contract.Sitting{Id: s.ID, AssessmentId: s.AssessmentID, DistributionId: s.DistributionID, Title: s.Title, SectionId: s.SectionID, Section: s.Section,
		School: s.School, Grade: s.Grade, Door: contract.SittingDoor(s.Door), OpensAt: timeOf(s.OpensAt), ClosesAt: timeOf(s.ClosesAt), Minutes: s.Setup.V.Minutes(),
		Seats: s.Seats, Begun: s.Begun, Done: s.Done}
	if s.DoorUntil > 0 {
		until := timeOf(s.DoorUntil)
		out.ClosesByItselfAt = &until
	}
	if s.Makeup {
		out.Makeup = &contract.MakeupRoom{RoomId: s.RoomID, Room: s.Room, Proctor: s.Proctor}
	}
	return out
}

func makeupOf(m give.Makeup) contract.Makeup {
	return contract.Makeup{RoomId: m.RoomID, SittingId: m.SittingID, Room: m.Name, Proctor: m.Proctor, OpensAt: timeOf(m.OpensAt), ClosesAt: timeOf(m.ClosesAt),
		Sections: m.Sections, Students: m.Students, Done: m.Done}
}

func (h *takeHandlers) GetToday(ctx context.Context, _ contract.GetTodayRequestObject) (contract.GetTodayResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	t, err := h.app.Today(ctx, v)
	if err != nil {
		return nil, err
	}
	out := contract.Today{Sittings: each(t.Sittings, sittingOf), Drafts: each(t.Drafts, assessmentListed), Results: each(t.Results, resultListed),
		Reports: each(t.Reports, reportOf), Offers: each(t.Offers, offerOf), Notices: each(t.Notices, func(n bank.Notice) contract.Notice {
			return contract.Notice{Id: n.ID, Words: n.Words, Path: n.Path, At: timeOf(n.At)}
		})}
	if m := t.Mail; m.Waiting+m.Failed > 0 {
		out.Mail = &contract.MailStanding{Waiting: m.Waiting, Failed: m.Failed, Why: m.Why}
	}
	return contract.GetToday200JSONResponse(out), nil
}

func (h *officeHandlers) RetryMail(ctx context.Context, _ contract.RetryMailRequestObject) (contract.RetryMailResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.RetryMail204Response{}, h.app.Office.RetryMail(ctx, v)
}

func unseated(u take.Unseated) contract.Unseated {
	return contract.Unseated{StudentId: u.StudentID, Number: u.Number, Name: u.Family + ", " + u.Given}
}

func roomOf(r take.Room) contract.Room {
	return contract.Room{Sitting: sittingOf(r.Sitting), Lines: r.Lines, Recorded: r.Recorded, CodeAsked: r.CodeAsked, Code: r.Sitting.Code, Notes: r.Notes, Managed: r.Managed, Late: r.Late, Pad: r.Pad, MayEnd: r.MayEnd, MaySubstitute: r.MaySubstitute, Makeups: each(r.Makeups, makeupOf), Unseated: each(r.Unseated, unseated), Seats: each(r.Seats, func(s take.RoomSeat) contract.RoomSeat {
		out := contract.RoomSeat{Supports: each(s.Supports, givenSupport), StudentId: s.StudentID, SittingId: s.SittingID, Section: s.Section, Form: s.Letter, Lines: s.Lines, Number: s.Number, Name: s.Family + ", " + s.Given, State: contract.RoomSeatState(attemptState(s.State)), Answered: s.Answered, Late: s.Late, LeftOut: s.LeftOut}
		if s.SavedAt != nil {
			saved := timeOf(*s.SavedAt)
			out.SavedAt = &saved
		}
		if !s.EndsAt.IsZero() {
			ends := s.EndsAt.UTC()
			out.EndsAt = &ends
		}
		return out
	})}
}

// attemptState is how screens tell a state; "" is an attempt that does not exist yet.
func attemptState(state attempt.State) string {
	switch state {
	case "":
		return "not begun"
	case attempt.HandedIn, attempt.Scored:
		return "handed in"
	}
	return string(state)
}

func (h *takeHandlers) GetRoom(ctx context.Context, r contract.GetRoomRequestObject) (contract.GetRoomResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	room, err := h.app.Take.Room(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.GetRoom200JSONResponse(roomOf(room)), nil
}

func (h *takeHandlers) MoveDoor(ctx context.Context, r contract.MoveDoorRequestObject) (contract.MoveDoorResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	room, err := h.app.Take.MoveDoor(ctx, v, r.Id, attempt.DoorState(r.Body.Door))
	if err != nil {
		return nil, err
	}
	return contract.MoveDoor200JSONResponse(roomOf(room)), nil
}

func (h *takeHandlers) KeepDoorOpen(ctx context.Context, r contract.KeepDoorOpenRequestObject) (contract.KeepDoorOpenResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	room, err := h.app.Take.KeepOpen(ctx, v, r.Id, r.Body.UntilClosed)
	if err != nil {
		return nil, err
	}
	return contract.KeepDoorOpen200JSONResponse(roomOf(room)), nil
}

func (h *takeHandlers) GetBells(ctx context.Context, r contract.GetBellsRequestObject) (contract.GetBellsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	b, err := h.app.Take.Bells(ctx, v, r.Id)
	return contract.GetBells200JSONResponse{Text: b.Text, MayChange: b.MayChange}, err
}

func (h *takeHandlers) PutBells(ctx context.Context, r contract.PutBellsRequestObject) (contract.PutBellsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	b, err := h.app.Take.PutBells(ctx, v, r.Id, r.Body.Text, r.Body.Was)
	return contract.PutBells200JSONResponse{Text: b.Text, MayChange: b.MayChange}, err
}

func (h *takeHandlers) ListMySittings(ctx context.Context, _ contract.ListMySittingsRequestObject) (contract.ListMySittingsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Take.MySittings(ctx, v)
	return contract.ListMySittings200JSONResponse(each(list, func(s take.MySitting) contract.MySitting {
		var room *string
		if s.Makeup {
			room = &s.Room
		}
		return contract.MySitting{Room: room, Id: s.ID, Title: s.ShortTitle, Section: s.Section, Door: string(s.Door), State: contract.MySittingState(attemptState(s.State)),
			OpensAt: timeOf(s.OpensAt), ClosesAt: s.Setup.V.Ends.UTC(), Minutes: s.Minutes,
			Try: s.Try, Tries: s.Setup.V.Tries(), Practice: h.app.Take.MayPractice(s.StudentSitting)}
	})), err
}

func takeOf(t take.TakeView) contract.Take {
	out := contract.Take{AttemptId: t.Attempt.ID, Student: t.Attempt.Student, StudentId: t.Attempt.StudentID, Count: t.Count, Minutes: t.Minutes, LeftSeconds: int(t.Left / time.Second), Title: t.Title, Instructions: t.Instructions, State: contract.TakeState(attemptState(t.Attempt.State)),
		Now: t.Now.UTC(), End: t.End.UTC(), Limited: t.Limited, Stopped: t.Stopped, StoppedBy: contract.TakeStoppedBy(t.StoppedBy), Lines: []contract.TakeLine{}, Parts: each(t.Parts, testPart), Passages: []contract.Passage{}}
	if len(t.Lines) > 0 {
		out.Passages = each(t.Passages, passage)
	}
	if d := t.Document; d != nil {
		out.Document = &contract.KeyedDocument{Name: d.Name, Hash: d.Hash, Pages: d.Pages}
	}
	if !t.DoorCloses.IsZero() {
		closes := t.DoorCloses.UTC()
		out.DoorClosesAt = &closes
	}
	out.Elsewhere = elsewhere(t.Elsewhere)
	out.How, out.Try, out.MayRetake = howOf(t.How), t.Try, t.MayRetake
	if len(t.Asides) > 0 {
		asides := each(t.Asides, func(a take.Aside) contract.Aside {
			return contract.Aside{Line: a.Line, Tool: contract.AsideTool(a.Tool), Number: a.Number, Value: a.Value}
		})
		out.Asides = &asides
	}
	for _, l := range t.Lines {
		line := contract.TakeLine{Line: l.Line, Part: l.Part, Shown: shown(l.Item), Passage: l.Passage, Response: contract.Response{}, Without: someOf(l.Without)}
		if l.Answer != nil {
			line.Response, line.Marked, line.Number, line.Done = contract.Response(l.Answer.Response.V), l.Answer.Marked, l.Answer.Number, &l.Answer.Done
		}
		out.Lines = append(out.Lines, line)
	}
	return out
}

func (h *takeHandlers) OpenAttempt(ctx context.Context, r contract.OpenAttemptRequestObject) (contract.OpenAttemptResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	t, err := h.app.Take.Open(ctx, v, r.Id, value(r.Params.Device), edge.Managed(ctx))
	if err != nil {
		return nil, err
	}
	if t.Attempt.Student == "" {
		t.Attempt.Student = v.Name
	}
	return contract.OpenAttempt200JSONResponse(takeOf(t)), nil
}

func (h *takeHandlers) BeginAttempt(ctx context.Context, r contract.BeginAttemptRequestObject) (contract.BeginAttemptResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	entry := take.Entry{Managed: edge.Managed(ctx)}
	if r.Body != nil {
		entry.Code = value(r.Body.Code)
	}
	t, err := h.app.Take.Begin(ctx, v, r.Id, entry)
	if err != nil {
		return nil, err
	}
	return contract.BeginAttempt200JSONResponse(takeOf(t)), nil
}

func (h *takeHandlers) SaveAnswers(ctx context.Context, r contract.SaveAnswersRequestObject) (contract.SaveAnswersResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	saved, err := h.app.Take.SaveAnswers(ctx, v, r.Id, value(r.Params.Device), each(r.Body.Answers, answered))
	if err != nil {
		return nil, err
	}
	return contract.SaveAnswers200JSONResponse{SavedAt: saved.At.UTC(), Elsewhere: elsewhere(saved.Elsewhere), Refused: each(saved.Refused, func(a take.RefusedAnswer) contract.RefusedAnswer {
		return contract.RefusedAnswer{Line: a.Line, Message: a.Message}
	})}, nil
}

func answered(a contract.Answer) take.Answered {
	return take.Answered{Line: a.Line, Number: a.Number, Response: item.Response(a.Response), Marked: a.Marked, Done: value(a.Done)}
}

func elsewhere(at time.Time) *contract.Elsewhere {
	if at.IsZero() {
		return nil
	}
	return &contract.Elsewhere{At: at.UTC()}
}

func (h *takeHandlers) AddSeat(ctx context.Context, r contract.AddSeatRequestObject) (contract.AddSeatResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	room, err := h.app.Take.Seat(ctx, v, r.Id, r.Body.StudentId)
	if err != nil {
		return nil, err
	}
	return contract.AddSeat200JSONResponse(roomOf(room)), nil
}

func (h *takeHandlers) OfferLate(ctx context.Context, r contract.OfferLateRequestObject) (contract.OfferLateResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	waiting, err := h.app.Take.OfferLate(ctx, v, r.Id, each(r.Body.Answers, answered))
	return contract.OfferLate200JSONResponse{Waiting: waiting}, err
}

func lateOf(l take.Late) contract.Late {
	return contract.Late{AttemptId: l.AttemptID, StudentId: l.StudentID, Student: l.Student, HandedInAt: l.HandedIn.UTC(), Decided: l.Decided, Counts: l.Counts,
		Lines: each(l.Lines, func(x take.LateLine) contract.LateLine {
			return contract.LateLine{Line: x.Line, Before: append([]string{}, x.Before...), Came: append([]string{}, x.Came...), At: x.At, InTime: x.InTime}
		})}
}

func (h *takeHandlers) ListLateAnswers(ctx context.Context, r contract.ListLateAnswersRequestObject) (contract.ListLateAnswersResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Take.LateAnswers(ctx, v, r.Id)
	return contract.ListLateAnswers200JSONResponse(each(list, lateOf)), err
}

func (h *takeHandlers) DecideLate(ctx context.Context, r contract.DecideLateRequestObject) (contract.DecideLateResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	if err := h.app.Take.DecideLate(ctx, v, r.Id, r.Attempt, r.Body.Count); err != nil {
		return nil, err
	}
	list, err := h.app.Take.LateAnswers(ctx, v, r.Id)
	return contract.DecideLate200JSONResponse(each(list, lateOf)), err
}

func (h *takeHandlers) HandIn(ctx context.Context, r contract.HandInRequestObject) (contract.HandInResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	t, err := h.app.Take.HandIn(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	h.sessions.HandedIn(ctx)
	return contract.HandIn200JSONResponse(takeOf(t)), nil
}

func recordingOf(r take.RecordView) contract.Recording {
	return contract.Recording{AttemptId: r.AttemptID, Student: r.Student, Title: r.Title, State: contract.RecordingState(attemptState(r.State)), Stopped: r.Stopped,
		Mixed: append([]int{}, r.Mixed...), Lines: each(r.Lines, func(l take.RecordLine) contract.RecordLine {
			return contract.RecordLine{Line: l.Line, Shown: shown(l.Shown), Directions: l.Directions, Right: l.Right, Recorded: l.Recorded, Number: l.Number}
		})}
}

func (h *takeHandlers) BeginRecording(ctx context.Context, r contract.BeginRecordingRequestObject) (contract.BeginRecordingResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	view, err := h.app.Take.BeginRecording(ctx, v, r.Id, r.Student)
	return contract.BeginRecording200JSONResponse(recordingOf(view)), err
}

func (h *takeHandlers) RecordAnswer(ctx context.Context, r contract.RecordAnswerRequestObject) (contract.RecordAnswerResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	at, err := h.app.Take.RecordAnswer(ctx, v, r.Id, r.Student, r.Body.Line, string(r.Body.Recorded), r.Body.Number)
	return contract.RecordAnswer200JSONResponse{SavedAt: at.UTC()}, err
}

func (h *takeHandlers) HandInRecorded(ctx context.Context, r contract.HandInRecordedRequestObject) (contract.HandInRecordedResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	view, err := h.app.Take.HandInFor(ctx, v, r.Id, r.Student)
	return contract.HandInRecorded200JSONResponse(recordingOf(view)), err
}

func howOf(h take.How) contract.How {
	t, b := h.Tools, h.Begins
	return contract.How{Directions: h.Directions, Notes: h.Notes, Code: h.Code, OnePage: h.OnePage, ForwardOnly: h.ForwardOnly, AfterEach: append([]string{}, h.AfterEach...), Printing: h.Printing,
		Breaks: h.Breaks, BreaksLeft: h.BreaksLeft, BreakMinutes: h.BreakMinutes, Tries: h.Tries, Penalty: h.Penalty, Supports: each(h.Supports, givenSupport),
		Begins: contract.ScreenBegins{Print: b.Print, Colors: b.Colors, EasyType: b.EasyType, Language: b.Language, Speaks: b.Speaks, Still: b.Still, Switch: contract.ScreenBeginsSwitch(b.Switch)},
		Tools: contract.Tools{Marks: t.Marks, Calculator: contract.ToolsCalculator(t.Calculator), StrikeOut: t.StrikeOut, LineReader: t.LineReader, ScratchPad: t.ScratchPad, Zoom: t.Zoom, Colors: t.Colors,
			EasyType: t.EasyType, Highlighter: t.Highlighter, Masking: t.Masking, AnswerMasking: t.AnswerMasking, Glossary: t.Glossary, Dictionary: t.Dictionary, Spelling: t.Spelling,
			TimesTable: t.TimesTable, Ruler: t.Ruler, Protractor: t.Protractor,
			ReadAloud: each(t.ReadAloud, func(part string) contract.ToolsReadAloud { return contract.ToolsReadAloud(part) })}}
}

func (h *takeHandlers) RenewCode(ctx context.Context, r contract.RenewCodeRequestObject) (contract.RenewCodeResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	room, err := h.app.Take.RenewCode(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.RenewCode200JSONResponse(roomOf(room)), nil
}

func (h *takeHandlers) TakeBreak(ctx context.Context, r contract.TakeBreakRequestObject) (contract.TakeBreakResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	t, err := h.app.Take.Break(ctx, v, r.Id, r.Body.Resting)
	if err != nil {
		return nil, err
	}
	return contract.TakeBreak200JSONResponse(takeOf(t)), nil
}

func (h *takeHandlers) KeepAsides(ctx context.Context, r contract.KeepAsidesRequestObject) (contract.KeepAsidesResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.KeepAsides204Response{}, h.app.Take.KeepAsides(ctx, v, r.Id, each(r.Body.Asides, func(a contract.Aside) take.Aside {
		return take.Aside{Line: a.Line, Tool: string(a.Tool), Number: a.Number, Value: a.Value}
	}))
}

func (h *takeHandlers) GetPad(ctx context.Context, r contract.GetPadRequestObject) (contract.GetPadResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p, err := h.app.Take.PadOf(ctx, v, r.Id, r.Student)
	if err != nil {
		return nil, err
	}
	return contract.GetPad200JSONResponse{Student: p.Student, Notes: p.Notes, Drawing: p.Drawing}, nil
}
