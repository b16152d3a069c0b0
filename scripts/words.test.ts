import { describe, expect, it } from 'vitest';
import { allWords, wordsOf } from './words';

const said = allWords();
const like = (pattern: RegExp, not?: RegExp) =>
  said
    .filter(({ text }) => pattern.test(text) && !not?.test(text))
    .map(({ file, line, text }) => `${file}:${line} ${text}`);

describe('the words that people read', () => {
  it('are found: text, labels and sentences, not classes or addresses', () => {
    const source = `const a = <p title="What it is" className="flex text-sm">Two {count} boats <b aria-label={\`Boat \${n}\`} /></p>;
      const b = 'Nothing was found.'; const c = 'data-line'; const d = '/projects/x'; const e = { hint: 'softly' };`;
    expect(wordsOf('app/x.tsx', source).map(({ text }) => text)).toEqual([
      'What it is',
      'Two',
      'boats',
      'Boat {}',
      'Nothing was found.',
      'softly',
    ]);
    expect(wordsOf('core/x.ts', `const a = 'Nothing was found.'; const b = 'Boat';`)).toHaveLength(1);
    expect(said.length).toBeGreaterThan(1500);
  });
  it('say what has not been done yet, in the perfect: The Cambridge Grammar of English, yet with the present perfect; from memory', () =>
    expect(like(/\b(was|were) (not|never)\b[^.;]*\byet\b/)).toEqual([]));
  it('count characters, of which letters are some', () => expect(like(/\d letters\b/)).toEqual([]));
  it('have curly quotes and true dots', () =>
    expect(like(/\.\.\.|(^|\s)"\w|\w"(\s|$)/, /\.\.\.\w|--|\$\{/)).toEqual([]));
  it('have no blank before a full stop or a comma', () => expect(like(/\w [.,;](\s|$)/, /^[.,;]|\{\}/)).toEqual([]));
  it('of one thing are one: the trade’s word where it has one (docs/glossary.md)', () => {
    const others = [
      /\btext with times\b/i,
      /\bletters a second\b/i,
      /\btake (the|this) \w+ away\b/i,
      /\bfreeze the picture\b/i,
    ];
    for (const pattern of others) expect(like(pattern)).toEqual([]);
  });
});
