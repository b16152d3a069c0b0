import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { derive } from '#core/readings';
import { findShorts, layShorts, shortsDefaults } from '#core/shorts';
import { MediaError } from '#media/process';
import { readMedia } from '#media/read/read';
import { textOf } from './texts';
import { transcribe } from './transcribe';

export interface ShortsWanted {
  count?: number;
  minSeconds?: number;
  maxSeconds?: number;
  /** A text with times; the words are heard when it is missing. */
  words?: string;
}

/** The document that `./bright-reel shorts` writes; described in docs/formats.md. */
export async function shorts(file: string, wanted: ShortsWanted, onProgress?: (share: number) => void) {
  const words = wanted.words === undefined ? null : await textOf(wanted.words);
  const folder = await mkdtemp(join(tmpdir(), 'bright-reel-'));
  try {
    const { probe, raw } = await readMedia(file, {
      folder,
      onProgress: (share) => onProgress?.(share * (words ? 1 : 0.5)),
    });
    const { traces, runs, hz } = derive(raw);
    const spoken =
      words ?? (probe.hasSound ? (await transcribe(file, {}, (share) => onProgress?.(0.5 + share / 2))).words : []);
    const wish = {
      ...shortsDefaults,
      count: wanted.count ?? shortsDefaults.count,
      minSeconds: wanted.minSeconds ?? shortsDefaults.minSeconds,
      maxSeconds: wanted.maxSeconds ?? shortsDefaults.maxSeconds,
    };
    const ground = layShorts(
      { footage: { id: file, durationSeconds: probe.durationSeconds, hz, traces, runs }, words: spoken },
      wish,
    );
    const found = findShorts(ground).slice(0, wish.count);
    if (found.length === 0)
      throw new MediaError(`No short of ${wish.minSeconds} to ${wish.maxSeconds} s could be found in ${file}.`);
    return {
      material: ground.material,
      because: ground.because,
      shorts: found.map(({ title, reason, score, parts, pieces, endings }) => ({
        title,
        reason,
        score: round(score),
        parts: Object.fromEntries(Object.entries(parts).map(([name, points]) => [name, round(points)])),
        pieces: pieces.map(({ start, end }) => ({ start: round(start), end: round(end) })),
        endings: endings.map(({ end, says, kind }) => ({ end: round(end), says, kind })),
      })),
    };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

const round = (value: number): number => Math.round(value * 1000) / 1000;
