import { fits as fittings, framingSubjects } from '#core/framing';
import { languageTag } from '#core/words';
import { transitionKinds, type Reel } from './types';

/** Fields of a reel that hold words of people, ids or names of files; they never become part of a filter. */
const words = new Set([
  'id',
  'media',
  'name',
  'note',
  'text',
  'sub',
  'link',
  'reason',
  'slot',
  'before',
  'lut',
  'named',
  'theme',
  'follows',
]);
/** Fields that hold one of a few words, and which. */
const choices: Readonly<Record<string, readonly string[] | RegExp>> = {
  schema: ['BrightReel.Reel.1'],
  fit: fittings,
  edges: ['crop', 'fill'],
  corner: ['top left', 'top right', 'bottom left', 'bottom right'],
  motion: ['none', 'fade', 'pop'],
  // Names of fonts that do not ship are set in another one.
  font: /^[A-Z][A-Za-z ]{1,30}$/,
  subject: framingSubjects,
  second: languageTag,
  // Of items, tracks, transitions and titles.
  kind: ['clip', 'gap', 'picture', 'sound', ...transitionKinds, 'opening', 'lower', 'end'],
  ...Object.fromEntries(
    ['colour', 'lit', 'emphasis', 'outline', 'box', 'speakers'].map((name) => [name, /^#[0-9a-f]{6}([0-9a-f]{2})?$/i]),
  ),
};
const fits = (value: string, allowed: readonly string[] | RegExp): boolean =>
  Array.isArray(allowed) ? allowed.includes(value) : (allowed as RegExp).test(value);

/**
 * Whether a reel holds nothing that a renderer could take for something else: every number is a finite one, and text
 * stands only where text belongs. What edits make always does; what came from elsewhere, or stood in a database that
 * somebody wrote to, may not.
 * @returns where it does not, such as "logo.opacity"; null when all is well
 */
export function malformedAt(reel: Reel): string | null {
  const visit = (value: unknown, path: string, field: string): string | null => {
    switch (typeof value) {
      case 'number':
        return Number.isFinite(value) && !words.has(field) && !(field in choices) ? null : path;
      case 'string':
        return words.has(field) || (Object.hasOwn(choices, field) && fits(value, choices[field]!)) ? null : path;
      case 'boolean':
      case 'undefined':
        return null;
      case 'object': {
        if (value === null) return null;
        const parts: [string, unknown][] = Array.isArray(value)
          ? value.map((part: unknown, index) => [String(index), part])
          : Object.entries(value);
        for (const [name, part] of parts) {
          // Parts of a list are called as the list is.
          const found = visit(part, path ? `${path}.${name}` : name, Array.isArray(value) ? field : name);
          if (found !== null) return found;
        }
        return null;
      }
      default:
        return path;
    }
  };
  return visit(reel, '', '');
}
