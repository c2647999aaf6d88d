package qti_test

import (
	"archive/zip"
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/formats/qti"
)

const two = "http://www.imsglobal.org/xsd/imsqti_v2p1"

// packed makes a package of one item of QTI 2.1, with a picture beside it.
func packed(t testing.TB, itemXML string) []byte {
	t.Helper()
	return zipped(t, map[string]string{
		"imsmanifest.xml": `<manifest xmlns="http://www.imsglobal.org/xsd/imscp_v1p1"><resources><resource identifier="R1" type="imsqti_item_xmlv2p1" href="items/a.xml">
			<metadata><lom xmlns="http://ltsc.ieee.org/xsd/LOM"><general><keyword><string>tide</string></keyword></general></lom>
			<curriculumStandardsMetadataSet><curriculumStandardsMetadata><setOfGUIDs><labelledGUID><label>M6.RR.1</label><GUID>x</GUID></labelledGUID></setOfGUIDs></curriculumStandardsMetadata></curriculumStandardsMetadataSet></metadata>
			<file href="items/a.xml"/></resource></resources></manifest>`,
		"items/a.xml":       itemXML,
		"images/harbor.png": string(pixel),
	})
}

func zipped(t testing.TB, files map[string]string) []byte {
	t.Helper()
	var out bytes.Buffer
	w := zip.NewWriter(&out)
	for name, text := range files {
		f, err := w.Create(name)
		require.NoError(t, err)
		_, err = f.Write([]byte(text))
		require.NoError(t, err)
	}
	require.NoError(t, w.Close())
	return out.Bytes()
}

func assessmentItem(inner string) string {
	return `<?xml version="1.0" encoding="UTF-8"?><assessmentItem xmlns="` + two + `" identifier="a" title="A" adaptive="false" timeDependent="false">` + inner + `</assessmentItem>`
}

func response(id, cardinality, base, inner string) string {
	return fmt.Sprintf(`<responseDeclaration identifier="%s" cardinality="%s" baseType="%s">%s</responseDeclaration>`, id, cardinality, base, inner)
}

func correct(values ...string) string {
	out := "<correctResponse>"
	for _, v := range values {
		out += "<value>" + v + "</value>"
	}
	return out + "</correctResponse>"
}

const (
	matchTemplate = `<responseProcessing template="http://www.imsglobal.org/question/qti_v2p1/rptemplates/match_correct"/>`
	mapTemplate   = `<responseProcessing template="http://www.imsglobal.org/question/qti_v2p1/rptemplates/map_response"/>`
	pointTemplate = `<responseProcessing template="http://www.imsglobal.org/question/qti_v2p1/rptemplates/map_response_point"/>`
	scoreOutcome  = `<outcomeDeclaration identifier="SCORE" cardinality="single" baseType="float"/>`
)

func choices(element string, ids ...string) string {
	out := ""
	for _, id := range ids {
		out += fmt.Sprintf(`<%s identifier="%s" matchMax="1">%s</%s>`, element, id, strings.ToLower(id), element)
	}
	return out
}

// Items as other programs write them: the kind and the rule they become, and what
// responses earn on the item's own scale.
func TestItemsOfOtherProgramsEarnWhatTheirRulesSay(t *testing.T) {
	choice := `<itemBody><p>Which?</p><choiceInteraction responseIdentifier="RESPONSE" shuffle="true" maxChoices="%d"><prompt>Choose.</prompt>` + choices("simpleChoice", "A", "B", "C", "D") + `</choiceInteraction></itemBody>`
	for name, c := range map[string]struct {
		xml    string
		kind   item.Kind
		credit item.CreditRule
		worth  points.Points
		earns  map[string]points.Points // values parted by commas
	}{
		"single choice": {
			response("RESPONSE", "single", "identifier", correct("C")) + scoreOutcome + fmt.Sprintf(choice, 1) + matchTemplate,
			item.SingleChoice, item.AllOrNothing, 100, map[string]points.Points{"C": 100, "A": 0}},
		"multiple choice, all": {
			response("RESPONSE", "multiple", "identifier", correct("A", "C")) + scoreOutcome + fmt.Sprintf(choice, 0) + matchTemplate,
			item.MultipleChoice, item.AllOrNothing, 100, map[string]points.Points{"C,A": 100, "A": 0, "A,B,C": 0}},
		"multiple choice, mapped": {
			response("RESPONSE", "multiple", "identifier", correct("A", "C")+`<mapping lowerBound="0" upperBound="2" defaultValue="-2"><mapEntry mapKey="A" mappedValue="1"/><mapEntry mapKey="C" mappedValue="1.0"/><mapEntry mapKey="D" mappedValue="-1"/></mapping>`) + scoreOutcome + fmt.Sprintf(choice, 0) + mapTemplate,
			item.MultipleChoice, item.Mapped, 200, map[string]points.Points{"A,C": 200, "A": 100, "A,D": 0, "A,C,D": 100, "A,C,B": 0}},
		"mapped without bounds": {
			response("RESPONSE", "single", "identifier", `<mapping defaultValue="0"><mapEntry mapKey="B" mappedValue="1.5"/><mapEntry mapKey="C" mappedValue="0.5"/></mapping>`) + scoreOutcome + fmt.Sprintf(choice, 1) + mapTemplate,
			item.SingleChoice, item.Mapped, 150, map[string]points.Points{"B": 150, "C": 50, "A": 0}},
		"order": {
			response("RESPONSE", "ordered", "identifier", correct("C", "A", "B")) + scoreOutcome + `<itemBody><orderInteraction responseIdentifier="RESPONSE"><prompt>In order.</prompt>` + choices("simpleChoice", "A", "B", "C") + `</orderInteraction></itemBody>` + matchTemplate,
			item.Order, item.AllOrNothing, 100, map[string]points.Points{"C,A,B": 100, "A,B,C": 0}},
		"associate": {
			response("RESPONSE", "multiple", "pair", correct("A B", "C D")+`<mapping defaultValue="0"><mapEntry mapKey="A B" mappedValue="2"/><mapEntry mapKey="C D" mappedValue="1"/></mapping>`) + scoreOutcome + `<itemBody><associateInteraction responseIdentifier="RESPONSE" maxAssociations="2"><prompt>Pair.</prompt>` + choices("simpleAssociableChoice", "A", "B", "C", "D") + `</associateInteraction></itemBody>` + mapTemplate,
			item.Match, item.Mapped, 300, map[string]points.Points{"B A,C D": 300, "D C": 100, "A C": 0}},
		"match": {
			response("RESPONSE", "multiple", "directedPair", correct("A X", "B Y")+`<mapping defaultValue="0"><mapEntry mapKey="A X" mappedValue="1"/><mapEntry mapKey="B Y" mappedValue="1"/></mapping>`) + scoreOutcome + `<itemBody><matchInteraction responseIdentifier="RESPONSE"><prompt>Join.</prompt><simpleMatchSet>` + choices("simpleAssociableChoice", "A", "B") + `</simpleMatchSet><simpleMatchSet>` + choices("simpleAssociableChoice", "X", "Y", "Z") + `</simpleMatchSet></matchInteraction></itemBody>` + mapTemplate,
			item.Match, item.Mapped, 200, map[string]points.Points{"A X,B Y": 200, "A X": 100, "A Y": 0}},
		"gap match": {
			response("RESPONSE", "multiple", "directedPair", correct("W G1", "S G2")) + scoreOutcome + `<itemBody><gapMatchInteraction responseIdentifier="RESPONSE"><prompt>Fill.</prompt>` + choices("gapText", "W", "S", "U") + `<blockquote><p>Now is the <gap identifier="G1"/> of our <gap identifier="G2"/>.</p></blockquote></gapMatchInteraction></itemBody>` + matchTemplate,
			item.Menus, item.AllOrNothing, 100, map[string]points.Points{"W G1,S G2": 100, "W G1": 0}},
		"hottext": {
			response("RESPONSE", "single", "identifier", correct("B")) + scoreOutcome + `<itemBody><hottextInteraction responseIdentifier="RESPONSE" maxChoices="1"><prompt>Select the mistake.</prompt><p>The <hottext identifier="A">tide</hottext> <hottext identifier="B">rise</hottext> twice.</p></hottextInteraction></itemBody>` + matchTemplate,
			item.SelectText, item.AllOrNothing, 100, map[string]points.Points{"B": 100, "A": 0}},
		"hotspot": {
			response("RESPONSE", "single", "identifier", correct("P")) + scoreOutcome + `<itemBody><p>Where?</p><hotspotInteraction responseIdentifier="RESPONSE" maxChoices="1"><object type="image/png" data="../images/harbor.png" width="200" height="100">A harbor</object><hotspotChoice identifier="P" shape="circle" coords="77,30,8"/><hotspotChoice identifier="Q" shape="rect" coords="1,1,20,20"/></hotspotInteraction></itemBody>` + matchTemplate,
			item.Spot, item.AllOrNothing, 100, map[string]points.Points{"P": 100, "Q": 0}},
		"select point": {
			response("RESPONSE", "single", "point", `<correctResponse><value>50 50</value></correctResponse><areaMapping defaultValue="0"><areaMapEntry shape="circle" coords="50,50,8" mappedValue="1"/></areaMapping>`) + scoreOutcome + `<itemBody><p>Where?</p><selectPointInteraction responseIdentifier="RESPONSE" maxChoices="1"><object type="image/png" data="../images/harbor.png" width="200" height="100">A harbor</object></selectPointInteraction></itemBody>` + pointTemplate,
			item.Spot, item.Mapped, 100, map[string]points.Points{"50 58": 100, "50 59": 0}},
		"slider": {
			response("RESPONSE", "single", "integer", correct("16")) + scoreOutcome + `<itemBody><p>How many?</p><sliderInteraction responseIdentifier="RESPONSE" lowerBound="0" upperBound="100" step="4"/></itemBody>` + matchTemplate,
			item.NumberLine, item.AllOrNothing, 100, map[string]points.Points{"16": 100, "20": 0}},
		"text entry with accepted words": {
			response("RESPONSE", "single", "string", correct("York")+`<mapping defaultValue="0"><mapEntry mapKey="York" mappedValue="1"/><mapEntry mapKey="york" mappedValue="0.5"/></mapping>`) + scoreOutcome + `<itemBody><p>A city: <textEntryInteraction responseIdentifier="RESPONSE" expectedLength="15"/>.</p></itemBody>` + mapTemplate,
			item.Text, item.Mapped, 100, map[string]points.Points{"York": 100, "york": 50, "YORK": 0}},
		"text entry of a number": {
			response("RESPONSE", "single", "float", correct("2.50")) + scoreOutcome + `<itemBody><p>Two and a half is <textEntryInteraction responseIdentifier="RESPONSE"/></p></itemBody>` + matchTemplate,
			item.Number, item.AllOrNothing, 100, map[string]points.Points{"2.5": 100, "2.500": 100, "2.4": 0}},
		"rules of its own": {
			response("RESPONSE", "multiple", "identifier", correct("A", "B")) + `<outcomeDeclaration identifier="SCORE" cardinality="single" baseType="float" normalMaximum="4"/>` + fmt.Sprintf(choice, 0) +
				`<responseProcessing><responseCondition><responseIf><match><variable identifier="RESPONSE"/><correct identifier="RESPONSE"/></match><setOutcomeValue identifier="SCORE"><baseValue baseType="float">4</baseValue></setOutcomeValue></responseIf>` +
				`<responseElseIf><member><baseValue baseType="identifier">A</baseValue><variable identifier="RESPONSE"/></member><setOutcomeValue identifier="SCORE"><sum><baseValue baseType="float">1</baseValue><baseValue baseType="float">0.5</baseValue></sum></setOutcomeValue></responseElseIf></responseCondition></responseProcessing>`,
			item.MultipleChoice, item.AsWritten, 400, map[string]points.Points{"A,B": 400, "A": 150, "B": 0, "A,C": 150}},
		"a highest score that is above what can be had": {
			response("RESPONSE", "single", "identifier", correct("C")) + scoreOutcome + `<outcomeDeclaration identifier="MAXSCORE" cardinality="single" baseType="float"><defaultValue><value>2</value></defaultValue></outcomeDeclaration>` + fmt.Sprintf(choice, 1) + matchTemplate,
			item.SingleChoice, item.AsWritten, 200, map[string]points.Points{"C": 100, "A": 0}},
		"a written answer": {
			response("RESPONSE", "single", "string", "") + `<outcomeDeclaration identifier="SCORE" cardinality="single" baseType="float" normalMaximum="3"/><itemBody><rubricBlock view="scorer"><p>Three facts.</p></rubricBlock><extendedTextInteraction responseIdentifier="RESPONSE" expectedLines="5"><prompt>Why?</prompt></extendedTextInteraction></itemBody>`,
			item.ShortWritten, item.ByReader, 300, map[string]points.Points{"Because.": 0}},
	} {
		found, refused := read(t, packed(t, assessmentItem(c.xml)))
		require.Empty(t, refused, name)
		require.Len(t, found, 1, name)
		f := found[0]
		assert.Equal(t, c.kind, f.Item.Kind, name)
		assert.Equal(t, c.credit, f.Item.Credit, name)
		assert.Equal(t, c.worth, f.Points, name)
		assert.Equal(t, []string{"M6.RR.1"}, f.Meta.Standards, name)
		assert.Equal(t, []string{"tide"}, f.Meta.Tags, name)
		for given, want := range c.earns {
			r := item.Response{"RESPONSE": strings.Split(given, ",")}
			require.NoError(t, f.Item.Accepts(r), "%s: %s", name, given)
			assert.Equal(t, want, f.Item.Score(r, f.Points).Credit, "%s: %s", name, given)
		}
	}
}

// Several places to answer: parts that add up, menus in a sentence, all or nothing.
func TestCompositeItems(t *testing.T) {
	declared := response("R1", "single", "identifier", correct("A")) + response("R2", "single", "identifier", correct("D")) + scoreOutcome
	inline := `<itemBody><p>The sea is <inlineChoiceInteraction responseIdentifier="R1" shuffle="false">` + choices("inlineChoice", "A", "B") + `</inlineChoiceInteraction> and <inlineChoiceInteraction responseIdentifier="R2" shuffle="false">` + choices("inlineChoice", "C", "D") + `</inlineChoiceInteraction>.</p></itemBody>`
	add := func(id, value string) string {
		return `<responseCondition><responseIf><match><variable identifier="` + id + `"/><correct identifier="` + id + `"/></match><setOutcomeValue identifier="SCORE"><sum><variable identifier="SCORE"/><baseValue baseType="float">` + value + `</baseValue></sum></setOutcomeValue></responseIf></responseCondition>`
	}
	found, refused := read(t, packed(t, assessmentItem(declared+inline+`<responseProcessing>`+add("R1", "1")+add("R2", "1")+`</responseProcessing>`)))
	require.Empty(t, refused)
	menus := found[0].Item
	assert.Equal(t, item.Menus, menus.Kind)
	assert.Equal(t, item.PerPart, menus.Credit)
	assert.Equal(t, "The sea is … and ….", menus.Stem())
	assert.Equal(t, points.Points(100), menus.Score(item.Response{"RESPONSE": {"A R1", "C R2"}}, found[0].Points).Credit)
	assert.Equal(t, points.Points(100), found[0].Parts.Score(item.Response{"R1": {"A"}, "R2": {"C"}}, found[0].Points).Credit)

	weighted := declared + `<itemBody><choiceInteraction responseIdentifier="R1" maxChoices="1"><prompt>First?</prompt>` + choices("simpleChoice", "A", "B") + `</choiceInteraction><choiceInteraction responseIdentifier="R2" maxChoices="1"><prompt>Second?</prompt>` + choices("simpleChoice", "C", "D") + `</choiceInteraction></itemBody>`
	found, refused = read(t, packed(t, assessmentItem(weighted+`<responseProcessing>`+add("R1", "0.5")+add("R2", "1.5")+`</responseProcessing>`)))
	require.Empty(t, refused)
	parts := found[0].Item
	assert.Equal(t, item.Parts, parts.Kind)
	assert.Equal(t, points.Points(200), found[0].Points)
	assert.Equal(t, points.Points(150), parts.Score(item.Response{"R2": {"D"}}, 200).Credit)
	assert.Equal(t, []item.PartCredit{{Response: "R1", Credit: 0, Max: 50}, {Response: "R2", Credit: 150, Max: 150}}, parts.PartCredits(item.Response{"R2": {"D"}}, 200))

	// Weights in no whole ratio to each other, and mappings that add up.
	found, refused = read(t, packed(t, assessmentItem(weighted+`<responseProcessing>`+add("R1", "2")+add("R2", "3")+`</responseProcessing>`)))
	require.Empty(t, refused)
	assert.Equal(t, []item.PartCredit{{Response: "R1", Credit: 200, Max: 200}, {Response: "R2", Credit: 0, Max: 300}}, found[0].Item.PartCredits(item.Response{"R1": {"A"}, "R2": {"C"}}, found[0].Points))
	mapping := func(id, key string, worth float64) string {
		return response(id, "single", "identifier", fmt.Sprintf(`<mapping defaultValue="0"><mapEntry mapKey="%s" mappedValue="%g"/></mapping>`, key, worth))
	}
	const sum = `<responseProcessing><setOutcomeValue identifier="SCORE"><sum><mapResponse identifier="R1"/><mapResponse identifier="R2"/></sum></setOutcomeValue></responseProcessing>`
	choice := weighted[strings.Index(weighted, "<itemBody>"):]
	found, refused = read(t, packed(t, assessmentItem(mapping("R1", "B", 0.5)+mapping("R2", "C", 2)+scoreOutcome+choice+sum)))
	require.Empty(t, refused)
	assert.Equal(t, item.PerPart, found[0].Item.Credit)
	assert.Equal(t, points.Points(250), found[0].Points)
	assert.Equal(t, []item.PartCredit{{Response: "R1", Credit: 50, Max: 50}, {Response: "R2", Credit: 0, Max: 200}}, found[0].Item.PartCredits(item.Response{"R1": {"B"}, "R2": {"D"}}, 250))
	found, refused = read(t, packed(t, assessmentItem(mapping("R1", "B", 0.5)+mapping("R2", "C", -2)+mapping("R3", "C", 2)+scoreOutcome+choice+sum)))
	require.Empty(t, refused)
	assert.Equal(t, item.AsWritten, found[0].Item.Credit, "what can be less than nothing stays as it is written")

	both := `<responseProcessing><responseCondition><responseIf><and><match><variable identifier="R1"/><correct identifier="R1"/></match><match><variable identifier="R2"/><correct identifier="R2"/></match></and><setOutcomeValue identifier="SCORE"><baseValue baseType="float">1</baseValue></setOutcomeValue></responseIf><responseElse><setOutcomeValue identifier="SCORE"><baseValue baseType="float">0</baseValue></setOutcomeValue></responseElse></responseCondition></responseProcessing>`
	found, refused = read(t, packed(t, assessmentItem(weighted+both)))
	require.Empty(t, refused)
	assert.Equal(t, item.AllOrNothing, found[0].Item.Credit)
	assert.Equal(t, points.Points(0), found[0].Item.Score(item.Response{"R2": {"D"}}, 100).Credit)
}

func TestFeedbackOfOtherPrograms(t *testing.T) {
	body := response("RESPONSE", "single", "identifier", correct("A")) + scoreOutcome + `<outcomeDeclaration identifier="FEEDBACK" cardinality="single" baseType="identifier"/>` +
		`<itemBody><choiceInteraction responseIdentifier="RESPONSE" maxChoices="1"><prompt>Which?</prompt>` + choices("simpleChoice", "A", "B", "C") + `</choiceInteraction></itemBody>` +
		`<responseProcessing><responseCondition><responseIf><match><variable identifier="RESPONSE"/><correct identifier="RESPONSE"/></match><setOutcomeValue identifier="SCORE"><baseValue baseType="float">1</baseValue></setOutcomeValue></responseIf><responseElse><setOutcomeValue identifier="SCORE"><baseValue baseType="float">0</baseValue></setOutcomeValue></responseElse></responseCondition><setOutcomeValue identifier="FEEDBACK"><variable identifier="RESPONSE"/></setOutcomeValue></responseProcessing>` +
		`<modalFeedback outcomeIdentifier="FEEDBACK" identifier="A" showHide="show">Just so.</modalFeedback><modalFeedback outcomeIdentifier="FEEDBACK" identifier="B" showHide="show">Go over tides.</modalFeedback><modalFeedback outcomeIdentifier="FEEDBACK" identifier="A" showHide="hide">Not yet.</modalFeedback>`
	found, refused := read(t, packed(t, assessmentItem(body)))
	require.Empty(t, refused)
	assert.Equal(t, item.AllOrNothing, found[0].Item.Credit, "what shows feedback does not score")
	assert.Equal(t, &item.Feedback{Right: "Just so.", Wrong: "Not yet.", ByAnswers: []item.Advice{{Response: "RESPONSE", Value: "B", HTML: "Go over tides."}}}, found[0].Item.Feedback)
}

// What cannot be represented is refused by the name of its element.
func TestWhatCannotBeReadIsNamed(t *testing.T) {
	plain := response("RESPONSE", "single", "identifier", correct("A")) + scoreOutcome
	body := `<itemBody><choiceInteraction responseIdentifier="RESPONSE" maxChoices="1"><prompt>Which?</prompt>` + choices("simpleChoice", "A", "B") + `</choiceInteraction></itemBody>`
	for xml, want := range map[string]string{
		plain + `<itemBody><drawingInteraction responseIdentifier="RESPONSE"/></itemBody>`:                                                               "drawingInteraction: is an interaction that is not read",
		plain + `<templateDeclaration identifier="N"/>` + body:                                                                                           "templateDeclaration: is not read",
		plain + `<itemBody><p>x <iframe src="https://elsewhere.example"/></p></itemBody>`:                                                                "iframe: is not read in a text",
		plain + `<itemBody><p><img src="../../etc/passwd" alt="x"/></p></itemBody>`:                                                                      `img: the name "../etc/passwd" leads out of the package`,
		plain + `<itemBody><p><img src="../images/none.png" alt="x"/></p></itemBody>`:                                                                    "img: \"../images/none.png\" is not in the package",
		plain + body + `<responseProcessing template="https://elsewhere.example/rp/odd"/>`:                                                               `responseProcessing: has the template "https://elsewhere.example/rp/odd"`,
		plain + body + `<responseProcessing><lookupOutcomeValue identifier="SCORE"/></responseProcessing>`:                                               "lookupOutcomeValue: is a rule that is not known here",
		plain + body + `<responseProcessing><setOutcomeValue identifier="SCORE"><randomInteger min="1" max="2"/></setOutcomeValue></responseProcessing>`: "randomInteger: is an expression that is not known here",
		plain + `<itemBody><table><tr><td><choiceInteraction responseIdentifier="RESPONSE"/></td></tr></table></itemBody>`:                               "choiceInteraction: stands in a table, where only boxes to type in and menus are read",
		`<itemBody><p>x</p><textEntryInteraction responseIdentifier="RESPONSE"/></itemBody>`:                                                             `textEntryInteraction: answers "RESPONSE", which is not declared`,
		plain + `<itemBody><p>Nothing to do.</p></itemBody>`:                                                                                             "itemBody: holds nothing to answer",
	} {
		found, refused := read(t, packed(t, assessmentItem(xml)))
		require.Len(t, refused, 1, xml)
		assert.Empty(t, found)
		assert.Contains(t, refused[0].Error(), "items/a.xml line 1, "+want)
	}
}

// A package made to do harm is refused before it is unpacked.
func TestHostilePackages(t *testing.T) {
	open := func(files map[string]string) error {
		data := zipped(t, files)
		z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
		require.NoError(t, err)
		_, err = qti.Open(z, shelf)
		return err
	}
	assert.ErrorContains(t, open(map[string]string{"x.txt": "x"}), "no imsmanifest.xml")
	assert.ErrorContains(t, open(map[string]string{"a/imsmanifest.xml": "<manifest/>", "b/imsmanifest.xml": "<manifest/>"}), "no imsmanifest.xml")
	assert.ErrorContains(t, open(nil), "the zip is empty")
	assert.NoError(t, open(map[string]string{"imsmanifest.xml": "<manifest/>", "../x": "x"}), "what leads out is left there")
	assert.ErrorContains(t, open(map[string]string{"imsmanifest.xml": "<manifest/>", "big.txt": strings.Repeat("0", 8<<20)}), "would unpack to more")
	assert.ErrorContains(t, open(map[string]string{"imsmanifest.xml": strings.Repeat("<a>", 200)}), "levels")
	assert.ErrorContains(t, open(map[string]string{"imsmanifest.xml": `<!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/passwd">]><manifest>&x;</manifest>`}), "document type")
	assert.ErrorContains(t, open(map[string]string{"imsmanifest.xml": `<manifest>&x;</manifest>`}), "not well-formed")
	assert.ErrorContains(t, open(map[string]string{"imsmanifest.xml": `<questions/>`}), "not a manifest")
}

// Whatever a file holds, reading it ends, and what comes of it is sound.
func FuzzItem(f *testing.F) {
	f.Add(assessmentItem(response("RESPONSE", "single", "identifier", correct("A")) + scoreOutcome + `<itemBody><choiceInteraction responseIdentifier="RESPONSE" maxChoices="1"><prompt>Which?</prompt>` + choices("simpleChoice", "A", "B") + `</choiceInteraction></itemBody>` + matchTemplate))
	f.Add(assessmentItem(response("R", "multiple", "directedPair", `<mapping><mapEntry mapKey="A X" mappedValue="1e3"/></mapping>`) + `<itemBody><gapMatchInteraction responseIdentifier="R"><gapText identifier="A">a</gapText><p>b<gap identifier="X"/></p></gapMatchInteraction></itemBody>` + mapTemplate))
	f.Add(assessmentItem(response("R", "single", "string", "") + `<itemBody><p><textEntryInteraction responseIdentifier="R"/></p></itemBody><responseProcessing><responseCondition><responseIf><not><isNull/></not></responseIf></responseCondition></responseProcessing>`))
	f.Add(assessmentItem(response("RESPONSE", "single", "identifier", correct("A")) + scoreOutcome + `<outcomeDeclaration identifier="F" cardinality="single" baseType="identifier"/><itemBody><choiceInteraction responseIdentifier="RESPONSE" maxChoices="1"><prompt>Which?</prompt>` + choices("simpleChoice", "A", "B") + `</choiceInteraction></itemBody><responseProcessing><setOutcomeValue identifier="F"><member/></setOutcomeValue></responseProcessing><modalFeedback outcomeIdentifier="F" identifier="x" showHide="show">x</modalFeedback>`))
	f.Add(assessmentItem(response("RESPONSE", "single", "identifier", correct("A")) + scoreOutcome + `<itemBody><choiceInteraction responseIdentifier="RESPONSE" maxChoices="1"><prompt>Which?</prompt>` + choices("simpleChoice", "A", "B") + `</choiceInteraction></itemBody>` + mapTemplate))
	f.Add(assessmentItem(response("RESPONSE", "single", "point", `<areaMapping defaultValue="0"><areaMapEntry shape="poly" coords="1" mappedValue="1"/></areaMapping>`) + scoreOutcome + `<itemBody><p>Where?</p><selectPointInteraction responseIdentifier="RESPONSE" maxChoices="1"><object type="image/png" data="../images/harbor.png">x</object></selectPointInteraction></itemBody>` + pointTemplate))
	f.Fuzz(func(t *testing.T, xml string) {
		found, _ := read(t, packed(t, xml))
		for _, x := range found {
			if problems := x.Item.Check(); len(problems) > 0 {
				t.Errorf("an unsound item: %s", problems[0])
			}
		}
	})
}
