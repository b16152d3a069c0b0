export {
  type Fit,
  type Frame,
  type Framing,
  type FramingSubject,
  type Steady,
  type StillMove,
  fits,
  framingSubjects,
} from './types';
export { sigmaSeconds, steadyingAdvice, steadyingPrice } from './steadying';
export { steadyViews } from './steadyPath';
export { type Affine, type Size, type View, affineOf, fullWidth, moveTowards, stillMoveAt } from './view';
export { type MouthTrace, MouthWatch } from './mouths';
export { namedTurns } from './speakers';
export { cropParts, cropView, cropWidth, cropWithin, isFramed, isSameShape, pathAt, standsStill } from './crop';
export { type Watched, followPath, frameStretch, framedRange } from './follow';
export { thingSubject, thingsAt } from './things';
export { shotsToWatch } from './shots';
