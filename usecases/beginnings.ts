import { momentPiece, momentTitle, suggestedTarget, tellStory, titlesApart, chooseForTarget } from '#core/moments';
import { shortsDefaults } from '#core/shorts';
import { counted } from '#core/sentences';
import { formatClock } from '#core/time';
import { findMedia, listMedia } from '#data/media';
import { findHearing } from '#data/montages';
import { aloneIn, changeProject, type Project } from '#data/projects';
import { openReel } from '#data/reels';
import type { Aim, Beginning } from '#data/schema';
import { findShortSet } from '#data/shorts';
import { lastTask } from '#data/tasks';
import { BeginningDto } from './forms/dto';
import { layProject } from './grounds';
import { findMusic } from './montages';
import { openProject } from './openProject';
import { enqueueHearing } from './queue';
import { createReels } from './reels';
import { done, refused, type Result } from './result';
import { makeShorts } from './shorts';
import { check } from './validate';

export type { Aim, Beginning };

/** A project that was begun with files instead of a name: what it is for, and how far its music is. */
export async function showBeginning(projectId: string) {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const beginning = project.value.beginning ?? nothingSaid;
  return done({
    aim: beginning.aim,
    made: await standing(project.value, beginning),
    music: beginning.aim === 'montage' ? await musicOf(project.value) : null,
  });
}

const nothingSaid: Beginning = { aim: null, made: null, isFirstLook: false };

/** What was made, if it is there still. */
async function standing(project: Project, { made }: Beginning): Promise<Beginning['made']> {
  if (!made) return null;
  if ('reel' in made) return (await openReel(made.reel)) ? made : null;
  if ('shorts' in made) return (await findShortSet(project.id, made.shorts)) ? made : null;
  return (await findMedia(made.music)) ? made : null;
}

/** The song that a montage is begun with, and whether its beats are known; they are asked for. */
async function musicOf(project: Project): Promise<{ id: string; isHeard: boolean; problem: string | null } | null> {
  const found = await findMusic(project.id);
  const item = found.ok && found.value ? await findMedia(found.value) : null;
  if (!item) return null;
  if (await findHearing(item.fileHash)) return { id: item.id, isHeard: true, problem: null };
  const last = await lastTask('hear', item.fileHash);
  const problem = last?.state === 'failed' || last?.state === 'cancelled' ? last.sentence : null;
  if (!problem) await enqueueHearing(project.id, item.fileHash, item.name);
  return { id: item.id, isHeard: false, problem };
}

/**
 * Says what a project is begun for, or makes it: the first reel, five shorts, a song filled with pictures.
 * @param given `{ intent, aim }`
 */
export async function begin(projectId: string, given: unknown): Promise<Result<Beginning>> {
  const checked = check(BeginningDto, given);
  if (!checked.ok) return checked;
  // A page that is loaded again in the middle asks again; what is being made is waited for and given back.
  return aloneIn(projectId, () => beginAlone(projectId, checked.value));
}

async function beginAlone(projectId: string, { intent, aim }: BeginningDto): Promise<Result<Beginning>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const beginning = project.value.beginning ?? nothingSaid;
  if (intent === 'make' && beginning.aim === aim && (await standing(project.value, beginning))) return done(beginning);
  if (intent === 'aim') return keep(project.value, { ...nothingSaid, aim });
  if (intent === 'keep') return keep(project.value, { ...beginning, isFirstLook: false });
  const items = await listMedia(projectId);
  const isFirstLook = items.some((item) => item.isRough);
  const before = intent === 'again' ? await standing(project.value, beginning) : null;
  const made = await makers[aim](project.value, before);
  if (!made.ok) return made;
  // A montage gathers its pieces on its own screen, and there again when it is asked to.
  return keep(project.value, { aim, made: made.value, isFirstLook: isFirstLook && aim !== 'montage' });
}

async function keep(project: Project, beginning: Beginning): Promise<Result<Beginning>> {
  await changeProject(project.id, { beginning });
  return done(beginning);
}

type Made = NonNullable<Beginning['made']>;
/** Makes it; in place of what was made before, where that can be. */
const makers: Record<Aim, (project: Project, before: Beginning['made']) => Promise<Result<Made>>> = {
  reel: makeFirstReel,
  shorts: makeFirstShorts,
  montage: async ({ id }) => {
    const music = await findMusic(id);
    if (!music.ok) return music;
    return music.value
      ? done({ music: music.value })
      : refused('A montage is cut to a song, and there is none here yet. Bring one in.', 'music');
  },
};

/** The reel that the Moments screen would make by the settings that stand there. */
async function makeFirstReel(project: Project, before: Beginning['made']): Promise<Result<Made>> {
  const { grounds, prepared, pick, said, peopleIn } = await layProject(project);
  const whole = grounds.reduce((sum, ground) => sum + ground.prepared.footage.durationSeconds, 0);
  if (whole === 0) return refused('There is no film and no photo here that could be read.', 'media');
  const { moments, seconds } = chooseForTarget(grounds, pick.targetSeconds ?? suggestedTarget(whole));
  if (moments.length === 0)
    return refused(
      `Nothing in ${counted(grounds.length, 'file')} reaches the limits: all of it is too shaky, too dark or too short. Look at it under Moments, where the limits can be loosened.`,
      'media',
    );
  const titles = titlesApart(
    moments,
    moments.map((moment) => momentTitle(prepared.get(moment.media)!, moment, said)),
  );
  const pieces = tellStory(moments, prepared, pick.arrangement, peopleIn).map(({ moment, because }) => {
    const own = prepared.get(moment.media)!;
    const piece = momentPiece(own, moment, titles[moments.indexOf(moment)]!);
    return because ? { ...piece, reason: `${piece.reason}; ${because}` } : piece;
  });
  const name = `${project.name}, ${formatClock(seconds)}`;
  const made = await createReels(project.id, {
    reels: [{ name, pieces, movePhotos: true, ...(before && 'reel' in before ? { replaces: before.reel } : {}) }],
  });
  return made.ok ? done({ reel: made.value.reels[0]!.id }) : made;
}

/** Five upright shorts of the longest film. */
async function makeFirstShorts(project: Project): Promise<Result<Made>> {
  const films = (await listMedia(project.id)).filter(({ probe, problem }) => probe?.kind === 'video' && !problem);
  const longest = films.sort((a, b) => b.probe!.durationSeconds - a.probe!.durationSeconds)[0];
  const row = longest && (await findMedia(longest.id));
  if (!row) return refused('Shorts are found in a film, and there is none here that could be read.', 'media');
  const made = await makeShorts(row, { ...shortsDefaults, shape: '9:16', request: '', houseStyle: null });
  return made.ok ? done({ shorts: made.value.id }) : made;
}
