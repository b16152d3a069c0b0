import { existsSync } from 'node:fs';
import { speechRuns, firstTrack } from '#core/sound';
import { coveredSeconds, mergeRanges, totalLength } from '#core/time';
import { overlapsIn, turnRule, turnsOf, voicesIn } from '#core/voices';
import { voiceOf } from '../../media/nets/voiceDetector';
import { dialogueAtOnce, dialogueOf, diarisationError } from '../../media/testDialogue';
import { ffmpeg } from '../../media/testMedia';
import { languageNames, promptTexts, type PromptLanguage } from '../../media/testSpeech';
import { voiceFrames } from '../../media/words/voiceFrames';
import { add } from './table';

const source = 'dialogues made of prompts of asterisk-core-sounds; the best assignment of voices to people, no margin';
const wanted = 0.12;
const percent = (share: number) => `${(share * 100).toFixed(1)} %`;

/** Who speaks when: with the speech that is known, with the speech that is found, and in noise; then how many there are of one. */
export async function checkVoices(folder: string): Promise<void> {
  const readers = (['en', 'it', 'fr'] as const).filter((language) =>
    existsSync(`/usr/share/doc/asterisk-core-sounds-${language}`),
  );
  const has = (language: PromptLanguage) =>
    readers.some((reader) => reader === language && promptTexts(reader).length > 0);
  const sets: PromptLanguage[][] = [
    ['en', 'it'],
    ['en', 'fr'],
    ['it', 'fr'],
    ['en', 'it', 'fr'],
    ['en'],
    ['it'],
    ['fr'],
  ];
  for (const [at, who] of sets.filter((set) => set.every(has)).entries()) {
    const dialogue = dialogueOf(folder, `voices-${at}`, who, who.length === 1 ? 240 : 120 * who.length, at + 1);
    const voice = await voiceOf(dialogue.file, firstTrack);
    const found = speechRuns(voice.values, voice.hz, dialogue.seconds);
    const noisy = `${dialogue.file}.noisy.wav`;
    ffmpeg(
      ...['-i', dialogue.file, '-f', 'lavfi', '-i', 'anoisesrc=c=pink:a=0.02:r=16000:seed=1'],
      ...['-filter_complex', 'amix=2:duration=first:normalize=0', noisy],
    );
    const { cepstra: frames } = await voiceFrames(dialogue.file);
    const known = turnsOf(frames, dialogue.turns);
    const errors = [
      diarisationError(dialogue, known),
      diarisationError(dialogue, turnsOf(frames, found)),
      diarisationError(dialogue, turnsOf((await voiceFrames(noisy)).cepstra, dialogue.turns)),
      diarisationError(dialogue, turnsOf(frames, dialogue.turns, { ...turnRule, voices: who.length })),
    ] as const;
    add({
      reading: 'speakers',
      what: `diarisation error, ${who.map((language) => languageNames[language]).join(' + ')}, ${Math.round(dialogue.seconds)} s`,
      ours: `${percent(errors[0])}, ${voicesIn(known).length} found; speech found by us ${percent(errors[1])}; in noise ${percent(errors[2])}; number given ${percent(errors[3])}`,
      wanted: percent(wanted),
      reached: errors[1] <= wanted,
      source,
    });
  }
  for (const [at, who] of sets.filter((set) => set.length > 1 && set.every(has)).entries()) {
    const talk = dialogueAtOnce(folder, `at-once-${at}`, who, 90 * who.length, at + 1);
    const found = overlapsIn((await voiceFrames(talk.file)).periods, mergeRanges(talk.turns));
    const right = found.reduce((sum, range) => sum + coveredSeconds(range, talk.together), 0);
    const [precision, recall] = [right / Math.max(1e-9, totalLength(found)), right / totalLength(talk.together)];
    add({
      reading: 'speakers',
      what: `two at once, ${who.map((language) => languageNames[language]).join(' + ')}, ${Math.round(totalLength(talk.together))} of ${Math.round(talk.seconds)} s`,
      ours: `${percent(precision)} of what is marked is right, ${percent(recall)} of it is marked`,
      wanted: '80 % right',
      reached: precision >= 0.8,
      source:
        'dialogues made of prompts of asterisk-core-sounds in which people cut in; set by prompts in French and Spanish',
    });
  }
}
