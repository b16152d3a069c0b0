import type { Range } from '#core/time';
import { isKeptAbove, reweigh, type Ground } from './choose';
import { ingredientNames, type Ingredient, type Mix } from './types';

/** A change of one weight, in points of the mix, that brings a stretch in or takes it out while the threshold stands still. */
export interface Remedy {
  ingredient: Ingredient;
  by: number;
}

/**
 * The smallest change of each single weight that brings a stretch in (most of it covered by a kept piece), or takes it
 * out when it is in; fewest points first. Every answer was tried: with that weight and this threshold the choice is so. A
 * generator, because it chooses some dozens of times; whoever runs it may stop in between.
 */
export function* findRemedies(
  grounds: readonly Ground[],
  { media, ...range }: Range & { media: string },
  mix: Mix,
  threshold: number,
): Generator<void, Remedy[]> {
  const isIn = (ingredient: Ingredient, weight: number) => {
    const changed = { ...mix, [ingredient]: weight };
    return isKeptAbove(
      grounds.map((ground) => reweigh(ground, changed)),
      threshold,
      { media, ...range },
    );
  };
  const now = yield* isIn('people', mix.people);
  const found: Remedy[] = [];
  for (const ingredient of ingredientNames)
    for (const end of [100, 0]) {
      if (mix[ingredient] === end) continue;
      yield;
      if ((yield* isIn(ingredient, end)) === now) continue;
      let near = mix[ingredient];
      let far = end;
      while (Math.abs(far - near) > 1) {
        const middle = Math.round((near + far) / 2);
        yield;
        if ((yield* isIn(ingredient, middle)) === now) near = middle;
        else far = middle;
      }
      found.push({ ingredient, by: far - mix[ingredient] });
    }
  return found.sort((a, b) => Math.abs(a.by) - Math.abs(b.by));
}
