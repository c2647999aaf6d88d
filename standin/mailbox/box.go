// Package mailbox stands in for a district's mail server: it takes every message, keeps it as a file and shows it on a page. It
// passes nothing on.
package mailbox

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/emersion/go-smtp"
)

// Bounds of what is taken.
const (
	mostBytes      = 1 << 20
	mostRecipients = 20
	mostShown      = 200
)

// Box keeps messages in a folder, one file of RFC 5322 each, numbered from 1.
type Box struct {
	folder string
	mu     sync.Mutex
	last   int
}

// Open opens a box, and makes its folder where there is none.
func Open(folder string) (*Box, error) {
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return nil, err
	}
	names, err := messages(folder)
	if err != nil {
		return nil, err
	}
	b := &Box{folder: folder}
	if len(names) > 0 {
		if _, err := fmt.Sscanf(names[len(names)-1], "%d.eml", &b.last); err != nil {
			return nil, fmt.Errorf("%s: %w", names[len(names)-1], err)
		}
	}
	return b, nil
}

// messages lists the files of a box, the oldest first.
func messages(folder string) ([]string, error) {
	entries, err := os.ReadDir(folder)
	if err != nil {
		return nil, err
	}
	var out []string
	for _, e := range entries {
		if strings.HasSuffix(e.Name(), ".eml") {
			out = append(out, e.Name())
		}
	}
	slices.Sort(out)
	return out, nil
}

// Serve takes messages by SMTP until the context ends.
func (b *Box) Serve(ctx context.Context, l net.Listener) error {
	s := smtp.NewServer(smtp.BackendFunc(func(*smtp.Conn) (smtp.Session, error) { return &session{box: b}, nil }))
	s.Domain = "mailbox.example"
	s.MaxMessageBytes, s.MaxRecipients = mostBytes, mostRecipients
	s.ReadTimeout, s.WriteTimeout = 10*time.Second, 10*time.Second
	stop := context.AfterFunc(ctx, func() { _ = s.Close() })
	defer stop()
	if err := s.Serve(l); !errors.Is(err, smtp.ErrServerClosed) && ctx.Err() == nil {
		return err
	}
	return nil
}

type session struct{ box *Box }

func (s *session) Mail(string, *smtp.MailOptions) error { return nil }
func (s *session) Rcpt(string, *smtp.RcptOptions) error { return nil }
func (s *session) Reset()                               {}
func (s *session) Logout() error                        { return nil }

// Data keeps a message. It is whole under its name or not there.
func (s *session) Data(r io.Reader) error {
	data, err := io.ReadAll(r)
	if err != nil {
		return err
	}
	s.box.mu.Lock()
	defer s.box.mu.Unlock()
	path := filepath.Join(s.box.folder, fmt.Sprintf("%06d.eml", s.box.last+1))
	if err := os.WriteFile(path+".part", data, 0o600); err != nil {
		return err
	}
	if err := os.Rename(path+".part", path); err != nil {
		return err
	}
	s.box.last++
	return nil
}
