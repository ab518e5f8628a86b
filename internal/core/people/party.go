package people

import (
	"regexp"
	"slices"

	"nimbleanvil/internal/core/moves"
)

// Party is who an entry is for: a lane, or a participant of the class by their id there. It
// is never a person: who a participant is, only the class knows.
type Party string

// OfLane is the party that a lane is.
func OfLane(l moves.Lane) Party { return Party(l) }

// Lane tells which lane a party is; ok is false for a participant.
func (p Party) Lane() (l moves.Lane, ok bool) {
	if l = moves.Lane(p); !slices.Contains(moves.Lanes, l) {
		return "", false
	}
	return l, true
}

// IsLane tells whether a party is a lane.
func (p Party) IsLane() bool {
	_, lane := p.Lane()
	return lane
}

var participantID = regexp.MustCompile(`^[0-9a-z]{26}$`)

// Known tells whether it can be a party at all.
func (p Party) Known() bool {
	_, lane := p.Lane()
	return lane || participantID.MatchString(string(p))
}

// Parties puts parties in order: lanes from Ground up, then participants by id.
func Parties[T any](of map[Party]T) []Party {
	var out []Party
	for _, l := range moves.Lanes {
		if _, ok := of[OfLane(l)]; ok {
			out = append(out, OfLane(l))
		}
	}
	lanes := len(out)
	for p := range of {
		if _, lane := p.Lane(); !lane {
			out = append(out, p)
		}
	}
	slices.Sort(out[lanes:])
	return out
}
