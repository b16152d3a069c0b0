import { ArrowLeft } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Link, useFetcher, useOutletContext, useParams } from 'react-router';
import { loudnessWords, readingDefaults, summarySentence, type ReadingRules, type Run } from '#core/readings';
import { formatClock, framesPerSecond } from '#core/time';
import { sentences } from '#core/words';
import { counted, upTo, decimal } from '#core/sentences';
import type { Item, ProjectData } from '#usecases/projects';
import { showReport } from '#usecases/inThreads';
import { changeRange, changeRules, changeSound } from '#usecases/readings';
import { costWords, rangeCost } from '../footage/rangeCost';
import { RunLanes, TraceCharts } from '../footage/ReportCharts';
import { RulesPanel } from '../footage/RulesPanel';
import { SoundTracks } from '../footage/SoundTracks';
import { useReport } from '../footage/useReport';
import { failed, formOf, jsonOf, modelOf, succeeded } from '../server/answer.server';
import { Button, inputLook } from '../ui/controls';
import { Column } from '../ui/Column';
import type { Route } from './+types/reading';

export const loader = async ({ params }: Route.LoaderArgs) =>
  modelOf(await showReport(params.projectId, params.mediaId));

/** Sensitivities come as JSON (`rules`; null for the usual ones), the range that is to be read as a form. */
export async function action({ params, request }: Route.ActionArgs) {
  const isJson = request.headers.get('Content-Type')?.includes('json');
  const changed = isJson
    ? await changeRules(params.projectId, ((await jsonOf(request)) as { rules?: unknown } | null)?.rules)
    : await changeForm(params.projectId, params.mediaId, await formOf(request));
  return changed.ok ? succeeded() : failed(changed);
}

/** What of the sound is heard, or which stretch is read. */
const changeForm = (projectId: string, mediaId: string, form: FormData) =>
  form.has('sound') ? changeSound(projectId, mediaId, form) : changeRange(projectId, mediaId, form);

export default function ReadingReport({ loaderData, params }: Route.ComponentProps) {
  const { items } = useOutletContext<ProjectData>();
  const item = items.find((each) => each.id === params.mediaId);
  if (!item)
    return (
      <p className="p-8 text-muted" role="status">
        This item is not in the project any more.
      </p>
    );
  if (!item.probe) return <Unread key={item.id} item={item} projectId={params.projectId} pace={loaderData.pace} />;
  return <Loaded key={item.id} item={item} probe={item.probe} loaderData={loaderData} projectId={params.projectId} />;
}

/** Where there is something to hear: the first words, or the middle where there are none. */
const firstSpeech = (runs: readonly Run[], durationSeconds: number): number =>
  runs.find((run) => run.kind === 'speech' && run.end - run.start > 1)?.start ?? durationSeconds / 2;

type LoadedProps = {
  item: Item;
  probe: NonNullable<Item['probe']>;
  loaderData: Route.ComponentProps['loaderData'];
  projectId: string;
};

function Loaded({ item, probe, loaderData, projectId }: LoadedProps) {
  const [rules, setRules] = useState<ReadingRules>(loaderData.rules ?? readingDefaults);
  const [tab, setTab] = useState('rules');
  const { report, problem } = useReport(
    item.id,
    rules,
    probe.width ? probe.height / probe.width : 9 / 16,
    String(Number(item.readAt)),
  );
  const saver = useFetcher<{ problem: string | null }>();
  const spoken = useMemo(() => sentences(loaderData.words), [loaderData.words]);
  const { loudness } = item;
  const facts = [
    probe.kind === 'photo' ? 'photo' : formatClock(probe.durationSeconds),
    probe.width ? `${probe.width}×${probe.height}` : '',
    probe.rate ? `${upTo(framesPerSecond(probe.rate), 2)} fps` : '',
    probe.startTimecode ?? '',
    probe.reelName ? `reel ${probe.reelName}` : '',
    typeof loudness?.integratedLufs === 'number' ? loudnessWords(loudness.integratedLufs) : '',
    typeof loudness?.rangeLu === 'number' && loudness.rangeLu > 0 ? `range ${decimal(loudness.rangeLu, 1)} LU` : '',
    typeof loudness?.truePeakDb === 'number' ? `peak ${decimal(loudness.truePeakDb, 1)} dBTP` : '',
  ].filter(Boolean);
  return (
    <div className="flex min-h-0 flex-1">
      <main className="min-w-0 flex-1 overflow-y-auto px-4 pb-6">
        <div className="flex h-12 items-center gap-3">
          <Link
            to={`/projects/${projectId}/footage`}
            className="text-muted hover:text-text"
            aria-label="Back to the footage"
          >
            <ArrowLeft size={16} />
          </Link>
          <h1 className="truncate text-base font-semibold">{item.name}</h1>
          <span className="tabular truncate text-muted">{facts.join(' · ')}</span>
          {probe.kind === 'sound' && (
            <Link
              to={`/projects/${projectId}/music/${item.id}`}
              className="ml-auto shrink-0 text-muted underline hover:text-text"
            >
              Cut to it as music
            </Link>
          )}
        </div>
        <p className="mb-3 text-muted">
          {report ? summarySentence(report.summary, item.probe?.kind) : (problem ?? 'Loading the reading…')}
          {item.isRough
            ? ' · a rough first reading; the whole one is on its way'
            : item.tookSeconds
              ? ` · read in ${decimal(item.tookSeconds, 0)} s`
              : ''}{' '}
          · reader {loaderData.version}
          {report && <span data-testid="decided"> · decided in {decimal(report.tookMilliseconds, 0)} ms</span>}
        </p>
        {report && (
          <>
            <RunLanes runs={report.runs} seconds={probe.durationSeconds || 0.1} />
            <TraceCharts
              traces={report.traces}
              seconds={probe.durationSeconds || 0.1}
              hasPicture={probe.kind !== 'sound'}
              hasSound={probe.hasSound}
            />
          </>
        )}
      </main>
      <Column>
        <Column.Tabs
          value={tab}
          onChange={setTab}
          tabs={[
            ['rules', 'Sensitivities'],
            ['found', 'Found'],
            ['words', 'Words'],
            ...(probe.soundTracks?.length ? ([['sound', 'Sound']] as [string, string][]) : []),
          ]}
        >
          {tab === 'rules' ? (
            <div>
              <RulesPanel rules={rules} onChange={setRules} />
              <div className="mt-3 flex gap-2">
                <Button
                  look="lamp"
                  disabled={saver.state !== 'idle'}
                  onClick={() =>
                    void saver.submit({ rules } as unknown as Parameters<typeof saver.submit>[0], {
                      method: 'post',
                      encType: 'application/json',
                    })
                  }
                >
                  Use in this project
                </Button>
                <Button
                  onClick={() => {
                    setRules(readingDefaults);
                    void saver.submit({ rules: null }, { method: 'post', encType: 'application/json' });
                  }}
                >
                  Back to the usual
                </Button>
              </div>
              <p role="status" className="mt-2 text-xs text-muted">
                {saver.data?.problem ??
                  (saver.state === 'idle' && saver.data
                    ? 'Saved. The page and the choice follow.'
                    : 'Nothing is decoded again; the charts follow at once.')}
              </p>
              {probe.kind !== 'photo' && <RangeForm item={item} pace={loaderData.pace} />}
            </div>
          ) : tab === 'found' ? (
            <Found report={report} people={loaderData.people} />
          ) : tab === 'sound' ? (
            <SoundTracks
              key={String(Number(item.readAt))}
              item={item}
              probe={probe}
              start={firstSpeech(report?.runs ?? [], probe.durationSeconds)}
            />
          ) : spoken.length ? (
            <>
              <p className="mb-2 text-xs text-muted">
                {counted(loaderData.words.length, 'word')},{' '}
                {loaderData.source === 'corrected'
                  ? 'corrected by hand'
                  : loaderData.source === 'imported'
                    ? 'brought in'
                    : `transcribed by ${loaderData.source}`}
              </p>
              {spoken.map((each) => (
                <p key={each.from} className="mb-2">
                  <span className="tabular mr-2 text-muted">{formatClock(each.start)}</span>
                  {each.text}
                </p>
              ))}
            </>
          ) : (
            <p className="text-muted">
              No words yet. They are transcribed after everything else, where somebody speaks.
            </p>
          )}
        </Column.Tabs>
      </Column>
    </div>
  );
}

/** A file before its first reading: what it waits for, and which stretch of it is worth reading at all. */
function Unread({ item, projectId, pace }: { item: Item; projectId: string; pace: number }) {
  const states = {
    running: 'This file is being read; its report shows here as soon as it is.',
    queued: `This file ${item.waits ?? 'waits to be read'}.`,
  };
  return (
    <main className="min-w-0 flex-1 overflow-y-auto px-4 pb-6">
      <div className="flex h-12 items-center gap-3">
        <Link
          to={`/projects/${projectId}/footage`}
          className="text-muted hover:text-text"
          aria-label="Back to the footage"
        >
          <ArrowLeft size={16} />
        </Link>
        <h1 className="truncate text-base font-semibold">{item.name}</h1>
      </div>
      <p className={item.problem ? 'text-shake' : 'text-muted'} role="status">
        {item.problem ??
          (item.state === 'running' || item.state === 'queued'
            ? states[item.state]
            : 'This file has not been read yet.')}
      </p>
      <div className="max-w-md">
        <RangeForm item={item} pace={pace} />
      </div>
    </main>
  );
}

/** "2:00 to the end", for a stretch that is being read. */
const rangeWords = (from: number | null, to: number | null) =>
  from === null && to === null
    ? 'the whole file'
    : `${from === null ? 'the start' : formatClock(from)} to ${to === null ? 'the end' : formatClock(to)}`;

/** @param pace of this machine, see `readingPace` */
function RangeForm({ item, pace }: { item: Item; pace: number }) {
  const [from, setFrom] = useState(item.readFrom === null ? '' : formatClock(item.readFrom));
  const [to, setTo] = useState(item.readTo === null ? '' : formatClock(item.readTo));
  const cost = rangeCost([item], from, to, pace);
  const fetcher = useFetcher<{ problem: string | null }>();
  const canceller = useFetcher();
  const { projectId } = useParams();
  return (
    <fetcher.Form method="post" className="mt-5 border-t border-line pt-3">
      <h2 className="text-xs text-muted">Reading range</h2>
      {item.nextTask && (
        <p role="status" className="mt-2 flex items-center gap-3 rounded-md bg-raised px-3 py-1.5 text-text">
          <span>
            {rangeWords(item.nextFrom, item.nextTo)}{' '}
            {item.state === 'running' ? 'is being read' : (item.waits ?? 'waits to be read')}; until then the reading
            before stays.
          </span>
          <button
            type="button"
            className="ml-auto shrink-0 underline"
            onClick={() =>
              void canceller.submit(
                { cancel: item.nextTask! },
                { method: 'post', action: `/projects/${projectId}/tasks` },
              )
            }
          >
            Cancel
          </button>
        </p>
      )}
      <div className="mt-2 flex items-center gap-2">
        <label className="flex items-center gap-2">
          From{' '}
          <input
            name="from"
            aria-label="Read from"
            className={`${inputLook} tabular w-20`}
            placeholder="start"
            value={from}
            onChange={(event) => setFrom(event.target.value)}
          />
        </label>
        <label className="flex items-center gap-2">
          to{' '}
          <input
            name="to"
            aria-label="Read to"
            className={`${inputLook} tabular w-20`}
            placeholder="end"
            value={to}
            onChange={(event) => setTo(event.target.value)}
          />
        </label>
        <Button type="submit" disabled={fetcher.state !== 'idle'}>
          Read this part
        </Button>
      </div>
      <p
        role={fetcher.data?.problem ? 'alert' : undefined}
        className={`mt-2 text-xs ${fetcher.data?.problem ? 'text-shake' : 'text-muted'}`}
      >
        {fetcher.data?.problem ??
          `${cost && cost.seconds > 0 ? `${costWords(cost)}. ` : ''}Nothing outside is decoded or picked from. Both empty reads the whole file.`}
      </p>
    </fetcher.Form>
  );
}

const runWords: Record<string, string> = {
  dissolve: 'dissolves',
  fade: 'fades',
  flash: 'flashes',
  speech: 'speech runs',
  silence: 'silences',
  music: 'stretches of music',
  smooth: 'camera moves',
  shaky: 'shaky runs',
  whip: 'whip pans',
  black: 'black stretches',
  frozen: 'frozen stretches',
  blurred: 'blurred stretches',
  focus: 'focus pulls',
};

function Found({
  report,
  people,
}: {
  report: ReturnType<typeof useReport>['report'];
  people: { name: string; seconds: number }[];
}) {
  if (!report) return <p className="text-muted">Loading the reading…</p>;
  const counted = Object.entries(runWords)
    .map(([kind, label]) => ({ label, runs: report.runs.filter((run) => run.kind === kind) }))
    .filter(({ runs }) => runs.length);
  const objects = report.runs.filter((run) => run.kind === 'object');
  const things = [...new Set(objects.map((run) => run.label!))]
    .map((label) => {
      const own = objects.filter((run) => run.label === label);
      return {
        label,
        seconds: own.reduce((sum, run) => sum + run.end - run.start, 0),
        most: Math.max(...own.map((run) => run.amount ?? 1)),
      };
    })
    .sort((a, b) => b.seconds - a.seconds);
  return (
    <div>
      <h2 className="mb-1 text-xs text-muted">Runs</h2>
      <dl>
        {[{ label: 'scenes', runs: report.runs.filter((run) => run.kind === 'scene') }, ...counted].map(
          ({ label, runs }) => (
            <div key={label} className="flex justify-between py-0.5">
              <dt>{label}</dt>
              <dd className="tabular text-muted">
                {runs.length},{' '}
                {formatClock(
                  runs.reduce((sum, run) => sum + run.end - run.start, 0),
                  true,
                )}
              </dd>
            </div>
          ),
        )}
      </dl>
      <h2 className="mb-1 mt-4 text-xs text-muted">Things</h2>
      {things.length ? (
        <dl>
          {things.map(({ label, seconds, most }) => (
            <div key={label} className="flex justify-between py-0.5">
              <dt>
                {label}
                {most > 1 ? `, up to ${most} at once` : ''}
              </dt>
              <dd className="tabular text-muted">{formatClock(seconds)}</dd>
            </div>
          ))}
        </dl>
      ) : (
        <p className="text-muted">Nothing that the reader knows by name.</p>
      )}
      <h2 className="mb-1 mt-4 text-xs text-muted">People</h2>
      {people.length ? (
        people.map((person) => (
          <div key={person.name} className="flex justify-between py-0.5">
            <span>{person.name}</span>
            <span className="tabular text-muted">{formatClock(person.seconds)}</span>
          </div>
        ))
      ) : (
        <p className="text-muted">Nobody large enough to tell who it is.</p>
      )}
      {report.steadying.length > 0 && (
        <>
          <h2 className="mb-1 mt-4 text-xs text-muted">What steadying would cost</h2>
          {report.steadying.map((each) => (
            <p key={each.start} className="py-0.5">
              <span className="tabular mr-2 text-muted">
                {formatClock(each.start)} – {formatClock(each.end)}
              </span>
              {each.sentence}
            </p>
          ))}
        </>
      )}
    </div>
  );
}
