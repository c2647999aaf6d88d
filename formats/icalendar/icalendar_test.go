package icalendar_test

import (
	"bytes"
	"strings"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/formats/icalendar"
)

func TestWhatIsWrittenIsReadAgain(t *testing.T) {
	zone, err := time.LoadLocation("America/Los_Angeles")
	require.NoError(t, err)
	var file bytes.Buffer
	title := "Grade 5 reading, winter; \"edition 2\" " + strings.Repeat("over the line of the format ", 4)
	require.NoError(t, icalendar.Write(&file, "Tamarack Bay", []icalendar.Event{
		{Key: "window-7-05", Title: title, Text: "12 schools\n21 sections", From: time.Date(2027, 1, 11, 8, 0, 0, 0, zone), To: time.Date(2027, 1, 22, 16, 0, 0, 0, zone), Changed: time.Unix(0, 0)},
		{Key: "day-2027-01-18", Title: "No school", From: time.Date(2027, 1, 18, 0, 0, 0, 0, zone), To: time.Date(2027, 1, 19, 0, 0, 0, 0, zone), WholeDay: true, Changed: time.Unix(0, 0)},
	}))
	for _, line := range strings.Split(file.String(), "\r\n") {
		assert.LessOrEqual(t, len(line), 75, "lines are folded")
	}
	c, err := ics.ParseCalendar(bytes.NewReader(file.Bytes()))
	require.NoError(t, err)
	require.Len(t, c.Events(), 2)
	first := c.Events()[0]
	assert.Equal(t, "window-7-05@pineledger", first.Id())
	assert.Equal(t, title, ics.FromText(first.GetProperty(ics.ComponentPropertySummary).Value))
	assert.Equal(t, "12 schools\n21 sections", ics.FromText(first.GetProperty(ics.ComponentPropertyDescription).Value))
	at, err := first.GetStartAt()
	require.NoError(t, err)
	assert.True(t, at.Equal(time.Date(2027, 1, 11, 16, 0, 0, 0, time.UTC)), "in UTC, whatever the zone")
	day, err := c.Events()[1].GetAllDayStartAt()
	require.NoError(t, err)
	assert.Equal(t, "2027-01-18", day.Format(time.DateOnly))
	end, err := c.Events()[1].GetAllDayEndAt()
	require.NoError(t, err)
	assert.Equal(t, "2027-01-19", end.Format(time.DateOnly))
}
