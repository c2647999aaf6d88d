package officerows

import (
	"context"
	"time"

	"pineledger/store/sqlite"
)

// Letter is a notice on its way to a person's mailbox.
type Letter struct {
	ID    int64  `db:"id"`
	Email string `db:"email"`
	Name  string `db:"name"`
	Words string `db:"words"`
	Path  string `db:"path"`
	Tries int    `db:"tries"` // that failed
}

// LettersDue lists those that wait and are to be tried at a moment, the oldest first. What is worth telling no more is left out.
func LettersDue(ctx context.Context, r sqlite.Reader, now time.Time, limit int) ([]Letter, error) {
	var out []Letter
	err := r.List(ctx, &out, `SELECT n.id, p.email, p.given || ' ' || p.family AS name, n.words, n.path, n.mail_tries AS tries
		FROM notice n JOIN person p ON p.id = n.person_id
		WHERE n.mail = 'waiting' AND n.mail_at <= ?1 AND (n.until = 0 OR n.until > ?1) ORDER BY n.mail_at, n.id LIMIT ?2`, sqlite.Millis(now), limit)
	return out, err
}

// LetterSent notes that a server took a letter.
func LetterSent(ctx context.Context, t *sqlite.Tx, id int64, at time.Time) error {
	return t.Exec(ctx, "UPDATE notice SET mail = 'sent', mail_at = ?, mail_error = '' WHERE id = ? AND mail = 'waiting'", sqlite.Millis(at), id)
}

// LetterFailed notes why a try failed; next is when it is tried again, zero: never.
func LetterFailed(ctx context.Context, t *sqlite.Tx, id int64, why string, next time.Time) error {
	state, at := "waiting", sqlite.Millis(next)
	if next.IsZero() {
		state, at = "failed", 0
	}
	return t.Exec(ctx, "UPDATE notice SET mail = ?, mail_at = ?, mail_tries = mail_tries + 1, mail_error = ? WHERE id = ? AND mail = 'waiting'", state, at, why, id)
}

// RetryLetters lets every letter that was given up, or waits for its next try, be tried at once.
func RetryLetters(ctx context.Context, t *sqlite.Tx, now time.Time) error {
	return t.Exec(ctx, "UPDATE notice SET mail = 'waiting', mail_at = ?1, mail_tries = 0 WHERE mail IN ('waiting', 'failed') AND (until = 0 OR until > ?1)", sqlite.Millis(now))
}

// MailStanding is what has become of letters.
type MailStanding struct {
	Waiting int    `db:"waiting"` // that were tried and failed so far
	Failed  int    `db:"failed"`  // given up
	Why     string `db:"why"`     // of the last that failed
}

// Mail tells how many letters do not get through at a moment.
func Mail(ctx context.Context, r sqlite.Reader, now time.Time) (MailStanding, error) {
	var out MailStanding
	err := r.Get(ctx, &out, `SELECT COALESCE(SUM(mail = 'waiting' AND mail_tries > 0), 0) AS waiting, COALESCE(SUM(mail = 'failed'), 0) AS failed,
			COALESCE((SELECT mail_error FROM notice WHERE mail IN ('waiting', 'failed') AND mail_error <> '' ORDER BY id DESC LIMIT 1), '') AS why
		FROM notice WHERE mail IN ('waiting', 'failed') AND (until = 0 OR until > ?)`, sqlite.Millis(now))
	return out, err
}
