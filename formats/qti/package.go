package qti

import (
	"archive/zip"
	"errors"
	"fmt"
	"io"
	"path"
	"slices"
	"strconv"
	"strings"

	"pineledger/core/item"
	"pineledger/core/points"
)

// Bounds of a package, against archives made to exhaust memory or disk.
const (
	mostFiles = 50_000
	mostBytes = 2 << 30
	mostMedia = 20 << 20 // one picture or sound
	mostRatio = 300
)

const manifestName = "imsmanifest.xml"

// Shelf keeps a picture or sound and tells how the bank refers to it.
type Shelf func(name string, data []byte) (item.Picture, error)

// Found is an item of a package.
type Found struct {
	Identifier string
	Title      string
	File       string
	Item       item.Item
	Parts      *item.Item    // of menus that the file has as responses apart, those parts
	Points     points.Points // what it is worth by its own scale
	Meta       Meta
	Passage    *Passage
}

// Meta is what the manifest says of an item.
type Meta struct {
	Standards  []string // labels or identifiers, as they are written
	Subject    string
	Grade      string
	Bank       string
	Depth      int // 0 when not said
	Difficulty string
	Language   string
	Tags       []string
}

// Passage is a stimulus that items share.
type Passage struct {
	Identifier string
	Title      string
	Body       string
}

// Refusal is something of a package that cannot be represented.
type Refusal struct {
	File    string
	Line    int
	Element string
	Reason  string
}

func (r *Refusal) Error() string {
	return fmt.Sprintf("%s line %d, %s: %s", r.File, r.Line, r.Element, r.Reason)
}

// Package is an opened package.
type Package struct {
	files    map[string]*zip.File
	shelf    Shelf
	manifest node
	passages map[string]Passage
	kept     map[string]item.Picture // media by path
}

// Open reads the manifest of a package. Bad packages as a whole are an error.
func Open(z *zip.Reader, shelf Shelf) (*Package, error) {
	p := &Package{files: map[string]*zip.File{}, shelf: shelf, passages: map[string]Passage{}, kept: map[string]item.Picture{}}
	if len(z.File) > mostFiles {
		return nil, fmt.Errorf("the package has more than %d files", mostFiles)
	}
	var total uint64
	for _, f := range z.File {
		if strings.HasSuffix(f.Name, "/") {
			continue
		}
		name, err := inside(f.Name)
		if err != nil {
			return nil, err
		}
		total += f.UncompressedSize64
		if total > mostBytes || f.UncompressedSize64 > 1<<20 && f.UncompressedSize64/max(f.CompressedSize64, 1) > mostRatio {
			return nil, fmt.Errorf("%s would unpack to more than is read here", f.Name)
		}
		p.files[name] = f
	}
	data, err := p.bytes(manifestName, mostXML)
	if err != nil {
		return nil, fmt.Errorf("no %s at the top of the package: %w", manifestName, err)
	}
	if p.manifest, err = parse(data); err != nil {
		return nil, fmt.Errorf("%s %w", manifestName, err)
	}
	if p.manifest.name != "manifest" {
		return nil, fmt.Errorf("%s holds <%s>, not a manifest", manifestName, p.manifest.name)
	}
	return p, nil
}

// inside refuses names that lead out of the package.
func inside(name string) (string, error) {
	clean := path.Clean(strings.ReplaceAll(name, "\\", "/"))
	if path.IsAbs(clean) || clean == ".." || strings.HasPrefix(clean, "../") || strings.Contains(clean, ":") {
		return "", fmt.Errorf("the name %q leads out of the package", name)
	}
	return clean, nil
}

var errNoFile = errors.New("there is no such file in the package")

func (p *Package) bytes(name string, most int64) ([]byte, error) {
	f, ok := p.files[name]
	if !ok {
		return nil, errNoFile
	}
	r, err := f.Open()
	if err != nil {
		return nil, err
	}
	defer r.Close()
	data, err := io.ReadAll(io.LimitReader(r, most+1))
	if err != nil {
		return nil, err
	}
	if int64(len(data)) > most {
		return nil, fmt.Errorf("is larger than %d bytes", most)
	}
	return data, nil
}

// Each reads every item in turn. take gets the item or the refusal of one, and
// its error ends the reading.
func (p *Package) Each(take func(Found, *Refusal) error) error {
	resources := p.manifest.all("resource")
	translations := map[string][]node{}
	for _, r := range resources {
		if of := translationOf(r); of != "" {
			translations[of] = append(translations[of], r)
		}
	}
	for _, r := range resources {
		kind := r.attr["type"]
		switch {
		case translationOf(r) != "" && declares(resources, translationOf(r)):
		case strings.HasPrefix(kind, "imsqti_item_"):
			found, refusal := p.item(r)
			for _, t := range translations[r.attr["identifier"]] {
				if refusal == nil {
					refusal = p.translate(&found, t)
				}
			}
			if err := take(found, refusal); err != nil {
				return err
			}
		case strings.HasPrefix(kind, "imsqti_test_"), strings.HasPrefix(kind, "imsqti_section_"):
			refusal := &Refusal{manifestName, r.line, "resource " + r.attr["identifier"], "a test or a section of one is not read; its items are"}
			if err := take(Found{File: r.attr["href"]}, refusal); err != nil {
				return err
			}
		}
	}
	return nil
}

// translationOf is the resource that another one translates, "" for none.
func translationOf(r node) string {
	for _, relation := range r.all("relation") {
		kind, of := relation.all("value"), relation.all("entry")
		if len(kind) > 0 && len(of) > 0 && kind[0].words() == isTranslationOf {
			return of[0].words()
		}
	}
	return ""
}

// isTranslationOf is the kind of relation between an item and its variants.
const isTranslationOf = "istranslationof"

func declares(resources []node, identifier string) bool {
	return slices.ContainsFunc(resources, func(r node) bool { return r.attr["identifier"] == identifier && translationOf(r) == "" })
}

// translate adds a variant to an item.
func (p *Package) translate(found *Found, resource node) *Refusal {
	other, refusal := p.item(resource)
	if refusal != nil {
		return refusal
	}
	found.Item.Variants = append(found.Item.Variants, item.Variant{Language: other.Meta.Language, Body: other.Item.Body, Feedback: other.Item.Feedback})
	if problems := found.Item.Check(); len(problems) > 0 {
		return &Refusal{resource.attr["href"], 1, "item", "as a translation: " + problems[0].Reason}
	}
	return nil
}

func (p *Package) item(resource node) (Found, *Refusal) {
	href := resource.attr["href"]
	found := Found{File: href, Meta: metadata(resource)}
	name, err := inside(href)
	if err != nil || href == "" {
		return found, &Refusal{manifestName, resource.line, "resource " + resource.attr["identifier"], "it names no file of the package"}
	}
	data, err := p.bytes(name, mostXML)
	if err != nil {
		return found, &Refusal{manifestName, resource.line, "resource " + href, err.Error()}
	}
	root, err := parse(data)
	if err != nil {
		return found, &Refusal{href, 1, "file", err.Error()}
	}
	if root.name != "assessmentItem" {
		return found, &Refusal{href, root.line, root.name, "is not an assessment item"}
	}
	r := &itemReader{pack: p, file: name, root: root}
	if refusal := r.read(&found); refusal != nil {
		refusal.File = href
		return found, refusal
	}
	return found, nil
}

// media keeps a file of the package on the shelf, once.
func (p *Package) media(from, href string) (item.Picture, error) {
	name, err := inside(path.Join(path.Dir(from), href))
	if err != nil {
		return item.Picture{}, err
	}
	if kept, ok := p.kept[name]; ok {
		return kept, nil
	}
	data, err := p.bytes(name, mostMedia)
	if err != nil {
		return item.Picture{}, fmt.Errorf("%q: %w", href, err)
	}
	kept, err := p.shelf(path.Base(name), data)
	if err != nil {
		return item.Picture{}, fmt.Errorf("%q %w", href, err)
	}
	p.kept[name] = kept
	return kept, nil
}

// metadata reads what a resource says of its item: standards by their labels or
// identifiers, and classifications and keywords as LOM writes them.
func metadata(resource node) Meta {
	var m Meta
	data, ok := resource.child("metadata")
	if !ok {
		return m
	}
	for _, g := range data.all("labelledGUID") {
		for _, name := range []string{"label", "caseItemURI", "GUID"} {
			if c, ok := g.child(name); ok && c.words() != "" {
				m.Standards = append(m.Standards, c.words())
				break
			}
		}
	}
	if general := data.all("general"); len(general) > 0 {
		for _, k := range general[0].children("keyword") {
			m.Tags = append(m.Tags, k.words())
		}
		if l, ok := general[0].child("language"); ok {
			m.Language = l.words()
		}
	}
	for _, c := range data.all("classification") {
		purpose := ""
		if p, ok := c.child("purpose"); ok {
			if v := p.all("value"); len(v) > 0 {
				purpose = v[0].words()
			}
		}
		for _, taxon := range c.all("taxon") {
			entry, ok := taxon.child("entry")
			if !ok {
				continue
			}
			switch value := entry.words(); purpose {
			case "subject", "discipline":
				m.Subject = value
			case "grade", "educational level":
				m.Grade = value
			case "bank":
				m.Bank = value
			case "depth of knowledge":
				m.Depth, _ = strconv.Atoi(value)
			case "difficulty":
				m.Difficulty = value
			}
		}
	}
	m.Tags = slices.DeleteFunc(m.Tags, func(s string) bool { return s == "" })
	return m
}
