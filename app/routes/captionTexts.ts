import { showCaptionTexts } from '#usecases/reelTexts';
import { modelOf } from '../server/answer.server';
import type { Route } from './+types/captionTexts';

/** What captions may be made of besides the words that are shown: with `?of=…` who speaks when, and with `second=de` words in another language. */
export const loader = async ({ params, request }: Route.LoaderArgs) =>
  modelOf(await showCaptionTexts(params.projectId, Object.fromEntries(new URL(request.url).searchParams)));
