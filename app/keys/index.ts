export { combinationOf, isFree, showCombination, type Combination } from './combination';
export {
  clashesOf,
  freeName,
  giveKeys,
  keepKeys,
  keysOf,
  readKeys,
  shownKey,
  takeKey,
  useKeptKeys,
  useShownKey,
  type KeptKeys,
} from './ownKeys';
export { keySets, shortcuts, type Shortcut, type ShortcutName } from './shortcuts';
