package moves

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// own is a move of somebody's own, copied from the goblet squat.
func own(t *testing.T, id string, change func(*Variant)) *Variant {
	t.Helper()
	v, ok := Standard().Get("goblet-squat")
	require.True(t, ok)
	c := *v
	c.ID, c.Name, c.Ladder, c.Rung, c.Lever, c.Lanes = id, "Crate squat", "", 0, nil, nil
	if change != nil {
		change(&c)
	}
	return &c
}

// An own move joins the library when it stands by itself and fits its ladder; the
// message names the field and the mend.
func TestOwnMoves(t *testing.T) {
	rung := func(n int) func(*Variant) {
		return func(v *Variant) {
			v.Ladder, v.Rung, v.Lever, v.Test, v.Down = "squat", n, &Lever{Name: "hold", Before: "a bar on the back", After: "a crate hugged"}, "Three sets of 8.", "The back rounds."
		}
	}
	top := 0
	for _, v := range Standard().All() {
		if v.Ladder == "squat" {
			top = max(top, v.Rung)
		}
	}
	lib, err := Standard().With([]*Variant{own(t, "own-crate-squat", rung(top+1))})
	require.NoError(t, err)
	last, _ := lib.Get("barbell-back-squat")
	up, ok := lib.Neighbour(last, 1)
	require.True(t, ok)
	assert.Equal(t, "own-crate-squat", up.ID)
	for message, v := range map[string]*Variant{
		"id: an own move's begins with own-":          own(t, "crate-squat", nil),
		"rung: the next free one on this ladder is 9": own(t, "own-x", rung(3)),
		"tempo:":                        own(t, "own-x", func(v *Variant) { v.Tempo = "soon" }),
		"cues: at least one":            own(t, "own-x", func(v *Variant) { v.Cues = nil }),
		"emphasis: the shares add up":   own(t, "own-x", func(v *Variant) { v.Emphasis = map[string]float64{"glutes": .5} }),
		"cautions: a demand of 3":       own(t, "own-x", func(v *Variant) { v.Demands = map[string]int{"knee": 3} }),
		"holds: \"teeth\" is not known": own(t, "own-x", func(v *Variant) { v.Holds = []HoldID{"teeth"} }),
	} {
		_, err := Standard().With([]*Variant{v})
		assert.ErrorContains(t, err, message)
	}
}

// A file is held against what is there: new, changed and same are told apart, the
// same file twice changes nothing, and the hash is of file and library both.
func TestMerge(t *testing.T) {
	a, b := own(t, "own-a", nil), own(t, "own-b", nil)
	b2 := own(t, "own-b", func(v *Variant) { v.Name = "Other" })
	p, write := Merge([]*Variant{b}, []*Variant{a, b2}, "s")
	assert.Equal(t, []any{[]string{"own-a"}, []string{"own-b"}, ""}, []any{p.Added, p.Changed, p.Fault})
	assert.Len(t, write, 2)
	again, write := Merge([]*Variant{b2, a}, []*Variant{a, b2}, "s2")
	assert.Equal(t, []string{"own-a", "own-b"}, again.Same)
	assert.Empty(t, write)
	assert.NotEqual(t, p.Hash, again.Hash, "the library moved on")
	twice, _ := Merge(nil, []*Variant{a, a}, "")
	assert.Contains(t, twice.Fault, "stands twice")
	bad, _ := Merge(nil, []*Variant{own(t, "own-a", func(v *Variant) { v.Purpose = "" })}, "")
	assert.Contains(t, bad.Fault, "own-a: purpose: say it in a few words")
}
