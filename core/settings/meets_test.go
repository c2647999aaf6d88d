package settings_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/settings"
)

func TestWhatAStudentMeets(t *testing.T) {
	for _, c := range []struct {
		key    string
		values settings.Values
		want   string
	}{
		{settings.Minutes, nil, "You have as long as the window lasts."},
		{settings.Breaks, of(settings.Minutes, 75, settings.Hours, []map[string]string{{"from": "08:45", "to": "11:30"}}, settings.Breaks, 2),
			"You have 75 minutes, counted from when you begin. When they are over, your work is handed in. You can work from 8:45 to 11:30 am; between, your time stands still. You can take 2 breaks, 10 minutes at most."},
		{settings.AccessCode, nil, "You begin when your teacher has opened the door."},
		{settings.AccessCode, of(settings.AccessCode, true, settings.ManagedOnly, true), "You begin when your teacher has opened the door, with the code that is read out. It opens only on a device of the district."},
		{settings.Attempts, nil, "You take it once."},
		{settings.Keep, of(settings.Attempts, 3, settings.Retake, "missed", settings.RetakePenalty, 5, settings.Practice, true),
			"You can take it up to 3 times; the best counts. After the first time you get only what was not fully right. Each time after the first takes off 5% of the total. Once the window is over you can practice with it; nothing of that counts."},
		{settings.LateWork, nil, "When the window ends, your work is handed in as it is."},
		{settings.LateWork, of(settings.LateWork, "refuse"), "When the window ends, your work stops. Your teacher decides whether it is handed in."},
		{settings.LateDays, of(settings.LateWork, "take", settings.LateDays, 1), "You can still work for 1 day after the window ends."},
		{settings.LatePenalty, of(settings.LateWork, "penalty"), "You can still work for 7 days after the window ends; each day that has begun takes off 10% of the total."},
		{settings.AtHandIn, nil, "When you hand in you see that it came in, nothing more."},
		{settings.Later, of(settings.AfterEach, []string{"right"}, settings.AtHandIn, []string{"score"}, settings.Later, []string{"key"}, settings.LaterWhen, "date", settings.LaterDate, "2026-12-12T09:00"),
			"When you leave an item you see which answers were right, and it stays as you answered it. When you hand in you see the score. From Sat, Dec 12, 2026, 9:00 am on you see the key."},
		{settings.Later, of(settings.Later, []string{"key"}), "When you hand in you see that it came in, nothing more. When your school releases it you see the key."},
		{settings.Later, of(settings.Later, []string{"key"}, settings.LaterWhen, "hours"), "When you hand in you see that it came in, nothing more. From 24 hours after the window's end on you see the key."},
		{settings.Later, of(settings.Later, []string{"key"}, settings.LaterWhen, "hours", settings.LaterHours, 0), "When you hand in you see that it came in, nothing more. When the window has ended you see the key."},
		{settings.Later, of(settings.Later, []string{"key"}, settings.LaterWhen, "never"), "When you hand in you see that it came in, nothing more."},
		{settings.Printing, nil, ""},
	} {
		assert.Equal(t, c.want, c.values.Meets(c.key), c.key)
	}
}
