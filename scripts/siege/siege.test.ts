import { describe, expect, it } from 'vitest';
import { seededRandom } from '#core/signal';
import routes from '../../app/routes';
import * as archives from '../../usecases/forms/archiveDto';
import * as deliveries from '../../usecases/forms/deliveryDto';
import * as forms from '../../usecases/forms/dto';
import * as montages from '../../usecases/forms/montageDto';
import * as documents from '../../usecases/forms/reelDocumentDto';
import * as reels from '../../usecases/forms/reelDto';
import * as shorts from '../../usecases/forms/shortsDto';
import * as tastes from '../../usecases/forms/tasteDto';
import * as variants from '../../usecases/forms/variantsDto';
import * as viewings from '../../usecases/forms/viewingDto';
import { commandForms } from '../../core/reel/commands/forms/index';
import { check } from '../../usecases/validate';
import { evilInputs } from './inputs';
import { targets } from './routes';
import { evil, placesIn, sampleOf, withValue, type Form, type Known } from './samples';

const known: Known = { id: '0b0a7000-0000-4000-8000-00000000beef', media: '0b0a7000-0000-4000-8000-00000000cafe' };

interface RouteLine {
  path?: string | undefined;
  children?: RouteLine[] | undefined;
}
const pathsOf = (list: readonly RouteLine[], above = ''): string[] =>
  list.flatMap(({ path, children }) => {
    const own = `${above}/${path ?? ''}`.replace(/\/$/, '');
    return children ? [own, ...pathsOf(children, own)] : [own || '/'];
  });
/** Names of what stands in an address do not matter; what may be left out is tried with and without. */
const bare = (path: string) => path.replace(/\/(:\w+|\*)\??$/, '/:').replaceAll(/:\w+/g, ':');

const files = [archives, deliveries, forms, montages, documents, reels, shorts, tastes, variants, viewings];
const allForms = [
  ...files.flatMap((file) => Object.entries(file).filter(([name]) => name.endsWith('Dto'))),
  ...Object.entries(commandForms),
] as [string, Form][];

describe('a siege', () => {
  it('leaves no route out', () => {
    const there = new Set(targets.map(({ path }) => bare(path)));
    expect(pathsOf(routes as RouteLine[]).filter((path) => !there.has(bare(path)))).toEqual([]);
  });
  it.each([
    ['a decision', forms.DecisionDto],
    ['a choice of moments', forms.PickDto],
    ['rules', forms.RulesDto],
  ])('makes %s that is taken, so that what it changes is what is refused', (_, form) => {
    const sample = sampleOf(form, known);
    const checked = check<object>(form, sample);
    expect(checked).toMatchObject({ ok: true });
    expect(Object.keys(sample).length).toBeGreaterThan(3);
  });
  it('changes one value in one place', () => {
    const sample = { a: { b: [1, { c: 2 }] }, d: 3 };
    expect(placesIn(sample).map((place) => place.join('.'))).toEqual(['a', 'a.b', 'a.b.0', 'a.b.1', 'a.b.1.c', 'd']);
    expect(withValue(sample, ['a', 'b', '1', 'c'], 'evil')).toEqual({ a: { b: [1, { c: 'evil' }] }, d: 3 });
  });
  it('tries the same again with the same seed', () => {
    const first = (seed: number) => {
      const inputs = evilInputs(() => known, seededRandom(seed));
      return JSON.stringify(Array.from({ length: 300 }, () => inputs.next().value as unknown));
    };
    expect(first(7)).toBe(first(7));
    expect(first(7)).not.toBe(first(8));
  });
  it.each(allForms)('%s refuses or takes, and never throws, whatever stands in one of its places', (_, form) => {
    const sample = sampleOf(form, known);
    for (const place of placesIn(sample))
      for (const value of evil) {
        const { ok } = check<object>(form, withValue(sample, place, value));
        expect(typeof ok, `${place.join('.')}: ${JSON.stringify(value)?.slice(0, 60)}`).toBe('boolean');
      }
  });
});
