import { Form, redirect, useNavigation } from 'react-router';
import { tellPassword } from '#usecases/entrance';
import { enterWords } from '../enter/words';
import { failed, formOf } from '../server/answer.server';
import { asksPassword, peerOf } from '../server/guard.server';
import { dropSession, keepSession } from '../server/session.server';
import { Button, Field, inputLook } from '../ui/controls';
import type { Route } from './+types/enter';

/** Only a place of this installation: what begins with two slashes, or a backslash, leads elsewhere. */
const placeIn = (to: string | null): string => (to && /^\/(?![/\\])/.test(to) && !/[\\\s]/.test(to) ? to : '/');

export function loader({ request }: Route.LoaderArgs) {
  const to = placeIn(new URL(request.url).searchParams.get('to'));
  if (!asksPassword()) throw redirect(to);
  return { to };
}

/** Takes the password and keeps a session for it, or ends one. */
export async function action({ request }: Route.ActionArgs) {
  const form = await formOf(request);
  if (form.get('intent') === 'leave') throw redirect('/enter', { headers: await dropSession(request) });
  const password = form.get('password');
  const told = await tellPassword(typeof password === 'string' ? password.slice(0, 1000) : '', peerOf(request));
  if (!told.ok) return failed(told);
  const to = form.get('to');
  throw redirect(placeIn(typeof to === 'string' ? to : null), { headers: await keepSession(request) });
}

export const meta = () => [{ title: 'Bright Reel' }, { name: 'robots', content: 'noindex' }];

/** Asks for the password of this installation. */
export default function Enter({ loaderData, actionData }: Route.ComponentProps) {
  const busy = useNavigation().state !== 'idle';
  const problem = actionData?.problem;
  return (
    <main className="flex min-h-screen items-center justify-center p-6">
      <Form method="post" className="w-80 space-y-4">
        <h1 className="text-lg font-semibold">{enterWords.title}</h1>
        <input type="hidden" name="to" value={loaderData.to} />
        {/* Programs that keep passwords want to know whose it is. */}
        <input type="hidden" name="username" autoComplete="username" value="bright-reel" readOnly />
        <Field label={enterWords.label} {...(problem ? { error: problem } : {})}>
          <input
            name="password"
            type="password"
            autoComplete="current-password"
            autoFocus
            required
            maxLength={1000}
            className={`${inputLook} !h-11 w-full !text-base`}
          />
        </Field>
        <Button type="submit" look="lamp" className="!h-11 w-full !text-base" disabled={busy}>
          {enterWords.enter}
        </Button>
        <p className="text-muted">{enterWords.hint}</p>
      </Form>
    </main>
  );
}
