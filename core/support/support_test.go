package support_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/settings"
	"pineledger/core/support"
	"pineledger/core/window"
)

var raw = settings.Raw

func have(key string, value any) support.Have { return support.Have{Key: key, Value: raw(value)} }

func given(key string, value any) support.Given { return support.Given{Key: key, Value: raw(value)} }

func TestEachSupportSaysWhatItIs(t *testing.T) {
	seen := map[string]bool{}
	for _, s := range support.Catalog {
		assert.False(t, seen[s.Key], s.Key)
		seen[s.Key] = true
		assert.NotEmpty(t, s.Name, s.Key)
		assert.LessOrEqual(t, len(s.Short), 15, s.Key)
		assert.Regexp(t, `\.$`, s.Does, s.Key)
		assert.Contains(t, support.Groups, s.Group, s.Key)
		assert.Contains(t, []support.By{support.ByItself, support.ByPerson, support.OnPaper}, s.By, s.Key)
		if s.By != support.ByItself {
			assert.NotEmpty(t, s.Needs, "%s: a person or paper is needed", s.Key)
		}
	}
	assert.Len(t, support.Catalog, 32)
}

func TestAnEntryIsCheckedAndTold(t *testing.T) {
	subjects := []string{"mathematics", "reading"}
	for _, c := range []struct {
		name   string
		have   support.Have
		value  string // in its one form; "" where it is refused
		reason string
	}{
		{"a factor", have(support.ExtraTime, "1.50"), `"1.5"`, ""},
		{"a whole factor", have(support.ExtraTime, "2.0"), `"2"`, ""},
		{"no limit", have(support.ExtraTime, "unlimited"), `"unlimited"`, ""},
		{"the largest factor", have(support.ExtraTime, "4"), `"4"`, ""},
		{"the smallest factor", have(support.ExtraTime, "1.01"), `"1.01"`, ""},
		{"a factor of one", have(support.ExtraTime, "1"), "", "Extra time: Give a factor such as 1.5, up to 4, or no limit."},
		{"a factor above four", have(support.ExtraTime, "4.01"), "", "Extra time: Give a factor such as 1.5, up to 4, or no limit."},
		{"a factor with three places", have(support.ExtraTime, "1.255"), "", "Extra time: Give a factor such as 1.5, up to 4, or no limit."},
		{"breaks", have(support.Breaks, 3), "3", ""},
		{"no breaks", have(support.Breaks, 0), "", "Breaks: Give a whole number from 1 to 20."},
		{"parts to read", have(support.ReadAloud, []string{"choices", "directions"}), `["directions","choices"]`, ""},
		{"nothing to read", have(support.ReadAloud, []string{}), "", "Read aloud: Choose what of it."},
		{"a language", have(support.InLanguage, "es"), `"es"`, ""},
		{"no language", have(support.InLanguage, "Spanish!"), "", "Another language: Give a language by its tag, such as es for Spanish."},
		{"a plain one", have(support.Scribe, true), "true", ""},
		{"a plain one that is not", have(support.Scribe, false), "", "Scribe: This is not a value of this setting."},
		{"none at all", have("braille", true), "", `There is no support "braille".`},
		{"an end before its beginning", support.Have{Key: support.Scribe, Value: raw(true), From: "2026-11-02", To: "2026-11-01"}, "", "Scribe ends on 2026-11-01, before it begins on 2026-11-02."},
		{"no day", support.Have{Key: support.Scribe, Value: raw(true), From: "11/02"}, "", `Scribe: "11/02" is not a day such as 2026-11-30.`},
		{"a subject that is none", support.Have{Key: support.Scribe, Value: raw(true), Subjects: []string{"art"}}, "", `Scribe: there is no subject "art". The subjects are mathematics, reading.`},
		{"what is not known, by its name", have(support.OtherSupport, support.Other{Name: "tactile"}), `{"name":"tactile","said":""}`, ""},
	} {
		t.Run(c.name, func(t *testing.T) {
			got, err := c.have.Check(subjects)
			if c.value == "" {
				require.EqualError(t, err, c.reason)
				return
			}
			require.NoError(t, err)
			assert.JSONEq(t, c.value, string(got.Value))
		})
	}
	for value, words := range map[string]string{"1.25": "time and a quarter", "1.5": "time and a half", "2": "double time", "3": "triple time", "1.75": "1.75 times the limit", "unlimited": "no time limit"} {
		assert.Equal(t, "Extra time: "+words, given(support.ExtraTime, value).Said())
	}
	assert.Equal(t, "Scribe", given(support.Scribe, true).Said())
	assert.Equal(t, "Another language: Spanish", given(support.InLanguage, "es").Said())
	assert.Equal(t, "Another support: tactile", given(support.OtherSupport, support.Other{Name: "tactile"}).Said())
}

func TestASupportStandsOnceForADayAndSubject(t *testing.T) {
	arm := support.Have{Key: support.Scribe, Value: raw(true), From: "2026-11-02", To: "2026-11-20"}
	for _, c := range []struct {
		name  string
		other support.Have
		twice bool
	}{
		{"the day it ends", support.Have{Key: support.Scribe, Value: raw(true), From: "2026-11-20"}, true},
		{"the day after", support.Have{Key: support.Scribe, Value: raw(true), From: "2026-11-21"}, false},
		{"before it, on its first day", support.Have{Key: support.Scribe, Value: raw(true), To: "2026-11-02"}, true},
		{"before it", support.Have{Key: support.Scribe, Value: raw(true), To: "2026-11-01"}, false},
		{"another support", support.Have{Key: support.Speech, Value: raw(true)}, false},
	} {
		t.Run(c.name, func(t *testing.T) {
			assert.Equal(t, c.twice, support.CheckAll([]support.Have{arm, c.other}) != nil)
			assert.Equal(t, c.twice, support.CheckAll([]support.Have{c.other, arm}) != nil)
		})
	}
	math, reading := have(support.ExtraTime, "1.5"), have(support.ExtraTime, "2")
	math.Subjects, reading.Subjects = []string{"mathematics"}, []string{"reading"}
	assert.NoError(t, support.CheckAll([]support.Have{math, reading}))
	reading.Subjects = nil
	assert.EqualError(t, support.CheckAll([]support.Have{math, reading}), "Extra time stands there twice for the same days: time and a half and double time. End one of them.")
	unknown := have(support.OtherSupport, support.Other{Name: "tactile"})
	assert.NoError(t, support.CheckAll([]support.Have{unknown, unknown}))
}

func TestWhatHoldsOnADay(t *testing.T) {
	scribe := support.Have{Key: support.Scribe, Value: raw(true), From: "2026-11-02", To: "2026-11-20"}
	time := support.Have{Key: support.ExtraTime, Value: raw("1.5"), Subjects: []string{"reading"}}
	keys := func(subject, day string) []string {
		out := []string{}
		for _, h := range support.InForce([]support.Have{scribe, time}, subject, day) {
			out = append(out, h.Key)
		}
		return out
	}
	assert.Equal(t, []string{support.ExtraTime, support.Scribe}, keys("reading", "2026-11-02"), "in the catalog's order")
	assert.Equal(t, []string{support.Scribe}, keys("mathematics", "2026-11-20"))
	assert.Equal(t, []string{support.ExtraTime}, keys("reading", "2026-11-21"))
	assert.Equal(t, []string{support.ExtraTime}, keys("", "2026-11-01"), "of an assessment without a subject nothing is left out")
	assert.True(t, scribe.Temporary())
	assert.False(t, time.Temporary())
}

func TestOfTwoThatMeetTheMoreCounts(t *testing.T) {
	for _, c := range []struct{ key, less, more string }{
		{support.ExtraTime, `"1.5"`, `"2"`}, {support.ExtraTime, `"4"`, `"unlimited"`}, {support.Breaks, "2", "3"}, {support.ReadAloud, `["questions"]`, `["questions","choices"]`},
		{support.LargePrint, `"1.5"`, `"3"`}, {support.Calculator, `"basic"`, `"scientific"`},
	} {
		less, more := support.Given{Key: c.key, Value: json.RawMessage(c.less)}, support.Given{Key: c.key, Value: json.RawMessage(c.more)}
		assert.Equal(t, []support.Given{more}, support.Keep([]support.Given{less}, []support.Given{more}), c.key)
		assert.Equal(t, []support.Given{more}, support.Keep([]support.Given{more}, []support.Given{less}), c.key)
	}
	assert.Len(t, support.Keep([]support.Given{given(support.Scribe, true)}, []support.Given{given(support.Breaks, 1)}), 2, "what one had stays")
}

func TestSupportsAddToWhatEveryoneHas(t *testing.T) {
	everyone := settings.Values{settings.Breaks: raw(2), settings.Calculator: raw("percent"), settings.ReadAloud: raw([]string{"directions"}), settings.Screen: raw("page")}
	v := support.Values(everyone, []support.Given{given(support.Breaks, 1), given(support.Calculator, "basic"), given(support.ReadAloud, []string{"choices"}), given(support.OneItem, true),
		given(support.LineReader, true), given(support.LargePrint, "2")}, nil)
	assert.Equal(t, 2, v.Number(settings.Breaks))
	assert.Equal(t, "percent", v.Text(settings.Calculator))
	assert.Equal(t, []string{"directions", "choices"}, v.Picked(settings.ReadAloud))
	assert.Equal(t, "item", v.Text(settings.Screen))
	assert.True(t, v.Flag(settings.LineReader))
	assert.True(t, v.Flag(settings.Zoom))
	assert.Equal(t, "page", everyone.Text(settings.Screen), "the sitting's own stay as they are")

	v = support.Values(everyone, []support.Given{given(support.Breaks, 5), given(support.Calculator, "scientific")}, []string{settings.Calculator})
	assert.Equal(t, 5, v.Number(settings.Breaks))
	assert.Equal(t, "percent", v.Text(settings.Calculator), "a lock for accommodations too keeps it away")
}

func TestTimeOfAStudent(t *testing.T) {
	minutes := func(limit int, shut []string, list ...support.Given) int {
		return support.Needs(support.Times{Minutes: limit}, list, shut)
	}
	assert.Equal(t, 75, minutes(75, nil))
	assert.Equal(t, 113, minutes(75, nil, given(support.ExtraTime, "1.5")), "half a minute is a minute")
	assert.Equal(t, 123, minutes(75, nil, given(support.ExtraTime, "1.5"), given(support.ExtraMinutes, 10)))
	assert.Equal(t, 85, minutes(75, nil, given(support.ExtraMinutes, 10)))
	assert.Equal(t, 0, minutes(75, nil, given(support.ExtraTime, "unlimited"), given(support.ExtraMinutes, 10)))
	assert.Equal(t, 75, minutes(75, []string{settings.Minutes}, given(support.ExtraTime, "2")))
	assert.Equal(t, 0, minutes(0, nil, given(support.ExtraTime, "2")))
}

func TestTimesOfAWindow(t *testing.T) {
	zone := time.FixedZone("PST", -8*3600)
	nine := time.Date(2026, 11, 30, 9, 0, 0, 0, zone)
	w := window.Window{From: nine, To: nine.Add(48 * time.Hour)}
	assert.Equal(t, support.Times{Minutes: 60, Longest: 24 * 60, Total: 48 * 60, Days: 3}, support.TimesOf(60, w, nil, zone))
	spans := []window.Window{{From: nine, To: nine.Add(time.Hour)}, {From: nine.Add(2 * time.Hour), To: nine.Add(3 * time.Hour)}, {From: nine.Add(24 * time.Hour), To: nine.Add(25 * time.Hour)}}
	assert.Equal(t, support.Times{Minutes: 60, Longest: 120, Total: 180, Days: 2}, support.TimesOf(60, w, spans, zone))
}

// anyGiven draws supports as a profile could give them.
var anyGiven = rapid.Custom(func(t *rapid.T) []support.Given {
	var out []support.Given
	for _, g := range rapid.SliceOfN(rapid.SampledFrom([]support.Given{
		given(support.ExtraTime, "1.5"), given(support.ExtraTime, "1.01"), given(support.ExtraTime, "unlimited"), given(support.ExtraMinutes, 7), given(support.Breaks, 2), given(support.SeveralDays, 2),
		given(support.Calculator, "basic"), given(support.ReadAloud, []string{"passages"}), given(support.OneItem, true), given(support.Scribe, true),
	}), 0, 8).Draw(t, "supports") {
		out = support.Add(out, g)
	}
	return out
})

func TestNoSupportMakesAnAttemptShorter(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		limit := rapid.IntRange(0, 300).Draw(t, "minutes")
		had, now := anyGiven.Draw(t, "had"), anyGiven.Draw(t, "now")
		alone, with := support.Allowance(limit, nil, nil), support.Allowance(limit, had, nil)
		require.True(t, !with.Limited() || with.Time() >= alone.Time(), "%v", had)
		later := support.Allowance(limit, support.Keep(had, now), nil)
		require.True(t, !later.Limited() || with.Limited() && later.Time() >= with.Time(), "a profile that changes takes no time away: %v, then %v", had, now)
		for _, g := range had {
			require.True(t, support.Has(support.Keep(had, now), g.Key), "%s is lost", g.Key)
		}
	})
}

func TestNoSupportChangesWhatFeedbackTells(t *testing.T) {
	feedback := []string{settings.AfterEach, settings.AtHandIn, settings.Later, settings.LaterWhen, settings.LaterDate, settings.LaterHours, settings.ShowScore}
	for _, s := range support.Catalog {
		value := json.RawMessage("true")
		for _, try := range []string{"true", "2", `"2"`, `"es"`, `"basic"`, `"light-on-dark"`, `"one"`, `["questions"]`} {
			if v, err := s.Check(json.RawMessage(try)); err == nil {
				value = v
			}
		}
		v := support.Values(settings.Values{settings.Minutes: raw(30)}, []support.Given{{Key: s.Key, Value: value}}, nil)
		for key := range v {
			assert.False(t, slices.Contains(feedback, key), "%s sets %s", s.Key, key)
		}
	}
}

func Example() {
	profile := []support.Have{{Key: support.ExtraTime, Value: settings.Raw("1.5")}, {Key: support.Scribe, Value: settings.Raw(true), To: "2026-11-20"}}
	for _, g := range support.Give(support.InForce(profile, "reading", "2026-11-30"), support.FromProfile) {
		fmt.Println(g.Said())
	}
	// Output: Extra time: time and a half
}

func TestTwoListsThatGiveTheSame(t *testing.T) {
	time, scribe := given(support.ExtraTime, "1.5"), given(support.Scribe, true)
	assert.True(t, support.Same([]support.Given{time, scribe}, []support.Given{scribe, time}), "whatever the order")
	assert.True(t, support.Same(nil, nil))
	assert.False(t, support.Same([]support.Given{time}, []support.Given{scribe}))
	assert.False(t, support.Same([]support.Given{time}, []support.Given{given(support.ExtraTime, "2")}))
	assert.False(t, support.Same([]support.Given{time}, []support.Given{time, scribe}))
	apart := scribe
	apart.Apart = true
	assert.False(t, support.Same([]support.Given{apart}, []support.Given{scribe}))
}

func TestAValueInANarrowCell(t *testing.T) {
	for short, g := range map[string]support.Given{
		"1½": given(support.ExtraTime, "1.5"), "1¼": given(support.ExtraTime, "1.25"), "1¾": given(support.ExtraTime, "1.75"), "∞": given(support.ExtraTime, "unlimited"), "3": given(support.Breaks, 3),
		"es": given(support.InLanguage, "es"), "": given(support.Scribe, true),
	} {
		assert.Equal(t, short, support.Short(g))
	}
}

func TestWordsOfLanguagesAndOfWhatIsNotKnown(t *testing.T) {
	assert.Equal(t, []string{"English", "Spanish", "xx"}, []string{support.LanguageName("en"), support.LanguageName("es"), support.LanguageName("xx")})
	other, known := support.ByKey(support.OtherSupport)
	require.True(t, known)
	assert.Equal(t, "", other.Words(json.RawMessage("{")), "what cannot be read has no words")
	_, err := other.Check(json.RawMessage("{"))
	assert.ErrorContains(t, err, "Name the support.")
	_, err = other.Check(raw(support.Other{Name: "  "}))
	assert.ErrorContains(t, err, "Name the support.")
	_, err = other.Check(raw(support.Other{Name: "x", Said: string(make([]byte, 4001))}))
	assert.ErrorContains(t, err, "at most")
	assert.Equal(t, "braille", support.Given{Key: "braille"}.Said(), "another release's support stands by its key")
	assert.Equal(t, support.Screen{}, support.ScreenOf([]support.Given{{Key: support.LargePrint, Value: json.RawMessage("{")}}))
}

func TestASupportHoldsFromItsFirstDayToItsLast(t *testing.T) {
	h := support.Have{From: "2026-11-02", To: "2026-11-20"}
	assert.Equal(t, []bool{false, true, true, false}, []bool{h.On("2026-11-01"), h.On("2026-11-02"), h.On("2026-11-20"), h.On("2026-11-21")})
	same := support.Have{Key: support.Scribe, Value: raw(true), From: "2026-11-05", To: "2026-11-05"}
	_, err := same.Check(nil)
	assert.NoError(t, err, "for one day")
	assert.Equal(t, "Scribe", same.Name())
}

func TestAGroupNeedsOneAdultAndTheRestOneEach(t *testing.T) {
	for _, one := range []struct {
		key            string
		students, want int
	}{{support.SmallGroup, 0, 0}, {support.SmallGroup, 1, 1}, {support.SmallGroup, 7, 1}, {support.Scribe, 0, 0}, {support.Scribe, 7, 7}} {
		assert.Equal(t, one.want, support.Needed(one.key, one.students), "%s for %d", one.key, one.students)
	}
}
