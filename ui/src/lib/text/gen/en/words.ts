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
    dropIn: {
      term: 'Drop-in',
      means: 'Somebody in a class whom the studio does not know by name.',
    },
  },
}
