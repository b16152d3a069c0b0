import { Trash2 } from 'lucide-react';
import { AlertDialog } from 'radix-ui';
import { Button, IconButton } from './controls';

interface DeleteButtonProps {
  label: string;
  /** What would be deleted. */
  question: string;
  /** What goes with it, and what stays. */
  says: string;
  onDelete(): void;
  /** Where something else asks as well, such as a menu. */
  /** In place of a bin; what it says is said on the button that does it as well. */
  text?: string;
  disabled?: boolean;
  isOpen?: boolean;
  onOpen?(isOpen: boolean): void;
}

/** Deletes what cannot be brought back, after it was said what that means. */
export function DeleteButton({ label, question, says, onDelete, text, disabled, isOpen, onOpen }: DeleteButtonProps) {
  return (
    <AlertDialog.Root {...(isOpen === undefined ? {} : { open: isOpen })} {...(onOpen ? { onOpenChange: onOpen } : {})}>
      <AlertDialog.Trigger asChild>
        {text ? (
          <Button aria-label={label} disabled={disabled}>
            {text}
          </Button>
        ) : (
          <IconButton label={label}>
            <Trash2 size={15} />
          </IconButton>
        )}
      </AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-50 bg-ground/70" />
        <AlertDialog.Content className="fixed left-1/2 top-1/2 z-50 w-[420px] max-w-[90vw] -translate-x-1/2 -translate-y-1/2 rounded-md border border-line bg-raised p-5 shadow-xl">
          <AlertDialog.Title className="text-base font-semibold">{question}</AlertDialog.Title>
          <AlertDialog.Description className="mt-1.5 text-muted">{says}</AlertDialog.Description>
          <div className="mt-5 flex justify-end gap-2">
            <AlertDialog.Cancel asChild>
              <Button>Cancel</Button>
            </AlertDialog.Cancel>
            <AlertDialog.Action asChild>
              <Button className="!border-shake text-shake" onClick={onDelete}>
                {text ?? 'Delete'}
              </Button>
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
