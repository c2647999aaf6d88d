package window_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/window"
)

func TestAYearLater(t *testing.T) {
	zone, err := time.LoadLocation("America/Los_Angeles")
	require.NoError(t, err)
	days := []string{"2027-10-11", "2027-10-13", "2027-10-14", "2027-11-09"}
	for was, becomes := range map[string]string{
		"2026-10-12 08:15": "2027-10-11 08:15", // a Monday
		"2026-10-13 16:00": "2027-10-13 16:00", // the Tuesday has no school
		"2026-10-16 08:00": "2027-11-09 08:00",
		"2026-11-10 08:00": "2027-11-09 08:00", // summer time ends on another day, eight stays eight
		"2026-11-12 08:00": "2027-11-11 08:00", // past the last known one
	} {
		at, err := time.ParseInLocation("2006-01-02 15:04", was, zone)
		require.NoError(t, err)
		assert.Equal(t, becomes, window.AYearLater(at.UTC(), days, zone).Format("2006-01-02 15:04"), was)
	}
}
