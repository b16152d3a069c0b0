import { data } from 'react-router';
import { readerVersion } from '#core/readings';
import { findMatch } from '#data/matches';
import { listMedia } from '#data/media';
import { lastTask } from '#data/tasks';
import { enqueueMatch } from '#jobs/queue';
import { MatchDto } from '../forms/reelDto';
import { requireProject } from '../server/project.server';
import { check } from '../server/validate.server';
import type { Route } from './+types/match';

/** Where the sound of one item lies in that of another; asked for again and again until it is known. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const project = await requireProject(params.projectId);
  const query = Object.fromEntries(new URL(request.url).searchParams);
  const checked = check(MatchDto, query);
  if (!checked.ok)
    return data({ match: null, waiting: false, problem: Object.values(checked.problems)[0]! }, { status: 422 });
  const items = await listMedia(project.id, readerVersion);
  const [reference, other] = [checked.value.reference, checked.value.other].map((id) =>
    items.find((item) => item.id === id),
  );
  if (!reference || !other)
    return data(
      { match: null, waiting: false, problem: 'One of the two is not in this project any more.' },
      { status: 404 },
    );
  if (!reference.probe?.hasSound || !other.probe?.hasSound)
    return data(
      {
        match: null,
        waiting: false,
        problem: `“${(reference.probe?.hasSound ? other : reference).name}” has no sound that could be compared.`,
      },
      { status: 422 },
    );
  const match = await findMatch(reference.hash, other.hash);
  if (match) return { match, waiting: false, problem: null };
  const last = await lastTask('match', `${reference.hash} ${other.hash}`);
  // A comparison that failed is tried again when somebody asks anew.
  if (last?.state === 'failed' && query.again === undefined)
    return { match: null, waiting: false, problem: last.sentence ?? 'The sounds could not be compared.' };
  await enqueueMatch(project.id, reference.hash, other.hash, other.name);
  return { match: null, waiting: true, problem: null };
}
