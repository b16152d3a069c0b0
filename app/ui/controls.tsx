import { Slider as RadixSlider, Tooltip } from 'radix-ui';
import { useState, type ComponentProps, type ReactNode } from 'react';
import { useShownKey, type ShortcutName } from '../keys';

const looks = {
  plain: 'border border-line bg-transparent text-text hover:bg-line/60',
  lamp: 'bg-lamp text-onlamp font-semibold hover:brightness-110',
  quiet: 'text-muted hover:bg-line/60 hover:text-text',
};

/** The key of a command, where one is given; else what is written. */
function useKeyShown(command: ShortcutName | undefined, keys: string | undefined): string | undefined {
  const shown = useShownKey();
  return command ? shown(command) : keys;
}

/** A button with its shortcut shown beside the label. */
export function Button({
  look = 'plain',
  command,
  keys: written,
  className = '',
  children,
  ...rest
}: ComponentProps<'button'> & { look?: keyof typeof looks; command?: ShortcutName; keys?: string }) {
  const keys = useKeyShown(command, written);
  return (
    <button
      type="button"
      {...rest}
      className={`inline-flex h-[30px] items-center justify-center gap-2 whitespace-nowrap rounded-md px-3 text-sm transition-colors duration-100 disabled:cursor-default disabled:opacity-45 ${looks[look]} ${className}`}
    >
      {children}
      {keys && (
        <kbd className={`tabular whitespace-nowrap text-xs ${look === 'lamp' ? 'text-onlamp/70' : 'text-muted'}`}>
          {keys}
        </kbd>
      )}
    </button>
  );
}

/** An icon with a tooltip that names it and its shortcut. */
export function IconButton({
  label,
  command,
  keys: written,
  children,
  className = '',
  ...rest
}: ComponentProps<'button'> & { label: string; command?: ShortcutName; keys?: string; children: ReactNode }) {
  const keys = useKeyShown(command, written);
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>
        <button
          type="button"
          aria-label={label}
          {...rest}
          className={`inline-flex h-7 w-7 items-center justify-center rounded-md text-text hover:bg-line/60 disabled:opacity-40 ${className}`}
        >
          {children}
        </button>
      </Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          sideOffset={4}
          className="z-50 rounded border border-line bg-raised px-2 py-1 text-xs shadow-lg"
        >
          {label}
          {keys && <kbd className="tabular ml-2 text-muted">{keys}</kbd>}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}

export interface SliderProps {
  label: string;
  value: number;
  max: number;
  min?: number;
  step?: number;
  colour: string;
  shown: string | ((value: number) => string);
  hint?: string;
  /** Every move. */
  onChange?(value: number): void;
  /** Only where it comes to rest; for changes that are kept one by one. */
  onRest?(value: number): void;
}

/** A named slider whose value is written at its right. */
export function Slider({ label, value, min = 0, max, step = 1, colour, shown, hint, onChange, onRest }: SliderProps) {
  const [moving, setMoving] = useState<number | null>(null);
  const now = moving ?? value;
  const rest = (next: number) => {
    setMoving(null);
    onRest?.(next);
  };
  return (
    <div className="grid grid-cols-[104px_1fr_56px] items-center gap-x-3 py-1.5" title={hint}>
      <span>{label}</span>
      <RadixSlider.Root
        className="relative flex h-4 touch-none items-center pointer-coarse:h-11"
        value={[now]}
        min={min}
        max={max}
        step={step}
        onValueChange={([next]) => (onRest ? setMoving(next!) : onChange?.(next!))}
        onValueCommit={([next]) => onRest && rest(next!)}
      >
        <RadixSlider.Track className="relative h-1.5 grow rounded bg-line">
          <RadixSlider.Range className="absolute h-full rounded" style={{ background: colour }} />
        </RadixSlider.Track>
        <RadixSlider.Thumb
          aria-label={label}
          className="block h-3.5 w-3.5 rounded-full border-2 border-ground bg-text pointer-coarse:h-6 pointer-coarse:w-6"
        />
      </RadixSlider.Root>
      <span className="tabular whitespace-nowrap text-right">{typeof shown === 'string' ? shown : shown(now)}</span>
    </div>
  );
}

/** One ingredient of a score: its bar, a phrase that says what was read, and its points. */
export function ShareBar({
  label,
  phrase,
  points,
  scale,
  colour,
}: {
  label: string;
  phrase: string;
  points: number;
  scale: number;
  colour: string;
}) {
  return (
    <div className="grid grid-cols-[104px_1fr_36px] gap-x-4 pb-0.5 leading-[17px]">
      <span>{label}</span>
      <span className="pt-1">
        <span className="block h-1.5 rounded bg-line">
          <span
            className="block h-full rounded"
            style={{ width: `${Math.min(100, (points / scale) * 100)}%`, background: colour }}
          />
        </span>
        <span className="block text-xs leading-[15px] text-muted">{phrase}</span>
      </span>
      <span className="tabular text-right">{Math.round(points)}</span>
    </div>
  );
}

export const Field = ({ label, error, children }: { label: string; error?: string; children: ReactNode }) => (
  <label className="block">
    <span className="mb-1 block text-xs text-muted">{label}</span>
    {children}
    {error && (
      <span role="alert" className="mt-1 block text-xs text-shake">
        {error}
      </span>
    )}
  </label>
);

export const inputLook = 'h-8 rounded-md border border-line bg-ground px-2 text-sm text-text placeholder:text-muted';

/** The key of a command, in a sentence. */
export function Key({ command }: { command: ShortcutName }) {
  const shown = useShownKey();
  return <kbd className="tabular">{shown(command)}</kbd>;
}
