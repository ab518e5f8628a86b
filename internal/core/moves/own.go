package moves

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"slices"
)

// File is a set of own moves as it goes out and comes in: open JSON.
type File struct {
	Format string     `json:"format"`
	V      int        `json:"v"`
	Moves  []*Variant `json:"moves"`
}

// FileFormat stands at the top of a file of moves.
const FileFormat = "nimbleanvil-moves"

// ParseOwn reads stored own moves.
func ParseOwn(stored [][]byte) ([]*Variant, error) {
	out := make([]*Variant, 0, len(stored))
	for _, b := range stored {
		var v Variant
		if err := json.Unmarshal(b, &v); err != nil {
			return nil, err
		}
		out = append(out, &v)
	}
	return out, nil
}

// Preview says what a file would do to a studio's own moves. With a fault nothing
// of it may be taken in.
type Preview struct {
	// Hash is of the file and of the library it was held against: only what was
	// looked at can be taken in.
	Hash    string   `json:"hash"`
	Added   []string `json:"added"`
	Changed []string `json:"changed"`
	Same    []string `json:"same"`
	Fault   string   `json:"fault,omitempty"` // why it cannot be taken in; empty when it can
}

// Merge holds incoming moves against a studio's own, the oldest first. Stamp names
// the state of the library. It gives what is to be written, by id.
func Merge(own, incoming []*Variant, stamp string) (Preview, map[string][]byte) {
	p := Preview{Added: []string{}, Changed: []string{}, Same: []string{}}
	write := map[string][]byte{}
	next := slices.Clone(own)
	h := sha256.New()
	h.Write([]byte(stamp))
	seen := map[string]bool{}
	for _, v := range incoming {
		b, err := json.Marshal(v)
		if err != nil {
			p.Fault = v.ID + ": " + err.Error()
			continue
		}
		h.Write([]byte{0})
		h.Write(b)
		if seen[v.ID] {
			p.Fault = v.ID + ": stands twice in the file"
			continue
		}
		seen[v.ID] = true
		i := slices.IndexFunc(own, func(x *Variant) bool { return x.ID == v.ID })
		if i < 0 {
			p.Added = append(p.Added, v.ID)
			next = append(next, v)
			write[v.ID] = b
			continue
		}
		if old, err := json.Marshal(own[i]); err == nil && string(old) == string(b) {
			p.Same = append(p.Same, v.ID)
			continue
		}
		p.Changed = append(p.Changed, v.ID)
		next[i] = v
		write[v.ID] = b
	}
	p.Hash = hex.EncodeToString(h.Sum(nil))
	if _, err := Standard().With(next); err != nil && p.Fault == "" {
		p.Fault = err.Error()
	}
	return p, write
}
