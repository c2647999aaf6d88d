// Package lockedbrowser stands in for a browser that a district locks on the devices it manages: whatever goes through it
// carries the district's signed word that the device is managed. It serves one device, on the machine itself.
package lockedbrowser

import (
	_ "embed"
	"html/template"
	"net/http"
	"net/http/httputil"
	"net/url"
)

//go:embed launch.html
var launch string

var page = template.Must(template.New("launch").Parse(launch))

// Config is what a locked browser is made of.
type Config struct {
	Server *url.URL               // of the district
	Header string                 // in which a device says that it is managed
	Device string                 // its name
	Sign   func() (string, error) // what the device says of itself, signed
}

// New makes the browser as a handler: /launch is its first page, everything else is the server's.
func New(c Config) http.Handler {
	proxy := &httputil.ReverseProxy{
		FlushInterval: -1, // events are passed on as they come
		Rewrite: func(r *httputil.ProxyRequest) {
			r.SetURL(c.Server)
			r.Out.Host = r.In.Host
			r.Out.Header.Del(c.Header)
			if said, err := c.Sign(); err == nil {
				r.Out.Header.Set(c.Header, said)
			}
		},
	}
	mux := http.NewServeMux()
	mux.HandleFunc("GET /launch", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		w.Header().Set("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'")
		if err := page.Execute(w, c.Device); err != nil {
			http.Error(w, "The page could not be made.", http.StatusInternalServerError)
		}
	})
	mux.Handle("/", proxy)
	return mux
}
