import { Play, Square } from 'lucide-react';
import { useState } from 'react';
import { useFetcher } from 'react-router';
import { writeSoundChoice } from '#core/sound';
import { formatClock, parseClock } from '#core/time';
import type { Item } from '#usecases/projects';
import { Button, IconButton, inputLook } from '../ui/controls';
import { heardIn, soundLines, toggledPick, type SoundLine } from './soundPicks';
import { excerptSeconds, useExcerpt } from './useExcerpt';

interface SoundTracksProps {
  item: Item;
  probe: NonNullable<Item['probe']>;
  /** Where tracks are listened to first, in seconds: where somebody speaks. */
  start: number;
}

/** Which tracks and channels of a file are heard, mixed together; and which the machine finds best for speech. */
export function SoundTracks({ item, probe, start }: SoundTracksProps) {
  const fetcher = useFetcher<{ problem: string | null }>();
  const now = heardIn(probe.heard);
  const [choice, setChoice] = useState(now);
  const changed = writeSoundChoice(choice) !== writeSoundChoice(now);
  const save = (sound: string) => void fetcher.submit({ sound }, { method: 'post' });
  const excerpt = useExcerpt(item.id, probe.durationSeconds, start);
  const isBusy = fetcher.state !== 'idle' || Boolean(item.nextTask);
  return (
    <section aria-label="What is heard">
      <p className="mb-2 text-xs text-muted">What is heard of this file; several are mixed.</p>
      <ul>
        {soundLines(probe.soundTracks ?? [], probe.listened ?? []).map((line) => (
          <li key={`${line.track}.${line.channel ?? 'all'}`} className={line.channel === null ? '' : 'pl-6'}>
            <div className="flex items-center gap-1">
              <ListenButton line={line} excerpt={excerpt} />
              <label className="flex min-w-0 flex-1 items-center gap-2 py-1">
                <input
                  type="checkbox"
                  className="h-4 w-4 accent-muted"
                  checked={choice.some((each) => each.track === line.track && each.channel === line.channel)}
                  onChange={() => setChoice(toggledPick(choice, line))}
                />
                <span>{line.name}</span>
                <span className="truncate text-xs text-muted">{line.kind}</span>
                <span className="tabular ml-auto shrink-0 text-xs text-muted">{line.heard}</span>
              </label>
            </div>
          </li>
        ))}
      </ul>
      <ListenFrom excerpt={excerpt} durationSeconds={probe.durationSeconds} />
      <div className="mt-3 flex gap-2">
        <Button look="lamp" disabled={!changed || isBusy} onClick={() => save(writeSoundChoice(choice))}>
          {choice.length ? 'Hear these' : 'Hear nothing'}
        </Button>
        <Button disabled={isBusy} onClick={() => save('')}>
          What is best for speech
        </Button>
      </div>
      <p
        role={fetcher.data?.problem ? 'alert' : 'status'}
        className={`mt-2 text-xs ${fetcher.data?.problem ? 'text-shake' : 'text-muted'}`}
      >
        {fetcher.data?.problem ??
          (item.nextTask
            ? `Other sound ${item.state === 'running' ? 'is being read' : (item.waits ?? 'waits to be read')}; until then all stays as it is.`
            : 'Only the sound is read again. Reels that are rendered later have it too.')}
      </p>
    </section>
  );
}

type Excerpt = ReturnType<typeof useExcerpt>;

/** Plays a line alone, to tell it from the others before it is chosen. */
function ListenButton({ line, excerpt }: { line: SoundLine; excerpt: Excerpt }) {
  const { track, channel } = line;
  const isPlaying = excerpt.playing === writeSoundChoice([{ track, channel }]);
  const name = channel === null ? line.name : `${line.name} of track ${track + 1}`;
  return (
    <IconButton
      label={isPlaying ? `Stop ${name}` : `Listen to ${name}`}
      onClick={() => (isPlaying ? excerpt.stop() : excerpt.play({ track, channel }))}
    >
      {isPlaying ? <Square size={13} /> : <Play size={13} />}
    </IconButton>
  );
}

/** The place at which all lines are listened to. */
function ListenFrom({ excerpt, durationSeconds }: { excerpt: Excerpt; durationSeconds: number }) {
  const [text, setText] = useState<string | null>(null);
  const take = () => {
    const seconds = text === null ? null : parseClock(text);
    if (seconds !== null && seconds < durationSeconds) excerpt.setAt(seconds);
    setText(null);
  };
  return (
    <p className="mt-2 flex items-center gap-2 text-xs text-muted">
      <label className="flex items-center gap-2">
        Listen from
        <input
          className={`${inputLook} tabular !h-6 w-20 !text-xs`}
          value={text ?? formatClock(excerpt.at, true)}
          onChange={(event) => setText(event.target.value)}
          onBlur={take}
          onKeyDown={(event) => event.key === 'Enter' && take()}
        />
      </label>
      {excerpt.problem ? (
        <span role="alert" className="text-shake">
          {excerpt.problem}
        </span>
      ) : (
        `${excerptSeconds} s at a time`
      )}
    </p>
  );
}
