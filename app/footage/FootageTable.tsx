import type { Item } from '#usecases/projects';
import { FootageRow } from './FootageRow';

interface FootageTableProps {
  items: readonly Item[];
  chosen: ReadonlySet<string>;
  /** Whether the items lie on one clock. */
  inStep: boolean;
  onChosen(ids: ReadonlySet<string>): void;
}

export function FootageTable({ items, chosen, inStep, onChosen }: FootageTableProps) {
  const toggle = (id: string) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    onChosen(next);
  };
  return (
    <table className="w-full border-collapse">
      <thead className="sticky top-0 z-10 bg-ground text-left text-xs text-muted">
        <tr className="border-b border-line [&>th]:py-2 [&>th]:font-normal">
          <th className="w-9 pl-4">
            <span className="sr-only">Choose</span>
          </th>
          <th className="w-[108px]">
            <span className="sr-only">Picture</span>
          </th>
          <th className="w-[24%]">Name</th>
          <th className="w-20">Length</th>
          <th className="w-40">Format</th>
          <th>What was read</th>
        </tr>
      </thead>
      <tbody>
        {items.map((item) => (
          <FootageRow
            key={item.id}
            item={item}
            chosen={chosen.has(item.id)}
            inStep={inStep}
            onChoose={() => toggle(item.id)}
          />
        ))}
      </tbody>
    </table>
  );
}
