package main

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"syscall"

	"pineledger/app/office"
	"pineledger/store"
)

// program is the built program, serving a data folder.
type program struct {
	cmd  *exec.Cmd
	base string
}

var addressLine = regexp.MustCompile(`http://127\.0\.0\.1:\d+`)

// start runs the program and returns when it says that it answers.
func (b *bench) start(ctx context.Context, data string) (*program, error) {
	return startProgram(exec.CommandContext(ctx, b.bin, "demo", "--data", data, "--address", "127.0.0.1:0"))
}

func startProgram(cmd *exec.Cmd) (*program, error) {
	cmd.Stderr = os.Stderr
	out, err := cmd.StdoutPipe()
	if err != nil {
		return nil, err
	}
	if err := cmd.Start(); err != nil {
		return nil, err
	}
	lines := bufio.NewScanner(out)
	for lines.Scan() {
		if base := addressLine.FindString(lines.Text()); base != "" {
			return &program{cmd, base}, nil
		}
	}
	return nil, fmt.Errorf("the program ended before it answered: %w", cmd.Wait())
}

func (p *program) stop() error {
	if err := p.cmd.Process.Signal(syscall.SIGTERM); err != nil {
		return err
	}
	return p.cmd.Wait()
}

// client is a signed-in browser.
type client struct {
	http *http.Client
	base string
}

func (p *program) signIn(person int64, transport http.RoundTripper) (*client, error) {
	jar, err := cookiejar.New(nil)
	if err != nil {
		return nil, err
	}
	c := &client{&http.Client{Jar: jar, Transport: transport}, p.base}
	_, err = c.do(http.MethodPost, "/api/demo/session", map[string]int64{"personId": person})
	return c, err
}

// do sends a request, with names and values of further headers, and gives the whole answer, as a browser would read it.
func (c *client) do(method, path string, body any, headers ...string) ([]byte, error) {
	sent, err := json.Marshal(body)
	if err != nil {
		return nil, err
	}
	req, err := http.NewRequest(method, c.base+path, bytes.NewReader(sent))
	if err != nil {
		return nil, err
	}
	if method != http.MethodGet {
		req.Header.Set("Content-Type", "application/json")
	}
	for i := 0; i+1 < len(headers); i += 2 {
		req.Header.Set(headers[i], headers[i+1])
	}
	res, err := c.http.Do(req)
	if err != nil {
		return nil, err
	}
	defer res.Body.Close()
	got, err := io.ReadAll(res.Body)
	if err == nil && res.StatusCode >= 300 {
		err = fmt.Errorf("%s %s: %s: %s", method, path, res.Status, got)
	}
	return got, err
}

func (c *client) get(path string) error {
	_, err := c.do(http.MethodGet, path, nil)
	return err
}

// fill makes a data folder with what f writes to it, marked as a demo so that the
// program lets people be picked, and gives its path.
func (b *bench) fill(ctx context.Context, name string, f func(s *store.Store, secret []byte) error) (string, error) {
	data := filepath.Join(b.dir, name)
	secret, err := office.LoadSecret(data)
	if err != nil {
		return "", err
	}
	s, err := store.Open(ctx, data)
	if err != nil {
		return "", err
	}
	defer s.Close()
	if err := f(s, secret); err != nil {
		return "", err
	}
	if err := s.Optimize(ctx); err != nil {
		return "", err
	}
	return data, os.WriteFile(filepath.Join(data, "demo-made"), nil, 0o600)
}
