export {
  type CaptionFont,
  type CaptionLine,
  type CaptionStyle,
  type CaptionTrack,
  type HeardWord,
  captionRules,
  easyReading,
  fastestReading,
  lineText,
} from './types';
export { captionAt, captionLines } from './lines';
export {
  captionDefaults,
  captionFontNames,
  captionFonts,
  captionLooks,
  clearOfPlayers,
  inLook,
  sameStyle,
  speakerColours,
} from './style';
export { approximateCanvas, drawCaption, layoutCaption, shownText, twoLanguages, wordColour } from './layout';
export { captionsAss } from './ass';
export { tappedTimes } from './tapped';
