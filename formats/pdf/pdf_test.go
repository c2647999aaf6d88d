package pdf_test

import (
	"bytes"
	"fmt"
	"testing"

	"github.com/pdfcpu/pdfcpu/pkg/api"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/model"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/formats/pdf"
	"pineledger/formats/pdf/pdftest"
)

func TestPagesAreCounted(t *testing.T) {
	n, err := pdf.Pages(pdftest.Document("Tide quiz", "Second page", "Third page"))
	require.NoError(t, err)
	assert.Equal(t, 3, n)
}

func TestWhatIsNoGoodDocumentIsRefusedWithItsReason(t *testing.T) {
	whole := pdftest.Document("Tide quiz")
	var locked bytes.Buffer
	require.NoError(t, api.Encrypt(bytes.NewReader(whole), &locked, model.NewAESConfiguration("secret", "keeper", 256)))
	var many []string
	for i := range pdf.MostPages + 1 {
		many = append(many, fmt.Sprint("Page ", i+1))
	}
	for _, c := range []struct {
		says string
		data []byte
		want error
	}{
		{"nothing", nil, pdf.ErrNotPDF},
		{"a picture", []byte("\x89PNG\r\n"), pdf.ErrNotPDF},
		{"a name alone", []byte("%PDF-1.4\n"), pdf.ErrDamaged},
		{"the beginning of one", whole[:60], pdf.ErrDamaged},
		{"a locked one", locked.Bytes(), pdf.ErrEncrypted},
		{"too many pages", pdftest.Document(many...), pdf.ErrTooMany},
		{"too many bytes", append(whole, make([]byte, pdf.MostBytes)...), pdf.ErrTooLarge},
	} {
		_, err := pdf.Pages(c.data)
		assert.ErrorIs(t, err, c.want, c.says)
	}
}
