// Package names reads what people call things and write about them, in one place, so
// that a name is the same wherever it comes in and goes out: composed (NFC, Unicode
// Standard Annex 15), without blanks at its edges, without anything that cannot be seen
// or that turns what stands beside it around (the bidirectional controls of Annex 9).
package names

import (
	"errors"
	"fmt"
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/text/unicode/norm"
)

// MaxCharacters is how many characters a name has at the most.
const MaxCharacters = 120

// MaxRaw is how many characters may be typed for a name, before they are put together.
const MaxRaw = 4 * MaxCharacters

// Read reads a name of 1 to MaxCharacters characters.
func Read(typed string) (string, error) {
	name, err := Text(typed, MaxCharacters)
	if err == nil && name == "" {
		err = errors.New("type a name: something that can be read")
	}
	return name, err
}

// Text reads a line of text of at most so many characters, which may be empty.
func Text(typed string, most int) (string, error) {
	if !utf8.ValidString(typed) {
		return "", errors.New("it holds bytes that are not text: save it as UTF-8")
	}
	text := norm.NFC.String(strings.TrimSpace(typed))
	seen := false
	for _, r := range text {
		if what := unseen(r); what != "" {
			return "", fmt.Errorf("%s (U+%04X) cannot stand here: take it out", what, r)
		}
		seen = seen || unicode.In(r, unicode.L, unicode.N, unicode.P, unicode.S)
	}
	if text != "" && !seen {
		return "", errors.New("there is nothing in it that can be read")
	}
	if n := utf8.RuneCountInString(text); n > most {
		return "", fmt.Errorf("at most %d characters, not %d", most, n)
	}
	return text, nil
}

// unseen names what a character is that must not stand in a line of text; nothing is said
// of one that may.
func unseen(r rune) string {
	switch {
	case r == unicode.ReplacementChar:
		return "the sign for a character that was lost"
	case unicode.In(r, unicode.Zl, unicode.Zp), r == '\n', r == '\r':
		return "the end of a line"
	case unicode.Is(unicode.Cc, r):
		return "a control character"
	case unicode.Is(unicode.Bidi_Control, r):
		return "a sign that changes the direction of writing"
	// Signs that choose how the character before them is drawn come with it.
	case unicode.Is(unicode.Variation_Selector, r) && r >= 0xFE00:
		return ""
	case unicode.In(r, unicode.Cf, unicode.Other_Default_Ignorable_Code_Point, unicode.Variation_Selector):
		return "a character without width"
	case unicode.In(r, unicode.Co, unicode.Cs, unicode.Noncharacter_Code_Point):
		return "a character that means nothing elsewhere"
	}
	return ""
}

// Name is what something is called. Whoever decodes one from outside reads it with Read,
// so that everybody after gets it trimmed and composed.
type Name string

// MaxNote is how many characters a note has at the most.
const MaxNote = 280

// Note is a line that is written about somebody, of up to MaxNote characters, or none.
// Whoever decodes one from outside reads it with ReadNote.
type Note string

// ReadNote reads a note, which may be empty.
func ReadNote(typed string) (string, error) { return Text(typed, MaxNote) }
