import { randomUUID } from 'node:crypto';
import { clashes, fileNames, joinReels, mainTrack, variants, type Reel } from '#core/reel';
import { createReel, listReels, openReel } from '#data/reels';
import { VariantsDto } from './forms/deliveryDto';
import { openProject } from './openProject';
import { renderReels } from './renders';
import { done, refused, type Result } from './result';
import { sourcesOf } from './sources';
import { check } from './validate';

export async function showVariants(projectId: string) {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const reels = (await listReels(projectId)).filter(({ document }) => mainTrack(document).items.length > 0);
  return done({ reels: reels.map(({ id, document }) => ({ id, document })) });
}

/** Makes a reel of every combination that was asked for, and renders them if that is wished. @returns whether it was */
export async function makeVariants(projectId: string, given: unknown): Promise<Result<{ rendered: boolean }>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const checked = check(VariantsDto, given);
  if (!checked.ok) return checked;
  const { render } = checked.value;
  const reels = await openReels(projectId, checked.value);
  if (!reels.ok) return reels;
  const named = nameVariants(reels.value, checked.value);
  if (!named.ok) return named;
  const sources = await sourcesOf(projectId);
  const made: string[] = [];
  for (const { name, pieces } of named.value) {
    const parts = pieces.map((id) => reels.value.get(id)!);
    made.push(await createReel(projectId, joinReels(name, parts, randomUUID, sources)));
  }
  if (!render) return done({ rendered: false });
  const rendered = await renderReels(projectId, made, {
    shape: null,
    lines: null,
    quality: 'good',
    pattern: '{title}',
  });
  return rendered.ok ? done({ rendered: true }) : rendered;
}

/** The reels of all groups, which have one rate. */
async function openReels(projectId: string, { groups }: VariantsDto): Promise<Result<ReadonlyMap<string, Reel>>> {
  const ids = [...new Set(groups.flatMap((group) => group.pieces))];
  const opened = await Promise.all(ids.map((id) => openReel(id)));
  const reels = new Map<string, Reel>();
  for (const reel of opened) if (reel?.projectId === projectId) reels.set(reel.id, reel.document);
  if (reels.size < ids.length) return refused('One of these reels is not there any more. Look at the groups again.');
  const rates = new Set([...reels.values()].map(({ rate: { num, den } }) => num / den));
  if (rates.size > 1) return refused('These reels have different rates. Give them the same rate under Format first.');
  return done(reels);
}

/** The combinations by their names, which differ. */
function nameVariants(
  reels: ReadonlyMap<string, Reel>,
  { groups: asked, most, pattern }: VariantsDto,
): Result<{ name: string; pieces: string[] }[]> {
  const groups = asked.map((group) => ({
    name: group.name,
    pieces: group.pieces.map((id) => ({ id, name: reels.get(id)!.name })),
  }));
  const combinations = variants(groups, most);
  const names = fileNames(
    combinations.map((pieces) => ({
      title: pieces.map((piece) => piece.name).join(' '),
      pieces: pieces.map((piece) => piece.name),
    })),
    pattern,
  );
  const [twice] = clashes(names);
  if (twice) return refused(`Two variants would be called “${twice}”. Put {n} into the pattern.`, 'pattern');
  return done(combinations.map((pieces, index) => ({ name: names[index]!, pieces: pieces.map(({ id }) => id) })));
}
