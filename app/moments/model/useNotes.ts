import { useCallback, useMemo, useState } from 'react';
import { emptyBoard, type Decision, type SceneBoard, type SeparationChoice } from '#core/moments';
import type { Range } from '#core/time';
import type { Boards, Marker, OwnRecipe, Pick, SilenceChoice, Versioned } from '#usecases/moments';
import { newId } from '../../newId';
import { decideRange } from './decide';
import { valuesOf, type InitialLog } from '../../history/logDocument';
import { useLog } from '../../history/useLog';

/** The list before as long as it holds the same; so that nothing is computed anew that did not change. */
function useSame<T>(list: T[]): T[] {
  const [before, setBefore] = useState(list);
  if (list.length === before.length && list.every((each, index) => each === before[index])) return before;
  setBefore(list);
  return list;
}

export interface SavedNotes {
  decisions: Decision[];
  markers: Marker[];
  recipes: OwnRecipe[];
  pick: Versioned<Pick>;
  scenes: Versioned<Boards['scenes']>;
  silence: Versioned<Boards['silence']>;
  separation: Versioned<Boards['separation']>;
}
/** What of a file is never wanted: before the in point, after the out point. */
export interface Defaults {
  id: string;
  in: number | null;
  out: number | null;
}

/** What an editor decided and noted on a project, typed: the mix, keeps and drops, markers, recipes, arrangements. */
export function useNotes(
  projectId: string,
  saved: SavedNotes,
  defaults: { id: string; defaultIn: number | null; defaultOut: number | null }[],
) {
  const initial = useMemo(
    (): InitialLog => ({
      entries: [
        ...saved.decisions.map((each): [string, unknown] => [`decision:${each.id}`, each]),
        ...saved.markers.map((each): [string, unknown] => [`marker:${each.id}`, each]),
        ...saved.recipes.map((each): [string, unknown] => [`recipe:${each.id}`, each]),
        ...defaults
          .filter((each) => each.defaultIn !== null || each.defaultOut !== null)
          .map((each): [string, unknown] => [
            `defaults:${each.id}`,
            { id: each.id, in: each.defaultIn, out: each.defaultOut },
          ]),
        ['pick', saved.pick.value],
        ['scenes', saved.scenes.value],
        ['silence', saved.silence.value],
        ['separation', saved.separation.value],
      ],
      versions: {
        pick: saved.pick.version,
        scenes: saved.scenes.version,
        silence: saved.silence.version,
        separation: saved.separation.version,
      },
    }),
    [saved, defaults],
  );
  const log = useLog({ projectId, address: `/projects/${projectId}/log`, title: 'the moments' }, initial);
  const { entries, commit: write } = log;
  const commit = useCallback(
    (changes: readonly (readonly [string, unknown])[], join?: string) => {
      write(changes, join ?? null);
    },
    [write],
  );
  const decisions = useSame(valuesOf<Decision>(entries, 'decision'));
  const markers = useSame(valuesOf<Marker>(entries, 'marker'));
  const recipes = useSame(valuesOf<OwnRecipe>(entries, 'recipe'));
  const pick = entries.get('pick') as Pick;
  const scenes = (entries.get('scenes') as SceneBoard | undefined) ?? emptyBoard;
  const silence = entries.get('silence') as SilenceChoice;
  const separation = entries.get('separation') as SeparationChoice;
  const ownDefaults = useSame(valuesOf<Defaults>(entries, 'defaults'));
  const defaultsOf = useMemo(() => {
    const byFile = new Map(ownDefaults.map((each) => [each.id, each]));
    return (id: string) => byFile.get(id) ?? null;
  }, [ownDefaults]);

  return {
    state: log.state,
    decisions,
    markers,
    recipes,
    pick,
    scenes,
    silence,
    separation,
    defaultsOf,
    setPick: (change: Partial<Pick>, join?: string) => commit([['pick', { ...pick, ...change }]], join),
    setScenes: (board: SceneBoard) => commit([['scenes', board]]),
    setSeparation: (choice: SeparationChoice, join?: string) => commit([['separation', choice]], join),
    setSilence: (choice: SilenceChoice, join?: string) => commit([['silence', choice]], join),
    setDefaults: (value: Defaults) =>
      commit([[`defaults:${value.id}`, value.in === null && value.out === null ? null : value]]),
    decide: (ranges: readonly (Range & { id: string })[], verdict: Decision['verdict']) => {
      commit(ranges.flatMap((range) => decideRange(decisions, range.id, range, verdict, newId())));
    },
    /** Keeps one take by hand in place of another, which the machine then leaves out. */
    takeInstead: (before: (Range & { id: string }) | null, other: Range & { id: string }) =>
      commit([
        ...(before ? decideRange(decisions, before.id, before, 'keep', newId()) : []),
        ...decideRange(decisions, other.id, other, 'keep', newId()),
      ]),
    setMarker: (marker: Marker) => commit([[`marker:${marker.id}`, marker]]),
    removeMarker: (id: string) => commit([[`marker:${id}`, null]]),
    saveRecipe: (recipe: OwnRecipe) => commit([[`recipe:${recipe.id}`, recipe]]),
    removeRecipe: (id: string) => commit([[`recipe:${id}`, null]]),
  };
}

export type Notes = ReturnType<typeof useNotes>;
