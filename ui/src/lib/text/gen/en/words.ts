// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.

export const words = {
  title: 'Words used here',
  open: 'Words',
  trade: 'The words of the trade stand under Moves.',
  of: {
    lane: {
      term: 'Lane',
      means: 'A level that a class is planned for: Ground is the easier version of each move, Middle the usual one, Reach the harder one.',
    },
    slot: {
      term: 'Slot',
      means: 'One place in the order of a circuit: each lane does its own version of one pattern there.',
    },
    wave: {
      term: 'Wave',
      means: 'People of a slot who go one group after the other, because there is not enough kit for all at once.',
    },
    round: {
      term: 'Round',
      means: 'All slots once, one after the other.',
    },
    iron: {
      term: 'In iron',
      means: 'By the mass in the hand, whatever the body adds.',
    },
    resistance: {
      term: 'In resistance',
      means: 'By what the working limb has to move: a share of the body and the load together. Steps in it are smaller than in iron.',
    },
    wanted: {
      term: 'Wanted',
      means: 'The load that the lane, the log and the repetitions ask for. Per cents beside a load say how far it is off that.',
    },
    missing: {
      term: 'Missing',
      means: 'The place has not enough of it for everybody who needs it at once.',
    },
    made: {
      term: 'Made load',
      means: 'Things put into a bag, or held together, until they weigh what is wanted.',
    },
    bare: {
      term: 'A bare number',
      means: 'A mass typed without its unit: it is read in the unit of its place.',
    },
    spared: {
      term: 'To be spared',
      means: 'What somebody must not be given: typed by hand, from a screen that fell short, or from the health questions. Proposals keep to it; an edit that breaks it is marked.',
    },
    screen: {
      term: 'Screen',
      means: 'A simple test of a joint or of balance that anybody can repeat. What falls short spares something until it is done again and passed.',
    },
    gate: {
      term: 'Gate',
      means: 'What must be shown before a move is proposed: for a bar on the back, 25 goblet squats in form with half of body mass, five screens, bracing, and a goal that calls for it.',
    },
    benchmark: {
      term: 'Benchmark',
      means: 'A set done to see what somebody can: load, repetitions in form and what was left. It leads to their loads for eight weeks.',
    },
    regular: {
      term: 'Regular',
      means: 'Somebody who comes to a group\'s classes, ticked with the others in one go.',
    },
    dropIn: {
      term: 'Drop-in',
      means: 'Somebody in a class whom the studio does not know by name.',
    },
  },
}
