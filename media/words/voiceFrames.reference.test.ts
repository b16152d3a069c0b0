import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { coveredSeconds, mergeRanges, totalLength } from '#core/time';
import { overlapsIn, turnRule, turnsOf, voicesIn, withOverlaps } from '#core/voices';
import { dialogueAtOnce, dialogueOf, diarisationError } from '../testDialogue';
import { testFolder } from '../testMedia';
import { voiceFrames } from './voiceFrames';

/**
 * Source: real voices, the prompts of Debian's packages asterisk-core-sounds-en and -it, each read by one person. Who speaks when
 * is known, since the dialogues are made of them. Wanted: a diarisation error of 12 % at the most.
 */
describe('who speaks, by voice', () => {
  const folder = join(testFolder(), 'dialogues');
  it.each([
    ['a minute', 60, 1],
    ['four minutes', 240, 2],
  ])('two people are told apart in %s', async (name, seconds, seed) => {
    const dialogue = dialogueOf(folder, name, ['en', 'it'], seconds, seed);
    const turns = turnsOf((await voiceFrames(dialogue.file)).cepstra, dialogue.turns);
    expect(voicesIn(turns)).toHaveLength(2);
    expect(diarisationError(dialogue, turns)).toBeLessThan(0.06);
  });
  it.each(['en', 'it'] as const)('one person alone stays one (%s)', async (language) => {
    const dialogue = dialogueOf(folder, `alone-${language}`, [language], 150, 3);
    expect(voicesIn(turnsOf((await voiceFrames(dialogue.file)).cepstra, dialogue.turns))).toHaveLength(1);
  });
  it('as many voices as are asked for, and no more than there can be', async () => {
    const dialogue = dialogueOf(folder, 'asked', ['en', 'it'], 60, 4);
    const { cepstra: frames } = await voiceFrames(dialogue.file);
    for (const voices of [1, 2, 3])
      expect(voicesIn(turnsOf(frames, dialogue.turns, { ...turnRule, voices }))).toHaveLength(voices);
  });
  it('where two speak at once is marked, with both; where one speaks at a time nothing is', async () => {
    const talk = dialogueAtOnce(folder, 'at-once', ['en', 'it'], 150, 1);
    const { cepstra, periods } = await voiceFrames(talk.file);
    const found = overlapsIn(periods, mergeRanges(talk.turns));
    const right = found.reduce((sum, range) => sum + coveredSeconds(range, talk.together), 0);
    expect(right / totalLength(found)).toBeGreaterThan(0.8);
    expect(right / totalLength(talk.together)).toBeGreaterThan(0.5);
    const turns = withOverlaps(turnsOf(cepstra, mergeRanges(talk.turns)), found);
    expect(turns.filter(({ also, voice }) => also !== undefined && also !== voice).length).toBeGreaterThan(1);
    const orderly = dialogueOf(folder, 'orderly', ['en', 'it'], 120, 5);
    const alone = overlapsIn((await voiceFrames(orderly.file)).periods, orderly.turns);
    expect(totalLength(alone)).toBeLessThan(0.01 * totalLength(orderly.turns));
  });
});
