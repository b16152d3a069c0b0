import { Tabs } from 'radix-ui';
import type { ReactNode } from 'react';
import { useShownKey } from '../keys';
import { useDraw, type DrawPoint } from '../hands/useDraw';
import { openPictureWindow } from '../pictureWindow/pictureWindow';
import { columnWidths, setColumnWidth, toggleColumn, useColumnWidth } from './useColumnWidth';
import { useShortcuts } from './useShortcuts';

/** A box beside the column, in pixels from the top of the place. */
export interface Below {
  top: number;
  width: number;
  height: number;
}

interface ColumnProps {
  picture?: ReactNode;
  /** Where the picture lies instead of on top of the column. */
  below?: Below | null;
  children: ReactNode;
}

/**
 * The right column, the same on every screen: the picture on top, panels below. Its edge can be drawn; a key makes it
 * wide. On narrow screens it lies below the page, the picture beside the panels (`app.css`).
 */
export function Column({ picture, below = null, children }: ColumnProps) {
  const width = useColumnWidth();
  useShortcuts({ pictureSize: toggleColumn, pictureWindow: openPictureWindow });
  return (
    <aside data-column className="relative flex shrink-0 flex-col border-l border-line bg-panel" style={{ width }}>
      <Divider width={width} />
      {picture && (
        // It stays where it is in the document: a picture that is put elsewhere would load anew.
        <div
          data-picture={below ? 'below' : 'beside'}
          className={below ? 'absolute right-full' : 'shrink-0'}
          style={below ?? undefined}
        >
          {picture}
        </div>
      )}
      {children}
    </aside>
  );
}

/** Pixels that an arrow key moves it. */
const step = 20;

function Divider({ width }: { width: number }) {
  const draw = useDraw({
    begin: () => {
      const move = ({ byX }: DrawPoint) => setColumnWidth(width - byX);
      return { move, done: move, left: () => setColumnWidth(width) };
    },
  });
  const shown = useShownKey();
  return (
    // A separator that can be moved is a control (ARIA 1.2, separator); the rule knows only the other kind.
    // eslint-disable-next-line jsx-a11y-x/no-noninteractive-element-interactions
    <div
      role="separator"
      aria-orientation="vertical"
      aria-label="Width of the picture"
      aria-valuenow={width}
      aria-valuemin={columnWidths.least}
      aria-valuemax={columnWidths.most}
      // eslint-disable-next-line jsx-a11y-x/no-noninteractive-tabindex
      tabIndex={0}
      title={`Drag for a larger picture (${shown('pictureSize')})`}
      className={`absolute inset-y-0 -left-1 z-10 w-2 cursor-col-resize touch-none hover:bg-line active:bg-line`}
      onDoubleClick={toggleColumn}
      onKeyDown={(event) => {
        if (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight') return;
        event.preventDefault();
        event.stopPropagation();
        setColumnWidth(width + (event.key === 'ArrowLeft' ? step : -step));
      }}
      {...draw()}
    />
  );
}

Column.Tabs = function ColumnTabs({
  value,
  onChange,
  tabs,
  children,
}: {
  value: string;
  onChange(value: string): void;
  tabs: [string, string][];
  children: ReactNode;
}) {
  return (
    <Tabs.Root value={value} onValueChange={onChange} className="flex min-h-0 flex-1 flex-col">
      <Tabs.List
        aria-label="Panels"
        className={`flex h-9 shrink-0 items-stretch overflow-x-auto border-b pointer-coarse:h-11 border-line px-4 ${tabs.length > 6 ? 'justify-between gap-1' : 'gap-5'}`}
      >
        {tabs.map(([key, label]) => (
          <Tabs.Trigger
            key={key}
            value={key}
            className="text-sm text-muted -outline-offset-2 hover:text-text data-[state=active]:font-semibold data-[state=active]:text-text"
          >
            {label}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <Tabs.Content value={value} className="min-h-0 flex-1 overflow-y-auto px-4 pb-3 pt-2.5" tabIndex={-1}>
        {children}
      </Tabs.Content>
    </Tabs.Root>
  );
};
