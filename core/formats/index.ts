export { exportFormats } from './documents';
export { FormatError, type SourceInfo, relink } from './source';
export { readOtio, writeOtio } from './otio';
export { readEdl } from './edlRead';
export { writeEdl } from './edlWrite';
export { writeChapters, writePieces } from './tables';
export { captionCues, wordsInReel, writeAss, writeSrt, writeVtt } from './captions';
export { readCube, writeCube } from './cube';
export { binOfPath, isFootageFile, isHiddenFile } from './footageFiles';
