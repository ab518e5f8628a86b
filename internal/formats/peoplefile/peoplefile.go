// Package peoplefile is whom a studio knows as a table that a spreadsheet opens (CSV) and as
// JSON: one row a person, as somebody would type it. docs/formats/people.md describes it.
package peoplefile

import (
	"strings"

	"nimbleanvil/internal/formats/table"
)

// Format and Version stand at the top of a JSON file.
const (
	Format  = "nimbleanvil-people"
	Version = 1
)

// MaxRows bounds a file.
const MaxRows = 2000

// Row is one person. Nothing of health stands in it, and a limit stands in it without a why.
type Row struct {
	Name     string `json:"name"`
	Groups   string `json:"groups,omitempty" doc:"names of the groups that they are a regular of, with semicolons between"`
	Unit     string `json:"unit,omitempty" doc:"that they read masses in, and what a bare number means in their row: kg or lb"`
	Weaker   string `json:"weaker,omitempty" doc:"the side that begins: left or right"`
	Body     string `json:"body,omitempty" doc:"body mass"`
	Stature  string `json:"stature,omitempty"`
	Measured string `json:"measured,omitempty" doc:"the day of body and stature; today where it is left out"`
	Levels   string `json:"levels,omitempty" doc:"the rungs that they stand on, by the ids of their moves, with spaces between"`
	Limits   string `json:"limits,omitempty" doc:"what they are to be spared, with spaces between"`
	Note     string `json:"note,omitempty" doc:"up to 280 characters; nothing of health"`
	ID       string `json:"id,omitempty" doc:"of the person, where it is known; leave it out for new ones"`
}

// File is the JSON form.
type File = table.File[Row]

// Parsed is a file that was read.
type Parsed = table.Parsed[Row]

// Form reads and writes such files.
var Form = table.Form[Row]{Format: Format, Version: Version, MaxRows: MaxRows, Must: []string{"name"}}

// list is what stands between the names of groups.
const list = ";"

// GroupNames reads the names of groups.
func (r Row) GroupNames() []string {
	var out []string
	for _, g := range strings.Split(r.Groups, list) {
		if g = strings.TrimSpace(g); g != "" {
			out = append(out, g)
		}
	}
	return out
}

// JoinGroups writes names of groups down. One that holds the sign between them cannot stand in
// a table.
func JoinGroups(names []string) string {
	var out []string
	for _, n := range names {
		if !strings.Contains(n, list) {
			out = append(out, n)
		}
	}
	return strings.Join(out, list+" ")
}
