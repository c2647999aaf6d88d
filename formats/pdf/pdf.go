// Package pdf looks into PDF documents that people bring.
package pdf

import (
	"bytes"
	"errors"
	"fmt"

	"github.com/pdfcpu/pdfcpu/pkg/api"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/model"
)

// Bounds of a document.
const (
	MostBytes = 30 << 20
	MostPages = 200
)

// Why a document is refused.
var (
	ErrNotPDF    = errors.New("is not a PDF document")
	ErrTooLarge  = fmt.Errorf("is larger than %d MB; scan it with fewer dots to the inch, or split it", MostBytes>>20)
	ErrTooMany   = fmt.Errorf("has more than %d pages", MostPages)
	ErrEncrypted = errors.New("is locked with a password; save it without one")
	ErrDamaged   = errors.New("is damaged; open it and save it anew as PDF")
	ErrEmpty     = errors.New("has no page")
)

// Pages checks a document and counts its pages.
func Pages(data []byte) (int, error) {
	switch {
	case len(data) > MostBytes:
		return 0, ErrTooLarge
	case !bytes.Contains(data[:min(len(data), 1024)], []byte("%PDF-")):
		return 0, ErrNotPDF
	}
	api.DisableConfigDir()
	config := model.NewDefaultConfiguration()
	config.ValidationMode = model.ValidationRelaxed
	ctx, err := api.ReadAndValidate(bytes.NewReader(data), config)
	switch {
	case errors.Is(err, pdfcpu.ErrWrongPassword):
		return 0, ErrEncrypted
	case err != nil:
		return 0, ErrDamaged
	case ctx.PageCount == 0:
		return 0, ErrEmpty
	case ctx.PageCount > MostPages:
		return 0, ErrTooMany
	}
	return ctx.PageCount, nil
}
