import type { RawReading } from './types';

const memory = new WeakMap<RawReading, Map<string, { on: string; value: unknown }>>();

/**
 * One step of deciding a reading, remembered as long as the measurements live: it is done again only when what it
 * depends on (`on`, plain data) has changed. So a moved sensitivity costs its own step and what follows from it.
 * Whoever gets the value leaves it as it is.
 */
export function stage<Value>(raw: RawReading, name: string, on: unknown, decide: () => Value): Value {
  let stages = memory.get(raw);
  if (!stages) memory.set(raw, (stages = new Map<string, { on: string; value: unknown }>()));
  const key = JSON.stringify(on);
  const known = stages.get(name);
  if (known?.on === key) return known.value as Value;
  const value = decide();
  stages.set(name, { on: key, value });
  return value;
}
