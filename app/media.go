package app

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"strings"
	"unicode/utf8"

	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/formats/picture"
	"pineledger/store"
)

const mediaPath = "/media/"

// mediaOf checks and cleans a file for the shelf.
func mediaOf(name string, data []byte) (store.Media, error) {
	clean, err := picture.Read(data)
	if err != nil {
		return store.Media{}, err
	}
	sum := sha256.Sum256(clean.Data)
	if runes := []rune(name); len(runes) > 200 {
		name = string(runes[:200])
	}
	return store.Media{Hash: hex.EncodeToString(sum[:]), Type: clean.Type, Ending: clean.Ending, Name: strings.ToValidUTF8(name, "\uFFFD"),
		Width: clean.Width, Height: clean.Height, Data: clean.Data}, nil
}

// shelved is a file of the shelf as items refer to it.
func shelved(m store.Media) item.Picture {
	return item.Picture{Source: mediaPath + m.Hash, Width: m.Width, Height: m.Height}
}

// KeepMedia puts a picture or sound on the shelf and tells how items refer to it.
func (a *App) KeepMedia(ctx context.Context, v roster.Viewer, name string, data []byte) (store.Media, error) {
	if !v.MayBuild() {
		return store.Media{}, ErrForbidden
	}
	if !utf8.ValidString(name) {
		return store.Media{}, invalid("/file", "The file's name is not text.")
	}
	m, err := mediaOf(name, data)
	if err != nil {
		return store.Media{}, invalid("/file", "%s %s.", name, err)
	}
	m.PersonID, m.At = v.PersonID, store.Millis(a.now())
	err = a.store.Write(ctx, func(tx *store.Tx) error {
		if err := tx.PutMedia(ctx, m); err != nil {
			return err
		}
		known, err := tx.MediaOnShelf(ctx, m.Hash)
		if err != nil {
			return err
		}
		m.Alt = known.Alt // said when the same file was put there before
		return a.record(ctx, tx, v, act{name: "media.keep", thing: "media", title: m.Name, after: m.Hash})
	})
	return m, err
}

// Media gives a file of the shelf to anybody who is signed in: its name is its
// digest, so only who was shown it can ask for it.
func (a *App) Media(ctx context.Context, v roster.Viewer, hash string) (store.Media, error) {
	if !v.IsStaff() && !v.IsStudent() {
		return store.Media{}, ErrForbidden
	}
	return a.store.MediaByHash(ctx, hash)
}
