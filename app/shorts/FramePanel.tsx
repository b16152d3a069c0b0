import { decimal } from '#core/sentences';
import type { Fit, Framing, FramingSubject } from '#core/framing';
import { useEffect, useState } from 'react';
import { X } from 'lucide-react';

import { formatClock, framesToSeconds } from '#core/time';
import type { Item } from '#usecases/projects';
import type { ReelDesk } from '../reel/useReelDesk';
import { Button, IconButton, inputLook, Slider } from '../ui/controls';
import { ask } from '../ui/ask';
import { playedAddress } from '../player/playedAddress';

interface FramePanelProps {
  desk: ReelDesk;
  framing: Framing | null;
  busy: boolean;
  problem: string | null;
  /** The chosen piece, or all of them, framed anew with other wishes. */
  onFrame(wanted: Partial<Pick<Framing, 'subject' | 'zoom' | 'keys'>>, all?: boolean): void;
}
/** Something in the picture that can be followed. */
interface Thing {
  subject: FramingSubject;
  name: string;
  x: number;
  y: number;
  width: number;
  height: number;
}

const fits: [Fit, string][] = [
  ['fill', 'Fill, following'],
  ['blur', 'Whole, over a blurred copy'],
  ['bars', 'Whole, with bars'],
];

/** What the frame shows of a wider picture: what it follows, how close, and where it was put by hand. */
export function FramePanel({ desk, framing, busy, problem, onFrame }: FramePanelProps) {
  const { document: reel, segment, clip, live, player } = desk;
  const [things, setThings] = useState<Thing[]>([]);
  const source = segment ? segment.sourceSeconds + (player.time - segment.startSeconds) * segment.speed : 0;
  const rounded = Math.round(source * 2) / 2;
  const media = segment?.media ?? null;
  useEffect(() => {
    if (!media || player.playing) return;
    const stop = new AbortController();
    ask(
      `/media/${media}/framing?at=${rounded}`,
      stop.signal,
      async (answer) => answer.ok && setThings((await answer.json()) as Thing[]),
    );
    return () => stop.abort();
  }, [media, rounded, player.playing]);
  if (!reel || !clip) return null;
  const item = media ? desk.itemOf(media) : null;
  const fit = clip.fit ?? reel.fit ?? 'bars';
  const subject = framing?.subject ?? 'auto';
  const choose = (value: FramingSubject) => onFrame({ subject: value, ...(value === 'stack' ? { keys: [] } : {}) });
  return (
    <div className="space-y-3">
      {problem && (
        <p role="alert" className="rounded-md bg-raised px-3 py-2 text-shake">
          {problem}
        </p>
      )}
      <label className="grid grid-cols-[104px_1fr] items-center gap-3">
        The picture
        <select
          className={inputLook}
          value={fit}
          onChange={(event) => live.edit({ type: 'fit', clip: null, fit: event.target.value as Fit })}
        >
          {fits.map(([value, label]) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </select>
      </label>
      {fit === 'fill' && (
        <>
          <label className="grid grid-cols-[104px_1fr] items-center gap-3">
            It follows
            <select
              className={inputLook}
              value={subject}
              disabled={busy}
              onChange={(event) => choose(event.target.value as FramingSubject)}
            >
              <option value="auto">who speaks, else what stands out</option>
              <option value="fixed">nothing: it stays where it is put</option>
              <option value="stack">two speakers, one above the other</option>
              {subject.startsWith('face:') && <option value={subject}>one face</option>}
              {subject.startsWith('thing:') && <option value={subject}>one {subject.split(':').at(-1)}</option>}
            </select>
          </label>
          {things.length > 0 && item && (
            <Things item={item} seconds={rounded} things={things} subject={subject} onChoose={choose} />
          )}
          <Slider
            label="How close"
            value={framing?.zoom ?? 1}
            min={1}
            max={2.5}
            step={0.05}
            colour="#9fabb2"
            shown={(value) => `${decimal(value, 2)}×`}
            onRest={(zoom) => onFrame({ zoom })}
          />
          <div>
            <p className="text-xs text-muted">
              {framing?.below
                ? 'Each half follows its face.'
                : 'Drag the picture above to put the frame somewhere at the playhead; its way runs through there.'}
            </p>
            {framing && framing.keys.length > 0 && (
              <Places
                keys={framing.keys}
                onGo={(seconds) =>
                  segment &&
                  player.seek(
                    segment.startSeconds + (seconds - framesToSeconds(clip.sourceIn, reel.rate)) / (segment.speed || 1),
                  )
                }
                onKeep={(kept) => onFrame({ keys: kept })}
              />
            )}
          </div>
          <div className="flex flex-wrap gap-2">
            <Button disabled={busy} onClick={() => onFrame({}, true)}>
              Follow in all pieces
            </Button>
            <Button disabled={busy} onClick={() => onFrame({ subject, zoom: framing?.zoom ?? 1 }, true)}>
              The same in all pieces
            </Button>
          </div>
          <p className="text-xs text-muted" role="status">
            {busy
              ? 'Framing…'
              : framing
                ? `Follows ${framing.follows ?? 'what stands out'}.`
                : 'Not framed yet: the middle is shown.'}
          </p>
        </>
      )}
    </div>
  );
}

interface ThingsProps {
  item: Item;
  /** Of the file. */
  seconds: number;
  things: readonly Thing[];
  subject: FramingSubject;
  onChoose(subject: FramingSubject): void;
}

/** The picture at the playhead with what can be followed in it. */
function Things({ item, seconds, things, subject, onChoose }: ThingsProps) {
  const shape = item.probe ? item.probe.width / item.probe.height : 16 / 9;
  return (
    <div>
      <p className="mb-1 text-xs text-muted">Faces and things here; press one to follow it</p>
      <div className="relative w-full overflow-hidden rounded bg-black" style={{ aspectRatio: shape }}>
        <video
          src={`${playedAddress(item)}#t=${seconds}`}
          key={`${item.id} ${seconds}`}
          muted
          preload="metadata"
          className="h-full w-full opacity-70"
          aria-hidden
          tabIndex={-1}
        />
        {things.map((thing, index) => {
          const chosen = subject === thing.subject;
          const count = things.slice(0, index + 1).filter((each) => each.name === thing.name).length;
          const edge = chosen ? 'border-lampline' : thing.name === 'face' ? 'border-faces' : 'border-motion/70';
          return (
            <button
              key={thing.subject}
              type="button"
              aria-label={`Follow ${thing.name} ${count}`}
              title={thing.name}
              aria-pressed={chosen}
              onClick={() => onChoose(chosen ? 'auto' : thing.subject)}
              className={`absolute rounded border-2 hover:border-text ${edge}`}
              style={{
                left: `${thing.x * 100}%`,
                top: `${thing.y * 100}%`,
                width: `${thing.width * 100}%`,
                height: `${thing.height * 100}%`,
              }}
            />
          );
        })}
      </div>
    </div>
  );
}

interface PlacesProps {
  keys: Framing['keys'];
  /** @param seconds of the file */
  onGo(seconds: number): void;
  onKeep(keys: Framing['keys']): void;
}

/** Where the frame was put by hand. */
function Places({ keys, onGo, onKeep }: PlacesProps) {
  return (
    <ul className="mt-1.5 flex flex-wrap gap-1.5" aria-label="Places by hand">
      {keys.map((key) => (
        <li key={key.seconds} className="flex items-center gap-1 rounded border border-line pl-2 text-xs">
          <button type="button" className="tabular hover:text-lampline" onClick={() => onGo(key.seconds)}>
            {formatClock(key.seconds, true)}
          </button>
          <IconButton
            label={`Delete the place at ${formatClock(key.seconds, true)}`}
            className="!h-5 !w-5"
            onClick={() => onKeep(keys.filter((each) => each !== key))}
          >
            <X size={11} />
          </IconButton>
        </li>
      ))}
    </ul>
  );
}
