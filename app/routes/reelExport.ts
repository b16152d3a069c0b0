import { exportReel } from '#usecases/inThreads';
import { attachment, plainAnswer } from '../server/answer.server';
import type { Route } from './+types/reelExport';

/** A reel as a document that other programs read; with `?speakers` subtitles name who speaks, with `?second` they are in the captions' second language. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const asked = new URL(request.url).searchParams;
  const exported = await exportReel(params.projectId, params.reelId, params.format, {
    speakers: asked.has('speakers'),
    second: asked.has('second'),
  });
  if (!exported.ok) return plainAnswer(exported);
  const { name, type, text } = exported.value;
  return new Response(text, {
    headers: { 'Content-Type': `${type}; charset=utf-8`, 'Content-Disposition': attachment(name) },
  });
}
