package qti

import (
	"archive/zip"
	"bytes"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"github.com/beevik/etree"

	"pineledger/core/item"
)

// Names of QTI 3.0, CASE metadata and LOM.
const (
	itemNamespace     = "http://www.imsglobal.org/xsd/imsqtiasi_v3p0"
	manifestNamespace = "http://www.imsglobal.org/xsd/qti/qtiv3p0/imscp_v1p1"
	lomNamespace      = "http://ltsc.ieee.org/xsd/LOM"
	csmNamespace      = "http://www.imsglobal.org/xsd/imscsmd_v1p1"
	mathNamespace     = "http://www.w3.org/1998/Math/MathML"
)

// Writing is an item to be written with what the manifest says of it.
type Writing struct {
	Identifier string
	Item       item.Item
	Meta       Meta
	Passage    *Passage
}

// Media gives a file of the shelf by how the bank refers to it.
type Media func(source string) (name string, data []byte, err error)

// Writer writes a package, item by item. Close it to have the manifest in it.
type Writer struct {
	zip       *zip.Writer
	media     Media
	manifest  *etree.Document
	resources *etree.Element
	written   map[string]string // media and passages by their file
	names     map[string]bool
}

// NewWriter begins a package.
func NewWriter(out io.Writer, media Media) *Writer {
	w := &Writer{zip: zip.NewWriter(out), media: media, manifest: etree.NewDocument(), written: map[string]string{}, names: map[string]bool{}}
	w.manifest.CreateProcInst("xml", `version="1.0" encoding="UTF-8"`)
	root := w.manifest.CreateElement("manifest")
	for _, a := range [][2]string{{"xmlns", manifestNamespace}, {"xmlns:lom", lomNamespace}, {"xmlns:csm", csmNamespace}, {"identifier", "PACKAGE"}} {
		root.CreateAttr(a[0], a[1])
	}
	meta := root.CreateElement("metadata")
	meta.CreateElement("schema").SetText("QTI Package")
	meta.CreateElement("schemaversion").SetText("3.0.0")
	root.CreateElement("organizations")
	w.resources = root.CreateElement("resources")
	return w
}

// Close writes the manifest and ends the package.
func (w *Writer) Close() error {
	if err := w.file(manifestName, w.manifest); err != nil {
		return err
	}
	return w.zip.Close()
}

// Beside begins a file at the top of the package that no resource names.
func (w *Writer) Beside(name string) (io.Writer, error) { return w.zip.Create(name) }

func (w *Writer) file(name string, doc *etree.Document) error {
	out, err := w.zip.Create(name)
	if err != nil {
		return err
	}
	doc.WriteSettings.CanonicalText = true
	_, err = doc.WriteTo(out)
	return err
}

var unfit = regexp.MustCompile(`[^A-Za-z0-9._-]`)

// fileName is a name of its own for an identifier.
func (w *Writer) fileName(dir, identifier, ending string) string {
	base := dir + "/" + unfit.ReplaceAllString(identifier, "_")
	name := base + ending
	for n := 2; w.names[name]; n++ {
		name = fmt.Sprintf("%s-%d%s", base, n, ending)
	}
	w.names[name] = true
	return name
}

// Write adds an item; what QTI has no words for is an error that names it. An
// item in more languages is written once for each: see docs/formats.md.
func (w *Writer) Write(it Writing) error {
	id, err := w.one(it, "")
	if err != nil {
		return err
	}
	variants := it.Item.Variants
	it.Item.Variants = nil
	for _, v := range variants {
		other := it
		other.Identifier, other.Meta.Language = it.Identifier+"--"+v.Language, v.Language
		other.Item.Body, other.Item.Feedback = v.Body, v.Feedback
		if _, err := w.one(other, id); err != nil {
			return err
		}
	}
	return nil
}

// one writes the item in one language and gives the identifier of its resource.
func (w *Writer) one(it Writing, translates string) (string, error) {
	name := w.fileName("items", it.Identifier, ".xml")
	resource := w.resources.CreateElement("resource")
	id := "R-" + unfit.ReplaceAllString(strings.TrimSuffix(strings.TrimPrefix(name, "items/"), ".xml"), "_")
	resource.CreateAttr("identifier", id)
	resource.CreateAttr("type", "imsqti_item_xmlv3p0")
	resource.CreateAttr("href", name)
	writeMetadata(resource, it.Meta, translates)
	resource.CreateElement("file").CreateAttr("href", name)

	doc, err := w.item(it, resource)
	if err != nil {
		return id, fmt.Errorf("%s: %w", it.Identifier, err)
	}
	return id, w.file(name, doc)
}

func writeMetadata(resource *etree.Element, m Meta, translates string) {
	meta := resource.CreateElement("metadata")
	lom := meta.CreateElement("lom:lom")
	general := lom.CreateElement("lom:general")
	if m.Language != "" {
		general.CreateElement("lom:language").SetText(m.Language)
	}
	for _, t := range m.Tags {
		general.CreateElement("lom:keyword").CreateElement("lom:string").SetText(t)
	}
	if translates != "" {
		relation := lom.CreateElement("lom:relation")
		relation.CreateElement("lom:kind").CreateElement("lom:value").SetText(isTranslationOf)
		relation.CreateElement("lom:resource").CreateElement("lom:identifier").CreateElement("lom:entry").SetText(translates)
	}
	depth := ""
	if m.Depth > 0 {
		depth = strconv.Itoa(m.Depth)
	}
	for _, c := range [][2]string{{"subject", m.Subject}, {"grade", m.Grade}, {"bank", m.Bank}, {"depth of knowledge", depth}, {"difficulty", m.Difficulty}} {
		if c[1] == "" {
			continue
		}
		class := lom.CreateElement("lom:classification")
		class.CreateElement("lom:purpose").CreateElement("lom:value").SetText(c[0])
		class.CreateElement("lom:taxonPath").CreateElement("lom:taxon").CreateElement("lom:entry").CreateElement("lom:string").SetText(c[1])
	}
	if len(m.Standards) > 0 {
		set := meta.CreateElement("csm:curriculumStandardsMetadataSet").CreateElement("csm:curriculumStandardsMetadata").CreateElement("csm:setOfGUIDs")
		for _, s := range m.Standards {
			set.CreateElement("csm:labelledGUID").CreateElement("csm:label").SetText(s)
		}
	}
}

// item makes the document of an item.
func (w *Writer) item(it Writing, resource *etree.Element) (*etree.Document, error) {
	told, scored := it.Item.AsRules()
	doc := etree.NewDocument()
	doc.CreateProcInst("xml", `version="1.0" encoding="UTF-8"`)
	root := doc.CreateElement("qti-assessment-item")
	for _, a := range [][2]string{{"xmlns", itemNamespace}, {"identifier", it.Identifier}, {"title", it.Item.Name()}, {"time-dependent", "false"}, {"adaptive", "false"}, {"xml:lang", it.Meta.Language}} {
		if a[1] != "" {
			root.CreateAttr(a[0], a[1])
		}
	}
	for _, d := range told.Declarations {
		if err := writeDeclaration(root, told, d); err != nil {
			return nil, err
		}
	}
	writeOutcomes(root, told, scored)
	if it.Passage != nil {
		if err := w.passage(root, resource, *it.Passage); err != nil {
			return nil, err
		}
	}
	writeCards(root, it.Item.Cards)
	body := root.CreateElement("qti-item-body")
	if it.Item.Credit != item.AsWritten {
		body.CreateAttr(hintName, string(asJSON(hint{it.Item.Kind, it.Item.Credit, it.Item.Declarations})))
	}
	if it.Item.Directions != "" {
		block := body.CreateElement("qti-rubric-block")
		block.CreateAttr("view", "proctor scorer")
		block.CreateAttr("use", "instructions")
		if err := writeHTML(block.CreateElement("qti-content-body"), it.Item.Directions); err != nil {
			return nil, err
		}
	}
	if it.Item.Notes != "" {
		block := body.CreateElement("qti-rubric-block")
		block.CreateAttr("view", "author")
		block.CreateAttr("use", "instructions")
		block.CreateElement("qti-content-body").CreateElement("p").SetText(it.Item.Notes)
	}
	writeRubrics(body, it.Item)
	if err := writeBody(body, told); err != nil {
		return nil, err
	}
	writeProcessing(root, told, scored, it.Item.Feedback)
	if err := writeFeedback(root, it.Item.Feedback); err != nil {
		return nil, err
	}
	return doc, w.shelve(doc, resource)
}

// shelve brings the pictures and sounds that a document shows into the package.
func (w *Writer) shelve(doc *etree.Document, resource *etree.Element) error {
	var listed []string
	for _, e := range doc.FindElements("//*") {
		source := e.SelectAttr("src")
		if source == nil {
			source = e.SelectAttr("data")
		}
		if source == nil || !item.MediaSource.MatchString(source.Value) {
			continue
		}
		file, ok := w.written[source.Value]
		if !ok {
			name, data, err := w.media(source.Value)
			if err != nil {
				return err
			}
			file = w.fileName("media", strings.TrimSuffix(name, ending(name)), ending(name))
			out, err := w.zip.CreateHeader(&zip.FileHeader{Name: file, Method: zip.Store})
			if err != nil {
				return err
			}
			if _, err := io.Copy(out, bytes.NewReader(data)); err != nil {
				return err
			}
			w.written[source.Value] = file
		}
		source.Value = "../" + file
		if !slices.Contains(listed, file) {
			listed = append(listed, file)
			resource.CreateElement("file").CreateAttr("href", file)
		}
	}
	return nil
}

func ending(name string) string {
	if at := strings.LastIndexByte(name, '.'); at >= 0 {
		return name[at:]
	}
	return ""
}

// passage writes a stimulus once and refers to it.
func (w *Writer) passage(root, resource *etree.Element, p Passage) error {
	key := "passage " + p.Identifier
	file, ok := w.written[key]
	if !ok {
		file = w.fileName("passages", p.Identifier, ".xml")
		w.written[key] = file
		doc := etree.NewDocument()
		doc.CreateProcInst("xml", `version="1.0" encoding="UTF-8"`)
		text := doc.CreateElement("qti-assessment-stimulus")
		for _, a := range [][2]string{{"xmlns", itemNamespace}, {"identifier", p.Identifier}, {"title", p.Title}} {
			text.CreateAttr(a[0], a[1])
		}
		if err := writeHTML(text.CreateElement("qti-stimulus-body"), p.Body); err != nil {
			return err
		}
		entry := w.resources.CreateElement("resource")
		entry.CreateAttr("identifier", "P-"+unfit.ReplaceAllString(p.Identifier, "_"))
		entry.CreateAttr("type", "imsqti_stimulus_xmlv3p0")
		entry.CreateAttr("href", file)
		entry.CreateElement("file").CreateAttr("href", file)
		if err := w.shelve(doc, entry); err != nil {
			return err
		}
		if err := w.file(file, doc); err != nil {
			return err
		}
	}
	ref := root.CreateElement("qti-assessment-stimulus-ref")
	ref.CreateAttr("identifier", p.Identifier)
	ref.CreateAttr("href", "../"+file)
	resource.CreateElement("dependency").CreateAttr("identifierref", "P-"+unfit.ReplaceAllString(p.Identifier, "_"))
	return nil
}

func writeCards(root *etree.Element, cards []item.Card) {
	if len(cards) == 0 {
		return
	}
	info := root.CreateElement("qti-catalog-info")
	byID := map[string]*etree.Element{}
	for _, c := range cards {
		catalog, ok := byID[c.Catalog]
		if !ok {
			catalog = info.CreateElement("qti-catalog")
			catalog.CreateAttr("id", c.Catalog)
			byID[c.Catalog] = catalog
		}
		card := catalog.CreateElement("qti-card")
		card.CreateAttr("support", c.Support)
		entry := card.CreateElement("qti-card-entry")
		if c.Language != "" {
			entry.CreateAttr("xml:lang", c.Language)
		}
		if c.Default {
			entry.CreateAttr("default", "true")
		}
		if err := writeHTML(entry.CreateElement("qti-html-content"), c.HTML); err != nil {
			panic(err) // cleaned text is always written
		}
	}
}

// writeRubrics shows the rubrics of written answers to scorers as tables.
func writeRubrics(body *etree.Element, it item.Item) {
	for _, d := range it.Declarations {
		if d.Rubric == nil {
			continue
		}
		block := body.CreateElement("qti-rubric-block")
		block.CreateAttr("view", "scorer")
		block.CreateAttr("use", "scoring")
		block.CreateAttr("data-rubric", d.Response)
		table := block.CreateElement("qti-content-body").CreateElement("table").CreateElement("tbody")
		for _, t := range d.Rubric.Traits {
			for _, l := range t.Levels {
				row := table.CreateElement("tr")
				row.CreateElement("th").SetText(t.Name)
				row.CreateElement("td").SetText(l.Points.String())
				row.CreateElement("td").SetText(l.Text)
			}
		}
	}
}
