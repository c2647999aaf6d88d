package api

import (
	"bytes"
	"cmp"
	"context"
	"strconv"
	"strings"
	"time"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app/give"
	"pineledger/app/office"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/core/window"
)

func entryIn(e contract.WhomEntry) roster.Entry {
	return roster.Entry{Out: e.Out, Schools: e.Schools, Grades: e.Grades, Courses: e.Courses, Sections: e.Sections, Groups: e.Groups, Students: e.Students}
}

func entryOf(e roster.Entry) contract.WhomEntry {
	return contract.WhomEntry{Out: e.Out, Schools: listOf(e.Schools), Grades: listOf(e.Grades), Courses: listOf(e.Courses), Sections: listOf(e.Sections),
		Groups: listOf(e.Groups), Students: listOf(e.Students)}
}

// listOf is a list that is never null.
func listOf[T any](in []T) []T { return append([]T{}, in...) }

func shownOf(words string, c roster.Count) contract.EntryShown {
	return contract.EntryShown{Words: words, Change: c.Change, Schools: c.Schools, Sections: c.Sections, Students: c.Students}
}

func waveIn(w contract.WaveInput) give.WaveInput {
	return give.WaveInput{Name: w.Name, Opens: w.Opens, Closes: w.Closes, Schools: w.Schools, Sections: w.Sections}
}

func waveOf(w give.WaveView) contract.WaveShown {
	out := contract.WaveShown{SchoolNames: listOf(w.SchoolNames), SectionCount: w.SectionCount, Students: w.Students, Hours: w.Hours,
		Wave: contract.WaveInput{Name: w.Name, Opens: w.Opens, Closes: w.Closes, Schools: listOf(w.Schools), Sections: listOf(w.Sections)}}
	out.Days = each(w.Days, func(d give.DayView) contract.WaveDay {
		return contract.WaveDay{Date: d.Date, Expected: d.Expected, Off: d.Off, Spans: each(d.Spans, func(s [2]int) []int { return s[:] })}
	})
	return out
}

func studentGroup(g give.Group) contract.StudentGroup {
	return contract.StudentGroup{Id: g.ID, Name: g.Name, Owner: g.Owner, Rule: g.Said(), Members: g.Members}
}

func distributionOf(d give.DistributionView) contract.Distribution {
	out := contract.Distribution{Version: d.Distribution.Version, Follow: d.Whom.Follow, Total: shownOf("", d.Total), Minutes: d.Minutes,
		LeftOutNames: each(d.LeftOut, func(s office.SectionStudent) string { return s.Given + " " + s.Family }),
		Entries:      each(d.Entries, func(e give.EntryView) contract.WhomEntry { return entryOf(e.Entry) }),
		Account:      each(d.Entries, func(e give.EntryView) contract.EntryShown { return shownOf(e.Words, e.Count) }),
		Waves:        each(d.Waves, waveOf), Candidates: each(d.Candidates, sectionOf), Groups: each(d.Groups, studentGroup),
		Findings: each(d.Findings, func(f roster.Finding) contract.Finding {
			return contract.Finding{Code: f.Code, Severity: contract.FindingSeverity(f.Severity), Text: f.Text, Part: f.Part, Students: f.Students, AssessmentId: some(f.Assessment)}
		}), Deal: contract.Deal(d.Distribution.Deal)}
	out.Forms = each(d.Forms, func(f give.FormShown) contract.DealtForm {
		return contract.DealtForm{Id: f.ID, Letter: f.Letter, Points: f.Total.String(), Expected: some(f.Expected), Students: f.Students}
	})
	out.Rooms = each(d.Rooms, func(r give.RoomShown) contract.DealtRoom {
		return contract.DealtRoom{School: r.School, Section: r.Section, Letters: r.Letters}
	})
	out.Twice = each(d.Twice, func(n give.SeatedOnce) contract.SeatedOnce {
		return contract.SeatedOnce{StudentId: n.Student, Name: n.Name, Text: n.Text, Others: each(n.Others, func(o give.SectionNamed) contract.SectionNamed {
			return contract.SectionNamed{Id: o.ID, Title: o.Title}
		})}
	})
	out.Seated = each(d.Whom.Seated, func(s roster.SeatIn) contract.SeatIn {
		return contract.SeatIn{StudentId: s.Student, SectionId: s.Section}
	})
	return out
}

func (h *giveHandlers) GetDistribution(ctx context.Context, r contract.GetDistributionRequestObject) (contract.GetDistributionResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Give.Distribution(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.GetDistribution200JSONResponse(distributionOf(d)), nil
}

func (h *giveHandlers) PutDistribution(ctx context.Context, r contract.PutDistributionRequestObject) (contract.PutDistributionResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Give.PutDistribution(ctx, v, r.Id, give.DistributionInput{Version: r.Params.IfMatch, Waves: each(r.Body.Waves, waveIn),
		Whom: roster.Whom{Follow: r.Body.Follow, Entries: each(r.Body.Entries, entryIn), Seated: each(value(r.Body.Seated), func(s contract.SeatIn) roster.SeatIn {
			return roster.SeatIn{Student: s.StudentId, Section: s.SectionId}
		})}, Deal: roster.Deal(value(r.Body.Deal))})
	if err != nil {
		return nil, err
	}
	return contract.PutDistribution200JSONResponse(distributionOf(d)), nil
}

func (h *giveHandlers) SendDistribution(ctx context.Context, r contract.SendDistributionRequestObject) (contract.SendDistributionResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Give.Send(ctx, v, r.Id, r.Params.IfMatch, r.Body.Reasons)
	if err != nil {
		return nil, err
	}
	return contract.SendDistribution200JSONResponse(sheet(v, s)), nil
}

func (h *giveHandlers) ListSent(ctx context.Context, r contract.ListSentRequestObject) (contract.ListSentResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Give.Sent(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.ListSent200JSONResponse(each(list, func(s give.SentView) contract.SentDistribution {
		return contract.SentDistribution{Id: s.Distribution.ID, Version: s.Distribution.Version, Edition: s.Edition, SentAt: s.Distribution.Sent.UTC(), Follow: s.Distribution.Whom.Follow,
			Entries: listOf(s.Entries),
			Waves:   each(s.Waves, waveOf), Schools: s.Schools, Sections: s.Sections, Students: s.Students, Begun: s.Begun, Working: s.Working, CameIn: s.CameIn, MayChange: s.MayChange, Letters: listOf(s.Letters), WithId: some(s.With)}
	})), nil
}

func (h *giveHandlers) MoveDates(ctx context.Context, r contract.MoveDatesRequestObject) (contract.MoveDatesResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	look, err := h.app.Give.ChangeDates(ctx, v, r.Id, each(r.Body.Waves, waveIn), r.Params.IfMatch, r.Body.Apply)
	if err != nil {
		return nil, err
	}
	return contract.MoveDates200JSONResponse{Sections: look.Sections, Students: look.Students, Begun: look.Begun, Working: look.Working,
		Changes: each(look.Changes, func(c give.DateChange) contract.DatesChange {
			return contract.DatesChange{Wave: c.Wave, OpensWas: c.OpensWas, ClosesWas: c.ClosesWas, Opens: c.Opens, Closes: c.Closes,
				Sections: c.Sections, Students: c.Students, Working: c.Working, Examples: listOf(c.Examples)}
		})}, nil
}

func (h *giveHandlers) RecallDistribution(ctx context.Context, r contract.RecallDistributionRequestObject) (contract.RecallDistributionResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.RecallDistribution204Response{}, h.app.Give.Recall(ctx, v, r.Id, r.Params.IfMatch)
}

func (h *takeHandlers) MoveDoors(ctx context.Context, r contract.MoveDoorsRequestObject) (contract.MoveDoorsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	moved, err := h.app.Take.MoveDoors(ctx, v, r.Body.Sittings, attempt.DoorState(r.Body.Door))
	return contract.MoveDoors200JSONResponse{Moved: moved}, err
}

func (h *giveHandlers) ListGroups(ctx context.Context, _ contract.ListGroupsRequestObject) (contract.ListGroupsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Give.Groups(ctx, v)
	return contract.ListGroups200JSONResponse(each(list, studentGroup)), err
}

func (h *giveHandlers) PutGroup(ctx context.Context, r contract.PutGroupRequestObject) (contract.PutGroupResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Give.PutGroup(ctx, v, give.GroupInput{Name: r.Body.Name, Students: value(r.Body.Students),
		Rule: roster.GroupRule{Support: value(r.Body.Support), Assessment: value(r.Body.Assessment), Below: value(r.Body.Below)}})
	return contract.PutGroup200JSONResponse(each(list, studentGroup)), err
}

func whomChoice(c give.Choice) contract.WhomChoice {
	return contract.WhomChoice{Id: c.ID, Name: c.Name, Entries: each(c.Whom.V.Entries, entryOf)}
}

func (h *giveHandlers) ListChoices(ctx context.Context, _ contract.ListChoicesRequestObject) (contract.ListChoicesResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Give.Choices(ctx, v)
	return contract.ListChoices200JSONResponse(each(list, whomChoice)), err
}

func (h *giveHandlers) PutChoice(ctx context.Context, r contract.PutChoiceRequestObject) (contract.PutChoiceResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Give.PutChoice(ctx, v, r.Body.Name, each(r.Body.Entries, entryIn))
	return contract.PutChoice200JSONResponse(each(list, whomChoice)), err
}

func (h *giveHandlers) DropChoice(ctx context.Context, r contract.DropChoiceRequestObject) (contract.DropChoiceResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Give.DropChoice(ctx, v, r.Id)
	return contract.DropChoice200JSONResponse(each(list, whomChoice)), err
}

func progressRow(p give.ProgressRow) contract.ProgressRow {
	return contract.ProgressRow{SchoolId: p.SchoolID, Name: p.Name, Sections: p.Sections, Waiting: p.Waiting, Open: p.Open, Paused: p.Paused, Closed: p.Closed,
		Students: p.Students, Begun: p.Begun, Done: p.Done, Late: p.Late}
}

func (h *giveHandlers) GetProgress(ctx context.Context, r contract.GetProgressRequestObject) (contract.GetProgressResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p, err := h.app.Give.Progress(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.GetProgress200JSONResponse{Title: p.Title, At: p.At.UTC(), Schools: each(p.Schools, progressRow), Total: progressRow(p.Total),
		Unopened: each(p.Unopened, func(u give.Unopened) contract.Unopened {
			return contract.Unopened{SittingId: u.Sitting, Section: u.Section, School: u.School, Teacher: u.Teacher, Since: u.Since, Seats: u.Seats}
		})}, nil
}

// absentPage is how many come at once.
const absentPage = 200

func (h *giveHandlers) ListAbsent(ctx context.Context, r contract.ListAbsentRequestObject) (contract.ListAbsentResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p := r.Params
	list, found, err := h.app.Give.Absent(ctx, v, r.Id, give.AbsentFilter{SchoolID: value(p.School), Begun: p.Begun, Met: value(p.Met), From: value(p.From), Limit: absentPage})
	return contract.ListAbsent200JSONResponse{Found: found, Students: each(list, func(s give.Absent) contract.Absent {
		out := contract.Absent{StudentId: s.StudentID, Number: s.Number, Name: s.Family + ", " + s.Given, SittingId: s.SittingID, Section: s.Section, School: s.School, Door: string(s.Door),
			Begun: s.Begun, Answered: s.Answered, ClosesAt: timeOf(s.ClosesAt)}
		if s.SavedAt != nil {
			at := timeOf(*s.SavedAt)
			out.SavedAt = &at
		}
		return out
	})}, err
}

func (h *giveHandlers) ExportAbsent(ctx context.Context, r contract.ExportAbsentRequestObject) (contract.ExportAbsentResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p := r.Params
	list, _, err := h.app.Give.Absent(ctx, v, r.Id, give.AbsentFilter{SchoolID: value(p.School), Begun: p.Begun, Met: value(p.Met)})
	if err != nil {
		return nil, err
	}
	rows := each(list, func(s give.Absent) []string {
		state, saved := "not begun", ""
		if s.Begun {
			state = "not finished"
		}
		if s.SavedAt != nil {
			saved = timeOf(*s.SavedAt).Format(time.RFC3339)
		}
		return []string{s.School, s.Section, s.Number, s.Family, s.Given, state, strconv.Itoa(s.Answered), saved, timeOf(s.ClosesAt).Format(time.RFC3339)}
	})
	body, err := csvBody([]string{"School", "Section", "Number", "Family name", "Given name", "State", "Answered", "Last saved", "Window ends"}, rows)
	return contract.ExportAbsent200TextcsvResponse{Body: body}, err
}

func (h *giveHandlers) RemindTeachers(ctx context.Context, r contract.RemindTeachersRequestObject) (contract.RemindTeachersResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	n, err := h.app.Give.Remind(ctx, v, r.Id)
	return contract.RemindTeachers200JSONResponse{Sections: n}, err
}

func (h *giveHandlers) ListMakeups(ctx context.Context, r contract.ListMakeupsRequestObject) (contract.ListMakeupsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Give.Makeups(ctx, v, r.Id)
	return contract.ListMakeups200JSONResponse(each(list, makeupOf)), err
}

func (h *giveHandlers) ArrangeMakeup(ctx context.Context, r contract.ArrangeMakeupRequestObject) (contract.ArrangeMakeupResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	in := give.MakeupInput{Room: r.Body.Room, Proctor: value(r.Body.ProctorId), Opens: r.Body.Opens, Closes: r.Body.Closes}
	for _, s := range r.Body.Seats {
		in.Seats = append(in.Seats, give.Seat{SittingID: s.SittingId, StudentID: s.StudentId})
	}
	id, err := h.app.Give.ArrangeMakeup(ctx, v, r.Id, in)
	return contract.ArrangeMakeup200JSONResponse{SittingId: id}, err
}

func (h *giveHandlers) TakeBackMakeup(ctx context.Context, r contract.TakeBackMakeupRequestObject) (contract.TakeBackMakeupResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.TakeBackMakeup204Response{}, h.app.Give.TakeBackMakeup(ctx, v, r.Id)
}

func (h *giveHandlers) GetCalendar(ctx context.Context, r contract.GetCalendarRequestObject) (contract.GetCalendarResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	c, err := h.app.Give.Calendar(ctx, v, give.CalendarInput{From: r.Params.From, To: r.Params.To, School: value(r.Params.School), Grade: value(r.Params.Grade), Subject: value(r.Params.Subject), Student: value(r.Params.Student)})
	if err != nil {
		return nil, err
	}
	out := contract.GetCalendar200JSONResponse{From: c.From, To: c.To, Today: c.Today, SchoolDays: c.Days, MayPlan: c.MayPlan, Schools: each(c.Schools, schoolOf), Subjects: listOf(c.Subjects)}
	out.Windows = each(c.Windows, func(w give.CalendarWindow) contract.CalendarWindow {
		return contract.CalendarWindow{DistributionId: w.Distribution, AssessmentId: w.Assessment, Title: w.Title, Subject: w.Subject, Grade: w.Grade, State: contract.CalendarWindowState(w.State),
			OpensAt: w.Opens, ClosesAt: w.Closes, From: w.From, To: w.To, SchoolDays: w.SchoolDays, Minutes: w.Minutes, Sections: w.Sections, Students: w.Students}
	})
	out.DaysOff, out.Student = each(c.Off, dayOff), some(c.Student)
	out.Terms = each(c.Terms, func(t give.Term) contract.Term { return contract.Term{Title: t.Title, From: t.Begins, To: t.Ends} })
	out.Loads = each(c.Loads, func(l window.Load) contract.GradeLoad {
		return contract.GradeLoad{Grade: l.Grade, Week: l.Week, Minutes: float32(l.Minutes)}
	})
	out.Clashes = each(c.Clashes, func(k give.CalendarClash) contract.CalendarClash {
		return contract.CalendarClash{Grade: k.Grade, One: k.One, Other: k.Other, From: k.From, To: k.To, Students: k.Students}
	})
	return out, nil
}

func (h *giveHandlers) ExportCalendar(ctx context.Context, r contract.ExportCalendarRequestObject) (contract.ExportCalendarResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	var file bytes.Buffer
	err = h.app.Give.WriteCalendar(ctx, &file, v, give.CalendarInput{From: r.Params.From, To: r.Params.To, School: value(r.Params.School), Grade: value(r.Params.Grade), Subject: value(r.Params.Subject), Student: value(r.Params.Student)})
	return contract.ExportCalendar200TextcalendarResponse{Body: &file, ContentLength: int64(file.Len())}, err
}

func (h *giveHandlers) PutDaysOff(ctx context.Context, r contract.PutDaysOffRequestObject) (contract.PutDaysOffResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	var days []give.DayOff
	for _, d := range r.Body.Days {
		days = append(days, give.DayOff{Day: d.Day, Name: strings.TrimSpace(d.Name)})
	}
	return contract.PutDaysOff204Response{}, h.app.Give.PutDaysOff(ctx, v, r.Body.School, days, value(r.Body.Was))
}

func dayOff(d give.DayOff) contract.DayOff {
	return contract.DayOff{Day: d.Day, Name: d.Name, OfSchool: d.School}
}

func (h *giveHandlers) ReadDaysOff(ctx context.Context, r contract.ReadDaysOffRequestObject) (contract.ReadDaysOffResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	days, err := h.app.Give.ReadDays(v, r.Body.Text)
	return contract.ReadDaysOff200JSONResponse(each(days, dayOff)), err
}

func (h *giveHandlers) SpreadWindows(ctx context.Context, r contract.SpreadWindowsRequestObject) (contract.SpreadWindowsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Give.SpreadOut(ctx, v, give.CalendarInput{From: r.Body.From, To: r.Body.To, School: r.Body.School, Subject: r.Body.Subject}, r.Body.Distance, r.Body.Apply)
	return contract.SpreadWindows200JSONResponse(each(list, func(s give.Spread) contract.SpreadWindow {
		return contract.SpreadWindow{DistributionId: s.Distribution, Title: s.Title, Grades: s.Grades, FromWas: s.Was[0], ToWas: s.Was[1], From: s.From, To: s.To, Kept: s.Kept, Nearest: s.Nearest}
	})), err
}

func (h *giveHandlers) UndoSpread(ctx context.Context, r contract.UndoSpreadRequestObject) (contract.UndoSpreadResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.UndoSpread204Response{}, h.app.Give.UndoSpread(ctx, v, r.Body.Distributions)
}

func (h *giveHandlers) CopyYear(ctx context.Context, r contract.CopyYearRequestObject) (contract.CopyYearResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Give.CopyYear(ctx, v, give.CalendarInput{From: r.Body.From, To: r.Body.To, School: r.Body.School, Subject: r.Body.Subject}, r.Body.Distributions, r.Body.Apply)
	return contract.CopyYear200JSONResponse(each(list, func(n give.NextYear) contract.NextYear {
		return contract.NextYear{DistributionId: n.Distribution, Title: n.Title, Grades: n.Grades, FromWas: n.Was[0], ToWas: n.Was[1], From: n.Becomes[0], To: n.Becomes[1], Anew: n.Anew, CopyId: some(n.Copy)}
	})), err
}

func (h *giveHandlers) MakeFeed(ctx context.Context, r contract.MakeFeedRequestObject) (contract.MakeFeedResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	token, err := h.app.Give.NewFeed(ctx, v, give.CalendarInput{School: r.Body.School, Grade: r.Body.Grade, Subject: r.Body.Subject})
	return contract.MakeFeed200JSONResponse{Path: "/api/calendar/feed/" + token}, err
}

// ReadFeed is read by calendars of others, which know nothing of sessions.
func (h *giveHandlers) ReadFeed(ctx context.Context, r contract.ReadFeedRequestObject) (contract.ReadFeedResponseObject, error) {
	var file bytes.Buffer
	err := h.app.Give.Feed(ctx, &file, cmp.Or(strings.TrimSuffix(r.Token, ".ics"), "-"))
	return contract.ReadFeed200TextcalendarResponse{Body: &file, ContentLength: int64(file.Len())}, err
}
