import { exportReel } from '#usecases/exportReel';
import { attachment, plainAnswer } from '../server/answer.server';
import type { Route } from './+types/reelExport';

/** A reel as a document that other programs read. */
export async function loader({ params }: Route.LoaderArgs) {
  const exported = await exportReel(params.projectId, params.reelId, params.format);
  if (!exported.ok) return plainAnswer(exported);
  const { name, type, text } = exported.value;
  return new Response(text, {
    headers: { 'Content-Type': `${type}; charset=utf-8`, 'Content-Disposition': attachment(name) },
  });
}
