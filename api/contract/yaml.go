// Package contract is openapi.yaml and what is generated from it, alone.
package contract

import _ "embed"

// YAML is openapi.yaml.
//
//go:embed openapi.yaml
var YAML []byte
