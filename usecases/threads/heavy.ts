import { turnsOf } from '#core/voices';
import { unpackProject } from '../archives';
import { begin } from '../beginnings';
import { exportReel } from '../exportReel';
import { importReel } from '../importReel';
import { takeUpload } from '../footage';
import { framePiece, framePieces } from '../framing';
import { showFindable } from '../findable';
import { changeTables } from '../looks';
import { findMorePieces } from '../morePieces';
import { changeProjects } from '../projects';
import { setPerson, showPeople } from '../people';
import { showReadings, showReport } from '../readings';
import { findShortsAsWished } from '../shorts';
import { changeTerms, showTerms } from '../terms';
import { makeVariants } from '../variants';
import { changeWords, editWords, showSpoken } from '../words';

/**
 * Use cases that compute for longer than a web server may stand still: hashing, grouping faces, framing, finding shorts,
 * and whatever reads or writes documents of other programs, which may be large.
 */
export const heavy = {
  begin,
  changeProjects,
  changeTables,
  changeTerms,
  changeWords,
  editWords,
  exportReel,
  importReel,
  findMorePieces,
  findShortsAsWished,
  framePiece,
  framePieces,
  makeVariants,
  setPerson,
  showFindable,
  showPeople,
  showReadings,
  showReport,
  showSpoken,
  showTerms,
  takeUpload,
  findTurns: (...given: Parameters<typeof turnsOf>) => Promise.resolve(turnsOf(...given)),
  unpackProject,
};
export type Heavy = typeof heavy;
