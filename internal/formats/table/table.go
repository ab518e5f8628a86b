// Package table reads and writes rows as a table that a spreadsheet opens (CSV, RFC 4180) and
// as JSON: every cell is text as somebody would type it.
package table

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"reflect"
	"slices"
	"strings"

	jsonv2 "github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"
)

// Form is a kind of file whose rows are R: a struct of strings, each with a JSON name, which is
// its column's. Format and Version stand at the top of its JSON; Must are the columns that no
// table goes without.
type Form[R comparable] struct {
	Format  string
	Version int
	MaxRows int
	Must    []string
}

// File is the JSON form.
type File[R any] struct {
	Format string `json:"format"`
	V      int    `json:"v"`
	Rows   []R    `json:"rows"`
}

// Mistake is something wrong in a file: the line as an editor counts them, the column
// of the table from 1, both 0 where the whole file is meant.
type Mistake struct {
	Line    int    `json:"line"`
	Column  int    `json:"column"`
	Field   string `json:"field,omitempty"`
	Message string `json:"message"`
	Value   string `json:"value,omitempty"`
}

// Fields lists the columns in order.
func (Form[R]) Fields() []string {
	t := reflect.TypeFor[R]()
	var out []string
	for i := range t.NumField() {
		name, _, _ := strings.Cut(t.Field(i).Tag.Get("json"), ",")
		out = append(out, name)
	}
	return out
}

// Cell gives the text of a row's column, by its number.
func Cell[R any](r *R, i int) *string {
	return reflect.ValueOf(r).Elem().Field(i).Addr().Interface().(*string) // every field is one
}

// Parsed is a file that was read: each row with the line it stands on.
type Parsed[R any] struct {
	Rows   []R
	Lines  []int
	Faults []Mistake
	// More is how many faults are not named in Faults.
	More int
	// columns gives the column of each field in this file.
	columns map[string]int
}

// maxFaults is how many faults of a file are named.
const maxFaults = 20

// Column gives where a field stands in this file, 0 where it has none.
func (p Parsed[R]) Column(field string) int { return p.columns[field] }

// Parse reads either form: JSON begins with a brace. A byte order mark is skipped,
// semicolons are understood. What cannot be read is in Faults.
func (f Form[R]) Parse(b []byte) Parsed[R] {
	b = bytes.TrimPrefix(b, []byte("\xef\xbb\xbf"))
	if bytes.HasPrefix(bytes.TrimLeft(b, " \t\r\n"), []byte("{")) {
		return f.parseJSON(b)
	}
	return f.parseCSV(b)
}

func (f Form[R]) parseJSON(b []byte) Parsed[R] {
	p := Parsed[R]{columns: map[string]int{}}
	var file File[R]
	// Unknown and doubled fields, halves of characters and text after the end are refused.
	err := jsonv2.Unmarshal(b, &file, jsonv2.RejectUnknownMembers(true))
	switch {
	case err != nil:
		p.Fault(mistake(b, err))
	case file.Format != f.Format || file.V != f.Version:
		p.Fault(Mistake{
			Line:    1,
			Field:   "format",
			Message: fmt.Sprintf("this is no %s of version %d", f.Format, f.Version),
			Value:   file.Format,
		})
	case len(file.Rows) > f.MaxRows:
		p.Fault(Mistake{Message: fmt.Sprintf("at most %d rows, not %d", f.MaxRows, len(file.Rows))})
	default:
		p.Rows = file.Rows
		for i := range file.Rows {
			p.Lines = append(p.Lines, i+1) // a row's number: JSON has no lines of its own
		}
	}
	return p
}

// mistake says what is wrong with a document, and on which line.
func mistake(b []byte, err error) Mistake {
	m := Mistake{Line: 1, Message: err.Error()}
	at := int64(0)
	var syntax *jsontext.SyntacticError
	var kind *jsonv2.SemanticError
	switch {
	case errors.Is(err, io.ErrUnexpectedEOF):
		at, m.Message = int64(len(b)), "the document is cut short"
	case errors.As(err, &syntax):
		at, m.Field, m.Message = syntax.ByteOffset, syntax.JSONPointer.LastToken(), syntax.Err.Error()
	case errors.As(err, &kind):
		at, m.Field, m.Message = kind.ByteOffset, kind.JSONPointer.LastToken(), "this cannot stand here"
		if errors.Is(err, jsonv2.ErrUnknownName) {
			m.Message = "no such field"
		}
	}
	m.Line += bytes.Count(b[:min(int(at), len(b))], []byte("\n"))
	return m
}

// Fault notes something wrong; beyond maxFaults it is only counted.
func (p *Parsed[R]) Fault(f Mistake) {
	if len(p.Faults) == maxFaults {
		p.More++
		return
	}
	f.Value = cut(f.Value)
	p.Faults = append(p.Faults, f)
}

// cut shortens what stood in a file to what a message shows.
func cut(s string) string {
	const most = 200
	for i := range s {
		if i > most {
			return s[:i] + "…"
		}
	}
	return s
}

func (f Form[R]) parseCSV(b []byte) Parsed[R] {
	p, fields := Parsed[R]{columns: map[string]int{}}, f.Fields()
	first, _, _ := bytes.Cut(b, []byte("\n"))
	r := csv.NewReader(bytes.NewReader(b))
	if bytes.Count(first, []byte(";")) > bytes.Count(first, []byte(",")) {
		r.Comma = ';'
	}
	r.FieldsPerRecord = -1
	head, err := r.Read()
	if err != nil {
		p.Fault(
			Mistake{
				Line: 1,
				Message: "the first line names the columns: " + strings.Join(
					fields[:min(6, len(fields))],
					", ",
				) + " ...",
			},
		)
		return p
	}
	at := make([]int, len(head))
	for i, name := range head {
		name = strings.TrimSpace(name)
		at[i] = slices.Index(fields, name)
		if at[i] < 0 || p.columns[name] > 0 {
			p.Fault(Mistake{
				Line:    1,
				Column:  i + 1,
				Message: "no such column, or a second one: use " + strings.Join(fields, ", "),
				Value:   name,
			})
			continue
		}
		p.columns[name] = i + 1
	}
	for _, must := range f.Must {
		if p.columns[must] == 0 {
			p.Fault(Mistake{Line: 1, Field: must, Message: "this column is missing"})
		}
	}
	for len(p.Faults) == 0 {
		cells, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		var broken *csv.ParseError
		if errors.As(err, &broken) {
			p.Fault(Mistake{Line: broken.Line, Column: 0, Message: broken.Err.Error()})
			break
		}
		line, _ := r.FieldPos(0)
		if len(cells) > len(head) {
			p.Fault(Mistake{
				Line:    line,
				Column:  len(head) + 1,
				Message: fmt.Sprintf("there are %d cells and %d columns", len(cells), len(head)),
			})
			break
		}
		if len(p.Rows) == f.MaxRows {
			p.Fault(Mistake{Line: line, Message: fmt.Sprintf("at most %d rows", f.MaxRows)})
			break
		}
		var row, empty R
		for i, c := range cells {
			*Cell(&row, at[i]) = unguard(strings.TrimSpace(c))
		}
		if row != empty {
			p.Rows, p.Lines = append(p.Rows, row), append(p.Lines, line)
		}
	}
	return p
}

// risky begins what a spreadsheet would take for a formula.
const risky = "=+-@\t\r"

// guard puts an apostrophe before what a spreadsheet would run, and before an
// apostrophe that stood there.
func guard(s string) string {
	if s != "" && strings.ContainsRune(risky+"'", rune(s[0])) {
		return "'" + s
	}
	return s
}

func unguard(s string) string {
	if len(s) > 1 && s[0] == '\'' && strings.ContainsRune(risky+"'", rune(s[1])) {
		return s[1:]
	}
	return s
}

// CSV writes rows as a table: CRLF, quotes where they are needed, formulas guarded.
func (f Form[R]) CSV(rows []R) ([]byte, error) {
	fields := f.Fields()
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	w.UseCRLF = true
	if err := w.Write(fields); err != nil {
		return nil, err
	}
	for _, r := range rows {
		cells := make([]string, len(fields))
		for i := range cells {
			cells[i] = guard(*Cell(&r, i))
		}
		if err := w.Write(cells); err != nil {
			return nil, err
		}
	}
	w.Flush()
	return b.Bytes(), w.Error()
}

// JSON writes rows as a document.
func (f Form[R]) JSON(rows []R) ([]byte, error) {
	if rows == nil {
		rows = []R{}
	}
	b, err := json.MarshalIndent(File[R]{f.Format, f.Version, rows}, "", "  ")
	return append(b, '\n'), err
}
