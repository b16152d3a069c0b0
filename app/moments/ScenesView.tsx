import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState } from 'react';
import { decimal } from '#core/sentences';
import { sceneTags, type SceneCell, type SceneTag } from '#core/moments';
import { formatClock } from '#core/time';
import type { Item } from '#usecases/projects';
import { Poster } from '../drawing/Poster';
import { Movable } from '../hands/Movable';
import { useLandingRoom } from '../hands/useLandingRoom';
import { ContextMenu } from '../ui/ContextMenu';
import { sceneMenu } from './momentsMenu';

/** Each tag has a shape as well as a colour. */
const tagLooks: Record<SceneTag, { colour: string; shape: string }> = {
  sun: { colour: '#e9d66b', shape: 'M6 1a5 5 0 1 1 0 10a5 5 0 1 1 0-10z' },
  leaf: { colour: '#8fcf7a', shape: 'M1 11C1 4 5 1 11 1C11 8 7 11 1 11z' },
  brick: { colour: '#d98a6a', shape: 'M1 3h10v6H1z' },
  wave: { colour: '#74b9d8', shape: 'M1 8c2-5 4-5 5-2s3 3 5-2v6H1z' },
  plum: { colour: '#c39bd8', shape: 'M6 1l5 5l-5 5l-5-5z' },
};
export const TagMark = ({ tag, size = 12 }: { tag: SceneTag; size?: number }) => (
  <svg width={size} height={size} viewBox="0 0 12 12" fill={tagLooks[tag].colour} role="img" aria-label={`tag ${tag}`}>
    <path d={tagLooks[tag].shape} />
  </svg>
);

interface ScenesViewProps {
  cells: SceneCell[];
  currentKey: string | null;
  itemOf(media: string): Item | null;
  onPick(cell: SceneCell): void;
  onMove(key: string, before: string | null): void;
}

const cellWidth = 148,
  cellHeight = 124;

/** One cell a scene, ordered by dragging. */
export function ScenesView({ cells, currentKey, itemOf, onPick, onMove }: ScenesViewProps) {
  const scroller = useRef<HTMLDivElement>(null);
  const [columns, setColumns] = useState(5);
  useEffect(() => {
    const observer = new ResizeObserver(() =>
      setColumns(Math.max(1, Math.floor((scroller.current!.clientWidth - 32 + 8) / (cellWidth + 8)))),
    );
    observer.observe(scroller.current!);
    return () => observer.disconnect();
  }, []);
  const rows = Math.ceil(cells.length / columns);
  const virtual = useVirtualizer({
    count: rows,
    getScrollElement: () => scroller.current,
    estimateSize: () => cellHeight + 8,
    overscan: 3,
    paddingStart: 4,
    paddingEnd: 16,
  });
  const current = cells.findIndex((cell) => cell.key === currentKey);
  const { scrollToIndex } = virtual;
  useEffect(
    () => void (current >= 0 && scrollToIndex(Math.floor(current / columns))),
    [current, columns, scrollToIndex],
  );
  useLandingRoom(scroller, 'scene', (key) => onMove(key, null));
  return (
    <ContextMenu
      label="What can be done with the scene"
      entriesAt={(target) => {
        const key = target.closest<HTMLElement>('[data-scene]')?.dataset.scene;
        const cell = cells.find((each) => each.key === key);
        if (!cell) return [];
        onPick(cell);
        return sceneMenu;
      }}
    >
      <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto" role="region" aria-label="Scenes" tabIndex={0}>
        <div className="relative mx-4" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index, start }) => (
            <div key={index} className="absolute left-0 flex gap-2" style={{ top: start }}>
              {cells.slice(index * columns, (index + 1) * columns).map((cell) => {
                const item = itemOf(cell.media);
                const length = cell.end - cell.start;
                return (
                  <Movable
                    as="button"
                    key={cell.key}
                    type="button"
                    kind="scene"
                    id={cell.key}
                    along="row"
                    data-scene={cell.key}
                    aria-pressed={cell.key === currentKey}
                    onClick={() => onPick(cell)}
                    onLand={(moved, { side }) => {
                      const next = cells[cells.indexOf(cell) + 1]?.key ?? null;
                      const before = side === 'before' ? cell.key : next;
                      if (before !== moved) onMove(moved, before);
                    }}
                    className={`relative rounded-md border bg-raised text-left ${cell.key === currentKey ? 'border-text outline outline-1 outline-text' : 'border-line hover:border-muted'}`}
                    style={{ width: cellWidth, height: cellHeight }}
                  >
                    <Poster
                      media={cell.media}
                      sheets={item?.sheets ?? null}
                      kind={item?.probe?.kind ?? null}
                      seconds={cell.start + length * 0.4}
                      width={cellWidth - 2}
                      height={80}
                      className="!rounded-b-none"
                    />
                    {cell.tag && (
                      <span className="absolute left-1.5 top-1.5 rounded bg-black/70 p-1">
                        <TagMark tag={cell.tag} />
                      </span>
                    )}
                    <span className="sr-only">Scene at </span>
                    <span className="tabular flex justify-between px-2 pt-1 text-xs">
                      <span className="text-muted">{formatClock(cell.start)}</span>
                      <span>{length < 60 ? `${decimal(length, 1)} s` : formatClock(length)}</span>
                    </span>
                    <span className="block truncate px-2 text-xs text-muted">{item?.name}</span>
                  </Movable>
                );
              })}
            </div>
          ))}
        </div>
        <span className="sr-only">
          {cells.length} scenes; tags: {sceneTags.join(', ')}
        </span>
      </div>
    </ContextMenu>
  );
}
