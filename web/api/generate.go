// Package api is the server's side of openapi.yaml, generated.
package api

//go:generate go tool oapi-codegen -config oapi.yaml openapi.yaml
//go:generate go run ./permissions
//go:generate go run ./kinds
