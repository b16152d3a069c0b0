import { ContextMenu as Radix } from 'radix-ui';
import { useRef, useState, type ReactNode } from 'react';
import { flushSync } from 'react-dom';
import { shortcuts, useShownKey, type Shortcut, type ShortcutName } from '../keys';
import { useLatest } from './useLatest';
import { liveCommands } from './useShortcuts';

/** What stands in a menu: a command of the screen, something else that can be done, a menu of its own, or a line between. */
export type MenuEntry =
  | { command: ShortcutName; label?: string; act?(): void }
  | { label: string; act(): void; command?: never; isOff?: boolean; isTicked?: boolean }
  | { label: string; entries: readonly MenuEntry[]; command?: never }
  | 'line';

interface ContextMenuProps {
  /** What can be done with what lies under the pointer; it may be chosen on the way, so it is asked twice. Nothing leaves the menu to the browser. */
  entriesAt(target: Element, at: { clientX: number; clientY: number }): readonly MenuEntry[];
  label: string;
  children: ReactNode;
}

interface Place {
  target: Element;
  clientX: number;
  clientY: number;
}
const placeOf = ({ target, clientX, clientY }: React.MouseEvent): Place => ({
  target: target as Element,
  clientX,
  clientY,
});

/** The menu of the right button, of a finger that stays, and of the menu key, for everything in one element. */
export function ContextMenu({ entriesAt, label, children }: ContextMenuProps) {
  const [entries, setEntries] = useState<readonly MenuEntry[]>([]);
  const latest = useLatest(entriesAt);
  /** Where a finger came down; null once it was looked at what lies there. */
  const touched = useRef<Place | null>(null);
  /** @returns whether anything can be done there */
  const look = ({ target, clientX, clientY }: Place): boolean => {
    touched.current = null;
    const at = { clientX, clientY };
    const isField = target.closest('input:not([type="checkbox"]), textarea, [contenteditable="true"]') !== null;
    // What is pressed is chosen first; only then it is known what can be done with it.
    if (!isField) flushSync(() => void latest.current(target, at));
    const found = isField ? [] : latest.current(target, at);
    flushSync(() => setEntries(found));
    return found.length > 0;
  };
  return (
    <Radix.Root
      modal={false}
      // By a finger that stays. One that only taps, or scrolls, chooses nothing here.
      onOpenChange={(isOpen) => {
        // It is told while React is at work; what is chosen has to wait for that.
        if (isOpen) queueMicrotask(() => touched.current && look(touched.current));
      }}
    >
      <Radix.Trigger
        asChild
        onContextMenuCapture={(event) => {
          if (!look(placeOf(event))) event.stopPropagation();
        }}
        onPointerDownCapture={(event) => {
          touched.current = event.pointerType === 'mouse' ? null : placeOf(event);
        }}
      >
        {children}
      </Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          aria-label={label}
          collisionPadding={8}
          className={entries.length > 0 ? menuLook : 'hidden'}
          onCloseAutoFocus={(event) => event.preventDefault()}
        >
          <Entries entries={entries} />
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

const menuLook =
  'z-50 min-w-52 max-w-80 rounded-md border border-line bg-raised p-1 text-sm text-text shadow-xl outline-none';
const itemLook =
  'flex items-center gap-3 rounded px-2.5 py-1.5 outline-none data-[disabled]:opacity-45 data-[highlighted]:bg-line';

/** Neither at the ends nor twice. */
const withoutIdleLines = (entries: readonly MenuEntry[]): MenuEntry[] =>
  entries.filter(
    (each, index) =>
      each !== 'line' || (index > 0 && entries[index - 1] !== 'line' && entries.slice(index).some((e) => e !== 'line')),
  );

function Entries({ entries }: { entries: readonly MenuEntry[] }) {
  const shown = useShownKey();
  return withoutIdleLines(entries).map((entry, index) => {
    if (entry === 'line') return <Radix.Separator key={index} className="my-1 h-px bg-line" />;
    if (entry.command) {
      const { command } = entry;
      const live = () => entry.act ?? liveCommands().find(({ name }) => name === command)?.act;
      return (
        <Radix.Item
          key={command}
          disabled={!live()}
          aria-keyshortcuts={shown(command).replaceAll(' ', '+')}
          className={itemLook}
          onSelect={() => setTimeout(() => live()?.())}
        >
          <span className="truncate">{entry.label ?? menuName(command)}</span>
          <kbd aria-hidden className="tabular ml-auto shrink-0 text-xs text-muted">
            {shown(command)}
          </kbd>
        </Radix.Item>
      );
    }
    if ('entries' in entry)
      return (
        <Radix.Sub key={entry.label}>
          <Radix.SubTrigger className={itemLook}>
            {entry.label}
            <span aria-hidden className="ml-auto text-muted">
              ›
            </span>
          </Radix.SubTrigger>
          <Radix.Portal>
            <Radix.SubContent className={`${menuLook} max-h-[60vh] overflow-y-auto`}>
              <Entries entries={entry.entries} />
            </Radix.SubContent>
          </Radix.Portal>
        </Radix.Sub>
      );
    return (
      <Radix.Item
        key={entry.label}
        disabled={entry.isOff ?? false}
        className={itemLook}
        onSelect={() => setTimeout(entry.act)}
      >
        <span className="truncate">{entry.label}</span>
        {entry.isTicked && (
          <span aria-hidden className="ml-auto">
            ✓
          </span>
        )}
      </Radix.Item>
    );
  });
}

/** What a command is called in a menu: its short name, else what it does up to the first colon or comma. */
const menuName = (command: ShortcutName): string => {
  const { does, menu }: Shortcut = shortcuts[command];
  return menu ?? does.split(/[:;,]/)[0]!;
};
