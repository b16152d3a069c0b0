import { findOutput } from '#usecases/renders';
import { plainAnswer } from '../server/answer.server';
import { sendStored } from '../server/sendFile.server';
import type { Route } from './+types/outputFile';

/** A finished render: to look at, or with ?download to take away. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const output = await findOutput(params.renderId);
  if (!output.ok) return plainAnswer(output);
  const download = new URL(request.url).searchParams.has('download');
  return sendStored(output.value.key, request, download ? { downloadName: output.value.name } : {});
}
