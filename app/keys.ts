/** Every shortcut, in one place: what it does, its keys, where it works. */
export interface Shortcut {
  keys: string;
  shown: string;
  does: string;
}

export const shortcuts = {
  play: { keys: 'space', shown: 'Space', does: 'Play and pause' },
  back: { keys: 'j', shown: 'J', does: 'Run back; again for faster' },
  halt: { keys: 'k', shown: 'K', does: 'Stop' },
  forward: { keys: 'l', shown: 'L', does: 'Run on; again for faster' },
  frameBack: { keys: 'arrowleft', shown: '←', does: 'One frame back' },
  frameOn: { keys: 'arrowright', shown: '→', does: 'One frame on' },
  secondBack: { keys: 'shift+arrowleft', shown: 'Shift ←', does: 'One second back' },
  secondOn: { keys: 'shift+arrowright', shown: 'Shift →', does: 'One second on' },
  markIn: { keys: 'i', shown: 'I', does: 'In point here' },
  markOut: { keys: 'o', shown: 'O', does: 'Out point here' },
  markShot: { keys: 'u', shown: 'U', does: 'Mark the whole shot' },
  clearMarks: { keys: 'escape', shown: 'Esc', does: 'Clear the marks' },
  previous: { keys: 'bracketleft', shown: '[', does: 'Moment before' },
  next: { keys: 'bracketright', shown: ']', does: 'Moment after' },
  keep: { keys: 'equal,shift+equal,add', shown: '+', does: 'Keep the marked range or the moment here; again to leave it to the machine' },
  drop: { keys: 'minus,subtract', shown: '−', does: 'Drop it; again to leave it to the machine' },
  undo: { keys: 'mod+z', shown: 'Ctrl Z', does: 'Take back' },
  redo: { keys: 'mod+shift+z', shown: 'Ctrl Shift Z', does: 'Do again' },
  makeReel: { keys: 'r', shown: 'R', does: 'Make a reel of what is kept' },
  split: { keys: 's', shown: 'S', does: 'Split the piece at the playhead' },
  takeOut: { keys: 'delete,backspace', shown: 'Del', does: 'Take the piece out' },
  legend: { keys: 'g', shown: 'G', does: 'What the traces mean' },
  help: { keys: 'shift+slash', shown: '?', does: 'All keys' },
} as const satisfies Record<string, Shortcut>;

export type ShortcutName = keyof typeof shortcuts;
