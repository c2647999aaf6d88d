package window

import "time"

// State of an attempt as its clock sees it.
type State string

const (
	NotBegun State = "notBegun"
	Working  State = "working"
	Resting  State = "resting"
	Waiting  State = "waiting" // for the door, or for the hours of the day
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
	spans     []Window // in which time counts, in order, up to the window's own end; never changed
	restFor   time.Duration

	now     time.Time // up to which worked counts
	open    bool
	begun   bool
	resting bool
	rested  time.Time // when the rest began
	rests   int
	worked  time.Duration
	ended   time.Time
	because Because
}

// New makes a clock, its door shut. Errors are those of the allowance and the window.
func New(w Window, a Allowance) (Clock, error) {
	return Plan{Window: w, Allowance: a}.Clock()
}

// Plan is all that a clock is made of.
type Plan struct {
	Window    Window
	Allowance Allowance
	Spans     []Window      // in which time counts, in order, see Timetable; nil: the whole window
	RestFor   time.Duration // a rest ends by itself after this; 0: it lasts until it is ended
}

// Clock makes a clock, its door shut. Errors are those of the allowance and the window.
func (p Plan) Clock() (Clock, error) {
	if !p.Window.To.After(p.Window.From) {
		return Clock{}, ErrWindow
	}
	if err := p.Allowance.Check(); err != nil {
		return Clock{}, err
	}
	spans := p.Spans
	if spans == nil {
		spans = []Window{{p.Window.From, p.Allowance.End(p.Window)}}
	}
	return Clock{window: p.Window, allowance: p.Allowance, spans: spans, restFor: p.RestFor}, nil
}

// Turn puts another plan in force from a moment on: what was worked before counts as it was worked, and what has ended stays so. It
// may not be before what has happened.
func (c *Clock) Turn(at time.Time, p Plan) error {
	if at.Before(c.now) {
		return &OrderError{Event{At: at, What: "terms"}, "come before what has happened"}
	}
	next, err := p.Clock()
	if err != nil {
		return err
	}
	c.advance(at)
	if !c.Ended() {
		c.window, c.allowance, c.spans, c.restFor = next.window, next.allowance, next.spans, next.restFor
	}
	return nil
}

// Begun tells whether the student has begun.
func (c Clock) Begun() bool { return c.begun }

// Rests is how many rests were begun.
func (c Clock) Rests() int { return c.rests }

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
		case !c.inHours(e.At):
			return refuse("it is outside the hours of the day")
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
		if e.What == Rest && !c.resting {
			c.rested = e.At
			c.rests++
		}
		c.resting = e.What == Rest
	default:
		return refuse("there is no such event")
	}
	return nil
}

// advance counts the time up to a moment, and ends the attempt where it is over by then.
func (c *Clock) advance(to time.Time) {
	if c.resting && c.restFor > 0 {
		if up := c.rested.Add(c.restFor); up.Before(to) {
			c.run(up)
			c.resting = false
		}
	}
	c.run(to)
}

// run is advance while nobody begins or ends a rest.
func (c *Clock) run(to time.Time) {
	from := c.now
	c.now = to
	if !c.begun || c.Ended() {
		return
	}
	end := c.allowance.End(c.window)
	if c.open && !c.resting {
		for _, span := range c.spans {
			begins, until := later(from, span.From), earlier(to, span.To)
			spent := until.Sub(begins)
			if spent <= 0 {
				continue
			}
			if left := c.allowance.Time() - c.worked; c.allowance.Limited() && spent >= left {
				c.worked += left
				c.ended, c.because = begins.Add(left), ByLimit
				return
			}
			c.worked += spent
		}
	}
	if !to.Before(end) {
		c.ended, c.because = end, ByWindow
	}
}

func earlier(a, b time.Time) time.Time {
	if b.Before(a) {
		return b
	}
	return a
}

func later(a, b time.Time) time.Time {
	if b.After(a) {
		return b
	}
	return a
}

// inHours tells whether a moment is in the hours of the day in which time counts.
func (c Clock) inHours(at time.Time) bool {
	return Within(c.spans, at)
}

// standing is the state of a clock that has begun and not ended.
func (c Clock) standing(now time.Time) State {
	switch {
	case c.resting:
		return Resting
	case !c.open || !c.inHours(now):
		return Waiting
	}
	return Working
}

// goesOn is from when time counts without anybody doing anything; false where somebody must.
func (c Clock) goesOn(now time.Time) (time.Time, bool) {
	if c.resting {
		return c.rested.Add(c.restFor), c.open && c.restFor > 0
	}
	return now, c.open
}

// usedUp is when the time that is left is used by who works on from a moment; false where the window ends first.
func (c Clock) usedUp(from time.Time) (time.Time, bool) {
	left := c.allowance.Time() - c.worked
	for _, span := range c.spans {
		begins := later(from, span.From)
		if has := span.To.Sub(begins); has >= left {
			return begins.Add(left), true
		} else if has > 0 {
			left -= has
		}
	}
	return time.Time{}, false
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
	default:
		r.State, r.EndsAt, r.Because = c.standing(now), windowEnd, ByWindow
		if from, goes := c.goesOn(now); goes && c.allowance.Limited() {
			if used, ok := c.usedUp(from); ok {
				r.EndsAt, r.Because = used, ByLimit
			}
		}
	}
	return r
}
