package edge

import (
	"errors"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/assert"
)

// A session that cannot be kept (the disk is full, say) gives a problem and nothing behind it.
func TestAnAnswerThatHasFailedEndsThere(t *testing.T) {
	fault := sessionFault(slog.New(slog.DiscardHandler))
	h := Once(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Set-Cookie", "pineledger=x")
		fault(w, r, errors.New("disk full"))
		w.WriteHeader(http.StatusOK)
		_, err := w.Write([]byte(`{"savedAt":"now"}`))
		assert.NoError(t, err)
	}))
	got := httptest.NewRecorder()
	h.ServeHTTP(got, httptest.NewRequest(http.MethodPut, "/api/my/attempts/1/answers", nil))
	assert.Equal(t, http.StatusInternalServerError, got.Code)
	assert.Equal(t, "application/problem+json", got.Header().Get("Content-Type"))
	assert.Empty(t, got.Header().Get("Set-Cookie"))
	assert.JSONEq(t, `{"type":"urn:pineledger:problem:fault","title":"Something broke here","status":500,
		"detail":"Something broke on the server. What you sent is not kept; it is written down in the server's log."}`, got.Body.String())
}
