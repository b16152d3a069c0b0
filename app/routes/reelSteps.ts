import { describeCommand } from '#core/reel';
import { listSteps } from '#data/reels';
import { requireReel } from '../server/reel.server';
import type { Route } from './+types/reelSteps';

/** Steps that are listed. */
const shown = 60;

/** What was done to a reel lately, in sentences, newest first; asked for only while the history is looked at. */
export async function loader({ params }: Route.LoaderArgs) {
  const reel = await requireReel(params.projectId, params.reelId);
  return (await listSteps(reel.id, reel.head, shown)).map(({ number, command, createdAt, before }) => ({
    number,
    says: command && before ? describeCommand(command, before) : 'as it was made',
    at: createdAt.toISOString(),
  }));
}
