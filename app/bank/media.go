package bank

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/gob"
	"encoding/hex"
	"strings"
	"unicode/utf8"

	"pineledger/app/desk"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/formats/picture"
	"pineledger/store"
	"pineledger/store/bankrows"
)

const mediaPath = "/media/"

// MediaOf checks and cleans a file for the shelf.
func MediaOf(name string, data []byte) (bankrows.Media, error) {
	clean, err := picture.Read(data)
	return media(name, clean), err
}

func media(name string, clean picture.Clean) bankrows.Media {
	sum := sha256.Sum256(clean.Data)
	if runes := []rune(name); len(runes) > 200 {
		name = string(runes[:200])
	}
	return bankrows.Media{Hash: hex.EncodeToString(sum[:]), Type: clean.Type, Ending: clean.Ending, Name: strings.ToValidUTF8(name, "\uFFFD"),
		Width: clean.Width, Height: clean.Height, Data: clean.Data}
}

// MediaReader is the name of the reader of pictures and sounds that runs aside.
const MediaReader = "media"

// ReadMedia is the reader of pictures and sounds: it answers with the file made clean.
func ReadMedia(file []byte) ([]byte, error) {
	clean, err := picture.Read(file)
	if err != nil {
		return nil, err
	}
	var answer bytes.Buffer
	err = gob.NewEncoder(&answer).Encode(clean)
	return answer.Bytes(), err
}

// clean makes a file of a stranger clean, aside where there is a program for it.
func (a *Shelf) clean(ctx context.Context, data []byte) (clean picture.Clean, err error) {
	if a.Aside == nil || len(data) > picture.MostBytes {
		return picture.Read(data)
	}
	answer, err := a.Aside.Read(ctx, MediaReader, data)
	if err != nil {
		return clean, err
	}
	return clean, gob.NewDecoder(bytes.NewReader(answer)).Decode(&clean)
}

// Shelved is a file of the shelf as items refer to it.
func Shelved(m bankrows.Media) item.Picture {
	return item.Picture{Source: mediaPath + m.Hash, Width: m.Width, Height: m.Height}
}

// KeepMedia puts a picture or sound on the shelf and tells how items refer to it.
func (a *Shelf) KeepMedia(ctx context.Context, v roster.Viewer, name string, data []byte) (bankrows.Media, error) {
	if !v.MayBuild() {
		return bankrows.Media{}, desk.ErrForbidden
	}
	if !utf8.ValidString(name) {
		return bankrows.Media{}, desk.Invalid("/file", "The file's name is not text.")
	}
	clean, err := a.clean(ctx, data)
	if err != nil {
		return bankrows.Media{}, desk.Invalid("/file", "%s %s.", name, err)
	}
	m := media(name, clean)
	m.PersonID, m.At = v.PersonID, store.Millis(a.Now())
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		if err := bankrows.PutMedia(ctx, tx, m); err != nil {
			return err
		}
		known, err := bankrows.MediaOnShelf(ctx, tx.Reader, m.Hash)
		if err != nil {
			return err
		}
		m.Alt = known.Alt // said when the same file was put there before
		return a.Record(ctx, tx, v, desk.Act{Name: "media.keep", Thing: "media", Title: m.Name, After: m.Hash})
	})
	return m, err
}

// Media gives a file of the shelf to anybody who is signed in: its name is its
// digest, so only who was shown it can ask for it.
func (a *Shelf) Media(ctx context.Context, v roster.Viewer, hash string) (bankrows.Media, error) {
	if !v.IsStaff() && !v.IsStudent() {
		return bankrows.Media{}, desk.ErrForbidden
	}
	return bankrows.MediaByHash(ctx, a.Store.Reader, hash)
}
