package office

import (
	"context"
	"fmt"
	"time"
	"unicode/utf8"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/run/post"
	"pineledger/store"
	"pineledger/store/officerows"
)

// MailStanding is what has become of letters.
type MailStanding = officerows.MailStanding

// Bounds of mail.
const (
	lettersAtOnce = 50
	mostTries     = 9 // over about four hours
	firstWait     = time.Minute
	mostWait      = time.Hour
	mostSubject   = 78 // characters, RFC 5322's advice for a line
	mostWhy       = 200
)

// Deliver hands what people are told to the mail server, as far as it is due, and says how much went out. Each letter is handed
// on again until the server takes it; one that it took just before the program stopped may come twice, and none is lost.
func (a *Office) Deliver(ctx context.Context) (int, error) {
	if a.Mail == nil {
		return 0, nil
	}
	due, err := officerows.LettersDue(ctx, a.Store.Reader, a.Now(), lettersAtOnce)
	if err != nil || len(due) == 0 {
		return 0, err
	}
	letters := make([]post.Letter, len(due))
	for i, l := range due {
		letters[i] = post.Letter{To: l.Email, Name: l.Name, Subject: subjectOf(l.Words), Text: a.textOf(l)}
	}
	refused := a.Mail.Hand(ctx, letters)
	if ctx.Err() != nil {
		return 0, ctx.Err()
	}
	sent := 0
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		sent = 0
		for i, l := range due {
			why := refused[i]
			if why == nil {
				sent++
				if err := officerows.LetterSent(ctx, tx, l.ID, a.Now()); err != nil {
					return err
				}
				continue
			}
			if err := officerows.LetterFailed(ctx, tx, l.ID, cutTo(why.Error(), mostWhy), a.nextTry(l.Tries)); err != nil {
				return err
			}
		}
		return nil
	})
	return sent, err
}

// nextTry is when a letter is tried again that failed so often before; zero: it is given up.
func (a *Office) nextTry(before int) time.Time {
	if before+1 >= mostTries {
		return time.Time{}
	}
	return a.Now().Add(min(mostWait, firstWait<<before))
}

func subjectOf(words string) string { return cutTo(words, mostSubject) }

// cutTo shortens a text to so many characters.
func cutTo(text string, most int) string {
	if utf8.RuneCountInString(text) <= most {
		return text
	}
	return string([]rune(text)[:most-1]) + "…"
}

func (a *Office) textOf(l officerows.Letter) string {
	where := ""
	if a.MailLinks != "" {
		where = "\n" + a.MailLinks + l.Path + "\n"
	}
	return fmt.Sprintf("%s,\n\n%s\n%s\nThe same stands on your page Today.\n", l.Name, l.Words, where)
}

// MailStanding tells who coordinates the district how mail gets through.
func (a *Office) MailStanding(ctx context.Context, v roster.Viewer) (MailStanding, error) {
	if !v.MayImport() {
		return MailStanding{}, desk.ErrForbidden
	}
	return officerows.Mail(ctx, a.Store.Reader, a.Now())
}

// RetryMail tries at once what did not get through.
func (a *Office) RetryMail(ctx context.Context, v roster.Viewer) error {
	if !v.MayImport() {
		return desk.ErrForbidden
	}
	return a.Store.Write(ctx, func(tx *store.Tx) error { return officerows.RetryLetters(ctx, tx, a.Now()) })
}
