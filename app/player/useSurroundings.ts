import { useCallback, useEffect, useRef } from 'react';
import { steadyViews, type View } from '#core/framing';
import { changesNothing, lookTable, type ColourTable, type Look } from '#core/look';
import type { CameraPath } from '#core/picture';
import { speedOf, type Clip, type Reel, type Segment } from '#core/reel';
import { framesToSeconds } from '#core/time';
import { useLatest } from '../ui/useLatest';
import { tableAddress, tableFrom } from '../ui/useColourTables';

/** Colour tables of looks and views of steadied pieces: computed or fetched once, kept, and drawn when they come. */
const tables = new Map<string, ColourTable>();
const luts = new Map<string, ColourTable | 'coming' | 'gone'>();
const views = new Map<string, View[] | 'coming' | 'gone'>();
const keep = 300;
/** What is not known yet is asked for again, at the earliest after so many milliseconds. */
const askAgain = 5000;

type Fetched<T> = T | 'coming' | 'gone' | undefined;

function fetchOnce<T>(
  store: Map<string, T | 'coming' | 'gone'>,
  key: string,
  address: string,
  /** @returns null while it is not known on the server either */
  make: (body: unknown) => T | null,
  onCome: () => void,
): Fetched<T> {
  const known = store.get(key);
  if (known !== undefined) return known;
  if (store.size > keep) store.clear();
  store.set(key, 'coming');
  fetch(address).then(
    async (answer) => {
      const made = answer.ok ? make(await answer.json()) : 'gone';
      if (made !== null) store.set(key, made);
      else setTimeout(() => store.delete(key), askAgain);
      onCome();
    },
    () => void store.delete(key),
  );
  return 'coming';
}

interface FetchedPath {
  hz: number;
  start: number;
  dx: number[];
  dy: number[];
  rotation: number[];
  zoom: number[];
  confidence: number[];
}

/** A fetched stretch as a path that begins with it; null as long as it was not read. */
export const pathFrom = (fetched: FetchedPath | null): CameraPath | null =>
  fetched && {
    hz: fetched.hz,
    dx: Float32Array.from(fetched.dx),
    dy: Float32Array.from(fetched.dy),
    rotation: Float32Array.from(fetched.rotation),
    zoom: Float32Array.from(fetched.zoom),
    confidence: Float32Array.from(fetched.confidence),
    cuts: [],
  };

/** The stretch of its source that a clip shows, in seconds. */
export function shownSeconds(clip: Clip, rate: Reel['rate']): { start: number; end: number } {
  return {
    start: framesToSeconds(clip.sourceIn, rate),
    end: framesToSeconds(clip.sourceIn + (clip.frames * speedOf(clip)) / 100, rate),
  };
}
export const cameraAddress = (media: string, { start, end }: { start: number; end: number }) =>
  `/media/${media}/camera?from=${start.toFixed(3)}&to=${(end + 0.1).toFixed(3)}`;

/** @param redraw called when something that was fetched is there */
export function useSurroundings(
  projectId: string,
  reel: Reel | null,
  shapeOf: (media: string) => number,
  redraw: () => void,
) {
  const now = useLatest({ reel, redraw, shapeOf });
  const alive = useRef(true);
  useEffect(() => {
    alive.current = true;
    return () => void (alive.current = false);
  }, []);
  const come = useCallback(() => {
    if (alive.current) now.current.redraw();
  }, [now]);

  const tableOfLook = useCallback(
    (look: Look): ColourTable | null => {
      if (changesNothing(look)) return null;
      const lut =
        look.lut === undefined ? null : fetchOnce(luts, look.lut, tableAddress(projectId, look.lut), tableFrom, come);
      if (lut === 'coming') return null;
      const key = JSON.stringify(look);
      let table = tables.get(key);
      if (!table) {
        if (tables.size > 40) tables.clear();
        table = lookTable(look, lut === 'gone' || lut === undefined ? null : lut);
        tables.set(key, table);
      }
      return table;
    },
    [projectId, come],
  );

  const tableOf = useCallback(
    (leaf: Segment): ColourTable | null => {
      const look = leaf.clip?.look ?? now.current.reel?.look;
      return look ? tableOfLook(look) : null;
    },
    [tableOfLook, now],
  );

  const viewOf = useCallback(
    (leaf: Segment, frame: number): View | null => {
      const { clip } = leaf;
      const { reel, shapeOf } = now.current;
      if (!clip?.steady || !reel) return null;
      const shown = shownSeconds(clip, reel.rate);
      const key = JSON.stringify([clip.media, clip.sourceIn, clip.frames, clip.speed, clip.steady, reel.rate]);
      // A frame either side of the piece may be seen in a transition; a second is enough for those.
      const margin = Math.round(reel.rate.num / reel.rate.den);
      const known = fetchOnce(
        views,
        key,
        cameraAddress(clip.media, shown),
        (body) => {
          const fetched = body as FetchedPath | null;
          const path = pathFrom(fetched);
          if (!fetched || !path) return null;
          const times = Array.from(
            { length: clip.frames + 2 * margin },
            (_, index) =>
              shown.start - fetched.start + (framesToSeconds(index - margin, reel.rate) * speedOf(clip)) / 100,
          );
          return steadyViews(
            path,
            { start: shown.start - fetched.start, end: shown.end - fetched.start },
            clip.steady!,
            times,
            shapeOf(clip.media),
          );
        },
        come,
      );
      if (!known || known === 'coming' || known === 'gone') return null;
      return known[Math.min(known.length - 1, Math.max(0, leaf.into + Math.floor(frame) + margin))] ?? null;
    },
    [come, now],
  );

  return { tableOf, viewOf };
}
