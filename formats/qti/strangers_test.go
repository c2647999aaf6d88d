package qti_test

import (
	"archive/zip"
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"

	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/formats/qti"
)

const ferryChoice = `<itemBody><p>Which ferry is first?</p><choiceInteraction responseIdentifier="RESPONSE" maxChoices="1"><simpleChoice identifier="A">9:40</simpleChoice><simpleChoice identifier="B">10:15</simpleChoice></choiceInteraction></itemBody>`

func ferryItem(identifier string) string {
	return strings.Replace(assessmentItem(response("RESPONSE", "single", "identifier", correct("A"))+scoreOutcome+ferryChoice+matchTemplate), `identifier="a"`, `identifier="`+identifier+`"`, 1)
}

// listed is a manifest of resources.
func listed(inner string) string {
	return `<?xml version="1.0"?><manifest xmlns="http://www.imsglobal.org/xsd/imscp_v1p1" identifier="M"><organizations/>` + inner + `</manifest>`
}

const itemType = `type="imsqti_item_xmlv2p1"`

// Packages are put together in many ways that are all right.
func TestPackagesOfOtherProgramsAreFoundTheirWayThrough(t *testing.T) {
	one := `<resources><resource identifier="R" ` + itemType + ` href="a.xml"/></resources>`
	for name, files := range map[string]map[string]string{
		"in a folder of its own": {"fall/imsmanifest.xml": listed(one), "fall/a.xml": ferryItem("a"), "__MACOSX/imsmanifest.xml": "x"},
		"with names written as addresses": {"imsmanifest.xml": listed(`<resources><resource identifier="R" ` + itemType + ` href="tide%20tables/caf%C3%A9.xml"/></resources>`),
			"tide tables/café.xml": ferryItem("a")},
		"with a percent sign that is one": {"imsmanifest.xml": listed(`<resources><resource identifier="R" ` + itemType + ` href="50%25.xml"/></resources>`), "50%25.xml": ferryItem("a")},
		"from a base of the manifest":     {"imsmanifest.xml": strings.Replace(listed(one), `identifier="M"`, `identifier="M" xml:base="items/"`, 1), "items/a.xml": ferryItem("a")},
		"from bases within bases": {"imsmanifest.xml": listed(`<resources xml:base="all/"><resource identifier="R" xml:base="items/" ` + itemType + ` href="a.xml"/></resources>`),
			"all/items/a.xml": ferryItem("a")},
		"without identifiers": {"imsmanifest.xml": listed(`<resources><resource ` + itemType + ` href="a.xml"/></resources>`), "a.xml": ferryItem("a")},
		"with more than items": {"imsmanifest.xml": listed(`<resources><resource identifier="R" type="imsqti_apipitem_xmlv2p1" href="a.xml"/><resource identifier="W" type="webcontent" href="w.html"/></resources>`),
			"a.xml": ferryItem("a"), "../outside.txt": "x"},
	} {
		found, refused := read(t, zipped(t, files))
		assert.Empty(t, refused, name)
		require.Len(t, found, 1, name)
		assert.Equal(t, "a", found[0].Identifier, name)
	}
}

func TestATestWithoutAnIdentifierTakesNoItemWithIt(t *testing.T) {
	found, refused := read(t, zipped(t, map[string]string{"a.xml": ferryItem("a"),
		"imsmanifest.xml": listed(`<resources><resource type="imsqti_test_xmlv2p1" href="t.xml"/><resource type="imsqti_test_xmlv2p1" href="u.xml"/><resource identifier="R" ` + itemType + ` href="a.xml"/></resources>`)}))
	assert.Len(t, refused, 2)
	assert.Len(t, found, 1)
}

func TestAFileThatIsInTheZipTwiceIsSaid(t *testing.T) {
	var out bytes.Buffer
	w := zip.NewWriter(&out)
	for _, f := range [][2]string{{"a.xml", ferryItem("a")}, {"imsmanifest.xml", listed(`<resources><resource identifier="R" ` + itemType + ` href="a.xml"/><resource identifier="S" ` + itemType + ` href="b.xml"/></resources>`)},
		{"a.xml", ferryItem("other")}, {"b.xml", ferryItem("b")}} {
		file, err := w.Create(f[0])
		require.NoError(t, err)
		_, err = file.Write([]byte(f[1]))
		require.NoError(t, err)
	}
	require.NoError(t, w.Close())
	found, refused := read(t, out.Bytes())
	require.Len(t, found, 1)
	assert.Equal(t, "b", found[0].Identifier)
	require.Len(t, refused, 1)
	assert.Equal(t, "is in the zip twice; take one of them out", refused[0].Reason)
}

func TestEncodings(t *testing.T) {
	text := strings.Replace(ferryItem("a"), "9:40", "à 9 h 40 – Ōkafor", 1)
	latin := strings.Replace(ferryItem("a"), "9:40", "à 9 h 40", 1)
	encoded := func(e encoding.Encoding, name, text string) string {
		out, err := e.NewEncoder().String(strings.Replace(text, `encoding="UTF-8"`, `encoding="`+name+`"`, 1))
		require.NoError(t, err)
		return out
	}
	for name, c := range map[string]struct{ file, want string }{
		"UTF-16 with its mark":         {encoded(unicode.UTF16(unicode.LittleEndian, unicode.ExpectBOM), "UTF-16", text), "à 9 h 40 – Ōkafor"},
		"UTF-16 the other way round":   {encoded(unicode.UTF16(unicode.BigEndian, unicode.ExpectBOM), "UTF-16", text), "à 9 h 40 – Ōkafor"},
		"UTF-16 without a mark":        {encoded(unicode.UTF16(unicode.LittleEndian, unicode.IgnoreBOM), "UTF-16LE", text), "à 9 h 40 – Ōkafor"},
		"ISO-8859-1":                   {encoded(charmap.ISO8859_1, "ISO-8859-1", latin), "à 9 h 40"},
		"Windows-1252":                 {encoded(charmap.Windows1252, "Windows-1252", strings.Replace(latin, "40", "40 – now", 1)), "à 9 h 40 – now"},
		"UTF-8 with a mark":            {"\ufeff" + text, "à 9 h 40 – Ōkafor"},
		"UTF-8 that says nothing":      {strings.Replace(text, ` encoding="UTF-8"`, "", 1), "à 9 h 40 – Ōkafor"},
		"UTF-8 without a declaration":  {text[strings.Index(text, "?>")+2:], "à 9 h 40 – Ōkafor"},
		"UTF-8 in small letters, long": {strings.Replace(text, "UTF-8", "utf-8", 1), "à 9 h 40 – Ōkafor"},
	} {
		found, refused := read(t, packed(t, c.file))
		require.Empty(t, refused, name)
		require.Len(t, found, 1, name)
		assert.Equal(t, c.want, found[0].Item.Body[1].Interaction.Choices[0].HTML, name)
	}
	_, refused := read(t, packed(t, strings.Replace(text, "UTF-8", "KLINGON-7", 1)))
	require.Len(t, refused, 1)
	assert.Equal(t, `is written in "KLINGON-7", which is not read; save it as UTF-8`, refused[0].Reason)
}

// What other programs use and is read: what it becomes, and what answers earn.
func TestWhatElseIsReadOfItems(t *testing.T) {
	hotspots := func(element string) string {
		out := ""
		for _, p := range []struct{ id, at string }{{"P", "20,20,8"}, {"Q", "60,20,8"}, {"R", "100,20,8"}} {
			out += `<` + element + ` identifier="` + p.id + `" matchMax="1" shape="circle" coords="` + p.at + `"/>`
		}
		return out
	}
	const harbor = `<object type="image/png" data="../images/harbor.png" width="200" height="100">A harbor</object>`
	for name, c := range map[string]struct {
		xml   string
		kind  item.Kind
		earns map[string]points.Points
	}{
		"a pattern": {response("RESPONSE", "single", "string", correct("ab12")) + scoreOutcome + `<itemBody><p>A code: <textEntryInteraction responseIdentifier="RESPONSE"/></p></itemBody><responseProcessing><responseCondition><responseIf><patternMatch pattern="[a-z]+\d+"><variable identifier="RESPONSE"/></patternMatch><setOutcomeValue identifier="SCORE"><baseValue baseType="float">1</baseValue></setOutcomeValue></responseIf></responseCondition></responseProcessing>`,
			item.Text, map[string]points.Points{"q7": 100, "q": 0, "q7!": 0, "!q7": 0}},
		"places in order": {response("RESPONSE", "ordered", "identifier", correct("Q", "P", "R")) + scoreOutcome + `<itemBody><p>From the sea to the land.</p><graphicOrderInteraction responseIdentifier="RESPONSE">` + harbor + hotspots("hotspotChoice") + `</graphicOrderInteraction></itemBody>` + matchTemplate,
			item.Order, map[string]points.Points{"Q,P,R": 100, "P,Q,R": 0}},
		"places joined": {response("RESPONSE", "multiple", "pair", correct("P Q")) + scoreOutcome + `<itemBody><p>Which two does the ferry join?</p><graphicAssociateInteraction responseIdentifier="RESPONSE" maxAssociations="1">` + harbor + hotspots("associableHotspot") + `</graphicAssociateInteraction></itemBody>` + matchTemplate,
			item.Match, map[string]points.Points{"Q P": 100, "P R": 0}},
		"words put on a picture": {response("RESPONSE", "multiple", "directedPair", correct("pier P", "buoy R")) + scoreOutcome + `<itemBody><p>Name them.</p><graphicGapMatchInteraction responseIdentifier="RESPONSE">` + harbor + `<gapText identifier="pier" matchMax="1">pier</gapText><gapImg identifier="buoy" matchMax="1"><object type="image/png" data="../images/harbor.png">a buoy</object></gapImg>` + hotspots("associableHotspot") + `</graphicGapMatchInteraction></itemBody>` + matchTemplate,
			item.Match, map[string]points.Points{"pier P,buoy R": 100, "pier R,buoy P": 0}},
		"truth as a digit": {response("RESPONSE", "single", "identifier", correct("A")) + scoreOutcome + `<outcomeDeclaration identifier="SEEN" cardinality="single" baseType="boolean"/>` + ferryChoice + `<responseProcessing><setOutcomeValue identifier="SEEN"><baseValue baseType="boolean">1</baseValue></setOutcomeValue><responseCondition><responseIf><and><variable identifier="SEEN"/><match><variable identifier="RESPONSE"/><correct identifier="RESPONSE"/></match></and><setOutcomeValue identifier="SCORE"><baseValue baseType="float">1</baseValue></setOutcomeValue></responseIf></responseCondition></responseProcessing>`,
			item.SingleChoice, map[string]points.Points{"A": 100, "B": 0}},
	} {
		found, refused := read(t, packed(t, assessmentItem(c.xml)))
		require.Empty(t, refused, name)
		require.Len(t, found, 1, name)
		f := found[0]
		assert.Equal(t, c.kind, f.Item.Kind, name)
		for given, want := range c.earns {
			r := item.Response{"RESPONSE": strings.Split(given, ",")}
			require.NoError(t, f.Item.Accepts(r), "%s: %s", name, given)
			assert.Equal(t, want, f.Item.Score(r, f.Points).Credit, "%s: %s", name, given)
		}
		again, refused := read(t, write(t, qti.Writing{Identifier: "a", Item: f.Item}))
		require.Empty(t, refused, name)
		assert.Equal(t, f.Item, again[0].Item, "%s: what is written is read", name)
	}
}

func TestFeedbackWithinTheBody(t *testing.T) {
	feedback := `<outcomeDeclaration identifier="FEEDBACK" cardinality="single" baseType="identifier"/>`
	body := strings.Replace(ferryChoice, `10:15</simpleChoice>`, `10:15<feedbackInline outcomeIdentifier="FEEDBACK" identifier="B" showHide="show">That one is later.</feedbackInline></simpleChoice>`, 1)
	body = strings.Replace(body, `9:40</simpleChoice>`, `9:40<feedbackInline outcomeIdentifier="FEEDBACK" identifier="A" showHide="show">Yes.</feedbackInline></simpleChoice>`, 1)
	body = strings.Replace(body, `</itemBody>`, `<feedbackBlock outcomeIdentifier="FEEDBACK" identifier="B" showHide="show"><p>Look at the hours.</p></feedbackBlock></itemBody>`, 1)
	rules := `<responseProcessing><responseCondition><responseIf><match><variable identifier="RESPONSE"/><correct identifier="RESPONSE"/></match><setOutcomeValue identifier="SCORE"><baseValue baseType="float">1</baseValue></setOutcomeValue></responseIf></responseCondition><setOutcomeValue identifier="FEEDBACK"><variable identifier="RESPONSE"/></setOutcomeValue></responseProcessing>`
	found, refused := read(t, packed(t, assessmentItem(response("RESPONSE", "single", "identifier", correct("A"))+scoreOutcome+feedback+body+rules)))
	require.Empty(t, refused)
	require.Len(t, found, 1)
	assert.Equal(t, "9:40", found[0].Item.Body[1].Interaction.Choices[0].HTML)
	assert.Equal(t, "Yes.", found[0].Item.Feedback.Right)
	assert.Equal(t, "That one is later.<p>Look at the hours.</p>", found[0].Item.Feedback.Wrong, "with two choices the one wrong answer is every wrong answer")
}

func TestBlanksInATable(t *testing.T) {
	body := `<itemBody><p>Fill in.</p><table><caption>The ferry</caption><thead><tr><th>Hours</th><th>Miles</th></tr></thead><tbody>` +
		`<tr><td>1</td><td>12</td></tr><tr><td>2</td><td><textEntryInteraction responseIdentifier="X"/></td></tr><tr><td><p><textEntryInteraction responseIdentifier="Y"/></p></td><td>36</td></tr></tbody></table></itemBody>`
	add := func(id string) string {
		return `<responseCondition><responseIf><match><variable identifier="` + id + `"/><correct identifier="` + id + `"/></match><setOutcomeValue identifier="SCORE"><sum><variable identifier="SCORE"/><baseValue baseType="float">1</baseValue></sum></setOutcomeValue></responseIf></responseCondition>`
	}
	found, refused := read(t, packed(t, assessmentItem(response("X", "single", "integer", correct("24"))+response("Y", "single", "integer", correct("3"))+scoreOutcome+body+`<responseProcessing>`+add("X")+add("Y")+`</responseProcessing>`)))
	require.Empty(t, refused)
	require.Len(t, found, 1)
	it := found[0].Item
	assert.Equal(t, "Fill in. The ferry Hours: 1; Miles: 12 Hours: 2; Miles: Hours: ; Miles: 36", it.Stem())
	assert.Equal(t, points.Points(200), it.Score(item.Response{"X": {"24"}, "Y": {"3"}}, found[0].Points).Credit)
	assert.Equal(t, points.Points(100), it.Score(item.Response{"X": {"24"}, "Y": {"4"}}, found[0].Points).Credit)
}

func TestAPassageThatIsAPage(t *testing.T) {
	files := map[string]string{
		"imsmanifest.xml":   listed(`<resources><resource identifier="R" ` + itemType + ` href="items/a.xml"/><resource identifier="S" ` + itemType + ` href="items/b.xml"/></resources>`),
		"texts/ferry.html":  `<!DOCTYPE html><html><head><title>The ferry</title><style>p{}</style></head><body><h2>Morning</h2><p>It leaves at nine.<br>Always.<p><img src="../images/harbor.png" alt="harbor"></body></html>`,
		"images/harbor.png": string(pixel),
	}
	for _, id := range []string{"a", "b"} {
		files["items/"+id+".xml"] = strings.Replace(ferryItem(id), "<itemBody>", `<itemBody><div><object type="text/html" data="../texts/ferry.html"/></div>`, 1)
	}
	found, refused := read(t, zipped(t, files))
	require.Empty(t, refused)
	require.Len(t, found, 2)
	for _, f := range found {
		require.NotNil(t, f.Passage)
		assert.Equal(t, []string{"ferry", "The ferry"}, []string{f.Passage.Identifier, f.Passage.Title})
		assert.Contains(t, f.Passage.Body, "<p>It leaves at nine.<br")
		assert.Contains(t, f.Passage.Body, `src="/media/`)
		assert.Equal(t, "Which ferry is first?", f.Item.Stem())
	}
}

func TestWhatIsToBeAtHandIsNoted(t *testing.T) {
	found, refused := read(t, packed(t, strings.Replace(ferryItem("a"), "<itemBody>", `<companionMaterialsInfo><physicalMaterial>A tide table</physicalMaterial></companionMaterialsInfo><itemBody>`, 1)))
	require.Empty(t, refused)
	assert.Equal(t, "To have at hand: physical material (A tide table).", found[0].Item.Notes)
}

// Titles, points of written answers and the names of responses come and go as they are.
func TestWhatComesGoesAgainUnchanged(t *testing.T) {
	written := response("ESSAY", "single", "string", "") + `<outcomeDeclaration identifier="SCORE" cardinality="single" baseType="float" normalMaximum="4"/><itemBody><p>Why?</p><extendedTextInteraction responseIdentifier="ESSAY"/></itemBody>`
	menus := response("FIRST", "single", "identifier", correct("A")) + response("SECOND", "single", "identifier", correct("D")) + scoreOutcome +
		`<itemBody><p>It is <inlineChoiceInteraction responseIdentifier="FIRST">` + choices("inlineChoice", "A", "B") + `</inlineChoiceInteraction> and <inlineChoiceInteraction responseIdentifier="SECOND">` + choices("inlineChoice", "C", "D") + `</inlineChoiceInteraction>.</p></itemBody>` +
		`<responseProcessing><responseCondition><responseIf><and><match><variable identifier="FIRST"/><correct identifier="FIRST"/></match><match><variable identifier="SECOND"/><correct identifier="SECOND"/></match></and><setOutcomeValue identifier="SCORE"><baseValue baseType="float">1</baseValue></setOutcomeValue></responseIf></responseCondition></responseProcessing>`
	for name, c := range map[string]struct {
		xml       string
		responses []string
		worth     points.Points
	}{
		"written": {written, []string{"ESSAY"}, 400},
		"menus":   {menus, []string{"FIRST", "SECOND"}, 100},
		"choice":  {strings.ReplaceAll(response("RESPONSE", "single", "identifier", correct("A"))+scoreOutcome+ferryChoice+`<responseProcessing><responseCondition><responseIf><match><variable identifier="RESPONSE"/><correct identifier="RESPONSE"/></match><setOutcomeValue identifier="SCORE"><baseValue baseType="float">1</baseValue></setOutcomeValue></responseIf></responseCondition></responseProcessing>`, "RESPONSE", "FERRY"), []string{"FERRY"}, 100},
	} {
		found, refused := read(t, packed(t, strings.Replace(assessmentItem(c.xml), `title="A"`, `title="Ferries &amp; tides"`, 1)))
		require.Empty(t, refused, name)
		for range 2 { // as it came, and as it is written
			require.Len(t, found, 1, name)
			f := found[0]
			it := f.Item
			assert.Equal(t, "Ferries & tides", it.Title, name)
			assert.Equal(t, c.worth, f.Points, name)
			if f.Parts != nil {
				it = *f.Parts
			}
			var ids []string
			for _, d := range it.Declarations {
				ids = append(ids, d.Response)
			}
			assert.Equal(t, c.responses, ids, name)
			found, refused = read(t, write(t, qti.Writing{Identifier: "a", Item: f.Item}))
			require.Empty(t, refused, name)
		}
	}
}

// What would come in and let nobody earn anything, or a wrong answer everything, is refused by name.
func TestWhatCannotBeMeantIsRefusedByName(t *testing.T) {
	single := func(key string) string {
		return response("RESPONSE", "single", "identifier", key)
	}
	rules := func(when string) string {
		return `<responseProcessing><responseCondition><responseIf>` + when + `<setOutcomeValue identifier="SCORE"><baseValue baseType="float">1</baseValue></setOutcomeValue></responseIf></responseCondition></responseProcessing>`
	}
	right := `<match><variable identifier="RESPONSE"/><correct identifier="RESPONSE"/></match>`
	pairs := func(key string) string {
		return response("RESPONSE", "multiple", "directedPair", key) + scoreOutcome + `<itemBody><matchInteraction responseIdentifier="RESPONSE"><prompt>Join.</prompt><simpleMatchSet>` + choices("simpleAssociableChoice", "A", "B") + `</simpleMatchSet><simpleMatchSet>` + choices("simpleAssociableChoice", "X", "Y") + `</simpleMatchSet></matchInteraction></itemBody>` + matchTemplate
	}
	for xml, want := range map[string]string{
		single(correct("C")) + scoreOutcome + ferryChoice + matchTemplate:                                   `responseDeclaration: has the key "C", which is not one of the choices`,
		single(correct("C")) + scoreOutcome + ferryChoice + rules(`<or>`+right+`<not>`+right+`</not></or>`): `responseDeclaration: has the key "C", which is not one of the choices`,
		pairs(correct("A Z")): `responseDeclaration: has the key "Z", which is not one of the choices`,
		single("") + scoreOutcome + ferryChoice + matchTemplate: `responseProcessing: goes by the key of "RESPONSE", which has none`,
		single(`<mapping lowerBound="2" upperBound="1" defaultValue="0"><mapEntry mapKey="A" mappedValue="1"/></mapping>`) + scoreOutcome + ferryChoice + mapTemplate:                                                             `responseDeclaration: has a mapping whose lower bound 2 is above its upper bound 1`,
		single(correct("A")) + scoreOutcome + ferryChoice + rules(`<baseValue baseType="integer">1</baseValue>`):                                                                                                                  `responseProcessing: the value "1" stands where true or false is wanted`,
		single(correct("A")) + scoreOutcome + ferryChoice + rules(`<and><sum><baseValue baseType="integer">1</baseValue></sum>`+right+`</and>`):                                                                                   `responseProcessing: "sum" stands where true or false is wanted, and gives neither`,
		single(correct("A")) + scoreOutcome + ferryChoice + rules(`<variable identifier="RESPONSE"/>`):                                                                                                                            `responseProcessing: "RESPONSE" stands where true or false is wanted, and is neither`,
		single(correct("A")) + scoreOutcome + ferryChoice + strings.Replace(rules(right), `"SCORE"`, `"TOTAL"`, 1):                                                                                                                `responseProcessing: sets the outcome "TOTAL", which is not declared`,
		single(correct("A")) + scoreOutcome + ferryChoice + rules(`<match><variable identifier="OTHER"/><correct identifier="RESPONSE"/></match>`):                                                                                `responseProcessing: reads "OTHER", which is not declared`,
		single(correct("A")) + scoreOutcome + ferryChoice + rules(`<match><variable identifier="RESPONSE"/><correct identifier="OTHER"/></match>`):                                                                                `responseProcessing: goes by the key of "OTHER", which is not declared`,
		single(correct("A")) + `<outcomeDeclaration identifier="SCORE" cardinality="single" baseType="float" normalMaximum="-1"/>` + ferryChoice + matchTemplate:                                                                  `outcomeDeclaration: says that the highest score is -1, which is below 0`,
		single(correct("A")) + scoreOutcome + `<outcomeDeclaration identifier="MAXSCORE" cardinality="single" baseType="float"><defaultValue><value>-2</value></defaultValue></outcomeDeclaration>` + ferryChoice + matchTemplate: `outcomeDeclaration: says that the highest score is -2, which is below 0`,
		single(correct("A")) + scoreOutcome + strings.Replace(ferryChoice, "<choiceInteraction", `<choiceInteraction xmlns="https://elsewhere.example/q"`, 1) + matchTemplate:                                                     `choiceInteraction: belongs to "https://elsewhere.example/q", which is not a namespace of QTI`,
		response("RESPONSE", "single", "float", correct("many")) + scoreOutcome + `<itemBody><p>How many? <textEntryInteraction responseIdentifier="RESPONSE"/></p></itemBody>` + matchTemplate:                                   `responseDeclaration: has the key "many", which is no number`,
	} {
		found, refused := read(t, packed(t, assessmentItem(xml)))
		assert.Empty(t, found, want)
		if assert.Len(t, refused, 1, want) {
			assert.Contains(t, refused[0].Error(), "items/a.xml line 1, "+want)
		}
	}
	_, refused := read(t, packed(t, strings.Replace(ferryItem("a"), two, "https://elsewhere.example/q", 1)))
	require.Len(t, refused, 1)
	assert.Contains(t, refused[0].Error(), "which is not a namespace of QTI")
}
