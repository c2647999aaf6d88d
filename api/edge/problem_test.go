package edge_test

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net/http/httptest"
	"syscall"
	"testing"

	"github.com/labstack/echo/v5"
	"github.com/stretchr/testify/assert"

	"pineledger/api/edge"
)

// A fault of the program is written down; a browser that left is none.
func TestABrowserThatLeavesIsNoFault(t *testing.T) {
	gone, leave := context.WithCancel(context.Background())
	leave()
	for _, c := range []struct {
		says string
		ctx  context.Context
		err  error
		kept bool
	}{
		{"a fault", context.Background(), errors.New("the disk is full"), true},
		{"a pipe that broke", context.Background(), fmt.Errorf("write: %w", syscall.EPIPE), false},
		{"a connection that was reset", context.Background(), fmt.Errorf("write: %w", syscall.ECONNRESET), false},
		{"a request that was given up", gone, errors.New("context canceled"), false},
	} {
		var log bytes.Buffer
		e := echo.New()
		request := httptest.NewRequestWithContext(c.ctx, "GET", "/api/today", nil)
		edge.ProblemHandler(slog.New(slog.NewTextHandler(&log, nil)))(e.NewContext(request, httptest.NewRecorder()), c.err)
		assert.Equal(t, c.kept, bytes.Contains(log.Bytes(), []byte("request failed")), c.says)
	}
}
