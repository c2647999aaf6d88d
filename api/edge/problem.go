package edge

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"syscall"

	"github.com/labstack/echo/v5"

	"pineledger/api/contract"
	"pineledger/app/desk"
	"pineledger/app/office"
	"pineledger/app/take"
	"pineledger/core/points"
)

// ProblemHandler answers every error as application/problem+json (RFC 9457).
func ProblemHandler(log *slog.Logger) echo.HTTPErrorHandler {
	return func(c *echo.Context, err error) {
		p := problemOf(err)
		switch {
		case p.Status < http.StatusInternalServerError:
		case left(c.Request().Context(), err):
			log.Debug("the browser left", "method", c.Request().Method, "path", c.Request().URL.Path)
		default:
			log.Error("request failed", "method", c.Request().Method, "path", c.Request().URL.Path, "error", err)
		}
		if r, unwrapErr := echo.UnwrapResponse(c.Response()); unwrapErr == nil && r.Committed {
			return // too late to say anything
		}
		c.Response().Header().Set("Content-Type", "application/problem+json")
		if err := c.JSON(p.Status, p); err != nil && c.Request().Context().Err() == nil {
			log.Warn("problem was not sent", "error", err)
		}
	}
}

// left tells whether nobody waits for the answer any more: that is no fault of the program.
func left(ctx context.Context, err error) bool {
	return ctx.Err() != nil || errors.Is(err, syscall.EPIPE) || errors.Is(err, syscall.ECONNRESET)
}

func problemOf(err error) contract.Problem {
	var invalid *desk.InvalidError
	var conflict *desk.ConflictError
	var code *take.WrongCodeError
	var refused *desk.RefusedError
	var tooLarge *http.MaxBytesError
	var coded echo.HTTPStatusCoder
	if errors.Is(err, points.ErrPlaces) || errors.Is(err, points.ErrTooLarge) || errors.Is(err, points.ErrNotDecimal) {
		err = &desk.InvalidError{Fields: []desk.FieldError{{Message: "Points and percents have two decimal places at most and are no larger than 1,000,000."}}}
	}
	switch {
	case errors.As(err, &invalid):
		p := problem(http.StatusUnprocessableEntity, "invalid", "Something in the input cannot be taken", invalid.Error())
		for _, f := range invalid.Fields {
			*p.Errors = append(*p.Errors, contract.FieldProblem{Message: f.Message, Pointer: f.Pointer})
		}
		return p
	case errors.As(err, &code) && code.Wait > 0:
		return problem(http.StatusTooManyRequests, "too-many", "Too many tries", code.Error())
	case errors.As(err, &code):
		p := problem(http.StatusUnprocessableEntity, "invalid", "Something in the input cannot be taken", code.Error())
		*p.Errors = append(*p.Errors, contract.FieldProblem{Message: code.Error(), Pointer: "/code"})
		return p
	case errors.As(err, &conflict):
		return problem(http.StatusConflict, "conflict", "Not as things stand", conflict.Detail)
	case errors.Is(err, desk.ErrStale):
		return problem(http.StatusConflict, "conflict", "Not as things stand", "Somebody else changed this meanwhile; look at the new state and try again.")
	case errors.Is(err, desk.ErrNotFound):
		return problem(http.StatusNotFound, "not-found", "Not here", "Not found, or you don’t have access.")
	case errors.As(err, &refused):
		return problem(http.StatusForbidden, "forbidden", "Not yours to do", refused.Why)
	case errors.Is(err, desk.ErrForbidden):
		return problem(http.StatusForbidden, "forbidden", "Not your role", "Your role does not do this.")
	case errors.Is(err, take.ErrNoLink):
		return problem(http.StatusNotFound, "not-found", "Not here", desk.Sentence(err.Error()))
	case errors.Is(err, office.ErrSignIn):
		return problem(http.StatusUnauthorized, "sign-in", "Not signed in", "We don’t recognize that. Check what you typed in both boxes and try again.")
	case errors.Is(err, errNotSignedIn):
		return problem(http.StatusUnauthorized, "signed-out", "Not signed in", "Sign in first.")
	case errors.Is(err, ErrTooMany):
		return problem(http.StatusTooManyRequests, "too-many", "Too many tries", "Too many tries. Wait a minute and try again.")
	case errors.As(err, &tooLarge):
		return problem(http.StatusRequestEntityTooLarge, "too-large", "Too large", "The request is larger than is taken here.")
	case errors.Is(err, context.Canceled):
		return problem(499, "gone", "Gone", "The request was given up.")
	case errors.As(err, &coded) && coded.StatusCode() < http.StatusInternalServerError:
		return problem(coded.StatusCode(), "http", http.StatusText(coded.StatusCode()), http.StatusText(coded.StatusCode())+".")
	}
	return problem(http.StatusInternalServerError, "fault", "Something broke here", "Something broke on the server. What you sent is not kept; it is written down in the server's log.")
}

func problem(status int, kind, title, detail string) contract.Problem {
	p := contract.Problem{Type: "urn:pineledger:problem:" + kind, Title: title, Status: status, Detail: detail}
	if kind == "invalid" {
		p.Errors = &[]contract.FieldProblem{}
	}
	return p
}
