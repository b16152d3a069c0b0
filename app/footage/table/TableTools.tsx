import { Search, SlidersHorizontal } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { Button, inputLook } from '../../ui/controls';
import { showing, type Showing } from './showing';
import { columnIds, posterSizes, withColumn, type PosterSize, type TableView } from './tableView';
import { tableWords } from './words';

interface TableToolsProps {
  text: string;
  onText(text: string): void;
  show: Showing;
  onShow(show: string): void;
  view: TableView;
  onView(view: TableView): void;
}

/** What the table shows, and how: a part of a name, a kind, columns, size of the pictures. */
export function TableTools({ text, onText, show, onShow, view, onView }: TableToolsProps) {
  return (
    <div className="ml-auto flex items-center gap-2">
      <label className="relative">
        <Search size={14} aria-hidden className="absolute left-2 top-[8px] text-muted" />
        <input
          type="search"
          aria-label={tableWords.filter}
          placeholder={tableWords.filter}
          value={text}
          onChange={(event) => onText(event.target.value)}
          className={`${inputLook} !h-[30px] w-36 !pl-7`}
        />
      </label>
      <select
        aria-label={tableWords.show}
        className={`${inputLook} !h-[30px] w-40`}
        value={show}
        onChange={(event) => onShow(event.target.value)}
      >
        {(Object.keys(showing) as Showing[]).map((each) => (
          <option key={each} value={each}>
            {tableWords.showing[each]}
          </option>
        ))}
      </select>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger asChild>
          <Button title={tableWords.viewHint}>
            <SlidersHorizontal size={14} aria-hidden /> {tableWords.view}
          </Button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            sideOffset={4}
            className="z-50 w-52 rounded-md border border-line bg-raised p-1 text-sm shadow-xl"
          >
            {columnIds
              .filter((id) => id !== 'name')
              .map((id) => (
                <DropdownMenu.CheckboxItem
                  key={id}
                  checked={!view.hidden.includes(id)}
                  onCheckedChange={(shown) => onView(withColumn(view, id, shown))}
                  onSelect={(event) => event.preventDefault()}
                  className={itemLook}
                >
                  {tableWords.columns[id]}
                  <Tick />
                </DropdownMenu.CheckboxItem>
              ))}
            <DropdownMenu.Separator className="my-1 h-px bg-line" />
            <DropdownMenu.RadioGroup
              aria-label={tableWords.pictures}
              value={view.poster}
              onValueChange={(poster) => onView({ ...view, poster: poster as PosterSize })}
            >
              {(Object.keys(posterSizes) as PosterSize[]).map((size) => (
                <DropdownMenu.RadioItem
                  key={size}
                  value={size}
                  onSelect={(event) => event.preventDefault()}
                  className={itemLook}
                >
                  {tableWords.posters[size]}
                  <Tick />
                </DropdownMenu.RadioItem>
              ))}
            </DropdownMenu.RadioGroup>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </div>
  );
}

const itemLook = 'flex items-center rounded px-2.5 py-1.5 outline-none data-[highlighted]:bg-line';

const Tick = () => (
  <DropdownMenu.ItemIndicator className="ml-auto" aria-hidden>
    ✓
  </DropdownMenu.ItemIndicator>
);
