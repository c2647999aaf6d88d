package store

import (
	"context"
	"encoding/binary"
	"encoding/json"
	"errors"
	"fmt"
	"hash/crc32"
	"io"
	"os"
	"path/filepath"
	"slices"
	"sync"

	"pineledger/store/sqlite"
	"pineledger/store/takerows"
)

// AheadFile is what holds answers that could not wait for a long transaction.
const AheadFile = "answers.ahead"

// ahead keeps answers on disk beside the database while an import or another long
// transaction holds its one writer: an answer is acknowledged when it is on disk, and
// that must not take as long as an import does. The next transaction, whatever it is
// for, takes them into the database first; so does the next start after a kill.
//
// An entry may be taken over twice: an answer with a number no higher than the kept
// one changes nothing.
type ahead struct {
	mu   sync.Mutex
	file *os.File
	size int64 // up to which the file holds whole entries
	kept []aheadEntry

	failed error // to empty the file; told when it is closed
}

type aheadEntry struct {
	attempt int64
	at      int64
	answers []takerows.Answer
}

// aheadRecord is an entry as the file holds it. A file that one release leaves is read by
// the next, so that it changes only by what older ones lack.
type aheadRecord struct {
	Attempt int64         `json:"attempt"`
	At      int64         `json:"at"`
	Answers []aheadAnswer `json:"answers"`
}

type aheadAnswer struct {
	Line     int    `json:"Line"`
	Number   int64  `json:"Number"`
	Response string `json:"Response"` // a document
	Marked   bool   `json:"Marked"`
	Done     bool   `json:"Done,omitempty"`
}

func (e aheadEntry) MarshalJSON() ([]byte, error) {
	record := aheadRecord{Attempt: e.attempt, At: e.at}
	for _, a := range e.answers {
		response, err := json.Marshal(a.Response.V)
		if err != nil {
			return nil, err
		}
		record.Answers = append(record.Answers, aheadAnswer{a.Line, a.Number, string(response), a.Marked, a.Done})
	}
	return json.Marshal(record)
}

func (e *aheadEntry) UnmarshalJSON(data []byte) error {
	var record aheadRecord
	if err := json.Unmarshal(data, &record); err != nil {
		return err
	}
	*e = aheadEntry{attempt: record.Attempt, at: record.At}
	for _, a := range record.Answers {
		answer := takerows.Answer{Line: a.Line, Number: a.Number, Marked: a.Marked, Done: a.Done}
		if err := json.Unmarshal([]byte(a.Response), &answer.Response.V); err != nil {
			return err
		}
		e.answers = append(e.answers, answer)
	}
	return nil
}

// headBytes stand before an entry: its length and its checksum.
const headBytes = 8

func openAhead(dir string) (*ahead, error) {
	file, err := os.OpenFile(filepath.Join(dir, AheadFile), os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return nil, fmt.Errorf("answers ahead: %w", err)
	}
	a := &ahead{file: file}
	data, err := io.ReadAll(file)
	if err != nil {
		return nil, errors.Join(fmt.Errorf("answers ahead: %w", err), file.Close())
	}
	for {
		entry, length, ok := readEntry(data)
		if !ok {
			return a, nil // the end, or one that was not on disk whole and so not acknowledged
		}
		a.kept = append(a.kept, entry)
		a.size += int64(length)
		data = data[length:]
	}
}

func readEntry(data []byte) (entry aheadEntry, length int, ok bool) {
	if len(data) < headBytes {
		return entry, 0, false
	}
	body := data[headBytes:]
	n := int(binary.BigEndian.Uint32(data))
	if n > len(body) || crc32.ChecksumIEEE(body[:n]) != binary.BigEndian.Uint32(data[4:]) {
		return entry, 0, false
	}
	return entry, headBytes + n, json.Unmarshal(body[:n], &entry) == nil
}

// add keeps entries; when it returns they are on disk.
func (a *ahead) add(entries []aheadEntry) error {
	var out []byte
	for _, entry := range entries {
		body, err := json.Marshal(entry)
		if err != nil {
			return err
		}
		out = binary.BigEndian.AppendUint32(out, uint32(len(body)))
		out = binary.BigEndian.AppendUint32(out, crc32.ChecksumIEEE(body))
		out = append(out, body...)
	}
	a.mu.Lock()
	defer a.mu.Unlock()
	if _, err := a.file.WriteAt(out, a.size); err != nil {
		return fmt.Errorf("answers ahead: %w", err)
	}
	if err := a.file.Sync(); err != nil {
		return fmt.Errorf("answers ahead: %w", err)
	}
	synced()
	a.size += int64(len(out))
	a.kept = append(a.kept, entries...)
	return nil
}

func (a *ahead) any() bool {
	a.mu.Lock()
	defer a.mu.Unlock()
	return len(a.kept) > 0
}

// take writes what is kept into a transaction. Once that is committed, call done with the number that it gives.
func (a *ahead) take(ctx context.Context, tx *sqlite.Tx) (n int, err error) {
	a.mu.Lock()
	kept := a.kept
	a.mu.Unlock()
	for _, entry := range kept {
		for _, answer := range entry.answers {
			if err := takerows.PutAnswer(ctx, tx, entry.attempt, answer, entry.at); err != nil {
				return 0, fmt.Errorf("answers to attempt %d in %s cannot be taken over (does the file belong to this database? nothing of it is lost): %w",
					entry.attempt, a.file.Name(), err)
			}
		}
	}
	return len(kept), nil
}

// done forgets the first n entries, which are in the database. Where the file cannot be emptied they are
// taken over once more at the next start, which changes nothing.
func (a *ahead) done(n int) {
	if n == 0 {
		return
	}
	a.mu.Lock()
	defer a.mu.Unlock()
	a.kept = slices.Clone(a.kept[n:])
	if len(a.kept) > 0 {
		return // the file is emptied when all of it is taken over
	}
	a.size = 0
	a.failed = a.file.Truncate(0)
}

func (a *ahead) close() error { return errors.Join(a.failed, a.file.Close()) }

// of gives what is kept of an attempt's answers.
func (a *ahead) of(attempt int64) []takerows.SavedAnswer {
	a.mu.Lock()
	defer a.mu.Unlock()
	var out []takerows.SavedAnswer
	for _, entry := range a.kept {
		for _, answer := range entry.answers {
			if entry.attempt == attempt {
				out = append(out, takerows.SavedAnswer{Answer: answer, SavedAt: entry.at})
			}
		}
	}
	return out
}

// Answers gives an attempt's answers in the order of the lines, those included that wait beside the database.
func (s *Store) Answers(ctx context.Context, attempt int64) ([]takerows.SavedAnswer, error) {
	waiting := s.ahead.of(attempt) // before the database is read: it may take them over meanwhile
	kept, err := takerows.Answers(ctx, s.Reader, attempt)
	if err != nil {
		return nil, err
	}
	for _, answer := range waiting {
		at := slices.IndexFunc(kept, func(k takerows.SavedAnswer) bool { return k.Line == answer.Line })
		switch {
		case at < 0:
			kept = append(kept, answer)
		case kept[at].Number < answer.Number:
			kept[at] = answer
		}
	}
	slices.SortFunc(kept, func(x, y takerows.SavedAnswer) int { return x.Line - y.Line })
	return kept, nil
}
