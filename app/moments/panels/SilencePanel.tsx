import { VolumeX } from 'lucide-react';
import { counted, decimal } from '#core/sentences';
import { formatClock } from '#core/time';
import type { SilenceChoice } from '#usecases/moments';
import { Button, Slider } from '../../ui/controls';
import { colours } from '../../drawing/inks';

interface SilencePanelProps {
  choice: SilenceChoice;
  /** What each file's room noise suggests, in dBFS; the middle one. */
  suggestedDb: number | null;
  count: number;
  kept: number;
  /** Whether the playhead stands in a silence, and whether that one is kept. */
  here: boolean | null;
  loading: boolean;
  making: boolean;
  onChange(choice: SilenceChoice, join: string): void;
  onKeepHere(): void;
  onMake(): void;
}

/** What counts as silence, moving live over the page; each stretch can be kept before the rest is taken out. */
export function SilencePanel({
  choice,
  suggestedDb,
  count,
  kept,
  here,
  loading,
  making,
  onChange,
  onKeepHere,
  onMake,
}: SilencePanelProps) {
  const level = choice.thresholdDb ?? suggestedDb ?? -50;
  return (
    <div className="flex min-h-full flex-col">
      <p className="mb-2 text-muted">
        Dimmed stretches are silent and go. Step through them with [ and ]; + keeps one.
      </p>
      <Slider
        label="Silent under"
        colour={colours.sound}
        value={level}
        min={-80}
        max={-10}
        step={1}
        shown={`${Math.round(level)} dB`}
        hint="Sound level in dBFS"
        onChange={(thresholdDb) => onChange({ ...choice, thresholdDb }, 'threshold')}
      />
      <Slider
        label="At least"
        colour={colours.muted}
        value={choice.minSeconds}
        min={0.2}
        max={5}
        step={0.1}
        shown={`${decimal(choice.minSeconds, 1)} s`}
        onChange={(minSeconds) => onChange({ ...choice, minSeconds }, 'least')}
      />
      <Slider
        label="Padding"
        colour={colours.muted}
        value={choice.padSeconds}
        min={0}
        max={1}
        step={0.05}
        shown={`${decimal(choice.padSeconds, 2)} s`}
        hint="Left standing at both ends of every silence"
        onChange={(padSeconds) => onChange({ ...choice, padSeconds }, 'breath')}
      />
      <p className="mt-1 text-xs text-muted">
        {choice.thresholdDb === null ? (
          'The level follows the room noise of each file.'
        ) : (
          <button
            type="button"
            className="underline hover:text-text"
            onClick={() => onChange({ ...choice, thresholdDb: null }, 'threshold')}
          >
            Follow the room noise of each file
          </button>
        )}
      </p>
      {loading && (
        <p role="status" className="mt-2 text-muted">
          Fetching the sound levels…
        </p>
      )}
      {!loading && count === 0 && (
        <p className="mt-2 text-muted">Nothing is silent. Raise the level, or ask for shorter silences.</p>
      )}
      <div className="sticky -bottom-3 mt-auto flex gap-2 bg-panel pb-3 pt-2">
        <Button command="keep" disabled={here === null} aria-pressed={here ?? false} onClick={onKeepHere}>
          {here ? 'Let it go' : 'Keep this silence'}
        </Button>
        <Button look="lamp" command="makeReel" disabled={making || count === 0} onClick={onMake}>
          <VolumeX size={15} aria-hidden /> Take out {kept > 0 ? 'the rest' : 'the silence'}
        </Button>
      </div>
    </div>
  );
}

export const silenceSentence = (count: number, seconds: number, total: number, kept: number) =>
  `${counted(count, 'silence')}, ${formatClock(seconds)} of ${formatClock(total)}${kept ? `, ${kept} kept by hand` : ''}`;
