import { PassThrough, Readable } from 'node:stream';
import yazl from 'yazl';
import { listRenders } from '#data/tasks';
import { storage } from '#data/storage';
import { fileNames } from '#core/reel';
import { requireProject } from '../server/project.server';
import type { Route } from './+types/outputArchive';

/** Finished files as one ZIP archive: those that are named (`ids`), or all. Names that stand twice get a number. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const project = await requireProject(params.projectId);
  const wanted = new URL(request.url).searchParams.get('ids')?.split(',');
  const ready = (await listRenders(project.id))
    .map(({ render }) => render)
    .filter((render) => render.storageKey && (!wanted || wanted.includes(render.id)));
  if (ready.length === 0) return new Response('None of these files is finished.', { status: 404 });
  const zip = new yazl.ZipFile();
  const used = new Map<string, number>();
  const names = fileNames(
    ready.map((each) => ({ title: each.name })),
    '{title}',
  );
  for (const [index, render] of ready.entries()) {
    if ((await storage().size(render.storageKey!)) === null) continue;
    const name = names[index]!;
    const key = `${name}.${render.format}`.toLowerCase();
    const before = used.get(key) ?? 0;
    used.set(key, before + 1);
    // Films do not get smaller by packing.
    zip.addFile(
      await storage().localPath(render.storageKey!),
      `${name}${before ? ` (${before + 1})` : ''}.${render.format}`,
      { compress: false },
    );
  }
  zip.end();
  const out = new PassThrough();
  zip.outputStream.pipe(out);
  return new Response(Readable.toWeb(out) as ReadableStream, {
    headers: {
      'Content-Type': 'application/zip',
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${project.name}, outputs.zip`)}`,
    },
  });
}
