package record

import (
	"context"
	"crypto/hmac"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"time"

	"pineledger/store/recordrows"
)

// anchorFile is kept beside the database. A copy of it elsewhere, or on paper, tells
// later whether the ledger was cut or written anew.
const anchorFile = "ledger.anchor"

// Anchor is the head of the ledger at a moment, under the district's secret.
type Anchor struct {
	Number int64     `json:"number"`
	Hash   string    `json:"hash"`
	At     time.Time `json:"at"`
	Seal   string    `json:"seal"` // HMAC-SHA-256 of the rest
}

func (a *Record) seal(x Anchor) string {
	return hex.EncodeToString(a.Keyed("anchor", strconv.FormatInt(x.Number, 10), x.Hash, x.At.UTC().Format(time.RFC3339)))
}

// PutAnchor writes the head of the ledger beside the database. Without entries there is
// none. An anchor that the ledger does not hold against is left as it is: it tells of a
// ledger that was cut or written anew.
func (a *Record) PutAnchor(ctx context.Context) error {
	head, err := recordrows.Ledger(ctx, a.Store.Reader, recordrows.LedgerFilter{Limit: 1})
	if err != nil || len(head) == 0 {
		return err
	}
	x := Anchor{Number: head[0].Number, Hash: head[0].Hash, At: a.Now().UTC().Truncate(time.Second)}
	switch before, err := a.readAnchor(); {
	case errors.Is(err, errNoAnchor):
	case err != nil:
		return err
	case before.Number == x.Number && before.Hash == x.Hash:
		return nil
	default:
		met, err := recordrows.Ledger(ctx, a.Store.Reader, recordrows.LedgerFilter{Before: before.Number + 1, Limit: 1})
		if err != nil {
			return err
		}
		if len(met) == 0 || met[0].Number != before.Number || met[0].Hash != before.Hash {
			return fmt.Errorf("the ledger does not hold entry %d as %s names it; run pineledger verify", before.Number, anchorFile)
		}
	}
	x.Seal = a.seal(x)
	data, err := json.MarshalIndent(x, "", "  ")
	if err != nil {
		return err
	}
	path := filepath.Join(a.Store.Dir(), anchorFile)
	if err := os.WriteFile(path+".new", append(data, '\n'), 0o600); err != nil {
		return fmt.Errorf("anchor of the ledger: %w", err)
	}
	return os.Rename(path+".new", path)
}

var errNoAnchor = errors.New("there is no " + anchorFile + " beside the database: whether entries are missing at the ledger's end cannot be told. Put it back, or start the program once to write a new one")

func (a *Record) readAnchor() (Anchor, error) {
	var x Anchor
	data, err := os.ReadFile(filepath.Join(a.Store.Dir(), anchorFile))
	if errors.Is(err, os.ErrNotExist) {
		return x, errNoAnchor
	}
	if err != nil {
		return x, err
	}
	if err := json.Unmarshal(data, &x); err != nil {
		return x, fmt.Errorf("%s: %w", anchorFile, err)
	}
	if !hmac.Equal([]byte(x.Seal), []byte(a.seal(x))) {
		return x, errors.New(anchorFile + " was not written under this district's secret")
	}
	return x, nil
}
