import { ListMusic, Plus, X } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useEffect, useState } from 'react';
import { useFetcher } from 'react-router';
import { toast } from 'sonner';
import { formatClock, parseClock } from '#core/time';
import type { Item } from '#usecases/projects';
import { newId } from '../newId';
import { Button, IconButton, inputLook } from '../ui/controls';

interface Part {
  key: string;
  media: string;
  /** As typed; empty for the song's own beginning and end. */
  from: string;
  to: string;
}
interface Answer {
  problem: string | null;
  title: string | null;
}

/** Seconds that were typed; undefined for nothing, null for what is no time. */
const typed = (text: string): number | undefined | null => (text.trim() ? parseClock(text.trim()) : undefined);

/** Makes a new piece of music: several songs one after the other, or one of another length. */
export function MusicMaker({ projectId, music, songs }: { projectId: string; music: Item; songs: Item[] }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <button
          type="button"
          aria-label="Another length, or several songs"
          title="Another length, or several songs"
          className="inline-flex h-7 w-7 shrink-0 items-center justify-center rounded-md hover:bg-line/60"
        >
          <ListMusic size={16} />
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Another length, or several songs"
          align="start"
          sideOffset={4}
          className="z-50 w-[26rem] rounded-md border border-line bg-raised p-3 text-sm shadow-xl"
        >
          <MakerForm projectId={projectId} music={music} songs={songs} onDone={() => setOpen(false)} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function MakerForm({
  projectId,
  music,
  songs,
  onDone,
}: {
  projectId: string;
  music: Item;
  songs: Item[];
  onDone(): void;
}) {
  const partOf = (media: string): Part => ({ key: newId(), media, from: '', to: '' });
  const [parts, setParts] = useState(() => [partOf(music.id)]);
  const [length, setLength] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const fetcher = useFetcher<Answer>();
  const set = (key: string, to: Partial<Part>) =>
    setParts(parts.map((part) => (part.key === key ? { ...part, ...to } : part)));
  const lengthOf = (id: string) => songs.find((song) => song.id === id)?.probe?.durationSeconds ?? 0;
  const total = parts.reduce((sum, { media, from, to }) => {
    const [start, end] = [typed(from) ?? 0, typed(to) ?? lengthOf(media)];
    return sum + Math.max(0, Math.min(end, lengthOf(media)) - start);
  }, 0);

  useEffect(() => {
    const { title } = fetcher.data ?? {};
    if (fetcher.state !== 'idle' || !title) return;
    toast(`“${title.replace(/\.\w+$/, '')}” is being made. It will be in the list of music, and with the footage.`);
    onDone();
    // Once for each answer.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [fetcher.data, fetcher.state]);

  const send = () => {
    const times = [length, ...parts.flatMap(({ from, to }) => [from, to])];
    if (times.some((text) => typed(text) === null)) return setProblem('Type times as minutes and seconds, like 1:30.');
    setProblem(null);
    const wish = {
      parts: parts.map(({ media, from, to }) => ({ media, from: typed(from), to: typed(to) })),
      seconds: typed(length),
    };
    void fetcher.submit(JSON.stringify(wish), {
      method: 'post',
      action: `/projects/${projectId}/make-music`,
      encType: 'application/json',
    });
  };
  const said = problem ?? (fetcher.state === 'idle' ? fetcher.data?.problem : null);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        send();
      }}
    >
      <h2 className="mb-2 font-semibold">A new piece of music</h2>
      <ol className="space-y-1.5">
        {parts.map((part, index) => (
          <li key={part.key} className="flex items-center gap-1.5">
            <select
              aria-label={`Song ${index + 1}`}
              className={`${inputLook} min-w-0 flex-1`}
              value={part.media}
              onChange={(event) => set(part.key, { media: event.target.value })}
            >
              {songs.map((song) => (
                <option key={song.id} value={song.id}>
                  {song.name.replace(/\.\w+$/, '')}, {formatClock(song.probe!.durationSeconds)}
                </option>
              ))}
            </select>
            {(['from', 'to'] as const).map((end) => (
              <input
                key={end}
                aria-label={`${end === 'from' ? 'From' : 'To'}, song ${index + 1}`}
                placeholder={end === 'from' ? '0:00' : formatClock(lengthOf(part.media))}
                className={`${inputLook} tabular w-16`}
                value={part[end]}
                onChange={(event) => set(part.key, { [end]: event.target.value })}
              />
            ))}
            <IconButton
              label={`Remove song ${index + 1}`}
              disabled={parts.length === 1}
              onClick={() => setParts(parts.filter(({ key }) => key !== part.key))}
            >
              <X size={14} />
            </IconButton>
          </li>
        ))}
      </ol>
      <Button className="mt-1.5 !h-7 !px-2" onClick={() => setParts([...parts, partOf(parts.at(-1)!.media)])}>
        <Plus size={14} aria-hidden /> Then another song
      </Button>
      <label className="mt-3 flex items-center gap-2">
        Altogether as long as
        <input
          aria-label="Altogether as long as"
          placeholder={formatClock(total)}
          className={`${inputLook} tabular w-16`}
          value={length}
          onChange={(event) => setLength(event.target.value)}
        />
        <span className="text-xs text-muted">to a bar or two</span>
      </label>
      <p className="mt-2 text-xs text-muted">
        Everything is joined on the first beat of a bar, where it sounds most alike. The songs stay as they are.
      </p>
      {said && (
        <p role="alert" className="mt-2 text-shake">
          {said}
        </p>
      )}
      <Button look="lamp" type="submit" className="mt-3" disabled={fetcher.state !== 'idle'}>
        Make it
      </Button>
    </form>
  );
}
