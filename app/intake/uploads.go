package intake

import (
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
)

// incoming is the folder of files on their way in, inside the data folder: a roster
// never lies where others of the machine can read it.
const incoming = "incoming"

// KeepUpload streams a body to a file of its own, which the import takes away.
func (a *Intake) KeepUpload(body io.Reader, ending string) (path string, err error) {
	if len(ending) > 5 {
		ending = ""
	}
	dir := filepath.Join(a.Store.Dir(), incoming)
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return "", fmt.Errorf("keep the file: %w", err)
	}
	file, err := os.CreateTemp(dir, "import-*"+ending)
	if err != nil {
		return "", fmt.Errorf("keep the file: %w", err)
	}
	_, copyErr := io.Copy(file, body)
	if err := errors.Join(copyErr, file.Close()); err != nil {
		return "", errors.Join(err, os.Remove(file.Name()))
	}
	return file.Name(), nil
}

// dropUploads takes away what a stopped program left.
func (a *Intake) dropUploads() error { return os.RemoveAll(filepath.Join(a.Store.Dir(), incoming)) }
