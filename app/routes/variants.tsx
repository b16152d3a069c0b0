import { randomUUID } from 'node:crypto';
import { data, redirect, useOutletContext } from 'react-router';
import { clashes, countVariants, fileNames, joinReels, mainTrack, variants } from '#core/reel';
import { createReel, listReels, openReel } from '#data/reels';
import { VariantsDto } from '../forms/deliveryDto';
import { requireProject } from '../server/project.server';
import { sourcesOf } from '../server/reel.server';
import { renderShorts } from '../server/renderReel.server';
import { check } from '../server/validate.server';
import { VariantsScreen } from '../variants/VariantsScreen';
import type { Route } from './+types/variants';
import type { ProjectData } from './project';

export async function loader({ params }: Route.LoaderArgs) {
  const project = await requireProject(params.projectId);
  return {
    reels: (await listReels(project.id))
      .filter(({ document }) => mainTrack(document).items.length > 0)
      .map(({ id, document }) => ({ id, document })),
  };
}

/** Makes a reel of every combination that was asked for, and renders them if that is wished. */
export async function action({ params, request }: Route.ActionArgs) {
  const project = await requireProject(params.projectId);
  const checked = check(VariantsDto, await request.json().catch(() => null));
  const refuse = (problem: string) => data({ problem, made: 0 }, { status: 422 });
  if (!checked.ok) return refuse(Object.values(checked.problems)[0]!);
  const { groups: asked, most, pattern, render } = checked.value;
  const ids = [...new Set(asked.flatMap((group) => group.pieces))];
  const reels = new Map(
    (await Promise.all(ids.map((id) => openReel(id)))).flatMap((reel) =>
      reel && reel.projectId === project.id ? [[reel.id, reel.document] as const] : [],
    ),
  );
  if (ids.some((id) => !reels.has(id)))
    return refuse('One of these reels is not there any more. Look at the groups again.');
  const groups = asked.map((group) => ({
    name: group.name,
    pieces: group.pieces.map((id) => ({ id, name: reels.get(id)!.name })),
  }));
  const rates = new Set(
    ids.map((id) => {
      const { num, den } = reels.get(id)!.rate;
      return num / den;
    }),
  );
  if (rates.size > 1) return refuse('These reels have different rates. Give them the same rate under Format first.');
  if (countVariants(groups) > 500 && most > 500) return refuse('At most 500 at once.');
  const combinations = variants(groups, most);
  const names = fileNames(
    combinations.map((pieces) => ({
      title: pieces.map((piece) => piece.name).join(' '),
      pieces: pieces.map((piece) => piece.name),
    })),
    pattern,
  );
  const twice = clashes(names);
  if (twice.length) return refuse(`Two variants would be called “${twice[0]!}”. Put {n} into the pattern.`);
  const sources = await sourcesOf(project.id);
  const made: string[] = [];
  for (const [index, pieces] of combinations.entries())
    made.push(
      await createReel(
        project.id,
        joinReels(
          names[index]!,
          pieces.map((piece) => reels.get(piece.id)!),
          randomUUID,
          sources,
        ),
      ),
    );
  if (!render) return redirect(`/projects/${project.id}/reels`);
  await renderShorts(project.id, made, { shape: null, lines: null, quality: 'good', pattern: '{title}' });
  return redirect(`/projects/${project.id}/outputs`);
}

export default function Variants({ loaderData }: Route.ComponentProps) {
  const { items } = useOutletContext<ProjectData>();
  return <VariantsScreen reels={loaderData.reels} items={items} />;
}
