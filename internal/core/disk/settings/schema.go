package settings

import (
	"encoding/json"
	"strings"
)

// Schema is the JSON Schema of the file of settings, for editors that complete and check it.
func Schema() ([]byte, error) {
	tables := map[string]map[string]any{}
	root := map[string]any{}
	for _, s := range All() {
		one := s.schema()
		table, name, inTable := cutKey(s.Key)
		if !inTable {
			root[s.Key] = one
			continue
		}
		if tables[table] == nil {
			tables[table] = map[string]any{}
		}
		tables[table][name] = one
	}
	for table, inside := range tables {
		root[table] = map[string]any{"type": "object", "additionalProperties": false, "properties": inside}
	}
	return json.MarshalIndent(map[string]any{
		"$schema": "https://json-schema.org/draft/2020-12/schema",
		"title":   "The settings of Rook Trail", "type": "object", "additionalProperties": false, "properties": root,
	}, "", "  ")
}

func (s *Setting) schema() map[string]any {
	one := map[string]any{"title": s.Name, "description": s.Does, "default": s.Default}
	texts := map[string]any{"type": "array", "items": map[string]any{"type": "string"}}
	switch s.Kind {
	case Switch:
		one["type"] = "boolean"
	case Choice:
		one["enum"] = s.Values
	case Number:
		one["type"], one["minimum"], one["maximum"] = "integer", s.Least, s.Most
	case Texts:
		one["type"], one["items"] = "array", texts["items"]
	case Words:
		one["type"], one["additionalProperties"] = "object", texts["items"]
	case Commands:
		one["type"], one["additionalProperties"] = "object", texts
	}
	return one
}

// Table is what the docs say of the settings: one row each, as Markdown.
func Table() string {
	var b strings.Builder
	b.WriteString("| setting | by default | does |\n|---|---|---|\n")
	for _, s := range All() {
		key := "`" + s.Key + "`"
		if s.Shared {
			key += " (a project, too)"
		}
		does := s.Does
		if s.Kind == Choice {
			does += " `" + strings.Join(s.Values, "`, `") + "`."
		}
		b.WriteString("| " + key + " | " + s.Written(s.Default) + " | " + does + " |\n")
	}
	return b.String()
}
