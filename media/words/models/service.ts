import { mkdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { firstTrack } from '#core/sound';
import type { Range } from '#core/time';
import { spread, type Word } from '#core/words';
import { Cancelled, MediaError } from '../../process';
import { runFfmpeg } from '../../runFfmpeg';
import type { Recogniser } from '../recogniser';
import { hearingArguments } from '../sphinx';
import { windowsOf } from './whisperModel';

interface ServiceOptions {
  /** Such as http://127.0.0.1:8000/v1/audio/transcriptions. */
  address: string;
  key?: string | undefined;
  model: string;
  languages: string[];
}

/** So long a window may take; a service may have to load its model first. */
const patienceMilliseconds = 600_000;
/** Where the service does not say how sure it is. */
const sureAbout = 0.85;

/**
 * A service in the manner of the common transcription API: sound by POST as a form, words with their times as JSON
 * (`verbose_json`). Sound is sent to it, and to nobody else.
 */
export function serviceRecogniser({ address, key, model, languages }: ServiceOptions): Recogniser {
  return {
    name: `service:${model}`,
    revision: 1,
    takesTerms: true,
    languages,
    async recognise(file, stretches, { folder, language, sound = firstTrack, terms = [], signal, onProgress }) {
      await mkdir(folder, { recursive: true });
      const windows = windowsOf(stretches);
      const words: Word[] = [];
      for (const [at, window] of windows.entries()) {
        const wav = join(folder, `window-${at}.wav`);
        await runFfmpeg([...hearingArguments(file, sound, window), wav], signal);
        const form = new FormData();
        form.set('file', new Blob([await readFile(wav)], { type: 'audio/wav' }), `window-${at}.wav`);
        form.set('model', model);
        form.set('language', language.split('-')[0]!);
        form.set('response_format', 'verbose_json');
        form.append('timestamp_granularities[]', 'word');
        form.append('timestamp_granularities[]', 'segment');
        if (terms.length > 0) form.set('prompt', `${terms.join(', ')}.`);
        words.push(...parseService(await ask(address, key, form, signal), window));
        onProgress?.((at + 1) / windows.length);
      }
      return words;
    },
  };
}

async function ask(address: string, key: string | undefined, form: FormData, signal?: AbortSignal): Promise<unknown> {
  const tooLong = AbortSignal.timeout(patienceMilliseconds);
  const answer = await fetch(address, {
    method: 'POST',
    body: form,
    redirect: 'error',
    ...(key ? { headers: { authorization: `Bearer ${key}` } } : {}),
    signal: signal ? AbortSignal.any([signal, tooLong]) : tooLong,
  }).catch((error: unknown) => {
    if (signal?.aborted) throw new Cancelled();
    throw new MediaError(
      tooLong.aborted ? 'The transcription service does not answer.' : 'The transcription service cannot be reached.',
      { cause: error },
    );
  });
  if (answer.status === 401 || answer.status === 403)
    throw new MediaError('The transcription service refuses the key. Correct BRIGHT_REEL_TRANSCRIPTION_KEY.');
  if (!answer.ok) throw new MediaError(`The transcription service refused the sound (${answer.status}).`);
  return answer.json().catch((error: unknown) => {
    throw new MediaError('The transcription service gave an answer that is not JSON.', { cause: error });
  });
}

interface Timed {
  start: number;
  end: number;
}
const isTimed = (value: unknown): value is Timed =>
  typeof value === 'object' &&
  value !== null &&
  Number.isFinite((value as Timed).start) &&
  Number.isFinite((value as Timed).end);
const list = (value: unknown): unknown[] => (Array.isArray(value) ? (value as unknown[]) : []);
const text = (value: unknown): string => (typeof value === 'string' ? value.trim() : '');

/**
 * Words of a window out of `verbose_json`, in seconds of the file: with the times of each where it says them, else spread over
 * the segments by their letters. A word is as sure as its segment, by the mean logarithm of the chances of its tokens.
 */
export function parseService(answer: unknown, window: Range): Word[] {
  const { words: saidWords, segments: saidSegments } = (answer ?? {}) as { words?: unknown; segments?: unknown };
  const segments = list(saidSegments)
    .filter(isTimed)
    .map((segment) => {
      const { text: said, avg_logprob: logarithm } = segment as Timed & { text?: unknown; avg_logprob?: unknown };
      const confidence = typeof logarithm === 'number' ? Math.min(1, Math.exp(logarithm)) : sureAbout;
      return { start: segment.start, end: segment.end, text: text(said), confidence };
    });
  const inFile = (seconds: number) => Math.min(window.end, window.start + Math.max(0, seconds));
  const timed = list(saidWords).filter(isTimed);
  if (timed.length > 0)
    return timed.flatMap((each) => {
      const said = text((each as Timed & { word?: unknown }).word);
      const middle = (each.start + each.end) / 2;
      const segment = segments.find(({ start, end }) => middle >= start && middle <= end);
      if (!said) return [];
      const start = inFile(each.start);
      return [
        { text: said, start, end: Math.max(start, inFile(each.end)), confidence: segment?.confidence ?? sureAbout },
      ];
    });
  return segments.flatMap(({ start, end, text: said, confidence }) =>
    said ? spread(said.split(/\s+/), inFile(start), inFile(end)).map((word) => ({ ...word, confidence })) : [],
  );
}
