package room

import (
	"slices"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/measure"
)

// Sitter is somebody who uses a shared bench, and the heights that fit.
type Sitter struct {
	ID  string
	Fit body.Range
}

// Setting is a height of a bench and who uses it so, in the order they came.
type Setting struct {
	Height measure.Length
	People []string
}

// BenchOrder gives the settings of one bench from low to high with the fewest changes:
// as few heights as serve everybody, each the highest that its lowest person still
// allows. Taking the person whose range ends first, and everybody whom that end
// serves, is known to need the fewest points.
func BenchOrder(people []Sitter) []Setting {
	left := slices.Clone(people)
	slices.SortStableFunc(left, func(a, b Sitter) int { return int(a.Fit.To - b.Fit.To) })
	var out []Setting
	for len(left) > 0 {
		s := Setting{Height: left[0].Fit.To}
		left = slices.DeleteFunc(left, func(p Sitter) bool { return p.Fit.Holds(s.Height) })
		for _, p := range people {
			if p.Fit.Holds(s.Height) &&
				!slices.ContainsFunc(out, func(o Setting) bool { return slices.Contains(o.People, p.ID) }) {
				s.People = append(s.People, p.ID)
			}
		}
		out = append(out, s)
	}
	return out
}
