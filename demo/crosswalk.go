package demo

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
)

// linkMarks are the kinds of links of content/crosswalk.txt.
var linkMarks = map[byte]string{'=': "exactMatchOf", '~': "isRelatedTo", '<': "isPartOf", '>': "replacedBy"}

// otherFramework is a framework beside the state's, with its links.
type otherFramework struct {
	title, subject, version string
	lines                   []otherLine
}

type otherLine struct{ code, text, link string }

// otherFrameworks reads content/crosswalk.txt.
func otherFrameworks() []otherFramework {
	var out []otherFramework
	for _, line := range lines("crosswalk.txt") {
		parts := strings.Split(line, "|")
		for i := range parts {
			parts[i] = strings.TrimSpace(parts[i])
		}
		switch {
		case line == "" || strings.HasPrefix(line, "#"):
		case strings.HasPrefix(line, "framework "):
			out = append(out, otherFramework{title: strings.TrimPrefix(parts[0], "framework "), subject: parts[1], version: parts[2]})
		default:
			f := &out[len(out)-1]
			f.lines = append(f.lines, otherLine{parts[0], parts[1], parts[2]})
		}
	}
	return out
}

// writeOtherFrameworks writes each as a CASE 1.1 file with its crosswalk.
func writeOtherFrameworks(dir string) ([]string, error) {
	var paths []string
	for _, f := range otherFrameworks() {
		id := identifier(f.title)
		of := func(code string) string { return identifier(f.title + " " + code) }
		var items, associations []object
		associate := func(kind, from, to string) {
			associations = append(associations, object{"identifier": identifier(kind + from + to), "associationType": kind, "sequenceNumber": len(associations) + 1,
				"originNodeURI": object{"identifier": from}, "destinationNodeURI": object{"identifier": to}})
		}
		for _, l := range f.lines {
			items = append(items, object{"identifier": of(l.code), "humanCodingScheme": l.code, "fullStatement": l.text})
			parent := id
			if strings.Count(l.code, ".") == 2 {
				parent = of(l.code[:strings.LastIndex(l.code, ".")])
			}
			associate("isChildOf", of(l.code), parent)
			if l.link == "" {
				continue
			}
			theirs := identifier(l.link[1:])
			if kind := linkMarks[l.link[0]]; kind == "replacedBy" {
				associate(kind, theirs, of(l.code))
			} else {
				associate(kind, of(l.code), theirs)
			}
		}
		data, err := json.MarshalIndent(object{"CFDocument": object{"identifier": id, "title": f.title, "subject": []string{f.subject}, "version": f.version},
			"CFItems": items, "CFAssociations": associations}, "", " ")
		if err != nil {
			return nil, err
		}
		path := filepath.Join(dir, fmt.Sprintf("other-%d.case.json", len(paths)+1))
		if err := os.WriteFile(path, data, 0o600); err != nil {
			return nil, err
		}
		paths = append(paths, path)
	}
	return paths, nil
}

// elsewhere gives the code of another framework that is the same as a standard of
// the state's, or the standard itself.
func elsewhere(code string) string {
	for _, f := range otherFrameworks() {
		for _, l := range f.lines {
			if l.link == "="+code {
				return l.code
			}
		}
	}
	return code
}
