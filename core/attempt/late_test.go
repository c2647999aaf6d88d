package attempt_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"pineledger/core/attempt"
)

func TestWhetherALateAnswerWasGivenInTime(t *testing.T) {
	begun := time.Date(2026, 11, 30, 17, 0, 0, 0, time.UTC)
	end := begun.Add(50 * time.Minute)
	for says, c := range map[string]struct {
		number int64
		want   bool
	}{
		"in the middle":             {begun.Add(20 * time.Minute).UnixMilli(), true},
		"at the very beginning":     {begun.UnixMilli(), true},
		"before it":                 {begun.UnixMilli() - 1, false},
		"at the very end":           {end.UnixMilli(), true},
		"a moment after it":         {end.UnixMilli() + 1, false},
		"a number that is no time":  {7, false},
		"a time of far in the past": {0, false},
	} {
		assert.Equal(t, c.want, attempt.InTime(c.number, begun, end), says)
	}
	assert.Equal(t, end, attempt.AnsweredAt(end.UnixMilli()))
}
