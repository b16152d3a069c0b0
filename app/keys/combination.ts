/**
 * A key with its modifiers as it is kept: "mod+shift+z", "bracketleft", "arrowup". Letters are those that are printed on
 * the keyboard, signs those that a key writes; what a keyboard cannot write is known by its position, by the names of UI
 * Events `code` (W3C), without "Key" and "Digit".
 */
export type Combination = string;

type KeyPress = Pick<KeyboardEvent, 'key' | 'code' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'> &
  Partial<Pick<KeyboardEvent, 'getModifierState'>>;

/** Signs that have a name of their own, wherever on the keyboard they are written. */
const signs: Readonly<Record<string, Combination>> = {
  '+': 'equal',
  '-': 'minus',
  '[': 'bracketleft',
  ']': 'bracketright',
  '{': 'shift+bracketleft',
  '}': 'shift+bracketright',
  '/': 'slash',
  '?': 'shift+slash',
  '`': 'backquote',
};
const modifiers = new Set([
  'control',
  'shift',
  'alt',
  'meta',
  'altgraph',
  'capslock',
  'dead',
  'process',
  'unidentified',
]);

/** Whether this is a Mac, by what the browser says of its system. */
const isMac = (): boolean => typeof navigator !== 'undefined' && /mac|iphone|ipad/i.test(navigator.userAgent);

/** @returns null while only modifiers are held, and for what is no key */
export function combinationOf(event: KeyPress, onMac = isMac()): Combination | null {
  if (modifiers.has(event.key.toLowerCase())) return null;
  // What is written with AltGr is a sign of its own; some systems tell it as Ctrl and Alt.
  const isGraph = event.getModifierState?.('AltGraph') ?? false;
  const [mod, foreign] = onMac ? [event.metaKey, event.ctrlKey] : [!isGraph && event.ctrlKey, event.metaKey];
  if (foreign) return null;
  const alt = !isGraph && event.altKey;
  const sign = mod || alt ? undefined : signs[event.key];
  if (sign && !event.code.startsWith('Numpad')) return sign;
  const name = /^[a-z]$/i.test(event.key) ? event.key.toLowerCase() : positionOf(event.code);
  if (!name) return null;
  return [mod && 'mod', alt && 'alt', event.shiftKey && 'shift', name].filter(Boolean).join('+');
}

const positionOf = (code: string): string => code.replace(/^(Key|Digit|Numpad)/, '').toLowerCase();

const shown: Readonly<Record<Combination, string>> = {
  arrowleft: '←',
  arrowright: '→',
  arrowup: '↑',
  arrowdown: '↓',
  escape: 'Esc',
  delete: 'Del',
  equal: '+',
  add: '+',
  minus: '−',
  subtract: '−',
  bracketleft: '[',
  bracketright: ']',
  slash: '/',
  backquote: '`',
  comma: ',',
  period: '.',
  semicolon: ';',
  quote: '’',
  backslash: '\\',
};
const shownWithShift: Readonly<Record<Combination, string>> = {
  'shift+bracketleft': '{',
  'shift+bracketright': '}',
  'shift+slash': '?',
};

/** As it is printed: "Ctrl Shift Z", on a Mac "⌘ ⇧ Z". */
export function showCombination(combination: Combination, onMac = isMac()): string {
  const own = shownWithShift[combination];
  if (own) return own;
  const parts = combination.split('+');
  const key = parts.pop()!;
  const names = onMac ? { mod: '⌘', alt: '⌥', shift: '⇧' } : { mod: 'Ctrl', alt: 'Alt', shift: 'Shift' };
  const name = shown[key] ?? key.charAt(0).toUpperCase() + key.slice(1);
  return [...parts.map((part) => names[part as keyof typeof names]), name].join(' ');
}

/** What browsers and systems keep for themselves. */
const kept =
  /^(mod\+(shift\+)?[wtnq]|mod\+[rlpfj]|mod\+shift\+[ijc]|mod\+[0-9]|mod\+tab|mod\+shift\+tab|(shift\+)?tab|alt\+(f4|tab|space)|f(5|6|11|12)|contextmenu|escape|enter)$/;

/** Whether a key can be given to a command. */
export const isFree = (combination: Combination): boolean => !kept.test(combination);

/** Whether a text from outside is a key as it is kept. */
export const isCombination = (text: string): boolean => /^((mod|alt|shift)\+){0,3}[a-z0-9]{1,20}$/.test(text);
