import { useSyncExternalStore } from 'react';
import { isCombination, showCombination, type Combination } from './combination';
import { keySets, shortcuts, type ShortcutName } from './shortcuts';

/** Keys that differ from the usual ones, by command: one or several, or none. */
export type OwnKeys = Partial<Record<ShortcutName, Combination[]>>;

/** What the browser keeps: sets of own keys by name, and which of them is used; null for the usual keys. */
export interface KeptKeys {
  used: string | null;
  sets: Record<string, OwnKeys>;
}

const usual: KeptKeys = { used: null, sets: {} };
const shelf = 'keys';
const firstName = 'Own keys';

let now: KeptKeys | null = null;
const listeners = new Set<() => void>();

/** What of a document from outside is keys; anything else is left out. */
export function readKeys(given: unknown): OwnKeys {
  const keys: OwnKeys = {};
  if (typeof given !== 'object' || given === null) return keys;
  for (const [name, list] of Object.entries(given))
    if (Object.hasOwn(shortcuts, name) && Array.isArray(list))
      keys[name as ShortcutName] = list.filter(
        (each): each is string => typeof each === 'string' && isCombination(each),
      );
  return keys;
}

function readKept(text: string | null): KeptKeys {
  try {
    const given = JSON.parse(text ?? 'null') as Partial<KeptKeys> | null;
    if (typeof given?.sets !== 'object' || given.sets === null) return usual;
    const sets = Object.fromEntries(Object.entries(given.sets).map(([name, keys]) => [name, readKeys(keys)]));
    return { used: typeof given.used === 'string' && Object.hasOwn(sets, given.used) ? given.used : null, sets };
  } catch {
    return usual;
  }
}

function kept(): KeptKeys {
  if (now === null) {
    try {
      now = readKept(localStorage.getItem(shelf));
    } catch {
      now = usual;
    }
  }
  return now;
}

/** Keeps keys for this browser. */
export function keepKeys(next: KeptKeys): void {
  now = next;
  try {
    localStorage.setItem(shelf, JSON.stringify(next));
  } catch {
    // They hold until the page is left.
  }
  for (const listener of listeners) listener();
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};
export const useKeptKeys = (): KeptKeys => useSyncExternalStore(subscribe, kept, () => usual);

const usualOf = (name: ShortcutName): Combination[] => shortcuts[name].keys.split(',');
const ownOf = ({ used, sets }: KeptKeys): OwnKeys => (used === null ? {} : (sets[used] ?? {}));

/** The keys of a command, as they are set here. */
export const keysOf = (name: ShortcutName, from: KeptKeys = kept()): Combination[] =>
  ownOf(from)[name] ?? usualOf(name);

/** Sets whose commands work at the same time. */
const together: readonly (readonly ShortcutName[])[] = [
  [...keySets.page, ...keySets.scenes],
  [...keySets.reel, ...keySets.twoReels],
  keySets.music,
  keySets.shorts,
  keySets.variants,
];

/** Commands that have a key and work where another one does. */
export const clashesOf = (name: ShortcutName, key: Combination, from: KeptKeys = kept()): ShortcutName[] => [
  ...new Set(
    together
      .filter((set) => set.includes(name))
      .flat()
      .filter((other) => other !== name && keysOf(other, from).includes(key)),
  ),
];

/** Gives a command other keys, in the set that is used; of the usual keys a set of one's own is made first. */
export function giveKeys(from: KeptKeys, changes: OwnKeys): KeptKeys {
  const name = from.used ?? freeName(from, firstName);
  const before = ownOf(from);
  return { used: name, sets: { ...from.sets, [name]: { ...before, ...changes } } };
}

/** A key for a command, taken from whatever else has it there. */
export function takeKey(from: KeptKeys, name: ShortcutName, key: Combination): KeptKeys {
  const changes: OwnKeys = { [name]: [key] };
  for (const other of clashesOf(name, key, from)) changes[other] = keysOf(other, from).filter((each) => each !== key);
  return giveKeys(from, changes);
}

/** A name that no set has yet. */
export function freeName({ sets }: KeptKeys, wanted: string): string {
  const plain = wanted.trim().slice(0, 40) || firstName;
  let name = plain;
  for (let number = 2; Object.hasOwn(sets, name); number++) name = `${plain} ${number}`;
  return name;
}

/** The first key of a command as it is printed; empty for none. */
export const shownKey = (name: ShortcutName, from: KeptKeys = kept()): string => {
  const [key] = keysOf(name, from);
  return key === undefined ? '' : showCombination(key);
};

/** On a screen; what the server sends has the usual keys of most machines. */
export function useShownKey(): (name: ShortcutName) => string {
  const keys = useSyncExternalStore(subscribe, kept, () => null);
  return (name) => (keys === null ? showCombination(usualOf(name)[0]!, false) : shownKey(name, keys));
}
