import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { useOutletContext, useRevalidator, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import type { Hit } from '#core/ask';
import {
  joinScene,
  moveScene,
  partScene,
  sceneCells,
  sceneTags,
  separate,
  suggestedTarget,
  tagScene,
  withoutSilence,
  type Footage,
  type Moment,
  type SceneTag,
} from '#core/moments';
import type { WantedPiece } from '#core/reel';
import { formatClock, framesPerSecond, overlap, rates, StringOut, type Range } from '#core/time';
import { useFootagePlayer, fastest } from '../player/useFootagePlayer';
import { ReelDock } from '../reel/ReelDock';
import { ReelViewer } from '../reel/ReelViewer';
import { keySets } from '../keys';
import type { MomentsData } from '#usecases/moments';
import type { ProjectData } from '#usecases/projects';
import { Column } from '../ui/Column';
import { KeySheet } from '../ui/KeySheet';
import { useShortcuts } from '../ui/useShortcuts';
import { nextLineStep, readAddress, readPlace, writeAddress, writePlace, type PageState } from './address';
import type { LineFile } from './drawLine';
import { FoundPanel } from './FoundPanel';
import { Landscape } from './Landscape';
import { Legend } from './Legend';
import { MarkersPanel } from './MarkersPanel';
import { MixPanel } from './MixPanel';
import { MomentsBar } from './MomentsBar';
import { Page } from './Page';
import { PageHead } from './PageHead';
import { ScenesBar } from './ScenesBar';
import { ScenesView } from './ScenesView';
import { SilenceBar } from './SilenceBar';
import { SilencePanel } from './SilencePanel';
import { useAsk } from './useAsk';
import { useChoice } from './useChoice';
import { useFootage, useScoresForOrder } from './useFootage';
import { useHistory } from './useHistory';
import { useMarks } from './useMarks';
import { useNotes } from './useNotes';
import { usePageActions } from './usePageActions';
import { usePageString } from './usePageString';
import { useReelBelow, type NewReel } from './useReelBelow';
import { useSilences } from './useSilences';
import { fullScreen, Viewer } from './Viewer';
import { WhyPanel } from './WhyPanel';
import { WordsPanel } from './WordsPanel';

/** Where an editor spends the day: all footage like a page, by the light of what is good, and the reel it goes to. */
export function MomentsScreen({
  projectId,
  footage: readings,
  data,
}: {
  projectId: string;
  footage: Footage[];
  data: MomentsData;
}) {
  const { items, project } = useOutletContext<ProjectData>();
  const [search] = useSearchParams();
  const [state, setState] = useState<PageState>(() => readAddress(search));
  const change = useCallback((next: Partial<PageState>) => setState((now) => ({ ...now, ...next })), []);
  const itemOf = useCallback((id: string) => items.find((item) => item.id === id) ?? null, [items]);
  const nameOf = useCallback((id: string) => itemOf(id)?.name ?? '', [itemOf]);
  const rateOf = useCallback((id: string) => itemOf(id)?.probe?.rate ?? rates['30'], [itemOf]);

  const history = useHistory();
  const notes = useNotes(projectId, data.notes, items, history.didPage);
  const { pick, decisions, markers } = notes;
  const [scores, setScores] = useState<ReadonlyMap<string, number>>(new Map());
  const footage = useFootage(readings, items, state.bin, state.order, pick.photoSeconds, notes.defaultsOf, scores);
  const fileOf = useCallback((id: string) => footage.find((each) => each.id === id) ?? null, [footage]);
  const whole = useMemo(
    () => new StringOut(footage.map(({ id, durationSeconds }) => ({ id, seconds: durationSeconds }))),
    [footage],
  );
  const settings = useMemo(
    () => ({ mix: pick.mix, limits: pick.limits, piece: pick.piece }),
    [pick.mix, pick.limits, pick.piece],
  );
  const suggested = suggestedTarget(whole.total);
  const target = pick.targetSeconds ?? suggested;
  const choice = useChoice(footage);
  const { chosen, why, choose, askWhy, learn } = choice;
  const ask = useAsk(
    projectId,
    choice,
    markers,
    state.ask,
    chosen !== null,
    items.map((item) => String(item.readAt)).join(),
  );
  const silences = useSilences(footage, notes.silence, state.view === 'silence');
  useLayoutEffect(
    () => choose({ settings, decisions, targetSeconds: target, water: pick.water, columns: 1000 }),
    [choose, footage, settings, decisions, target, pick.water],
  );
  const teaching = useMemo(
    () => decisions.filter((decision) => !pick.learning.forgotten.includes(decision.id)),
    [decisions, pick.learning],
  );
  useEffect(() => {
    if (state.panel !== 'mix' || !pick.learning.on || !chosen) return;
    const timer = setTimeout(() => learn({ decisions: teaching, targetSeconds: target, water: pick.water }), 80);
    return () => clearTimeout(timer);
  }, [state.panel, pick.learning.on, teaching, chosen, learn, target, pick.water]);

  const moments = useMemo(() => chosen?.moments ?? [], [chosen]);
  useScoresForOrder(state.order, readings, chosen?.moments ?? null, setScores);
  const hits = useMemo(() => ask.found?.hits ?? [], [ask.found]);
  const filtered = state.view === 'page' ? state.show : 'all';
  const person = ask.people.find((each) => each.id === state.person);
  const string = usePageString(footage, whole, filtered, moments, decisions, markers, person?.tracks, hits);
  /** Where the address says that one was, when the page was opened. */
  const [initialPlace] = useState(() => ({
    at: readPlace(string, search.get('at')) ?? 0,
    in: readPlace(string, search.get('in')),
    out: readPlace(string, search.get('out')),
  }));
  const isPhoto = useCallback((id: string) => itemOf(id)?.probe?.kind === 'photo', [itemOf]);
  const player = useFootagePlayer(string, initialPlace.at, isPhoto);
  const { marked, setMarked, selected, setSelected } = useMarks(
    string,
    initialPlace.in !== null && initialPlace.out !== null && initialPlace.out > initialPlace.in
      ? { start: initialPlace.in, end: initialPlace.out }
      : null,
  );
  const usualLine = whole.total > 1800 ? 120 : whole.total > 300 ? 40 : 20;
  const secondsPerLine = state.secondsPerLine ?? usualLine;
  const [legend, setLegend] = useState(false);
  const [help, setHelp] = useState(false);
  const [safeAreas, setSafeAreas] = useState(false);
  const [writing, setWriting] = useState<string | null>(null);
  const askField = useRef<HTMLInputElement>(null);

  useEffect(() => {
    if (player.playing) return;
    const timer = setTimeout(
      () =>
        writeAddress({
          at: writePlace(string, player.time),
          in: marked && writePlace(string, marked.start),
          out: marked && writePlace(string, marked.end - 0.001),
          line: state.secondsPerLine === null ? null : String(state.secondsPerLine),
          view: state.view === 'page' ? null : state.view,
          bin: state.bin,
          order: state.order === 'order' ? null : state.order,
          show: state.show === 'all' ? null : state.show,
          person: state.show === 'person' ? state.person : null,
          ask: state.ask.trim() || null,
          panel: state.panel === 'why' ? null : state.panel,
        }),
      300,
    );
    return () => clearTimeout(timer);
  }, [player.time, player.playing, string, marked, state]);
  const { revalidate } = useRevalidator();
  useEffect(() => {
    // Another window or person may have changed something meanwhile.
    const look = () => document.visibilityState === 'visible' && void revalidate();
    window.addEventListener('focus', look);
    return () => window.removeEventListener('focus', look);
  }, [revalidate]);

  const below = useReelBelow(projectId, data.reel, data.reels, items, history.didReel);
  const { desk, making, used, setFocus } = below;

  const lineFiles = useMemo(
    () =>
      new Map(
        footage.map((each): [string, LineFile] => {
          const item = itemOf(each.id);
          const quiet = state.view === 'silence' ? (silences.byMedia.get(each.id) ?? []) : null;
          // In the silence view the light is on what stays.
          const lit: Moment[] = quiet
            ? [
                ...withoutSilence(
                  each.durationSeconds,
                  quiet.map((silence) => ({ ...silence, kept: false })),
                ).map((range) => ({ ...range, kept: 'water' as const })),
                ...quiet
                  .filter((silence) => silence.kept)
                  .map(({ start, end }) => ({ start, end, kept: 'hand' as const })),
              ]
                .sort((a, b) => a.start - b.start)
                .map((range) => ({
                  ...range,
                  media: each.id,
                  score: 0,
                  shares: { people: 0, talk: 0, action: 0, camera: 0, sound: 0, picture: 0 },
                }))
            : moments.filter((moment) => moment.media === each.id);
          return [
            each.id,
            {
              id: each.id,
              name: item?.name ?? '',
              footage: each,
              sheets: item?.sheets ?? null,
              moments: lit,
              flaws: quiet ? [] : (chosen?.flaws[each.id] ?? []),
              used: used.get(each.id) ?? [],
              found: hits.filter((hit) => hit.media === each.id),
              markers: markers.filter((marker) => marker.media === each.id),
            },
          ];
        }),
      ),
    [footage, itemOf, chosen, moments, used, hits, markers, state.view, silences.byMedia],
  );
  const files = useMemo(() => string.items.map((item) => lineFiles.get(item.id)!), [string, lineFiles]);

  const placed = useMemo(
    () =>
      moments
        .flatMap((moment) => string.rangesOf(moment.media, moment).map((range) => ({ range, moment })))
        .sort((a, b) => a.range.start - b.range.start),
    [moments, string],
  );
  const cells = useMemo(() => sceneCells(footage, notes.scenes), [footage, notes.scenes]);
  const [tagFilter, setTagFilter] = useState<SceneTag | null>(null);
  const shownCells = tagFilter ? cells.filter((cell) => cell.tag === tagFilter) : cells;
  const place = string.locate(player.time);
  const cell =
    place &&
    (shownCells.find(
      (each) => each.media === place.id && place.seconds >= each.start - 1e-6 && place.seconds < each.end,
    ) ??
      null);
  const silenceHere =
    place &&
    (silences.byMedia.get(place.id)?.find((each) => place.seconds >= each.start - 0.02 && place.seconds < each.end) ??
      null);
  const hitHere =
    place &&
    (hits.find((hit) => hit.media === place.id && place.seconds >= hit.start - 1e-3 && place.seconds < hit.end) ??
      null);

  /** What keys act on: the marked range, else the chosen stretch, else the moment under the playhead. */
  const under = placed.find(({ range }) => player.time >= range.start - 1e-6 && player.time < range.end)?.range ?? null;
  const acting =
    marked ??
    (state.view === 'scenes' && cell ? (string.rangesOf(cell.media, cell)[0] ?? null) : null) ??
    selected ??
    under;
  const actingPieces = acting ? string.pieces(acting) : [];
  const { id: firstId, start: firstStart, end: firstEnd } = actingPieces[0] ?? {};
  useEffect(() => {
    if (firstId !== undefined && chosen) askWhy(firstId, firstStart!, firstEnd!);
  }, [firstId, firstStart, firstEnd, chosen, askWhy]);
  const titleOf = (media: string, range: Range) =>
    moments.find((moment) => moment.media === media && overlap(moment, range) > (range.end - range.start) / 2)?.title ??
    (why?.media === media && overlap(why, range) > (range.end - range.start) / 2 ? why.title : nameOf(media));
  const wanted = (list: readonly (Range & { id: string })[]): WantedPiece[] =>
    list.map(({ id, start, end }) => ({
      media: id,
      start,
      end,
      name: titleOf(id, { start, end }).slice(0, 200) || 'Piece',
    }));

  const {
    point,
    goTo,
    decideHere,
    keepSilence,
    jump,
    markShot,
    mark,
    trim,
    setDefaults,
    dropMarker,
    jumpMarker,
    markerTimes,
    trimming,
  } = usePageActions({
    state,
    change,
    string,
    player,
    marks: { marked, setMarked, setSelected },
    notes,
    footage,
    placed,
    cells: shownCells,
    cell,
    silences: silences.byMedia,
    silenceHere,
    hits,
    place,
    acting,
    actingPieces,
    nameOf,
    lengthOf: (id) => itemOf(id)?.probe?.durationSeconds ?? 0,
    onPage: () => setFocus('page'),
    onWrite: setWriting,
  });

  const makeReel = () => {
    if (making) return;
    if (state.view === 'silence') {
      const pieces = footage.flatMap((each) =>
        withoutSilence(each.durationSeconds, silences.byMedia.get(each.id) ?? []).map((range): WantedPiece => ({
          media: each.id,
          ...range,
          name: nameOf(each.id),
        })),
      );
      return below.make([{ name: `${project.name}, without silence`, pieces }], true);
    }
    if (state.view === 'scenes')
      return below.make(
        [
          {
            name: `${project.name}, ${tagFilter ? `scenes tagged ${tagFilter}` : 'scenes'}`,
            pieces: shownCells.map(({ media, start, end }) => ({
              media,
              start,
              end,
              name: titleOf(media, { start, end }),
            })),
          },
        ],
        true,
      );
    if (!chosen || moments.length === 0) return;
    below.make(
      [
        {
          name: `${project.name}, ${formatClock(chosen.seconds)}`,
          pieces: moments.map(({ media, start, end, title }) => ({ media, start, end, name: title })),
        },
      ],
      true,
    );
  };
  const bin = data.bins.find((each) => each.id === state.bin) ?? null;
  const separateNow = () => {
    if (making) return;
    const rule = { whips: settings.limits.whips ? ('shaky' as const) : ('steady' as const), minSteadySeconds: 2 };
    const parts = footage.filter((each) => !each.whole).map((each) => ({ id: each.id, ...separate(each, rule) }));
    const reel = (which: 'steady' | 'shaky'): NewReel => ({
      name: `${bin?.name ?? project.name}, ${which}`,
      inPlace: Boolean(bin?.synced),
      pieces: parts.flatMap((part) =>
        part[which].map((range) => ({ media: part.id, ...range, name: nameOf(part.id) })),
      ),
    });
    const made = [reel('steady'), reel('shaky')].filter((each) => each.pieces.length > 0);
    if (made.length === 0) return void toast('There is no video here to part.');
    if (made.length === 1)
      toast(
        made[0]!.name.endsWith('steady')
          ? 'Nothing here shakes; all of it is in the steady reel.'
          : 'Nothing here is steady for two seconds; all of it is in the shaky reel.',
      );
    below.make(made, false);
  };
  const setWater = (level: number) => notes.setPick({ water: Math.max(0, Math.min(100, level)) }, 'water');
  const water = chosen?.water ?? 0;
  const step = (direction: 'undo' | 'redo') => () =>
    history.step(direction, below.hasKeys ? 'reel' : 'page', {
      page: notes[direction],
      reel: () => {
        desk.live[direction]();
        return true;
      },
    });
  const swap = () => {
    player.pause();
    below.swap();
  };
  const frame = 1 / framesPerSecond(rateOf(place?.id ?? ''));
  const scenesKeys = state.view === 'scenes' && !below.hasKeys && cell;
  const tagKey = (tag: SceneTag) =>
    scenesKeys ? () => notes.setScenes(tagScene(notes.scenes, cell.key, tag)) : undefined;
  const moveCell = (direction: 1 | -1) => () => {
    if (!cell) return;
    const now = cells.indexOf(cell);
    const before = cells[direction > 0 ? now + 2 : now - 1];
    if (now + direction < 0 || now + direction >= cells.length) return;
    notes.setScenes(moveScene(notes.scenes, cells, cell.key, before?.key ?? null));
  };
  const reelEdit = (act: () => boolean) => () => {
    if (act()) history.didReel();
  };
  const shuttle = (direction: 1 | -1) => {
    const { current } = player.speed;
    player.play(
      player.playing && Math.sign(current) === direction
        ? direction * Math.min(fastest, Math.abs(current) * 2)
        : direction,
    );
  };
  useShortcuts({
    ...(below.hasKeys
      ? {
          play: () => (desk.player.playing ? desk.player.pause() : desk.player.play()),
          halt: desk.player.pause,
          forward: desk.player.play,
          frameBack: () => desk.player.seek(desk.player.time - desk.step),
          frameOn: () => desk.player.seek(desk.player.time + desk.step),
          secondBack: () => desk.player.seek(desk.player.time - 1),
          secondOn: () => desk.player.seek(desk.player.time + 1),
          toStart: () => desk.player.seek(0),
          toEnd: () => desk.player.seek(desk.total),
          previous: () => desk.pick(desk.index - 1),
          next: () => desk.pick(desk.index + 1),
          trimIn: reelEdit(desk.actions.trimIn),
          trimOut: reelEdit(desk.actions.trimOut),
          split: reelEdit(desk.actions.split),
          lift: reelEdit(desk.actions.lift),
          takeOut: reelEdit(desk.actions.takeOut),
        }
      : {
          play: () => (player.playing ? player.pause() : player.play()),
          halt: player.pause,
          forward: () => shuttle(1),
          back: () => shuttle(-1),
          frameBack: () => player.seek(player.time - frame),
          frameOn: () => player.seek(player.time + frame),
          secondBack: () => player.seek(player.time - 1),
          secondOn: () => player.seek(player.time + 1),
          lineUp: () => player.seek(player.time - secondsPerLine),
          lineDown: () => player.seek(player.time + secondsPerLine),
          toStart: () => player.seek(0),
          toEnd: () => player.seek(string.total),
          markIn: () => mark('start'),
          markOut: () => mark('end'),
          markShot,
          clearMarks: () => {
            setMarked(null);
            setSelected(null);
            player.setLoop(null);
          },
          toMarkIn: () => acting && player.seek(acting.start),
          toMarkOut: () => acting && player.seek(Math.max(acting.start, acting.end - frame)),
          loop: () => loopNow(),
          defaults: setDefaults,
          previous: () => jump(-1),
          next: () => jump(1),
          keep: () => (state.view === 'silence' ? keepSilence() : decideHere('keep')),
          drop: () => state.view !== 'silence' && decideHere('drop'),
          append: () => below.send('append', wanted(actingPieces)),
          insert: () => below.send('insert', wanted(actingPieces)),
          overwrite: () => below.send('overwrite', wanted(actingPieces)),
          above: () => below.send('above', wanted(actingPieces)),
          replaceMarked: () => below.replaceWith(wanted(actingPieces)),
          joinScene: scenesKeys
            ? () => notes.setScenes(joinScene(notes.scenes, cell, fileOf(cell.media)?.durationSeconds ?? 0))
            : undefined,
          partScene:
            scenesKeys && place ? () => notes.setScenes(partScene(notes.scenes, cell, place.seconds)) : undefined,
          sceneEarlier: scenesKeys ? moveCell(-1) : undefined,
          sceneLater: scenesKeys ? moveCell(1) : undefined,
          tag1: tagKey('sun'),
          tag2: tagKey('leaf'),
          tag3: tagKey('brick'),
          tag4: tagKey('wave'),
          tag5: tagKey('plum'),
        }),
    marker: () => dropMarker(false),
    markerNote: () => dropMarker(true),
    markerBefore: () => jumpMarker(-1),
    markerAfter: () => jumpMarker(1),
    swap,
    undo: step('undo'),
    redo: step('redo'),
    makeReel,
    separate: separateNow,
    waterUp: () => setWater(Math.floor(water) + 1),
    waterDown: () => setWater(Math.ceil(water) - 1),
    pagePage: () => change({ view: 'page' }),
    pageScenes: () => change({ view: 'scenes' }),
    pageSilence: () => change({ view: 'silence', panel: 'silence' }),
    ask: () => askField.current?.focus(),
    finer: () => change({ secondsPerLine: nextLineStep(secondsPerLine, -1) }),
    coarser: () => change({ secondsPerLine: nextLineStep(secondsPerLine, 1) }),
    panelWhy: () => change({ panel: 'why' }),
    panelMix: () => change({ panel: 'mix' }),
    panelWords: () => change({ panel: 'words' }),
    panelMarkers: () => change({ panel: 'markers' }),
    panelFound: () => change({ panel: 'found' }),
    fullScreen: () => fullScreen(document.getElementById('viewer')),
    safeAreas: () => setSafeAreas((now) => !now),
    legend: () => setLegend((now) => !now),
    help: () => setHelp(true),
  });
  const loopNow = () => {
    if (player.loop || !acting) return player.setLoop(null);
    player.setLoop(acting);
    player.seek(acting.start);
    if (!player.playing) player.play();
  };

  const edges = useMemo(
    () => (trimming || state.view !== 'page' ? [] : placed.flatMap(({ range }) => [range.start, range.end])),
    [placed, trimming, state.view],
  );
  const wells = useMemo(
    () =>
      decisions.filter((decision) => decision.verdict === 'drop' && footage.some((each) => each.id === decision.media)),
    [decisions, footage],
  );
  const silenceList = [...silences.byMedia.values()].flat();
  const keptSilences = silenceList.filter((silence) => silence.kept);
  const panel = state.panel === 'silence' && state.view !== 'silence' ? 'why' : state.panel;
  const tabs: [string, string][] = [
    ...(state.view === 'silence' ? [['silence', 'Silence'] as [string, string]] : []),
    ['why', 'Why'],
    ['mix', 'Mix'],
    ['words', 'Words'],
    ['markers', markers.length ? `Markers ${markers.length}` : 'Markers'],
    ['found', 'Found'],
  ];
  const takeHit = (hit: Hit) => {
    change({ view: 'page' });
    goTo(hit.media, hit.start);
    const range = string.rangesOf(hit.media, hit)[0];
    if (range) setSelected(range);
  };
  return (
    <>
      <div className="flex min-h-0 flex-1">
        <main
          className="flex min-w-0 flex-1 flex-col"
          onPointerDownCapture={(event) => {
            if (!(event.target as HTMLElement).closest('[data-focused]')) setFocus('page');
          }}
        >
          <div
            className={`flex min-h-0 flex-1 flex-col border-l-2 ${desk.reel && !below.hasKeys ? 'border-l-lamp' : 'border-l-transparent'}`}
            data-testid="page-pane"
          >
            <PageHead
              state={state}
              secondsPerLine={secondsPerLine}
              bins={data.bins}
              people={ask.people}
              request={ask.last?.request ?? null}
              field={askField}
              legend={legend}
              reelOpen={desk.reel !== null}
              focused={!below.hasKeys}
              extent={
                filtered === 'all'
                  ? `${footage.length} ${footage.length === 1 ? 'file' : 'files'}, ${formatClock(string.total)}`
                  : `${formatClock(string.total)} of ${formatClock(whole.total)}`
              }
              onState={(next) => change({ ...next, ...(next.view === 'silence' ? { panel: 'silence' } : {}) })}
              onAskGo={() => hits[0] && takeHit(hits[0])}
              onLegend={() => setLegend(!legend)}
              onHelp={() => setHelp(true)}
              onSeparate={separateNow}
            />
            {legend && <Legend />}
            {state.view === 'scenes' ? (
              <ScenesView
                cells={shownCells}
                currentKey={cell?.key ?? null}
                itemOf={itemOf}
                onPick={(picked) => goTo(picked.media, picked.start)}
                onMove={(key, before) => notes.setScenes(moveScene(notes.scenes, cells, key, before))}
              />
            ) : string.total === 0 ? (
              <Nothing filter={state.show} onAll={() => change({ show: 'all' })} />
            ) : (
              <Page
                string={string}
                files={files}
                secondsPerLine={secondsPerLine}
                playhead={player.time}
                marked={marked}
                selected={selected}
                edges={edges}
                onPinch={(factor) =>
                  change({ secondsPerLine: Math.round(Math.max(10, Math.min(600, secondsPerLine * factor))) })
                }
                onHover={(time) => !player.playing && player.peek(time)}
                onPoint={point}
                onMark={(range) => {
                  setFocus('page');
                  setMarked(range);
                }}
                onTrim={trim}
              />
            )}
          </div>
          <ReelDock
            desk={desk}
            projectId={projectId}
            reels={data.reels}
            focused={below.hasKeys}
            act={below.act}
            onFocus={() => setFocus('reel')}
            onOpen={below.open}
          />
        </main>
        <Column>
          <div hidden={below.hasKeys}>
            <Viewer
              player={player}
              string={string}
              marked={acting}
              safeAreas={safeAreas}
              itemOf={itemOf}
              rateOf={rateOf}
              onPrevious={() => jump(-1)}
              onNext={() => jump(1)}
              onLoop={loopNow}
              onSafeAreas={() => setSafeAreas(!safeAreas)}
            />
          </div>
          <div hidden={!below.hasKeys}>
            <ReelViewer
              player={desk.player}
              rate={desk.rate}
              size={desk.document?.size ?? { width: 16, height: 9 }}
              place={desk.segments.length ? `piece ${desk.index + 1} of ${desk.segments.length}` : 'empty'}
              onPrevious={() => desk.pick(desk.index - 1)}
              onNext={() => desk.pick(desk.index + 1)}
            />
          </div>
          <Column.Tabs value={panel} onChange={(next) => change({ panel: next })} tabs={tabs}>
            {panel === 'why' ? (
              <WhyPanel
                why={acting ? why : null}
                mix={settings.mix}
                water={water}
                onKeep={() => decideHere('keep')}
                onDrop={() => decideHere('drop')}
                onToReel={() => below.send('append', wanted(actingPieces))}
                onWater={setWater}
                onRemedy={({ ingredient, by }) =>
                  notes.setPick({ mix: { ...pick.mix, [ingredient]: pick.mix[ingredient] + by }, water })
                }
              />
            ) : panel === 'mix' ? (
              <MixPanel
                settings={settings}
                photoSeconds={pick.photoSeconds}
                photos={footage.some((each) => each.whole)}
                recipes={notes.recipes}
                learned={choice.learned}
                learning={pick.learning.on}
                forgotten={pick.learning.forgotten.length}
                onChange={(next, join) => notes.setPick(next, join)}
                onPhotoSeconds={(photoSeconds) => notes.setPick({ photoSeconds }, 'photo')}
                onSaveRecipe={(name) => notes.saveRecipe({ id: crypto.randomUUID(), name, ...settings })}
                onRemoveRecipe={(recipe) => notes.removeRecipe(recipe.id)}
                onLearning={({ on, forget }) =>
                  notes.setPick({
                    learning: {
                      on: on ?? pick.learning.on,
                      forgotten: forget ? decisions.map((decision) => decision.id) : pick.learning.forgotten,
                    },
                  })
                }
              />
            ) : panel === 'markers' ? (
              <MarkersPanel
                markers={markerTimes
                  .map((each) => each.marker)
                  .concat(markers.filter((marker) => !markerTimes.some((each) => each.marker === marker)))}
                writing={writing}
                nameOf={nameOf}
                onGo={(marker) => goTo(marker.media, marker.seconds)}
                onChange={notes.setMarker}
                onRemove={(marker) => notes.removeMarker(marker.id)}
                onDrop={() => dropMarker(true)}
                onWritten={() => setWriting(null)}
              />
            ) : panel === 'found' ? (
              <FoundPanel
                found={ask.last}
                current={hitHere}
                only={state.show === 'found'}
                nameOf={nameOf}
                onGo={takeHit}
                onOnly={() => change({ view: 'page', show: state.show === 'found' ? 'all' : 'found' })}
                onTake={() =>
                  below.send('append', wanted(hits.map((hit) => ({ id: hit.media, start: hit.start, end: hit.end }))))
                }
              />
            ) : panel === 'silence' ? (
              <SilencePanel
                choice={notes.silence}
                suggestedDb={silences.suggestedDb}
                count={silenceList.length}
                kept={keptSilences.length}
                here={silenceHere ? silenceHere.kept : null}
                loading={silences.loading}
                making={making}
                onChange={(next, join) => notes.setSilence(next, `silence ${join}`)}
                onKeepHere={keepSilence}
                onMake={makeReel}
              />
            ) : (
              place && (
                <WordsPanel
                  key={place.id}
                  media={place.id}
                  name={nameOf(place.id)}
                  seconds={place.seconds}
                  onSeek={(seconds) => goTo(place.id, seconds)}
                />
              )
            )}
          </Column.Tabs>
        </Column>
      </div>
      <footer
        className="flex h-[116px] shrink-0 items-stretch gap-5 border-t border-line px-4 pt-2"
        aria-label="Score and waterline"
      >
        <Landscape
          string={whole}
          landscape={chosen?.landscape ?? new Float32Array()}
          water={water}
          moments={moments}
          wells={wells}
          here={place ? whole.timeOf(place.id, place.seconds) : null}
          seconds={chosen?.seconds ?? 0}
          targetSeconds={target}
          onWater={setWater}
          onPoint={(time) => {
            const at = whole.locate(time);
            if (at) goTo(at.id, at.seconds);
          }}
        />
        {state.view === 'silence' ? (
          <SilenceBar
            count={silenceList.length}
            seconds={silenceList.reduce((sum, silence) => sum + (silence.kept ? 0 : silence.end - silence.start), 0)}
            total={whole.total}
            kept={keptSilences.length}
            saveState={notes.state}
            making={making}
            onMake={makeReel}
          />
        ) : state.view === 'scenes' ? (
          <ScenesBar
            cells={shownCells}
            tagged={
              Object.fromEntries(
                sceneTags.map((tag) => [tag, cells.filter((each) => each.tag === tag).length]),
              ) as Record<SceneTag, number>
            }
            tag={tagFilter}
            current={cell ?? null}
            saveState={notes.state}
            making={making}
            onFilter={setTagFilter}
            onTag={(tag) => cell && notes.setScenes(tagScene(notes.scenes, cell.key, tag))}
            onMake={makeReel}
          />
        ) : (
          <MomentsBar
            moments={chosen?.moments ?? null}
            seconds={chosen?.seconds ?? 0}
            drops={wells.length}
            targetSeconds={target}
            suggested={suggested}
            saveState={notes.state === 'saved' ? desk.live.state : notes.state}
            making={making}
            onTarget={(seconds) => notes.setPick({ targetSeconds: seconds, water: null }, 'target')}
            onMake={makeReel}
          />
        )}
      </footer>
      <KeySheet
        open={help}
        onOpenChange={setHelp}
        sets={[
          ['On the page', keySets.page],
          ['In the scenes', keySets.scenes],
          ['When keys go to the reel', keySets.reel],
        ]}
      />
    </>
  );
}

function Nothing({ filter, onAll }: { filter: string; onAll(): void }) {
  return (
    <div className="flex flex-1 flex-col items-center justify-center gap-2 text-muted">
      <p>{filter === 'all' ? 'There is no video or photo in this bin.' : 'Nothing fits what the page is to show.'}</p>
      {filter !== 'all' && (
        <button type="button" className="text-lamp underline" onClick={onAll}>
          Show everything
        </button>
      )}
    </div>
  );
}
