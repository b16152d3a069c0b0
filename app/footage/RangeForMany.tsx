import { useState } from 'react';
import { useFetcher } from 'react-router';
import type { ItemsAnswer } from '#usecases/footage';
import type { Item } from '#usecases/projects';
import { Button, inputLook } from '../ui/controls';
import { costWords, rangeCost } from './rangeCost';

interface RangeForManyProps {
  items: readonly Item[];
  /** Of this machine; see `readingPace`. */
  pace: number;
  onDone(): void;
}

/** Which stretch of the chosen files is worth reading, and what it costs. */
export function RangeForMany({ items, pace, onDone }: RangeForManyProps) {
  const fetcher = useFetcher<ItemsAnswer & { problem: string | null }>();
  const [from, setFrom] = useState('');
  const [to, setTo] = useState('');
  const cost = rangeCost(items, from, to, pace);
  const answer = fetcher.data;
  const read = () => {
    const form = new FormData();
    form.set('intent', 'range');
    form.set('from', from);
    form.set('to', to);
    for (const item of items) form.append('ids', item.id);
    void fetcher.submit(form, { method: 'post' });
  };
  const field = (label: string, value: string, set: (text: string) => void, placeholder: string) => (
    <input
      aria-label={label}
      className={`${inputLook} tabular !h-[30px] w-20`}
      placeholder={placeholder}
      value={value}
      onChange={(event) => set(event.target.value)}
    />
  );
  return (
    <section aria-label="Reading range of the chosen files" className="border-b border-line bg-raised px-4 py-2">
      <div className="flex items-center gap-2">
        <span className="text-muted">Read from</span>
        {field('Read the chosen from', from, setFrom, 'start')}
        <span className="text-muted">to</span>
        {field('Read the chosen to', to, setTo, 'end')}
        <Button
          look="lamp"
          disabled={!cost || cost.seconds + cost.unknown === 0 || fetcher.state !== 'idle'}
          onClick={read}
        >
          Read this part
        </Button>
        <span className="tabular ml-1 text-muted" role="status">
          {cost ? costWords(cost) : 'Give times as minutes and seconds, such as 2:00; the end after the start.'}
        </span>
        <button type="button" className="ml-auto text-muted underline hover:text-text" onClick={onDone}>
          Close
        </button>
      </div>
      {answer && (
        <ul role="status" className="mt-1 text-xs text-muted">
          {answer.problem ? (
            <li className="text-shake">{answer.problem}</li>
          ) : answer.left?.length ? (
            answer.left.map((sentence) => <li key={sentence}>{sentence}</li>)
          ) : (
            <li>Asked for. What was read before stays until the new part is there.</li>
          )}
        </ul>
      )}
    </section>
  );
}
