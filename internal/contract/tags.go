package contract

import (
	"reflect"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/compose"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/figure"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/pace"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/run"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

// values are those of types that have few, wherever a field is of one.
var values = map[reflect.Type][]any{
	reflect.TypeFor[moves.Pattern](): anyOf(moves.Patterns),
	reflect.TypeFor[moves.HoldID]():  anyOf(moves.HoldIDs()),
	reflect.TypeFor[moves.Lane]():    anyOf(moves.Lanes),

	reflect.TypeFor[scheme.Name]():       anyOf(scheme.Names),
	reflect.TypeFor[circuit.Kind]():      anyOf(circuit.BlockKinds),
	reflect.TypeFor[circuit.Layout]():    anyOf(circuit.Layouts),
	reflect.TypeFor[circuit.DoseKind]():  anyOf(circuit.DoseKinds),
	reflect.TypeFor[circuit.OpKind]():    anyOf(circuit.OpKinds),
	reflect.TypeFor[circuit.Direction](): anyOf(circuit.Directions),
	reflect.TypeFor[run.HandDo]():        anyOf(run.HandDos),
	reflect.TypeFor[compose.HelpKind]():  anyOf(compose.HelpKinds),
	reflect.TypeFor[compose.MendKind]():  anyOf(compose.MendKinds),
	reflect.TypeFor[pace.What]():         anyOf(pace.Whats),

	reflect.TypeFor[people.Kind]():     anyOf(people.Kinds),
	reflect.TypeFor[people.Cause]():    anyOf(people.Causes),
	reflect.TypeFor[people.Screen]():   anyOf(people.Screens),
	reflect.TypeFor[people.AskKind]():  anyOf(people.AskKinds),
	reflect.TypeFor[people.Skill]():    anyOf(people.Skills),
	reflect.TypeFor[people.Origin]():   anyOf(people.Origins),
	reflect.TypeFor[people.Question](): anyOf(people.Questions),
	reflect.TypeFor[people.Clearer]():  anyOf(people.Clearers),
}

func anyOf[T ~string](of []T) []any {
	out := make([]any, 0, len(of))
	for _, x := range of {
		out = append(out, string(x))
	}
	return out
}

// tags are what the contract says of the fields of core values, which know nothing of it:
// bounds and words that a schema can tell, and what a field is where its name does not say
// it. They are Huma's, by the field's name in JSON.
var tags = map[reflect.Type]map[string]string{
	reflect.TypeFor[choice.Term](): {
		"term": `enum:"mark,short,over,dose,first,log,ask,teach,aim"`,
	},
	reflect.TypeFor[compose.Alternative](): {
		"ironPct": `doc:"off the wanted load; negative is too light"`,
		"deltaMs": `doc:"how much longer the class gets"`,
		"missing": `doc:"the kit does not cover it beside the other lanes"`,
		"asks":    `doc:"what is to be asked before it is used"`,
	},
	reflect.TypeFor[compose.TermBeside](): {
		"term": `enum:"mark,short,over,dose,first,log,ask,teach,aim"`,
	},
	reflect.TypeFor[circuit.Day](): {
		"absent":  `maxItems:"500" doc:"participants who did not come"`,
		"fewer":   `maxItems:"3" doc:"how many of a lane's people without a name did not come"`,
		"missing": `maxItems:"100" doc:"pieces of the kit that are not there, or broken"`,
	},
	reflect.TypeFor[circuit.Fewer](): {
		"people": `minimum:"1" maximum:"500"`,
	},
	reflect.TypeFor[circuit.Missing](): {
		"item":  `maxLength:"26"`,
		"count": `minimum:"1" maximum:"1000"`,
	},
	reflect.TypeFor[compose.PatternRoom](): {
		"room": `enum:"yes,flawed,nothing"`,
	},
	reflect.TypeFor[kit.LeftOut](): {
		"reason": `enum:"uncarried,loose,hard,no-grip"`,
	},
	reflect.TypeFor[plan.Beam](): {
		"left":  `enum:"push,front,two-legs,straight"`,
		"right": `enum:"pull,back,one-leg,sideways"`,
	},
	reflect.TypeFor[plan.Cell](): {
		"loadG":       `doc:"all implements together"`,
		"perSide":     `doc:"repetitions a side, or in all for two-sided moves"`,
		"reps":        `doc:"of both sides in one set"`,
		"switchAtMs":  `doc:"0 when no switch is called"`,
		"comparableG": `doc:"0 for moves without a comparable resistance"`,
		"farTooLight": `doc:"too light by far, and said so"`,
		"faults":      `doc:"what would keep it from being proposed"`,
		"asks":        `doc:"what is to be asked before it is used"`,
		"log":         `doc:"what the log decided"`,
		"beside":      `doc:"an easier move for whoever asks"`,
		"setup":       `doc:"for the hold in use"`,
		"missing":     `doc:"the kit does not cover this load"`,
		"unknown":     `doc:"the load names something the place does not have"`,
	},
	reflect.TypeFor[plan.Count](): {
		"advice": `enum:"keep,keep-limit,more-reps,next-load,bridge,next-rung,fewer-reps,less-load,rung-down,lighter,start-again,stop-move,off-the-plan,as-before,ease"`,
	},
	reflect.TypeFor[plan.Decided](): {
		"lane":   `enum:"ground,middle,reach"`,
		"advice": `enum:"keep,keep-limit,more-reps,next-load,bridge,next-rung,fewer-reps,less-load,rung-down,lighter,start-again,stop-move,off-the-plan,as-before,ease"`,
		"loaded": `doc:"whether the load is said"`,
		"to":     `doc:"a rung up or down"`,
		"joints": `doc:"that hurt"`,
		"what":   `doc:"what is set aside with it: the move, or the joints of somebody who is known"`,
	},
	reflect.TypeFor[plan.Moved](): {
		"way":    `enum:"out,out-once,easier,up,ready"`,
		"party":  `doc:"a participant by id"`,
		"moves":  `doc:"theirs that it is about"`,
		"joints": `enum:"ankle,knee,hip,low-back,neck,shoulder,elbow,wrist,hamstring" doc:"that hurt"`,
	},
	reflect.TypeFor[circuit.Difference](): {
		"field": `enum:"lead-in,absent,missing,goal,template,block,order,kind,layout,scheme,format,work,rest,rounds,round-rest,sets,between,sides,side-change,every,window,rungs,change,called,seed,after,slot,waves,new,pinned,own-work,own-rest,own-sets,entry"`,
		"party": `doc:"a lane, or a participant by id"`,
	},
	reflect.TypeFor[circuit.Document](): {
		"v":         `minimum:"3" maximum:"3"`,
		"leadInMs":  `minimum:"0" maximum:"600000"`,
		"bans":      `maxItems:"60"`,
		"known":     `nullable:"false" maxItems:"60"`,
		"overruled": `nullable:"false" maxItems:"60"`,
		"blocks":    `minItems:"1" maxItems:"12"`,
		"goal":      `enum:"general,strength,muscle,endurance,in-season,learn" doc:"what it was asked to be for"`,
		"template":  `enum:"alternating,legs,one-leg,floor,one-pattern" doc:"what it was asked to be made of"`,
	},
	reflect.TypeFor[circuit.Block](): {
		"id":      `minLength:"1" maxLength:"26"`,
		"auto":    `doc:"a prep, teach or close that times itself by the class's minutes and moves"`,
		"scheme":  `doc:"none where it times itself"`,
		"afterMs": `minimum:"0" maximum:"600000" doc:"the pause before the next block"`,
		"slots":   `maxItems:"24"`,
	},
	reflect.TypeFor[circuit.Scheme](): {
		"kind": `doc:"exactly the object of this kind stands beside it"`,
	},
	reflect.TypeFor[circuit.InRounds](): {
		"format":      `enum:"timed,reps"`,
		"workMs":      `minimum:"5000" maximum:"600000"`,
		"restMs":      `minimum:"0" maximum:"600000"`,
		"rounds":      `minimum:"1" maximum:"20"`,
		"roundRestMs": `minimum:"0" maximum:"600000"`,
		"evenSets":    `doc:"every set of a slot takes the time of its longest"`,
	},
	reflect.TypeFor[circuit.InSets](): {
		"sets":      `minimum:"1" maximum:"20"`,
		"restMs":    `minimum:"0" maximum:"600000" doc:"between sets"`,
		"betweenMs": `minimum:"0" maximum:"600000" doc:"between slots"`,
	},
	reflect.TypeFor[circuit.InGroups](): {
		"rounds": `minimum:"1" maximum:"20"`,
		"restMs": `minimum:"0" maximum:"600000" doc:"after the group"`,
	},
	reflect.TypeFor[circuit.InChain](): {
		"rounds":       `minimum:"1" maximum:"20"`,
		"restMs":       `minimum:"0" maximum:"600000"`,
		"sides":        `minimum:"1" maximum:"2"`,
		"sideChangeMs": `minimum:"0" maximum:"600000"`,
	},
	reflect.TypeFor[circuit.InIntervals](): {
		"everyMs": `minimum:"5000" maximum:"600000"`,
		"sets":    `minimum:"1" maximum:"60"`,
	},
	reflect.TypeFor[circuit.InWindow](): {
		"windowMs": `minimum:"5000" maximum:"3600000"`,
	},
	reflect.TypeFor[circuit.InRungs](): {
		"rungs":     `minItems:"1" maxItems:"20" doc:"how many in each, from 1 to 100"`,
		"restMs":    `minimum:"0" maximum:"600000" doc:"after a rung"`,
		"betweenMs": `minimum:"0" maximum:"600000" doc:"between slots"`,
	},
	reflect.TypeFor[circuit.InStages](): {
		"changeMs": `minimum:"0" maximum:"600000"`,
	},
	reflect.TypeFor[circuit.CalledOut](): {
		"calledMs": `minimum:"5000" maximum:"600000"`,
		"everyMs":  `minimum:"1000" maximum:"60000"`,
		"seed":     `minimum:"0" maximum:"1000000"`,
		"words":    `minItems:"2" maxItems:"5"`,
	},
	reflect.TypeFor[circuit.Entry](): {
		"variant": `maxLength:"60"`,
		"anchors": `maxItems:"4"`,
		"tempo":   `maxLength:"20" doc:"of a repetition; without one a combined move takes the time of its parts"`,
		"parts":   `nullable:"false" maxItems:"20" doc:"where they are not the library's"`,
		"sides":   `enum:"both,split,rounds,alternate"`,
		"first":   `enum:"left,right" doc:"the side that begins, the weaker one; left where it is left out"`,
	},
	reflect.TypeFor[circuit.Part](): {
		"move":  `minLength:"1" maxLength:"60"`,
		"count": `minimum:"1" maximum:"100"`,
		"ms":    `minimum:"1" maximum:"60000"`,
	},
	reflect.TypeFor[circuit.Dose](): {
		"kind":  `doc:"what it is counted in"`,
		"low":   `minimum:"1" maximum:"100" doc:"of a range; of what is done until few are left only reckoned"`,
		"high":  `minimum:"1" maximum:"100"`,
		"ms":    `minimum:"1000" maximum:"600000" doc:"of seconds"`,
		"inAll": `doc:"both sides together"`,
	},
	reflect.TypeFor[circuit.Op](): {
		"blockId":  `maxLength:"26" doc:"of a block's edits; of add-slot and move-slot where to"`,
		"slotId":   `maxLength:"26"`,
		"party":    `pattern:"^([0-9a-z]{26}|ground|middle|reach)$" patternDescription:"a lane, or a participant of the class by id"`,
		"ms":       `nullable:"false" doc:"for set-lead-in, set-after"`,
		"count":    `nullable:"false" doc:"for set-waves; the new place for add and move"`,
		"flag":     `nullable:"false" doc:"for set-new, set-pin"`,
		"own":      `doc:"for set-own: what is left out is the block's again"`,
		"entry":    `doc:"for set-entry"`,
		"slot":     `doc:"for add-slot"`,
		"block":    `doc:"for add-block"`,
		"document": `doc:"for replace"`,
	},
	reflect.TypeFor[circuit.Own](): {
		"workMs": `nullable:"false" minimum:"5000" maximum:"600000"`,
		"restMs": `nullable:"false" minimum:"0" maximum:"600000"`,
		"sets":   `minimum:"0" maximum:"20"`,
	},
	reflect.TypeFor[circuit.Overruled](): {
		"party": `pattern:"^([0-9a-z]{26}|ground|middle|reach)$" patternDescription:"a lane, or a participant of the class by id"`,
		"what":  `maxLength:"60" doc:"a move or a joint"`,
	},
	reflect.TypeFor[plan.Plan](): {
		"classMs": `doc:"the minutes of the class"`,
		"slackMs": `doc:"negative when the class does not fit"`,
		"flags":   `doc:"what is worth a look; nothing is forbidden"`,
	},
	reflect.TypeFor[plan.Pressure](): {
		"used": `doc:"in the order of the slots"`,
	},
	reflect.TypeFor[plan.BlockPlan](): {
		"totalMs": `doc:"without the pause after it"`,
		"afterMs": `doc:"the pause after it, grown where the change-over is longer"`,
		"about":   `doc:"what is done until few are left is only reckoned"`,
	},
	reflect.TypeFor[plan.CountPlan](): {
		"leftLow": `doc:"0 where it is not done a side"`,
	},
	reflect.TypeFor[plan.Total](): {
		"leftLegLow": `doc:"of moves of the legs; those on two count for both"`,
	},
	reflect.TypeFor[circuit.Slot](): {
		"id":     `minLength:"1" maxLength:"26"`,
		"waves":  `minimum:"1" maximum:"4"`,
		"workMs": `nullable:"false" minimum:"5000" maximum:"600000" doc:"instead of the block's, by the clock"`,
		"restMs": `nullable:"false" minimum:"0" maximum:"600000" doc:"instead of the block's"`,
		"sets":   `minimum:"0" maximum:"20" doc:"instead of the block's"`,
	},
	reflect.TypeFor[plan.SlotPlan](): {
		"workMs": `doc:"one wave"`,
		"slotMs": `doc:"all waves and hand-overs"`,
		"restMs": `doc:"rest to the next slot, grown where the change-over is longer"`,
		"grown":  `doc:"the change-over made the rest longer than planned"`,
	},
	reflect.TypeFor[cue.Anchor](): {
		"state": `enum:"ready,moving,held,ended"`,
	},
	reflect.TypeFor[cue.Stretch](): {
		"kind":  `enum:"lead-in,prep,learn,work,change-sides,hand-over,rest,round-rest,pause,close"`,
		"block": `doc:"id of its block; none of the lead-in"`,
		"pass":  `doc:"1 or 2 in a chain that is done a side"`,
	},
	reflect.TypeFor[cue.Spent](): {
		"kind":      `enum:"lead-in,prep,learn,work,change-sides,hand-over,rest,round-rest,pause,close"`,
		"block":     `doc:"id of its block; none of the lead-in"`,
		"times":     `doc:"how many stretches there were"`,
		"plannedMs": `doc:"as they were planned"`,
		"realMs":    `doc:"as they lasted, with time that was added"`,
		"heldMs":    `doc:"what the clock was held besides"`,
		"early":     `doc:"how many of them a press ended"`,
	},
	reflect.TypeFor[cue.Call](): {
		"kind":  `enum:"ready,go,switch,last-ten,rest,change,next,part,direction"`,
		"name":  `doc:"of a part or a stage, or the direction"`,
		"slot":  `doc:"that it is about"`,
		"count": `doc:"of a ready: the seconds that are left"`,
	},
	reflect.TypeFor[progress.Owed](): {
		"side": `enum:"left,right"`,
	},
	reflect.TypeFor[cue.Deed](): {
		"kind":  `enum:"done,round,stopped,again,swapped"`,
		"count": `doc:"how often"`,
		"atMs":  `doc:"the position of the last time"`,
	},
	reflect.TypeFor[run.Hand](): {
		"from": `doc:"the slot before; none before the first"`,
		"hold": `doc:"how it is held from now on, of regrip"`,
	},
	reflect.TypeFor[pace.Offer](): {
		"variant":  `doc:"of a time per repetition"`,
		"reckoned": `doc:"what is planned with otherwise: ms of a repetition, else per cent"`,
		"own":      `doc:"the middle of what was measured; 0 where the runs do not speak for one any more"`,
		"low":      `doc:"half of what was measured lies between low and high"`,
		"runs":     `doc:"in which somebody said that something was over"`,
		"used":     `doc:"what the house has taken over"`,
	},
	reflect.TypeFor[cue.Effect](): {
		"state": `enum:"ready,moving,held,ended,over"`,
		"kind":  `enum:"start,hold,resume,skip,back,add,next,end"`,
		"next":  `enum:"moving,held,ended"`,
		"place": `enum:"here,after,before"`,
		"wait":  `enum:"keep,drop,add"`,
	},
	reflect.TypeFor[cue.Event](): {
		"lane": `enum:"ground,middle,reach"`,
		"side": `enum:"left,right,both"`,
		"next": `enum:"left,right,both"`,
	},
	reflect.TypeFor[figure.Box](): {
		"kind": `enum:"box,wall,post,edge"`,
	},
	reflect.TypeFor[figure.Drawing](): {
		"say":    `doc:"the position in words"`,
		"height": `doc:"the floor lies here"`,
		"head":   `doc:"centre and radius"`,
	},
	reflect.TypeFor[figure.Line](): {
		"part": `enum:"trunk,near-leg,far-leg,near-arm,far-arm"`,
	},
	reflect.TypeFor[kit.ContainerDetails](): {
		"volume": `doc:"what goes in; missing limits nothing"`,
		"closed": `doc:"a zip, buckle or drawstring keeps the contents in"`,
		"straps": `doc:"hold it high and tight on the back"`,
		"wear":   `nullable:"false" enum:"front,hand,hips,back" maxItems:"4" doc:"where it goes, each once; missing is anywhere"`,
	},
	reflect.TypeFor[kit.Item](): {
		"kind": `doc:"kind of implement, or object or container"`,
	},
	reflect.TypeFor[kit.ImplementDetails](): {
		"rated":   `doc:"what a bench or box may carry"`,
		"legs":    `enum:"four-leg,glass,folding,extending,one-column,trestle,loose-top"`,
		"edgeOut": `doc:"missing: the edge is not outside the legs"`,
		"pulls":   `nullable:"false" maxItems:"2" doc:"of a band, measured twice"`,
		"highest": `doc:"of a bench whose height is set"`,
		"points":  `nullable:"false" enum:"top,middle,foot" maxItems:"3" doc:"of a door, where a band may be anchored; each once"`,
	},
	reflect.TypeFor[kit.Load](): {
		"kind":      `enum:"none,implement,object,made"`,
		"item":      `maxLength:"26" doc:"id of the implement or object"`,
		"count":     `minimum:"0" maximum:"500"`,
		"container": `maxLength:"26"`,
		"parts":     `nullable:"false" maxItems:"40" doc:"what a made load is packed with"`,
	},
	reflect.TypeFor[kit.ObjectDetails](): {
		"how":    `enum:"gross,net,volume,kind,weighed"`,
		"what":   `maxLength:"20"`,
		"in":     `maxLength:"20"`,
		"volume": `doc:"the room it takes in a container"`,
		"empty":  `doc:"of a vessel"`,
		"refill": `doc:"may be filled in steps of 50 ml"`,
		"traits": `nullable:"false" enum:"soft,loose,glass,hot,hard-edged,sharp" maxItems:"6" doc:"each once"`,
	},
	reflect.TypeFor[people.Limit](): {
		"until": `format:"date" doc:"the last day of it"`,
	},
	reflect.TypeFor[people.Spared](): {
		"out":    `doc:"not in the class until cleared"`,
		"ground": `doc:"at Ground until cleared"`,
		"asked":  `format:"date" doc:"when the health questions were answered last"`,
		"anew":   `doc:"they are to be asked again whatever the day"`,
	},
	reflect.TypeFor[people.HealthRecord](): {
		"carried": `doc:"what somebody was spared before, of which no more is known"`,
		"changed": `doc:"something has changed"`,
	},
	reflect.TypeFor[people.Answers](): {
		"version": `doc:"of the questions' text"`,
		"yes":     `doc:"all others were answered with no"`,
	},
	reflect.TypeFor[people.Clearance](): {
		"keeps": `doc:"what they are still to be spared"`,
	},
	reflect.TypeFor[people.Benchmark](): {
		"loadG":   `doc:"all implements together"`,
		"reps":    `doc:"in form, a side"`,
		"reserve": `doc:"how many more would have gone"`,
	},
	reflect.TypeFor[people.Outcome](): {
		"uneven": `doc:"the sides differ by more than usual"`,
		"prep":   `doc:"joints that are made ready"`,
	},
	reflect.TypeFor[measure.Quantity](): {
		"whole": `doc:"grams or millimetres, derived once"`,
	},
	reflect.TypeFor[measure.Typed](): {
		"decimal": `maxLength:"24" pattern:"^[0-9]+([.][0-9]+)?$"`,
		"unit":    `enum:"kg,g,lb,oz,lb-oz,cm,mm,m,in,l,ml,gal"`,
	},
	reflect.TypeFor[moves.File](): {
		"format": `enum:"nimbleanvil-moves"`,
		"v":      `minimum:"1" maximum:"1"`,
		"moves":  `maxItems:"300"`,
	},
	reflect.TypeFor[moves.Preview](): {
		"fault": `doc:"why it cannot be taken in; empty when it can"`,
	},
	reflect.TypeFor[moves.TodaysCue](): {
		"fresh": `doc:"the one that is new to the group today"`,
	},
	reflect.TypeFor[moves.Variant](): {
		"also":      `doc:"other common names"`,
		"family":    `enum:"squat,hinge,bridge,push,pull,none"`,
		"role":      `enum:"main,accessory,isolation,finisher,prep,skill"`,
		"covers":    `nullable:"false"`,
		"gate":      `enum:"half-body-25"`,
		"plane":     `enum:"front-to-back,sideways,turning"`,
		"sides":     `enum:"both,per-side,alternating"`,
		"lanes":     `enum:"ground,middle,reach"`,
		"onlyLanes": `nullable:"false" enum:"ground,middle,reach"`,
		"class":     `enum:"none,light,light-medium,medium,medium-heavy,heavy"`,
		"thigh":     `enum:"front,back,none"`,
		"touches":   `nullable:"false"`,
		"cues":      `doc:"in teaching order, one at a time"`,
		"shoes":     `enum:"any,flat,socks,off"`,
		"view":      `enum:"side,diagonal,back"`,
	},
	reflect.TypeFor[moves.Word](): {
		"also": `doc:"other forms of it in the texts"`,
	},
	reflect.TypeFor[progress.Sheet](): {
		"subject": `doc:"a participant's id, or the lane"`,
		"name":    `doc:"of a participant; empty for a lane"`,
		"lane":    `enum:"ground,middle,reach"`,
	},
	reflect.TypeFor[progress.SheetLine](): {
		"pain":   `enum:"none,burn,joint,sore"`,
		"joint":  `enum:"ankle,knee,hip,low-back,neck,shoulder,elbow,wrist,hamstring" doc:"that hurt, where somebody said"`,
		"others": `doc:"somebody else's pain than the time before"`,
		"result": `doc:"of a saved line"`,
	},
	reflect.TypeFor[progress.Result](): {
		"verdict": `enum:"form-lost,heavy,far-too-light,light,right"`,
		"advice":  `enum:"keep,keep-limit,more-reps,next-load,bridge,next-rung,fewer-reps,less-load,rung-down,lighter,start-again,stop-move,off-the-plan,as-before,ease"`,
	},
	reflect.TypeFor[strength.Week](): {
		"by":    `enum:"load,reps,blend,tempo,variant,made,uneven"`,
		"blend": `orNull:"true" doc:"null unless by blend"`,
	},
	reflect.TypeFor[why.Term](): {
		"name": `doc:"what the quantity is in this reason"`,
		"kind": `enum:"massG,lengthMm,spanMs,count,share,pct,text,volumeMl"`,
		"text": `doc:"an id, for kind text"`,
	},
	reflect.TypeFor[why.Why](): {
		"source": `enum:"published,model,common-practice,house,arithmetic,typed"`,
	},
}
