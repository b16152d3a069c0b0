import { describe, expect, it } from 'vitest';
import { changeJoint, lexiconOf, parseRequest, writeRequest, type Joined, type Node } from '.';
import { questions } from './testQuestions';
import { testDay } from './testDay';

const plain = lexiconOf({}, []);
/** A tree with a bracket around every group. */
const draw = (node: Node): string => {
  if (node.op === 'chip') return node.chip.text;
  if (node.op === 'not') return `not ${draw(node.of)}`;
  if (node.op === 'near') return `${node.where} ${draw(node.of)}`;
  return `(${node.of.map(draw).join(` ${node.op} `)})`;
};
const parse = (text: string) => parseRequest(text, plain).tree!;
const joined = (node: Node): Joined => {
  if (node.op !== 'and' && node.op !== 'or') throw new Error('nothing is joined here');
  return node;
};

describe('brackets', () => {
  it('a text that is written is understood as the tree that it was written from', async () => {
    const { lexicon } = await testDay();
    for (const [, asked] of questions)
      for (const question of asked) {
        const { tree, chips } = parseRequest(question, lexicon);
        if (!tree) continue;
        const picks = chips.filter(({ term }) => term.kind === 'pick');
        const again = parseRequest(writeRequest(tree, picks), lexicon);
        expect([question, again.tree && draw(again.tree)]).toEqual([question, draw(tree)]);
        expect(again.chips.map(({ label }) => label).sort()).toEqual(chips.map(({ label }) => label).sort());
      }
  });

  it('"or" binds last until brackets are moved, and moving them back gives what was there', () => {
    const tree = parse('boats or dogs and talking');
    expect(draw(tree)).toBe('(boats or (dogs and talking))');
    const tight = changeJoint(tree, joined(tree), 0, 'tight');
    expect(draw(tight)).toBe('((boats or dogs) and talking)');
    expect(writeRequest(tight, [])).toBe('(boats or dogs) and talking');
    const inner = joined(joined(tight).of[0]!);
    expect(draw(changeJoint(tight, inner, 0, 'loose'))).toBe(draw(tree));
  });

  it('a joint turned round leaves the others as they are', () => {
    const tree = parse('boats and dogs and cats');
    expect(draw(changeJoint(tree, joined(tree), 1, 'other'))).toBe('((boats and dogs) or cats)');
    const mixed = parse('boats or dogs and cats');
    expect(draw(changeJoint(mixed, joined(joined(mixed).of[1]!), 0, 'other'))).toBe('(boats or dogs or cats)');
  });

  it('goes into what is turned round or lies beside something', () => {
    const tree = parse('birds and not (boats or dogs and cats)');
    const not = joined(tree).of[1]!;
    const group = not.op === 'not' ? joined(not.of) : null;
    expect(draw(changeJoint(tree, group!, 0, 'tight'))).toBe('(birds and not ((boats or dogs) and cats))');
  });
});
