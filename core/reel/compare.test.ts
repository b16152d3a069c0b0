import { describe, expect, it } from 'vitest';
import { applyCommand, assembleReel, compareReels, type Reel, type ReelCommand, type Source } from '.';
import { rates } from '#core/time';

const known = new Map<string, Source>(['a', 'b'].map((id) => [id, { id, name: id, durationSeconds: 60 }]));
const start = (): Reel => {
  let next = 0;
  return assembleReel(
    'Cut',
    [
      ['a', 'Launch'],
      ['b', 'Paddle'],
      ['a', 'Turn'],
      ['b', 'Finish'],
    ].map(([media, name], index) => ({ media: media!, name: name!, start: index * 10 + 2, end: index * 10 + 6 })),
    known,
    rates['25'],
    { width: 1280, height: 720 },
    () => 'LPTF'[next++]!,
  );
};
const edit = (...commands: ReelCommand[]): Reel =>
  commands.reduce((before, command) => {
    const result = applyCommand(before, command, known);
    if (!result.ok) throw new Error(result.reason);
    return result.reel;
  }, start());
const says = (...commands: ReelCommand[]) =>
  compareReels(start(), edit(...commands)).map((each) => `${each.clip ?? '-'} ${each.kind}: ${each.says}`);

describe('two versions of a reel', () => {
  it('that are alike have nothing to say', () => expect(compareReels(start(), start())).toEqual([]));
  it('a piece that is gone shortens the reel, and no other piece is named', () =>
    expect(says({ type: 'remove', clip: 'P' })).toEqual([
      '- reel: 0:16.0 became 0:12.0',
      'P gone: “Paddle” taken out',
    ]));
  it('one that is moved is the only one that stands elsewhere', () =>
    expect(says({ type: 'move', clip: 'L', to: 3 })).toEqual(['L moved: “Launch” stands elsewhere']));
  it('a trim says by how much, a slip that another stretch shows', () => {
    expect(says({ type: 'trim', clip: 'T', edge: 'out', frames: -25 })).toEqual([
      '- reel: 0:16.0 became 0:15.0',
      'T trimmed: “Turn” shorter by 1.0 s',
    ]);
    expect(says({ type: 'slip', clip: 'T', frames: 10 })).toEqual(['T trimmed: “Turn” shows another stretch']);
  });
  it('transitions of all cuts are one line, and make no piece another one', () => {
    expect(says({ type: 'transitions', into: { kind: 'dissolve', frames: 10 } })).toEqual([
      '- reel: 3 transitions changed',
    ]);
    expect(says({ type: 'transition', clip: 'F', into: { kind: 'white', frames: 10 } })).toEqual([
      '- reel: a transition changed',
    ]);
  });
  it('looks, sounds, titles, theme, name and shape are told apart', () => {
    expect(says({ type: 'sound', clip: 'P', muted: true })).toEqual(['P changed: “Paddle” looks or sounds otherwise']);
    expect(says({ type: 'rename', name: 'Final' })).toEqual(['- reel: “Cut” became “Final”']);
    expect(says({ type: 'format', size: { width: 1080, height: 1920 } })).toEqual([
      '- reel: 1280×720 became 1080×1920',
    ]);
    expect(says({ type: 'title', title: { id: 't', kind: 'opening', frame: 0, frames: 50, text: 'Pond' } })).toEqual([
      '- added: title “Pond” added',
    ]);
    expect(says({ type: 'theme', theme: 'Landing stage' })).toContain('- reel: theme “Landing stage”');
  });
});
