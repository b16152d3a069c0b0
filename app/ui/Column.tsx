import { Tabs } from 'radix-ui';
import type { ReactNode } from 'react';

/** The right column, the same on every screen: viewer on top, panels below. */
export function Column({ children }: { children: ReactNode }) {
  return <aside className="flex w-[400px] shrink-0 flex-col border-l border-line bg-[#12191f]">{children}</aside>;
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
        className={`flex h-9 shrink-0 items-center border-b border-line px-4 ${tabs.length > 6 ? 'justify-between' : 'gap-5'}`}
      >
        {tabs.map(([key, label]) => (
          <Tabs.Trigger
            key={key}
            value={key}
            className="text-sm text-muted hover:text-text data-[state=active]:font-semibold data-[state=active]:text-text"
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
