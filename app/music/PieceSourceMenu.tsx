import { Plus, RefreshCw } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { Button } from '../ui/controls';

interface PieceSourceMenuProps {
  reels: readonly { id: string; name: string }[];
  onGather(): void;
  onFiles(): void;
  onReel(id: string): void;
}

const row = 'flex cursor-default items-center rounded px-2 py-1.5 text-sm outline-none data-[highlighted]:bg-line';

/** Where more pieces come from. */
export function PieceSourceMenu({ reels, onGather, onFiles, onReel }: PieceSourceMenuProps) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button className="ml-auto !h-7 !px-2">
          <Plus size={14} aria-hidden /> Bring in
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-50 max-h-80 w-64 overflow-y-auto rounded-md border border-line bg-raised p-1 shadow-xl"
        >
          <DropdownMenu.Item className={row} onSelect={onGather}>
            <RefreshCw size={14} className="mr-2" aria-hidden />
            The best of the footage, anew
          </DropdownMenu.Item>
          <DropdownMenu.Item className={row} onSelect={onFiles}>
            Every file, whole
          </DropdownMenu.Item>
          {reels.length > 0 && (
            <DropdownMenu.Label className="px-2 pt-1.5 text-xs text-muted">Pieces of a reel</DropdownMenu.Label>
          )}
          {reels.map((reel) => (
            <DropdownMenu.Item key={reel.id} className={row} onSelect={() => onReel(reel.id)}>
              {reel.name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
