package settings_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/settings"
)

// The district locks an hour; a school that says otherwise is stopped, a student's own time is not.
func ExampleResolve() {
	r := settings.Resolve([]settings.Stand{
		{Level: settings.District, Value: json.RawMessage("60"), Lock: settings.LockRest},
		{Level: settings.School, Value: json.RawMessage("90")},
		{Level: settings.Student, Value: json.RawMessage("120")},
	})
	fmt.Println(string(r.Value), r.From, r.LockedAt)
	for _, s := range r.Trail {
		fmt.Println(s.Level, s.State)
	}
	// Output:
	// 120 student district
	// district overridden
	// school stopped
	// student inForce
}

func TestWhichValueIsInForce(t *testing.T) {
	at := func(level settings.Level, lock settings.Lock) settings.Stand {
		return settings.Stand{Level: level, Value: settings.Raw(string(level)), Lock: lock, By: "of the " + string(level)}
	}
	const none, rest, also = settings.NoLock, settings.LockRest, settings.LockAlso
	const in, over, stopped = settings.InForce, settings.Overridden, settings.Stopped
	for name, c := range map[string]struct {
		stands []settings.Stand
		from   settings.Level
		locked settings.Level
		states []settings.State
	}{
		"nobody says anything":                           {nil, "", "", nil},
		"one level":                                      {[]settings.Stand{at("purpose", none)}, "purpose", "", []settings.State{in}},
		"the most particular":                            {[]settings.Stand{at("district", none), at("section", none)}, "section", "", []settings.State{over, in}},
		"a lock stops what is below it":                  {[]settings.Stand{at("district", none), at("assessment", rest), at("school", none), at("section", none)}, "assessment", "assessment", []settings.State{over, in, stopped, stopped}},
		"a lock that is stopped stops nothing more":      {[]settings.Stand{at("district", rest), at("school", also), at("student", none)}, "student", "district", []settings.State{over, stopped, in}},
		"an accommodation passes a lock":                 {[]settings.Stand{at("section", rest), at("student", none)}, "student", "section", []settings.State{over, in}},
		"a lock on accommodations too":                   {[]settings.Stand{at("district", also), at("student", none)}, "district", "district", []settings.State{in, stopped}},
		"an accommodation alone":                         {[]settings.Stand{at("student", none)}, "student", "", []settings.State{in}},
		"a lock on the most particular still says it is": {[]settings.Stand{at("district", none), at("section", rest)}, "section", "section", []settings.State{over, in}},
	} {
		r := settings.Resolve(c.stands)
		assert.Equal(t, c.from, r.From, name)
		assert.Equal(t, c.locked, r.LockedAt, name)
		var states []settings.State
		for _, s := range r.Trail {
			states = append(states, s.State)
		}
		assert.Equal(t, c.states, states, name)
		if c.from != "" {
			assert.Equal(t, settings.Raw(string(c.from)), r.Value, name)
		} else {
			assert.Nil(t, r.Value, name)
		}
		if c.locked != "" {
			assert.Equal(t, "of the "+string(c.locked), r.LockedBy, name)
		}
	}
}

// Exactly one value is in force where any level says something; none is overridden after it, and none is stopped before the lock.
func TestOneValueIsInForce(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var stands []settings.Stand
		for _, level := range append(slices.Clone(settings.Levels), settings.Student) {
			if rapid.Bool().Draw(t, "says "+string(level)) {
				stands = append(stands, settings.Stand{Level: level, Value: settings.Raw(string(level)), Lock: rapid.SampledFrom([]settings.Lock{"", "", settings.LockRest, settings.LockAlso}).Draw(t, "lock")})
			}
		}
		r := settings.Resolve(stands)
		in := -1
		for i, s := range r.Trail {
			if s.State == settings.InForce {
				require.Equal(t, -1, in)
				in = i
			}
		}
		require.Equal(t, len(stands) > 0, in >= 0)
		for i, s := range r.Trail {
			switch s.State {
			case settings.Overridden:
				require.Less(t, i, in)
			case settings.Stopped:
				require.NotEmpty(t, r.LockedAt)
				require.Greater(t, i, slices.IndexFunc(stands, func(s settings.Stand) bool { return s.Level == r.LockedAt }))
			}
		}
		more := append(slices.Clone(stands), settings.Stand{})
		if len(stands) > 0 && stands[len(stands)-1].Level != settings.Student {
			more[len(stands)] = settings.Stand{Level: settings.Student, Value: settings.Raw(1)}
			require.Equal(t, r.Lock != settings.LockAlso, settings.Resolve(more).From == settings.Student)
		}
	})
}
