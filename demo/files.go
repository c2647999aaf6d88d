package demo

import (
	"archive/zip"
	"crypto/sha256"
	"encoding/csv"
	"encoding/json"
	"fmt"
	"html"
	"io"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
)

// identifier makes a stable UUID-shaped id from a name.
func identifier(name string) string {
	sum := sha256.Sum256([]byte("tamarack bay " + name))
	return fmt.Sprintf("%x-%x-%x-%x-%x", sum[0:4], sum[4:6], sum[6:8], sum[8:10], sum[10:16])
}

// bankName is the bank of the demo.
const bankName = "Tamarack Bay district bank"

// gradeOf is the grade of a standard by its code: M6.RR is of grade 6, MK.CC of
// kindergarten.
func gradeOf(code string) string {
	if code[1] == 'K' {
		return "KG"
	}
	return "0" + code[1:2]
}

func subjectOf(code string) string {
	return map[byte]string{'M': "mathematics", 'R': "reading", 'S': "science"}[code[0]]
}

func slug(code string) string { return strings.ReplaceAll(code, ".", "-") }

func digest(data []byte) string { return fmt.Sprintf("%x", sha256.Sum256(data)) }

type object = map[string]any

// frameworks of the state of Calder, by the letter that their codes begin with.
var frameworks = []struct{ letter, title, subject string }{
	{"M", "Calder Learning Standards: Mathematics, kindergarten and grades 3–8", "Mathematics"},
	{"R", "Calder Learning Standards: Reading, grades 3–8", "Reading"},
	{"S", "Calder Learning Standards: Science, grades 5–8", "Science"},
}

// writeStandards writes each framework as a CASE 1.1 file and gives their paths.
func writeStandards(dir string) ([]string, error) {
	var paths []string
	for _, f := range frameworks {
		id := identifier(f.title)
		doc := object{"CFDocument": object{"identifier": id, "title": f.title, "subject": []string{f.subject}, "version": "2026", "creator": "State of Calder", "frameworkType": "standards"}}
		var items, associations []object
		for i, l := range standardLines() {
			if !strings.HasPrefix(l.code, f.letter) {
				continue
			}
			item, parent := identifier(l.code), id
			if above := parentOf(l.code); above != "" {
				parent = identifier(above)
			}
			items = append(items, object{"identifier": item, "humanCodingScheme": l.code, "fullStatement": l.text, "CFItemType": levelOf(l.code), "educationLevel": []string{gradeOf(l.code)}})
			associations = append(associations, object{"identifier": identifier("child " + l.code), "associationType": "isChildOf", "sequenceNumber": i + 1,
				"originNodeURI": object{"identifier": item, "title": l.code}, "destinationNodeURI": object{"identifier": parent}})
		}
		doc["CFItems"], doc["CFAssociations"] = items, associations
		data, err := json.MarshalIndent(doc, "", " ")
		if err != nil {
			return nil, err
		}
		path := filepath.Join(dir, "calder-"+strings.ToLower(f.subject)+".case.json")
		if err := os.WriteFile(path, data, 0o600); err != nil {
			return nil, err
		}
		paths = append(paths, path)
	}
	return paths, nil
}

func levelOf(code string) string {
	if last := code[len(code)-1]; last >= 'a' && last <= 'z' {
		return "Component"
	}
	return []string{"Grade", "Strand", "Standard"}[strings.Count(code, ".")]
}

// writeItems writes the bank as an items file.
func writeItems(dir string, r *rand.Rand, items []draftItem) (string, error) {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return "", err
	}
	path := filepath.Join(dir, "bank.items.csv")
	head := []string{"identifier", "bank", "kind", "subject", "grade", "standards", "depth", "difficulty", "language", "tags", "passage", "passage_title", "passage_text",
		"stem", "choice_1", "choice_2", "choice_3", "choice_4", "choice_5", "target_1", "target_2", "target_3", "target_4", "key", "credit", "joins", "slips", "line", "text", "tolerance", "unit", "units"}
	rows := [][]string{head}
	for i := range items {
		it := &items[i]
		choices, key := it.shuffled(r)
		bank := it.bank
		if bank == "" {
			bank = bankName
		}
		row := []string{it.identifier, bank, it.kind, it.subject, it.grade, it.standard, fmt.Sprint(it.depth), fmt.Sprintf("%.3f", it.p), "en",
			strings.Join(it.tags, ";"), it.passage, it.title, passageHTML(it.text), it.stem}
		row = append(append(row, padded(choices, 5)...), padded(it.targets, 4)...)
		slips := ""
		if it.slips {
			slips = "yes"
		}
		rows = append(rows, append(row, key, it.credit, it.joins, slips, it.line, it.running, it.tolerance, it.unit, it.unit))
	}
	file, err := os.OpenFile(path, os.O_CREATE|os.O_TRUNC|os.O_WRONLY, 0o600)
	if err != nil {
		return "", err
	}
	if err := csv.NewWriter(file).WriteAll(rows); err != nil {
		return "", err
	}
	return path, file.Close()
}

// padded gives n cells.
func padded(cells []string, n int) []string {
	return append(slices.Clone(cells), make([]string, n-len(cells))...)
}

// passageHTML turns paragraphs and *emphasis* into the safe subset.
func passageHTML(text string) string {
	if text == "" {
		return ""
	}
	var out strings.Builder
	for _, p := range strings.Split(text, "\n\n") {
		p = html.EscapeString(strings.ReplaceAll(p, "\n", " "))
		for n := 0; strings.Contains(p, "*"); n++ {
			p = strings.Replace(p, "*", []string{"<em>", "</em>"}[n%2], 1)
		}
		out.WriteString("<p>" + p + "</p>")
	}
	return out.String()
}

// shuffled orders the choices by chance and gives the key to be written.
func (it *draftItem) shuffled(r *rand.Rand) (choices []string, key string) {
	switch {
	case it.kind == "number":
		return nil, strings.Join(it.right, ";")
	case it.key != "":
		return it.offered, it.key
	}
	choices = append(append(choices, it.right...), it.wrong...)
	r.Shuffle(len(choices), func(a, b int) { choices[a], choices[b] = choices[b], choices[a] })
	named := it.right
	if it.wrongKey {
		named = it.wrong[:1]
	}
	var keys []string
	for i, c := range choices {
		for _, k := range named {
			if c == k {
				keys = append(keys, string(rune('A'+i)))
			}
		}
	}
	return choices, strings.Join(keys, ";")
}

// zipFile gathers CSV files into a zip.
type zipFile struct {
	zip *zip.Writer
	err error
}

func (z *zipFile) table(name string, rows [][]string) {
	if z.err != nil {
		return
	}
	var w io.Writer
	if w, z.err = z.zip.Create(name); z.err == nil {
		z.err = csv.NewWriter(w).WriteAll(rows)
	}
}
