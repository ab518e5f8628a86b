package circuit

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/scheme"
)

// The shapes of documents ever written, one for each, kept for those who read them
// later: shape 1 packed one kind by count, shape 2 lists the parts.
const (
	shapeOne = `{"v":1,"format":"timed","leadInMs":10000,"workMs":40000,"restMs":20000,"rounds":3,"roundRestMs":60000,"bans":["lateral"],"slots":[{"id":"s1","pattern":"squat","waves":1,"new":false,"lanes":{"middle":{"variant":"goblet-squat","hold":"goblet","load":{"kind":"implement","item":"abc","count":1},"anchors":[],"reps":10,"tempo":"2-0-2-0","sides":"both"},"reach":{"variant":"goblet-squat","hold":"hugged","load":{"kind":"made","item":"tin","count":18,"container":"bag"},"anchors":[],"reps":10,"tempo":"2-0-2-0","sides":"both"}}}]}`
	shapeTwo = `{"v":2,"format":"timed","leadInMs":10000,"workMs":40000,"restMs":20000,"rounds":3,"roundRestMs":60000,"bans":["lateral"],"slots":[{"id":"s1","pattern":"squat","waves":1,"new":false,"lanes":{"middle":{"variant":"goblet-squat","hold":"goblet","load":{"kind":"implement","item":"abc","count":1},"anchors":[],"reps":10,"tempo":"2-0-2-0","sides":"both"},"reach":{"variant":"goblet-squat","hold":"hugged","load":{"kind":"made","container":"bag","parts":[{"id":"tin","count":18}]},"anchors":[],"reps":10,"tempo":"2-0-2-0","sides":"both"}}}]}`
)

func TestDocumentsReadBack(t *testing.T) {
	for _, shape := range []string{shapeOne, shapeTwo} {
		d, err := Decode([]byte(shape))
		require.NoError(t, err)
		require.NoError(t, d.Check(moves.Standard()))
		b, err := Encode(d)
		require.NoError(t, err)
		assert.Equal(t, shapeTwo, string(b))
	}
	for _, bad := range []string{"", "{}", `{"v":3}`, strings.Replace(shapeOne, `"bans"`, `"bams"`, 1), shapeOne[:100]} {
		_, err := Decode([]byte(bad))
		assert.Error(t, err, bad)
	}
}

// Each limit holds at n and refuses n + 1, naming the field.
func TestDocumentLimits(t *testing.T) {
	lib := moves.Standard()
	base, err := Decode([]byte(shapeOne))
	require.NoError(t, err)
	entry := func(d *Document, change func(*Entry)) {
		e := d.Slots[0].Entries["middle"]
		change(&e)
		d.Slots[0].Entries["middle"] = e
	}
	slots := func(d *Document, n int) {
		for i := len(d.Slots); i < n; i++ {
			s := d.Slots[0].clone()
			s.ID = "x" + strings.Repeat("y", i)
			d.Slots = append(d.Slots, s)
		}
	}
	for _, c := range []struct {
		path    string
		ok, bad func(*Document)
	}{
		{"rounds", func(d *Document) { d.Rounds = MaxRounds }, func(d *Document) { d.Rounds = MaxRounds + 1 }},
		{"rounds", func(d *Document) { d.Rounds = 1 }, func(d *Document) { d.Rounds = 0 }},
		{"workMs", func(d *Document) { d.WorkMs = MaxStretch }, func(d *Document) { d.WorkMs = MaxStretch + 1 }},
		{"workMs", func(d *Document) { d.WorkMs = 5000 }, func(d *Document) { d.WorkMs = 4999 }},
		{"restMs", func(d *Document) { d.RestMs = 0 }, func(d *Document) { d.RestMs = -1 }},
		{"slots", func(d *Document) { slots(d, MaxSlots) }, func(d *Document) { slots(d, MaxSlots+1) }},
		{"slots[0].waves", func(d *Document) { d.Slots[0].Waves = MaxWaves }, func(d *Document) { d.Slots[0].Waves = MaxWaves + 1 }},
		{"slots[0].lanes.middle.reps", func(d *Document) { entry(d, func(e *Entry) { e.Reps = MaxReps }) }, func(d *Document) { entry(d, func(e *Entry) { e.Reps = MaxReps + 1 }) }},
		{"slots[0].lanes.middle.load.count", func(d *Document) { entry(d, func(e *Entry) { e.Load.Count = 500 }) }, func(d *Document) { entry(d, func(e *Entry) { e.Load.Count = 501 }) }},
		{"slots[0].lanes.middle.tempo", func(d *Document) { entry(d, func(e *Entry) { e.Tempo = "0-0-1-0" }) }, func(d *Document) { entry(d, func(e *Entry) { e.Tempo = "0-0-0-0" }) }},
		{"slots[0].lanes.middle.variant", func(*Document) {}, func(d *Document) { entry(d, func(e *Entry) { e.Variant = "moon-walk" }) }},
		{"slots[0].lanes.middle.hold", func(*Document) {}, func(d *Document) { entry(d, func(e *Entry) { e.Hold = "back" }) }},
		{"slots[0].lanes.middle.load", func(*Document) {}, func(d *Document) { entry(d, func(e *Entry) { e.Load = kit.Nothing }) }},
		{"slots[0].lanes.middle.sides", func(*Document) {}, func(d *Document) { entry(d, func(e *Entry) { e.Sides = "upside-down" }) }},
		{"slots[1].id", func(*Document) {}, func(d *Document) { d.Slots = append(d.Slots, d.Slots[0]) }},
		{"format", func(d *Document) { d.Format = Reps }, func(d *Document) { d.Format = "dance" }},
	} {
		d := base.Clone()
		c.ok(&d)
		assert.NoError(t, d.Check(lib), c.path)
		d = base.Clone()
		c.bad(&d)
		var f fault.Fault
		require.ErrorAs(t, d.Check(lib), &f, c.path)
		assert.Equal(t, c.path, f.Path)
		assert.NotEmpty(t, f.Message)
	}
}

func FuzzDecode(f *testing.F) {
	f.Add([]byte(shapeOne))
	f.Add([]byte(`{"v":1,"slots":null,"bans":null}`))
	f.Fuzz(func(t *testing.T, b []byte) {
		d, err := Decode(b)
		if err != nil || d.Check(moves.Standard()) != nil {
			return
		}
		once, err := Encode(d)
		require.NoError(t, err)
		again, err := Decode(once)
		require.NoError(t, err)
		twice, err := Encode(again)
		require.NoError(t, err)
		require.Equal(t, string(once), string(twice))
	})
}

// several is a document of four slots with three lanes each, all of them different.
func several() Document {
	d := Document{
		V: DocumentVersion, Format: Timed, LeadInMs: 10_000, WorkMs: 40_000, RestMs: 20_000, Rounds: 3,
		RoundRestMs: 60_000, Bans: []string{}, Slots: []Slot{},
	}
	for i, ids := range [][]string{
		{"squat", "goblet-squat", "split-squat"}, {"one-arm-row", "one-arm-row", "one-arm-row"},
		{"floor-bridge", "floor-bridge", "single-leg-floor-bridge"}, {"push-up", "push-up", "push-up"},
	} {
		s := Slot{ID: SlotID(i + 1), Waves: 1, Entries: map[people.Party]Entry{}}
		for k, lane := range moves.Lanes {
			v, _ := moves.Standard().Get(ids[k])
			s.Pattern = v.Pattern
			e := Entry{
				Variant: v.ID,
				Hold:    v.Holds[0],
				Load:    kit.Nothing,
				Anchors: []string{},
				Reps:    8 + k,
				Tempo:   "2-0-2-0",
				Sides:   scheme.BothSides,
			}
			if e.Hold != moves.NoLoad {
				e.Load = kit.Load{Kind: kit.Implements, Item: SlotID(k), Count: 1}
			}
			s.Entries[people.OfLane(lane)] = e
		}
		d.Slots = append(d.Slots, s)
	}
	return d
}

// Undo of any edit restores the document byte for byte.
func TestUndoRestoresEveryByte(t *testing.T) {
	base := several()
	lib := moves.Standard()
	rapid.Check(t, func(t *rapid.T) {
		d := base
		for range rapid.IntRange(1, 8).Draw(t, "edits") {
			op := drawOp(t, d, base)
			before, err := Encode(d)
			require.NoError(t, err)
			next, inverse, err := Apply(d, []Op{op}, lib)
			unchanged, _ := Encode(d)
			require.Equal(t, string(before), string(unchanged), "Apply leaves its argument alone")
			if err != nil {
				continue
			}
			back, again, err := Apply(next, inverse, lib)
			require.NoError(t, err)
			got, _ := Encode(back)
			require.Equal(t, string(before), string(got))
			redo, _, err := Apply(back, again, lib)
			require.NoError(t, err)
			assert.Equal(t, next, redo)
			d = next
		}
	})
}

func drawOp(t *rapid.T, d, base Document) Op {
	ms := measure.Span(rapid.IntRange(0, 700_000).Draw(t, "ms"))
	n := rapid.IntRange(0, 8).Draw(t, "n")
	flag := rapid.Bool().Draw(t, "flag")
	slot := rapid.SampledFrom(base.Slots).Draw(t, "slot")
	lane := rapid.SampledFrom(moves.Lanes).Draw(t, "lane")
	entry := slot.Entries[people.OfLane(lane)]
	entry.Reps, entry.Sides = n+1, scheme.TurnByTurn
	kind := rapid.SampledFrom([]OpKind{SetFormat, SetLeadIn, SetWork, SetRest, SetRounds, SetRoundRest, SetWaves, SetNew, SetEntry, AddSlot, RemoveSlot, MoveSlot, Replace}).Draw(t, "op")
	return Op{Kind: kind, Format: Reps, Ms: &ms, Count: &n, Flag: &flag, SlotID: slot.ID, Party: people.OfLane(lane), Entry: &entry, Slot: &slot, Document: &base}
}

// A comparison is empty for equal documents, names what an edit changed, and
// turned round it is the same list with the sides swapped.
func TestCompareNamesWhatDiffers(t *testing.T) {
	base := several()
	lib := moves.Standard()
	fields := map[OpKind]string{SetFormat: "format", SetLeadIn: "lead-in", SetWork: "work", SetRest: "rest", SetRounds: "rounds", SetRoundRest: "round-rest",
		SetWaves: "waves", SetNew: "new", SetEntry: "entry", RemoveSlot: "slot", MoveSlot: "order"}
	rapid.Check(t, func(t *rapid.T) {
		assert.Empty(t, Compare(base, base.Clone()))
		op := drawOp(t, base, base)
		next, _, err := Apply(base, []Op{op}, lib)
		if err != nil {
			return
		}
		diff := Compare(base, next)
		x, _ := Encode(base)
		y, _ := Encode(next)
		require.Equal(t, string(x) == string(y), len(diff) == 0, "%s", op.Kind)
		for _, d := range diff {
			assert.Equal(t, fields[op.Kind], d.Field)
			if op.Kind != MoveSlot && d.Slot != "" {
				assert.Equal(t, op.SlotID, d.Slot)
			}
		}
		back := Compare(next, base)
		require.Len(t, back, len(diff))
		for _, d := range diff {
			assert.Contains(t, back, Difference{d.Field, d.Slot, d.Pattern, d.Party, d.B, d.A, d.EntryB, d.EntryA})
		}
	})
}
