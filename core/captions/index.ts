export {
  type CaptionFont,
  type CaptionLine,
  type CaptionStyle,
  type HeardWord,
  captionRules,
  easyReading,
  fastestReading,
  lineText,
} from './types';
export { captionAt, captionLines } from './lines';
export { captionDefaults, captionFontNames, captionFonts, captionLooks, clearOfPlayers } from './style';
export { approximateCanvas, drawCaption, layoutCaption, shownText } from './layout';
export { captionsAss } from './ass';
export { tappedTimes } from './tapped';
