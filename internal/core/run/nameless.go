package run

import (
	"bytes"
	"encoding/json"
	"slices"
)

// ofBody are what of a cell a body could be reckoned from.
var ofBody = []string{
	"perLimbG",
	"comparableG",
	"wantedG",
	"ironPct",
	"shortPct",
	"leftPct",
	"loadWhy",
	"faults",
	"breaks",
	"log",
}

// Nameless is the plan of a run, in whatever shape it was kept, with somebody as nobody under
// another id: of what was theirs alone nothing is left that a body or a limit could be told by.
func Nameless(plan []byte, was, now string) ([]byte, error) {
	var doc any
	read := json.NewDecoder(bytes.NewReader(plan))
	read.UseNumber()
	if err := read.Decode(&doc); err != nil {
		return nil, err
	}
	b, err := json.Marshal(withoutBody(doc, was))
	return bytes.ReplaceAll(b, []byte(was), []byte(now)), err
}

// withoutBody walks a document: what names somebody as its party loses what a body shows in,
// and reasons that name them are left out.
func withoutBody(x any, who string) any {
	switch v := x.(type) {
	case map[string]any:
		mine := v["party"] == who
		for key, inner := range v {
			switch {
			case mine && slices.Contains(ofBody, key):
				v[key] = empty(inner)
			case key == "loadWhy" || !mine:
				v[key] = withoutBody(inner, who)
			}
		}
		return v
	case []any:
		out := []any{}
		for _, inner := range v {
			if why, ok := inner.(map[string]any); ok && why["code"] != nil && names(why, who) {
				continue
			}
			out = append(out, withoutBody(inner, who))
		}
		return out
	}
	return x
}

// names tells whether a reason is about somebody.
func names(why map[string]any, who string) bool {
	terms, _ := why["terms"].([]any)
	for _, t := range terms {
		if term, ok := t.(map[string]any); ok && term["text"] == who {
			return true
		}
	}
	return false
}

// empty is a value of the same kind that says nothing.
func empty(x any) any {
	switch v := x.(type) {
	case []any:
		return []any{}
	case map[string]any: // a reason: its code is left
		return map[string]any{"code": "load-none", "source": v["source"]}
	}
	return json.Number("0")
}
