package app_test

import (
	"bytes"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/build"
	"pineledger/app/desk"
	takeroom "pineledger/app/take"
	"pineledger/core/attempt"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/settings"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
	"pineledger/store/readrows"
)

// given is a world with an assessment out under settings, keys and plain values in turn, and its door open.
type given struct {
	*world
	sheet   build.Sheet
	sitting giverows.Sitting
}

func giveOut(w *world, pairs ...any) given {
	w.Helper()
	s := w.send(w.sealed(), func(officerows.Section) bool { return true })
	for i := 0; i < len(pairs); i += 2 {
		level := settings.Place{Assessment: s.Assessment.ID}
		if one, _ := settings.ByKey(pairs[i].(string)); !one.At(settings.Assessment) {
			level = settings.Place{}
		}
		_, err := w.set(w.coordinator, level, pairs[i].(string), pairs[i+1], settings.NoLock)
		require.NoError(w, err)
	}
	w.now = w.now.Add(time.Hour)
	g := given{w, s, w.sittingOf(w.teacher)}
	g.door(attempt.Open)
	return g
}

func (g given) door(to attempt.DoorState) takeroom.Room {
	g.Helper()
	room, err := g.app.Take.MoveDoor(g.ctx, g.teacher, g.sitting.ID, to)
	require.NoError(g, err)
	return room
}

func (g given) begin() takeroom.TakeView {
	g.Helper()
	view, err := g.app.Take.Begin(g.ctx, g.student, g.sitting.ID, takeroom.Entry{})
	require.NoError(g, err)
	return view
}

func (g given) open() takeroom.TakeView {
	g.Helper()
	view, err := g.app.Take.Open(g.ctx, g.student, g.sitting.ID, "", false)
	require.NoError(g, err)
	return view
}

func (g given) save(id int64, answers ...takeroom.Answered) {
	g.Helper()
	saved, err := g.app.Take.SaveAnswers(g.ctx, g.student, id, "", answers)
	require.NoError(g, err)
	require.Empty(g, saved.Refused)
}

// sit begins, answers and hands in.
func (g given) sit(answers ...takeroom.Answered) takeroom.TakeView {
	g.Helper()
	view := g.begin()
	g.save(view.Attempt.ID, answers...)
	_, err := g.app.Take.HandIn(g.ctx, g.student, view.Attempt.ID)
	require.NoError(g, err)
	return view
}

func (g given) feedback() takeroom.Feedback {
	g.Helper()
	f, err := g.app.Take.Feedback(g.ctx, g.student, g.sitting.ID)
	require.NoError(g, err)
	return f
}

func (g given) result() readrows.Result {
	g.Helper()
	res, err := readrows.ResultOfSeat(g.ctx, g.store.Reader, readrows.Seat{SittingID: g.sitting.ID, StudentID: g.student.PersonID})
	require.NoError(g, err)
	return res
}

// right answers line 1 rightly, wrong wrongly.
var right, wrong = answer(1, 1, "A"), answer(1, 1, "B")

// tool shows that a student has a tool as the settings say. That it works is shown where it is drawn.
func tool(key string, value any, has func(takeroom.Tools) any) func(t *testing.T, w *world) {
	return func(t *testing.T, w *world) {
		assert.Equal(t, value, has(giveOut(w, key, value).begin().How.Tools))
	}
}

// enforced shows for every setting of the catalog that something goes by it.
var enforced = map[string]func(t *testing.T, w *world){
	settings.Hours: func(t *testing.T, w *world) {
		g := giveOut(w, settings.Hours, []map[string]string{{"from": "08:00", "to": "08:30"}})
		_, err := g.app.Take.Begin(g.ctx, g.student, g.sitting.ID, takeroom.Entry{})
		assert.ErrorContains(t, err, "time of day")
	},
	settings.Weekdays: func(t *testing.T, w *world) {
		g := giveOut(w, settings.Weekdays, []string{"mon"}) // it is a Tuesday
		assert.Equal(t, attempt.Stop("outside hours"), g.open().StoppedBy)
	},
	settings.DaysOff: func(t *testing.T, w *world) {
		g := giveOut(w, settings.DaysOff, []string{"2026-10-13"})
		assert.Equal(t, attempt.Stop("outside hours"), g.open().StoppedBy)
	},
	settings.Minutes: func(t *testing.T, w *world) {
		g := giveOut(w, settings.Minutes, 20)
		g.begin()
		g.now = g.now.Add(21 * time.Minute)
		require.NoError(t, g.app.Take.Tick(g.ctx))
		assert.Equal(t, attempt.Scored, g.open().Attempt.State)
	},
	settings.Breaks: func(t *testing.T, w *world) {
		g := giveOut(w, settings.Breaks, 1)
		id := g.begin().Attempt.ID
		view, err := g.app.Take.Break(g.ctx, g.student, id, true)
		require.NoError(t, err)
		assert.Equal(t, []any{attempt.Stop("resting"), 0, 0}, []any{view.StoppedBy, len(view.Lines), view.How.BreaksLeft})
		left := view.Left
		g.now = g.now.Add(5 * time.Minute)
		view, err = g.app.Take.Break(g.ctx, g.student, id, false)
		require.NoError(t, err)
		assert.Equal(t, left, view.Left, "the clock stood still")
		_, err = g.app.Take.Break(g.ctx, g.student, id, true)
		assert.ErrorContains(t, err, "all your breaks")
		_, err = g.app.Take.Break(g.ctx, g.otherStudent, id, true)
		assert.ErrorIs(t, err, desk.ErrNotFound)
	},
	settings.BreakMinutes: func(t *testing.T, w *world) {
		g := giveOut(w, settings.Breaks, 1, settings.BreakMinutes, 3)
		id := g.begin().Attempt.ID
		view, err := g.app.Take.Break(g.ctx, g.student, id, true)
		require.NoError(t, err)
		g.now = g.now.Add(4 * time.Minute)
		after := g.open()
		assert.Empty(t, after.Stopped, "it ends by itself")
		assert.Equal(t, view.Left-time.Minute, after.Left)
	},
	settings.AccessCode: func(t *testing.T, w *world) {
		g := giveOut(w, settings.AccessCode, true)
		room := g.door(attempt.Closed)
		room = g.door(attempt.Open)
		require.Len(t, room.Sitting.Code, attempt.CodeLength)
		begin := func(code string) error {
			_, err := g.app.Take.Begin(g.ctx, g.student, g.sitting.ID, takeroom.Entry{Code: code})
			return err
		}
		assert.ErrorContains(t, begin(""), "not the code")
		for range 5 {
			assert.ErrorContains(t, begin("WRONG"), "code")
		}
		assert.ErrorContains(t, begin(room.Sitting.Code), "Wait", "five wrong ones slow down")
		g.now = g.now.Add(31 * time.Second)
		renewed, err := g.app.Take.RenewCode(g.ctx, g.teacher, g.sitting.ID)
		require.NoError(t, err)
		require.NotEqual(t, room.Sitting.Code, renewed.Sitting.Code)
		assert.ErrorContains(t, begin(room.Sitting.Code), "code", "the old one is none any more")
		g.now = g.now.Add(2 * time.Minute)
		assert.NoError(t, begin(renewed.Sitting.Code))
	},
	settings.ManagedOnly: func(t *testing.T, w *world) {
		g := giveOut(w, settings.ManagedOnly, true)
		view := g.open()
		assert.Equal(t, attempt.Stop("not managed"), view.StoppedBy)
		_, err := g.app.Take.Begin(g.ctx, g.student, g.sitting.ID, takeroom.Entry{})
		assert.ErrorContains(t, err, "device of the district")
		_, err = g.app.Take.Begin(g.ctx, g.student, g.sitting.ID, takeroom.Entry{Managed: true})
		require.NoError(t, err)
		assert.Empty(t, g.open().Lines, "nor does another device get the items afterwards")
		signed, err := desk.SignDevice(bytes.Repeat([]byte{1}, 32), "Cart 3", g.now.Add(time.Minute))
		require.NoError(t, err)
		assert.True(t, g.app.ManagedDevice(signed))
		assert.False(t, g.app.ManagedDevice("x"+signed))
		assert.False(t, g.app.ManagedDevice("nothing"))
		g.now = g.now.Add(time.Minute)
		assert.False(t, g.app.ManagedDevice(signed), "what it says has an end")
	},
	settings.HiddenAhead: func(t *testing.T, w *world) {
		s := w.send(w.sealed(), func(officerows.Section) bool { return true })
		before := w.now
		w.now = time.Date(2026, 10, 13, 14, 59, 0, 0, time.UTC) // a minute before its window
		mine, err := w.app.Take.MySittings(w.ctx, w.student)
		require.NoError(t, err)
		assert.Len(t, mine, 1)
		w.setting(s.Assessment.ID, settings.HiddenAhead, true)
		mine, err = w.app.Take.MySittings(w.ctx, w.student)
		require.NoError(t, err)
		assert.Empty(t, mine)
		w.now = before
		mine, err = w.app.Take.MySittings(w.ctx, w.student)
		require.NoError(t, err)
		assert.Len(t, mine, 1)
	},
	settings.Directions: func(t *testing.T, w *world) {
		assert.Equal(t, "Bring a pencil.", giveOut(w, settings.Directions, "Bring a pencil.").open().How.Directions)
	},
	settings.NotesOnPaper: func(t *testing.T, w *world) {
		g := giveOut(w, settings.NotesOnPaper, false)
		assert.False(t, g.open().How.Notes)
		assert.False(t, g.door(attempt.Closed).Notes, "the room says so too")
	},
	settings.Screen: func(t *testing.T, w *world) {
		assert.True(t, giveOut(w, settings.Screen, "page").begin().How.OnePage)
	},
	settings.ForwardOnly: func(t *testing.T, w *world) {
		g := giveOut(w, settings.ForwardOnly, true)
		id := g.begin().Attempt.ID
		left := right
		left.Done = true
		g.save(id, left)
		back := answer(1, 9, "B")
		g.save(id, back)
		assert.Equal(t, []string{"A"}, g.open().Lines[0].Answer.Response.V["RESPONSE"], "an item that was left stays as it was answered")
	},
	settings.ItemLanguage: func(t *testing.T, w *world) {
		assert.Equal(t, "es", giveOut(w, settings.ItemLanguage, "es").begin().How.Begins.Language)
	},
	settings.MixItems: func(t *testing.T, w *world) {
		g := giveOut(w, settings.MixItems, true)
		view := g.begin()
		f, err := g.app.FormByID(g.ctx, view.Attempt.FormID)
		require.NoError(t, err)
		var want, got []int
		for _, at := range f.Order(nil, view.Attempt.ID) {
			want = append(want, at+1)
		}
		for _, l := range view.Lines {
			got = append(got, l.Line)
		}
		assert.Equal(t, want, got)
		assert.Len(t, got, 3)
	},
	settings.MixChoices: func(t *testing.T, w *world) {
		g := giveOut(w, settings.MixChoices, true)
		view := g.begin()
		for _, l := range view.Lines {
			if in := l.Item.Body[len(l.Item.Body)-1].Interaction; l.Item.Kind == item.MultipleChoice {
				want := attempt.MixedOf(3, view.Attempt.ID, l.Line, 1)
				for i, c := range in.Choices {
					assert.Equal(t, string(rune('A'+want[i]-1)), c.ID)
				}
				return
			}
		}
		t.Fatal("no multiple choice")
	},
	settings.MarksForLater: tool(settings.MarksForLater, false, func(t takeroom.Tools) any { return t.Marks }),
	settings.Calculator:    tool(settings.Calculator, "scientific", func(t takeroom.Tools) any { return t.Calculator }),
	settings.ReadAloud:     tool(settings.ReadAloud, []string{"questions"}, func(t takeroom.Tools) any { return t.ReadAloud }),
	settings.StrikeOut:     tool(settings.StrikeOut, true, func(t takeroom.Tools) any { return t.StrikeOut }),
	settings.LineReader:    tool(settings.LineReader, true, func(t takeroom.Tools) any { return t.LineReader }),
	settings.ScratchPad:    tool(settings.ScratchPad, true, func(t takeroom.Tools) any { return t.ScratchPad }),
	settings.Highlighter:   tool(settings.Highlighter, true, func(t takeroom.Tools) any { return t.Highlighter }),
	settings.Masking:       tool(settings.Masking, true, func(t takeroom.Tools) any { return t.Masking }),
	settings.AnswerMasking: tool(settings.AnswerMasking, true, func(t takeroom.Tools) any { return t.AnswerMasking }),
	settings.Glossary:      tool(settings.Glossary, true, func(t takeroom.Tools) any { return t.Glossary }),
	settings.Dictionary:    tool(settings.Dictionary, true, func(t takeroom.Tools) any { return t.Dictionary }),
	settings.Spelling:      tool(settings.Spelling, true, func(t takeroom.Tools) any { return t.Spelling }),
	settings.TimesTable:    tool(settings.TimesTable, true, func(t takeroom.Tools) any { return t.TimesTable }),
	settings.Ruler:         tool(settings.Ruler, true, func(t takeroom.Tools) any { return t.Ruler }),
	settings.Protractor:    tool(settings.Protractor, true, func(t takeroom.Tools) any { return t.Protractor }),
	settings.Zoom:          tool(settings.Zoom, false, func(t takeroom.Tools) any { return t.Zoom }),
	settings.Colors:        tool(settings.Colors, false, func(t takeroom.Tools) any { return t.Colors }),
	settings.EasyType:      tool(settings.EasyType, false, func(t takeroom.Tools) any { return t.EasyType }),
	settings.Printing:      func(t *testing.T, w *world) { assert.True(t, giveOut(w, settings.Printing, true).begin().How.Printing) },
	settings.Attempts: func(t *testing.T, w *world) {
		g := giveOut(w, settings.Attempts, 2)
		first := g.sit(right)
		require.True(t, g.open().MayRetake)
		assert.NotEqual(t, first.Attempt.ID, g.sit(wrong).Attempt.ID)
		assert.False(t, g.open().MayRetake)
	},
	settings.Retake: func(t *testing.T, w *world) {
		g := giveOut(w, settings.Attempts, 2, settings.Retake, "missed")
		g.sit(right)
		again := g.begin()
		var asked []int
		for _, l := range again.Lines {
			asked = append(asked, l.Line)
		}
		assert.Equal(t, []int{2, 3}, asked, "what was right is not asked again")
		saved, err := g.app.Take.SaveAnswers(g.ctx, g.student, again.Attempt.ID, "", []takeroom.Answered{answer(1, 9, "B")})
		require.NoError(t, err)
		assert.Len(t, saved.Refused, 1, "nor can it be changed")
		_, err = g.app.Take.HandIn(g.ctx, g.student, again.Attempt.ID)
		require.NoError(t, err)
		assert.Equal(t, points.One, g.result().Raw)
		scorings, err := readrows.Scorings(g.ctx, g.store.Reader, again.Attempt.ID)
		require.NoError(t, err)
		assert.Equal(t, item.Right, scorings[0].Credits[0].Outcome, "it is carried over")
		g.verified()
	},
	settings.Keep: func(t *testing.T, w *world) {
		g := giveOut(w, settings.Attempts, 2, settings.Keep, "last")
		g.sit(right)
		g.sit(wrong)
		assert.Equal(t, []any{points.Points(0), "The last of 2 tries."}, []any{g.result().Raw, g.result().Why})
		g.verified()
	},
	settings.RetakePenalty: func(t *testing.T, w *world) {
		g := giveOut(w, settings.Attempts, 2, settings.Keep, "last", settings.RetakePenalty, 10)
		g.sit(wrong)
		g.sit(right)
		f, err := g.app.FormByID(g.ctx, g.sitting.FormID)
		require.NoError(t, err)
		assert.Equal(t, points.One-f.Total()/10, g.result().Raw)
		assert.Contains(t, g.result().Why, "as a retake")
		g.verified()
	},
	settings.Practice: func(t *testing.T, w *world) {
		g := giveOut(w, settings.Practice, true, settings.AtHandIn, []string{"score", "right"})
		g.sit(wrong)
		_, err := g.app.Take.Practice(g.ctx, g.student, g.sitting.ID)
		assert.ErrorIs(t, err, desk.ErrNotFound, "before the window is over")
		g.now = g.sitting.Setup.V.Ends
		before := g.result()
		view, err := g.app.Take.Practice(g.ctx, g.student, g.sitting.ID)
		require.NoError(t, err)
		assert.Len(t, view.Lines, 3)
		f, err := g.app.Take.PracticeDone(g.ctx, g.student, g.sitting.ID, []takeroom.Answered{right})
		require.NoError(t, err)
		assert.Equal(t, points.One, *f.Score.Points)
		assert.Equal(t, before, g.result(), "practice changes nothing")
		_, err = g.app.Take.PracticeDone(g.ctx, g.student, g.sitting.ID, []takeroom.Answered{answer(7, 1, "A")})
		assert.Error(t, err)
	},
	settings.LateWork: func(t *testing.T, w *world) {
		g := giveOut(w, settings.LateWork, "refuse", settings.Minutes, 0)
		id := g.begin().Attempt.ID
		g.save(id, right)
		g.now = g.sitting.Setup.V.Closes.Add(time.Minute)
		require.NoError(t, g.app.Take.Tick(g.ctx))
		assert.Equal(t, []any{attempt.Working, attempt.Stop("window over")}, []any{g.open().Attempt.State, g.open().StoppedBy})
		_, err := g.app.Take.HandIn(g.ctx, g.student, id)
		assert.ErrorContains(t, err, "window is over")
		room, err := g.app.Take.Room(g.ctx, g.teacher, g.sitting.ID)
		require.NoError(t, err)
		assert.True(t, room.Late)
		_, err = g.app.Take.HandInFor(g.ctx, g.teacher, g.sitting.ID, g.student.PersonID)
		require.NoError(t, err)
		assert.Equal(t, points.One, g.result().Raw)
		g.verified()
	},
	settings.LateDays: func(t *testing.T, w *world) {
		g := giveOut(w, settings.LateWork, "take", settings.LateDays, 2, settings.Minutes, 0)
		g.now = g.sitting.Setup.V.Closes.Add(47 * time.Hour)
		g.sit(right)
		assert.Equal(t, points.One, g.result().Raw, "taken in full")
		g.now = g.sitting.Setup.V.Closes.Add(48 * time.Hour)
		_, err := g.app.Take.Begin(g.ctx, w.person("Noor"), g.sitting.ID, takeroom.Entry{})
		assert.ErrorContains(t, err, "window is over")
	},
	settings.LatePenalty: func(t *testing.T, w *world) {
		g := giveOut(w, settings.LateWork, "penalty", settings.LatePenalty, 5, settings.Minutes, 0)
		g.now = g.sitting.Setup.V.Closes.Add(25 * time.Hour)
		g.sit(right)
		f, err := g.app.FormByID(g.ctx, g.sitting.FormID)
		require.NoError(t, err)
		assert.Equal(t, points.One-f.Total()/10, g.result().Raw, "two days have begun")
		assert.Contains(t, g.result().Why, "2 days late")
		noor := w.person("Noor")
		_, err = g.app.Take.Begin(g.ctx, noor, g.sitting.ID, takeroom.Entry{})
		require.NoError(t, err)
		g.now = g.sitting.Setup.V.Closes.Add(7*24*time.Hour + time.Minute)
		require.NoError(t, g.app.Take.Tick(g.ctx))
		g.now = g.now.Add(-time.Minute)
		late, err := readrows.ResultOfSeat(g.ctx, g.store.Reader, readrows.Seat{SittingID: g.sitting.ID, StudentID: noor.PersonID})
		require.NoError(t, err)
		assert.Contains(t, late.Why, "7 days late", "who is handed in by the clock at the end is not a day later for its turn")
		g.verified()
	},
	settings.AfterEach: func(t *testing.T, w *world) {
		g := giveOut(w, settings.AfterEach, []string{"right"})
		id := g.begin().Attempt.ID
		look := func(line int) (takeroom.LineTold, error) {
			return g.app.Take.FeedbackOfItem(g.ctx, g.student, id, line)
		}
		g.save(id, right)
		_, err := look(1)
		assert.ErrorIs(t, err, desk.ErrNotFound, "not before it is left")
		left := answer(1, 2, "A")
		left.Done = true
		g.save(id, left)
		told, err := look(1)
		require.NoError(t, err)
		assert.Equal(t, []any{item.Right, true, true}, []any{told.Outcome, told.Keyed == nil, told.Item == nil}, "and no more than the settings say")
		_, err = g.app.Take.FeedbackOfItem(g.ctx, g.otherStudent, id, 1)
		assert.ErrorIs(t, err, desk.ErrNotFound)
	},
	settings.AtHandIn: func(t *testing.T, w *world) {
		g := giveOut(w, settings.AtHandIn, []string{"right"})
		g.begin()
		assert.Empty(t, g.feedback().Lines, "nothing while one works")
		g.sit(right)
		f := g.feedback()
		require.Len(t, f.Lines, 3)
		assert.Equal(t, []any{item.Right, true}, []any{f.Lines[0].Outcome, f.Score == nil})
		for _, l := range f.Lines {
			assert.Nil(t, l.Keyed, "no key reaches a student before feedback allows it")
			assert.Nil(t, l.Item)
		}
	},
	settings.Later: func(t *testing.T, w *world) {
		g := giveOut(w, settings.Later, []string{"key"})
		g.sit(right)
		f := g.feedback()
		assert.Equal(t, []any{0, []string{"key"}, true}, []any{len(f.Lines), f.Due.Next, f.Due.NextAt.IsZero()})
		release := func(yes bool) {
			_, err := g.app.Take.ReleaseFeedback(g.ctx, g.coordinator, g.sheet.Assessment.ID, yes)
			require.NoError(t, err)
		}
		release(true)
		f = g.feedback()
		require.Len(t, f.Lines, 3)
		assert.Equal(t, []string{"A"}, f.Lines[0].Keyed.Declarations[0].Correct)
		release(false)
		assert.Empty(t, g.feedback().Lines, "taken back, it is gone at once")
		_, err := g.app.Take.ReleaseFeedback(g.ctx, g.principal, g.sheet.Assessment.ID, true)
		assert.ErrorIs(t, err, desk.ErrForbidden)
	},
	settings.LaterWhen: func(t *testing.T, w *world) {
		g := giveOut(w, settings.Later, []string{"right"}, settings.LaterWhen, "hours", settings.LaterHours, 0)
		g.sit(right)
		assert.Empty(t, g.feedback().Lines)
		g.now = g.sitting.Setup.V.Closes
		assert.Len(t, g.feedback().Lines, 3)
	},
	settings.LaterDate: func(t *testing.T, w *world) {
		g := giveOut(w, settings.LaterDate, "2026-10-20T09:00", settings.Later, []string{"right"}, settings.LaterWhen, "date")
		g.sit(right)
		day := time.Date(2026, 10, 20, 16, 0, 0, 0, time.UTC) // nine there
		assert.True(t, day.Equal(g.feedback().Due.NextAt))
		g.now = day
		assert.Len(t, g.feedback().Lines, 3)
		_, err := w.set(w.coordinator, settings.Place{Assessment: g.sheet.Assessment.ID}, settings.LaterDate, "2026-10-21T09:00", settings.NoLock)
		require.NoError(t, err)
		assert.Empty(t, g.feedback().Lines, "a new day takes effect at once, backward too")
	},
	settings.LaterHours: func(t *testing.T, w *world) {
		g := giveOut(w, settings.Later, []string{"right"}, settings.LaterWhen, "hours", settings.LaterHours, 5)
		g.sit(right)
		assert.Equal(t, g.sitting.Setup.V.Closes.Add(5*time.Hour), g.feedback().Due.NextAt)
	},
	settings.ShowScore: func(t *testing.T, w *world) {
		g := giveOut(w, settings.AtHandIn, []string{"score"}, settings.ShowScore, []string{"band"})
		g.sit(right)
		score := g.feedback().Score
		require.NotNil(t, score)
		assert.Equal(t, []any{true, -1, "Launching", 0}, []any{score.Points == nil, score.Percent, score.Band, score.Tries}, "the band alone")
	},
	settings.InReports: func(t *testing.T, w *world) {
		g := giveOut(w, settings.InReports, false)
		g.sit(right)
		list, err := g.app.Read.Results(g.ctx, g.teacher)
		require.NoError(t, err)
		require.Len(t, list, 1)
		assert.True(t, list[0].Apart, "the list tells it apart")
		today, err := g.app.Today(g.ctx, g.teacher)
		require.NoError(t, err)
		assert.Empty(t, today.Results, "and no summary has it")
	},
}

// Every setting that is offered works: one that nothing goes by fails here.
func TestEverySettingIsEnforced(t *testing.T) {
	t.Parallel()
	for _, one := range settings.Catalog {
		check, ok := enforced[one.Key]
		if !assert.True(t, ok, "nothing shows that %s is enforced", one.Key) {
			continue
		}
		t.Run(one.Key, func(t *testing.T) {
			w := newWorld(t)
			check(t, w)
		})
	}
	for key := range enforced {
		_, known := settings.ByKey(key)
		assert.True(t, known, key)
	}
}
