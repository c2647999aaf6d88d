package window

import "time"

// State of an attempt as its clock sees it.
type State string

const (
	NotBegun State = "notBegun"
	Working  State = "working"
	Resting  State = "resting"
	Waiting  State = "waiting" // for the door
	HandedIn State = "handedIn"
	Over     State = "over"
)

// Because says what ends an attempt.
type Because string

const (
	ByLimit  Because = "limit"
	ByWindow Because = "window"
	ByHand   Because = "handedIn"
)

// Reading is a clock at a moment.
type Reading struct {
	State   State
	Worked  time.Duration // 0 before it is begun
	Left    time.Duration // of what is allowed; 0 without a limit
	EndsAt  time.Time     // when it ended, or would end if nothing happened any more; zero: not begun
	Because Because       // "" while not begun
}

// Clock is the clock of one attempt. Time counts from the student's begin, only
// while the door is open, the student does not rest and the window lasts. Clocks
// are values: a copy goes on by itself.
type Clock struct {
	window    Window
	allowance Allowance

	now     time.Time // up to which worked counts
	open    bool
	begun   bool
	resting bool
	worked  time.Duration
	ended   time.Time
	because Because
}

// New makes a clock, its door shut. Errors are those of the allowance and the window.
func New(w Window, a Allowance) (Clock, error) {
	if !w.To.After(w.From) {
		return Clock{}, ErrWindow
	}
	return Clock{window: w, allowance: a}, a.Check()
}

// Begun tells whether the student has begun.
func (c Clock) Begun() bool { return c.begun }

// Ended tells whether nothing changes any more.
func (c Clock) Ended() bool { return c.because != "" }

// Apply lets something happen. Events come in the order of time; what comes after
// an end changes nothing.
func (c *Clock) Apply(e Event) error {
	if e.At.Before(c.now) {
		return &OrderError{e, "comes before the one before it"}
	}
	c.advance(e.At)
	if c.Ended() {
		return nil
	}
	refuse := func(reason string) error { return &OrderError{e, reason} }
	switch e.What {
	case DoorOpens:
		c.open = true
	case DoorPauses, DoorCloses:
		c.open = false
	case Begin:
		switch {
		case c.begun:
			return refuse("it has begun already")
		case e.At.Before(c.window.From) || !e.At.Before(c.allowance.End(c.window)):
			return refuse("the window is not open")
		case !c.open:
			return refuse("the door is not open")
		}
		c.begun = true
	case Rest, Resume, HandIn:
		if !c.begun {
			return refuse("it has not begun")
		}
		if e.What == Resume && !c.resting {
			return refuse("there is no rest to end")
		}
		if e.What == HandIn {
			c.ended, c.because = e.At, ByHand
			return nil
		}
		c.resting = e.What == Rest
	default:
		return refuse("there is no such event")
	}
	return nil
}

// advance counts the time up to a moment, and ends the attempt where it is over by then.
func (c *Clock) advance(to time.Time) {
	from := c.now
	c.now = to
	if !c.begun || c.Ended() {
		return
	}
	end := c.allowance.End(c.window)
	if c.open && !c.resting {
		until := to
		if end.Before(until) {
			until = end
		}
		if spent := until.Sub(from); spent > 0 {
			left := c.allowance.Time() - c.worked
			if c.allowance.Limited() && spent >= left {
				c.worked += left
				c.ended, c.because = from.Add(left), ByLimit
				return
			}
			c.worked += spent
		}
	}
	if !to.Before(end) {
		c.ended, c.because = end, ByWindow
	}
}

// At reads the clock at a moment that is not before what has happened.
func (c Clock) At(now time.Time) Reading {
	c.advance(now)
	r := Reading{Worked: c.worked}
	if c.allowance.Limited() {
		r.Left = c.allowance.Time() - c.worked
	}
	windowEnd := c.allowance.End(c.window)
	switch {
	case c.Ended():
		r.State, r.EndsAt, r.Because = Over, c.ended, c.because
		if c.because == ByHand {
			r.State = HandedIn
		}
	case !c.begun:
		r.State = NotBegun
	case c.resting:
		r.State, r.EndsAt, r.Because = Resting, windowEnd, ByWindow
	case !c.open:
		r.State, r.EndsAt, r.Because = Waiting, windowEnd, ByWindow
	default:
		r.State, r.EndsAt, r.Because = Working, windowEnd, ByWindow
		if limit := now.Add(r.Left); c.allowance.Limited() && !limit.After(windowEnd) {
			r.EndsAt, r.Because = limit, ByLimit
		}
	}
	return r
}
