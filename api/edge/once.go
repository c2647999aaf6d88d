package edge

import (
	"encoding/json"
	"log/slog"
	"net/http"
)

// Once lets an answer that has failed end there: nothing that a handler still writes
// is glued behind the problem that was sent.
func Once(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		next.ServeHTTP(&onceWriter{ResponseWriter: w}, r)
	})
}

type onceWriter struct {
	http.ResponseWriter
	ended bool
}

func (w *onceWriter) WriteHeader(status int) {
	if !w.ended {
		w.ResponseWriter.WriteHeader(status)
	}
}

func (w *onceWriter) Write(data []byte) (int, error) {
	if w.ended {
		return len(data), nil
	}
	return w.ResponseWriter.Write(data)
}

// Unwrap is for http.ResponseController.
func (w *onceWriter) Unwrap() http.ResponseWriter { return w.ResponseWriter }

// sessionFault answers where a session cannot be kept: the disk is full, say.
func sessionFault(log *slog.Logger) func(http.ResponseWriter, *http.Request, error) {
	return func(w http.ResponseWriter, r *http.Request, err error) {
		log.Error("session", "path", r.URL.Path, "error", err)
		body, encodeErr := json.Marshal(problemOf(err))
		if encodeErr != nil {
			log.Error("session", "error", encodeErr)
		}
		header := w.Header()
		header.Del("Content-Length")
		header.Del("Set-Cookie")
		header.Set("Content-Type", "application/problem+json")
		w.WriteHeader(http.StatusInternalServerError)
		if _, err := w.Write(body); err != nil {
			log.Warn("problem was not sent", "error", err)
		}
		if once, ok := w.(*onceWriter); ok {
			once.ended = true
		}
	}
}
