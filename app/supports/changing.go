package supports

import (
	"time"

	"pineledger/core/support"
	"pineledger/store"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
)

// Changing is an entry that changes while the window is open.
type Changing struct {
	StudentID int64
	Student   string
	Says      string
	What      string // begins, ends, entered
	Day       string
}

// mostChanging is how many entries that change are told one by one.
const mostChanging = 100

// changing counts what of a profile begins, ends or was entered between the window's ends, and lists the first.
func (w *around) changing(m *Matrix, s giverows.SeatOf, profile []officerows.ProfileEntry) {
	if w.d.Opens.IsZero() || w.d.Closes.IsZero() {
		return
	}
	from, to := w.d.Opens.In(w.zone).Format(time.DateOnly), w.d.Closes.In(w.zone).Format(time.DateOnly)
	inside := func(day string) bool { return day > from && day <= to }
	for _, e := range profile {
		if !e.In(w.f.Subject) {
			continue
		}
		one := Changing{StudentID: s.StudentID, Student: s.Name}
		entered := store.Time(e.EnteredAt)
		switch {
		case inside(e.From):
			one.What, one.Day = "begins", e.From
		case e.To >= from && e.To < to && e.To != "":
			one.What, one.Day = "ends", e.To
		case entered.After(w.d.Opens) && entered.Before(w.d.Closes):
			one.What, one.Day = "entered", entered.In(w.zone).Format(time.DateOnly)
		default:
			continue
		}
		if m.Changes++; m.Changes <= mostChanging {
			one.Says = support.Given{Key: e.Key, Value: e.Value}.Said()
			m.Changing = append(m.Changing, one)
		}
	}
}
