package why

// Code names a kind of reason. The interface has a text for every one.
type Code string

// The codes.
const (
	ResistanceSum Code = "resistance-sum"

	LoadStart        Code = "load-start"
	LoadCeiling      Code = "load-ceiling"
	LoadChosen       Code = "load-chosen"
	LoadBody         Code = "load-body"
	LoadNone         Code = "load-none"
	LoadGroundOneLeg Code = "load-ground-one-leg"
	NeverUpGround    Code = "never-up-ground"
	NeverUpMove      Code = "never-up-move"

	RepairMoreReps       Code = "repair-more-reps"
	RepairFewerReps      Code = "repair-fewer-reps"
	RepairSlower         Code = "repair-slower"
	RepairPause          Code = "repair-pause"
	SubstituteResistance Code = "substitute-resistance"
	SubstituteIron       Code = "substitute-iron"
	SubstituteShort      Code = "substitute-short"

	RepsByClock Code = "reps-by-clock"
	TimeByReps  Code = "time-by-reps"
	TimeTotal   Code = "time-total"
	ChangeOver  Code = "change-over"
	RestPlanned Code = "rest-planned"
	RestGrown   Code = "rest-grown"

	NoteLeftOut  Code = "note-left-out"
	NoteReplaced Code = "note-replaced"
	NoteHomeSwap Code = "note-home-swap"
	RelaxBans    Code = "relax-bans"
	RelaxMinutes Code = "relax-minutes"
	RelaxPlaces  Code = "relax-places"

	FlagTooLong   Code = "flag-too-long"
	FlagNoPattern Code = "flag-no-pattern"
	FlagUneven    Code = "flag-uneven"
	FlagLegsTwice Code = "flag-legs-twice"
	FlagWeakLink  Code = "flag-weak-link"
	FlagShort     Code = "flag-short"
	FlagNoRep     Code = "flag-no-rep"
	FlagRoundedUp Code = "flag-rounded-up"
	FlagHeavy     Code = "flag-heavy"
	FlagSides     Code = "flag-sides"
	FlagAnchor    Code = "flag-anchor"

	GateHalfBody Code = "gate-half-body"

	BridgeNow       Code = "bridge-now"
	BridgeReady     Code = "bridge-ready"
	BridgeNeeded    Code = "bridge-needed"
	BridgeLimits    Code = "bridge-limits"
	BridgeIronAlone Code = "bridge-iron-alone"
	BridgePredicted Code = "bridge-predicted"

	GrossFromNet   Code = "gross-from-net"
	MassFromVolume Code = "mass-from-volume"
	MassOfKind     Code = "mass-of-kind"

	TipsTable   Code = "tips-table"
	AnchorHolds Code = "anchor-holds"

	NeedCircuit Code = "need-circuit"
	NeedKitGone Code = "need-kit-gone"
	NeedLane    Code = "need-lane"

	VerdictFormLost    Code = "verdict-form-lost"
	VerdictHeavy       Code = "verdict-heavy"
	VerdictFarTooLight Code = "verdict-far-too-light"
	VerdictLight       Code = "verdict-light"
	VerdictRight       Code = "verdict-right"
	VerdictAtLimit     Code = "verdict-at-limit"

	AdviceKeep      Code = "advice-keep"
	AdviceKeepLimit Code = "advice-keep-limit"
	AdviceWatch     Code = "advice-watch"
	AdviceNextLoad  Code = "advice-next-load"
	AdviceMoreReps  Code = "advice-more-reps"
	AdviceRepsOnly  Code = "advice-reps-only"
	AdviceNextRung  Code = "advice-next-rung"
	AdviceLessLoad  Code = "advice-less-load"
	AdviceRungDown  Code = "advice-rung-down"
	AdviceStopMove  Code = "advice-stop-move"
	AdviceOffPlan   Code = "advice-off-plan"
)

// Codes lists every code, for the contract of the interface.
var Codes = []Code{
	ResistanceSum, LoadStart, LoadCeiling, LoadChosen, LoadBody, LoadNone, LoadGroundOneLeg, NeverUpGround, NeverUpMove,
	RepairMoreReps, RepairFewerReps, RepairSlower, RepairPause, SubstituteResistance, SubstituteIron, SubstituteShort,
	RepsByClock, TimeByReps, TimeTotal, ChangeOver, RestPlanned, RestGrown,
	NoteLeftOut, NoteReplaced, NoteHomeSwap, RelaxBans, RelaxMinutes, RelaxPlaces,
	FlagTooLong, FlagNoPattern, FlagUneven, FlagLegsTwice, FlagWeakLink, FlagShort, FlagNoRep, FlagRoundedUp, FlagHeavy, FlagSides, FlagAnchor,
	GateHalfBody, BridgeNow, BridgeReady, BridgeNeeded, BridgeLimits, BridgeIronAlone, BridgePredicted, TipsTable, AnchorHolds, GrossFromNet, MassFromVolume, MassOfKind, NeedCircuit, NeedKitGone, NeedLane,
	VerdictFormLost, VerdictHeavy, VerdictFarTooLight, VerdictLight, VerdictRight, VerdictAtLimit,
	AdviceKeep, AdviceKeepLimit, AdviceWatch, AdviceNextLoad, AdviceMoreReps, AdviceRepsOnly, AdviceNextRung, AdviceLessLoad, AdviceRungDown,
	AdviceStopMove, AdviceOffPlan,
}
