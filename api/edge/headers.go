package edge

import "github.com/labstack/echo/v5"

// SecurityHeaders sets what every answer carries; secure, where the server is reached
// through TLS alone, makes browsers keep to it.
func SecurityHeaders(secure bool) echo.MiddlewareFunc {
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			h := c.Response().Header()
			h.Set("X-Content-Type-Options", "nosniff")
			h.Set("Referrer-Policy", "same-origin")
			h.Set("X-Frame-Options", "DENY")
			h.Set("Cache-Control", "no-store")
			if secure {
				h.Set("Strict-Transport-Security", "max-age=31536000")
			}
			return next(c)
		}
	}
}
