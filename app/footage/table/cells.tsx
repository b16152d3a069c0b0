import { Link, useFetcher } from 'react-router';
import { upTo, formatSize } from '#core/sentences';
import { loudnessWords, summarySentence } from '#core/readings';
import { formatClock, framesPerSecond } from '#core/time';
import type { Item } from '#usecases/projects';
import { MiniTraces } from '../../drawing/MiniTraces';
import { inputLook } from '../../ui/controls';
import { tableWords } from './words';

interface NameProps {
  item: Item;
  /** Whether the items lie on one clock. */
  inStep: boolean;
  isRenaming: boolean;
  /** @param stem null when nothing is to change */
  onRenamed(stem: string | null): void;
}

/** Name, size, and what a camera wrote about itself. */
export function Name({ item, inStep, isRenaming, onRenamed }: NameProps) {
  const { probe } = item;
  // What its header says is known before it is read.
  const known = probe ?? item.arrived;
  return (
    <>
      {isRenaming ? (
        <NameField name={item.name} onDone={onRenamed} />
      ) : (
        <Link
          to={item.id}
          className="block truncate text-sm font-medium hover:underline"
          title={`Reading report of ${item.name}`}
        >
          {item.name}
        </Link>
      )}
      <span className="text-xs text-muted">
        {formatSize(item.size)}
        {known?.startTimecode && known.startSeconds !== 0 && (
          <span className="tabular" title="Start timecode">
            {' '}
            · {known.startTimecode}
          </span>
        )}
        {known?.reelName && <span title="Reel name of the camera"> · {known.reelName}</span>}
        {inStep && probe?.kind !== 'photo' && (
          <span className="tabular">
            {' '}
            ·{' '}
            {item.syncOffset === null
              ? 'place not known'
              : `begins at ${item.syncOffset < 0 ? '−' : ''}${formatClock(Math.abs(item.syncOffset), true)}`}
          </span>
        )}
      </span>
    </>
  );
}

/** The name without its ending, as it is typed; Enter or leaving it takes it, Escape does not. */
function NameField({ name, onDone }: { name: string; onDone(stem: string | null): void }) {
  const [stem, ending] = partsOfName(name);
  return (
    <span className="flex items-center gap-1">
      <input
        autoFocus
        defaultValue={stem}
        maxLength={120}
        aria-label={tableWords.newName}
        className={`${inputLook} !h-6 min-w-0 flex-1`}
        onFocus={(event) => event.currentTarget.select()}
        onBlur={(event) => {
          const next = event.currentTarget.value.trim();
          onDone(next && next !== stem ? next : null);
        }}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === 'Enter') event.currentTarget.blur();
          if (event.key === 'Escape') {
            event.currentTarget.value = stem;
            event.currentTarget.blur();
          }
        }}
      />
      <span className="text-muted">{ending}</span>
    </span>
  );
}

/** "boat" and ".mp4". */
function partsOfName(name: string): [stem: string, ending: string] {
  const dot = name.lastIndexOf('.');
  return dot > 0 ? [name.slice(0, dot), name.slice(dot)] : [name, ''];
}

export function Format({ item }: { item: Item }) {
  const known = item.probe ?? item.arrived;
  return (
    <span className="text-muted">
      {known && formatOf(known)}
      {item.inputLook && <span className="block truncate text-xs">input look: {item.inputLook}</span>}
    </span>
  );
}

/** Said where it is more than one track of at most two channels. */
function tracksOf({ soundTracks = [] }: NonNullable<Item['probe']>): string[] {
  const channels = soundTracks.reduce((sum, track) => sum + track.channels, 0);
  if (soundTracks.length > 1) return [`${soundTracks.length} tracks of sound`];
  return channels > 2 ? [`${channels} channels`] : [];
}

function formatOf(probe: NonNullable<Item['probe']>): string {
  if (probe.kind === 'sound') return ['sound', ...tracksOf(probe)].join(', ');
  const size = `${probe.width}×${probe.height}`;
  const kinds = [
    ...(probe.coding?.fields ? ['interlaced'] : []),
    ...(probe.coding?.hdr ? [`HDR (${probe.coding.hdr.toUpperCase()})`] : []),
    ...tracksOf(probe),
  ];
  return probe.kind === 'photo'
    ? `photo, ${size}`
    : [size, `${upTo(probe.rate ? framesPerSecond(probe.rate) : 0, 2)} fps`, ...kinds].join(', ');
}

/** What was read, how far it is, or why it cannot be. */
export function Read({ item }: { item: Item }) {
  if (item.here?.isMissing)
    return (
      <span className="text-shake">
        Missing: it does not lie at “{item.here.path}” any more. <FindAgain id={item.id} />
      </span>
    );
  if (item.problem)
    return (
      <span className="text-shake">
        {item.problem} <ReadNow id={item.id} label="Try again" />
      </span>
    );
  return (
    <>
      <Reading item={item} />
      {item.probe?.kind === 'video' && <MiniTraces media={item.id} stamp={String(Number(item.readAt))} />}
    </>
  );
}

/** Looks for a file by its content, below the folder of this machine. */
function FindAgain({ id }: { id: string }) {
  const fetcher = useFetcher<{ left?: string[] }>();
  return (
    <>
      <button
        type="button"
        disabled={fetcher.state !== 'idle'}
        className="underline hover:text-text"
        onClick={() => void fetcher.submit({ intent: 'find-again', ids: id }, { method: 'post' })}
      >
        {fetcher.state === 'idle' ? 'Find again' : 'Looking for it…'}
      </button>
      {fetcher.data?.left?.map((sentence) => (
        <span key={sentence} role="alert" className="block">
          {sentence}
        </span>
      ))}
    </>
  );
}

/** Asks for an item to be read that nothing reads now. */
function ReadNow({ id, label }: { id: string; label: string }) {
  const fetcher = useFetcher();
  return (
    <button
      type="button"
      disabled={fetcher.state !== 'idle'}
      className="underline hover:text-text"
      onClick={() => void fetcher.submit({ intent: 'read', ids: id }, { method: 'post' })}
    >
      {label}
    </button>
  );
}

function Reading({ item }: { item: Item }) {
  const found = item.summary && summarySentence(item.summary, item.probe?.kind);
  if (item.state && item.summary && item.nextTask)
    return (
      <span className="text-muted">
        {found}
        <span className="block text-xs">another reading {item.state === 'running' ? 'is on its way' : item.waits}</span>
      </span>
    );
  if (item.state === 'running')
    return <span className="text-muted">being read…{item.isRough && found ? ` so far: ${found}` : ''}</span>;
  if (item.state === 'queued') return <span className="text-muted">{item.waits ?? 'waits to be read'}</span>;
  if (!item.summary || !item.probe)
    return (
      <span className="text-muted">
        not read. <ReadNow id={item.id} label="Read it" />
      </span>
    );
  if (item.isRough)
    return (
      <span className="text-muted">
        first look only: {found}. <ReadNow id={item.id} label="Read on" />
      </span>
    );
  if (item.probe.kind === 'sound')
    return (
      <span className="text-muted">
        {found}
        {typeof item.loudness?.integratedLufs === 'number' && `, ${loudnessWords(item.loudness.integratedLufs)}`}
      </span>
    );
  return (
    <span className="text-muted">
      {found}
      {item.warnings?.[0] && <span className="block text-xs text-shake">{item.warnings[0]}</span>}
    </span>
  );
}
