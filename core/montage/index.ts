export { type MontageChanges, applyChanges, changesBetween } from './changes';
export {
  type Every,
  type Filling,
  type Montage,
  type MontagePiece,
  type Order,
  type Pattern,
  type Placed,
  type Slot,
  defaultFilling,
  everies,
  orders,
} from './types';
export { type SlotResult, followGrid, joinSlot, moveEdge, patternOf, slotsByPattern, splitSlot } from './slots';
export { liesOutside, slotsWithin } from './part';
export { addMark, moveMark, quantiseMarks, removeMark, tapOffset, tidyMarks } from './marks';
export { pieceFeatures, plainFeatures } from './features';
export { type Heard, demandOf, fillNote, fillSlots, othersFor, refit, usablePieces } from './fill';
export { frameAt, montageItems, montageMusic, montagePut, montageReel } from './toReel';
export { createMontage, spanOf } from './create';
export { type Gathering, gatherPieces } from './gather';
