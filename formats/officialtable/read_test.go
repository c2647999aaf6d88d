package officialtable_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/official"
	"pineledger/formats/officialtable"
)

// sheet makes a grid of lines with cells parted by bars.
func sheet(name string, lines ...string) officialtable.Sheet {
	s := officialtable.Sheet{Name: name}
	for i, l := range lines {
		if strings.TrimSpace(l) == "" {
			continue
		}
		var cells []string
		for _, c := range strings.Split(l, "|") {
			cells = append(cells, strings.TrimSpace(c))
		}
		s.Rows = append(s.Rows, officialtable.Line{Number: i + 1, Cells: cells})
	}
	return s
}

var subjects = []string{"mathematics", "reading"}

// told writes tables shortly: key, then raw=scale/band.
func told(f officialtable.Found) (out []string) {
	for _, t := range f.Tables {
		text := strings.Join([]string{t.Test, t.Subject, t.Grade, t.Year}, " ") + ":"
		for _, r := range t.Rows {
			scale := "-"
			if r.Scale != nil {
				scale = r.Scale.String()
			}
			text += fmt.Sprintf(" %s=%s/%s", r.Raw, scale, r.Band)
		}
		out = append(out, text)
	}
	return out
}

func TestTheShapesThatOfficesUse(t *testing.T) {
	for name, c := range map[string]struct {
		sheet officialtable.Sheet
		given official.Key
		want  []string
	}{
		"stacked grades with a column for each thing": {sheet("", "Subject|Grade|Year|Raw Score|Scale Score|Performance Level",
			"Mathematics|6|2025-26|0|300|Launching", "Mathematics|6|2025-26|1|310|Underway", "Mathematics|7|2025-26|0|305|Launching", "Mathematics|7|2025-26|1|320|Underway"), official.Key{},
			[]string{" mathematics 06 2025–26: 0=300/Launching 1=310/Underway", " mathematics 07 2025–26: 0=305/Launching 1=320/Underway"}},
		"grades side by side under merged heads": {sheet("", "Calder test of mathematics, 2025–2026", "|Grade 3||Grade 4|", "Raw|Scale|Level|Scale|Level",
			"0|200|Launching|210|Launching", "1|215|Underway|220|Launching", "2|||230|Underway"), official.Key{},
			[]string{" mathematics 03 2025–26: 0=200/Launching 1=215/Underway", " mathematics 04 2025–26: 0=210/Launching 1=220/Launching 2=230/Underway"}},
		"years side by side, each with raw scores of its own": {sheet("Grade 5 Reading", "2024-25|||2025-26||", "Points|SS|Band|Points|SS|Band", "0|1|a|0|2|a", "1|5|b|1|6|b"), official.Key{},
			[]string{" reading 05 2024–25: 0=1/a 1=5/b", " reading 05 2025–26: 0=2/a 1=6/b"}},
		"a sheet that says its grade, the rest given": {sheet("Gr 8", "Raw score|Scale score", "0|100", "1|120"), official.Key{Subject: "reading", Year: "2025–26", Test: "Spring"},
			[]string{"Spring reading 08 2025–26: 0=100/ 1=120/"}},
		"ranges, footnote marks and decimal commas": {sheet("", "Raw score (of 4)*|Scale score†|Band", "0–2|1,204|Launching*", "3*|1.310,5|x", "3|1310,5‡|Underway", "4|1320|Underway", "* Scores below 3 are rounded up."),
			official.Key{Subject: "reading", Grade: "03", Year: "2026"},
			[]string{" reading 03 2026: 0=1204/Launching 1=1204/Launching 2=1204/Launching 3=1310.5/Underway 4=1320/Underway"}},
		"from the top down": {sheet("", "raw|level", "2|High", "1|Low", "0|Low"), official.Key{Subject: "reading", Grade: "KG", Year: "2026"},
			[]string{" reading KG 2026: 0=-/Low 1=-/Low 2=-/High"}},
		"a test's name, an ordinal grade, a column that is no matter": {sheet("", "Test|Grade|Year|Raw|Scale|Percentile", "Winter form|6th grade|2026|0|1|3", "Winter form|6th grade|2026|1|2|9"), official.Key{Subject: "mathematics"},
			[]string{"Winter form mathematics 06 2026: 0=1/ 1=2/"}},
	} {
		found, err := officialtable.Read(c.sheet, c.given, subjects)
		require.NoError(t, err, name)
		assert.Equal(t, c.want, told(found), name)
	}
}

func TestHowColumnsWereUnderstood(t *testing.T) {
	found, err := officialtable.Read(sheet("", "|Grade 3|", "Raw|Scale|Percentile", "0|1|2", "1|2|3", "See the manual."), official.Key{Subject: "reading", Year: "2026"}, subjects)
	require.NoError(t, err)
	assert.Equal(t, []officialtable.Column{{Head: "Raw", As: "raw"}, {Head: "Scale", As: "scale", Of: "Grade 3"}, {Head: "Percentile", Of: "Grade 3"}}, found.Understood)
	assert.Equal(t, []official.Problem{{Line: 5, Reason: "See the manual."}}, found.Aside)
}

func TestRowsThatCannotBeRead(t *testing.T) {
	full := official.Key{Subject: "reading", Grade: "03", Year: "2026"}
	for name, c := range map[string]struct {
		given official.Key
		lines []string
		says  official.Problem
	}{
		"a raw score":  {full, []string{"raw|scale", "1a|5"}, official.Problem{Line: 2, Field: "raw", Reason: `"1a" is no raw score`}},
		"a scale":      {full, []string{"raw|scale", "0|many"}, official.Problem{Line: 2, Field: "scale", Reason: `"many" is no scale score`}},
		"a range":      {full, []string{"raw|scale", "5-3|5"}, official.Problem{Line: 2, Field: "raw", Reason: `"5-3" is no raw score`}},
		"a vast range": {full, []string{"raw|scale", "0-1001|5"}, official.Problem{Line: 2, Field: "raw", Reason: `"0-1001" is no raw score`}},
		"a grade":      {full, []string{"raw|scale|grade", "0|5|13"}, official.Problem{Line: 2, Field: "grade", Reason: `"13" is no grade`}},
		"a year":       {full, []string{"raw|scale|year", "0|5|last"}, official.Problem{Line: 2, Field: "year", Reason: `"last" is no year such as 2025–26`}},
		"a subject":    {full, []string{"raw|scale|subject", "0|5|Latin"}, official.Problem{Line: 2, Field: "subject", Reason: `"Latin" is no subject of the district`}},
		"a total":      {full, []string{"raw|scale|total", "0|5|all"}, official.Problem{Line: 2, Field: "total", Reason: `"all" is no total`}},
		"no grade":     {official.Key{Subject: "reading", Year: "2026"}, []string{"raw|scale", "0|5"}, official.Problem{Line: 2, Field: "grade", Reason: "neither the row nor a heading says the grade"}},
		"no subject":   {official.Key{Grade: "03", Year: "2026"}, []string{"raw|scale", "0|5"}, official.Problem{Line: 2, Field: "subject", Reason: "neither the row nor a heading says the subject"}},
		"a minus sign": {full, []string{"raw|scale", "0|-5"}, official.Problem{Line: 2, Field: "scale", Reason: `"-5" is no scale score`}},
	} {
		found, err := officialtable.Read(sheet("", c.lines...), c.given, subjects)
		require.NoError(t, err, name)
		assert.Equal(t, []official.Problem{c.says}, found.Problems, name)
	}
	_, err := officialtable.Read(sheet("", "a|b", "1|2"), full, subjects)
	assert.ErrorContains(t, err, "no row names a column of raw scores")
	_, err = officialtable.Read(sheet(""), full, subjects)
	assert.Error(t, err)
}
