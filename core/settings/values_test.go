package settings_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"pineledger/core/points"
	"pineledger/core/settings"
)

var (
	begins = time.Date(2026, 11, 30, 9, 0, 0, 0, time.UTC)
	ends   = time.Date(2026, 12, 4, 17, 0, 0, 0, time.UTC)
)

// of makes values of keys and plain values in turn.
func of(pairs ...any) settings.Values {
	out := settings.Values{}
	for i := 0; i < len(pairs); i += 2 {
		out[pairs[i].(string)] = settings.Raw(pairs[i+1])
	}
	return out
}

func TestWhatATryLoses(t *testing.T) {
	late := of(settings.LateWork, "penalty", settings.LatePenalty, 10)
	for name, c := range map[string]struct {
		values   settings.Values
		try      int
		handedIn time.Time
		raw      points.Points
		left     points.Points
		days     int
	}{
		"the first, in time":             {of(settings.RetakePenalty, 5), 1, ends, 2000, 2000, 0},
		"a third with 5 % each":          {of(settings.RetakePenalty, 5), 3, ends, 2000, 1680, 0},
		"never below 0":                  {of(settings.RetakePenalty, 50), 3, ends, 2000, 0, 0},
		"a moment late is a day":         {late, 1, ends.Add(time.Second), 2000, 1680, 1},
		"a whole day is one":             {late, 1, ends.Add(24 * time.Hour), 2000, 1680, 1},
		"a day and a second are two":     {late, 1, ends.Add(24*time.Hour + time.Second), 2000, 1360, 2},
		"late work that is taken":        {of(settings.LateWork, "take", settings.LatePenalty, 10), 1, ends.Add(time.Hour), 2000, 2000, 0},
		"late and a retake":              {of(settings.LateWork, "penalty", settings.LatePenalty, 10, settings.RetakePenalty, 5), 2, ends.Add(time.Hour), 2000, 1520, 1},
		"a share is rounded half upward": {of(settings.RetakePenalty, 1), 2, ends, 150, 118, 0},
	} {
		d := c.values.Deductions(c.try, 3200, ends, c.handedIn)
		assert.Equal(t, c.left, d.Of(c.raw), name)
		assert.Equal(t, c.days, d.Days, name)
		assert.Equal(t, c.left != c.raw, d.Any(), name)
	}
	d := of(settings.RetakePenalty, 1).Deductions(2, 50, ends, ends)
	assert.Equal(t, points.Points(1), d.Retake, "half a hundredth is a whole one")
}

func TestWhenWorkIsTakenLast(t *testing.T) {
	assert.Equal(t, ends, settings.Values{}.Ends(ends))
	assert.Equal(t, ends.AddDate(0, 0, 7), of(settings.LateWork, "take").Ends(ends))
	assert.Equal(t, ends.AddDate(0, 0, 2), of(settings.LateWork, "penalty", settings.LateDays, 2).Ends(ends))
	assert.Equal(t, ends, of(settings.LateWork, "refuse", settings.LateDays, 2).Ends(ends))
	assert.True(t, settings.Values{}.HandsInByItself())
	assert.False(t, of(settings.LateWork, "refuse").HandsInByItself())
}

func TestWhichFeedbackIsDue(t *testing.T) {
	noon := ends.Add(-29 * time.Hour)
	both := of(settings.AtHandIn, []string{"score"}, settings.Later, []string{"right", "key"})
	with := func(pairs ...any) settings.Values {
		out := of(pairs...)
		for k, v := range both {
			out[k] = v
		}
		return out
	}
	date := with(settings.LaterWhen, "date", settings.LaterDate, "2026-12-10T09:00")
	hours := with(settings.LaterWhen, "hours", settings.LaterHours, 24)
	nine := time.Date(2026, 12, 10, 17, 0, 0, 0, time.UTC) // in Pacific time
	zone := time.FixedZone("PST", -8*3600)
	for name, c := range map[string]struct {
		values   settings.Values
		now      time.Time
		released time.Time
		sees     []string
		next     []string
		nextAt   time.Time
	}{
		"nothing is set":                       {settings.Values{}, noon, time.Time{}, []string{}, nil, time.Time{}},
		"before it is released":                {both, noon, time.Time{}, []string{"score"}, []string{"right", "key"}, time.Time{}},
		"released":                             {both, noon, noon, []string{"score", "right", "key"}, nil, time.Time{}},
		"before the day":                       {date, nine.Add(-1), time.Time{}, []string{"score"}, []string{"right", "key"}, nine},
		"on the day":                           {date, nine, time.Time{}, []string{"score", "right", "key"}, nil, time.Time{}},
		"on a day that is not chosen":          {with(settings.LaterWhen, "date"), nine, time.Time{}, []string{"score"}, nil, time.Time{}},
		"a moment before the hours are over":   {hours, ends.Add(24*time.Hour - 1), time.Time{}, []string{"score"}, []string{"right", "key"}, ends.Add(24 * time.Hour)},
		"after the hours":                      {hours, ends.Add(24 * time.Hour), time.Time{}, []string{"score", "right", "key"}, nil, time.Time{}},
		"never":                                {with(settings.LaterWhen, "never"), ends.AddDate(1, 0, 0), noon, []string{"score"}, nil, time.Time{}},
		"what was told already is not news":    {of(settings.AtHandIn, []string{"right"}, settings.Later, []string{"right"}), noon, time.Time{}, []string{"right"}, nil, time.Time{}},
		"released counts where it is so meant": {date, noon, noon, []string{"score"}, []string{"right", "key"}, nine},
	} {
		d := c.values.Feedback(settings.Facts{Now: c.now, HandedIn: begins, WindowEnds: ends, Released: c.released, Zone: zone})
		assert.Equal(t, c.sees, d.Now, name)
		assert.Equal(t, c.next, d.Next, name)
		assert.True(t, c.nextAt.Equal(d.NextAt), "%s: %s", name, d.NextAt)
	}
	assert.Zero(t, both.Feedback(settings.Facts{Now: noon, Released: noon, WindowEnds: ends, Zone: zone}), "nothing before it is handed in")
	assert.True(t, settings.Due{Now: []string{"key"}}.Sees(settings.TellKey))
	assert.False(t, settings.Due{Now: []string{"score"}}.Sees(settings.TellKey))
}

func TestWhatQuarrels(t *testing.T) {
	morning := []map[string]string{{"from": "09:00", "to": "09:40"}}
	for name, c := range map[string]struct {
		values settings.Values
		key    string // "" for none
		with   string
		stop   bool
	}{
		"nothing is set":                       {settings.Values{}, "", "", false},
		"an hour in forty minutes a day":       {of(settings.Minutes, 60, settings.Hours, morning), settings.Minutes, settings.Hours, false},
		"just what a day holds":                {of(settings.Minutes, 40, settings.Hours, morning), "", "", false},
		"more than the whole window holds":     {of(settings.Minutes, 201, settings.Hours, morning), settings.Minutes, settings.Hours, true},
		"hours in which there is no window":    {of(settings.Hours, morning, settings.DaysOff, []string{"2026-11-30", "2026-12-01", "2026-12-02", "2026-12-03", "2026-12-04"}), settings.Hours, "window", true},
		"a retake without one":                 {of(settings.Retake, "missed"), settings.Retake, settings.Attempts, false},
		"a retake with one":                    {of(settings.Retake, "missed", settings.Attempts, 2), "", "", false},
		"a date that is missing":               {of(settings.Later, []string{"key"}, settings.LaterWhen, "date"), settings.LaterDate, settings.LaterWhen, true},
		"a date before the window's end":       {of(settings.Later, []string{"key"}, settings.LaterWhen, "date", settings.LaterDate, "2026-12-04T16:59"), settings.LaterDate, "window", false},
		"a date at the window's end":           {of(settings.Later, []string{"key"}, settings.LaterWhen, "date", settings.LaterDate, "2026-12-04T17:00"), "", "", false},
		"the key at hand-in":                   {of(settings.AtHandIn, []string{"key"}), settings.AtHandIn, "window", false},
		"which were right, and a retake":       {of(settings.AtHandIn, []string{"right"}, settings.Attempts, 2), settings.AtHandIn, settings.Attempts, false},
		"which were right at hand-in":          {of(settings.AtHandIn, []string{"right"}), "", "", false},
		"a penalty for late work not taken":    {of(settings.LatePenalty, 20), settings.LatePenalty, settings.LateWork, false},
		"a penalty for late work":              {of(settings.LatePenalty, 20, settings.LateWork, "penalty"), "", "", false},
		"forward only on one page":             {of(settings.Screen, "page", settings.ForwardOnly, true), settings.ForwardOnly, settings.Screen, true},
		"feedback after each item on one page": {of(settings.Screen, "page", settings.AfterEach, []string{"right"}), settings.AfterEach, settings.Screen, true},
	} {
		got := c.values.Quarrels(begins, ends, time.UTC)
		if c.key == "" {
			assert.Empty(t, got, name)
			continue
		}
		found := false
		for _, q := range got {
			assert.NotEmpty(t, q.Text)
			found = found || q.Key == c.key && q.With == c.with && q.Stop == c.stop
		}
		assert.True(t, found, "%s: %v", name, got)
	}
	for _, q := range of(settings.Minutes, 201, settings.Hours, morning).Quarrels(time.Time{}, time.Time{}, time.UTC) {
		assert.False(t, q.Stop, "without a window nothing is known of it")
	}
}

func TestATimetableOfSettings(t *testing.T) {
	table := of(settings.Weekdays, []string{"mon", "sun"}, settings.DaysOff, []string{"2026-12-01"}).Timetable(time.UTC)
	assert.Equal(t, []time.Weekday{time.Monday, time.Sunday}, table.Weekdays)
	assert.False(t, table.Always())
	assert.True(t, settings.Values{}.Timetable(time.UTC).Always())
	assert.Equal(t, 45, of(settings.Minutes, 45).Allowance().Minutes)
}

func TestALimitMayGrowAndNotShrink(t *testing.T) {
	one, _ := settings.ByKey(settings.Minutes)
	for _, c := range []struct {
		before, after int
		may           bool
	}{{50, 50, true}, {50, 51, true}, {50, 49, false}, {50, 0, true}, {0, 50, false}, {0, 0, true}} {
		err := one.MayBecome(settings.Raw(c.before), settings.Raw(c.after))
		assert.Equal(t, c.may, err == nil, "%d to %d", c.before, c.after)
	}
	days, _ := settings.ByKey(settings.DaysOff)
	assert.Equal(t, "none left out", days.Words(settings.Raw([]string{})))
	assert.NotContains(t, days.Words(settings.Raw([]string{"2026-11-30"})), "none")
}
