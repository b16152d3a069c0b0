import { combine } from '@atlaskit/pragmatic-drag-and-drop/combine';
import { draggable, dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter';
import { attachClosestEdge } from '@atlaskit/pragmatic-drag-and-drop-hitbox/closest-edge/attach-closest-edge';
import { extractClosestEdge } from '@atlaskit/pragmatic-drag-and-drop-hitbox/closest-edge/extract-closest-edge';
import { useMemo, type ComponentPropsWithRef, type ElementType, type Ref, type RefObject } from 'react';
import { useLatest } from '../ui/useLatest';

/** Where something is let go: which of its two sides is nearer, and whether it is to be copied (Ctrl or Alt), as files are. */
export interface Landing {
  side: 'before' | 'after';
  copy: boolean;
}

interface MovableOwn {
  /** Only what is of one kind lands on another. */
  kind: string;
  id: string;
  /** It stays where it is, but others may land on it. */
  isFixed?: boolean | undefined;
  /** The part of it that it is dragged by, as a selector; all of it when missing. */
  handle?: string;
  /** How its list runs, so that a line shows where something would land; without it others land on it as a whole. */
  along?: 'row' | 'column';
  /** Something of its kind was let go here. */
  onLand?: ((moved: string, landing: Landing) => void) | undefined;
  /** What other programs get when it is dragged out of the window. */
  outside?: (() => Record<string, string>) | undefined;
}

type MovableProps<Tag extends ElementType> = MovableOwn & { as: Tag } & Omit<
    ComponentPropsWithRef<Tag>,
    keyof MovableOwn
  >;

/** The attribute that the stylesheet draws the place to land from. */
const overAttribute = 'data-over';

/**
 * The one way to move things about: whatever is shown by it can be dragged by mouse, pen or a finger that stays a moment,
 * and lands on others of its kind. A line, or a frame, shows where; Escape puts it back.
 */
export function Movable<Tag extends ElementType>({
  as,
  kind,
  id,
  isFixed,
  handle,
  along,
  onLand,
  outside,
  ref,
  ...rest
}: MovableProps<Tag>) {
  const latest = useLatest<Latest>({ id, along, onLand, outside, given: ref });
  const attach = useMemo(() => attachTo(kind, isFixed ?? false, latest, handle), [kind, isFixed, latest, handle]);
  const Shown: ElementType = as;
  return <Shown {...rest} ref={attach} />;
}

interface Latest extends Pick<MovableOwn, 'id' | 'along' | 'onLand' | 'outside'> {
  /** Whoever shows it may want its element as well. */
  given: Ref<HTMLElement> | undefined;
}

const attachTo =
  (kind: string, isFixed: boolean, latest: RefObject<Latest>, handle?: string) =>
  (element: HTMLElement | null): (() => void) | undefined => {
    setRef(latest.current.given, element);
    if (!element) return;
    const over = (where: string | null) =>
      where === null ? element.removeAttribute(overAttribute) : element.setAttribute(overAttribute, where);
    const edges = () =>
      (latest.current.along === 'column' ? ['top', 'bottom'] : ['left', 'right']) as ('top' | 'left')[];
    const sideOf = (data: Record<string | symbol, unknown>) =>
      ['top', 'left'].includes(extractClosestEdge(data) ?? '') ? 'before' : 'after';
    const undo = combine(
      ...(isFixed
        ? []
        : [
            draggable({
              element,
              ...(handle ? { dragHandle: element.querySelector(handle)! } : {}),
              getInitialData: () => ({ kind, id: latest.current.id }),
              getInitialDataForExternal: () => latest.current.outside?.() ?? {},
              onDragStart: () => element.setAttribute('data-moving', ''),
              onDrop: () => element.removeAttribute('data-moving'),
            }),
          ]),
      dropTargetForElements({
        element,
        canDrop: ({ source }) =>
          Boolean(latest.current.onLand) && source.data.kind === kind && source.data.id !== latest.current.id,
        getData: ({ input }) => attachClosestEdge({}, { element, input, allowedEdges: edges() }),
        getDropEffect: ({ input }) => (input.ctrlKey || input.altKey ? 'copy' : 'move'),
        onDrag: ({ self }) => over(latest.current.along ? `${latest.current.along} ${sideOf(self.data)}` : 'whole'),
        onDragLeave: () => over(null),
        onDrop: ({ self, source, location }) => {
          over(null);
          // What lies around takes what is let go between; only the innermost takes it here.
          if (location.current.dropTargets[0]?.element !== element) return;
          const { ctrlKey, altKey } = location.current.input;
          latest.current.onLand?.(source.data.id as string, { side: sideOf(self.data), copy: ctrlKey || altKey });
        },
      }),
    );
    return () => {
      undo();
      over(null);
      setRef(latest.current.given, null);
    };
  };

function setRef(ref: Ref<HTMLElement> | undefined, element: HTMLElement | null): void {
  if (typeof ref === 'function') ref(element);
  else if (ref) ref.current = element;
}
