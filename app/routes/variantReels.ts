import { openReels } from '#usecases/variants';
import type { Route } from './+types/variantReels';

/** Documents of the reels that are asked for, `?of=ID&of=ID`. */
export const loader = async ({ params, request }: Route.LoaderArgs) =>
  openReels(params.projectId, new URL(request.url).searchParams.getAll('of').slice(0, 200));
