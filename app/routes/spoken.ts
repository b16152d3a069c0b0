import { showSpeakers, showSpoken } from '#usecases/inThreads';
import { modelOf } from '../server/answer.server';
import type { Route } from './+types/spoken';

/** The words of every file and who is where; with `?people` only the people. */
export const loader = async ({ params, request }: Route.LoaderArgs) =>
  modelOf(
    new URL(request.url).searchParams.has('people')
      ? await showSpeakers(params.projectId)
      : await showSpoken(params.projectId),
  );
