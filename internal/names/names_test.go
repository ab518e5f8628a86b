package names

import (
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/text/unicode/norm"
	"pgregory.net/rapid"
)

// Sources: composition, Unicode Standard Annex 15, figure 3 (e with acute, A with ring);
// bidirectional controls, Annex 9 table 2; default ignorables, Annex 44. From memory.
func TestReadReference(t *testing.T) {
	for typed, want := range map[string]string{
		"Noon class": "Noon class", "  Noon\u00a0": "Noon", "\tNoon\r\n": "Noon", "e\u0301": "\u00e9", "A\u030a": "\u00c5", "\u212b": "\u00c5",
		"Zürich 2": "Zürich 2", "\u2764\ufe0f": "\u2764\ufe0f", "नमस्ते": "नमस्ते", "Two  blanks": "Two  blanks", "-": "-",
		strings.Repeat("a\u0301", MaxCharacters): strings.Repeat("\u00e1", MaxCharacters),
	} {
		got, err := Read(typed)
		require.NoError(t, err, "%q", typed)
		assert.Equal(t, want, got, "%q", typed)
	}
	for typed, mend := range map[string]string{
		"": "type a name", " \t ": "type a name", "\u3000": "type a name", "\u0301": "nothing in it", "a\nb": "end of a line", "a\u2028b": "end of a line",
		"a\x00": "control", "\x7f": "control", "a\u0085b": "control", "\u202eabc": "direction", "a\u200fb": "direction", "a\u2066": "direction",
		"a\u200bb": "width", "a\ufeffb": "width", "a\u00adb": "width", "a\u200db": "width", "\u3164": "width", "\u2060": "width", "a\U000e0041": "width",
		"a\ufffd": "lost", "\ue000": "means nothing", "\uffff": "means nothing", "a\xff": "UTF-8", strings.Repeat("ä", MaxCharacters+1): "at most 120",
	} {
		_, err := Read(typed)
		assert.ErrorContains(t, err, mend, "%q", typed)
	}
}

// Whatever is typed: what is read is composed, trimmed, short, and reads as itself.
func TestReadOnce(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		got, err := Read(rapid.String().Draw(t, "typed"))
		if err != nil {
			return
		}
		again, err := Read(got)
		if err != nil || again != got || !norm.NFC.IsNormalString(got) || got != strings.TrimSpace(got) || utf8.RuneCountInString(got) > MaxCharacters {
			t.Fatalf("%q became %q, %v", got, again, err)
		}
	})
}
