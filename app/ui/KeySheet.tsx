import { Dialog } from 'radix-ui';
import { shortcuts, type ShortcutName } from '../keys';

/** The sheet of keys that work on a screen. */
export function KeySheet({ open, onOpenChange, names }: { open: boolean; onOpenChange(open: boolean): void; names: ShortcutName[] }) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
        <Dialog.Content className="fixed left-1/2 top-1/2 z-50 w-[560px] -translate-x-1/2 -translate-y-1/2 rounded-md border border-line bg-raised p-5 shadow-2xl" aria-describedby={undefined}>
          <Dialog.Title className="text-base font-semibold">Keys on this screen</Dialog.Title>
          <dl className="mt-3 grid grid-cols-2 gap-x-8 gap-y-1.5">
            {names.map((name) => (
              <div key={name} className="flex items-baseline gap-3">
                <dt className="tabular w-24 shrink-0 text-lamp">{shortcuts[name].shown}</dt>
                <dd className="text-muted">{shortcuts[name].does}</dd>
              </div>
            ))}
          </dl>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
