// Package pdftest makes small PDF documents for tests.
package pdftest

import (
	"bytes"
	"fmt"
)

// Document makes a PDF with a line of text on each page.
func Document(pages ...string) []byte {
	var objects []string
	add := func(o string) int {
		objects = append(objects, o)
		return len(objects)
	}
	catalog, tree := add(""), add("")
	font := add("<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>")
	kids := ""
	for _, text := range pages {
		stream := fmt.Sprintf("BT /F1 18 Tf 72 700 Td (%s) Tj ET", text)
		content := add(fmt.Sprintf("<< /Length %d >>\nstream\n%s\nendstream", len(stream), stream))
		page := add(fmt.Sprintf("<< /Type /Page /Parent %d 0 R /MediaBox [0 0 612 792] /Contents %d 0 R /Resources << /Font << /F1 %d 0 R >> >> >>", tree, content, font))
		kids += fmt.Sprintf("%d 0 R ", page)
	}
	objects[catalog-1] = fmt.Sprintf("<< /Type /Catalog /Pages %d 0 R >>", tree)
	objects[tree-1] = fmt.Sprintf("<< /Type /Pages /Kids [%s] /Count %d >>", kids, len(pages))

	var b bytes.Buffer
	b.WriteString("%PDF-1.4\n")
	offsets := make([]int, len(objects))
	for i, o := range objects {
		offsets[i] = b.Len()
		fmt.Fprintf(&b, "%d 0 obj\n%s\nendobj\n", i+1, o)
	}
	start := b.Len()
	fmt.Fprintf(&b, "xref\n0 %d\n0000000000 65535 f \n", len(objects)+1)
	for _, at := range offsets {
		fmt.Fprintf(&b, "%010d 00000 n \n", at)
	}
	fmt.Fprintf(&b, "trailer\n<< /Size %d /Root %d 0 R >>\nstartxref\n%d\n%%%%EOF\n", len(objects)+1, catalog, start)
	return b.Bytes()
}
