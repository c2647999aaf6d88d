package window_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/window"
)

func TestReadingDaysWithoutSchool(t *testing.T) {
	for text, want := range map[string][]window.NamedDay{
		"":                                nil,
		"2027-01-12, Snow":                {{"2027-01-12", "Snow"}},
		"Day,What\n1/12/2027;Snow\r\n\n":  {{"2027-01-12", "Snow"}},
		"January 12, 2027\tSnow":          {{"2027-01-12", "Snow"}},
		"Jan 12, 2027":                    {{"2027-01-12", ""}},
		"2027-01-15 to 2027-01-18, Break": {{"2027-01-15", "Break"}, {"2027-01-18", "Break"}},
		"2027-01-15 – 2027-01-18 Break":   {{"2027-01-15", "Break"}, {"2027-01-18", "Break"}},
		"2027-01-15\t2027-01-18\tMid-year, no school": {{"2027-01-15", "Mid-year, no school"}, {"2027-01-18", "Mid-year, no school"}},
		"1/15/2027 - 1/18/2027, Break":                {{"2027-01-15", "Break"}, {"2027-01-18", "Break"}},
		"2027-01-16, a Saturday":                      nil,
		"2027-01-12, Snow\n2027-01-12, Ice":           {{"2027-01-12", "Snow"}},
	} {
		days, err := window.ReadDays(text)
		require.NoError(t, err, text)
		assert.Equal(t, want, days, text)
	}
	for text, says := range map[string]string{
		"2027-13-12, Snow\n2027-01-13, Ice":      "Line 1: it begins with no day",
		"2027-01-12, Snow\nsoon, Ice":            "Line 2: it begins with no day",
		"2027-01-18 to 2027-01-15, Break":        "Line 1: the last day is before the first",
		"2027-01-18 to 2027-12-15, Break":        "more than 120 days",
		"2027-01-18, " + strings.Repeat("x", 81): "at most 80 characters",
		strings.Repeat("2027-01-01 to 2027-04-30, x\n", 1) + "2027-05-01 to 2027-08-28, y\n2027-09-01 to 2027-12-29, z\n2028-01-01 to 2028-04-29, z\n2028-05-01 to 2028-08-28, z": "Line 5: there are at most 400 days",
	} {
		_, err := window.ReadDays(text)
		var fault *window.LineFault
		require.ErrorAs(t, err, &fault, text)
		assert.ErrorContains(t, err, says)
	}
}

func TestDaysBetweenTwo(t *testing.T) {
	friday := time.Date(2027, 1, 15, 0, 0, 0, 0, time.UTC)
	days, err := window.DaysBetween(friday, friday.AddDate(0, 0, 3), "Break")
	require.NoError(t, err)
	assert.Equal(t, []window.NamedDay{{"2027-01-15", "Break"}, {"2027-01-18", "Break"}}, days)
	_, err = window.DaysBetween(friday, friday.AddDate(0, 0, 120), "Long")
	require.NoError(t, err)
	for _, last := range []int{-1, 121} {
		_, err = window.DaysBetween(friday, friday.AddDate(0, 0, last), "Break")
		assert.ErrorContains(t, err, "Break", last)
	}
}
