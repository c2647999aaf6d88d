// Package papertest reads back what was set on pages.
package papertest

import (
	"bytes"
	"io"
	"strings"
	"testing"
	"unicode/utf16"

	"github.com/pdfcpu/pdfcpu/pkg/api"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/model"
	"github.com/stretchr/testify/require"
)

// Pages checks that a document is sound and gives the words of each page, in the order in which they were set.
func Pages(t testing.TB, document []byte) []string {
	t.Helper()
	api.DisableConfigDir()
	config := model.NewDefaultConfiguration()
	ctx, err := api.ReadValidateAndOptimize(bytes.NewReader(document), config)
	require.NoError(t, err)
	var out []string
	for page := 1; page <= ctx.PageCount; page++ {
		r, err := pdfcpu.ExtractPageContent(ctx, page)
		require.NoError(t, err)
		content, err := io.ReadAll(r)
		require.NoError(t, err)
		out = append(out, strings.Join(shown(content), " "))
	}
	return out
}

// shown are the strings of a content stream, which are UTF-16 between brackets.
func shown(content []byte) []string {
	var out []string
	for {
		from := bytes.IndexByte(content, '(')
		if from < 0 {
			return out
		}
		var units []uint16
		var text []byte
		i := from + 1
		for ; content[i] != ')'; i++ {
			if content[i] == '\\' {
				i++
				if content[i] == 'r' {
					text = append(text, '\r')
					continue
				}
			}
			text = append(text, content[i])
		}
		for k := 0; k+1 < len(text); k += 2 {
			units = append(units, uint16(text[k])<<8|uint16(text[k+1]))
		}
		out = append(out, string(utf16.Decode(units)))
		content = content[i+1:]
	}
}
