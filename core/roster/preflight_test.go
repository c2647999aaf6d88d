package roster_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/core/settings"
)

var morning = time.Date(2026, 10, 13, 16, 0, 0, 0, time.UTC)

func plan() roster.Plan {
	return roster.Plan{
		Targets: []roster.Target{{SectionID: 1, Section: "6-1", School: "Quarry Road", Teachers: 1, Students: []int64{1, 2}}},
		Waves:   []roster.PlannedWave{{Opens: morning, Closes: morning.Add(48 * time.Hour), Students: 2, Minutes: 50, Holds: 48 * 60}},
		Lines:   20, Sealed: true, HasBands: true, Now: morning.Add(-time.Hour),
	}
}

func codes(p roster.Plan) []string {
	var out []string
	for _, f := range roster.Preflight(p) {
		out = append(out, string(f.Severity)+" "+f.Code)
	}
	return out
}

func TestPreflight(t *testing.T) {
	assert.Empty(t, codes(plan()))
	for want, change := range map[string]func(*roster.Plan){
		"stop settings:minutes": func(p *roster.Plan) {
			p.Settings = []settings.Quarrel{{Key: "minutes", Stop: true, Text: "x"}}
		},
		"caution settings:hours": func(p *roster.Plan) { p.Settings = []settings.Quarrel{{Key: "hours", Text: "x"}} },
		"stop not-sealed":        func(p *roster.Plan) { p.Sealed = false },
		"stop no-lines":          func(p *roster.Plan) { p.Lines = 0 },
		"stop no-key":            func(p *roster.Plan) { p.NoKey = []int{3} },
		"stop no-targets":        func(p *roster.Plan) { p.Targets = nil },
		"stop no-window":         func(p *roster.Plan) { p.Waves[0].Opens = time.Time{} },
		"stop window-order":      func(p *roster.Plan) { p.Waves[0].Closes = morning },
		"stop window-past":       func(p *roster.Plan) { p.Now = p.Waves[0].Closes },
		"stop window-short":      func(p *roster.Plan) { p.Waves[0].Minutes = 48*60 + 1 },
		"caution window-begun":   func(p *roster.Plan) { p.Now = morning.Add(time.Minute) },
		"stop twice": func(p *roster.Plan) {
			p.Targets = append(p.Targets, roster.Target{Section: "6-2", Teachers: 1, Students: []int64{2, 3}})
		},
		"stop no-wave":       func(p *roster.Plan) { p.NoWave = []string{"Quarry Road 6-1"} },
		"stop window-longer": func(p *roster.Plan) { p.Waves[0].Longer = roster.Longer{Minutes: 3000, Students: 2} },
		"caution lost":       func(p *roster.Plan) { p.Waves[0].Lost = []string{"Oct 13"} },
		"caution nowhere":    func(p *roster.Plan) { p.Nowhere = []string{"Ada Lindqvist"} },
		"caution no-sign-in": func(p *roster.Plan) { p.NoSignIn = 2 },
		"caution held":       func(p *roster.Plan) { p.Held = []int{4} },
		"caution seen":       func(p *roster.Plan) { p.Seen = []roster.Seen{{Line: 7, Students: 2}} },
		"caution supports":   func(p *roster.Plan) { p.Unmet = roster.Unmet{What: []string{"Nobody is named: scribe"}, Students: 3} },
		"caution language:es": func(p *roster.Plan) {
			p.Languages = []roster.PlannedLanguage{{Tag: "es", Name: "Spanish", Lacks: []string{"No Spanish text for line 2"}, Students: 3}}
		},
		"stop no-window:2":    func(p *roster.Plan) { p.Waves = append(p.Waves, roster.PlannedWave{Name: "Late"}) },
		"stop had-elsewhere":  func(p *roster.Plan) { p.Elsewhere = []int64{9, 2, 2} },
		"caution no-students": func(p *roster.Plan) { p.Targets[0].Students = nil },
		"caution no-teacher":  func(p *roster.Plan) { p.Targets[0].Teachers = 0 },
		"caution no-standard": func(p *roster.Plan) { p.NoAlign = []int{1} },
		"caution permission":  func(p *roster.Plan) { p.Unpermitted = []string{"The dock"} },
		"caution no-bands":    func(p *roster.Plan) { p.HasBands = false },
		"caution clash:Fall reading": func(p *roster.Plan) {
			p.Clashes = []roster.Clash{{Title: "Fall reading", Students: 2}}
		},
	} {
		p := plan()
		change(&p)
		assert.Equal(t, []string{want}, codes(p))
	}
	for name, change := range map[string]func(*roster.Plan){ // just not yet
		"a window of the time limit":   func(p *roster.Plan) { p.Waves[0].Minutes = 48 * 60 },
		"no time limit":                func(p *roster.Plan) { p.Waves[0].Minutes = 0 },
		"a window that begins now":     func(p *roster.Plan) { p.Now = morning },
		"had elsewhere, is in no more": func(p *roster.Plan) { p.Elsewhere = []int64{9} },
	} {
		p := plan()
		change(&p)
		assert.Empty(t, codes(p), name)
	}
}

func TestAClashSaysHowMuchMoreTimeItTakes(t *testing.T) {
	p := plan()
	p.AddClashes([]roster.Clash{{Title: "Fall reading", Students: 1}})
	assert.Equal(t, "1 student also sits Fall reading in this window.", roster.Preflight(p)[0].Text)
	p.AddClashes([]roster.Clash{{Title: "Fall reading", Students: 2, Minutes: 45}, {Title: "Other", Students: 1}})
	assert.Equal(t, "3 students also sit Fall reading in this window, which takes 45 minutes more.", roster.Preflight(p)[0].Text)
	assert.Len(t, p.Clashes, 2)
}

func TestWhoWasGivenWhichEdition(t *testing.T) {
	p := plan()
	p.Edition = 3
	for had, want := range map[int][]string{0: nil, 1: {"caution earlier"}, 2: {"caution earlier"}, 3: {"stop again"}, 4: {"stop again"}} {
		p.Targets[0].Had = had
		assert.Equal(t, want, codes(p), "edition %d", had)
	}
	p.Targets[0].Had, p.Elsewhere = 0, []int64{1}
	assert.Contains(t, roster.Preflight(p)[0].Text, "1 student had it")
	p.Elsewhere = []int64{1, 2}
	assert.Contains(t, roster.Preflight(p)[0].Text, "2 students had it")
}

func TestStopsComeFirstAndCautionsNeedReasons(t *testing.T) {
	p := plan()
	p.HasBands, p.NoKey = false, []int{1, 2, 3, 4, 5, 6, 7}
	findings := roster.Preflight(p)
	assert.Equal(t, roster.Stop, findings[0].Severity)
	assert.Equal(t, "Lines without a key: 1, 2, 3, 4, 5 and 2 more.", findings[0].Text)
	assert.Equal(t, 1, roster.Stops(findings))
	assert.Len(t, roster.Unaccepted(findings, nil), 1)
	// Within what is equally grave the work's own order stays.
	p = plan()
	p.Sealed, p.Lines, p.HasBands, p.Targets[0].Teachers = false, 0, false, 0
	assert.Equal(t, []string{"stop not-sealed", "stop no-lines", "caution no-teacher", "caution no-bands"}, codes(p))
	p = plan()
	p.Now, p.Elsewhere = morning.Add(time.Minute), []int64{1}
	assert.Equal(t, []string{"stop had-elsewhere", "caution window-begun"}, codes(p), "a stop comes first, also of what is checked later")
	assert.Empty(t, roster.Unaccepted(findings, map[string]string{"no-bands": "practice only"}))
}

func TestFindingsNameTheWaveAndHowManyItConcerns(t *testing.T) {
	p := plan()
	p.Waves = append(p.Waves, roster.PlannedWave{Name: "Harbor schools", Opens: morning, Closes: morning.Add(time.Hour), Students: 98, Minutes: 50, Holds: 60,
		Longer: roster.Longer{Minutes: 75, Students: 3}, Lost: []string{"Oct 13", "Oct 14"}})
	found := roster.Preflight(p)
	assert.Equal(t, []roster.Finding{
		{Code: "window-longer:2", Severity: roster.Stop, Part: "distribution", Students: 3, Text: "Harbor schools is too short for 3 students with more time: up to 75 minutes, and it holds 60."},
		{Code: "lost:2", Severity: roster.Caution, Part: "distribution", Students: 98, Text: "Harbor schools loses Oct 13, Oct 14: no school. Move its end, or leave it so."},
	}, found)
	p.Waves[1].Name, p.Waves[1].Longer.Students, p.Waves[1].Lost, p.Waves[1].Holds = "", 0, nil, 49
	assert.Equal(t, "Wave 2 is shorter than the time limit of 50 minutes.", roster.Preflight(p)[0].Text)
	p.Seen = []roster.Seen{{Line: 3, Students: 4}, {Line: 8, Students: 9}, {Line: 9, Students: 1}}
	assert.Equal(t, roster.Finding{Code: "seen", Severity: roster.Caution, Part: "lines", Students: 9, Text: "Lines that some of them were given this year already: 3, 8, 9."},
		roster.Preflight(p)[1])
	p.Seen, p.Waves[1].Holds = nil, 50
	assert.Empty(t, roster.Preflight(p), "just long enough")
}

func TestWhatCannotBeGivenIsNamedAsFarAsOneReads(t *testing.T) {
	text := func(what ...string) string {
		p := roster.Plan{Unmet: roster.Unmet{What: what, Students: 2}}
		for _, f := range roster.Preflight(p) {
			if f.Code == "supports" {
				assert.Equal(t, 2, f.Students)
				return f.Text
			}
		}
		return ""
	}
	assert.Equal(t, "2 students cannot be given all of their supports yet: a; b; c.", text("a", "b", "c"))
	assert.Equal(t, "2 students cannot be given all of their supports yet: a; b; c; and 2 more.", text("a", "b", "c", "d", "e"))
}

func TestTwinFormsAreCheckedBeforeTheyGoOutTogether(t *testing.T) {
	ready := func() *roster.Plan { return &roster.Plan{Sealed: true, HasBands: true, Lines: 20, Now: morning} }
	for want, change := range map[string]func(*roster.Plan, *roster.PlannedForm){
		"":                                   func(*roster.Plan, *roster.PlannedForm) {},
		"stop form-out:B":                    func(_ *roster.Plan, f *roster.PlannedForm) { f.Out = true },
		"stop form-others:B":                 func(_ *roster.Plan, f *roster.PlannedForm) { f.Forbidden = true },
		"caution form-prepared:B":            func(_ *roster.Plan, f *roster.PlannedForm) { f.Prepared = true },
		"stop not-sealed:B":                  func(_ *roster.Plan, f *roster.PlannedForm) { f.Plan.Sealed = false },
		"stop no-key:B":                      func(_ *roster.Plan, f *roster.PlannedForm) { f.Plan.NoKey = []int{3} },
		"caution wrong-key:B":                func(_ *roster.Plan, f *roster.PlannedForm) { f.Plan.WrongKey = []int{3} },
		"caution no-bands:B":                 func(_ *roster.Plan, f *roster.PlannedForm) { f.Plan.HasBands = false },
		"caution form-points:B":              func(_ *roster.Plan, f *roster.PlannedForm) { f.Total = points.One },
		"caution form-harder:B":              func(_ *roster.Plan, f *roster.PlannedForm) { f.Expected = 569 },
		"a difference of 30 is none":         func(_ *roster.Plan, f *roster.PlannedForm) { f.Expected = 570 },
		"easier by 30":                       func(_ *roster.Plan, f *roster.PlannedForm) { f.Expected = 630 },
		"not known":                          func(p *roster.Plan, f *roster.PlannedForm) { f.Expected = 0 },
		"not known of the one that goes out": func(p *roster.Plan, f *roster.PlannedForm) { p.Form.Expected = 0 },
	} {
		p, f := plan(), roster.PlannedForm{Assessment: 7, Letter: "B", Total: 2000, Expected: 600, Plan: ready()}
		p.Form = roster.PlannedForm{Letter: "A", Total: 2000, Expected: 600}
		change(&p, &f)
		p.Twins = []roster.PlannedForm{f}
		found := roster.Preflight(p)
		if !strings.Contains(want, ":B") {
			assert.Empty(t, found, want)
			continue
		}
		if assert.Len(t, found, 1, want) {
			assert.Equal(t, want, string(found[0].Severity)+" "+found[0].Code)
			assert.Contains(t, found[0].Text, "Form B")
			if found[0].Part != "distribution" {
				assert.Equal(t, int64(7), found[0].Assessment, "it is mended there")
			}
		}
	}
	p := plan()
	p.Form = roster.PlannedForm{Letter: "A", Total: 2000, Expected: 600}
	p.Twins = []roster.PlannedForm{{Letter: "B", Total: 2100, Expected: 650, Plan: ready()}}
	found := roster.Preflight(p)
	assert.Equal(t, "Form B is worth 21 points, form A 20.", found[0].Text)
	assert.Equal(t, "Form B is expected to bring 65.0 % of its points, form A 60.0 %.", found[1].Text)
}
