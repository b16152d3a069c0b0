import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { cropReading, runsOf } from '#core/readings';
import { coveredSeconds, totalLength, type Range } from '#core/time';
import { anchorsOf, parseSubtitles, scriptWords, type Word } from '#core/words';
import { percentile } from '#core/signal';
import { closeDatabase, migrateDatabase } from '../../data/db';
import { findFile, keyOf, type MediaRow } from '../../data/media';
import { createProject } from '../../data/projects';
import { coarse, findReading, forgetReading, loadDerived, loadRaw, saveReading } from '../../data/readings';
import { findScript } from '../../data/scripts';
import { loadTranscript, saveRecognition } from '../../data/words';
import { migrateQueue } from '../queue';
import { bringShipped } from '../testFootage';
import { changeWords, editWords, showWords } from '../words';
import { alignText } from './alignText';
import { later, type Work } from './runTask';
import { speechOf } from './speechOf';

const cues = parseSubtitles(readFileSync('demo/media/race-day.srt', 'utf8'));

describe.skipIf(!process.env.DATABASE_URL)('a text without times', () => {
  const folder = mkdtempSync(join(tmpdir(), 'bright-reel-align-'));
  const before = process.env.BRIGHT_REEL_DATA;
  let item: MediaRow;
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = folder;
    await migrateDatabase();
    await migrateQueue();
    item = await bringShipped((await createProject('Pond')).id, 'race-day.mp4');
    const heard = readFileSync('demo/readings/race-day.mp4/words.json', 'utf8');
    await saveRecognition(keyOf(item), 'pocketsphinx', JSON.parse(heard) as Word[]);
  });
  afterAll(async () => {
    Object.assign(process.env, { BRIGHT_REEL_DATA: before });
    await closeDatabase();
    rmSync(folder, { recursive: true, force: true });
  });
  const shares: number[] = [];
  const work = (signal = new AbortController().signal): Work => ({
    task: { id: crypto.randomUUID(), projectId: item.projectId, subject: item.id, title: item.name } as Work['task'],
    run: crypto.randomUUID(),
    signal,
    progress: (share) => shares.push(share),
    say: async () => undefined,
  });
  const give = (text: string) => changeWords(item.id, 'import', { text, name: 'script.txt', anyway: 'true' });

  it('gets the times at which it is said; what was corrected meanwhile stays beside it', async () => {
    const text = cues.map((cue) => cue.text);
    expect(await give([...text, 'Nobody ever said that this umbrella was yellow.'].join('\n'))).toMatchObject({
      value: { aligning: true },
    });
    const shown = await showWords(item.id);
    expect(shown).toMatchObject({ value: { script: { name: 'script.txt', aligning: true } } });
    const { version } = await loadTranscript(item);
    await editWords(item.id, { version, command: { type: 'type', text: 'Oh', start: 1, end: 2 } });
    const sentence = await alignText(work());
    expect(sentence).toMatch(/^\d+ words have their times; \d+ words? left out/);
    expect(shares.at(-1)).toBe(1);
    const { words, source, language } = await loadTranscript(item);
    expect([source, language]).toEqual(['imported', 'en']);
    expect(await findScript(item.id)).toBeNull();
    const after = await showWords(item.id);
    expect(after.ok && after.value.others.map((other) => other.source)).toEqual(['corrected']);
    // The voice of the demo is synthesised, and its subtitles are laid out by the same script (demo/longPiece.ts).
    const spoken = text.flatMap((line, cue) =>
      scriptWords(line).map((word, at) => ({ ...word, cue, isFirst: at === 0 })),
    );
    const found = anchorsOf(
      spoken.map((word) => word.text),
      words.map((word) => word.text),
    );
    expect(found.length / spoken.length).toBeGreaterThan(0.95);
    expect(words.filter((word) => word.differs === undefined).length / spoken.length).toBeGreaterThan(0.85);
    const errors = found.flatMap(({ script, heard }) => {
      const { cue, isFirst } = spoken[script]!;
      return isFirst ? [Math.abs(words[heard]!.start - cues[cue]!.start)] : [];
    });
    expect(percentile(Float32Array.from(errors), 0.5)).toBeLessThan(0.12);
    expect(words.at(-1)!.unsaid).toMatch(/umbrella/);
  });

  it('that came while another was aligned has its turn after it', async () => {
    const [first, second] = [cues.slice(0, 12), cues.slice(12, 24)].map((part) =>
      part.map((cue) => cue.text).join('\n'),
    );
    await give(first!);
    const asked = work();
    let isGiven = false;
    const outcome = await alignText({
      ...asked,
      progress: () => {
        if (!isGiven) void give(second!);
        isGiven = true;
      },
    });
    expect(outcome).toBe(later);
    expect((await findScript(item.id))!.text).toBe(second);
    expect(await alignText(work())).toMatch(/have their times/);
    expect(await findScript(item.id)).toBeNull();
  });

  it('needs no reading: where somebody speaks is listened for, also while only points of the file were looked at', async () => {
    const unread = await bringShipped((await createProject('Pond, unread')).id, 'builder-voice.m4a');
    const key = keyOf(unread);
    const read = runsOf((await loadDerived(key))!.runs, 'speech');
    const [row, raw] = [(await findReading(key))!, (await loadRaw(key))!];
    await forgetReading(key);
    const listen = async () => {
      const file = (await findFile(key.hash))!;
      return speechOf(key, file, new AbortController().signal, (share) => shares.push(share));
    };
    const isAsRead = (speech: readonly Range[]) => {
      const both = speech.reduce((sum, run) => sum + coveredSeconds(run, read), 0);
      expect(both / Math.max(totalLength(speech), totalLength(read))).toBeGreaterThan(0.97);
    };
    isAsRead((await listen()).speech);
    expect(shares.at(-1)).toBeGreaterThan(0.1);
    // A first look knows only some of the speech.
    const probe = { ...row.probe, glancedEvery: 20 };
    await saveReading({ ...row, ...coarse(key), probe, raw: cropReading(raw, { start: 0, end: 2 }) });
    isAsRead((await listen()).speech);
  });

  it('of something else is refused with a sentence, and stays until it is done without', async () => {
    const other =
      'My sister keeps seven grey cats beside the kitchen door and feeds them cold potatoes every other evening. ';
    await give(other.repeat(4));
    await expect(alignText(work())).rejects.toThrow(/Nothing of this text was heard/);
    expect(await findScript(item.id)).not.toBeNull();
    await expect(alignText(work(AbortSignal.abort()))).rejects.toThrow();
    await changeWords(item.id, 'leave', {});
    expect(await findScript(item.id)).toBeNull();
    expect(await alignText(work())).toBeNull();
  });
});
