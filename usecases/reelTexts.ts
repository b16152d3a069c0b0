import type { ReelTexts } from '#core/formats';
import { clipsOf, type Reel } from '#core/reel';
import { speakersOf, voiceNow } from '#core/voices';
import { findMedia, listMedia } from '#data/media';
import { listTextLanguages, loadSpokenIn } from '#data/otherTexts';
import { listSpeakers } from '#data/speakers';
import { loadSpoken } from '#data/words';
import { CaptionTextsDto } from './forms/dto';
import { openProject } from './openProject';
import { done, type ValueOf } from './result';
import { namedSpeakers } from './speakers';
import { check } from './validate';

/**
 * What captions of a reel are made of: words, those of a second language where its captions have one, and who speaks.
 * @param name whether speakers are named, as far as that is known
 */
export async function loadReelTexts(projectId: string, reel: Reel, name = false): Promise<ReelTexts> {
  const media = clipsOf(reel).map((clip) => clip.media);
  const second = reel.captions?.second;
  const [nameAt, turnsOf] = await Promise.all([
    name ? loadNames(projectId, media) : null,
    reel.captions?.speakers ? listSpeakers(projectId).then((files) => speakersOf(files).turnsOf) : null,
  ]);
  return {
    wordsOf: await loadSpoken(media),
    ...(second ? { secondOf: await loadSpokenIn(second, media) } : {}),
    speakerOf: (id, seconds) => {
      const speaker = nameAt?.(id, seconds) ?? null;
      const voice = turnsOf ? voiceNow(turnsOf(id), seconds) : null;
      return { ...(speaker === null ? {} : { speaker }), ...(voice === null ? {} : { voice }) };
    },
  };
}

/** Who speaks in footage at a second, by name, where it can be told. */
async function loadNames(
  projectId: string,
  wanted: readonly string[],
): Promise<(media: string, seconds: number) => string | null> {
  const turns = new Map<string, Awaited<ReturnType<typeof namedSpeakers>>>();
  for (const media of new Set(wanted)) {
    const row = await findMedia(media);
    if (row?.projectId === projectId) turns.set(media, await namedSpeakers(row));
  }
  return (media, seconds) =>
    turns.get(media)?.find(({ start, end }) => seconds >= start && seconds < end)?.name ?? null;
}

/**
 * What captions may be made of besides the words that are shown: who speaks in the project, and the languages of its texts.
 * @param given `of`, items whose turns are wanted, joined by commas, and `second`, a language in which their words are
 */
export async function showCaptionTexts(projectId: string, given: unknown) {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const checked = check(CaptionTextsDto, given);
  if (!checked.ok) return checked;
  const { second, of = [] } = checked.value;
  const items = (await listMedia(projectId)).filter((item) => item.probe?.hasSound).map(({ id }) => id);
  const own = new Set(items);
  const wanted = of.filter((id) => own.has(id));
  const [told, files, secondOf] = await Promise.all([
    listSpeakers(projectId),
    listTextLanguages(items),
    second ? loadSpokenIn(second, wanted) : null,
  ]);
  const languages = new Map<string, number>();
  for (const file of files)
    for (const language of file.languages) languages.set(language, (languages.get(language) ?? 0) + 1);
  const { names, turnsOf } = speakersOf(told);
  return done({
    speakers: names,
    turns: Object.fromEntries(wanted.map((id) => [id, [...turnsOf(id)]])),
    languages: [...languages].map(([tag, count]) => ({ tag, count })).sort((a, b) => b.count - a.count),
    second: Object.fromEntries(wanted.map((id) => [id, [...(secondOf?.(id) ?? [])]])),
  });
}
export type CaptionTexts = ValueOf<typeof showCaptionTexts>;
