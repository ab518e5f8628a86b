// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.

export const keys = {
  title: 'Keys',
  open: 'Keys (?)',
  groups: {
    everywhere: 'Everywhere',
    circuit: 'Circuit',
    run: 'Run',
  },
  cap: {
    tab: 'Tab',
    press: 'Enter, Space',
    esc: 'Esc',
    arrows: '← → ↑ ↓',
    enter: 'Enter',
    undo: 'Ctrl Z',
    redo: 'Ctrl Y',
    space: 'Space',
  },
  does: {
    sheet: 'this sheet',
    tab: 'to the next field or button',
    press: 'press it; open a why',
    esc: 'close a dialog',
    arrows: 'from box to box in the score',
    enter: 'the box, its reasons, what could stand instead',
    undo: 'undo',
    redo: 'redo',
    space: 'start, hold, go on',
    right: 'skip',
    left: 'back',
    plus: '15 seconds more',
    m: 'sound on or off',
  },
}
