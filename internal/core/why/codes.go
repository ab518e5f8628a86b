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
	SubstituteUncompared Code = "substitute-uncompared"
	SubstituteShort      Code = "substitute-short"

	RepsByClock Code = "reps-by-clock"
	TimeByReps  Code = "time-by-reps"
	TimeTotal   Code = "time-total"
	ChangeOver  Code = "change-over"
	RestPlanned Code = "rest-planned"
	RestGrown   Code = "rest-grown"
	RestPartner Code = "rest-partner"

	PrepPulse     Code = "prep-pulse"
	PrepFor       Code = "prep-for"
	PrepHouse     Code = "prep-house"
	PrepRamp      Code = "prep-ramp"
	TeachNew      Code = "teach-new"
	TeachTyped    Code = "teach-typed"
	TeachKnown    Code = "teach-known"
	NoteLeftOut   Code = "note-left-out"
	NoteReplaced  Code = "note-replaced"
	NotePinAway   Code = "note-pin-away"
	NotePinLoad   Code = "note-pin-load"
	NoteChain     Code = "note-chain"
	NoteStays     Code = "note-stays"
	NoteTurn      Code = "note-turn"
	NoteByLog     Code = "note-by-log"
	NoteAgainSwap Code = "note-again-swap"
	NoteAim       Code = "note-aim"
	NoteHomeSwap  Code = "note-home-swap"
	RelaxBans     Code = "relax-bans"
	RelaxMinutes  Code = "relax-minutes"

	FlagTooLong   Code = "flag-too-long"
	FlagNoPattern Code = "flag-no-pattern"
	FlagUneven    Code = "flag-uneven"
	FlagLegsTwice Code = "flag-legs-twice"
	FlagWeakLink  Code = "flag-weak-link"
	FlagShort     Code = "flag-short"
	FlagNoRep     Code = "flag-no-rep"
	FlagSides     Code = "flag-sides"

	LoadAsked          Code = "load-asked"
	LoadLowered        Code = "load-lowered"
	LoadFirstTime      Code = "load-first-time"
	LoadFirstSessions  Code = "load-first-sessions"
	LoadForReps        Code = "load-for-reps"
	FaultBanned        Code = "fault-banned"
	FaultLimit         Code = "fault-limit"
	FaultGate          Code = "fault-gate"
	FaultLane          Code = "fault-lane"
	FaultChosen        Code = "fault-chosen"
	FaultByLog         Code = "fault-by-log"
	FaultLearnFirst    Code = "fault-learn-first"
	FaultFirstSessions Code = "fault-first-sessions"
	FaultHold          Code = "fault-hold"
	FaultOnBack        Code = "fault-on-back"
	FaultCeiling       Code = "fault-ceiling"
	FaultFirstLoad     Code = "fault-first-load"
	FaultGroundOneLeg  Code = "fault-ground-one-leg"
	FaultOver          Code = "fault-over"
	FaultBody          Code = "fault-body"
	FaultNoSupport     Code = "fault-no-support"
	FaultHeight        Code = "fault-height"
	FaultTable         Code = "fault-table"
	FaultFootHold      Code = "fault-foot-hold"
	FaultBand          Code = "fault-band"
	FaultRating        Code = "fault-rating"
	FaultPattern       Code = "fault-pattern"
	AskRating          Code = "ask-rating"
	AskHeight          Code = "ask-height"
	AskRaise           Code = "ask-raise"
	AskRaiseSeat       Code = "ask-raise-seat"
	FlagShortEffort    Code = "flag-short-effort"
	FlagFarTooLight    Code = "flag-far-too-light"
	FlagUnderDose      Code = "flag-under-dose"
	FlagLongSet        Code = "flag-long-set"
	FlagRepacked       Code = "flag-repacked"
	FlagApart          Code = "flag-apart"
	NoteBeside         Code = "note-beside"
	NoteNotUsed        Code = "note-not-used"
	NoteLater          Code = "note-later"
	NoteDropped        Code = "note-dropped"
	NoteEndsEarly      Code = "note-ends-early"
	NotePackedOnce     Code = "note-packed-once"

	GateHalfBody Code = "gate-half-body"

	ScreenAnkle       Code = "screen-ankle"
	ScreenShin        Code = "screen-shin"
	ScreenHip         Code = "screen-hip"
	ScreenUpperBack   Code = "screen-upper-back"
	ScreenShoulder    Code = "screen-shoulder"
	ScreenBalance     Code = "screen-balance"
	ScreenChairStand  Code = "screen-chair-stand"
	ScreenNoNorm      Code = "screen-no-norm"
	FaultSpared       Code = "fault-spared"
	FaultHeldAtGround Code = "fault-held-at-ground"
	NoteSpared        Code = "note-spared"
	NoteSparedRests   Code = "note-spared-rests"
	LoadBenchmark     Code = "load-benchmark"
	PrepScreen        Code = "prep-screen"
	NeedClearance     Code = "need-clearance"
	NeedSpared        Code = "need-spared"

	BridgeNotReached Code = "bridge-not-reached"
	BridgeSwung      Code = "bridge-swung"
	BridgeAtNext     Code = "bridge-at-next"
	BridgeNow        Code = "bridge-now"
	BridgeReady      Code = "bridge-ready"
	BridgeNeeded     Code = "bridge-needed"
	BridgeLimits     Code = "bridge-limits"
	BridgeIronAlone  Code = "bridge-iron-alone"
	BridgePredicted  Code = "bridge-predicted"

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

	AdviceKeep       Code = "advice-keep"
	AdviceKeepLimit  Code = "advice-keep-limit"
	AdviceOneStep    Code = "advice-one-step"
	AdviceNextLoad   Code = "advice-next-load"
	AdviceBridge     Code = "advice-bridge"
	AdviceRepsOnly   Code = "advice-reps-only"
	AdviceFewerReps  Code = "advice-fewer-reps"
	AdviceLighter    Code = "advice-lighter"
	AdviceStartAgain Code = "advice-start-again"
	AdviceAsBefore   Code = "advice-as-before"
	AdviceAside      Code = "advice-aside"
	AdviceLightened  Code = "advice-lightened"
	AdviceNextRung   Code = "advice-next-rung"
	AdviceLessLoad   Code = "advice-less-load"
	AdviceRungDown   Code = "advice-rung-down"
	AdviceStopMove   Code = "advice-stop-move"
	AdviceOffPlan    Code = "advice-off-plan"
)

// Codes lists every code, for the contract of the interface.
var Codes = []Code{
	ResistanceSum, LoadStart, LoadCeiling, LoadChosen, LoadBody, LoadNone, LoadGroundOneLeg, NeverUpGround, NeverUpMove,
	RepairMoreReps, RepairFewerReps, RepairSlower, RepairPause, SubstituteResistance, SubstituteUncompared, SubstituteShort,
	RepsByClock, TimeByReps, TimeTotal, ChangeOver, RestPlanned, RestGrown, RestPartner,
	NoteLeftOut, NoteReplaced, NoteHomeSwap, RelaxBans, RelaxMinutes,
	FlagTooLong, FlagNoPattern, FlagUneven, FlagLegsTwice, FlagWeakLink, FlagShort, FlagNoRep, FlagSides,
	LoadAsked, LoadLowered, LoadFirstTime, LoadFirstSessions, LoadForReps, FaultBanned, FaultLimit, FaultGate, FaultLane, FaultChosen, FaultByLog, FaultLearnFirst, FaultFirstSessions, FaultHold, FaultOnBack, FaultCeiling, FaultFirstLoad, FaultGroundOneLeg, FaultOver, FaultBody, FaultNoSupport, FaultHeight, PrepPulse, PrepFor, PrepHouse, PrepRamp, TeachNew, TeachTyped, TeachKnown, NotePinAway, NotePinLoad, NoteChain, NoteStays, NoteTurn, NoteByLog, NoteAgainSwap, NoteAim, FaultTable, FaultFootHold, FaultBand, FaultRating, FaultPattern, AskRating, AskHeight, AskRaise, AskRaiseSeat, FlagShortEffort, FlagFarTooLight, FlagUnderDose, FlagLongSet, FlagRepacked, FlagApart, NoteBeside, NoteNotUsed, NoteLater, NoteDropped, NoteEndsEarly, NotePackedOnce,
	GateHalfBody, BridgeNow, BridgeReady, BridgeNeeded, BridgeLimits, BridgeIronAlone, BridgePredicted, BridgeNotReached, BridgeSwung, BridgeAtNext, TipsTable, AnchorHolds, GrossFromNet, MassFromVolume, MassOfKind, NeedCircuit, NeedKitGone, NeedLane,
	VerdictFormLost, VerdictHeavy, VerdictFarTooLight, VerdictLight, VerdictRight, VerdictAtLimit,
	AdviceKeep, AdviceKeepLimit, AdviceOneStep, AdviceNextLoad, AdviceBridge, AdviceRepsOnly, AdviceFewerReps, AdviceLighter, AdviceStartAgain, AdviceAsBefore, AdviceAside, AdviceLightened, AdviceNextRung, AdviceLessLoad, AdviceRungDown,
	AdviceStopMove, AdviceOffPlan,
	ScreenAnkle, ScreenShin, ScreenHip, ScreenUpperBack, ScreenShoulder, ScreenBalance, ScreenChairStand, ScreenNoNorm, FaultSpared, FaultHeldAtGround, NoteSpared, NoteSparedRests, LoadBenchmark, PrepScreen, NeedClearance, NeedSpared,
}
