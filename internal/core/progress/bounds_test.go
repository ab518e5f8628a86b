package progress

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/strength"
)

// One step of load a week (house): a load is as old as its first day in use, however often
// it was used since, and one that came down again is a load of its own.
func TestLoadIsAsOldAsItsFirstDay(t *testing.T) {
	at := func(day int, load measure.Mass) Line {
		return Line{Day: day, Load: load, Set: strength.Set{Planned: 10, Done: 10, InForm: 10}}
	}
	stepped := func(day int, lines ...Line) bool { return Case{Day: day}.steppedThisWeek(lines) }
	assert.True(t, stepped(8, at(1, 12_000), at(2, 16_000)), "six days old")
	assert.False(t, stepped(9, at(1, 12_000), at(2, 16_000)), "a week old")
	assert.False(t, stepped(9, at(1, 12_000), at(2, 16_000), at(5, 16_000)), "used again since")
	assert.False(t, stepped(9, at(2, 16_000), at(5, 16_000)), "nothing lighter before")
	assert.True(t, stepped(9, at(1, 16_000), at(2, 12_000), at(3, 16_000)))
}

// A sheet goes on the person's past; a drop-in, whom nobody knows, has none but their own;
// a lane's is nobody's.
func TestWhosePastASheetGoesOn(t *testing.T) {
	assert.Equal(t, "", Sheet{Subject: people.OfLane(moves.Ground)}.who())
	assert.Equal(t, "person1", Sheet{Subject: "participant1", Who: "person1"}.who())
	assert.Equal(t, "participant2", Sheet{Subject: "participant2"}.who())
}
