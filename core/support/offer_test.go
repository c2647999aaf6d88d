package support_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/settings"
	"pineledger/core/support"
)

// winter is a reading assessment in English: a passage with two lines, one of which is there in Spanish, and a line with a picture.
var winter = support.Offer{Subject: "reading", Language: "en", Passages: []support.Passage{{Title: "Harbor notes", Language: "en"}}, Lines: []support.Line{
	{Standards: []string{"R5.KD.1"}, Languages: []string{"en", "es"}, Passage: "P1"},
	{Standards: []string{"R5.VO.4"}, Languages: []string{"en"}, Passage: "P1"},
	{Standards: []string{"R5.KD.2"}, Languages: []string{"en", "es"}, NoWords: true},
}}

var rules = []support.Construct{
	{Support: support.ReadAloud, Part: settings.ReadPassages, Subject: "reading", Why: "Reading the passage is what is measured."},
	{Support: support.Dictionary, Subject: "reading", Standard: "R5.VO", Why: "Knowing words is what is measured."},
}

func TestWhatBreaksIsKeptUntilACoordinatorAllowsIt(t *testing.T) {
	read := given(support.ReadAloud, []string{"questions", "passages"})
	v := winter.Breaks(read, rules)
	require.NotNil(t, v)
	assert.Equal(t, &support.Verdict{Why: "Reading the passage is what is measured.", Parts: []string{"passages"}, Lines: []int{1, 2}}, v)
	assert.Nil(t, winter.Breaks(given(support.ReadAloud, []string{"questions"}), rules))
	assert.Equal(t, []int{2}, winter.Breaks(given(support.Dictionary, true), rules).Lines, "only lines under the standard")
	assert.Nil(t, winter.Breaks(given(support.Scribe, true), rules))
	math := winter
	math.Subject = "mathematics"
	assert.Nil(t, math.Breaks(read, rules), "in mathematics reading is not what is measured")

	all := []support.Given{read, given(support.Dictionary, true), given(support.Breaks, 2)}
	got := winter.Lets(all, rules, nil)
	require.Len(t, got, 2, "the dictionary is kept back; of reading aloud the rest is given")
	assert.JSONEq(t, `["questions"]`, string(got[0].Value))
	assert.False(t, support.Apart(got))
	got = winter.Lets(all, rules, map[string]support.Ruling{support.ReadAloud: support.Allow, support.Dictionary: support.Without})
	require.Len(t, got, 2)
	assert.JSONEq(t, `["questions","passages"]`, string(got[0].Value))
	assert.True(t, support.Apart(got), "the result does not compare")
	assert.Empty(t, winter.Lets([]support.Given{given(support.ReadAloud, []string{"passages"})}, rules, nil))

	parts := support.Offer{Lines: []support.Line{{}, {Without: []string{settings.Calculator}}}}
	assert.Equal(t, []int{2}, parts.Breaks(given(support.Calculator, "basic"), nil).Lines)
	assert.Nil(t, support.Offer{Lines: []support.Line{{}}}.Breaks(given(support.Calculator, "basic"), nil))
}

func TestAToolThatLinesAreAnsweredWithout(t *testing.T) {
	table := []support.Given{given(support.TimesTable, true)}
	one := support.Offer{Lines: []support.Line{{}, {Without: []string{settings.TimesTable, settings.Ruler}}}}
	assert.Equal(t, table, one.Lets(table, nil, nil), "given on the other line")
	assert.False(t, support.LetAnyway(one.Lets(table, nil, nil), settings.TimesTable))
	let := one.Lets(table, nil, map[string]support.Ruling{support.TimesTable: support.Allow})
	assert.True(t, support.Apart(let), "on all lines, and the result does not compare")
	assert.True(t, support.LetAnyway(let, settings.TimesTable))
	assert.False(t, support.LetAnyway(let, settings.Ruler))
	gaps := one.Gaps(table, support.Standing{})
	require.Len(t, gaps, 1)
	assert.True(t, gaps[0].Still, "it is there, but not everywhere")
	assert.Equal(t, []int{2}, gaps[0].Lines)

	all := support.Offer{Lines: []support.Line{{Without: []string{settings.TimesTable}}}}
	assert.Empty(t, all.Lets(table, nil, nil), "there is no line left for it")
	ruled := []support.Construct{{Support: support.TimesTable, Why: "Products are what is measured."}}
	assert.Empty(t, one.Lets(table, ruled, nil), "where a rule forbids it as well, it waits for a reason")
}

func TestWhatIsNotPossibleYet(t *testing.T) {
	hours := support.Times{Minutes: 75, Longest: 120, Total: 240, Days: 2}
	nobody := func(string) bool { return false }
	for _, c := range []struct {
		name   string
		given  []support.Given
		stand  support.Standing
		titles []string
		mends  []support.Mend // of the first
	}{
		{"time that fits a day", []support.Given{given(support.ExtraTime, "1.5")}, support.Standing{Times: hours}, nil, nil},
		{"time that fills a day", []support.Given{given(support.ExtraTime, "1.6")}, support.Standing{Times: hours}, nil, nil},
		{"time for which no day is long enough", []support.Given{given(support.ExtraTime, "2")}, support.Standing{Times: hours}, []string{"No day is long enough"}, []support.Mend{support.MendDays, support.MendHours}},
		{"the same over two days", []support.Given{given(support.ExtraTime, "2"), given(support.SeveralDays, 2)}, support.Standing{Times: hours}, nil, nil},
		{"more days than there are", []support.Given{given(support.SeveralDays, 3)}, support.Standing{Times: hours}, []string{"Too few days"}, []support.Mend{support.MendHours}},
		{"time that no window holds", []support.Given{given(support.ExtraTime, "4"), given(support.SeveralDays, 2)}, support.Standing{Times: hours}, []string{"The window is too short"}, []support.Mend{support.MendHours}},
		{"minutes count with the factor, once", []support.Given{given(support.ExtraTime, "1.5"), given(support.ExtraMinutes, 10)}, support.Standing{Times: hours}, []string{"No day is long enough"}, []support.Mend{support.MendDays, support.MendHours}},
		{"minutes alone", []support.Given{given(support.ExtraMinutes, 46)}, support.Standing{Times: hours}, []string{"No day is long enough"}, []support.Mend{support.MendDays, support.MendHours}},
		{"no limit", []support.Given{given(support.ExtraTime, "unlimited")}, support.Standing{Times: hours}, nil, nil},
		{"no window yet", []support.Given{given(support.ExtraTime, "4")}, support.Standing{Times: support.Times{Minutes: 75}}, nil, nil},
		{"a lock", []support.Given{given(support.ExtraTime, "2")}, support.Standing{Times: hours, Shut: []string{settings.Minutes}}, []string{"Extra time is locked"}, []support.Mend{support.MendUnlock}},
		{"a language", []support.Given{given(support.InLanguage, "es")}, support.Standing{}, []string{"No Spanish text for line 2", "Passages not in Spanish"}, []support.Mend{support.MendLines}},
		{"its own language", []support.Given{given(support.InLanguage, "en")}, support.Standing{}, nil, nil},
		{"pictures that nobody can read aloud", []support.Given{given(support.ReadAloud, []string{"questions"})}, support.Standing{Rules: rules}, []string{"No words for the picture of line 3"}, []support.Mend{support.MendLines}},
		{"a passage read aloud", []support.Given{given(support.ReadAloud, []string{"passages"})}, support.Standing{Rules: rules}, []string{"Read aloud: passages"}, []support.Mend{support.MendAllow, support.MendWithout}},
		{"a passage, decided", []support.Given{given(support.Dictionary, true)}, support.Standing{Rules: rules, Rulings: map[string]support.Ruling{support.Dictionary: support.Without}}, nil, nil},
		{"directions in a language that the screen does not speak", []support.Given{given(support.Directions, "so")}, support.Standing{}, []string{"No directions in Somali"}, []support.Mend{support.MendName}},
		{"directions in Spanish", []support.Given{given(support.Directions, "es")}, support.Standing{}, nil, nil},
		{"no glossary", []support.Given{given(support.Glossary, true)}, support.Standing{}, []string{"No line has a glossary"}, []support.Mend{support.MendLines}},
		{"nobody for a scribe", []support.Given{given(support.Scribe, true)}, support.Standing{Provided: nobody}, []string{"Nobody is named: scribe"}, []support.Mend{support.MendName}},
		{"no booklet", []support.Given{given(support.LargeBooklet, true)}, support.Standing{Provided: nobody}, []string{"Large-print booklet not made"}, []support.Mend{support.MendMade}},
		{"somebody is named", []support.Given{given(support.Scribe, true)}, support.Standing{Provided: func(string) bool { return true }}, nil, nil},
	} {
		t.Run(c.name, func(t *testing.T) {
			gaps := winter.Gaps(c.given, c.stand)
			var titles []string
			for _, g := range gaps {
				titles = append(titles, g.Title)
				assert.NotEmpty(t, g.Detail)
			}
			assert.Equal(t, c.titles, titles)
			if len(gaps) > 0 {
				assert.Equal(t, c.mends, gaps[0].Mends)
			}
		})
	}
	glossed := support.Offer{Lines: []support.Line{{}, {Glossary: true}}}
	assert.Empty(t, glossed.Gaps([]support.Given{given(support.Glossary, true)}, support.Standing{}))
	assert.Equal(t, "A document cannot be read aloud", support.Offer{Book: true}.Gaps([]support.Given{given(support.ReadAloud, []string{"questions"})}, support.Standing{})[0].Title)
	es := support.Offer{Language: "en", Instructions: true}.Gaps([]support.Given{given(support.Directions, "es")}, support.Standing{})
	require.Len(t, es, 1)
	assert.True(t, es[0].Still, "the screen is in Spanish all the same")
}

func TestLinesAreNamedOrCounted(t *testing.T) {
	o := support.Offer{Language: "en"}
	for range 5 {
		o.Lines = append(o.Lines, support.Line{Languages: []string{"en"}})
	}
	es := []support.Given{given(support.InLanguage, "es")}
	assert.Equal(t, "No Spanish text for 5 lines", o.Gaps(es, support.Standing{})[0].Title)
	o.Lines[4].Languages = []string{"es"}
	assert.Equal(t, "No Spanish text for lines 1, 2, 3 and 4", o.Gaps(es, support.Standing{})[0].Title)
}

func TestWhatIsGivenAllTheSame(t *testing.T) {
	still := func(parts ...string) bool {
		return winter.Gaps([]support.Given{given(support.ReadAloud, parts)}, support.Standing{Rules: rules})[0].Still
	}
	assert.True(t, still("questions", "passages"), "of reading aloud the rest is given")
	assert.False(t, still("passages"), "nothing is left of it")
	assert.Empty(t, winter.Gaps([]support.Given{given(support.SeveralDays, 2)}, support.Standing{}), "without a window no day is missing")
	assert.Len(t, winter.Gaps([]support.Given{given(support.SeveralDays, 2)}, support.Standing{Times: support.Times{Days: 1}}), 1)
	seat := given(support.Seat, "by the door")
	assert.Empty(t, winter.Gaps([]support.Given{seat}, support.Standing{Provided: func(string) bool { return false }}), "a seat is only kept free")
}
