import { matchSound } from '#usecases/match';
import { failed, succeeded } from '../server/answer.server';
import type { Route } from './+types/match';

/** Where the sound of one item lies in that of another; asked for again and again until it is known. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const matched = await matchSound(params.projectId, Object.fromEntries(new URL(request.url).searchParams));
  if (!matched.ok) return failed(matched, { match: null, waiting: false });
  return succeeded({ match: matched.value, waiting: matched.value === null });
}
