// Package schema holds the published JSON Schemas, for the interface that serves them.
package schema

import "embed"

// Files are the schemas, by name: brief.json, compare.json, evidence.json, fit.json, group.json, reading.json.
//
//go:embed *.json
var Files embed.FS
