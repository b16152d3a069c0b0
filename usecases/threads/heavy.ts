import { begin } from '../beginnings';
import { takeUpload } from '../footage';
import { framePiece, framePieces } from '../framing';
import { showFindable } from '../findable';
import { findMorePieces } from '../morePieces';
import { setPerson, showPeople } from '../people';
import { showReadings, showReport } from '../readings';
import { findShortsAsWished } from '../shorts';
import { makeVariants } from '../variants';
import { showSpoken } from '../words';

/** Use cases that compute for longer than a web server may stand still: hashing, grouping faces, framing, finding shorts. */
export const heavy = {
  begin,
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
  takeUpload,
};
export type Heavy = typeof heavy;
