import { namedTurns } from '#core/framing';
import { runsOf } from '#core/readings';
import { changeVoice, joinVoices, mostVoices, namesOfVoices, voiceAt, voicesIn, type VoiceTurn } from '#core/voices';
import { keyOf, type MediaRow } from '#data/media';
import { findReading, loadDerived } from '#data/readings';
import { findSpeakers, saveSpeakers } from '#data/speakers';
import { activeTask, queueTask } from '#data/tasks';
import { loadWatched } from '#data/watched';
import { SpeakersDto } from './forms/dto';
import { listPeople } from './people';
import { openItem } from './readings';
import { conflict, done, nothingMore, refused, type Result, type ValueOf } from './result';
import { check } from './validate';

const subjects = (mediaId: string): string[] => [
  mediaId,
  ...Array.from({ length: mostVoices }, (_, at) => `${mediaId} ${at + 1}`),
];

/** Who speaks when in an item: turns, and of each voice what it is called, or may be by the faces that are seen. */
export async function showSpeakers(mediaId: string) {
  const item = await openItem(mediaId);
  if (!item.ok) return item;
  const [row, task] = await Promise.all([findSpeakers(mediaId), activeTask('voices', ...subjects(mediaId))]);
  const turns = row?.turns ?? [];
  const proposed = row ? await namesBySight(item.value, turns) : new Map<number, string>();
  const taken = new Set(Object.values(row?.names ?? {}));
  return done({
    turns,
    version: row?.version ?? 0,
    looking: task ? { progress: task.progress } : null,
    voices: voicesIn(turns).map((line) => {
      const name = row?.names[line.voice] ?? null;
      const other = proposed.get(line.voice) ?? null;
      return { ...line, name, proposed: name === null && other !== null && !taken.has(other) ? other : null };
    }),
  });
}
export type ShownSpeakers = ValueOf<typeof showSpeakers>;

/** Stretches of an item in which it is seen who speaks, by name. */
async function turnsBySight(row: MediaRow, turns: readonly VoiceTurn[] | null): Promise<ReturnType<typeof namedTurns>> {
  const watched = await loadWatched(row);
  if (!watched) return [];
  const people = await listPeople(row.projectId);
  // Faces that are too small to tell whose they are belong to nobody.
  const nameOf = new Map(
    people.flatMap(({ tracks, named, name }) => tracks.map(({ key }) => [key, named ? name : null] as const)),
  );
  const faces = watched.tracks.map(({ id, start, end }) => ({
    track: id,
    start,
    end,
    name: nameOf.get(`${row.id}/${id}`) ?? null,
  }));
  return namedTurns(turns ?? watched.turns, faces, watched.mouths);
}

const namesBySight = async (row: MediaRow, turns: readonly VoiceTurn[]): Promise<Map<number, string>> =>
  namesOfVoices(turns, await turnsBySight(row, turns));

/** Who speaks when in an item, by name: voices that were named, or that faces name; where no voices were told apart, by sight alone. */
export async function namedSpeakers(row: MediaRow): Promise<{ start: number; end: number; name: string }[]> {
  const known = await findSpeakers(row.id);
  if (!known) return turnsBySight(row, null);
  const bySight = await namesBySight(row, known.turns);
  const taken = new Set(Object.values(known.names));
  return known.turns.flatMap(({ start, end, voice }) => {
    const seen = bySight.get(voice);
    const name = known.names[voice] ?? (seen !== undefined && !taken.has(seen) ? seen : undefined);
    return name === undefined ? [] : [{ start, end, name }];
  });
}

/**
 * Tells the speakers of an item apart, or corrects what was told.
 * @param given `intent`: tell (`count`), name (`voice`, `name`), join (`voice`, `into`), change (`start`, `end`, `voice`; a new one without it)
 */
export async function changeSpeakers(mediaId: string, given: unknown): Promise<Result<null>> {
  const item = await openItem(mediaId);
  if (!item.ok) return item;
  const checked = check(SpeakersDto, given);
  if (!checked.ok) return checked;
  const { intent, count, voice, into, name, start, end, version = 0 } = checked.value;
  if (intent === 'tell') return tell(item.value, count ?? null);
  const now = await findSpeakers(mediaId);
  if (!now) return refused('The speakers of this file have not been told apart yet.', 'intent');
  if (now.version !== version) return changedElsewhere();
  const isThere = (number: number | undefined): number is number => now.turns.some((turn) => turn.voice === number);
  if (intent !== 'change' && !isThere(voice)) return refused('This speaker is not there any more.', 'voice');
  let { turns, names } = now;
  if (intent === 'name') {
    const { [String(voice)]: _, ...others } = names;
    names = name ? { ...others, [String(voice)]: name } : others;
  } else if (intent === 'join') {
    if (!isThere(into) || into === voice) return refused('Choose another speaker.', 'into');
    turns = joinVoices(turns, voice!, into);
    const { [String(voice)]: own, ...others } = names;
    names = own && !others[into] ? { ...others, [into]: own } : others;
  } else {
    if (start === undefined || end === undefined || !(end > start))
      return refused('A stretch has a beginning and a later end.', 'end');
    if (voice !== undefined && !isThere(voice)) return refused('This speaker is not there any more.', 'voice');
    if (voiceAt(turns, { start, end }) === null) return refused('Nobody speaks there.', 'start');
    if (voice === undefined && voicesIn(turns).length >= mostVoices)
      return refused(`There can be ${mostVoices} speakers at most.`, 'voice');
    turns = changeVoice(turns, { start, end }, voice ?? null);
  }
  return (await saveSpeakers(mediaId, { turns, names }, version)) ? nothingMore : changedElsewhere();
}

const changedElsewhere = () =>
  conflict('The speakers were changed in another window. They are shown anew; please do that again.', null);

/** What telling voices apart takes for a second of footage, about. */
const tellingSeconds = 0.03;

async function tell(row: MediaRow, count: number | null): Promise<Result<null>> {
  const read = await findReading(keyOf(row));
  const derived = read && (await loadDerived(keyOf(row)));
  if (!derived) return refused('The file has to be read before its speakers can be told apart.', 'intent');
  if (runsOf(derived.runs, 'speech').length === 0) return refused('Nobody speaks in this file.', 'intent');
  await queueTask({
    projectId: row.projectId,
    kind: 'voices',
    subject: count === null ? row.id : `${row.id} ${count}`,
    title: row.name,
    workSeconds: read.probe.durationSeconds * tellingSeconds,
  });
  return nothingMore;
}
