import { Link as LinkIcon } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useEffect, useState } from 'react';
import { useFetcher } from 'react-router';
import { Button, Field, inputLook } from '../ui/controls';

/** Footage from a direct media address. */
export function ByLink({ bin }: { bin: string | null }) {
  const sender = useFetcher<{ problems: Record<string, string> }>();
  const [open, setOpen] = useState(false);
  const problem = sender.state === 'idle' ? sender.data?.problems.address : undefined;
  const sent = sender.state === 'idle' && sender.data && !problem;
  useEffect(() => {
    if (sent) setOpen(false);
  }, [sent]);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button>
          <LinkIcon size={15} aria-hidden /> By link
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="By link"
          align="start"
          sideOffset={4}
          className="z-50 w-[420px] rounded-md border border-line bg-raised p-3 text-sm shadow-xl"
        >
          <sender.Form method="post" className="space-y-2.5">
            <input type="hidden" name="intent" value="link" />
            <input type="hidden" name="binId" value={bin ?? ''} />
            <Field label="Address of a film, sound or picture" error={problem}>
              <input name="address" autoFocus placeholder="https://…" className={`${inputLook} w-full`} />
            </Field>
            <p className="text-xs text-muted">
              It must lead to the file itself. A connection that breaks is taken up again where it stopped.
            </p>
            <Button look="lamp" type="submit" disabled={sender.state !== 'idle'}>
              Bring it in
            </Button>
          </sender.Form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
