import { showHere } from '#usecases/here';
import { modelOf } from '../server/answer.server';
import type { Route } from './+types/here';

/** Folders and files of this machine, for bringing them in where they lie. */
export const loader = async ({ params, request }: Route.LoaderArgs) =>
  modelOf(await showHere(params.projectId, new URL(request.url).searchParams.get('folder') ?? ''));
