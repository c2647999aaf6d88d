package bankrows

import (
	"context"

	"pineledger/store/sqlite"
)

// LastWritten is what an author's newest version in a bank says of itself.
type LastWritten struct {
	Subject   string `db:"subject"`
	Grade     string `db:"grade"`
	Course    string `db:"course"`
	Standards string `db:"standards"` // codes, separated by spaces
	Language  string `db:"language"`
	Document  string `db:"document"`
	At        int64  `db:"at"` // ms
}

// LastWrittenBy gives an author's newest version, of these kinds or, without any, of every kind; ErrNotFound where there is none.
func LastWrittenBy(ctx context.Context, r sqlite.Reader, author int64, kinds ...string) (LastWritten, error) {
	w := sqlite.Where{}
	w.Add("v.author_id = ?", author)
	w.Add("i.assessment_id IS NULL")
	if len(kinds) > 0 {
		condition, args := sqlite.In("v.kind", kinds)
		w.Add(condition, args...)
	}
	var out LastWritten
	err := r.Get(ctx, &out, `SELECT i.subject, i.grade, i.course, v.standards, v.language, v.document, v.at
		FROM item_version v JOIN item i ON i.id = v.item_id `+w.String()+" ORDER BY v.at DESC, v.id DESC LIMIT 1", w.Args...)
	return out, err
}
