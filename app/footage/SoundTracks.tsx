import { useState } from 'react';
import { useFetcher } from 'react-router';
import { writeSoundChoice } from '#core/sound';
import type { Item } from '#usecases/projects';
import { Button } from '../ui/controls';
import { heardIn, soundLines, toggledPick } from './soundPicks';

/** Which tracks and channels of a file are heard, mixed together; and which the machine finds best for speech. */
export function SoundTracks({ item, probe }: { item: Item; probe: NonNullable<Item['probe']> }) {
  const fetcher = useFetcher<{ problem: string | null }>();
  const now = heardIn(probe.heard);
  const [choice, setChoice] = useState(now);
  const changed = writeSoundChoice(choice) !== writeSoundChoice(now);
  const save = (sound: string) => void fetcher.submit({ sound }, { method: 'post' });
  const isBusy = fetcher.state !== 'idle' || Boolean(item.nextTask);
  return (
    <section aria-label="What is heard">
      <p className="mb-2 text-xs text-muted">What is heard of this file; several are mixed.</p>
      <ul>
        {soundLines(probe.soundTracks ?? [], probe.listened ?? []).map((line) => (
          <li key={`${line.track}.${line.channel ?? 'all'}`} className={line.channel === null ? '' : 'pl-6'}>
            <label className="flex items-center gap-2 py-1">
              <input
                type="checkbox"
                className="h-4 w-4 accent-[#9fabb2]"
                checked={choice.some((each) => each.track === line.track && each.channel === line.channel)}
                onChange={() => setChoice(toggledPick(choice, line))}
              />
              <span>{line.name}</span>
              <span className="truncate text-xs text-muted">{line.kind}</span>
              <span className="tabular ml-auto shrink-0 text-xs text-muted">{line.heard}</span>
            </label>
          </li>
        ))}
      </ul>
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
