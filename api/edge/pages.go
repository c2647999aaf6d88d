package edge

import (
	"crypto/rand"
	"encoding/base64"
	"errors"
	"io/fs"
	"net/http"
	"path"
	"strings"

	"github.com/labstack/echo/v5"
)

// pages serves the built web part: its files, and index.html for every address
// that the web part's own router knows.
type pages struct {
	files fs.FS
	index string
}

// nonceMark stands in index.html where each answer's own nonce goes.
const nonceMark = "{{nonce}}"

func NewPages(files fs.FS) (*pages, error) {
	if files == nil {
		return &pages{index: notBuilt}, nil
	}
	index, err := fs.ReadFile(files, "index.html")
	if errors.Is(err, fs.ErrNotExist) {
		return &pages{files: files, index: notBuilt}, nil
	}
	return &pages{files, string(index)}, err
}

const notBuilt = "<!doctype html><title>Pine Ledger</title><p>The web part has not been built: run <code>make build</code>."

func (p *pages) Serve(c *echo.Context) error {
	name := strings.TrimPrefix(path.Clean(c.Request().URL.Path), "/")
	if p.files != nil && name != "" && name != "index.html" {
		if info, err := fs.Stat(p.files, name); err == nil && !info.IsDir() {
			if strings.HasPrefix(name, "assets/") { // their names carry their content's hash
				c.Response().Header().Set("Cache-Control", "public, max-age=31536000, immutable")
			}
			http.ServeFileFS(c.Response(), c.Request(), p.files, name)
			return nil
		}
		if strings.HasPrefix(name, "assets/") {
			return echo.ErrNotFound
		}
	}
	return p.serveIndex(c)
}

func (p *pages) serveIndex(c *echo.Context) error {
	raw := make([]byte, 16)
	if _, err := rand.Read(raw); err != nil {
		return err
	}
	nonce := base64.StdEncoding.EncodeToString(raw)
	c.Response().Header().Set("Content-Security-Policy", strings.Join([]string{
		"default-src 'self'", "style-src 'self' 'nonce-" + nonce + "'", "img-src 'self' data:", "object-src 'none'",
		"base-uri 'none'", "form-action 'self'", "frame-ancestors 'none'",
	}, "; "))
	return c.HTML(http.StatusOK, strings.ReplaceAll(p.index, nonceMark, nonce))
}
