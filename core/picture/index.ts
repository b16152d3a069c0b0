export { type Gray, luma709 } from './gray';
export { MotionEstimator } from './motion';
export { type Exposure, exposure, lightScore, lookGrid, noiseLevel, sharpness } from './quality';
export { type CameraPath, type CameraRule, cameraDefaults, cameraRuns, cameraTraces } from './camera';
export { hardCuts, scenesBetween, withoutFalseCuts } from './scenes';
export { type FoundTransition, findFlashes, findTransitions } from './transitions';
export {
  type FaceBox,
  type FaceSample,
  type Letterbox,
  blazeAnchors,
  decodeFaces,
  intersectionOverUnion,
} from './faces';
export { persistentFaces } from './persistentFaces';
export { type ColourPicture, type Part, planes } from './colour';
export { type ColourName, colourNames, coloursOf, tintCells, tintOf, wornColours } from './colourNames';
export { colouredRuns } from './colouredRuns';
export {
  type ObjectBox,
  type ObjectLabel,
  type ObjectSample,
  decodeObjects,
  objectLabels,
  objectRuns,
  objectSide,
} from './objects';
export { type FaceTrack, faceTracks, showsWho } from './tracks';
export { type LookedTrack, groupPeople } from './people';
export { type Person, type SeenTrack, personsOf } from './persons';
export {
  colourMatrices,
  degreesOf,
  isMirrored,
  isOrientation,
  plainCoding,
  shownSize,
  squaredSize,
  turnsSides,
  type FieldOrder,
  type Orientation,
  type PictureCoding,
} from './coding';
