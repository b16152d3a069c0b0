import { expect, it } from 'vitest';
import { whatActs } from './whatActs';

const [marked, scene, chosen, moment] = [
  { start: 40, end: 44 },
  { start: 0, end: 20 },
  { start: 10, end: 14 },
  { start: 11, end: 13 },
];
const none = { marked: null, scene: null, chosen: null, moment: null };

it('what is marked acts wherever the playhead is, then what the viewer shows', () => {
  expect(whatActs({ marked, scene, chosen, moment }, 12)).toEqual({ range: marked, as: 'marked' });
  expect(whatActs({ ...none, scene, chosen, moment }, 12)).toEqual({ range: scene, as: 'scene' });
  expect(whatActs({ ...none, chosen, moment }, 12)).toEqual({ range: chosen, as: 'chosen' });
  expect(whatActs({ ...none, moment }, 12)).toEqual({ range: moment, as: 'moment' });
  expect(whatActs(none, 12)).toBeNull();
});
it('a chosen stretch that the playhead has left is not acted on', () => {
  const elsewhere = { start: 30, end: 33 };
  expect(whatActs({ ...none, chosen, moment: elsewhere }, 31)).toEqual({ range: elsewhere, as: 'moment' });
  expect(whatActs({ ...none, chosen }, 31)).toBeNull();
  // Places are counted in frames: its last one still belongs to it.
  expect(whatActs({ ...none, chosen }, 14.04)?.as).toBe('chosen');
  expect(whatActs({ ...none, chosen }, 9.97)?.as).toBe('chosen');
});
