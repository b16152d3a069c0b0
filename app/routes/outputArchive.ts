import { PassThrough, Readable } from 'node:stream';
import yazl from 'yazl';
import { collectOutputs } from '#usecases/renders';
import { openStored } from '#usecases/stored';
import { attachment, plainAnswer } from '../server/answer.server';
import type { Route } from './+types/outputArchive';

/** Finished files as one ZIP archive: those that are named (`ids`), or all. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const ids = new URL(request.url).searchParams.get('ids')?.split(',') ?? null;
  const collected = await collectOutputs(params.projectId, ids);
  if (!collected.ok) return plainAnswer(collected);
  const zip = new yazl.ZipFile();
  const out = new PassThrough();
  const fail = (error: Error) => out.destroy(error);
  zip.on('error', fail);
  for (const { key, name } of collected.value.files) {
    const stored = await openStored(key);
    // Films do not get smaller by packing.
    if (stored) zip.addReadStreamLazy(name, { compress: false }, (give) => give(null, stored.read().on('error', fail)));
  }
  for (const { name, text } of collected.value.texts) zip.addBuffer(Buffer.from(text), name);
  zip.end();
  zip.outputStream.pipe(out);
  return new Response(Readable.toWeb(out) as ReadableStream, {
    headers: { 'Content-Type': 'application/zip', 'Content-Disposition': attachment(collected.value.name) },
  });
}
