package moves

import (
	"maps"
	"slices"
	"strings"
)

// HoldID names a way of holding a load.
type HoldID string

// Hold says how many equal implements a hold takes and which kinds suit it.
type Hold struct {
	ID HoldID
	// Count of equal implements; 0 for no load.
	Count int
	// Kinds of implement that suit it.
	Kinds []string
	// Objects says which use of a household object suits it: "grip" (a handle or
	// neck to close the hand round), "hug" (held against the body), or neither.
	Grip, Hug bool
	// Bag tells whether a packed container may be held so.
	Bag bool
	// Pad tells whether the load needs a pad, strap or bag put on and off.
	Pad bool
	// Low tells whether the load stays at the hip or below.
	Low bool
	// OneHand tells whether one hand carries it all: steps go by iron alone.
	OneHand bool
}

// NoLoad is the hold of a move without a load.
const NoLoad HoldID = "none"

var iron = []string{"kettlebell", "dumbbell"}

// Made-up loads and objects are never held overhead or over the face: the
// holds rack and press take iron only.
var holds = map[HoldID]Hold{
	NoLoad:         {ID: NoLoad},
	"goblet":       {ID: "goblet", Count: 1, Kinds: iron, Grip: true, Hug: true},
	"hugged":       {ID: "hugged", Count: 1, Hug: true, Bag: true},
	"rack-one":     {ID: "rack-one", Count: 1, OneHand: true, Kinds: iron},
	"rack-two":     {ID: "rack-two", Count: 2, Kinds: iron},
	"suitcase-one": {ID: "suitcase-one", Low: true, Count: 1, OneHand: true, Kinds: iron, Grip: true, Bag: true},
	"suitcase-two": {ID: "suitcase-two", Low: true, Count: 2, Kinds: iron, Grip: true},
	"hung-one":     {ID: "hung-one", Low: true, Count: 1, Kinds: iron, Grip: true, Bag: true},
	"hung-two":     {ID: "hung-two", Low: true, Count: 2, Kinds: iron, Grip: true},
	"row-one":      {ID: "row-one", Count: 1, OneHand: true, Kinds: iron, Grip: true, Bag: true},
	"row-two":      {ID: "row-two", Count: 2, Kinds: iron, Grip: true},
	"press-one":    {ID: "press-one", Count: 1, OneHand: true, Kinds: iron},
	"press-two":    {ID: "press-two", Count: 2, Kinds: iron},
	"swing":        {ID: "swing", Count: 1, Kinds: []string{"kettlebell"}},
	"swing-head":   {ID: "swing-head", Count: 1, Kinds: []string{"dumbbell"}},
	"swing-one":    {ID: "swing-one", Count: 1, OneHand: true, Kinds: []string{"kettlebell"}},
	"bag-grip":     {ID: "bag-grip", Count: 1, Bag: true},
	"by-heads":     {ID: "by-heads", Count: 1, Kinds: iron},
	"bar-back":     {ID: "bar-back", Count: 1, Kinds: []string{"barbell"}},
	"bar-hung":     {ID: "bar-hung", Count: 1, Kinds: []string{"barbell"}},
	"horns":        {ID: "horns", Count: 1, Kinds: []string{"kettlebell"}},
	"hips":         {ID: "hips", Low: true, Count: 1, Kinds: iron, Hug: true, Bag: true, Pad: true},
	"back":         {ID: "back", Count: 1, Bag: true, Pad: true},
}

// HoldIDs lists the ways of holding by name.
func HoldIDs() []HoldID { return slices.Sorted(maps.Keys(holds)) }

// HoldOf looks a hold up.
func HoldOf(id HoldID) (Hold, bool) {
	h, ok := holds[id]
	return h, ok
}

// Suits tells whether a kind of implement suits the hold.
func (h Hold) Suits(kind string) bool { return slices.Contains(h.Kinds, kind) }

var anchors = map[string][]string{
	"seat":      {"box", "bench"},
	"step":      {"box", "bench"},
	"bench":     {"bench"},
	"edge":      {"bench", "box", "table"},
	"foot-rest": {"box", "bench"},
	"table":     {"table"},
	"band":      {"band"},
	"wedge":     {"wedge", "plate"},
	// Of the room.
	"wall": {"wall"}, "post": {"post", "door"}, "mat": {"mat"},
	"smooth-floor": {"smooth-floor"}, "low-foot-hold": {"foot-hold"},
	// To anchor a band to.
	"door-top": {"door"}, "door-middle": {"door", "post"}, "door-foot": {"door", "post"},
}

// DoorPoint is the point of a door that a need names.
func DoorPoint(need string) (point string, ok bool) { return strings.CutPrefix(need, "door-") }

// AnchorKinds lists the kinds of implement that serve as an anchor, the best
// first.
func AnchorKinds(need string) []string { return anchors[need] }
