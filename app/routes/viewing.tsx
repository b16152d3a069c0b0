import { data, isRouteErrorResponse } from 'react-router';
import { approve, comment, givePassword, showLink, takeBack } from '#usecases/viewingLink';
import { failed, formOf, modelOf, succeeded } from '../server/answer.server';
import { keepPass, knownVisitor, visitorOf } from '../server/visitor.server';
import { LinkPage } from '../viewing/LinkPage';
import { LinkPassword } from '../viewing/LinkPassword';
import type { Route } from './+types/viewing';

/** The address is the key: no other page may learn it, and no search engine. */
const quietly = { 'Referrer-Policy': 'same-origin', 'X-Robots-Tag': 'noindex', 'Cache-Control': 'private, no-store' };
export const headers = ({ actionHeaders }: Route.HeadersArgs) => {
  const all = new Headers(quietly);
  actionHeaders.forEach((value, name) => all.append(name, value));
  return all;
};

export const meta = ({ loaderData }: Route.MetaArgs) => [
  { title: loaderData && !loaderData.isLocked ? loaderData.name : 'Bright Reel' },
  { name: 'robots', content: 'noindex' },
];

/** `beside`: the number of a version that is shown beside the one of `version`. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const { searchParams } = new URL(request.url);
  const compared = [searchParams.get('version'), searchParams.get('beside')];
  return modelOf(await showLink(params.token, await visitorOf(request, params.token), compared));
}

export async function action({ params, request }: Route.ActionArgs) {
  const { token } = params;
  const form = await formOf(request);
  const intent = form.get('intent');
  if (intent === 'password') {
    const given = await givePassword(token, form.get('password'));
    return given.ok
      ? data(succeeded(), { headers: { 'Set-Cookie': await keepPass(token, given.value) } })
      : failed(given);
  }
  const { visitor, headers } = await knownVisitor(request, token);
  const id = form.get('id');
  const done =
    intent === 'approve' || intent === 'disapprove'
      ? await approve(token, visitor, form, intent === 'approve')
      : intent === 'take-back' || intent === 'bring-back'
        ? await takeBack(token, visitor, id, intent === 'bring-back')
        : await comment(token, visitor, form);
  return done.ok ? data(succeeded(), { headers }) : failed(done);
}

/** A reel or short that is shown to others: to look at, to comment on, to approve. */
export default function ViewingLink({ loaderData }: Route.ComponentProps) {
  return loaderData.isLocked ? <LinkPassword /> : <LinkPage shown={loaderData} />;
}

/** For somebody who has no other place to go to here. */
export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  const known = isRouteErrorResponse(error) && typeof error.data === 'string' && error.data;
  return (
    <main className="flex min-h-screen items-center justify-center p-8 text-center text-base">
      <p className="max-w-md">{known || 'This page cannot be shown just now. Reload it in a moment.'}</p>
    </main>
  );
}
