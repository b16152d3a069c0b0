import { Magnet } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { snapKinds, type SnapKind } from '#core/reel';
import { useShownKey } from '../../keys';

const snapNames: Record<SnapKind, string> = {
  playhead: 'the playhead',
  markers: 'markers',
  cuts: 'cuts of other tracks',
  beats: 'beats of the music',
  pauses: 'pauses in speech',
};

/** Whether edges that are dragged snap, and to what. */
export function SnapMenu({
  snaps,
  on,
  onToggle,
  onSet,
}: {
  snaps: ReadonlySet<SnapKind>;
  on: boolean;
  onToggle(on: boolean): void;
  onSet(kind: SnapKind, on: boolean): void;
}) {
  const shown = useShownKey();
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={on ? 'Edges snap' : 'Edges do not snap'}
        title={`Snapping ${shown('snapping')}`}
        className={`inline-flex h-7 w-7 items-center justify-center rounded-md hover:bg-line/60 ${on ? 'bg-line' : 'text-muted'}`}
      >
        <Magnet size={15} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-50 w-64 rounded-md border border-line bg-raised p-1 text-sm shadow-xl"
        >
          <Check label="Edges snap" checked={on} onChange={onToggle} />
          <DropdownMenu.Separator className="my-1 h-px bg-line" />
          {snapKinds.map((kind) => (
            <Check
              key={kind}
              label={`to ${snapNames[kind]}`}
              checked={snaps.has(kind)}
              onChange={(next) => onSet(kind, next)}
            />
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
const Check = ({ label, checked, onChange }: { label: string; checked: boolean; onChange(on: boolean): void }) => (
  <DropdownMenu.CheckboxItem
    checked={checked}
    onCheckedChange={onChange}
    onSelect={(event) => event.preventDefault()}
    className="flex cursor-default items-center gap-2 rounded px-2.5 py-1.5 outline-none data-[highlighted]:bg-line"
  >
    <span className="w-3">
      <DropdownMenu.ItemIndicator>✓</DropdownMenu.ItemIndicator>
    </span>
    {label}
  </DropdownMenu.CheckboxItem>
);
