import { counted, upTo } from '#core/sentences';
import { useState, type ReactNode } from 'react';
import { Button, inputLook } from '../ui/controls';

const steps = [-10, -1, 1, 10];

/** Moves something by frames. */
export function Steps({
  label,
  says,
  hint,
  onStep,
}: {
  label: string;
  says: string;
  hint?: string;
  onStep(frames: number): void;
}) {
  return (
    <div className="mt-1.5 flex items-center gap-2" title={hint}>
      <span className="w-14">{label}</span>
      {steps.map((frames) => (
        <Button
          key={frames}
          className="tabular !h-7 !px-2"
          aria-label={`${says} ${counted(Math.abs(frames), 'frame')} ${frames < 0 ? 'earlier' : 'later'}`}
          onClick={() => onStep(frames)}
        >
          {frames > 0 ? `+${frames}` : frames}
        </Button>
      ))}
      <span className="text-xs text-muted">frames</span>
    </div>
  );
}

/** A line of a panel with its title at the left. */
export const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <div className="mt-2 flex flex-wrap items-center gap-2">
    <span className="w-14">{title}</span>
    {children}
  </div>
);

/** A length in seconds that is taken when it is left or Enter is pressed. */
export function Seconds({ label, value, onChange }: { label: string; value: number; onChange(value: number): void }) {
  return (
    <Typed
      key={value}
      label={label}
      shown={String(upTo(value, 2))}
      unit="s"
      onTake={(text) => {
        const next = Number(text.replace(',', '.'));
        if (Number.isFinite(next) && next >= 0) onChange(next);
      }}
    />
  );
}

export function Percent({ value, onChange }: { value: number; onChange(value: number): void }) {
  return (
    <Typed
      key={value}
      label="Speed in per cent"
      shown={String(value)}
      unit="%"
      onTake={(text) => {
        const next = Math.round(Number(text));
        if (Number.isFinite(next)) onChange(next);
      }}
    />
  );
}

function Typed({
  label,
  shown,
  unit,
  onTake,
}: {
  label: string;
  shown: string;
  unit: string;
  onTake(text: string): void;
}) {
  const [text, setText] = useState(shown);
  const take = () => text !== shown && onTake(text);
  return (
    <label className="flex items-center gap-1">
      <input
        aria-label={label}
        inputMode="decimal"
        className={`${inputLook} tabular !h-7 w-16 text-right`}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      />
      <span className="text-xs text-muted">{unit}</span>
    </label>
  );
}
