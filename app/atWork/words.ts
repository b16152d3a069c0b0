import { counted, listOf } from '#core/sentences';
import type { WorkData } from '#usecases/work';

type Slots = WorkData['workers'][number]['slots'];
type Kind = WorkData['waiting'][number]['kind'];

/** What is done, by kind. */
const kinds: Record<Kind, string> = {
  glance: 'first look',
  chain: 'comparison of files',
  read: 'reading',
  render: 'render',
  words: 'transcript',
  align: 'text to align',
  voices: 'speakers to tell apart',
  sync: 'synchronisation',
  match: 'sound to match',
  hear: 'beats of a song',
  frame: 'framing of a short',
  post: 'post',
  fetch: 'file to fetch',
  join: 'recording to put together',
  music: 'music to make',
};

/** What the place says that shows who works and what waits. */
export const workWords = {
  title: 'Work',
  back: 'All projects',
  workers: (count: number) => (count === 0 ? 'No worker is there' : counted(count, 'worker')),
  nobody: 'Nothing is read or rendered until one is started: ./start does, and so do the units in deploy/.',
  takes: ({ reading = 0, rendering = 0, words = 0, line = 0 }: Slots) =>
    listOf(
      [
        reading > 0 && `reads ${reading}`,
        rendering > 0 && `renders ${rendering}`,
        words > 0 && `hears ${words}`,
        line > 0 && 'all else',
      ].filter((part) => part !== false),
    ),
  takesTitle: 'How many tasks it does at once',
  since: (date: Date) => `since ${date.toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}`,
  process: (host: string, pid: number) => `${host}, process ${pid}`,
  idle: 'waits for work',
  helps: 'a part of a render that another worker joins',
  draining: 'takes nothing more',
  waiting: 'What waits',
  nothingWaits: 'Nothing waits.',
  kind: (kind: Kind) => kinds[kind],
  kindTitle: 'What it is',
  project: 'Project',
  count: 'How many',
  longest: 'The first for',
  nobodyTakes: (given: readonly Kind[]) =>
    `No worker takes this kind of work: ${listOf(given.map((kind) => kinds[kind]))}. Start one, or let one of these do more: BRIGHT_REEL_WORKER.`,
  failed: 'What failed within a day',
  nothingFailed: 'Nothing failed.',
  noProject: 'no project',
};
