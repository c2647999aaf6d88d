package sqlite

import (
	"context"
	"database/sql/driver"
	"encoding/binary"
	"encoding/json"
	"fmt"

	"pineledger/core/attempt"
	"pineledger/core/item"
	"pineledger/core/points"
)

// JsonIDs passes a list of any length as one argument.
func JsonIDs(ids []int64) string {
	data, err := json.Marshal(ids)
	if err != nil {
		panic(err) // numbers
	}
	return string(data)
}

// OptionalID stores 0 as NULL.
func OptionalID(id int64) any {
	if id == 0 {
		return nil
	}
	return id
}

// PutRow runs an upsert that returns the row's id, prepared once.
func (t *Tx) PutRow(ctx context.Context, query string, args ...any) (id int64, err error) {
	err = t.Value(ctx, &id, query, args...)
	return id, err
}

// The credits of a score are kept in five bytes a line: a letter for the outcome
// and the credit in hundredths, big-endian.
const creditBytes = 5

var outcomeLetters = map[item.Outcome]byte{item.Right: 'r', item.Part: 'p', item.Wrong: 'w', item.Omitted: 'o', item.NotReached: 'n', item.Unread: 'u', item.NotGiven: 'g'}

var outcomesByLetter = func() map[byte]item.Outcome {
	out := map[byte]item.Outcome{}
	for outcome, letter := range outcomeLetters {
		out[letter] = outcome
	}
	return out
}()

func PackCredits(credits []attempt.LineCredit) []byte {
	out := make([]byte, 0, creditBytes*len(credits))
	for _, c := range credits {
		out = append(out, outcomeLetters[c.Outcome])
		out = binary.BigEndian.AppendUint32(out, uint32(c.Credit))
	}
	return out
}

func UnpackCredits(packed []byte) []attempt.LineCredit {
	out := make([]attempt.LineCredit, 0, len(packed)/creditBytes)
	for at := 0; at+creditBytes <= len(packed); at += creditBytes {
		out = append(out, attempt.LineCredit{Credit: points.Points(binary.BigEndian.Uint32(packed[at+1:])), Outcome: outcomesByLetter[packed[at]]})
	}
	return out
}

// List is a column that holds a JSON array of short texts.
type List []string

// Scan reads a cell; an empty one is an empty list.
func (l *List) Scan(cell any) error {
	*l = List{}
	return scanJSON(cell, l)
}

// Value writes a cell; no list is an empty one.
func (l List) Value() (driver.Value, error) {
	if l == nil {
		return "[]", nil
	}
	data, err := json.Marshal(l)
	return string(data), err
}

// JSON is a column that holds a value of the core as a document.
type JSON[T any] struct{ V T }

// Scan reads a cell; an empty one is the zero value.
func (j *JSON[T]) Scan(cell any) error {
	var zero T
	j.V = zero
	return scanJSON(cell, &j.V)
}

// Value writes a cell.
func (j JSON[T]) Value() (driver.Value, error) {
	data, err := json.Marshal(j.V)
	return string(data), err
}

func scanJSON(cell, into any) error {
	switch text := cell.(type) {
	case nil:
		return nil
	case string:
		if text == "" {
			return nil
		}
		return json.Unmarshal([]byte(text), into)
	case []byte:
		if len(text) == 0 {
			return nil
		}
		return json.Unmarshal(text, into)
	}
	return fmt.Errorf("a cell of type %T is no document", cell)
}
