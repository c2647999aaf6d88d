package api

import (
	"context"

	"pineledger/app"
	"pineledger/core/attempt"
	"pineledger/core/item"
	"pineledger/store"
)

func sittingOf(s store.Sitting) Sitting {
	return Sitting{Id: s.ID, AssessmentId: s.AssessmentID, DistributionId: s.DistributionID, Title: s.Title, SectionId: s.SectionID, Section: s.Section,
		School: s.School, Grade: s.Grade, Door: SittingDoor(s.Door), OpensAt: timeOf(s.OpensAt), ClosesAt: timeOf(s.ClosesAt), Minutes: s.Minutes,
		Seats: s.Seats, Begun: s.Begun, Done: s.Done}
}

func (h *handlers) GetToday(ctx context.Context, _ GetTodayRequestObject) (GetTodayResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	t, err := h.app.Today(ctx, v)
	if err != nil {
		return nil, err
	}
	return GetToday200JSONResponse(Today{Sittings: each(t.Sittings, sittingOf), Drafts: each(t.Drafts, assessmentListed), Results: each(t.Results, resultListed),
		Reports: each(t.Reports, reportOf), Offers: each(t.Offers, offerOf), Notices: each(t.Notices, func(n store.Notice) Notice {
			return Notice{Id: n.ID, Words: n.Words, Path: n.Path, At: timeOf(n.At)}
		})}), nil
}

func roomOf(r app.Room) Room {
	return Room{Sitting: sittingOf(r.Sitting), Lines: r.Lines, Recorded: r.Recorded, Seats: each(r.Seats, func(s store.RoomSeat) RoomSeat {
		out := RoomSeat{StudentId: s.StudentID, Number: s.Number, Name: s.Family + ", " + s.Given, State: RoomSeatState(attemptState(s.State.String)), Answered: s.Answered}
		if s.SavedAt.Valid {
			saved := timeOf(s.SavedAt.Int64)
			out.SavedAt = &saved
		}
		return out
	})}
}

// attemptState is how screens tell a state; "" is an attempt that does not exist yet.
func attemptState(state string) string {
	switch attempt.State(state) {
	case "":
		return "not begun"
	case attempt.HandedIn, attempt.Scored:
		return "handed in"
	}
	return state
}

func (h *handlers) GetRoom(ctx context.Context, r GetRoomRequestObject) (GetRoomResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	room, err := h.app.Room(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return GetRoom200JSONResponse(roomOf(room)), nil
}

func (h *handlers) MoveDoor(ctx context.Context, r MoveDoorRequestObject) (MoveDoorResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	room, err := h.app.MoveDoor(ctx, v, r.Id, attempt.DoorState(r.Body.Door))
	if err != nil {
		return nil, err
	}
	return MoveDoor200JSONResponse(roomOf(room)), nil
}

func (h *handlers) ListMySittings(ctx context.Context, _ ListMySittingsRequestObject) (ListMySittingsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.MySittings(ctx, v)
	return ListMySittings200JSONResponse(each(list, func(s store.StudentSitting) MySitting {
		return MySitting{Id: s.ID, Title: s.ShortTitle, Section: s.Section, Door: string(s.Door), State: MySittingState(attemptState(s.State)),
			OpensAt: timeOf(s.OpensAt), ClosesAt: timeOf(s.ClosesAt), Minutes: s.Minutes}
	})), err
}

func takeOf(t app.TakeView) (Take, error) {
	out := Take{AttemptId: t.Attempt.ID, Title: t.Title, Instructions: t.Instructions, State: TakeState(attemptState(string(t.Attempt.State))),
		Now: t.Now.UTC(), End: t.End.UTC(), Limited: t.Limited, Stopped: t.Stopped, Lines: []TakeLine{}, Parts: each(t.Parts, testPart), Passages: []Passage{}}
	if len(t.Lines) > 0 {
		out.Passages = each(t.Passages, passage)
	}
	if d := t.Document; d != nil {
		out.Document = &KeyedDocument{Name: d.Name, Hash: d.Hash, Pages: d.Pages}
	}
	for _, l := range t.Lines {
		line := TakeLine{Line: l.Line, Part: l.Part, Shown: shown(l.Item), Passage: l.Passage, Response: Response{}}
		if l.Answer != nil {
			r, err := app.ReadResponse(l.Answer.Response)
			if err != nil {
				return out, err
			}
			line.Response, line.Marked, line.Number = Response(r), l.Answer.Marked, l.Answer.Number
		}
		out.Lines = append(out.Lines, line)
	}
	return out, nil
}

func (h *handlers) BeginAttempt(ctx context.Context, r BeginAttemptRequestObject) (BeginAttemptResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	t, err := h.app.Begin(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	out, err := takeOf(t)
	return BeginAttempt200JSONResponse(out), err
}

func (h *handlers) SaveAnswers(ctx context.Context, r SaveAnswersRequestObject) (SaveAnswersResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	answers := each(r.Body.Answers, func(a Answer) app.Answered {
		return app.Answered{Line: a.Line, Number: a.Number, Response: item.Response(a.Response), Marked: a.Marked}
	})
	at, err := h.app.SaveAnswers(ctx, v, r.Id, answers)
	if err != nil {
		return nil, err
	}
	return SaveAnswers200JSONResponse{SavedAt: at.UTC()}, nil
}

func (h *handlers) HandIn(ctx context.Context, r HandInRequestObject) (HandInResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	t, err := h.app.HandIn(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	out, err := takeOf(t)
	return HandIn200JSONResponse(out), err
}

func recordingOf(r app.RecordView) Recording {
	return Recording{AttemptId: r.AttemptID, Student: r.Student, Title: r.Title, State: RecordingState(attemptState(string(r.State))), Stopped: r.Stopped,
		Mixed: append([]int{}, r.Mixed...), Lines: each(r.Lines, func(l app.RecordLine) RecordLine {
			return RecordLine{Line: l.Line, Shown: shown(l.Shown), Directions: l.Directions, Right: l.Right, Recorded: l.Recorded, Number: l.Number}
		})}
}

func (h *handlers) BeginRecording(ctx context.Context, r BeginRecordingRequestObject) (BeginRecordingResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	view, err := h.app.BeginRecording(ctx, v, r.Id, r.Student)
	return BeginRecording200JSONResponse(recordingOf(view)), err
}

func (h *handlers) RecordAnswer(ctx context.Context, r RecordAnswerRequestObject) (RecordAnswerResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	at, err := h.app.RecordAnswer(ctx, v, r.Id, r.Student, r.Body.Line, string(r.Body.Recorded), r.Body.Number)
	return RecordAnswer200JSONResponse{SavedAt: at.UTC()}, err
}

func (h *handlers) HandInRecorded(ctx context.Context, r HandInRecordedRequestObject) (HandInRecordedResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	view, err := h.app.HandInRecorded(ctx, v, r.Id, r.Student)
	return HandInRecorded200JSONResponse(recordingOf(view)), err
}
