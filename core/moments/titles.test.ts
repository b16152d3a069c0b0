import { describe, expect, it } from 'vitest';
import type { DisplayTraces, Run } from '#core/readings';
import { prepare } from './score';
import { footage } from './testFootage';
import { momentTitle, titlesApart, type Known } from './titles';

const range = { start: 2, end: 6 };
const title = (fill: Partial<Record<keyof DisplayTraces, (t: number) => number>>, runs: Run[] = [], known?: Known) =>
  momentTitle(prepare(footage(20, fill, runs)), range, known);
const speech: Run[] = [{ kind: 'speech', start: 2, end: 6 }];
const speaks = { speech: (t: number) => (t >= 2 && t < 6 ? 1 : 0), faces: () => 1, faceArea: () => 0.1 };
const said = (text: string): Known['words'] => ({
  a: text.split(' ').map((word, index) => ({ text: word, start: 2.1 + index * 0.3, end: 2.35 + index * 0.3 })),
});
const willa = { name: 'Willa', tracks: [{ media: 'a', start: 0, end: 9 }] };

describe('what a moment is called', () => {
  it('by the line that is said, and who says it', () => {
    const words = said('Never fold it twice.');
    expect(title(speaks, speech, { words, people: [willa] })).toBe('Willa: “Never fold it twice”');
    expect(title(speaks, speech, { words, people: [] })).toBe('“Never fold it twice”');
    expect(title(speaks, speech)).toBe('Talk, 1 face, close');
    expect(title(speaks, speech, { words: {}, people: [willa] })).toBe('Willa talks');
  });
  it('a long line ends at a word; words before and after the stretch are not in it', () => {
    const words = said('My grandmother won this race with a box for a fridge');
    const { a } = words;
    expect(title(speaks, speech, { words: { a: [...a!, { text: 'never', start: 6.2, end: 6.5 }] }, people: [] })).toBe(
      '“My grandmother won this race with a box for…”',
    );
  });
  it('the line follows a correction', () => {
    const words = said('Never hold it twice');
    expect(title(speaks, speech, { words, people: [] })).toContain('hold');
    expect(title(speaks, speech, { words: said('Never fold it twice'), people: [] })).toContain('fold');
  });
  it('by who is seen and how', () => {
    expect(title({ faces: () => 1, faceArea: () => 0.1, smile: () => 0.9 }, [], { words: {}, people: [willa] })).toBe(
      'Willa, smiling',
    );
    expect(title({ faces: () => 5, faceArea: () => 0.004 })).toBe('5 faces, wide');
    expect(title({ faces: () => 5, faceArea: () => 0.004 }, [], { words: {}, people: [willa] })).toBe(
      'Willa and 4 others, wide',
    );
  });
  it('by what moves, what is heard, and where the camera goes', () => {
    const boats: Run[] = [{ kind: 'object', label: 'boat', amount: 2, size: 0.1, start: 0, end: 20 }];
    expect(title({ motion: () => 0.9 }, boats)).toBe('2 boats, fast');
    expect(title({ motion: () => 0.5 })).toBe('Movement');
    expect(title({ bursts: () => 0.9, faces: () => 5, faceArea: () => 0.004 })).toBe('The crowd cheers, 5 faces, wide');
    expect(title({ moves: () => 0.9 }, [{ kind: 'smooth', label: 'right', start: 1, end: 7 }])).toBe(
      'Smooth pan right',
    );
    expect(title({}, boats)).toBe('Still view, 2 boats');
  });
});

describe('titles on one screen', () => {
  const at = (media: string, start: number) => ({ media, start, end: start + 3 });
  it('are never the same: time tells apart, and then the number', () => {
    const moments = [at('a', 0), at('a', 64), at('b', 64), at('b', 9)];
    expect(titlesApart(moments, ['1 face', '1 face', '1 face', '“Go”'])).toEqual([
      '1 face, at 0:00',
      '1 face, at 1:04 (1)',
      '1 face, at 1:04 (2)',
      '“Go”',
    ]);
  });
});
