import { useFetcher } from 'react-router';
import { Button, Field, inputLook } from '../ui/controls';
import { linkWords } from './words';

/** Asks for the password of a link. */
export function LinkPassword() {
  const fetcher = useFetcher<{ problem: string | null }>();
  const { title, label, enter, hint } = linkWords.password;
  return (
    <main className="flex min-h-screen items-center justify-center p-6">
      <fetcher.Form method="post" className="w-80 space-y-4">
        <h1 className="text-lg font-semibold">{title}</h1>
        <input type="hidden" name="intent" value="password" />
        <Field label={label} {...(fetcher.data?.problem ? { error: fetcher.data.problem } : {})}>
          <input
            name="password"
            type="password"
            autoComplete="off"
            autoFocus
            required
            maxLength={200}
            className={`${inputLook} !h-11 w-full !text-base`}
          />
        </Field>
        <Button type="submit" look="lamp" className="!h-11 w-full !text-base" disabled={fetcher.state !== 'idle'}>
          {enter}
        </Button>
        <p className="text-muted">{hint}</p>
      </fetcher.Form>
    </main>
  );
}
