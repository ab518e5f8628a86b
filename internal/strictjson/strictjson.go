// Package strictjson reads requests as the contract wants them: one document of
// JSON in UTF-8 (RFC 8259), every name once (as in I-JSON, RFC 7493), no half of a
// surrogate pair, no null, whole numbers in any spelling. What is wrong is said
// field by field.
package strictjson

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"net/http"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/go-json-experiment/json/jsontext"

	"nimbleanvil/internal/problem"
)

// MaxDepth is how deep lists and objects may stand in each other.
const MaxDepth = 64

// null stands in a tree where the document has one: no schema takes it.
type null struct{}

// MarshalJSON writes it as it stood.
func (null) MarshalJSON() ([]byte, error) { return []byte("null"), nil }

// reader reads one document into maps, lists, strings, booleans and float64.
type reader struct {
	dec    *jsontext.Decoder
	faults []problem.Field
	deep   int
	// escapes says that the document may hold halves of surrogate pairs.
	escapes bool
}

// Read gives the document as a tree, and what no schema can see: doubled names,
// halves of surrogate pairs, numbers beyond any range. Bytes that are no single
// document are a problem of their own.
func Read(b []byte) (tree any, faults []problem.Field, p *problem.Problem) {
	if !utf8.Valid(b) {
		return nil, nil, malformed(fmt.Sprintf("byte %d is not UTF-8", firstInvalid(b)+1))
	}
	low := bytes.ToLower(b)
	r := &reader{
		dec: jsontext.NewDecoder(bytes.NewReader(b), jsontext.AllowDuplicateNames(true),
			jsontext.AllowInvalidUTF8(true)),
		escapes: bytes.Contains(low, []byte(`\ud`)),
	}
	tree, err := r.value("body")
	if err == nil {
		if _, end := r.dec.ReadToken(); !errors.Is(end, io.EOF) {
			err = errors.New("there is text after the document")
		}
	}
	if err != nil {
		return nil, nil, malformed(words(err))
	}
	return tree, r.faults, nil
}

func malformed(why string) *problem.Problem {
	return problem.New(problem.Malformed, http.StatusBadRequest, "the request is not one JSON document: "+why)
}

// words says what is wrong with a document's bytes.
func words(err error) string {
	var syntax *jsontext.SyntacticError
	switch {
	case errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF):
		return "it is empty or cut short"
	case errors.As(err, &syntax):
		return fmt.Sprintf("%v at byte %d", syntax.Err, syntax.ByteOffset+1)
	}
	return err.Error()
}

func firstInvalid(b []byte) int {
	at := 0
	for at < len(b) {
		r, n := utf8.DecodeRune(b[at:])
		if r == utf8.RuneError && n < 2 {
			break
		}
		at += n
	}
	return at
}

func (r *reader) fault(path, message string, value any) {
	r.faults = append(r.faults, problem.Field{Location: path, Message: message, Value: value})
}

func (r *reader) value(path string) (any, error) {
	kind := r.dec.PeekKind()
	switch kind {
	case '{', '[':
		if r.deep++; r.deep > MaxDepth {
			return nil, fmt.Errorf("nested over %d deep", MaxDepth)
		}
		defer func() { r.deep-- }()
		if _, err := r.dec.ReadToken(); err != nil {
			return nil, err
		}
		if kind == '{' {
			return r.object(path)
		}
		return r.list(path)
	case '"':
		return r.text(path)
	}
	tok, err := r.dec.ReadToken()
	if err != nil {
		return nil, err
	}
	switch kind {
	case 't', 'f':
		return kind == 't', nil
	case 'n':
		return null{}, nil
	}
	f, err := strconv.ParseFloat(tok.String(), 64)
	if err != nil || math.IsInf(f, 0) {
		r.fault(path, "the number is beyond any range", tok.String())
		return 0.0, nil
	}
	return f, nil
}

// text reads a string; half of a surrogate pair is no character.
func (r *reader) text(path string) (string, error) {
	raw, err := r.dec.ReadValue()
	if err != nil {
		return "", err
	}
	if r.escapes && halved(raw) {
		r.fault(path, "it holds half of a surrogate pair, which is no character", nil)
	}
	b, err := jsontext.AppendUnquote(nil, raw)
	var syntax *jsontext.SyntacticError
	if err != nil && !errors.As(err, &syntax) {
		return "", err
	}
	return string(b), nil
}

// halved tells whether a quoted string has an escape that is half of a pair.
func halved(raw []byte) bool {
	high := false // the escape just before was the first of a pair
	for i := 0; i < len(raw); i++ {
		if raw[i] != '\\' {
			if high {
				return true
			}
			continue
		}
		if raw[i+1] != 'u' {
			if high {
				return true
			}
			i++
			continue
		}
		n, _ := strconv.ParseUint(string(raw[i+2:i+6]), 16, 32)
		i += 5
		switch {
		case n >= 0xDC00 && n < 0xE000:
			if !high {
				return true
			}
			high = false
		case high:
			return true
		case n >= 0xD800 && n < 0xDC00:
			high = true
		}
	}
	return high
}

// hidden and shown take the separators of a location out of names and put them back: the
// validator takes its locations apart at them.
var (
	hidden = strings.NewReplacer(".", "\x01", "[", "\x02")
	shown  = strings.NewReplacer("\x01", ".", "\x02", "[")
)

func (r *reader) object(path string) (any, error) {
	m := map[string]any{}
	for r.dec.PeekKind() != '}' {
		name, err := r.text(path)
		if err != nil {
			return nil, err
		}
		at := path + "." + name
		v, err := r.value(at)
		if err != nil {
			return nil, err
		}
		if _, twice := m[hidden.Replace(name)]; twice {
			r.fault(at, "the field stands twice", nil)
		}
		m[hidden.Replace(name)] = v
	}
	_, err := r.dec.ReadToken()
	return m, err
}

func (r *reader) list(path string) (any, error) {
	l := []any{}
	for r.dec.PeekKind() != ']' {
		v, err := r.value(path + "[" + strconv.Itoa(len(l)) + "]")
		if err != nil {
			return nil, err
		}
		l = append(l, v)
	}
	_, err := r.dec.ReadToken()
	return l, err
}

// Decode reads a document that Read and Check have passed into a value.
func Decode(b []byte, into any) error { return json.Unmarshal(plain(b), into) }

// exactInFloat is up to where every whole number is a float64.
const exactInFloat = 1 << 53

// plain writes whole numbers such as 1.0 and 1e1 out, so that they may go into
// whole fields. The same bytes come back where there are none.
func plain(b []byte) []byte {
	var out []byte
	done := 0
	for i := 0; i < len(b); i++ {
		switch c := b[i]; {
		case c == '"':
			for i++; i < len(b) && b[i] != '"'; i++ {
				if b[i] == '\\' {
					i++
				}
			}
		case c == '-' || c >= '0' && c <= '9':
			end := i + 1
			for end < len(b) && strings.IndexByte("0123456789.eE+-", b[end]) >= 0 {
				end++
			}
			if f, err := strconv.ParseFloat(string(b[i:end]), 64); err == nil && bytes.ContainsAny(b[i:end], ".eE") &&
				f == math.Trunc(f) &&
				math.Abs(f) < exactInFloat {
				out = strconv.AppendInt(append(out, b[done:i]...), int64(f), 10)
				done = end
			}
			i = end - 1
		}
	}
	if out == nil {
		return b
	}
	return append(out, b[done:]...)
}
