import { combine } from '@atlaskit/pragmatic-drag-and-drop/combine';
import { dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter';
import { autoScrollForElements } from '@atlaskit/pragmatic-drag-and-drop-auto-scroll/element';
import { useEffect, type RefObject } from 'react';
import { useLatest } from '../ui/useLatest';
import type { Landing } from './Movable';

/**
 * The room around things that are moved: it scrolls when one comes to its edge, and takes what is let go beside all of them.
 * @param onLand nothing is taken where it is not given
 */
export function useLandingRoom(
  room: RefObject<HTMLElement | null>,
  kind: string,
  onLand?: (moved: string, landing: Pick<Landing, 'copy'>) => void,
): void {
  const latest = useLatest(onLand);
  useEffect(() => {
    const element = room.current;
    if (!element) return;
    const isOurs = ({ source }: { source: { data: Record<string, unknown> } }) => source.data.kind === kind;
    return combine(
      autoScrollForElements({ element, canScroll: isOurs }),
      dropTargetForElements({
        element,
        canDrop: (drag) => isOurs(drag) && latest.current !== undefined,
        onDrop: ({ source, location }) => {
          if (location.current.dropTargets[0]?.element !== element) return;
          const { ctrlKey, altKey } = location.current.input;
          latest.current?.(source.data.id as string, { copy: ctrlKey || altKey });
        },
      }),
    );
  }, [room, kind, latest]);
}
