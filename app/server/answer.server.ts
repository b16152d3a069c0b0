import { data } from 'react-router';
import { whatIsWild } from '#usecases/validate';
import type { Done, Failure, Given, WhyNot } from '#usecases/result';

/** HTTP status of what was not done (RFC 9110). */
const statuses: Record<WhyNot, number> = { refused: 422, conflict: 409, missing: 404 };

/** For a screen's loader: its model, or the page that says why there is none. */
export function modelOf<R extends Done<unknown> | Failure>(result: R): Given<R> {
  if (result.ok) return result.value as Given<R>;
  throw data(result.sentence, { status: statuses[result.why] });
}

/** For whatever is fetched as a file: the plain sentence. */
export const plainAnswer = ({ why, sentence }: Failure): Response => new Response(sentence, { status: statuses[why] });

/** For an action: why it was not done, in one sentence and by field, with whatever else the screen expects. */
export const failed = <More extends object>({ why, sentence, problems }: Failure, more: More = {} as More) =>
  data({ problem: sentence, problems, ...more }, { status: statuses[why] });

/** For an action that has nothing more to say. */
export const succeeded = <More extends object>(more: More = {} as More) => ({
  problem: null as string | null,
  problems: {} as Record<string, string>,
  ...more,
});

/** A JSON body; null for anything else, and for what nothing can be made of. */
export async function jsonOf(request: Request): Promise<unknown> {
  const given: unknown = await request.json().catch(() => null);
  return whatIsWild(given) === null ? given : null;
}

/** More than this is not listened to; the line is closed. */
const mostHeardOut = 64 * 1024 * 1024;
/** Takes in what somebody sends who is refused: one who is cut short hears that the line broke, and not why. */
export async function hearOut(request: Request): Promise<void> {
  const length = Number(request.headers.get('content-length') ?? 0);
  if (!request.body || length > mostHeardOut) return;
  await request.body.pipeTo(new WritableStream()).catch(() => undefined);
}

/** A name for a file that is taken away, in whatever letters (RFC 6266, RFC 8187). */
export const attachment = (name: string): string => `attachment; filename*=UTF-8''${encodeURIComponent(name)}`;

/** Field and value of a form. */
export async function formOf(request: Request): Promise<FormData> {
  const form = await request.formData().catch(() => null);
  if (form && whatIsWild(form) === null) return form;
  throw data('What was sent is no form that can be read.', { status: 400 });
}
