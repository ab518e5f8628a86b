// Package golden compares what a test computes with what was approved before: a file of
// lines, each a fact that somebody can read, some with a digest of all that belongs to it.
package golden

import (
	"crypto/sha256"
	"encoding/json"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

var approve = flag.Bool(
	"approve",
	false,
	"take what the golden tests compute for what is right, after its difference was read",
)

// Lines are compared as they come, so that the first that differs ends the test.
type Lines struct {
	t    testing.TB
	file string
	want []string
	got  []string
}

// Begin opens a file of approved lines; when the test ends it must have had them all.
func Begin(t testing.TB, file string) *Lines {
	t.Helper()
	l := &Lines{t: t, file: file}
	if !*approve {
		b, err := os.ReadFile(file) // a file of the test's own
		if err != nil {
			t.Fatal(err)
		}
		l.want = strings.Split(strings.TrimSuffix(string(b), "\n"), "\n")
	}
	t.Cleanup(l.end)
	return l
}

// Say puts the next line.
func (l *Lines) Say(format string, args ...any) {
	l.t.Helper()
	line := strings.TrimRight(fmt.Sprintf(format, args...), " ")
	n := len(l.got)
	l.got = append(l.got, line)
	if *approve {
		return
	}
	if n >= len(l.want) || l.want[n] != line {
		was := "nothing more"
		if n < len(l.want) {
			was = l.want[n]
		}
		l.t.Fatalf("%s:%d\nwas: %s\nnow: %s", l.file, n+1, was, line)
	}
}

func (l *Lines) end() {
	switch {
	case l.t.Failed():
	case *approve:
		if err := os.MkdirAll(filepath.Dir(l.file), 0o750); err != nil {
			l.t.Error(err)
		}
		if err := os.WriteFile(l.file, []byte(strings.Join(l.got, "\n")+"\n"), 0o600); err != nil {
			l.t.Error(err)
		}
	case len(l.got) < len(l.want):
		l.t.Errorf("%s:%d: it ends before %s", l.file, len(l.got)+1, l.want[len(l.got)])
	}
}

// Digest is a few characters of the hash of a value as JSON.
func Digest(v any) string {
	b, err := json.Marshal(v)
	if err != nil {
		panic(err)
	}
	sum := sha256.Sum256(b)
	return fmt.Sprintf("%x", sum[:5])
}
