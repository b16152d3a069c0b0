import 'reflect-metadata';
import { plainToInstance } from 'class-transformer';
import { validateSync, type ValidationError } from 'class-validator';

export type Problems = Record<string, string>;
export type Checked<T> = { ok: true; value: T } | { ok: false; problems: Problems };

/** Turns form data or JSON into a DTO and checks it; problems come field by field. */
export function check<T extends object>(dto: new () => T, given: unknown): Checked<T> {
  const plain =
    given instanceof FormData
      ? Object.fromEntries(
          [...new Set(given.keys())].map((key) => [
            key,
            given.getAll(key).length > 1 ? given.getAll(key) : given.get(key),
          ]),
        )
      : (given ?? {});
  const value = plainToInstance(dto, plain, { enableImplicitConversion: false, exposeDefaultValues: true });
  const errors = validateSync(value, { whitelist: true, forbidUnknownValues: true });
  return errors.length === 0 ? { ok: true, value } : { ok: false, problems: collect(errors) };
}

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
