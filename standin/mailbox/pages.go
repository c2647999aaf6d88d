package mailbox

import (
	_ "embed"
	"errors"
	"html/template"
	"io"
	"io/fs"
	"mime"
	"mime/quotedprintable"
	"net/http"
	"net/mail"
	"os"
	"path/filepath"
	"slices"
	"strings"
)

//go:embed box.html
var source string

var page = template.Must(template.New("box").Parse(source))

// Message is one as it is shown.
type Message struct {
	Name, From, To, Subject, Date, Text string
}

// Pages shows the newest messages at /, those of one person at /?to=, and each as its file at /000001.eml.
func (b *Box) Pages() http.Handler {
	mux := http.NewServeMux()
	mux.HandleFunc("GET /{$}", func(w http.ResponseWriter, r *http.Request) {
		list, err := b.newest(r.URL.Query().Get("to"))
		if err != nil {
			http.Error(w, "The box could not be read.", http.StatusInternalServerError)
			return
		}
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		w.Header().Set("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'; form-action 'self'")
		if err := page.Execute(w, map[string]any{"List": list, "To": r.URL.Query().Get("to")}); err != nil {
			http.Error(w, "The page could not be made.", http.StatusInternalServerError)
		}
	})
	mux.HandleFunc("GET /{name}", func(w http.ResponseWriter, r *http.Request) {
		data, err := os.ReadFile(filepath.Join(b.folder, filepath.Base(r.PathValue("name"))))
		if errors.Is(err, fs.ErrNotExist) {
			http.NotFound(w, r)
			return
		}
		if err != nil {
			http.Error(w, "The message could not be read.", http.StatusInternalServerError)
			return
		}
		w.Header().Set("Content-Type", "text/plain; charset=utf-8")
		w.Header().Set("X-Content-Type-Options", "nosniff")
		_, _ = w.Write(data) // whoever reads has gone
	})
	return mux
}

// newest reads the messages whose recipient holds some words, the newest first.
func (b *Box) newest(to string) ([]Message, error) {
	names, err := messages(b.folder)
	if err != nil {
		return nil, err
	}
	slices.Reverse(names)
	out := []Message{}
	for _, name := range names {
		if len(out) == mostShown {
			break
		}
		m, err := b.read(name)
		if err != nil {
			return nil, err
		}
		if strings.Contains(strings.ToLower(m.To), strings.ToLower(to)) {
			out = append(out, m)
		}
	}
	return out, nil
}

// read gives a message; what is no message is shown as it came.
func (b *Box) read(name string) (Message, error) {
	data, err := os.ReadFile(filepath.Join(b.folder, name))
	if err != nil {
		return Message{}, err
	}
	m, err := mail.ReadMessage(strings.NewReader(string(data)))
	if err != nil {
		return Message{Name: name, Subject: "No message of RFC 5322", Text: string(data)}, nil
	}
	said := func(header string) string {
		text, err := new(mime.WordDecoder).DecodeHeader(m.Header.Get(header))
		if err != nil {
			return m.Header.Get(header)
		}
		return text
	}
	body := m.Body
	if strings.EqualFold(m.Header.Get("Content-Transfer-Encoding"), "quoted-printable") {
		body = quotedprintable.NewReader(body)
	}
	text, err := io.ReadAll(body)
	if err != nil {
		text = data
	}
	return Message{Name: name, From: said("From"), To: said("To"), Subject: said("Subject"), Date: said("Date"), Text: string(text)}, nil
}
