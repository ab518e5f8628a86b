package studio_test

import (
	"context"
	"errors"
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/demo"
	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/studio"
)

func TestMain(m *testing.M) { dbtest.Main(m) }

var now = time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC)

func fixed() time.Time { return now }

func hall(t *testing.T) studio.Studio {
	t.Helper()
	st, err := store.Open(dbtest.DSN(t), fixed)
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	require.NoError(t, st.Migrate(t.Context()))
	all := studio.New(st, fixed)
	owner, err := demo.Load(t.Context(), all, now)
	require.NoError(t, err)
	return all.For(owner)
}

// remembered is a version of a circuit as the model knows it.
type remembered struct {
	document   string
	undo, redo int // 0 for none
	side       bool
}

// history is a model of a circuit's history: versions are only added, an undo and a redo
// lead to what was there, a late edit stands beside.
type history struct {
	versions []remembered // by number, from 1
	head     int
}

func (h *history) add(v remembered) {
	h.versions = append(h.versions, v)
	if !v.side {
		h.head = len(h.versions) - 1
	}
}

func (h *history) now() remembered { return h.versions[h.head] }

// drawnOp draws an edit that any circuit takes.
func drawnOp(t *rapid.T, d circuit.Document) circuit.Op {
	ms := func(low, high int) *measure.Span {
		s := measure.Span(rapid.IntRange(low, high).Draw(t, "seconds")) * measure.Second
		return &s
	}
	count := func(low, high int) *int {
		n := rapid.IntRange(low, high).Draw(t, "count")
		return &n
	}
	in := circuit.Scheme{Kind: scheme.Circuit, Circuit: &circuit.InRounds{Format: circuit.Timed, WorkMs: *ms(10, 60), RestMs: *ms(0, 60), Rounds: *count(1, 6)}}
	ops := []circuit.Op{{Kind: circuit.SetScheme, BlockID: "b3", Scheme: &in}, {Kind: circuit.SetLeadIn, Ms: ms(0, 60)}, {Kind: circuit.SetAfter, BlockID: "b3", Ms: ms(0, 60)}}
	if slots := d.Slots(); len(slots) > 0 {
		slot := slots[rapid.IntRange(0, len(slots)-1).Draw(t, "slot")]
		ops = append(ops, circuit.Op{Kind: circuit.RemoveSlot, SlotID: slot.ID}, circuit.Op{Kind: circuit.SetNew, SlotID: slot.ID, Flag: new(bool)})
		e := slot.Entries["middle"]
		e.Dose = circuit.Times(rapid.IntRange(1, 20).Draw(t, "reps"))
		ops = append(ops, circuit.Op{Kind: circuit.SetEntry, SlotID: slot.ID, Party: "middle", Entry: &e})
	}
	return rapid.SampledFrom(ops).Draw(t, "op")
}

// Whatever is edited, undone, done again, edited late and brought back, in whatever order:
// the circuit is what the model of its history says, to the byte.
func TestHistoryIsAStateMachine(t *testing.T) {
	st := hall(t)
	ctx := context.Background()
	lib := moves.Standard()
	serial := 0
	id := func() string { serial++; return fmt.Sprintf("test%022d", serial) }
	edits := 0
	rapid.Check(t, func(t *rapid.T) {
		class, plan := id(), id()
		var wrong fault.List
		_, err := st.PutOccurrence(ctx, class, studio.OccurrenceInput{Name: "C", Date: "2026-11-26", Time: "10:00", Minutes: 45, PlaceID: demo.ID("place/hall"),
			Lanes: []studio.LaneInput{{Lane: "middle", People: 4}}}, &wrong)
		require.NoError(t, err)
		_, err = st.CreateCircuit(ctx, plan, studio.CreateCircuit{OccurrenceID: class, ClientID: id(), Brief: &studio.ProposalBrief{Minutes: 30, Format: circuit.Timed}}, &wrong)
		require.NoError(t, err)
		encoded := func(d circuit.Document) string {
			b, err := circuit.Encode(d)
			require.NoError(t, err)
			return string(b)
		}
		decoded := func(s string) circuit.Document {
			d, err := circuit.Decode([]byte(s))
			require.NoError(t, err)
			return d
		}
		first, err := st.Circuit(ctx, plan)
		require.NoError(t, err)
		h := &history{versions: make([]remembered, 1)}
		h.add(remembered{document: encoded(first.Document)})
		var last studio.EditInput // that was taken
		older := func() int { return rapid.IntRange(1, len(h.versions)-1).Draw(t, "version") }
		edit := func(base int) (studio.EditInput, string) {
			d := decoded(h.versions[base].document)
			in := studio.EditInput{Revision: studio.Revision{ClientID: id(), Base: base}, Ops: []circuit.Op{drawnOp(t, d)}}
			next, _, err := circuit.Apply(d, in.Ops, lib)
			require.NoError(t, err)
			return in, encoded(next)
		}
		step := func(back bool) {
			v := h.now()
			to, does := v.undo, st.Undo
			if !back {
				to, does = v.redo, st.Redo
			}
			_, err := does(ctx, plan, studio.Revision{ClientID: id(), Base: h.head})
			if to == 0 {
				require.ErrorContains(t, err, "there is nothing to")
				return
			}
			require.NoError(t, err)
			target := h.versions[to]
			next := remembered{document: target.document, undo: target.undo, redo: target.redo}
			if back {
				next.redo = h.head
			}
			h.add(next)
		}
		t.Repeat(map[string]func(*rapid.T){
			"edit": func(*rapid.T) {
				in, next := edit(h.head)
				_, err := st.Edit(ctx, plan, in)
				require.NoError(t, err)
				h.add(remembered{document: next, undo: h.head})
				last = in
				edits++
			},
			"late edit": func(t *rapid.T) {
				base := older()
				if base == h.head {
					t.Skip("not late")
				}
				in, next := edit(base)
				_, err := st.Edit(ctx, plan, in)
				var beside *store.BesideError
				require.ErrorAs(t, err, &beside)
				require.Equal(t, len(h.versions), beside.Version)
				h.add(remembered{document: next, side: true})
			},
			"late undo": func(t *rapid.T) {
				base := older()
				if base == h.head {
					t.Skip("not late")
				}
				_, err := st.Undo(ctx, plan, studio.Revision{ClientID: id(), Base: base})
				require.True(t, errors.Is(err, store.ErrConflict))
			},
			"undo": func(*rapid.T) { step(true) },
			"redo": func(*rapid.T) { step(false) },
			"restore": func(*rapid.T) {
				n := older()
				_, err := st.Restore(ctx, plan, studio.RestoreInput{Revision: studio.Revision{ClientID: id(), Base: h.head}, Version: n})
				require.NoError(t, err)
				h.add(remembered{document: h.versions[n].document, undo: h.head})
			},
			"sent again": func(t *rapid.T) {
				if last.Ops == nil {
					t.Skip("nothing was sent")
				}
				_, err := st.Edit(ctx, plan, last)
				require.NoError(t, err)
			},
			"": func(t *rapid.T) {
				c, err := st.Circuit(ctx, plan)
				require.NoError(t, err)
				v := h.now()
				require.Equal(t, h.head, c.Version)
				require.Equal(t, v.document, encoded(c.Document))
				require.Equal(t, []bool{v.undo != 0, v.redo != 0}, []bool{c.CanUndo, c.CanRedo})
				rows, err := st.Versions(ctx, plan, 0)
				require.NoError(t, err)
				require.Equal(t, len(h.versions)-1, rows.Rows[0].Version)
				for _, r := range rows.Rows {
					require.Equal(t, h.versions[r.Version].side, r.Side)
				}
			},
		})
	})
	require.Greater(t, edits, 50)
}
