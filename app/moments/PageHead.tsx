import { HelpCircle, List, Minus, Plus } from 'lucide-react';
import { upTo } from '#core/sentences';
import type { FilterName } from '#core/moments';
import { IconButton, inputLook } from '../ui/controls';
import { KeysHere } from '../reel/ReelDock';
import { SeparateMenu } from './panels/SeparateMenu';
import type { SeparationDesk } from './useSeparation';
import type { AskAnswer } from '../workers/protocol';
import { AskField } from './panels/AskField';
import { nextLineStep, type PageOrder, type PageState, type PageView } from './model/address';

const viewNames: [PageView, string, string][] = [
  ['page', 'Page', 'P'],
  ['scenes', 'Scenes', 'C'],
  ['silence', 'Silence', 'Q'],
];
const showNames: [FilterName, string][] = [
  ['all', 'everything'],
  ['kept', 'kept'],
  ['dropped', 'dropped by hand'],
  ['undecided', 'undecided'],
  ['talk', 'talk'],
  ['steady', 'steady'],
  ['shaky', 'shaky'],
  ['marker', 'around markers'],
];
const orderNames: [PageOrder, string][] = [
  ['order', 'as arranged'],
  ['name', 'by name'],
  ['date', 'by date'],
  ['length', 'by length'],
  ['score', 'by score'],
];

interface PageHeadProps {
  state: PageState;
  secondsPerLine: number;
  bins: { id: string; name: string }[];
  people: { id: string; name: string }[];
  found: AskAnswer | null;
  field: React.RefObject<HTMLInputElement | null>;
  /** "12 files, 40:10". */
  extent: string;
  legend: boolean;
  reelOpen: boolean;
  focused: boolean;
  onState(change: Partial<PageState>): void;
  onAskGo(): void;
  onLegend(): void;
  onHelp(): void;
  separation: SeparationDesk;
}

/** What the page shows and how: the request, the view, bin, filter, order, and seconds a line. */
export function PageHead(props: PageHeadProps) {
  const { state, secondsPerLine, bins, people, onState } = props;
  const select = `${inputLook} !h-7 max-w-40`;
  return (
    <div className="shrink-0 px-4 pb-1.5 pt-2.5">
      <h1 className="sr-only">Moments</h1>
      <div className="flex items-start gap-3">
        <AskField
          text={state.ask}
          found={props.found}
          field={props.field}
          onText={(ask) =>
            onState({ ask, ...(ask.trim() ? { panel: 'found' } : state.show === 'found' ? { show: 'all' } : {}) })
          }
          onGo={props.onAskGo}
        />
        <span className="flex h-8 shrink-0 items-center gap-0.5">
          <IconButton
            label="More seconds a line"
            command="coarser"
            onClick={() => onState({ secondsPerLine: nextLineStep(secondsPerLine, 1) })}
          >
            <Minus size={15} />
          </IconButton>
          <span className="tabular w-16 text-center text-muted">
            {secondsPerLine < 60 ? `${Math.round(secondsPerLine)} s` : `${upTo(secondsPerLine / 60, 1)} min`}
          </span>
          <IconButton
            label="Fewer seconds a line"
            command="finer"
            onClick={() => onState({ secondsPerLine: nextLineStep(secondsPerLine, -1) })}
          >
            <Plus size={15} />
          </IconButton>
          <SeparateMenu separation={props.separation} />
          <IconButton
            label="What the traces mean"
            command="legend"
            aria-pressed={props.legend}
            onClick={props.onLegend}
          >
            <List size={15} />
          </IconButton>
          <IconButton label="All keys" command="help" onClick={props.onHelp}>
            <HelpCircle size={15} />
          </IconButton>
        </span>
      </div>
      <div className="mt-1.5 flex min-h-7 flex-wrap items-center gap-2">
        <div className="flex rounded-md border border-line" role="group" aria-label="View">
          {viewNames.map(([view, name, key]) => (
            <button
              key={view}
              type="button"
              aria-pressed={state.view === view}
              title={`${name} (${key})`}
              onClick={() => onState({ view })}
              className={`px-2.5 leading-[26px] first:rounded-l-md last:rounded-r-md ${state.view === view ? 'bg-line text-text' : 'text-muted hover:text-text'}`}
            >
              {name}
            </button>
          ))}
        </div>
        <select
          className={select}
          aria-label="Bin"
          value={state.bin ?? ''}
          onChange={(event) => onState({ bin: event.target.value || null })}
        >
          <option value="">All footage</option>
          {bins.map((bin) => (
            <option key={bin.id} value={bin.id}>
              {bin.name}
            </option>
          ))}
        </select>
        {state.view === 'page' && (
          <select
            className={select}
            aria-label="Show"
            value={state.show === 'person' ? `person:${state.person ?? ''}` : state.show}
            onChange={(event) => {
              const [show, person] = event.target.value.split(/:(.*)/s);
              onState({ show: show as FilterName, person: person ?? null });
            }}
          >
            {showNames.map(([name, label]) => (
              <option key={name} value={name}>
                Show {label}
              </option>
            ))}
            {state.ask.trim() && <option value="found">Show what was asked for</option>}
            {people.length > 0 && (
              <optgroup label="A person">
                {people.map((person) => (
                  <option key={person.id} value={`person:${person.id}`}>
                    Show {person.name}
                  </option>
                ))}
              </optgroup>
            )}
          </select>
        )}
        <select
          className={select}
          aria-label="Order"
          value={state.order}
          onChange={(event) => onState({ order: event.target.value as PageOrder })}
        >
          {orderNames.map(([order, label]) => (
            <option key={order} value={order}>
              {label}
            </option>
          ))}
        </select>
        <span className="truncate text-muted" data-testid="extent">
          {props.extent}
        </span>
        {props.reelOpen && (
          <span className="ml-auto">
            <KeysHere here={props.focused} />
          </span>
        )}
      </div>
    </div>
  );
}
