export { exportFormats } from './documents';
export { FormatError, type SourceInfo, relink } from './source';
export { readOtio, writeOtio } from './otio';
export { readCarried, writeCarried } from './clipping';
export { readEdl } from './edlRead';
export { writeEdl } from './edlWrite';
export { writeChapters, writePieces } from './tables';
export {
  captionCues,
  captionTracks,
  cuesBetween,
  wordsInReel,
  type ReelTexts,
  writeAss,
  writeSrt,
  writeVtt,
} from './captions';
export { readCube, writeCube } from './cube';
export { binOfPath, isFootageFile, isHiddenFile } from './footageFiles';
export { kindByName, projectNameOf } from './projectName';
