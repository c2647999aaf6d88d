package bank

import (
	"context"
	"fmt"
	"strings"
	"unicode/utf8"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
)

// mostNotice bounds a notice, in letters.
const mostNotice = 300

// tell puts a notice on a person's Today, until they have seen it.
func (a *Bank) tell(ctx context.Context, tx *store.Tx, person int64, path, format string, args ...any) error {
	words := []rune(fmt.Sprintf(format, args...))
	if len(words) > mostNotice {
		words = append(words[:mostNotice-1], '…')
	}
	return bankrows.AddNotice(ctx, tx, bankrows.Notice{PersonID: person, At: store.Millis(a.Now()), Words: string(words), Path: path})
}

func itemPath(id int64) string { return fmt.Sprintf("/bank/items/%d", id) }

// SeeNotice takes a notice off a person's Today.
func (a *Word) SeeNotice(ctx context.Context, v roster.Viewer, id int64) error {
	if !v.IsStaff() {
		return desk.ErrForbidden
	}
	return a.Store.Write(ctx, func(tx *store.Tx) error { return bankrows.SeeNotice(ctx, tx, v.PersonID, id, store.Millis(a.Now())) })
}

// wordsWithin trims what a person wrote and bounds it.
func wordsWithin(pointer, words string, most int) (string, error) {
	words = strings.TrimSpace(words)
	if n := utf8.RuneCountInString(words); n == 0 || n > most {
		return "", desk.Invalid(pointer, "Write something, %d characters at most.", most)
	}
	return words, nil
}

func linesPath(assessment int64) string { return fmt.Sprintf("/assessments/%d/lines", assessment) }
