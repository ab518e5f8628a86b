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

// shapeThree is what both come to: prep, teaching and close time themselves.
const shapeThree = `{"v":3,"leadInMs":10000,"bans":["lateral"],"blocks":[` +
	`{"id":"b1","kind":"prep","auto":true,"layout":"together","afterMs":0,"slots":[]},{"id":"b2","kind":"teach","auto":true,"layout":"together","afterMs":0,"slots":[]},` +
	`{"id":"b3","kind":"work","scheme":{"kind":"circuit","circuit":{"format":"timed","workMs":40000,"restMs":20000,"rounds":3,"roundRestMs":60000}},"layout":"together","afterMs":0,` +
	`"slots":[{"id":"s1","pattern":"squat","waves":1,"new":false,"entries":{` +
	`"middle":{"variant":"goblet-squat","hold":"goblet","load":{"kind":"implement","item":"abc","count":1},"anchors":[],"dose":{"kind":"count","low":10,"high":10},"tempo":"2-0-2-0","sides":"both"},` +
	`"reach":{"variant":"goblet-squat","hold":"hugged","load":{"kind":"made","container":"bag","parts":[{"id":"tin","count":18}]},"anchors":[],"dose":{"kind":"count","low":10,"high":10},"tempo":"2-0-2-0","sides":"both"}}}]},` +
	`{"id":"b4","kind":"close","auto":true,"layout":"together","afterMs":0,"slots":[]}]}`

func TestDocumentsReadBack(t *testing.T) {
	for _, shape := range []string{shapeOne, shapeTwo, shapeThree} {
		d, err := Decode([]byte(shape))
		require.NoError(t, err)
		require.NoError(t, d.Check(moves.Standard()))
		b, err := Encode(d)
		require.NoError(t, err)
		assert.Equal(t, shapeThree, string(b))
	}
	for _, bad := range []string{"", "{}", `{"v":4}`, strings.Replace(shapeOne, `"bans"`, `"bams"`, 1), shapeOne[:100], strings.Replace(shapeThree, `"blocks"`, `"slots"`, 1)} {
		_, err := Decode([]byte(bad))
		assert.Error(t, err, bad)
	}
	// Waves were a slot's own; sides in turn over an odd number of rounds made every set as
	// long as the shared one.
	waved, err := Decode([]byte(strings.Replace(shapeTwo, `"waves":1`, `"waves":2`, 1)))
	require.NoError(t, err)
	assert.Equal(t, InWaves, waved.Blocks[2].Layout)
	odd := strings.Replace(strings.Replace(shapeTwo, `"timed"`, `"reps"`, 1), `"sides":"both"`, `"sides":"rounds"`, 1)
	for rounds, even := range map[string]bool{`"rounds":3`: true, `"rounds":4`: false} {
		d, err := Decode([]byte(strings.Replace(odd, `"rounds":3`, rounds, 1)))
		require.NoError(t, err)
		assert.Equal(t, even, d.Blocks[2].Scheme.Circuit.EvenSets, rounds)
	}
}

// Each limit holds at n and refuses n + 1, naming the field.
func TestDocumentLimits(t *testing.T) {
	lib := moves.Standard()
	base, err := Decode([]byte(shapeOne))
	require.NoError(t, err)
	work := func(d *Document) *Block { return &d.Blocks[2] }
	circuit := func(d *Document) *InRounds { return d.Blocks[2].Scheme.Circuit }
	entry := func(d *Document, change func(*Entry)) {
		e := d.Blocks[2].Slots[0].Entries["middle"]
		change(&e)
		d.Blocks[2].Slots[0].Entries["middle"] = e
	}
	slots := func(d *Document, n int) {
		for i := len(work(d).Slots); i < n; i++ {
			s := work(d).Slots[0].clone()
			s.ID = "x" + strings.Repeat("y", i)
			work(d).Slots = append(work(d).Slots, s)
		}
	}
	by := func(s Scheme) func(*Document) {
		return func(d *Document) { work(d).Scheme = &s }
	}
	span := func(ms measure.Span) *measure.Span { return &ms }
	five := []Direction{"right", "left", "forward", "back", "across"}
	for _, c := range []struct {
		path    string
		ok, bad func(*Document)
	}{
		{"blocks[2].scheme.circuit.rounds", func(d *Document) { circuit(d).Rounds = MaxRounds }, func(d *Document) { circuit(d).Rounds = MaxRounds + 1 }},
		{"blocks[2].scheme.circuit.rounds", func(d *Document) { circuit(d).Rounds = 1 }, func(d *Document) { circuit(d).Rounds = 0 }},
		{"blocks[2].scheme.circuit.workMs", func(d *Document) { circuit(d).WorkMs = MaxStretch }, func(d *Document) { circuit(d).WorkMs = MaxStretch + 1 }},
		{"blocks[2].scheme.circuit.workMs", func(d *Document) { circuit(d).WorkMs = 5000 }, func(d *Document) { circuit(d).WorkMs = 4999 }},
		{"blocks[2].scheme.circuit.restMs", func(d *Document) { circuit(d).RestMs = 0 }, func(d *Document) { circuit(d).RestMs = -1 }},
		{"blocks[2].scheme.circuit.format", func(d *Document) { circuit(d).Format = Reps }, func(d *Document) { circuit(d).Format = "dance" }},
		{"blocks[2].scheme.sets", by(Scheme{Kind: "sets", Sets: &InSets{Sets: 3}}), by(Scheme{Kind: "sets"})},
		{"blocks[2].scheme.circuit", by(Scheme{Kind: "sets", Sets: &InSets{Sets: 3}}), by(Scheme{Kind: "sets", Sets: &InSets{Sets: 3}, Circuit: &InRounds{}})},
		{"blocks[2].scheme.kind", func(*Document) {}, by(Scheme{Kind: "dance"})},
		{"blocks[2].scheme", func(*Document) {}, func(d *Document) { work(d).Scheme = nil }},
		{"blocks[2].scheme.chain.sides", by(Scheme{Kind: "chain", Chain: &InChain{Rounds: 1, Sides: 2}}), by(Scheme{Kind: "chain", Chain: &InChain{Rounds: 1, Sides: 3}})},
		{"blocks[2].scheme.interval.everyMs", by(Scheme{Kind: "interval", Interval: &InIntervals{60_000, 10}}), by(Scheme{Kind: "interval", Interval: &InIntervals{4999, 10}})},
		{"blocks[2].scheme.window.windowMs", by(Scheme{Kind: "window", Window: &InWindow{MaxWindow}}), by(Scheme{Kind: "window", Window: &InWindow{MaxWindow + 1}})},
		{"blocks[2].scheme.ladder.rungs[1]", by(Scheme{Kind: "ladder", Ladder: &InRungs{Rungs: []int{1, MaxReps}}}), by(Scheme{Kind: "ladder", Ladder: &InRungs{Rungs: []int{1, 0}}})},
		{"blocks[2].scheme.drop.changeMs", by(Scheme{Kind: "drop", Drop: &InStages{0}}), by(Scheme{Kind: "drop", Drop: &InStages{-1}})},
		{"blocks[2].scheme.superset.rounds", by(Scheme{Kind: "superset", Superset: &InGroups{1, 0}}), by(Scheme{Kind: "superset", Superset: &InGroups{0, 0}})},
		{"blocks[2].scheme.called.words[1]", by(Scheme{Kind: "called", Called: &CalledOut{45_000, 3000, 1, five}}), by(Scheme{Kind: "called", Called: &CalledOut{45_000, 3000, 1, []Direction{"right", "up"}}})},
		{"blocks", func(d *Document) { slots(d, MaxSlots) }, func(d *Document) {
			slots(d, MaxSlots)
			work(d).Slots[0].ID = "z"
			d.Blocks = append(d.Blocks, Block{ID: "b9", Kind: Finisher, Layout: Together, Scheme: work(d).Scheme, Slots: work(&base).Slots})
		}},
		{"blocks[4].id", func(*Document) {}, func(d *Document) {
			d.Blocks = append(d.Blocks, Block{ID: "b1", Kind: Close, Auto: true, Layout: Together})
		}},
		{"blocks[0].kind", func(d *Document) { d.Blocks[0].Kind = Teach }, func(d *Document) { d.Blocks[0].Kind = "nap" }},
		{"blocks[2].auto", func(*Document) {}, func(d *Document) { work(d).Auto = true; work(d).Scheme = nil; work(d).Slots = nil }},
		{"blocks[0].slots", func(*Document) {}, func(d *Document) { d.Blocks[0].Slots = []Slot{{ID: "a", Pattern: "squat", Waves: 1}} }},
		{"blocks[2].layout", func(d *Document) { work(d).Layout = InWaves }, func(d *Document) { work(d).Layout = "heap" }},
		{"blocks[2].afterMs", func(d *Document) { work(d).AfterMs = MaxStretch }, func(d *Document) { work(d).AfterMs = MaxStretch + 1 }},
		{"blocks[2].slots[0].waves", func(d *Document) { work(d).Layout = InWaves; work(d).Slots[0].Waves = MaxWaves }, func(d *Document) { work(d).Slots[0].Waves = 2 }},
		{"blocks[2].slots[0].sets", func(d *Document) { by(Scheme{Kind: "sets", Sets: &InSets{Sets: 3}})(d); work(d).Slots[0].Sets = 5 }, func(d *Document) { work(d).Slots[0].Sets = 5 }},
		{"blocks[2].slots[0].workMs", func(d *Document) { work(d).Slots[0].WorkMs = span(50_000) }, func(d *Document) { work(d).Slots[0].WorkMs = span(4000) }},
		{"blocks[2].slots[0].restMs", func(d *Document) { work(d).Slots[0].RestMs = span(0) }, func(d *Document) { by(Scheme{Kind: "drop", Drop: &InStages{0}})(d); work(d).Slots[0].RestMs = span(0) }},
		{"blocks[2].slots[0].entries.middle.dose.high", func(d *Document) { entry(d, func(e *Entry) { e.Dose = Times(MaxReps) }) }, func(d *Document) { entry(d, func(e *Entry) { e.Dose = Dose{Kind: Count, Low: 10, High: 9} }) }},
		{"blocks[2].slots[0].entries.middle.dose.ms", func(d *Document) { entry(d, func(e *Entry) { e.Dose = Dose{Kind: Seconds, Ms: 45_000} }) }, func(d *Document) { entry(d, func(e *Entry) { e.Dose = Dose{Kind: Seconds} }) }},
		{"blocks[2].slots[0].entries.middle.dose.kind", func(d *Document) { entry(d, func(e *Entry) { e.Dose = Dose{Kind: ToFailure, Low: 10, High: 15} }) }, func(d *Document) { entry(d, func(e *Entry) { e.Dose.Kind = "plenty" }) }},
		{"blocks[2].slots[0].entries.middle.load.count", func(d *Document) { entry(d, func(e *Entry) { e.Load.Count = 500 }) }, func(d *Document) { entry(d, func(e *Entry) { e.Load.Count = 501 }) }},
		{"blocks[2].slots[0].entries.middle.tempo", func(d *Document) { entry(d, func(e *Entry) { e.Tempo = "0-0-1-0" }) }, func(d *Document) { entry(d, func(e *Entry) { e.Tempo = "" }) }},
		{"blocks[2].slots[0].entries.middle.parts", func(d *Document) { entry(d, func(e *Entry) { e.Tempo, e.Parts = "", []Part{{"squat", 2, 4000}} }) }, func(d *Document) { entry(d, func(e *Entry) { e.Parts = []Part{{"squat", 2, 4000}} }) }},
		{"blocks[2].slots[0].entries.middle.first", func(d *Document) { entry(d, func(e *Entry) { e.First = scheme.Right }) }, func(d *Document) { entry(d, func(e *Entry) { e.First = scheme.Both }) }},
		{"blocks[2].slots[0].entries.middle.variant", func(*Document) {}, func(d *Document) { entry(d, func(e *Entry) { e.Variant = "moon-walk" }) }},
		{"blocks[2].slots[0].entries.middle.hold", func(*Document) {}, func(d *Document) { entry(d, func(e *Entry) { e.Hold = "back" }) }},
		{"blocks[2].slots[0].entries.middle.load", func(*Document) {}, func(d *Document) { entry(d, func(e *Entry) { e.Load = kit.Nothing }) }},
		{"blocks[2].slots[0].entries.middle.sides", func(*Document) {}, func(d *Document) { entry(d, func(e *Entry) { e.Sides = "upside-down" }) }},
		{"blocks[2].slots[1].id", func(*Document) {}, func(d *Document) { work(d).Slots = append(work(d).Slots, work(d).Slots[0]) }},
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
	f.Add([]byte(shapeThree))
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

// several is a document of four blocks of slots with three lanes each, all of them
// different, between its prep and its close.
func several() Document {
	d := Single{Format: Timed, LeadInMs: 10_000, WorkMs: 40_000, RestMs: 20_000, Rounds: 3, RoundRestMs: 60_000}
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
				Dose:    Times(8 + k),
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
	out := d.Document().Clone()
	work := &out.Blocks[2]
	for n, x := range []Scheme{
		{Kind: "sets", Sets: &InSets{3, 90_000, 120_000}}, {Kind: "window", Window: &InWindow{300_000}}, {Kind: "ladder", Ladder: &InRungs{[]int{1, 2, 3}, 10_000, 0}},
	} {
		out.Blocks = append(out.Blocks, Block{ID: out.FreeBlockID(), Kind: Work, Scheme: &x, Layout: Together, AfterMs: 30_000, Slots: []Slot{work.Slots[n+1]}})
	}
	work = &out.Blocks[2]
	work.Slots, work.Layout = work.Slots[:1], InWaves
	out.Blocks[4].Slots[0].Sets = 4
	return out.Clone()
}

// Undo of any edit restores the document byte for byte.
func TestUndoRestoresEveryByte(t *testing.T) {
	base := several()
	lib := moves.Standard()
	require.NoError(t, base.Check(lib))
	done := map[OpKind]int{}
	rapid.Check(t, func(t *rapid.T) {
		d := base
		for range rapid.IntRange(1, 8).Draw(t, "edits") {
			op := drawOp(t, base)
			before, err := Encode(d)
			require.NoError(t, err)
			next, inverse, err := Apply(d, []Op{op}, lib)
			unchanged, _ := Encode(d)
			require.Equal(t, string(before), string(unchanged), "Apply leaves its argument alone")
			if err != nil {
				continue
			}
			done[op.Kind]++
			back, again, err := Apply(next, inverse, lib)
			require.NoError(t, err)
			got, _ := Encode(back)
			require.Equal(t, string(before), string(got))
			redo, _, err := Apply(back, again, lib)
			require.NoError(t, err)
			assert.Equal(t, next, redo)
			// What is kept is read as it was written.
			kept, _ := Encode(next)
			read, err := Decode(kept)
			require.NoError(t, err)
			require.Equal(t, next, read)
			d = next
		}
	})
	for _, kind := range OpKinds {
		assert.Positive(t, done[kind], "%s was never done", kind)
	}
}

func drawOp(t *rapid.T, base Document) Op {
	ms := measure.Span(rapid.IntRange(0, 620_000).Draw(t, "ms"))
	n := rapid.IntRange(0, 4).Draw(t, "n")
	flag := rapid.Bool().Draw(t, "flag")
	slot := rapid.SampledFrom(base.Slots()).Draw(t, "slot")
	block := rapid.SampledFrom(base.Blocks).Draw(t, "block").clone()
	kind := rapid.SampledFrom(OpKinds).Draw(t, "op")
	if kind == AddSlot || kind == MoveSlot { // where slots may stand
		block, n = base.Blocks[rapid.SampledFrom([]int{2, 4, 5, 6}).Draw(t, "into")].clone(), n%2
	}
	lane := people.OfLane(rapid.SampledFrom(moves.Lanes).Draw(t, "lane"))
	entry := slot.Entries[lane]
	entry.Dose, entry.Sides = Times(n+1), scheme.TurnByTurn
	op := Op{Kind: kind, SlotID: slot.ID, BlockID: block.ID, Party: lane}
	switch op.Kind {
	case SetLeadIn, SetAfter:
		op.Ms = &ms
	case SetScheme:
		op.Scheme = base.Blocks[rapid.SampledFrom([]int{2, 4, 5, 6}).Draw(t, "scheme")].Scheme.clone()
	case SetKind:
		op.Of = rapid.SampledFrom(BlockKinds).Draw(t, "kind")
	case SetLayout:
		op.Layout = rapid.SampledFrom(Layouts).Draw(t, "layout")
	case SetWaves, MoveBlock, MoveSlot:
		op.Count = &n
	case SetNew, SetPin:
		op.Flag = &flag
	case SetDay:
		op.Day = &Day{}
		if flag {
			op.Day = &Day{Absent: []people.Party{"0000000000000000000000000a"}, Fewer: []Fewer{{moves.Reach, n + 1}}, Missing: []Missing{{"kb16", n + 1}}}
		}
	case SetOwn:
		op.Own = &Own{RestMs: &ms}
	case SetEntry:
		op.Entry = &entry
	case AddSlot:
		op.Slot, op.Count = &slot, &n
		if flag {
			slot.ID = "new"
		}
	case AddBlock:
		op.Block, op.Count = &block, &n
		if flag {
			block.ID = "new"
			for i := range block.Slots {
				block.Slots[i].ID += "-new"
			}
		}
	case Replace:
		op.Document = &base
	}
	for _, field := range op.strange() {
		switch field {
		case "blockId":
			op.BlockID = ""
		case "slotId":
			op.SlotID = ""
		case "party":
			op.Party = ""
		}
	}
	return op
}

// A comparison is empty for equal documents, names what an edit changed, and
// turned round it is the same list with the sides swapped.
func TestCompareNamesWhatDiffers(t *testing.T) {
	base := several()
	lib := moves.Standard()
	fields := map[OpKind][]string{
		SetLeadIn: {"lead-in"}, SetKind: {"kind"}, SetLayout: {"layout"}, SetAfter: {"after"}, SetWaves: {"waves"}, SetNew: {"new"}, SetPin: {"pinned"}, SetEntry: {"entry"}, ClearEntry: {"entry"},
		SetOwn: {"own-rest", "own-sets"}, SetDay: {"absent", "missing"}, AddBlock: {"block", "slot"}, RemoveBlock: {"block", "slot"}, MoveBlock: {"order"}, AddSlot: {"slot"}, RemoveSlot: {"slot"}, MoveSlot: {"order"},
		SetScheme: {"scheme", "rest", "between", "rounds", "sets", "sides", "side-change", "window", "rungs", "change"},
	}
	rapid.Check(t, func(t *rapid.T) {
		assert.Empty(t, Compare(base, base.Clone()))
		op := drawOp(t, base)
		next, _, err := Apply(base, []Op{op}, lib)
		if err != nil {
			return
		}
		diff := Compare(base, next)
		x, _ := Encode(base)
		y, _ := Encode(next)
		require.Equal(t, string(x) == string(y), len(diff) == 0, "%s", op.Kind)
		for _, d := range diff {
			assert.Contains(t, fields[op.Kind], d.Field, op.Kind)
		}
		back := Compare(next, base)
		require.Len(t, back, len(diff))
		for _, d := range diff {
			turned := Difference{d.Field, d.Block, d.Kind, d.Slot, d.Pattern, d.Party, d.B, d.A, d.EntryB, d.EntryA}
			if op.Kind == MoveSlot || op.Kind == SetKind {
				// It stands in another block, or in one of another kind, there.
				turned.Block, turned.Kind = "", ""
				for i := range back {
					back[i].Block, back[i].Kind = "", ""
				}
			}
			assert.Contains(t, back, turned)
		}
	})
}

// Edits of a past shape are told by what they did, and the document that they led from
// stands for what undoes them.
func TestPastEdits(t *testing.T) {
	kinds, variants := Told([]byte(`[{"op":"set-work","ms":30000},{"op":"set-entry","slotId":"s1","lane":"middle","entry":{"variant":"squat","reps":8}},{"op":"set-waves","count":2}]`))
	assert.Equal(t, []OpKind{SetScheme, SetEntry, SetWaves}, kinds)
	assert.Equal(t, []string{"squat"}, variants)
	target := several()
	ops, err := Undoing([]byte(shapeTwo), []byte(`[{"op":"set-work","ms":30000}]`), target)
	require.NoError(t, err)
	back, _, err := Apply(several(), ops, moves.Standard())
	require.NoError(t, err)
	assert.Equal(t, target, back)
	_, err = Undoing([]byte(shapeThree), []byte(`[{"op":"set-waves","lane":"middle"}]`), target)
	assert.Error(t, err, "today's edits are read strictly")
}
