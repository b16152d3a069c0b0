/** Large documents beside the large reel: ten hours in 500 files, 300 reels, a song with 1,500 cuts, 60,000 words. */
import type { Page } from '@playwright/test';
import { createMontage, slotsByPattern, type MontagePiece } from '#core/montage';
import { assembleReel } from '#core/reel';
import { readerVersion, summarize } from '#core/readings';
import type { MusicHearing } from '#core/sound';
import { rates } from '#core/time';
import type { Word } from '#core/words';
import { database } from '#data/db';
import { addFile, addMedia, keyOf } from '#data/media';
import { saveHearing, saveMontage } from '#data/montages';
import { createProject } from '#data/projects';
import { createReel } from '#data/reels';
import { readings } from '#data/schema';
import { saveTranscript } from '#data/words';
import { madeReading } from './madeReading';
import { repaint } from './immediacy';
import { addMadeFilm } from './projects';
import { median, row } from './table';

const beatSeconds = 0.48;
const cuts = 1500;
const songSeconds = cuts * beatSeconds;

/** Ten hours in five hundred files, with three hundred reels of them. */
export async function makeTenHours() {
  const project = await createProject('Ten hours');
  const films: string[] = [];
  for (let file = 0; file < 500; file++)
    films.push(await addMadeFilm(project.id, `bank-${String(file).padStart(3, '0')}.mp4`, file, 72));
  const sources = new Map(films.map((id) => [id, { id, name: 'bank', durationSeconds: 72 }]));
  for (let reel = 0; reel < 300; reel++) {
    const pieces = Array.from({ length: 20 }, (_, index) => ({
      media: films[(reel * 7 + index * 13) % films.length]!,
      start: index * 3,
      end: index * 3 + 4,
      name: `piece ${index + 1}`,
    }));
    await createReel(
      project.id,
      assembleReel(`Reel ${reel + 1}`, pieces, sources, rates['25'], { width: 1280, height: 720 }, () =>
        crypto.randomUUID(),
      ),
    );
  }
  return { projectId: project.id, films };
}

/** A song of twelve minutes that is cut at every beat: 1,500 slots, all filled. */
export async function makeLongSong(projectId: string, films: readonly string[]): Promise<string> {
  const hash = 'bench-song-'.padEnd(64, '0');
  await addFile(hash, 1, `missing/${hash}`);
  const item = await addMedia(projectId, hash, 'long-song.m4a');
  await database()
    .insert(readings)
    .values({
      ...keyOf(item),
      version: readerVersion,
      probe: {
        kind: 'sound',
        durationSeconds: songSeconds,
        rate: null,
        width: 0,
        height: 0,
        hasSound: true,
        videoCodec: null,
        audioCodec: 'aac',
        format: 'mov,mp4,m4a',
      },
      summary: summarize({ durationSeconds: songSeconds, hz: 10, traces: madeReading(1, 60).traces, runs: [] }),
      faces: [],
      objects: [],
      warnings: [],
      tookSeconds: 0,
    });
  const beats = Array.from({ length: cuts + 1 }, (_, index) => Math.min(songSeconds, index * beatSeconds));
  const hearing: MusicHearing = {
    durationSeconds: songSeconds,
    tempo: 60 / beatSeconds,
    confidence: 0.9,
    grid: { beats, bar: 4, starts: beats.flatMap((_, index) => (index % 4 === 0 ? [index] : [])) },
    doubts: [],
    rivals: [],
    sections: Array.from({ length: 24 }, (_, index) => ({
      start: (index * songSeconds) / 24,
      end: ((index + 1) * songSeconds) / 24,
      name: (['verse', 'chorus'] as const)[index % 2]!,
      letter: 'AB'[index % 2]!,
      energy: index % 2,
    })),
    drops: [],
    lastHit: songSeconds,
    hits: beats.filter((_, index) => index % 4 === 0).map((seconds) => ({ seconds, strength: 0.8 })),
    strokes: beats.map((seconds) => ({ seconds, weight: 0.8 })),
    energy: Array.from({ length: songSeconds * 10 }, (_, index) => 0.5 + 0.4 * Math.sin(index / 200)),
    wave: Array.from({ length: songSeconds * 40 }, (_, index) => 50 + 40 * Math.sin(index / 3)),
  };
  await saveHearing(hash, hearing);
  const pieces: MontagePiece[] = Array.from({ length: 400 }, (_, index) => ({
    id: crypto.randomUUID(),
    media: films[index % films.length]!,
    name: `boat ${index + 1}`,
    start: (index * 5) % 60,
    end: ((index * 5) % 60) + 6,
  }));
  const made = createMontage(hearing, pieces, () => crypto.randomUUID());
  const everyBeat = { ...made, pattern: { ...made.pattern, every: 1, followEnergy: false } };
  const slots = slotsByPattern(everyBeat as typeof made, hearing, () => crypto.randomUUID());
  if (!slots.ok) throw new Error(slots.reason);
  await saveMontage(projectId, item.id, 0, {
    ...everyBeat,
    slots: slots.slots.map((slot, index) => {
      const piece = pieces[index % pieces.length]!;
      return { ...slot, piece: { piece: piece.id, sourceStart: piece.start } };
    }),
  } as typeof made);
  return item.id;
}

const said = ['the', 'boat', 'holds', 'and', 'nobody', 'bails', 'water', 'today', 'said', 'captain'];

/** A talk of six and a half hours with 60,000 words. */
export async function makeLongTalk(): Promise<string> {
  const project = await createProject('Sixty thousand words');
  const seconds = 24_000;
  const film = await addMadeFilm(project.id, 'long-talk.mp4', 9999, seconds);
  const words = Array.from({ length: 60_000 }, (_, index): Word => ({
    text: said[(index * 7 + (index >> 4)) % said.length]! + (index % 12 === 11 ? '.' : ''),
    start: index * 0.4,
    end: index * 0.4 + 0.35,
    confidence: index % 9 ? 0.9 : 0.3,
  }));
  await saveTranscript(film, words, 'imported', 0);
  return project.id;
}

/** From going there until something is true on the screen and it answers to keys. */
async function opens(page: Page, name: string, address: string, ready: string, budget: number) {
  const took: number[] = [];
  for (let round = 0; round < 3; round++) {
    const started = Date.now();
    await page.goto(address, { waitUntil: 'commit' });
    await page.waitForFunction(
      (wanted) => {
        const found = document.querySelector(wanted);
        return found !== null && Object.keys(found).some((key) => key.startsWith('__react'));
      },
      ready,
      { timeout: 60_000 },
    );
    took.push(Date.now() - started);
    await page.waitForTimeout(1500);
  }
  row(`${name} opens, median`, median(took), budget);
}

/** From a key or a press to the second frame after something changed. */
async function shows(page: Page, name: string, within: string, act: () => Promise<void>, budget: number, rounds = 6) {
  const took: number[] = [];
  for (let round = 0; round < rounds; round++) {
    await page.evaluate((region) => {
      const watch = window as unknown as { changed: number | null; pressed: number };
      watch.changed = null;
      const begin = () => (watch.pressed = performance.now());
      addEventListener('keydown', begin, { capture: true, once: true });
      addEventListener('pointerdown', begin, { capture: true, once: true });
      const observer = new MutationObserver(() => {
        observer.disconnect();
        requestAnimationFrame(() => requestAnimationFrame(() => (watch.changed = performance.now() - watch.pressed)));
      });
      observer.observe(document.querySelector(region)!, {
        subtree: true,
        childList: true,
        attributes: true,
        characterData: true,
      });
    }, within);
    await act();
    await page
      .waitForFunction(() => (window as unknown as { changed: number | null }).changed !== null, undefined, {
        timeout: 10_000,
      })
      .catch(() => undefined);
    took.push(await page.evaluate(() => (window as unknown as { changed: number | null }).changed ?? 10_000));
    await page.waitForTimeout(500);
  }
  row(`${name}, median`, median(took), budget);
}

export interface Large {
  tenHours: string;
  song: string;
  talk: string;
}

export async function measureLarge(page: Page, { tenHours, song, talk }: Large) {
  await opens(
    page,
    'footage of ten hours in 500 files',
    `${tenHours}/footage`,
    'main table tbody tr, [data-item]',
    2000,
  );
  await opens(page, '300 reels', `${tenHours}/reels`, 'main a[href*="/reels/"]', 2000);
  await opens(page, 'the page of ten hours', `${tenHours}/moments?panel=mix`, '[data-line] canvas', 2000);
  await page.getByText(/[1-9]\d* moments, /).waitFor({ timeout: 60_000 });
  await page.waitForTimeout(3000);
  await page.getByRole('slider', { name: 'Action' }).focus();
  const moves: number[] = [];
  for (let step = 0; step < 8; step++) {
    moves.push(await repaint(page, step % 2 ? 'ArrowLeft' : 'ArrowRight'));
    await page.waitForTimeout(1200);
  }
  row('a weight moves until its page is drawn anew, median', median(moves), 200);
  await opens(page, 'a song of twelve minutes with 1,500 cuts', `${tenHours}/music/${song}`, '[data-slot]', 2000);
  await page.locator('[data-slot]').nth(5).click();
  await page.waitForTimeout(1500);
  await shows(page, 'a slot of it is locked', 'main', () => page.keyboard.press('l'), 100);
  await opens(page, '60,000 words', `${talk}/moments?panel=words`, '[role=tabpanel] p button', 2000);
  await page.waitForTimeout(2000);
  const word = page.locator('[role=tabpanel] p button.rounded').nth(3);
  await shows(page, 'a sentence of them is opened to be corrected', '[role=tabpanel]', () => word.dblclick(), 100, 1);
  await page.keyboard.type('said');
  await shows(page, 'and is corrected', '[role=tabpanel]', () => page.keyboard.press('Enter'), 100, 1);
}
