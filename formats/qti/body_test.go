package qti_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/formats/qti"
)

// one reads an item of one choice whose body begins with a text.
func one(t *testing.T, text string) ([]qti.Found, []*qti.Refusal) {
	t.Helper()
	return read(t, packed(t, assessmentItem(response("RESPONSE", "single", "identifier", correct("A"))+scoreOutcome+
		`<itemBody>`+text+`<choiceInteraction responseIdentifier="RESPONSE" maxChoices="1">`+choices("simpleChoice", "A", "B")+`</choiceInteraction></itemBody>`+matchTemplate)))
}

// What a text becomes: what means something stays, what lays out goes.
func TestTextsKeepWhatTheyMean(t *testing.T) {
	for text, want := range map[string]string{
		`<p>The <b>tide</b> <i>rises</i>.</p>`:                                                `<p>The <strong>tide</strong> <em>rises</em>.</p>`,
		`<div class="x"><p style="color:red" onclick="x()">Read <span>this</span>.</p></div>`: `<p>Read this.</p>`,
		`<p>Where ferries <span data-catalog-idref="w1" class="x">moor</span>.</p>`:           `<p>Where ferries <span data-catalog-idref="w1">moor</span>.</p>`,
		`<h1>Tides</h1><ul><li>high</li><li>low</li></ul>`:                                    `<h3>Tides</h3><ul><li>high</li><li>low</li></ul>`,
		`<table><tr><th scope="row">a &lt; b</th><td>1</td></tr></table>`:                     `<table><tr><th scope="row">a &lt; b</th><td>1</td></tr></table>`,
		`<p>x<sup>2</sup> and H<sub>2</sub>O<br/>next</p>`:                                    `<p>x<sup>2</sup> and H<sub>2</sub>O<br>next</p>`,
		`<m:math xmlns:m="http://www.w3.org/1998/Math/MathML"><m:mi>x</m:mi></m:math>`:        `<math><mi>x</mi></math>`,
		`<p xml:lang="es">marea</p>`:                                                          `<p lang="es">marea</p>`,
		`<rubricBlock view="candidate"><p>Use the map.</p></rubricBlock>`:                     `<p>Use the map.</p>`,
	} {
		found, refused := one(t, text)
		require.Empty(t, refused, text)
		assert.Equal(t, want, found[0].Item.Body[0].HTML, text)
	}
}

func TestWhatIsForAdultsIsNotForStudents(t *testing.T) {
	found, refused := one(t, `<p>Which?</p><rubricBlock view="scorer tutor"><p>Give a point for A.</p></rubricBlock><rubricBlock view="author"><p>Too easy?</p></rubricBlock>`)
	require.Empty(t, refused)
	it := found[0].Item
	assert.Equal(t, []string{"<p>Give a point for A.</p>", "Too easy?"}, []string{it.Directions, it.Notes})
	assert.NotContains(t, it.Stem(), "point")
}

func TestPicturesAndSoundsComeFromTheShelf(t *testing.T) {
	found, refused := one(t, `<p>Look: <img src="../images/harbor.png" alt="a &quot;harbor&quot;" width="40" height="30"/></p><p><object data="../images/harbor.png" type="image/png">a pier</object></p><p><audio><source src="../images/harbor.png" type="audio/mpeg"/></audio></p>`)
	require.Empty(t, refused)
	html := found[0].Item.Body[0].HTML
	assert.Contains(t, html, `<img src="/media/`)
	assert.Contains(t, html, `alt="a &#34;harbor&#34;" width="40" height="30">`)
	assert.Contains(t, html, `alt="a pier"`)
	assert.Contains(t, html, `<audio controls="" src="/media/`)
}

// Boxes and menus in sentences run on; each paragraph begins a line.
func TestSentencesWithBoxesRunOn(t *testing.T) {
	declared := response("R1", "single", "string", correct("tide")) + response("R2", "single", "float", correct("12.5"))
	found, refused := read(t, packed(t, assessmentItem(declared+scoreOutcome+`<itemBody><p>Fill in.</p><p>The <strong>word</strong> is <textEntryInteraction responseIdentifier="R1"/> here.</p><ul><li>Hours: <textEntryInteraction responseIdentifier="R2"/></li></ul></itemBody>`)))
	require.Empty(t, refused)
	var shape []string
	for _, b := range found[0].Item.Body {
		s := "text " + b.HTML
		if b.Interaction != nil {
			s = string(b.Interaction.Kind) + " " + b.Interaction.Response
		}
		if b.Inline {
			s = "inline " + s
		}
		shape = append(shape, s)
	}
	assert.Equal(t, []string{"text <p>Fill in.</p>", "inline text The <strong>word</strong> is ", "inline text R1", "inline text  here.", "inline text <br>Hours: ", "inline number R2"}, shape[:6])
	assert.Equal(t, item.Parts, found[0].Item.Kind)
}

// QTI 3 as other programs write it.
func TestItemsOfQTI3(t *testing.T) {
	const manifest = `<manifest xmlns="http://www.imsglobal.org/xsd/qti/qtiv3p0/imscp_v1p1"><resources><resource identifier="i" type="imsqti_item_xmlv3p0" href="i.xml"><dependency identifierref="p"/></resource><resource identifier="p" type="imsqti_stimulus_xmlv3p0" href="texts/p.xml"/></resources></manifest>`
	const text = `<qti-assessment-item xmlns="http://www.imsglobal.org/xsd/imsqtiasi_v3p0" identifier="i" title="I" adaptive="false" time-dependent="false" xml:lang="en-US">
		<qti-response-declaration identifier="RESPONSE" cardinality="single" base-type="string"><qti-mapping default-value="0"><qti-map-entry map-key="Harbor" mapped-value="2"/><qti-map-entry map-key="Port" mapped-value="1" case-sensitive="true"/></qti-mapping></qti-response-declaration>
		<qti-outcome-declaration identifier="SCORE" cardinality="single" base-type="float"/>
		<qti-assessment-stimulus-ref identifier="p" href="texts/p.xml"/>
		<qti-catalog-info><qti-catalog id="c1"><qti-card support="spoken"><qti-card-entry xml:lang="en-US" default="true"><qti-html-content><p>Say the word.</p></qti-html-content></qti-card-entry></qti-card></qti-catalog></qti-catalog-info>
		<qti-item-body><p data-catalog-idref="c1">Where do boats lie? <qti-text-entry-interaction response-identifier="RESPONSE" expected-length="12"/></p></qti-item-body>
		<qti-response-processing template="https://purl.imsglobal.org/spec/qti/v3p0/rptemplates/map_response.xml"/></qti-assessment-item>`
	data := zipped(t, map[string]string{"imsmanifest.xml": manifest, "i.xml": text,
		"texts/p.xml": `<qti-assessment-stimulus xmlns="http://www.imsglobal.org/xsd/imsqtiasi_v3p0" identifier="P1" title="The harbor"><qti-stimulus-body><p>Boats lie <em>still</em>.</p></qti-stimulus-body></qti-assessment-stimulus>`})
	found, refused := read(t, data)
	require.Empty(t, refused)
	f := found[0]
	assert.Equal(t, points.Points(200), f.Points)
	for given, want := range map[string]points.Points{"harbor": 200, "HARBOR": 200, "Port": 100, "port": 0} {
		assert.Equal(t, want, f.Item.Score(item.Response{"RESPONSE": {given}}, 200).Credit, given)
	}
	assert.Equal(t, "en-US", f.Meta.Language)
	assert.Equal(t, &qti.Passage{Identifier: "P1", Title: "The harbor", Body: "<p>Boats lie <em>still</em>.</p>"}, f.Passage)
	assert.Equal(t, []item.Card{{Catalog: "c1", Support: "spoken", Language: "en-US", Default: true, HTML: "<p>Say the word.</p>"}}, f.Item.Cards)
}

// The same mapping in QTI 2 minds capitals where nothing is said.
func TestCapitalsOfMappings(t *testing.T) {
	found, refused := read(t, packed(t, assessmentItem(response("RESPONSE", "single", "string", `<mapping defaultValue="0"><mapEntry mapKey="Harbor" mappedValue="1"/></mapping>`)+scoreOutcome+
		`<itemBody><p>Where? <textEntryInteraction responseIdentifier="RESPONSE"/></p></itemBody>`+mapTemplate)))
	require.Empty(t, refused)
	assert.Equal(t, item.Wrong, found[0].Item.Score(item.Response{"RESPONSE": {"harbor"}}, 100).Outcome)
}

func TestWhatTheManifestSaysOfAnItem(t *testing.T) {
	files := map[string]string{
		"imsmanifest.xml": `<manifest xmlns="http://www.imsglobal.org/xsd/imscp_v1p1" xmlns:lom="http://ltsc.ieee.org/xsd/LOM"><resources><resource identifier="a" type="imsqti_item_xmlv2p2" href="a.xml"><metadata><lom:lom>
			<lom:general><lom:language>es</lom:language><lom:keyword><lom:string>marea</lom:string></lom:keyword></lom:general>
			<lom:classification><lom:purpose><lom:value>discipline</lom:value></lom:purpose><lom:taxonPath><lom:taxon><lom:entry><lom:string>Science</lom:string></lom:entry></lom:taxon></lom:taxonPath></lom:classification>
			<lom:classification><lom:purpose><lom:value>depth of knowledge</lom:value></lom:purpose><lom:taxonPath><lom:taxon><lom:entry><lom:string>2</lom:string></lom:entry></lom:taxon></lom:taxonPath></lom:classification></lom:lom>
			<curriculumStandardsMetadataSet><curriculumStandardsMetadata><setOfGUIDs><labelledGUID><GUID>0b1c</GUID></labelledGUID><labelledGUID><label>S5.EW.1</label></labelledGUID></setOfGUIDs></curriculumStandardsMetadata></curriculumStandardsMetadataSet></metadata></resource>
			<resource identifier="t" type="imsqti_test_xmlv2p2" href="t.xml"/></resources></manifest>`,
		"a.xml": assessmentItem(response("RESPONSE", "single", "identifier", correct("A")) + scoreOutcome + `<itemBody><choiceInteraction responseIdentifier="RESPONSE" maxChoices="1"><prompt>Which?</prompt>` + choices("simpleChoice", "A", "B") + `</choiceInteraction></itemBody>`),
	}
	found, refused := read(t, zipped(t, files))
	require.Len(t, found, 1)
	assert.Equal(t, qti.Meta{Standards: []string{"0b1c", "S5.EW.1"}, Subject: "Science", Depth: 2, Language: "es", Tags: []string{"marea"}}, found[0].Meta)
	require.Len(t, refused, 1)
	assert.Contains(t, refused[0].Reason, "its items are")
	assert.Equal(t, item.AllOrNothing, found[0].Item.Credit, "a key without rules is a key")

	files["a.xml"] = strings.Repeat("<assessmentItem>", 3)
	_, refused = read(t, zipped(t, files))
	require.Len(t, refused, 2)
	assert.Contains(t, refused[0].Error(), "a.xml line 1, file: is not well-formed XML")
	delete(files, "a.xml")
	_, refused = read(t, zipped(t, files))
	assert.Contains(t, refused[0].Error(), "is not in the package")
}
