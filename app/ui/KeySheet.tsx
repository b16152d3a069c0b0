import { Dialog } from 'radix-ui';
import { shortcuts, type ShortcutName } from '../keys';

/** The sheet of keys that work on a screen, by where they work. */
export function KeySheet({
  open,
  onOpenChange,
  sets,
}: {
  open: boolean;
  onOpenChange(open: boolean): void;
  sets: [string, readonly ShortcutName[]][];
}) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
        <Dialog.Content
          className="fixed left-1/2 top-1/2 z-50 max-h-[92vh] w-[960px] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-md border border-line bg-raised p-5 shadow-2xl"
          aria-describedby={undefined}
        >
          <Dialog.Title className="text-base font-semibold">Keys on this screen</Dialog.Title>
          {sets.map(([title, names]) => (
            <section key={title}>
              {sets.length > 1 && <h3 className="mt-2 text-xs font-semibold">{title}</h3>}
              <dl className="mt-1 columns-3 gap-x-6 text-xs">
                {names.map((name) => (
                  <div key={name} className="flex items-baseline gap-2 py-[2px] leading-4">
                    <dt className="tabular w-[96px] shrink-0 text-text">{shortcuts[name].shown}</dt>
                    <dd className="text-muted">{shortcuts[name].does}</dd>
                  </div>
                ))}
              </dl>
            </section>
          ))}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
