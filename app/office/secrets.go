package office

import (
	"crypto/rand"
	"crypto/subtle"
	"encoding/base64"
	"encoding/hex"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"golang.org/x/crypto/argon2"

	"pineledger/store"
)

// Staff passwords are kept as argon2id hashes (RFC 9106; the parameters are
// OWASP's first choice for interactive sign-in).
const (
	argonTime    = 2
	argonMemory  = 19 * 1024 // KiB
	argonThreads = 1
	argonKey     = 32
)

const (
	argonPrefix = "$argon2id$v=19$m=19456,t=2,p=1$"
	pinPrefix   = "pin:"
)

func HashPassword(password string) (string, error) {
	salt := make([]byte, 16)
	if _, err := rand.Read(salt); err != nil {
		return "", err
	}
	key := argon2.IDKey([]byte(password), salt, argonTime, argonMemory, argonThreads, argonKey)
	encode := base64.RawStdEncoding.EncodeToString
	return argonPrefix + encode(salt) + "$" + encode(key), nil
}

func passwordMatches(hash, password string) bool {
	rest, ok := strings.CutPrefix(hash, argonPrefix)
	if !ok {
		return false
	}
	saltText, keyText, ok := strings.Cut(rest, "$")
	if !ok {
		return false
	}
	salt, err1 := base64.RawStdEncoding.DecodeString(saltText)
	key, err2 := base64.RawStdEncoding.DecodeString(keyText)
	if err1 != nil || err2 != nil {
		return false
	}
	got := argon2.IDKey([]byte(password), salt, argonTime, argonMemory, argonThreads, argonKey)
	return subtle.ConstantTimeCompare(got, key) == 1
}

// A PIN has too few digits for any hash to protect it from whoever holds the
// hashes; it is kept under a key that is not in the database, and guessing at the
// door is limited (see docs/decisions).
func (a *Office) HashPIN(number, pin string) string {
	return pinPrefix + hex.EncodeToString(a.Keyed("pin", number, pin))
}

// LoadSecret reads the installation's secret beside the database, or makes it where there
// is no database yet: beside one that exists a new secret would fit nothing.
func LoadSecret(dir string) ([]byte, error) {
	path := filepath.Join(dir, "secret.key")
	data, err := os.ReadFile(path)
	if err == nil {
		return hex.DecodeString(strings.TrimSpace(string(data)))
	}
	if !errors.Is(err, os.ErrNotExist) {
		return nil, err
	}
	if _, err := os.Stat(filepath.Join(dir, store.DatabaseFile)); err == nil {
		return nil, fmt.Errorf("there is a database and no %s: put the secret.key that belongs to it back from the backup; without it no PIN can be checked", path)
	} else if !errors.Is(err, os.ErrNotExist) {
		return nil, err
	}
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, err
	}
	secret := make([]byte, 32)
	if _, err := rand.Read(secret); err != nil {
		return nil, err
	}
	return secret, os.WriteFile(path, []byte(hex.EncodeToString(secret)+"\n"), 0o600)
}
