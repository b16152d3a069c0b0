import { Send } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useFetcher } from 'react-router';
import { refusalOf, type OutletAccount } from '#core/reel';
import { Button, Field, inputLook } from '../ui/controls';

type Account = OutletAccount & { outlet: string };
interface File {
  id: string;
  name: string;
  seconds: number;
  size: number | null;
  width: number;
  height: number;
}

/** Hands a finished file to an outlet: where, under which title, at once or at a time. What an account does not take is said before. */
export function PostForm({ file, address }: { file: File; address: string }) {
  const known = useFetcher<{ accounts: Account[]; problem: string | null }>({ key: 'outlet-accounts' });
  const sender = useFetcher<{ problem: string | null }>();
  const [open, setOpen] = useState(false);
  const [account, setAccount] = useState('');
  const { load } = known;
  useEffect(() => {
    if (open) void load(address);
  }, [open, load, address]);
  useEffect(() => {
    if (sender.state === 'idle' && sender.data?.problem === null) setOpen(false);
  }, [sender.state, sender.data]);
  if (!open)
    return (
      <Button className="mt-3" onClick={() => setOpen(true)}>
        <Send size={15} aria-hidden /> Post it
      </Button>
    );
  const accounts = known.data?.accounts ?? [];
  const chosen = accounts.find((each) => each.id === account) ?? accounts[0];
  const refusal = chosen && refusalOf(chosen, { ...file, size: file.size ?? 0 });
  return (
    <sender.Form
      method="post"
      action={address}
      className="mt-3 space-y-2.5 rounded-md bg-raised p-3"
      aria-label={`Post “${file.name}”`}
    >
      <input type="hidden" name="render" value={file.id} />
      <input type="hidden" name="outlet" value={chosen?.outlet ?? ''} />
      {known.data?.problem && (
        <p role="alert" className="text-shake">
          {known.data.problem}
        </p>
      )}
      {!known.data && <p className="text-muted">Asking the outlet…</p>}
      {accounts.length > 0 && (
        <>
          <Field label="Account">
            <select
              name="account"
              className={`${inputLook} w-full`}
              value={chosen?.id}
              onChange={(event) => setAccount(event.target.value)}
            >
              {accounts.map((each) => (
                <option key={each.id} value={each.id}>
                  {each.name}: up to {each.maxSeconds} s{each.widest !== null ? ', tall' : ''}
                </option>
              ))}
            </select>
          </Field>
          {refusal && (
            <p className="text-shake">
              “{chosen.name}” {refusal}.
            </p>
          )}
          <Field label="Title">
            <input
              name="title"
              key={file.id}
              defaultValue={file.name.replace(/^\d+ /, '')}
              maxLength={100}
              className={`${inputLook} w-full`}
            />
          </Field>
          <Field label="Text">
            <textarea
              name="text"
              rows={2}
              maxLength={2000}
              className="block w-full rounded-md border border-line bg-ground px-2 py-1"
            />
          </Field>
          <Field label="Publish at (empty: at once)">
            <input name="at" type="datetime-local" className={`${inputLook} tabular w-full`} />
          </Field>
        </>
      )}
      {sender.data?.problem && sender.state === 'idle' && (
        <p role="alert" className="text-shake">
          {sender.data.problem}
        </p>
      )}
      <span className="flex gap-2">
        <Button look="lamp" type="submit" disabled={!chosen || Boolean(refusal) || sender.state !== 'idle'}>
          Post
        </Button>
        <Button look="quiet" onClick={() => setOpen(false)}>
          Leave it
        </Button>
      </span>
    </sender.Form>
  );
}
