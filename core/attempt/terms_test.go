package attempt_test

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/attempt"
	"pineledger/core/settings"
	"pineledger/core/window"
)

func TestTermsOfBeforeThereWereSettings(t *testing.T) {
	var terms attempt.Terms
	require.NoError(t, json.Unmarshal([]byte(`{"schema":1,"from":"2026-10-13T17:00:00Z","to":"2026-10-14T01:00:00Z","minutes":50,"factor":150,"tries":2,"keep":"last"}`), &terms))
	assert.Equal(t, []any{50, 2, attempt.KeepLast, 150, true}, []any{terms.Setup.Minutes(), terms.Setup.Tries(), terms.Setup.Keep(), terms.Factor, terms.Setup.Limited()})
	assert.Equal(t, nine, terms.Setup.Opens)
	assert.Equal(t, nine.Add(8*time.Hour), terms.Setup.Ends)
	assert.Nil(t, terms.Setup.Spans)
	require.NoError(t, json.Unmarshal([]byte(`{"schema":1,"from":"2026-10-13T17:00:00Z","to":"2026-10-14T01:00:00Z"}`), &terms))
	assert.Empty(t, terms.Setup.Settings, "what is the default is not kept")
	assert.Error(t, json.Unmarshal([]byte(`{"schema":"one"}`), &terms))
}

func TestTermsComeBackAsTheyWereKept(t *testing.T) {
	values := settings.Values{settings.Minutes: settings.Raw(40), settings.BreakMinutes: settings.Raw(5), settings.LateWork: settings.Raw("take"), settings.LateDays: settings.Raw(1),
		settings.Hours: settings.Raw([]window.Stretch{{From: "09:00", To: "10:00"}})}
	setup := attempt.NewSetup(values, nil, nine, nine.Add(2*time.Hour), time.FixedZone("PDT", -7*3600))
	assert.Equal(t, nine.Add(26*time.Hour), setup.Ends)
	assert.Equal(t, []window.Window{{From: nine.Add(23 * time.Hour), To: nine.Add(24 * time.Hour)}}, setup.Spans, "nine is ten in this zone, so only the late day has the hour")
	terms := attempt.NewTerms(setup, nil)
	terms.Factor, terms.Extra, terms.Extends = 150, 3, true
	data, err := json.Marshal(terms)
	require.NoError(t, err)
	var back attempt.Terms
	require.NoError(t, json.Unmarshal(data, &back))
	assert.Equal(t, terms, back)
	_, err = back.Plan().Clock()
	require.NoError(t, err)

	none := attempt.NewSetup(settings.Values{settings.Hours: settings.Raw([]window.Stretch{{From: "01:00", To: "02:00"}})}, nil, nine, nine.Add(time.Hour), time.UTC)
	data, err = json.Marshal(none)
	require.NoError(t, err)
	var again attempt.Setup
	require.NoError(t, json.Unmarshal(data, &again))
	assert.NotNil(t, again.Spans, "no hour at all is not always")
	assert.Equal(t, attempt.ErrOutsideHours, again.Sitting(attempt.Open, nine).MayWork(nine))
}

func TestSinceWhenADoorIsDue(t *testing.T) {
	hour := func(n int) time.Time { return time.Date(2026, 10, 13, n, 0, 0, 0, time.UTC) }
	always := attempt.Setup{Opens: hour(8), Closes: hour(16)}
	hours := attempt.Setup{Opens: hour(8), Closes: hour(16), Spans: []window.Window{{From: hour(8), To: hour(10)}, {From: hour(12), To: hour(14)}}}
	for name, c := range map[string]struct {
		setup attempt.Setup
		door  attempt.DoorState
		begun bool
		now   int
		since int // 0: it is not
	}{
		"ahead of the window":    {always, attempt.Waiting, false, 7, 0},
		"as soon as it begins":   {always, attempt.Waiting, false, 8, 8},
		"until it ends":          {always, attempt.Waiting, false, 15, 8},
		"not when it is over":    {always, attempt.Waiting, false, 16, 0},
		"in the second stretch":  {hours, attempt.Waiting, false, 13, 12},
		"not between stretches":  {hours, attempt.Waiting, false, 10, 0},
		"not once it is open":    {always, attempt.Open, false, 9, 0},
		"not once it was closed": {always, attempt.Closed, false, 9, 0},
		"not where work began":   {always, attempt.Waiting, true, 9, 0},
	} {
		since, due := c.setup.DueSince(c.door, c.begun, hour(c.now))
		assert.Equal(t, c.since > 0, due, name)
		if due {
			assert.Equal(t, hour(c.since), since, name)
		}
	}
}
