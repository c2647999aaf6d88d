package attempt

import (
	"encoding/json"
	"time"

	"pineledger/core/settings"
	"pineledger/core/support"
	"pineledger/core/window"
)

// Versions of what this package writes.
const (
	SetupSchema = 1
	TermsSchema = 2
)

// Setup is what is in force for everyone at a sitting. It is computed where settings or the window change, and kept with
// the sitting, so that nobody who works asks the levels again.
type Setup struct {
	Schema   int             `json:"schema"`
	Opens    time.Time       `json:"opens"`
	Closes   time.Time       `json:"closes"`             // the window's end, exclusive
	Ends     time.Time       `json:"ends"`               // when work is taken last: later than Closes where late work is
	Spans    []window.Window `json:"spans"`              // the hours of the days; nil: always
	Settings settings.Values `json:"settings,omitempty"` // those that are not the default
	Shut     []string        `json:"shut,omitempty"`     // settings that a lock keeps accommodations from too
}

// NewSetup computes what is in force in a window, with hours and days in a zone. shut are the settings that are locked against
// accommodations.
func NewSetup(values settings.Values, shut []string, opens, closes time.Time, zone *time.Location) Setup {
	s := Setup{Schema: SetupSchema, Opens: opens.UTC(), Closes: closes.UTC(), Ends: values.Ends(closes).UTC(), Settings: values, Shut: shut}
	if table := values.Timetable(zone); !table.Always() {
		s.Spans = table.Spans(window.Window{From: s.Opens, To: s.Ends})
	}
	return s
}

// Terms are what is in force for one attempt. They are kept with it when it begins
// and again at each change, so that it can be told later what held when.
type Terms struct {
	Schema   int             `json:"schema"`
	Setup    Setup           `json:"setup"`              // of its sitting
	Supports []support.Given `json:"supports,omitempty"` // of its student
	Factor   int             `json:"factor,omitempty"`   // extra-time factor in hundredths; 0: none
	Extra    int             `json:"extra,omitempty"`    // minutes
	Extends  bool            `json:"extends,omitempty"`  // the window ends later by what Factor and Extra add
}

// NewTerms are those of a student with supports, nil for none, at a sitting.
func NewTerms(s Setup, supports []support.Given) Terms {
	a := support.Allowance(s.Minutes(), supports, s.Shut)
	return Terms{Schema: TermsSchema, Setup: s, Supports: supports, Factor: a.Factor, Extra: a.Extra}
}

// Under puts another setup of the sitting in force; the student's supports stay theirs.
func (t Terms) Under(s Setup) Terms { return NewTerms(s, t.Supports) }

// Settings are those in force for this student: the sitting's, with what their supports add.
func (t Terms) Settings() settings.Values {
	return support.Values(t.Setup.Settings, t.Supports, t.Setup.Shut)
}

// Minutes is the time limit before anything is added; 0: none, for everyone or for this student.
func (t Terms) Minutes() int {
	return support.Allowance(t.Setup.Minutes(), t.Supports, t.Setup.Shut).Minutes
}

// Limited tells whether the attempt has a time limit.
func (t Terms) Limited() bool { return t.Minutes() > 0 }

// Allowed is the time limit with all that is added; 0 without a limit.
func (t Terms) Allowed() time.Duration { return t.allowance().Time() }

func (t Terms) allowance() window.Allowance {
	return window.Allowance{Minutes: t.Minutes(), Factor: t.Factor, Extra: t.Extra, Extends: t.Extends}
}

// termsOfOne are the terms of schema 1, in which there were no settings.
type termsOfOne struct {
	From    time.Time `json:"from"`
	To      time.Time `json:"to"`
	Minutes int       `json:"minutes"`
	Factor  int       `json:"factor"`
	Extra   int       `json:"extra"`
	Extends bool      `json:"extends"`
	Tries   int       `json:"tries"`
	Keep    Keep      `json:"keep"`
}

// UnmarshalJSON reads terms of every schema.
func (t *Terms) UnmarshalJSON(data []byte) error {
	var schema struct {
		Schema int `json:"schema"`
	}
	if err := json.Unmarshal(data, &schema); err != nil {
		return err
	}
	if schema.Schema >= TermsSchema {
		type plain Terms
		return json.Unmarshal(data, (*plain)(t))
	}
	var one termsOfOne
	if err := json.Unmarshal(data, &one); err != nil {
		return err
	}
	values := settings.Values{}
	for key, value := range map[string]any{settings.Minutes: one.Minutes, settings.Attempts: max(1, one.Tries), settings.Keep: one.Keep} {
		if s, ok := settings.ByKey(key); ok && !s.Same(settings.Raw(value), nil) && value != Keep("") {
			values[key] = settings.Raw(value)
		}
	}
	*t = Terms{Schema: TermsSchema, Factor: one.Factor, Extra: one.Extra, Extends: one.Extends,
		Setup: Setup{Schema: SetupSchema, Opens: one.From, Closes: one.To, Ends: one.To, Settings: values}}
	return nil
}

// Plan is what a clock under these terms is made of.
func (t Terms) Plan() window.Plan {
	s := t.Setup
	return window.Plan{Window: window.Window{From: s.Opens, To: s.Ends}, Allowance: t.allowance(), Spans: s.Spans,
		RestFor: time.Duration(s.Settings.Number(settings.BreakMinutes)) * time.Minute}
}

// Minutes is the time limit; 0: none.
func (s Setup) Minutes() int { return s.Settings.Number(settings.Minutes) }

// Limited tells whether an attempt has a time limit of its own.
func (s Setup) Limited() bool { return s.Minutes() > 0 }

// Tries is how many a seat has.
func (s Setup) Tries() int { return s.Settings.Number(settings.Attempts) }

// Keep says which of them counts.
func (s Setup) Keep() Keep { return Keep(s.Settings.Text(settings.Keep)) }

// Sitting is what the setup allows at a door.
func (s Setup) Sitting(door DoorState, doorAt time.Time) Sitting {
	return Sitting{Door: door, DoorAt: doorAt, Opens: s.Opens, Closes: s.Ends, Spans: s.Spans}
}

// DueSince tells since when a door should be open: the hours of its window have begun, it still waits, and nobody has begun. False
// where it need not be open at a moment.
func (s Setup) DueSince(door DoorState, begun bool, now time.Time) (time.Time, bool) {
	if door != Waiting || begun || !now.Before(s.Closes) {
		return time.Time{}, false
	}
	spans := s.Spans
	if spans == nil {
		spans = []window.Window{{From: s.Opens, To: s.Closes}}
	}
	for _, span := range spans {
		if window.Within([]window.Window{span}, now) {
			return span.From, true
		}
	}
	return time.Time{}, false
}

// DoorEvent is what a door's new state is to the clocks behind it.
func DoorEvent(to DoorState, at time.Time) window.Event {
	what := window.DoorCloses
	switch to {
	case Open:
		what = window.DoorOpens
	case Held:
		what = window.DoorPauses
	}
	return window.Event{At: at, What: what}
}
