package compose

import "nimbleanvil/internal/core/moves"

// template are the places of a circuit; each lists the patterns that may stand there.
// A longer class gets the places of more besides.
var (
	template = [][]moves.Pattern{
		{moves.Squat},
		{moves.Pull},
		{moves.Bridge},
		{moves.PushLevel, moves.PushOverhead},
		{moves.Lunge, moves.Lateral},
		{moves.TrunkTurn, moves.TrunkBrace, moves.Carry},
		{moves.Hinge},
	}
	more = [][]moves.Pattern{
		{moves.Lateral, moves.Lunge},
		{moves.PushOverhead, moves.PushLevel},
		{moves.TrunkBrace, moves.Carry, moves.TrunkTurn},
		{moves.Bridge, moves.Hinge},
		{moves.Pull},
		{moves.Squat, moves.Lunge},
		{moves.Carry, moves.TrunkBrace, moves.TrunkTurn},
	}
)
