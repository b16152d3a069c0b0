import { formatDay } from '#core/sentences';
import { Copy, ExternalLink } from 'lucide-react';
import { useState, useSyncExternalStore, type FormEvent } from 'react';
import { toast } from 'sonner';
import type { ViewingLine } from '#usecases/viewings';
import { Button, Field, IconButton, inputLook } from '../ui/controls';
import type { ReelViewing } from './useViewing';
import { viewingWords as words } from './viewingWords';

const never = () => () => undefined;

/** The address, to be copied and looked at. */
export function LinkRow({ viewing }: { viewing: ViewingLine }) {
  const origin = useSyncExternalStore(
    never,
    () => window.location.origin,
    () => '',
  );
  const address = origin + viewing.path;
  const copy = async (field: HTMLInputElement) => {
    // Browsers give the clipboard to secure addresses only; elsewhere what is selected can be copied.
    field.select();
    const isCopied = navigator.clipboard
      ? await navigator.clipboard.writeText(address).then(
          () => true,
          () => false,
        )
      : // eslint-disable-next-line @typescript-eslint/no-deprecated -- the only way on addresses that are not secure
        document.execCommand('copy');
    if (isCopied) toast(words.copied);
  };
  return (
    <section aria-label={words.link}>
      <div className="flex items-center gap-1">
        <input
          id="link"
          aria-label={words.link}
          readOnly
          className={`${inputLook} tabular min-w-0 flex-1 !text-xs`}
          value={address}
          onFocus={(event) => event.target.select()}
        />
        <IconButton label={words.copy} onClick={() => void copy(document.getElementById('link') as HTMLInputElement)}>
          <Copy size={15} />
        </IconButton>
        <a
          className="inline-flex h-7 w-7 items-center justify-center rounded-md hover:bg-line/60"
          href={viewing.path}
          target="_blank"
          rel="noreferrer"
          aria-label={words.look}
          title={words.look}
        >
          <ExternalLink size={15} />
        </a>
      </div>
      {viewing.isOver && viewing.endsAt && (
        <p role="status" className="mt-1 text-shake">
          {words.ended(formatDay(viewing.endsAt))}
        </p>
      )}
      {/^https?:\/\/(localhost|127\.|\[::1\])/.test(origin) && (
        <p className="mt-1 text-xs text-muted">{words.onlyHere}</p>
      )}
    </section>
  );
}

interface LinkFormProps {
  intent: 'open' | 'settings';
  viewing?: ViewingLine;
  isBusy: boolean;
  submitLabel: string;
  send: ReelViewing['send'];
}

/** The last second of a day, in the reader's time. */
const endOf = (day: string): string => (day ? new Date(`${day}T23:59:59`).toISOString() : '');
const dayOf = (at: string): string => {
  const date = new Date(at);
  return `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, '0')}-${String(date.getDate()).padStart(2, '0')}`;
};

/** How it is shown. */
export function LinkForm({ intent, viewing, isBusy, submitLabel, send }: LinkFormProps) {
  const [isWithout, setWithout] = useState(false);
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const text = (name: string) => {
      const value = form.get(name);
      return typeof value === 'string' ? value : '';
    };
    send({
      intent,
      endsAt: endOf(text('until')),
      mayDownload: form.has('mayDownload') ? 'yes' : 'no',
      // A field that was left empty changes nothing; that there is to be none is said by itself.
      ...(isWithout ? { password: '' } : text('password') ? { password: text('password') } : {}),
      ...(intent === 'open' ? { text: text('note') } : {}),
    });
  };
  return (
    <form className="mt-2 space-y-3" onSubmit={submit}>
      <div className="grid grid-cols-2 gap-3">
        <Field label={words.password}>
          <input
            name="password"
            type="text"
            autoComplete="off"
            maxLength={200}
            disabled={isWithout}
            placeholder={viewing?.hasPassword && !isWithout ? words.newPassword : words.noPassword}
            className={`${inputLook} w-full`}
          />
        </Field>
        <Field label={words.until}>
          <input
            name="until"
            type="date"
            defaultValue={viewing?.endsAt ? dayOf(viewing.endsAt) : ''}
            className={`${inputLook} w-full`}
          />
        </Field>
      </div>
      {intent === 'open' && (
        <Field label={words.note}>
          <input name="note" maxLength={200} placeholder={words.notePlaceholder} className={`${inputLook} w-full`} />
        </Field>
      )}
      {viewing?.hasPassword && (
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={isWithout} onChange={(event) => setWithout(event.target.checked)} />
          {words.withoutPassword}
        </label>
      )}
      <label className="flex items-center gap-2">
        <input name="mayDownload" type="checkbox" defaultChecked={viewing?.mayDownload ?? false} />
        {words.mayDownload}
      </label>
      <div className="flex flex-wrap gap-2">
        <Button type="submit" look={intent === 'open' ? 'lamp' : 'plain'} disabled={isBusy}>
          {submitLabel}
        </Button>
        {intent === 'settings' && (
          <>
            <Button disabled={isBusy} title={words.renewHint} onClick={() => send({ intent: 'renew' })}>
              {words.renew}
            </Button>
            <Button disabled={isBusy} onClick={() => send({ intent: 'close' })}>
              {words.close}
            </Button>
          </>
        )}
      </div>
    </form>
  );
}
