package edge

import (
	"errors"
	"fmt"
	"net/http"
	"regexp"
	"strings"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/labstack/echo/v5"

	"pineledger/api/contract"
	"pineledger/app/desk"
)

// requests holds what comes in against openapi.yaml before any handler sees it.
type requests struct {
	routes map[string]*routers.Route // by method and path as the server's router writes it
	json   []byte
}

var pathParameter = regexp.MustCompile(`\{(\w+)\}`)

func NewRequests() (*requests, error) {
	doc, err := openapi3.NewLoader().LoadFromData(contract.YAML)
	if err != nil {
		return nil, fmt.Errorf("contract: %w", err)
	}
	routes := map[string]*routers.Route{}
	for path, item := range doc.Paths.Map() {
		for method, operation := range item.Operations() {
			routes[method+" /api"+pathParameter.ReplaceAllString(path, ":$1")] = &routers.Route{Spec: doc, Server: doc.Servers[0],
				Path: path, PathItem: item, Method: method, Operation: operation}
		}
	}
	data, err := doc.MarshalJSON()
	return &requests{routes, data}, err
}

func (k *requests) Serve(c *echo.Context) error {
	return c.Blob(http.StatusOK, "application/json", k.json)
}

func (k *requests) Validate(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		route, known := k.routes[r.Method+" "+c.Path()]
		if !known {
			return echo.ErrNotFound // nothing is answered that is not in the contract
		}
		if route.Operation.Security == nil { // the contract's default: a session
			if _, err := Who(r.Context()); err != nil {
				return err
			}
		}
		params := make(map[string]string, len(c.PathValues()))
		for _, v := range c.PathValues() {
			params[v.Name] = v.Value
		}
		input := &openapi3filter.RequestValidationInput{Request: r, PathParams: params, Route: route, Options: &openapi3filter.Options{
			AuthenticationFunc:                openapi3filter.NoopAuthenticationFunc, // what they may do is the use cases' to check
			ExcludeRequestBody:                route.Operation.OperationID == "startImport" || route.Operation.OperationID == "keepMedia",
			MultiError:                        true,
			SkipSettingDefaults:               true,
			ExcludeResponseBody:               true,
			RejectWhenRequestBodyNotSpecified: false,
		}}
		if err := openapi3filter.ValidateRequest(r.Context(), input); err != nil {
			return invalidRequest(err)
		}
		return next(c)
	}
}

// invalidRequest turns what the validator found into fields that a person can act on.
func invalidRequest(err error) error {
	var tooLarge *http.MaxBytesError
	if errors.As(err, &tooLarge) {
		return tooLarge
	}
	return &desk.InvalidError{Fields: fieldsOf(err, "")}
}

// fieldsOf gives each field that the validator found wrong, in words.
func fieldsOf(err error, at string) []desk.FieldError {
	var out []desk.FieldError
	add := func(pointer, message string) {
		pointer = strings.TrimSuffix(pointer, "/")
		if name := fieldInWords(pointer); name != "" {
			message = name + ": " + message
		} else {
			message = strings.ToUpper(message[:1]) + message[1:]
		}
		out = append(out, desk.FieldError{Pointer: pointer, Message: message + "."})
	}
	var many openapi3.MultiError
	var request *openapi3filter.RequestError
	var schema *openapi3.SchemaError
	switch {
	case asExactly(err, &many):
		for _, e := range many {
			out = append(out, fieldsOf(e, at)...)
		}
	case asExactly(err, &request):
		if request.Parameter != nil {
			at = "/" + request.Parameter.Name
		}
		switch {
		case request.Parameter != nil && errors.Is(err, openapi3filter.ErrInvalidRequired):
			add(at, "fill this in")
		case request.Parameter != nil && request.Parameter.Schema != nil && isParse(request.Err):
			add(at, kindWanted(request.Parameter.Schema.Value))
		case request.Err == nil || isParse(request.Err):
			add(at, unreadable)
		default:
			out = fieldsOf(request.Err, at)
		}
	case asExactly(err, &schema):
		pointer := strings.TrimSuffix(at+"/"+strings.Join(schema.JSONPointer(), "/"), "/")
		if name := unknownName.FindStringSubmatch(schema.Reason); name != nil && schema.SchemaField != "required" {
			pointer += "/" + name[1]
		}
		add(pointer, remedy(schema))
	default:
		add(at, unreadable)
	}
	return out
}

// unreadable is said of a request that is no document at all, which no screen of ours sends.
const unreadable = "this could not be read; reload the page and try again"

// unknownName finds the field that no schema knows.
var unknownName = regexp.MustCompile(`^property "([^"]*)" is unsupported$`)

// isParse tells an error of reading from one of what was read.
func isParse(err error) bool {
	var parse *openapi3filter.ParseError
	return errors.As(err, &parse)
}

// asExactly is a type assertion: errors.As would look through the layers that walk wants to see.
func asExactly[T error](err error, target *T) bool {
	v, ok := err.(T)
	if ok {
		*target = v
	}
	return ok
}
