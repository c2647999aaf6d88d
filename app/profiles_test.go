package app_test

import (
	"archive/zip"
	"bytes"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/desk"
	"pineledger/app/supports"
	"pineledger/core/settings"
	"pineledger/core/support"
	"pineledger/formats/pnp"
)

func TestWhoSeesAndEntersProfiles(t *testing.T) {
	w := newWorld(t)
	entry := supports.Entry{Have: support.Have{Key: support.ExtraTime, Value: settings.Raw("1.5"), Ground: "IEP"}}
	assert.ErrorIs(t, w.app.Supports.Enter(w.ctx, w.teacher, []int64{w.student.PersonID}, entry), desk.ErrForbidden)
	assert.ErrorIs(t, w.app.Supports.Enter(w.ctx, w.principal, []int64{w.student.PersonID, w.otherStudent.PersonID, 999}, entry), desk.ErrNotFound)
	assert.Empty(t, w.profile(w.student), "all of them or none")
	require.NoError(t, w.app.Supports.Enter(w.ctx, w.principal, []int64{w.student.PersonID}, entry))
	for range 3 {
		_, err := w.app.Supports.Profile(w.ctx, w.teacher, w.student.PersonID)
		require.NoError(t, err)
	}
	assert.Equal(t, 2, w.acts("supports.look"), "one of the coordinator, one of the teacher: a screen that asks again is one look")
	_, err := w.app.Supports.Profile(w.ctx, w.student, w.student.PersonID)
	assert.ErrorIs(t, err, desk.ErrForbidden)
	mine, err := w.app.Supports.Mine(w.ctx, w.student)
	require.NoError(t, err)
	require.Len(t, mine, 1)
	assert.Empty(t, mine[0].Ground)

	err = w.app.Supports.Enter(w.ctx, w.coordinator, []int64{w.student.PersonID}, supports.Entry{Have: support.Have{Key: support.ExtraTime, Value: settings.Raw("2")}})
	assert.ErrorContains(t, err, "Mei Sato: Extra time stands there twice")
	old := w.profile(w.student)[0]
	require.NoError(t, w.app.Supports.Enter(w.ctx, w.coordinator, []int64{w.student.PersonID}, supports.Entry{Have: support.Have{Key: support.ExtraTime, Value: settings.Raw("2")}, Replaces: old.ID}))
	err = w.app.Supports.Enter(w.ctx, w.coordinator, []int64{w.student.PersonID}, supports.Entry{Have: support.Have{Key: support.ExtraTime, Value: settings.Raw("3")}, Replaces: old.ID})
	assert.ErrorContains(t, err, "changed this meanwhile")
	assert.Equal(t, []string{`"2"`, `"1.5"`}, []string{string(w.profile(w.student)[0].Value), string(w.profile(w.student)[1].Value)})
}

func TestProfilesComeInFromATable(t *testing.T) {
	w := newWorld(t)
	look := w.bring("profiles.csv", []byte(profilesFile), true)
	assert.Empty(t, w.profile(w.student), "a look keeps nothing")
	r := w.bring("profiles.csv", []byte(profilesFile), false)
	assert.Equal(t, look.Counts, r.Counts)
	assert.ElementsMatch(t, []string{
		"profiles.csv additional-testing-time Mei Sato: Extra time stands there twice for the same days: time and a half and double time. End one of them.",
		`profiles.csv student "z" is no student of the rosters, by roster id or number`,
		"profiles.csv extraTime Extra time: Give a factor such as 1.5, up to 4, or no limit.",
		`profiles.csv ground "Plan" is none of the district's grounds, which are IEP, 504 plan, English learner, Temporary`,
		`profiles.csv seat Preferred seat: there is no subject "art". The subjects are mathematics, reading, science.`,
	}, reasons(r))
	assert.Equal(t, 4, r.Counts.New)
	require.Len(t, r.Notes, 2)
	assert.Contains(t, r.Notes[1].Reason+r.Notes[0].Reason, `"tactile" is not known here`)
	assert.Len(t, w.profile(w.student), 2)
	again := w.bring("profiles.csv", []byte(profilesFile), false)
	assert.Equal(t, []int{0, 0, 4}, []int{again.Counts.New, again.Counts.Changed, again.Counts.Unchanged}, "again and again without doubles")
	changed := w.bring("other.csv", []byte("student,support,value\na,extraTime,2\n"), false)
	assert.Equal(t, 1, changed.Counts.Changed)
	assert.Len(t, w.profile(w.student), 3, "what stood before is history")
}

func TestProfilesComeInAndGoOutAsAccessForAll(t *testing.T) {
	w := newWorld(t)
	for key, value := range map[string]any{support.ExtraTime: "1.5", support.ExtraMinutes: 5, support.Breaks: 2, support.ReadAloud: []string{"choices"}, support.InLanguage: "es", support.Directions: "es",
		support.LargePrint: "3", support.Colors: "dark-on-yellow", support.LineReader: true, support.Calculator: "scientific", support.SmallGroup: true, support.Seat: "by the door",
		support.SwitchOrKeys: "two", support.OtherSupport: support.Other{Name: "tactile", Said: "some"}} {
		w.enter(w.student, key, value)
	}
	before := w.profile(w.student)
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	require.NoError(t, w.app.Supports.Export(w.ctx, w.coordinator, func(e supports.Exported) error {
		f, err := z.Create(e.Number + ".xml")
		require.NoError(t, err)
		return pnp.Write(f, e.SourcedID, e.Haves)
	}))
	require.NoError(t, z.Close())
	r := w.bring("profiles.zip", out.Bytes(), false)
	assert.Empty(t, r.Refusals)
	assert.Equal(t, []int{0, len(before)}, []int{r.Counts.New + r.Counts.Changed, r.Counts.Unchanged}, "what goes out comes back the same: %v", r.Notes)

	other := anotherWorld(t)
	r = other.bring("profiles.zip", out.Bytes(), false)
	assert.Equal(t, len(before), r.Counts.New)
	want, got := map[string]string{}, map[string]string{}
	for i, e := range other.profile(other.student) {
		got[e.Key] = string(e.Value) + e.Ground
		want[before[i].Key] = string(before[i].Value) + before[i].Ground
	}
	assert.Equal(t, want, got)
	one := other.bring("1002.xml", []byte(`<?xml version="1.0"?><access-for-all-pnp xmlns="http://www.imsglobal.org/xsd/qti/qtiv3p0/imsafa3p0pnp_v1p0"><scribe/><braille><grade>2</grade></braille></access-for-all-pnp>`), false)
	assert.Equal(t, 2, one.Counts.New, "a file of one student is named by their number")
	assert.Len(t, one.Notes, 1)
	bomb := other.bring("bomb.zip", zipOf(t, "a.xml", `<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><access-for-all-pnp><scribe>&b;</scribe></access-for-all-pnp>`), false)
	assert.Equal(t, 1, bomb.Counts.Refused)
	assert.Contains(t, bomb.Refusals[0].Reason, "declares a document type or entities")
}
