import { useCallback, useEffect, useLayoutEffect, useMemo, useState } from 'react';
import { useOutletContext, useSearchParams } from 'react-router';
import { suggestedTarget, type Example, type Footage } from '#core/moments';
import { rates, StringOut } from '#core/time';
import type { MomentsData } from '#usecases/moments';
import type { ProjectData } from '#usecases/projects';
import { readAddress, readPlace, writeAddress, writePlace, type PageState } from './address';
import { useAsk } from './useAsk';
import { useChoice } from './useChoice';
import { useFootage, useScoresForOrder } from './useFootage';
import { useMarks } from './useMarks';
import { useNotes } from './useNotes';
import { usePageString } from './usePageString';
import { useSilences } from './useSilences';
import { useTastes } from './useTastes';
import { useFootagePlayer } from '../../player/useFootagePlayer';
import { playedAddress } from '../../player/playedAddress';
import { useReload } from '../../ui/useReload';

/** Milliseconds until what was learnt is computed anew; it is looked at, not followed. */
const learnAfter = 300;
/** Milliseconds until the address says where one is; a history that follows every frame is of no use. */
const writeAfter = 300;

/**
 * What the Moments place is about: the footage of the project or of a bin end to end, what was decided on it, what is
 * chosen of it, and a player over it.
 */
export function useMomentsModel(projectId: string, readings: Footage[], data: MomentsData) {
  const { items, project, tasks } = useOutletContext<ProjectData>();
  const [search] = useSearchParams();
  const [state, setState] = useState<PageState>(() => readAddress(search));
  const change = useCallback((next: Partial<PageState>) => setState((now) => ({ ...now, ...next })), []);
  const itemOf = useCallback((id: string) => items.find((item) => item.id === id) ?? null, [items]);
  const nameOf = useCallback((id: string) => itemOf(id)?.name ?? '', [itemOf]);
  const rateOf = useCallback((id: string) => itemOf(id)?.probe?.rate ?? rates['30'], [itemOf]);
  const isPhoto = useCallback((id: string) => itemOf(id)?.probe?.kind === 'photo', [itemOf]);
  const addressOf = useCallback((id: string) => playedAddress(itemOf(id) ?? { id, parameters: '' }), [itemOf]);

  const notes = useNotes(projectId, data.notes, items);
  const { pick, decisions, markers } = notes;
  const [scores, setScores] = useState<ReadonlyMap<string, number>>(new Map());
  const footage = useFootage(readings, items, state.bin, state.order, pick.photoSeconds, notes.defaultsOf, scores);
  const whole = useMemo(
    () => new StringOut(footage.map(({ id, durationSeconds }) => ({ id, seconds: durationSeconds }))),
    [footage],
  );
  const suggested = suggestedTarget(whole.total);
  const target = pick.targetSeconds ?? suggested;
  const looksAtMix = state.panel === 'mix';
  const tastes = useTastes(projectId, pick.learning.taste ?? null, looksAtMix);
  const { choice, settings } = useChosenMoments(footage, notes, target, looksAtMix, tastes.others);
  const { chosen } = choice;
  const moments = useMemo(() => chosen?.moments ?? [], [chosen]);
  useScoresForOrder(state.order, readings, chosen?.moments ?? null, setScores);
  // What is read or heard meanwhile is asked for anew.
  const readAt = items.map((item) => String(Number(item.readAt))).join();
  const heard = tasks.filter(({ kind, state: now }) => kind === 'words' && now === 'done').length;
  const ask = useAsk(
    projectId,
    choice,
    footage,
    markers,
    items,
    data.bins,
    state.ask,
    chosen !== null,
    `${readAt} ${heard}`,
  );
  const hits = useMemo(() => ask.found?.hits ?? [], [ask.found]);
  const silences = useSilences(footage, notes.silence, state.view === 'silence');

  const filter = state.view === 'page' ? state.show : 'all';
  const person = ask.people.find((each) => each.id === state.person);
  const string = usePageString(footage, whole, filter, moments, decisions, markers, person?.tracks, hits);
  const [opened] = useState(() => placeIn(string, search));
  const player = useFootagePlayer(string, opened.at, isPhoto, addressOf);
  const marks = useMarks(string, opened.range);
  useAddress(state, string, player, marks.marked);
  useFreshData();
  return {
    projectId,
    project,
    items,
    state,
    change,
    itemOf,
    nameOf,
    rateOf,
    notes,
    settings,
    suggested,
    target,
    footage,
    whole,
    string,
    filter,
    tastes,
    choice,
    chosen,
    moments,
    ask,
    hits,
    silences,
    player,
    marks,
    /** As the slider and the page count. */
    secondsPerLine: state.secondsPerLine ?? usualLine(whole.total),
    water: chosen?.water ?? 0,
  };
}
export type MomentsModel = ReturnType<typeof useMomentsModel>;

const usualLine = (total: number): number => (total > 1800 ? 120 : total > 300 ? 40 : 20);

/** Where the address says that one was: the playhead, and the marked range if there is one. */
function placeIn(string: StringOut, search: URLSearchParams) {
  const [at, start, end] = ['at', 'in', 'out'].map((name) => readPlace(string, search.get(name)));
  const isRange = start != null && end != null && end > start;
  return { at: at ?? 0, range: isRange ? { start, end } : null };
}

/** The choice by mix, limits and what was decided by hand; what was learnt is computed while it is looked at. */
function useChosenMoments(
  footage: readonly Footage[],
  { pick, decisions }: ReturnType<typeof useNotes>,
  targetSeconds: number,
  looksAtMix: boolean,
  others: readonly Example[],
) {
  const { mix, limits, piece, variety, arrangement, water, learning } = pick;
  const settings = useMemo(() => ({ mix, limits, piece, variety }), [mix, limits, piece, variety]);
  const choice = useChoice(footage);
  const { chosen, choose, learn } = choice;
  useLayoutEffect(
    () => choose({ settings, decisions, targetSeconds, water, arrangement, columns: 1000 }),
    [choose, footage, settings, decisions, targetSeconds, water, arrangement],
  );
  const teaching = useMemo(
    () => decisions.filter((decision) => !learning.forgotten.includes(decision.id)),
    [decisions, learning],
  );
  const learns = looksAtMix && learning.on && chosen !== null;
  useEffect(() => {
    if (!learns) return;
    const timer = setTimeout(() => learn({ decisions: teaching, others, targetSeconds, water }), learnAfter);
    return () => clearTimeout(timer);
  }, [learns, teaching, others, chosen, learn, targetSeconds, water]);
  return { choice, settings };
}

/** The address says what somebody else would want to open: place, range, view. */
function useAddress(
  state: PageState,
  string: StringOut,
  { playing, time }: ReturnType<typeof useFootagePlayer>,
  marked: ReturnType<typeof useMarks>['marked'],
) {
  useEffect(() => {
    if (playing) return;
    const write = () =>
      writeAddress({
        at: writePlace(string, time),
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
      });
    const timer = setTimeout(write, writeAfter);
    return () => clearTimeout(timer);
  }, [time, playing, string, marked, state]);
}

/** Another window or person may have changed something while this one was not looked at. */
function useFreshData() {
  const reload = useReload();
  useEffect(() => {
    const look = () => document.visibilityState === 'visible' && void reload();
    window.addEventListener('focus', look);
    return () => window.removeEventListener('focus', look);
  }, [reload]);
}
