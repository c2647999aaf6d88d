package caseframework_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/formats/caseframework"
)

const sample = `{"CFDocument":{"identifier":"doc","title":"Calder mathematics","subject":["Mathematics"]},
"CFItems":[
 {"identifier":"b","humanCodingScheme":"M6.FS","fullStatement":"Figures and space","CFItemType":"Strand"},
 {"identifier":"a","humanCodingScheme":"M6.RR","fullStatement":"Ratio and rate","CFItemType":"Strand","educationLevel":["06"]},
 {"identifier":"a1","humanCodingScheme":"M6.RR.1","fullStatement":"Unit rates"},
 {"identifier":"a1","fullStatement":"twice"},
 {"identifier":"lost","fullStatement":"hangs on nothing known"},
 {"identifier":"x","fullStatement":"circle"},{"identifier":"y","fullStatement":"circle"},
 {"identifier":"empty","fullStatement":""}],
"CFAssociations":[
 {"associationType":"isChildOf","sequenceNumber":2,"originNodeURI":{"identifier":"b"},"destinationNodeURI":{"identifier":"doc"}},
 {"associationType":"isChildOf","sequenceNumber":1,"originNodeURI":{"identifier":"a"},"destinationNodeURI":{"identifier":"doc"}},
 {"associationType":"isChildOf","originNodeURI":{"identifier":"a1"},"destinationNodeURI":{"identifier":"a"}},
 {"associationType":"isChildOf","originNodeURI":{"identifier":"lost"},"destinationNodeURI":{"identifier":"nowhere"}},
 {"associationType":"isChildOf","originNodeURI":{"identifier":"x"},"destinationNodeURI":{"identifier":"y"}},
 {"associationType":"isChildOf","originNodeURI":{"identifier":"y"},"destinationNodeURI":{"identifier":"x"}},
 {"associationType":"exactMatchOf","originNodeURI":{"identifier":"a1"},"destinationNodeURI":{"identifier":"b"}}]}`

func TestAFrameworkIsReadAsATree(t *testing.T) {
	f, refused, err := caseframework.Read("calder.json", strings.NewReader(sample), "2026-11-29")
	require.NoError(t, err)
	assert.Equal(t, "Mathematics", f.Subject)
	assert.Equal(t, []caseframework.Standard{
		{Identifier: "a", Code: "M6.RR", Text: "Ratio and rate", Level: "Strand", Grades: []string{"06"}, Place: 1, Last: 2},
		{Identifier: "a1", Code: "M6.RR.1", Text: "Unit rates", Parent: "a", Place: 2, Last: 2},
		{Identifier: "b", Code: "M6.FS", Text: "Figures and space", Level: "Strand", Place: 3, Last: 3},
	}, f.Standards)
	var reasons []string
	for _, r := range refused {
		reasons = append(reasons, r.Error())
	}
	assert.ElementsMatch(t, []string{
		`calder.json line 4, identifier: "a1" is given twice`,
		"calder.json line 8, fullStatement: is empty",
		`calder.json line 5, isChildOf: hangs on "nowhere", which is not in the file or was refused`,
		"calder.json line 6, isChildOf: does not lead up to the document",
		"calder.json line 7, isChildOf: does not lead up to the document",
	}, reasons)
}

func TestWhatIsNoFrameworkIsRefusedWhole(t *testing.T) {
	for in, want := range map[string]string{
		`{"CFItems":[]}`: "x.json has no CFDocument with an identifier and a title",
		`[`:              "x.json cannot be read as JSON: unexpected end of JSON input",
	} {
		_, _, err := caseframework.Read("x.json", strings.NewReader(in), "2026-11-29")
		assert.EqualError(t, err, want)
	}
}

// Crosswalks are associations to standards of other frameworks; what CASE knows
// beside them is left aside.
func TestLinksBetweenFrameworks(t *testing.T) {
	association := func(kind, from, to string) string {
		return `{"associationType":"` + kind + `","originNodeURI":{"identifier":"` + from + `"},"destinationNodeURI":{"identifier":"` + to + `"}}`
	}
	file := `{"CFDocument":{"identifier":"d","title":"D"},"CFItems":[{"identifier":"a","fullStatement":"A"},{"identifier":"b","fullStatement":"B"}],"CFAssociations":[` +
		strings.Join([]string{association("exactMatchOf", "a", "x1"), association("exactMatchOf", "a", "x1"), association("isRelatedTo", "b", "x2"), association("isPartOf", "x3", "a"),
			association("replacedBy", "x4", "b"), association("precedes", "a", "b"), association("exactMatchOf", "a", "a"), association("exactMatchOf", "a", "")}, ",") + `]}`
	f, refused, err := caseframework.Read("x.json", strings.NewReader(file), "2026-11-29")
	require.NoError(t, err)
	assert.Empty(t, refused)
	assert.Equal(t, []caseframework.Link{{From: "a", To: "x1", Kind: caseframework.ExactMatch}, {From: "b", To: "x2", Kind: caseframework.Related},
		{From: "x3", To: "a", Kind: caseframework.PartOf}, {From: "x4", To: "b", Kind: caseframework.ReplacedBy}}, f.Links)
}

// What programs write differently is read; what cannot be is refused alone, by item, field and code.
func TestFilesOfOtherProgramsAreRead(t *testing.T) {
	file := `{"CFDocument":{"identifier":"d","title":"D","subject":"Mathematics","version":2027,"lastChangeDateTime":"2026-08-01T00:00:00Z"},"CFItems":[
		{"identifier":"a","humanCodingScheme":"A","fullStatement":"A","educationLevel":"6"},
		{"identifier":"b","humanCodingScheme":"B","fullStatement":"B","educationLevel":["03,04","Grade 5"]},
		{"identifier":"c","humanCodingScheme":"C","fullStatement":["C"]},
		{"identifier":"e","humanCodingScheme":"A","fullStatement":"Another A"},
		{"identifier":"old","humanCodingScheme":"O","fullStatement":"Old","statusEndDate":"2026-11-28"},
		{"identifier":"new","humanCodingScheme":"N","fullStatement":"New","statusStartDate":"2027-07-01T00:00:00Z"},
		{"identifier":"today","humanCodingScheme":"T","fullStatement":"Today","statusStartDate":"2026-11-29","statusEndDate":"2026-11-29"},
		{"identifier":"under","humanCodingScheme":"U","fullStatement":"Under"},
		{"identifier":"head","fullStatement":"A heading"}],
		"CFAssociations":[
		{"associationType":"isChildOf","sequenceNumber":"2","originNodeURI":{"identifier":"a"},"destinationNodeURI":{"identifier":"d"}},
		{"associationType":"isChildOf","sequenceNumber":1.0,"originNodeURI":{"identifier":"b"},"destinationNodeURI":{"identifier":"d"}},
		{"associationType":"isChildOf","sequenceNumber":3,"originNodeURI":{"identifier":"old"},"destinationNodeURI":{"identifier":"a"}},
		{"associationType":"isChildOf","originNodeURI":{"identifier":"under"},"destinationNodeURI":{"identifier":"old"}},
		{"associationType":"isChildOf","originNodeURI":{"identifier":"under"},"destinationNodeURI":{"identifier":"b"}},
		{"associationType":"isChildOf","sequenceNumber":"first","originNodeURI":{"identifier":"e"},"destinationNodeURI":{"identifier":"d"}}]}`
	f, refused, err := caseframework.Read("x.json", strings.NewReader("\ufeff"+file), "2026-11-29")
	require.NoError(t, err)
	assert.Equal(t, []string{"Mathematics", "2027", "2026-08-01T00:00:00Z"}, []string{f.Subject, f.Version, f.Changed})
	var got []string
	for _, s := range f.Standards {
		got = append(got, s.Code+" in "+s.Parent+" of "+strings.Join(s.Grades, " "))
	}
	assert.Equal(t, []string{"A#4 in  of ", "T in  of ", " in  of ", "B in  of 03 04 05", "A in  of 06", "U in a of "}, got)
	assert.Equal(t, []caseframework.Link{{From: "under", To: "b", Kind: caseframework.PartOf}}, f.Links, "a second parent is kept")
	var said []string
	for _, r := range refused {
		said = append(said, r.Error())
	}
	assert.Equal(t, []string{
		"x.json line 3, fullStatement: (C) is a list where a text is wanted",
		`x.json line 6, CFAssociation: "first" is not a whole number`,
	}, said)
	said = nil
	for _, r := range f.Remarks {
		said = append(said, r.Row.Error())
	}
	assert.Equal(t, []string{
		"x.json line 4, humanCodingScheme: (A) is the code of item 1 too; this one is called A#4 here",
		"x.json line 5, statusEndDate: (O) ended on 2026-11-28",
		"x.json line 6, statusStartDate: (N) begins on 2027-07-01T00:00:00Z; import the file again then",
	}, said)
	for id, want := range map[string]bool{"a": true, "c": true, "old": false, "new": false, "elsewhere": false} {
		assert.Equal(t, want, f.Held[id], id)
	}
}
