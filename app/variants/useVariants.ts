import { useMemo, useState } from 'react';
import { useFetcher } from 'react-router';
import type { Quality, Reel } from '#core/reel';
import {
  broughtToFormat,
  listVariants,
  mostMade,
  movePlace,
  namesTwice,
  partFootage,
  placeAgain,
  removePlace,
  repeats,
  tick,
  tickAll,
  tickSome,
  variantNames,
  variantReel,
  variantsCost,
  workOutParts,
  type Variant,
  type VariantGroup,
  type VariantPart,
  type VariantSet,
} from '#core/variants';
import type { Item } from '#usecases/projects';
import type { VariantsData } from '#usecases/variants';
import { newId } from '../newId';
import { afterSaving } from '../history/saveQueue';
import { useHistory } from '../history/useHistory';
import { useLog } from '../history/useLog';
import { useGoTo, type GoingAnswer } from '../ui/useGoTo';
import { useFramedParts } from './useFramedParts';
import { useReelDocuments } from './useReelDocuments';

/** A part that is not in a group yet. */
export type NewPart = VariantPart extends infer Part ? (Part extends VariantPart ? Omit<Part, 'id'> : never) : never;

/** The groups under one's hands, with undo, and everything that follows from them. */
export function useVariants(projectId: string, data: VariantsData, items: readonly Item[]) {
  const initial = useMemo(
    () => ({
      entries: [['variants', data.set.value]] as [string, unknown][],
      versions: { variants: data.set.version },
    }),
    [data.set],
  );
  const log = useLog({ projectId, address: `/projects/${projectId}/log?of=variants`, title: 'the variants' }, initial);
  const set = log.entries.get('variants') as VariantSet;
  const history = useHistory(projectId, log.participant);
  const change = (next: VariantSet, join: string | null = null) => log.commit([['variants', next]], join);
  const { groups, order, size, rate, ticks } = set;

  const used = useMemo(
    () => groups.flatMap(({ parts }) => parts.flatMap((part) => (part.kind === 'reel' ? [part.reel] : []))),
    [groups],
  );
  const documents = useReelDocuments(projectId, data.documents, used);
  const footage = useMemo(
    () => partFootage(items, data.bins, documents, data.photoSeconds),
    [items, data.bins, documents, data.photoSeconds],
  );
  const plain = useMemo(() => workOutParts({ groups, size, rate }, footage, newId), [groups, size, rate, footage]);
  const parts = useFramedParts(projectId, plain, footage);
  const worked = useMemo(
    () => listVariants({ groups, order, ticks } as VariantSet, parts),
    [groups, order, ticks, parts],
  );
  const wanted = useMemo(() => worked.list.filter(({ ticked }) => ticked), [worked]);
  const names = useMemo(() => variantNames(worked, set.pattern, footage), [worked, set.pattern, footage]);
  const twice = useMemo(() => new Set(namesTwice(names).map((name) => name.toLocaleLowerCase())), [names]);

  const [quality, setQuality] = useState<Quality>('good');
  const [render, setRender] = useState(false);
  const { pace } = data;
  const cost = useMemo(() => variantsCost(wanted, parts, { quality, pace }), [wanted, parts, quality, pace]);

  const [shown, setShown] = useState<string | null>(null);
  const onScreen = worked.list.find(({ key }) => key === shown) ?? wanted[0] ?? worked.list[0] ?? null;
  const reel = useMemo(
    (): Reel | null => onScreen && variantReel('variant', onScreen, parts, set.music, footage, newId),
    [onScreen, parts, set.music, footage],
  );

  const fetcher = useFetcher<{ problem: string | null } & GoingAnswer>();
  useGoTo(fetcher);
  const changeGroup = (id: string, values: Partial<VariantGroup>, join: string | null = null) =>
    change({ ...set, groups: groups.map((group) => (group.id === id ? { ...group, ...values } : group)) }, join);

  return {
    set,
    change,
    changeGroup,
    saving: log.state,
    history,
    data,
    items,
    footage,
    ...worked,
    wanted,
    names,
    /** Names that stand more than once, in small letters. */
    twice,
    cost,
    tooMany: wanted.length > mostMade,
    brought: broughtToFormat(set, footage, parts.format),
    hasRepeats: worked.list.some(repeats),
    quality,
    setQuality,
    render,
    setRender,
    /** The combination in the viewer, and it as a reel. */
    onScreen,
    reel,
    show: (variant: Variant) => setShown(variant.key),
    /** Puts parts into a group, one after the other. */
    add: (group: VariantGroup, list: readonly NewPart[]) =>
      changeGroup(group.id, {
        parts: [...group.parts, ...list.map((part) => ({ ...part, id: newId() }))],
      }),
    addGroup: () => {
      const group = { id: newId(), name: `Group ${groups.length + 1}`, parts: [] };
      change({ ...set, groups: [...groups, group], order: [...order, group.id] });
    },
    again: (group: VariantGroup) => change(placeAgain(set, group.id)),
    move: (place: number, by: 1 | -1) => change(movePlace(set, place, by)),
    remove: (place: number) => change(removePlace(set, place)),
    tick: (variants: readonly Variant[], isWanted: boolean) =>
      change(
        tick(
          set,
          variants.map(({ key }) => key),
          isWanted,
        ),
      ),
    tickAll: (isWanted: boolean) => change(tickAll(set, isWanted)),
    tickSome: (count: number) => change(tickSome(set, worked, count)),
    untickRepeats: () =>
      change(
        tick(
          set,
          worked.list.filter(repeats).map(({ key }) => key),
          false,
        ),
      ),
    busy: fetcher.state !== 'idle',
    problem: fetcher.state === 'idle' ? (fetcher.data?.problem ?? null) : null,
    make: () =>
      void afterSaving(
        () =>
          void fetcher.submit(
            { version: log.participant.versionOf('variants'), render, quality },
            { method: 'post', encType: 'application/json' },
          ),
      ),
  };
}
export type Variants = ReturnType<typeof useVariants>;
