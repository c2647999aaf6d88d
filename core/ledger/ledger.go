// Package ledger makes the append-only record verifiable: each entry carries the
// SHA-256 of itself chained to the entry before, and a sealed form carries the
// fingerprint of all that it froze.
package ledger

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"time"
)

// Entry is one act of consequence. Before and After are short JSON notes of what
// changed, or digests of something long; either may be empty.
type Entry struct {
	Number  int64     // from 1, without gaps
	At      time.Time // UTC, to the millisecond
	ActorID int64     // 0: the program itself, at the command line
	Actor   string
	Act     string // "assessment.seal"
	Thing   string // "assessment"
	ThingID int64  // 0 where the thing has none
	Title   string // what a person would call the thing
	Before  string
	After   string
	Hash    string
}

// Genesis is the hash before the first entry.
const Genesis = "0000000000000000000000000000000000000000000000000000000000000000"

// Chain gives the hash of an entry that follows one with hash before.
func Chain(before string, e Entry) string {
	// A JSON array keeps the fields apart whatever they hold.
	data, err := json.Marshal([]any{
		before, e.Number, e.At.UTC().UnixMilli(), e.ActorID, e.Actor, e.Act, e.Thing, e.ThingID, e.Title, e.Before, e.After,
	})
	if err != nil {
		panic(err) // strings and integers always marshal
	}
	return digest(data)
}

// A BrokenError tells where the chain does not hold.
type BrokenError struct {
	Number int64
	Reason string
}

func (e *BrokenError) Error() string { return fmt.Sprintf("ledger entry %d: %s", e.Number, e.Reason) }

// Walk checks entries one after the other.
type Walk struct {
	hash   string
	number int64
}

// Next takes the next entry; the error is a *BrokenError.
func (w *Walk) Next(e Entry) error {
	if w.hash == "" {
		w.hash = Genesis
	}
	if e.Number != w.number+1 {
		return &BrokenError{w.number + 1, "is missing"}
	}
	if want := Chain(w.hash, e); want != e.Hash {
		return &BrokenError{e.Number, "does not match its hash: it or an entry before it was changed"}
	}
	w.hash, w.number = e.Hash, e.Number
	return nil
}

// Last is the number of the last entry that was walked.
func (w *Walk) Last() int64 { return w.number }

// Fingerprint is the SHA-256 of a sealed document. Two documents with the same
// content have the same fingerprint, whatever order their object keys were in.
func Fingerprint(document []byte) (string, error) {
	var v any
	if err := json.Unmarshal(document, &v); err != nil {
		return "", fmt.Errorf("sealed document: %w", err)
	}
	canonical, err := json.Marshal(v) // sorts keys
	if err != nil {
		return "", fmt.Errorf("sealed document: %w", err)
	}
	return digest(canonical), nil
}

func digest(data []byte) string {
	sum := sha256.Sum256(data)
	return hex.EncodeToString(sum[:])
}
