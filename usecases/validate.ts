import 'reflect-metadata';
import { plainToInstance } from 'class-transformer';
import { getMetadataStorage, validateSync, ValidationTypes, type ValidationError } from 'class-validator';
import { done, type Problems, type Result } from './result';

/**
 * Turns form data, a query or JSON into an object of a class and checks it by its decorators. Everything that enters
 * passes here.
 * @returns the object, or refused with a sentence for each field
 */
export function check<T extends object>(dto: new () => T, given: unknown): Result<T> {
  const wild = whatIsWild(given);
  if (wild !== null) return { ok: false, why: 'refused', sentence: wild, problems: { form: wild } };
  const value = plainToInstance(dto, plainOf(given), { enableImplicitConversion: false, exposeDefaultValues: true });
  const errors = validateSync(value, { whitelist: true, forbidUnknownValues: true });
  const misplaced = errors.length === 0 ? misplacedList(value) : null;
  if (errors.length === 0 && misplaced === null) return done(value);
  const problems = misplaced === null ? collect(errors) : { [misplaced]: `${misplaced} is a list where none belongs` };
  return { ok: false, why: 'refused', sentence: Object.values(problems)[0] ?? 'This does not fit.', problems };
}

/**
 * Where a list stands in place of an object. Of what is nested, class-validator looks into lists however deep they lie, and
 * takes one with nothing in it for well.
 */
function misplacedList(value: object, path = ''): string | null {
  for (const { propertyName, each } of nestedIn(value.constructor)) {
    const field = path + propertyName;
    const inner = (value as Record<string, unknown>)[propertyName];
    if (Array.isArray(inner) && !each) return field;
    const list: unknown[] = Array.isArray(inner) ? inner : [inner];
    for (const [index, one] of list.entries()) {
      const place = each ? `${field}.${index}` : field;
      if (Array.isArray(one)) return place;
      const found = typeof one === 'object' && one !== null ? misplacedList(one, `${place}.`) : null;
      if (found !== null) return found;
    }
  }
  return null;
}

const nestedKnown = new WeakMap<object, { propertyName: string; each: boolean }[]>();
/** What of a class is made of other classes. */
function nestedIn(made: object): { propertyName: string; each: boolean }[] {
  const known = nestedKnown.get(made);
  if (known) return known;
  const rules = getMetadataStorage()
    .getTargetValidationMetadatas(made as never, '', false, false)
    .filter(({ type }) => type === ValidationTypes.NESTED_VALIDATION);
  nestedKnown.set(made, rules);
  return rules;
}

/** Documents of ours are nested by a third of this. */
const deepest = 40;
/** Names that mean something to every object of JavaScript. */
const reserved = new Set(['__proto__', 'constructor', 'prototype', 'toString', 'valueOf']);
/** What neither a text of PostgreSQL nor an address can hold: NUL, and halves of letters (Unicode 15.1, 3.9). */
const unwritable = /\0|\p{Surrogate}/u;

/** Records of more fields than this are large: what is kept by pieces, files or bars may be, with so many fields together. */
const largeFields = 1000;
const mostLargeFields = 20_000;
/** More fields with different names has no form. */
const mostNames = 1000;

/** Why something that came in cannot be looked at, whatever it was meant to be; null when it can. */
export function whatIsWild(given: unknown): string | null {
  if (given instanceof FormData && new Set(given.keys()).size > mostNames) return 'What was sent has too many fields.';
  return wildIn(given, 0, { large: 0 });
}

/** @param seen how many fields large records had so far: what a class is made of takes the square of them (class-transformer) */
function wildIn(given: unknown, depth: number, seen: { large: number }): string | null {
  if (typeof given === 'string')
    return unwritable.test(given) ? 'A text holds characters that no text can hold.' : null;
  if (typeof given !== 'object' || given === null || ArrayBuffer.isView(given)) return null;
  if (depth > deepest) return 'What was sent is nested too deeply.';
  const isList = Array.isArray(given) || given instanceof FormData;
  const entries: readonly [string | number, unknown][] = isList ? [...given.entries()] : Object.entries(given);
  if (!isList && entries.length > largeFields) seen.large += entries.length;
  if (seen.large > mostLargeFields) return 'What was sent has too many fields.';
  for (const [name, value] of entries) {
    if (typeof name === 'string' && reserved.has(name)) return `“${name}” is no field of anything.`;
    const wild = wildIn(name, depth + 1, seen) ?? wildIn(value, depth + 1, seen);
    if (wild !== null) return wild;
  }
  return null;
}

/** A field that stands several times in a form is a list. */
export function plainOf(given: unknown): object {
  if (!(given instanceof FormData)) return given ?? {};
  const fields = new Map<string, FormDataEntryValue[]>();
  for (const [name, value] of given) {
    const own = fields.get(name);
    if (own) own.push(value);
    else fields.set(name, [value]);
  }
  return Object.fromEntries([...fields].map(([name, values]) => [name, values.length > 1 ? values : values[0]]));
}

/** What was checked as data of its own: no class, no field that was left out. */
export const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

function collect(errors: ValidationError[], path = ''): Problems {
  const problems: Problems = {};
  for (const error of errors) {
    const field = path ? `${path}.${error.property}` : error.property;
    // Of what is no number, bounds have nothing to say.
    const { isNumber, isInt, ...others } = error.constraints ?? {};
    const sentence = isNumber ?? isInt ?? Object.values(others)[0];
    if (sentence) problems[field] = sentence;
    Object.assign(problems, collect(error.children ?? [], field));
  }
  return problems;
}
