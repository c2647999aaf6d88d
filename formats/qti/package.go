package qti

import (
	"archive/zip"
	"bytes"
	"cmp"
	"errors"
	"fmt"
	"io"
	"net/url"
	"os"
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
	twice    map[string]bool // files that are in the zip more than once: which is meant?
	shelf    Shelf
	manifest node
	base     string // the folder from which the manifest counts
	passages map[string]Passage
	kept     map[string]item.Picture // media by path
}

// Open reads the manifest of a package. Bad packages as a whole are an error.
func Open(z *zip.Reader, shelf Shelf) (*Package, error) {
	p := &Package{files: map[string]*zip.File{}, twice: map[string]bool{}, shelf: shelf, passages: map[string]Passage{}, kept: map[string]item.Picture{}}
	if len(z.File) > mostFiles {
		return nil, fmt.Errorf("the package has more than %d files", mostFiles)
	}
	var total uint64
	for _, f := range z.File {
		if strings.HasSuffix(f.Name, "/") {
			continue
		}
		total += f.UncompressedSize64
		if total > mostBytes || f.UncompressedSize64 > 1<<20 && f.UncompressedSize64/max(f.CompressedSize64, 1) > mostRatio {
			return nil, fmt.Errorf("%s would unpack to more than is read here", f.Name)
		}
		name, err := inside(f.Name)
		if err != nil {
			continue // nothing of the package can mean it
		}
		p.twice[name] = p.files[name] != nil
		p.files[name] = f
	}
	if len(p.files) == 0 {
		return nil, errors.New("the zip is empty")
	}
	manifest, err := p.findManifest()
	if err != nil {
		return nil, err
	}
	data, err := p.bytes(manifest, mostXML)
	if err != nil {
		return nil, fmt.Errorf("%s %w", manifest, err)
	}
	if p.manifest, err = parse(data); err != nil {
		return nil, fmt.Errorf("%s %w", manifest, err)
	}
	if p.manifest.name != "manifest" {
		return nil, fmt.Errorf("%s holds <%s>, not a manifest", manifest, p.manifest.name)
	}
	p.base = path.Join(path.Dir(manifest), p.manifest.attr["xml:base"])
	if list, ok := p.manifest.child("resources"); ok {
		p.base = path.Join(p.base, list.attr["xml:base"])
	}
	return p, nil
}

// NotAZip says in plain words why a file cannot be opened as a zip.
func NotAZip(path string, err error) error {
	file, openErr := os.Open(path)
	if openErr != nil {
		return openErr
	}
	defer file.Close()
	head := make([]byte, 4)
	switch n, readErr := io.ReadFull(file, head); {
	case n == 0:
		return errors.New("the file is empty")
	case readErr == nil && bytes.HasPrefix(head, []byte("PK")):
		return fmt.Errorf("the zip is damaged (%w); it may not have come whole: export it or send it again", err)
	}
	return errors.New("the file is not a zip")
}

// findManifest looks at the top of the package, or of the one folder that was put in
// the zip instead of what is in it.
func (p *Package) findManifest() (string, error) {
	if p.files[manifestName] != nil {
		return manifestName, nil
	}
	var found []string
	for name := range p.files {
		if dir, base := path.Split(name); base == manifestName && strings.Count(dir, "/") == 1 && dir != "__MACOSX/" {
			found = append(found, name)
		}
	}
	if len(found) != 1 {
		return "", fmt.Errorf("there is no %s at the top of the zip, so it is no QTI package; export it as one", manifestName)
	}
	return found[0], nil
}

// inside refuses names that lead out of the package.
func inside(name string) (string, error) {
	clean := path.Clean(strings.ReplaceAll(name, "\\", "/"))
	if path.IsAbs(clean) || clean == ".." || strings.HasPrefix(clean, "../") || strings.Contains(clean, ":") {
		return "", fmt.Errorf("the name %q leads out of the package", name)
	}
	return clean, nil
}

// find gives the name in the zip of what an address means, which counts from a folder.
// Addresses are written as on the web: with percent signs for what they cannot hold.
func (p *Package) find(dir, address string) (string, error) {
	plain, err := inside(path.Join(dir, address))
	if err == nil && p.files[plain] != nil {
		return plain, nil
	}
	address, _, _ = strings.Cut(address, "#")
	address, _, _ = strings.Cut(address, "?")
	decoded, err := url.PathUnescape(address)
	if err != nil {
		return "", fmt.Errorf("the name %q is no address", address)
	}
	return inside(path.Join(dir, decoded))
}

var errNoFile = errors.New("is not in the package")

func (p *Package) bytes(name string, most int64) ([]byte, error) {
	f, ok := p.files[name]
	if !ok {
		return nil, errNoFile
	}
	if p.twice[name] {
		return nil, errors.New("is in the zip twice; take one of them out")
	}
	r, err := f.Open()
	if err != nil {
		return nil, damaged(err)
	}
	defer r.Close()
	data, err := io.ReadAll(io.LimitReader(r, most+1))
	if err != nil {
		return nil, damaged(err)
	}
	if int64(len(data)) > most {
		return nil, fmt.Errorf("is larger than %d bytes", most)
	}
	return data, nil
}

func damaged(err error) error {
	return fmt.Errorf("is damaged in the zip (%w); export the package again", err)
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
	items := 0
	for _, r := range resources {
		kind := r.attr["type"]
		switch {
		case translationOf(r) != "" && declares(resources, translationOf(r)):
		case strings.HasPrefix(kind, "imsqti_item_"), strings.HasPrefix(kind, "imsqti_apipitem_"):
			items++
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
	if items == 0 {
		return fmt.Errorf("%s lists no items: there is no resource of a type such as imsqti_item_xmlv2p1", manifestName)
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
	found := Found{Identifier: resource.attr["identifier"], File: href, Meta: metadata(resource)}
	refuse := func(reason string) (Found, *Refusal) {
		return found, &Refusal{manifestName, resource.line, "resource " + cmp.Or(href, resource.attr["identifier"]), reason}
	}
	if href == "" {
		return refuse("it names no file of the package")
	}
	name, err := p.find(path.Join(p.base, resource.attr["xml:base"]), href)
	if err != nil {
		return refuse(err.Error())
	}
	data, err := p.bytes(name, mostXML)
	if err != nil {
		return refuse(err.Error())
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
	name, err := p.find(path.Dir(from), href)
	if err != nil {
		return item.Picture{}, err
	}
	if kept, ok := p.kept[name]; ok {
		return kept, nil
	}
	data, err := p.bytes(name, mostMedia)
	if err != nil {
		return item.Picture{}, fmt.Errorf("%q %w", href, err)
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
