package attempt

import (
	"encoding/json"
	"time"

	"pineledger/core/settings"
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
}

// NewSetup computes what is in force in a window, with hours and days in a zone.
func NewSetup(values settings.Values, opens, closes time.Time, zone *time.Location) Setup {
	s := Setup{Schema: SetupSchema, Opens: opens.UTC(), Closes: closes.UTC(), Ends: values.Ends(closes).UTC(), Settings: values}
	if table := values.Timetable(zone); !table.Always() {
		s.Spans = table.Spans(window.Window{From: s.Opens, To: s.Ends})
	}
	return s
}

// Terms are what is in force for one attempt. They are kept with it when it begins
// and again at each change, so that it can be told later what held when.
type Terms struct {
	Schema  int   `json:"schema"`
	Setup   Setup `json:"setup"`             // of its sitting
	Factor  int   `json:"factor,omitempty"`  // extra-time factor in hundredths; 0: none
	Extra   int   `json:"extra,omitempty"`   // minutes
	Extends bool  `json:"extends,omitempty"` // the window ends later by what Factor and Extra add
}

// NewTerms are those of a student without accommodations.
func NewTerms(s Setup) Terms { return Terms{Schema: TermsSchema, Setup: s} }

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
	allowance := s.Settings.Allowance()
	allowance.Factor, allowance.Extra, allowance.Extends = t.Factor, t.Extra, t.Extends
	return window.Plan{Window: window.Window{From: s.Opens, To: s.Ends}, Allowance: allowance, Spans: s.Spans,
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
