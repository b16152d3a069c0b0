import 'reflect-metadata';
import { plainToInstance } from 'class-transformer';
import { getMetadataStorage } from 'class-validator';

export type Form = new () => object;
export type Sample = Record<string, unknown>;

/** Values that fit fields by their names: ids of things that are there, mostly. */
export type Known = Record<string, string>;

/** Stands for an id that is new each time that something is sent. */
export const freshId = '0b0a7000-0000-4000-8000-0000000000ff';
/** Stand for the version and the head of what is changed, as they are when it is sent. */
export const nowVersion = 424_242;
export const nowHead = 434_343;

/** Values that fit fields by their names where their bounds alone would not, such as an end behind its start. */
const hints: Sample = {
  end: 4,
  out: 4,
  to: 4,
  maxSeconds: 45,
  preferredSeconds: 5,
  minSeconds: 4,
  seconds: 5,
  num: 25,
  lufs: -14,
  percent: 100,
  every: 1,
  frames: 10,
  colour: '#ffc95c',
  lit: '#ffc95c',
  edge: 'in',
  emphasis: '#ffc95c',
  box: '#20262b',
  outline: '#20262b',
  language: 'en',
  subject: 'auto',
  sound: '0',
  version: nowVersion,
  head: nowHead,
  id: freshId,
  newId: freshId,
  text: '1\n00:00:00,000 --> 00:00:04,000\nBoats and ducks\n',
  /** Seconds, and a place in the picture. */
  path: [[0, 0.5, 0.5]],
  below: [[0, 0.5, 0.5]],
  beats: [1, 2, 3, 4, 5, 6, 7, 8],
  starts: [1],
  marks: [2],
  order: [],
  // What may be there and need not.
  houseStyle: null,
  taste: null,
  replaces: null,
  table: null,
  answers: null,
  proxy_key: null,
};

/** What needs something else to be there, and may be left out. */
const leftOut = new Set(['lut', 'lutName', 'link']);

/**
 * Something that a class takes, made from its own checks: every field with a value within its bounds. What only a
 * function can check may not fit; then it is refused, which is an answer too.
 */
export function sampleOf(form: Form, known: Known, depth = 0): Sample {
  const rules = getMetadataStorage().getTargetValidationMetadatas(form, '', false, false);
  const byField = new Map(
    rules.map(({ propertyName }) => [propertyName, rules.filter((rule) => rule.propertyName === propertyName)]),
  );
  const sample: Sample = {};
  for (const [field, own] of byField) {
    if (leftOut.has(field)) continue;
    const bound = (name: string) => own.find((rule) => rule.name === name)?.constraints as unknown[] | undefined;
    const has = (name: string) => own.some((rule) => rule.name === name || rule.type === name);
    const nested = has('nestedValidation') && depth < 6 ? nestedOf(form, field) : null;
    const single = (): unknown => {
      if (nested) return sampleOf(nested, known, depth + 1);
      const hint = hints[field];
      if (hint === null) return hint;
      const isNumber = has('isInt') || has('isNumber');
      const isText = has('isString') || has('matches') || has('isUuid');
      if ((typeof hint === 'number' && isNumber) || (typeof hint === 'string' && isText && !has('isIn'))) {
        const fits =
          isText ||
          (Number(hint) >= Number(bound('min')?.[0] ?? 0) && Number(hint) <= Number(bound('max')?.[0] ?? Infinity));
        if (fits) return hint;
      }
      if (has('isIn')) return (bound('isIn')![0] as unknown[])[0];
      if (has('equals')) return bound('equals')![0];
      if (has('isUuid')) return known[field] ?? known.id;
      if (has('isBoolean')) return true;
      if (has('isDate')) return '2030-01-01T00:00:00.000Z';
      if (has('isInt') || has('isNumber'))
        return Math.min(Number(bound('max')?.[0] ?? Infinity), Math.max(Number(bound('min')?.[0] ?? 1), 1));
      if (has('matches')) return known[field] ?? known.id;
      if (has('isObject') || has('nestedValidation')) return {};
      return known[field] ?? 'x'.repeat(Number((bound('isLength') ?? [1])[0]));
    };
    const list = hints[field];
    sample[field] = Array.isArray(list) && !has('isIn') ? list : has('isArray') ? [single()] : single();
  }
  return sample;
}

/** The class of what lies in a field, as class-transformer makes it. */
function nestedOf(form: Form, field: string): Form | null {
  for (const given of [{ [field]: {} }, { [field]: [{}] }]) {
    const made = (plainToInstance(form, given) as Sample)[field];
    const one: unknown = Array.isArray(made) ? made[0] : made;
    if (one && typeof one === 'object' && one.constructor !== Object) return one.constructor as Form;
  }
  return null;
}

/** Places of every value in something, as lists of keys. */
export function placesIn(value: unknown, at: string[] = []): string[][] {
  const inside =
    value && typeof value === 'object'
      ? Object.entries(value).flatMap(([key, each]) => placesIn(each, [...at, key]))
      : [];
  return at.length ? [at, ...inside] : inside;
}

/** The same with another value in one place. */
export function withValue(value: unknown, [key, ...rest]: readonly string[], other: unknown): unknown {
  if (key === undefined) return other;
  // Something above it was replaced before.
  if (typeof value !== 'object' || value === null) return value;
  if (Array.isArray(value))
    return (value as unknown[]).map((each, index) => (String(index) === key ? withValue(each, rest, other) : each));
  return { ...(value as Sample), [key]: withValue((value as Sample)[key], rest, other) };
}

const deep = (levels: number): unknown => {
  let value: unknown = 0;
  for (let level = 0; level < levels; level++) value = [value];
  return value;
};

/** Values that nobody means; each once for every field that takes something. */
export const evil: readonly unknown[] = [
  ...[null, true, false, 0, -0, 1, -1, 0.1, -1e-300, 1e-300, 1e308, -1e308, 2 ** 31, 2 ** 53, -(2 ** 63), 1e20],
  ...['', ' ', '0', 'NaN', 'Infinity', '1e309', 'null', 'x', 'x'.repeat(300), 'x'.repeat(100_000)],
  ...['\0', 'a\0b', '\ud800', '\udfff x', '\u202e', '\ufeff', '👨‍👩‍👧‍👦'.repeat(50), '%00', '%', '\r\nX-Evil: 1', '\x1b[2J'],
  ...[
    '__proto__',
    'constructor',
    'toString',
    'hasOwnProperty',
    '../../../../etc/passwd',
    '/etc/passwd',
    'C:\\x',
    '.',
    '..',
  ],
  ...[
    "'; drop table tasks; --",
    '" or 1=1',
    '<script>alert(1)</script>',
    '${7*7}',
    '$(id)',
    '`id`',
    '|id',
    '-i',
    '--help',
  ],
  ...[
    'movie=/etc/passwd',
    'drawtext=textfile=/etc/passwd',
    "x'[a];[a]null",
    'file:///etc/passwd',
    'concat:/etc/passwd',
  ],
  ...['http://169.254.169.254/', 'http://127.0.0.1:1/', 'javascript:alert(1)', 'data:text/html,x'],
  ...['00000000-0000-0000-0000-000000000000', '0b0a7000-0000-4000-8000-00000000dead', '2030-02-31', '275761-01-01'],
  ...[
    [],
    {},
    [[]],
    [null],
    [0, -1],
    deep(2000),
    Array.from({ length: 5000 }, () => 0),
    { length: -1 },
    { toString: 1 },
  ],
  ...[JSON.parse('{"__proto__": {"polluted": true}}') as unknown, { constructor: { prototype: { polluted: true } } }],
];
