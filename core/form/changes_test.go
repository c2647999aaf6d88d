package form_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/band"
	"pineledger/core/form"
)

func TestWhatChangedBetweenTwoEditions(t *testing.T) {
	line := func(id int64, name string, version int) form.Line {
		return form.Line{ItemID: id, Identifier: name, VersionID: id*10 + int64(version), Version: version, Points: 100}
	}
	heavy := line(2, "I2", 1)
	heavy.Points = 250
	before := form.Form{Title: "Fall", BandSet: "Bands", Lines: []form.Line{line(1, "I1", 1), line(2, "I2", 1), line(3, "I3", 1)},
		Passages: []form.Passage{{Identifier: "P", Body: "The dock"}}, Bands: []band.Band{{Name: "Launching"}}}
	for _, c := range []struct {
		says   string
		change func(*form.Form)
		want   []string
	}{
		{"nothing", func(*form.Form) {}, nil},
		{"the title", func(f *form.Form) { f.Title = "Winter" }, []string{`The title was "Fall" and is "Winter".`}},
		{"a line off", func(f *form.Form) { f.Lines = f.Lines[:2] }, []string{"Line 3, I3, was taken off.", "The total was 3 and is 2 points."}},
		{"a line more", func(f *form.Form) { f.Lines = append(f.Lines, line(4, "I4", 1)) }, []string{"Line 4, I4, is new, worth 1 point.", "The total was 3 and is 4 points."}},
		{"a newer version", func(f *form.Form) { f.Lines[0] = line(1, "I1", 2) }, []string{"Line 1, I1: version 2 was 1."}},
		{"points", func(f *form.Form) { f.Lines[1] = heavy }, []string{"Line 2, I2: worth 2.5 points, was 1 point.", "The total was 3 and is 4.5 points."}},
		{"the tools of a line", func(f *form.Form) { f.Lines[1].Without = []string{"calculator", "timesTable"} }, []string{"Line 2, I2: answered without calculator, multiplication table, was with every tool."}},
		{"the parts", func(f *form.Form) { f.Parts = []form.Part{{Title: "By hand"}} }, []string{"Parts or pools changed."}},
		{"the order", func(f *form.Form) { f.Lines[0], f.Lines[2] = f.Lines[2], f.Lines[0] }, []string{"Lines stand in another order."}},
		{"the cuts", func(f *form.Form) { f.Bands = nil }, []string{"The cuts of Bands changed."}},
		{"no bands any more", func(f *form.Form) { f.BandSet = "" }, []string{"The band set was Bands and is none."}},
		{"a passage", func(f *form.Form) { f.Passages = []form.Passage{{Identifier: "P", Body: "The pier"}} }, []string{"A passage changed."}},
		{"a document", func(f *form.Form) { f.Document = &form.Document{Hash: "x"} }, []string{"The document changed."}},
	} {
		t.Run(c.says, func(t *testing.T) {
			after := before
			after.Lines = append([]form.Line{}, before.Lines...)
			c.change(&after)
			assert.Equal(t, c.want, form.Changes(before, after))
		})
	}
}
