package compute

import (
	"errors"
	"fmt"
	"io"
	"slices"
	"time"

	"pineledger/core/window"
)

// ClockHelp shows the form of compute clock with an example that works.
const ClockHelp = `What an attempt's clock shows.

  {"minutes":60|null,"factor":1.5,"extraMinutes":0,            factor and extraMinutes: 1 and 0 where left out
   "windowFrom":T,"windowTo":T,"windowExtends":false,          T as 2026-11-30T09:00:00Z
   "events":[{"at":T,"what":"open"|"pause"|"close"|"begin"|"rest"|"resume"|"handIn"}],
   "now":T}

Example:
  echo '{"minutes":60,"windowFrom":"2026-11-30T09:00:00Z","windowTo":"2026-11-30T15:00:00Z","events":[{"at":"2026-11-30T09:00:00Z","what":"open"},{"at":"2026-11-30T09:05:00Z","what":"begin"}],"now":"2026-11-30T09:35:00Z"}' | pineledger compute clock`

type clockOut struct {
	State         window.State    `json:"state"`
	WorkedSeconds int64           `json:"workedSeconds"`
	LeftSeconds   *int64          `json:"leftSeconds"`
	EndsAt        *string         `json:"endsAt"`
	Because       *window.Because `json:"because"`
}

// instantForm is how moments are written: whole seconds of UTC.
const instantForm = "2006-01-02T15:04:05Z"

// instant gives a moment.
func (n node) instant(r *reading) time.Time {
	text := n.text(r)
	t, err := time.Parse(instantForm, text)
	if (err != nil || t.Format(instantForm) != text) && r.err == nil {
		r.refuse(n.place, "%q is not a moment such as 2026-11-30T09:00:00Z", text)
	}
	return t
}

// clockIn is the whole input, read.
type clockIn struct {
	window    window.Window
	allowance window.Allowance
	events    []window.Event
	now       time.Time
}

func readClock(n node, r *reading) clockIn {
	o := n.object(r, "minutes", "factor", "extraMinutes", "windowFrom", "windowTo", "windowExtends", "events", "now")
	var in clockIn
	if minutes := o["minutes"]; !minutes.absent() {
		if in.allowance.Minutes = minutes.integer(r); in.allowance.Minutes == 0 {
			r.refuse(minutes.place, "0 %s", window.ErrMinutes)
		}
	}
	if factor := o["factor"]; !factor.absent() {
		if in.allowance.Factor = int(factor.decimal(r, 2)); in.allowance.Factor == 0 && in.allowance.Limited() {
			r.refuse(factor.place, "0 %s", window.ErrFactor)
		}
	}
	if extra := o["extraMinutes"]; !extra.absent() {
		in.allowance.Extra = extra.integer(r)
	}
	in.allowance.Extends = o["windowExtends"].boolean(r)
	in.window = window.Window{From: o["windowFrom"].instant(r), To: o["windowTo"].instant(r)}
	for i, e := range o["events"].list(r) {
		m := e.object(r, "at", "what")
		event := window.Event{At: m["at"].instant(r), What: window.What(m["what"].text(r))}
		if !slices.Contains(window.Whats, event.What) {
			r.refuse(m["what"].place, "%q is none of %v", event.What, window.Whats)
		}
		if i > 0 && event.At.Before(in.events[i-1].At) {
			r.refuse(m["at"].place, "comes before the event before it")
		}
		in.events = append(in.events, event)
	}
	in.now = o["now"].instant(r)
	return in
}

// Clock runs compute clock; errors are *PlaceError.
func Clock(input io.Reader) (any, error) {
	n, err := parse(input)
	if err != nil {
		return nil, err
	}
	r := &reading{}
	in := readClock(n, r)
	if r.err != nil {
		return nil, r.err
	}
	clock, err := window.New(in.window, in.allowance)
	for wrong, place := range map[error]string{window.ErrMinutes: "minutes", window.ErrFactor: "factor", window.ErrExtra: "extraMinutes", window.ErrWindow: "windowTo"} {
		if errors.Is(err, wrong) {
			return nil, &PlaceError{place, wrong.Error()}
		}
	}
	if err != nil {
		return nil, err
	}
	for i, e := range in.events {
		if e.At.After(in.now) {
			break
		}
		var order *window.OrderError
		if err := clock.Apply(e); errors.As(err, &order) {
			return nil, &PlaceError{fmt.Sprintf("events[%d]", i), string(e.What) + ": " + order.Reason}
		} else if err != nil {
			return nil, err
		}
	}
	reading := clock.At(in.now)
	out := clockOut{State: reading.State, WorkedSeconds: int64(reading.Worked / time.Second)}
	if in.allowance.Limited() {
		left := int64(reading.Left / time.Second)
		out.LeftSeconds = &left
	}
	if !reading.EndsAt.IsZero() {
		at := reading.EndsAt.Format(instantForm)
		out.EndsAt, out.Because = &at, &reading.Because
	}
	return out, nil
}
