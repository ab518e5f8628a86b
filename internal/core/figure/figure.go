// Package figure draws start and end of a movement as a stick figure: joint
// angles from data, segment lengths as fractions of stature.
package figure

import (
	"embed"
	"encoding/json"
	"math"
	"sync"
)

// Lengths of segments as fractions of stature: thigh, shank, foot, hip to
// shoulder from Drillis & Contini 1966 as in Winter, Biomechanics and Motor
// Control of Human Movement, 4th ed., fig. 4.1; upper arm .186, forearm .146 and
// hand .108 from the same (from memory). The head is a circle of .065 (house).
const (
	thigh    = .245
	shank    = .246
	foot     = .152
	footHigh = .039
	trunk    = .288
	upperArm = .186
	forearm  = .146
	hand     = .054 // to the middle of the hand, where a load hangs
	neck     = .117
	headSize = .065
)

//go:embed data/*.json
var data embed.FS

// Pose is a position by the directions of its segments in degrees: 0 to the
// front, 90 up. Near and Far are thigh and shank of each leg, Arm and FarArm
// upper arm and forearm.
type Pose struct {
	Say    string     `json:"say"`
	Trunk  float64    `json:"trunk"`
	Head   *float64   `json:"head"`
	Near   [2]float64 `json:"near"`
	Far    [2]float64 `json:"far"`
	Arm    [2]float64 `json:"arm"`
	FarArm [2]float64 `json:"farArm"`
	Foot   float64    `json:"foot"`
	// Lift is how far the lowest joint stays over the floor, in thousandths of
	// stature: somebody stands on something.
	Lift  float64 `json:"lift"`
	Props []prop  `json:"props"`
}

// prop is a thing that stands at a joint; in thousandths of stature.
type prop struct {
	Kind string `json:"kind"`
	At   string `json:"at"`
	DX   int    `json:"dx"`
	W    int    `json:"w"`
	H    int    `json:"h"`
}

// Line is one limb or the trunk, from joint to joint, in thousandths of stature,
// x to the front and y down from the top of the drawing.
type Line struct {
	Part   string   `json:"part"`
	Points [][2]int `json:"points"`
}

// Box is a thing in the drawing: a seat, a step, a wall, a post, an edge.
type Box struct {
	Kind string `json:"kind"`
	X    int    `json:"x"`
	Y    int    `json:"y"`
	W    int    `json:"w"`
	H    int    `json:"h"`
}

// Drawing is a pose laid out on a floor.
type Drawing struct {
	Say    string `json:"say"` // the position in words
	Width  int    `json:"width"`
	Height int    `json:"height"` // the floor lies here
	Head   [3]int `json:"head"`   // centre and radius
	Lines  []Line `json:"lines"`
	Boxes  []Box  `json:"boxes"`
}

// Figure is the start and the end of a movement.
type Figure struct {
	Start Drawing `json:"start"`
	End   Drawing `json:"end"`
}

type point struct{ x, y float64 }

func (p point) to(deg, long float64) point {
	r := deg * math.Pi / 180
	return point{p.x + long*math.Cos(r), p.y + long*math.Sin(r)}
}

// Draw lays a pose out: the hip is the root, and the lowest joint, or the sole
// under it, touches the floor.
func Draw(p Pose) Drawing {
	hip := point{}
	shoulder := hip.to(p.Trunk, trunk)
	headAngle := p.Trunk
	if p.Head != nil {
		headAngle = *p.Head
	}
	joints := map[string]point{"hip": hip, "shoulder": shoulder, "head": shoulder.to(headAngle, neck)}
	leg := func(name string, a [2]float64) []point {
		knee := hip.to(a[0], thigh)
		ankle := knee.to(a[1], shank)
		joints[name+"knee"], joints[name+"ankle"] = knee, ankle
		// The foot is at right angles to the shank where it hangs, flat where the
		// shank stands.
		toes := ankle.to(p.Foot, foot*.75)
		if math.Abs(a[1]+90) > 45 {
			toes = ankle.to(a[1]+90, foot*.75)
		}
		return []point{hip, knee, ankle, toes}
	}
	arm := func(name string, a [2]float64) []point {
		elbow := shoulder.to(a[0], upperArm)
		joints[name] = elbow.to(a[1], forearm+hand)
		return []point{shoulder, elbow, joints[name]}
	}
	parts := []struct {
		name   string
		points []point
	}{{"far-leg", leg("far", p.Far)}, {"far-arm", arm("farHand", p.FarArm)}, {"trunk", []point{hip, joints["head"]}}, {"near-leg", leg("", p.Near)}, {"near-arm", arm("hand", p.Arm)}}
	low, left, right, top := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	see := func(x, y float64) {
		low, left, right, top = math.Min(low, y), math.Min(left, x), math.Max(right, x), math.Max(top, y)
	}
	for _, part := range parts {
		for i, q := range part.points {
			sole := 0.0
			if len(part.points) == 4 && i == 2 && math.Abs(angle(part.points[1], q)+90) <= 45 {
				sole = footHigh
			}
			see(q.x, q.y-sole)
		}
	}
	low -= p.Lift / 1000
	see(joints["head"].x-headSize, joints["head"].y-headSize)
	see(joints["head"].x+headSize, joints["head"].y+headSize)
	const margin = .05
	at := func(q point) [2]int {
		return [2]int{thousandths(q.x - left + margin), thousandths(top + margin - q.y)}
	}
	d := Drawing{
		Say:    p.Say,
		Width:  thousandths(right - left + 2*margin),
		Height: thousandths(top - low + margin),
		Lines:  []Line{},
		Boxes:  []Box{},
	}
	for _, part := range parts {
		l := Line{Part: part.name}
		for _, q := range part.points {
			l.Points = append(l.Points, at(q))
		}
		d.Lines = append(d.Lines, l)
	}
	h := at(joints["head"])
	d.Head = [3]int{h[0], h[1], thousandths(headSize)}
	for _, b := range p.Props {
		d.Boxes = append(d.Boxes, place(b, at(joints[b.At]), d.Height))
	}
	return d
}

// place stands a thing on the floor under, behind or before a joint; an edge
// hangs at its height.
func place(b prop, at [2]int, floor int) Box {
	out := Box{Kind: b.Kind, X: at[0] + b.DX, W: b.W}
	switch {
	case b.Kind == "edge":
		out.Y, out.H = at[1]-b.H, b.H
	case b.Kind == "box" && b.H <= 0: // its top carries the joint
		out.Y = at[1] - b.H
		out.H = floor - out.Y
	default:
		out.Y, out.H = floor-b.H, b.H
	}
	return out
}

func angle(a, b point) float64 { return math.Atan2(b.y-a.y, b.x-a.x) * 180 / math.Pi }

func thousandths(x float64) int { return int(math.Round(x * 1000)) }

var all = sync.OnceValue(func() map[string]Figure {
	var poses map[string]Pose
	var figures map[string][2]string
	for name, into := range map[string]any{"data/poses.json": &poses, "data/figures.json": &figures} {
		b, err := data.ReadFile(name)
		if err == nil {
			err = json.Unmarshal(b, into)
		}
		if err != nil {
			panic(err) // embedded, checked by the tests
		}
	}
	out := map[string]Figure{}
	for id, f := range figures {
		out[id] = Figure{Draw(poses[f[0]]), Draw(poses[f[1]])}
	}
	return out
})

// Of gives the figure of a variant, where there is one.
func Of(id string) (Figure, bool) {
	f, ok := all()[id]
	return f, ok
}
