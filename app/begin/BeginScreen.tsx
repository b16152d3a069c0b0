import { Check, Loader, TriangleAlert } from 'lucide-react';
import { useEffect, useEffectEvent, useRef, useState, type ReactNode } from 'react';
import { Link, useFetcher } from 'react-router';
import { formatTimeLeft } from '#core/sentences';
import type { Aim } from '#usecases/beginnings';
import type { Item } from '#usecases/projects';
import { Poster } from '../drawing/Poster';
import { gather } from '../footage/dropped';
import { useFilesLanding } from '../hands/useFilesLanding';
import { useUploads } from '../footage/useUploads';
import { Doors } from '../home/Doors';
import { Button } from '../ui/controls';
import { FileButton } from '../ui/FileButton';
import { timeLeftOf } from '../ui/RunningWork';
import { useGoTo, type GoingAnswer } from '../ui/useGoTo';
import { useTasks } from '../ui/useTasks';
import { beginState, type BeginState } from './beginning';
import { beginWords } from './words';
import { repeatedly } from '../ui/repeatedly';
import { useReload } from '../ui/useReload';

interface BeginScreenProps {
  projectId: string;
  items: readonly Item[];
  beginning: { aim: Aim | null; music: { id: string; isHeard: boolean; problem: string | null } | null };
}

/** From files to what was asked for, by itself: they arrive, are looked at, and it is made and opened. */
export function BeginScreen({ projectId, items, beginning: { aim, music } }: BeginScreenProps) {
  const { queue, lines, total, arrived } = useUploads(projectId);
  const fetcher = useFetcher<{ problem: string | null } & GoingAnswer>();
  useGoTo(fetcher);
  const say = (intent: string, next: Aim) => void fetcher.submit({ intent, aim: next }, { method: 'post' });
  const take = (found: { file: File; path: string }[]) => queue.add(gather(found, null).files);
  const room = useRef<HTMLElement>(null);
  const over = useFilesLanding(room, take, () => 'here') !== null;
  return (
    <main ref={room} className="relative flex min-h-0 flex-1 flex-col items-center overflow-y-auto px-6 py-10">
      <div className={`w-full ${aim === null ? 'max-w-5xl' : 'max-w-2xl'}`}>
        {aim === null ? (
          <>
            <h1 className="mb-4 text-lg font-semibold">{beginWords.question}</h1>
            <Doors over={null} onAim={(next) => say('aim', next)} />
          </>
        ) : (
          <Making
            {...{ projectId, items, aim, music, total, over }}
            isListed={[...arrived].every((id) => items.some((item) => item.id === id))}
            stopped={lines.filter((line) => line.state === 'stopped').length}
            problem={fetcher.data?.problem ?? null}
            busy={fetcher.state !== 'idle'}
            onMake={() => say('make', aim)}
            onAim={(next) => say('aim', next)}
            onFiles={(files) => take(files.map((file) => ({ file, path: file.name })))}
          />
        )}
        <Pictures items={items} />
      </div>
    </main>
  );
}

interface MakingProps {
  projectId: string;
  items: readonly Item[];
  aim: Aim;
  music: BeginScreenProps['beginning']['music'];
  total: ReturnType<typeof useUploads>['total'];
  /** Whether all that has arrived is among the items. */
  isListed: boolean;
  stopped: number;
  over: boolean;
  problem: string | null;
  busy: boolean;
  onMake(): void;
  onAim(aim: Aim): void;
  onFiles(files: File[]): void;
}

/** What is read in less than this is waited for, in seconds: it is better than a first look. */
const worthWaiting = 20;

function Making(props: MakingProps) {
  const { projectId, items, aim, music, total, isListed, stopped, problem, busy, onMake } = props;
  const state = beginState({ aim, items, isArriving: total !== null || !isListed, music });
  const left = timeLeftOf(useTasks(projectId) ?? []);
  const refines = useRefining(state, left);
  useAsking(state.waitsFor === 'beats' || state.waitsFor === 'look' || (total === null && !isListed));
  const ready = state.waitsFor === null && !refines;
  // Once by itself; what failed is tried again by hand.
  const tried = useRef(false);
  const make = useEffectEvent(() => {
    if (tried.current) return;
    tried.current = true;
    onMake();
  });
  useEffect(() => {
    if (ready) make();
  }, [ready]);
  const song = music && items.find((item) => item.id === music.id)?.name;
  const trouble = problem ?? music?.problem ?? troubleOf(state, aim);
  const canBegin = !ready && !busy && state.seen > 0 && (aim !== 'montage' || music?.isHeard);
  return (
    <>
      <h1 className="text-lg font-semibold">{beginWords.making(aim)}</h1>
      <ol className="mt-5 divide-y divide-line border-y border-line">
        <Step name={beginWords.steps.files} done={items.length > 0 && !total}>
          {total
            ? beginWords.arriving(
                total.arrived,
                total.files,
                total.secondsLeft === null ? null : formatTimeLeft(total.secondsLeft),
              )
            : items.length > 0
              ? beginWords.arrived(items.length)
              : beginWords.noFiles}
          {stopped > 0 && <span className="block text-shake">{beginWords.stopped(stopped)}</span>}
        </Step>
        <Step
          name={beginWords.steps.look}
          done={state.pictures > 0 && state.seen === state.pictures && !refines && !total}
        >
          {state.pictures > 0 && beginWords.seen(state.seen, state.pictures)}
          {state.unreadable > 0 && <span className="block text-shake">{beginWords.unreadable(state.unreadable)}</span>}
          {refines && left !== null && <span className="block">{beginWords.refining(formatTimeLeft(left))}</span>}
        </Step>
        {aim === 'montage' && (
          <Step name={beginWords.steps.beats} done={Boolean(music?.isHeard)}>
            {song && (music.isHeard ? beginWords.beatsFound(song) : beginWords.beatsOf(song))}
          </Step>
        )}
        <Step name={beginWords.steps.make[aim]} done={false} waits={!busy}>
          {busy ? beginWords.made[aim] : beginWords.waits}
        </Step>
      </ol>
      {trouble && (
        <p role="alert" className="mt-4 flex items-start gap-2 text-shake">
          <TriangleAlert size={16} aria-hidden className="mt-px shrink-0" /> {trouble}
        </p>
      )}
      <div className="mt-5 flex items-center gap-2">
        {problem && !busy && (
          <Button look="lamp" onClick={onMake}>
            {beginWords.again}
          </Button>
        )}
        {canBegin && <Button onClick={onMake}>{beginWords.now}</Button>}
        <FileButton label={beginWords.add} className={props.over ? '!border-lampline' : ''} onFiles={props.onFiles}>
          {beginWords.add}
        </FileButton>
        <label className="ml-auto flex items-center gap-2 text-muted">
          {beginWords.change}
          <select
            className="h-[30px] rounded-md border border-line bg-ground px-2 text-text"
            value={aim}
            onChange={(event) => {
              tried.current = false;
              props.onAim(event.target.value as Aim);
            }}
          >
            {(Object.keys(beginWords.steps.make) as Aim[]).map((each) => (
              <option key={each} value={each}>
                {beginWords.makes[each]}
              </option>
            ))}
          </select>
        </label>
        <Link to="../footage" relative="path" className="text-muted underline">
          {beginWords.toFootage}
        </Link>
      </div>
    </>
  );
}

const troubleOf = ({ waitsFor }: BeginState, aim: Aim): string | null =>
  waitsFor === 'song'
    ? beginWords.needsSong
    : waitsFor === 'pictures' || waitsFor === 'unreadable'
      ? beginWords.needsPictures[aim]
      : null;

/** Whether a first look is known of all, and the rest will be in so short a time that it is waited for. */
function useRefining({ waitsFor, isRough }: BeginState, left: number | null): boolean {
  const [over, setOver] = useState(false);
  const looked = waitsFor === null && isRough;
  useEffect(() => {
    if (!looked) return;
    const timer = setTimeout(() => setOver(true), worthWaiting * 1000);
    return () => clearTimeout(timer);
  }, [looked]);
  return looked && !over && left !== null && left <= worthWaiting;
}

/** What comes by itself on the server is asked for once a second. */
function useAsking(on: boolean): void {
  const reload = useReload();
  useEffect(() => {
    if (!on) return;
    return repeatedly(reload, 1000);
  }, [on, reload]);
}

function Step({
  name,
  done,
  waits = false,
  children,
}: {
  name: string;
  done: boolean;
  waits?: boolean;
  children: ReactNode;
}) {
  return (
    <li className="grid grid-cols-[24px_150px_1fr] items-start py-3">
      {done ? (
        <Check size={16} aria-label="Done" className="mt-px text-speech" />
      ) : (
        <Loader
          size={16}
          aria-hidden
          className={`mt-px text-muted ${waits ? 'opacity-40' : 'animate-spin motion-reduce:animate-none'}`}
        />
      )}
      <span className={done || !waits ? '' : 'text-muted'}>{name}</span>
      <span className="text-muted" role="status">
        {children}
      </span>
    </li>
  );
}

const mostPictures = 24;
/** What is there, a picture each once it was looked at. */
function Pictures({ items }: { items: readonly Item[] }) {
  if (items.length === 0) return null;
  return (
    <ul className="mt-8 flex flex-wrap gap-2">
      {items.slice(0, mostPictures).map((item) => (
        <li key={item.id} title={item.problem ?? item.name} className={item.probe ? '' : 'opacity-40'}>
          <Poster
            media={item.id}
            sheets={item.sheets}
            kind={item.probe?.kind ?? item.arrived?.kind ?? null}
            seconds={(item.probe?.durationSeconds ?? 0) * 0.35}
          />
        </li>
      ))}
      {items.length > mostPictures && (
        <li className="self-center text-muted">{beginWords.more(items.length - mostPictures)}</li>
      )}
    </ul>
  );
}
