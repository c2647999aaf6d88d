package settings_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/settings"
)

func TestTheCatalogHoldsTogether(t *testing.T) {
	keys, names, common := map[string]bool{}, map[string]bool{}, 0
	for _, s := range settings.Catalog {
		assert.False(t, keys[s.Key] || names[s.Name], s.Key)
		keys[s.Key], names[s.Name] = true, true
		got, err := s.Check(s.Default)
		require.NoError(t, err, s.Key)
		assert.Equal(t, string(s.Default), string(got), s.Key)
		assert.NotEmpty(t, s.Words(nil), s.Key)
		assert.NotContains(t, s.Words(nil), "%!", s.Key)
		assert.Regexp(t, `^[A-Z].*\.$`, s.Does)
		assert.Regexp(t, `^[A-Z].*\.$`, s.Begun.Says())
		assert.Contains(t, settings.Groups, s.Group)
		assert.NotEmpty(t, s.Levels, s.Key)
		if s.Common {
			common++
		}
		found, ok := settings.ByKey(s.Key)
		assert.True(t, ok && found.Name == s.Name)
	}
	assert.Equal(t, 10, common, "the ten asked about most")
	_, ok := settings.ByKey("burn")
	assert.False(t, ok)
}

func setting(t require.TestingT, key string) settings.Setting {
	s, ok := settings.ByKey(key)
	require.True(t, ok, key)
	return s
}

func TestValuesHaveOneForm(t *testing.T) {
	for _, c := range []struct{ key, value, want, words string }{
		{settings.Minutes, `75`, `75`, "75 minutes"},
		{settings.Minutes, `0`, `0`, "no limit"},
		{settings.Minutes, `1440`, `1440`, "1440 minutes"},
		{settings.Breaks, `1`, `1`, "1 break"},
		{settings.Attempts, `1`, `1`, "one, with no retake"},
		{settings.RetakePenalty, `5`, `5`, "5% of the total"},
		{settings.AccessCode, `true`, `true`, "asked at the door"},
		{settings.AccessCode, `false`, `false`, "not asked"},
		{settings.Keep, `"mean"`, `"mean"`, "the mean counts"},
		{settings.AtHandIn, `["right","score"]`, `["score","right"]`, "the score, which answers were right"},
		{settings.AtHandIn, `["score","score"]`, `["score"]`, "the score"},
		{settings.AtHandIn, `[]`, `[]`, "that it came in, nothing more"},
		{settings.Weekdays, `["tue","mon"]`, `["mon","tue"]`, "Monday, Tuesday"},
		{settings.Weekdays, `["mon","tue","wed","thu","fri","sat","sun"]`, `["mon","tue","wed","thu","fri","sat","sun"]`, "every day"},
		{settings.Hours, `[{"from":"13:00","to":"14:30"},{"from":"08:45","to":"11:30"}]`, `[{"from":"08:45","to":"11:30"},{"from":"13:00","to":"14:30"}]`, "8:45 to 11:30 am and 1:00 to 2:30 pm"},
		{settings.Hours, `[]`, `[]`, "all day"},
		{settings.DaysOff, `["2027-01-18","2026-11-26","2026-11-26"]`, `["2026-11-26","2027-01-18"]`, "Nov 26, Jan 18 left out"},
		{settings.DaysOff, `["2026-11-23","2026-11-24","2026-11-25","2026-11-26","2026-11-27"]`, `["2026-11-23","2026-11-24","2026-11-25","2026-11-26","2026-11-27"]`, "Nov 23, Nov 24, Nov 25 and 2 more days left out"},
		{settings.LaterDate, `"2026-12-12T09:00"`, `"2026-12-12T09:00"`, "Sat, Dec 12, 2026, 9:00 am"},
		{settings.LaterDate, `""`, `""`, "not set"},
		{settings.Directions, `"  Bring a pencil. "`, `"Bring a pencil."`, "Bring a pencil."},
		{settings.Directions, `""`, `""`, "nothing more"},
	} {
		s := setting(t, c.key)
		got, err := s.Check(json.RawMessage(c.value))
		require.NoError(t, err, "%s %s", c.key, c.value)
		assert.Equal(t, c.want, string(got))
		assert.Equal(t, c.words, s.Words(got))
		again, err := s.Check(got)
		require.NoError(t, err)
		assert.Equal(t, string(got), string(again), "the one form stays")
	}
}

func TestValuesThatCannotBe(t *testing.T) {
	const none = "This is not a value of this setting."
	for _, c := range []struct{ key, value, says string }{
		{settings.Minutes, `-1`, "Give a whole number from 0 to 1440."},
		{settings.Minutes, `1441`, "Give a whole number from 0 to 1440."},
		{settings.Minutes, `1.5`, none},
		{settings.Minutes, `"60"`, none},
		{settings.Minutes, `null`, none},
		{settings.Attempts, `0`, "Give a whole number from 1 to 10."},
		{settings.AccessCode, `"yes"`, none},
		{settings.AccessCode, `null`, none},
		{settings.Keep, `"worst"`, none},
		{settings.AtHandIn, `["everything"]`, none},
		{settings.AtHandIn, `"score"`, none},
		{settings.AfterEach, `["score"]`, none},
		{settings.Hours, `[{"from":"08:45","to":"08:30"}]`, "Hours are written as 08:45 to 11:30, the end after the beginning."},
		{settings.Hours, `[{"from":"08:45","to":"11:30"},{"from":"11:00","to":"12:00"}]`, "Two stretches of the day overlap."},
		{settings.Hours, `[{"from":"08:45","till":"11:30"}]`, none},
		{settings.Hours, `[{"from":"01:00","to":"01:30"},{"from":"02:00","to":"02:30"},{"from":"03:00","to":"03:30"},{"from":"04:00","to":"04:30"},{"from":"05:00","to":"05:30"},{"from":"06:00","to":"06:30"},{"from":"07:00","to":"07:30"},{"from":"08:00","to":"08:30"},{"from":"09:00","to":"09:30"}]`, "A day has at most 8 stretches."},
		{settings.DaysOff, `["11/26/2026"]`, `"11/26/2026" is not a day such as 2026-11-30.`},
		{settings.DaysOff, `["2026-02-30"]`, `"2026-02-30" is not a day such as 2026-11-30.`},
		{settings.LaterDate, `"tomorrow"`, "Give a day and a time."},
		{settings.Directions, `7`, none},
	} {
		_, err := setting(t, c.key).Check(json.RawMessage(c.value))
		assert.EqualError(t, err, c.says, "%s %s", c.key, c.value)
	}
}

func TestWhatMayChangeOnceSomebodyHasBegun(t *testing.T) {
	for _, c := range []struct {
		key, before, after string
		may                bool
	}{
		{settings.Minutes, `60`, `75`, true},
		{settings.Minutes, `60`, `60`, true},
		{settings.Minutes, `60`, `0`, true},
		{settings.Minutes, `60`, `59`, false},
		{settings.Minutes, `0`, `600`, false},
		{settings.Minutes, ``, `600`, false},
		{settings.BreakMinutes, `10`, `9`, false},
		{settings.Breaks, `2`, `1`, false},
		{settings.Breaks, `1`, `2`, true},
		{settings.Attempts, `2`, `3`, true},
		{settings.Attempts, `2`, `1`, false},
		{settings.RetakePenalty, `5`, `4`, true},
		{settings.RetakePenalty, `5`, `6`, false},
		{settings.MixItems, `false`, `true`, false},
		{settings.MixItems, ``, `false`, true},
		{settings.Calculator, `"none"`, `"percent"`, true},
		{settings.Calculator, `"percent"`, `"basic"`, false},
		{settings.StrikeOut, `false`, `true`, true},
		{settings.StrikeOut, `true`, `false`, false},
		{settings.AccessCode, `true`, `false`, true},
		{settings.AccessCode, `false`, `true`, false},
		{settings.Keep, `"best"`, `"last"`, false},
		{settings.LateWork, `"take"`, `"refuse"`, false},
		{settings.Hours, `[]`, `[{"from":"08:45","to":"11:30"}]`, true},
		{settings.AtHandIn, `["score"]`, `[]`, true},
	} {
		raw := func(text string) json.RawMessage {
			if text == "" {
				return nil
			}
			return json.RawMessage(text)
		}
		err := setting(t, c.key).MayBecome(raw(c.before), raw(c.after))
		assert.Equal(t, c.may, err == nil, "%s from %s to %s", c.key, c.before, c.after)
	}
	assert.EqualError(t, setting(t, settings.Minutes).MayBecome(settings.Raw(60), settings.Raw(50)),
		"Time limit: somebody has begun. It may grow longer, not shorter. Give a single student less by closing the door.")
	assert.Equal(t, "This may change at any time.", setting(t, settings.Hours).Begun.Says())
}

func TestWhereASettingMayStand(t *testing.T) {
	assert.True(t, setting(t, settings.Minutes).At(settings.Section))
	assert.False(t, setting(t, settings.MixItems).At(settings.School), "results of two schools compare")
	assert.True(t, setting(t, settings.DaysOff).At(settings.School))
	assert.False(t, setting(t, settings.DaysOff).At(settings.Assessment))
}
