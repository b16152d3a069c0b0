import { counted } from '#core/sentences';
import { DropdownMenu } from 'radix-ui';
import type { ReactElement, ReactNode } from 'react';
import {
  changeJoint,
  writeRequest,
  type Chip,
  type Joined,
  type JointChange,
  type Node,
  type Request,
} from '#core/ask';

interface UnderstoodProps {
  text: string;
  /** The text has gone on since; what would be chosen now would take that back. */
  isBehind: boolean;
  request: Request;
  /** How many stretches each chip would find alone. */
  alone: readonly number[];
  onText(text: string): void;
}

/** Without double spaces or joints that hang in the air. */
const tidy = (text: string) =>
  text
    .replace(/\s+/g, ' ')
    .replace(/^\s*(and|or|,|but)\s+/i, '')
    .replace(/\s+(and|or|not|but|without|,)\s*$/i, '')
    .trim();

/** How a request was understood: its parts, how they bind, and what was passed over; each can be changed. */
export function Understood({ text, isBehind, request, alone, onText }: UnderstoodProps) {
  const { tree, chips, unknown, passed } = request;
  const picks = chips.filter(({ term }) => term.kind === 'pick');
  const chipMark = (chip: Chip) => (
    <ChipMark
      key={`chip ${chips.indexOf(chip)}`}
      chip={chip}
      isBehind={isBehind}
      text={text}
      count={chip.term.kind === 'pick' ? null : (alone[chips.indexOf(chip)] ?? null)}
      onText={onText}
    />
  );
  const isMixed = tree !== null && joints(tree).size > 1;
  const joint = (group: Joined, index: number, key: string) => (
    <Joint
      key={key}
      op={group.op}
      isMixed={isMixed}
      isBehind={isBehind}
      onChange={(what) => tree && onText(writeRequest(changeJoint(tree, group, index, what), picks))}
    />
  );
  return (
    <div className="mt-1.5 flex flex-wrap items-center gap-1.5" aria-label="How this was understood" role="group">
      {[...picks.map(chipMark), ...(tree ? parts(tree, { chipMark, joint }) : [])]}
      {(unknown.length > 0 || passed.length > 0) && (
        <span className="text-xs text-muted" role="status">
          {unknown.length > 0 && <>not understood: {quoted(unknown)}</>}
          {unknown.length > 0 && passed.length > 0 && ' · '}
          {passed.length > 0 && <>passed over: {quoted(passed)}</>}
        </span>
      )}
    </div>
  );
}

const quoted = (words: readonly string[]) => words.map((word) => `“${word}”`).join(', ');

/** "and", "or": which of them join the parts. */
function joints(node: Node): Set<string> {
  if (node.op === 'chip') return new Set();
  if (node.op === 'not' || node.op === 'near') return joints(node.of);
  return new Set([node.op, ...node.of.flatMap((part) => [...joints(part)])]);
}

interface Marks {
  chipMark(chip: Chip): ReactElement;
  joint(group: Joined, index: number, key: string): ReactElement;
}

/**
 * The parts of a request one after the other, all beside each other however they bind: a chip whose brackets change
 * is the same chip, so its menu stays open.
 */
function parts(node: Node, marks: Marks, at = '0', inBrackets = false): ReactElement[] {
  const inner = (part: Node, index = 0) => parts(part, marks, `${at}.${index}`, true);
  if (node.op === 'chip') return [marks.chipMark(node.chip)];
  if (node.op === 'not') {
    // A chip says itself that it is turned round.
    if (node.of.op === 'chip') return inner(node.of);
    return [
      <span key={`not ${at}`} className="text-xs font-semibold text-shake">
        not
      </span>,
      ...inner(node.of),
    ];
  }
  if (node.op === 'near')
    return [
      <span key={`near ${at}`} className="text-xs text-muted">
        {node.where}
      </span>,
      ...inner(node.of),
    ];
  const joined = node.of.flatMap((part, index) => [
    ...(index > 0 ? [marks.joint(node, index - 1, `joint ${at}.${index}`)] : []),
    ...inner(part, index),
  ]);
  if (!inBrackets) return joined;
  return [<Bracket key={`( ${at}`}>(</Bracket>, ...joined, <Bracket key={`) ${at}`}>)</Bracket>];
}

const Bracket = ({ children }: { children: string }) => (
  <span className="-mx-0.5 text-base leading-5 text-muted">{children}</span>
);

interface JointProps {
  op: 'and' | 'or';
  isMixed: boolean;
  isBehind: boolean;
  onChange(change: JointChange): void;
}

/** The word between two parts. */
function Joint({ op, isMixed, isBehind, onChange }: JointProps) {
  const other = op === 'and' ? 'or' : 'and';
  const choices: [JointChange, string][] = [
    ['other', `Turn into “${other}”`],
    ...(isMixed
      ? ([
          ['tight', 'Brackets around these two'],
          ['loose', 'Binds last'],
        ] as [JointChange, string][])
      : []),
  ];
  return (
    <Menu
      isBehind={isBehind}
      label={op}
      className="rounded px-0.5 text-xs leading-5 text-muted hover:text-text"
      title={`What joins these parts; press to change`}
      choices={choices.map(([change, label]) => ({ label, go: () => onChange(change) }))}
    />
  );
}

interface ChipMarkProps {
  chip: Chip;
  isBehind: boolean;
  text: string;
  count: number | null;
  onText(text: string): void;
}

function ChipMark({ chip, isBehind, text, count, onText }: ChipMarkProps) {
  const replace = (by: string) => onText(tidy(`${text.slice(0, chip.start)}${by}${text.slice(chip.end)}`));
  /** The word that turns a chip round, when it stands right before it. */
  const turned = () => {
    const before = text.slice(0, chip.start);
    const word = /(not|no|without|never)\s+$/i.exec(before);
    return word
      ? tidy(`${before.slice(0, word.index)}${text.slice(chip.start)}`)
      : tidy(`${before}not ${text.slice(chip.start)}`);
  };
  const { taken } = chip;
  const choices = [
    ...chip.instead.map((each) => ({ label: `Instead: ${each.label}`, go: () => replace(each.text) })),
    ...(chip.term.kind === 'pick' ? [] : [{ label: chip.not ? 'With it' : 'Without it', go: () => onText(turned()) }]),
    { label: 'Remove this part', go: () => replace('') },
  ];
  return (
    <Menu
      isBehind={isBehind}
      chip={chip.label}
      className="rounded-full border border-line bg-raised px-2.5 text-xs leading-5 hover:border-muted"
      title={`From “${chip.text}”${count === null ? '' : `; alone it finds ${counted(count, 'stretch', 'stretches')}`}. Press to change`}
      label={
        <>
          {chip.not && <span className="font-semibold text-shake">not </span>}
          {chip.label}
          {taken && (
            <span className="text-muted">
              {' '}
              {taken.because === 'spelling' ? 'for' : 'like'} “{taken.from}”
            </span>
          )}
        </>
      }
      after={
        count !== null && <span className={`tabular ml-1.5 ${count === 0 ? 'text-shake' : 'text-muted'}`}>{count}</span>
      }
      choices={choices}
    />
  );
}

interface MenuProps {
  label: ReactNode;
  after?: ReactNode;
  chip?: string;
  className: string;
  title: string;
  isBehind: boolean;
  choices: { label: string; go(): void }[];
}

function Menu({ label, after, chip, className, title, isBehind, choices }: MenuProps) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className={className} title={title} {...(chip === undefined ? {} : { 'data-chip': chip })}>
        <span>{label}</span>
        {after}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          sideOffset={4}
          align="start"
          className="z-50 min-w-40 rounded-md border border-line bg-raised p-1 shadow-xl"
        >
          {choices.map((choice) => (
            <DropdownMenu.Item
              key={choice.label}
              disabled={isBehind}
              className="cursor-default rounded px-2 py-1 text-sm outline-none data-[highlighted]:bg-line"
              onSelect={choice.go}
            >
              {choice.label}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
