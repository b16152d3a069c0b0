import { useEffect, type RefObject } from 'react';
import { flushSync } from 'react-dom';
import { combinationOf, keysOf, type ShortcutName } from '../keys';
import { useLatest } from './useLatest';

const pressable = 'button:not([data-piece], [data-slot], [data-section]), [role="tab"], a, summary';
/** What was pressed with the pointer last: it has the focus, but whoever presses Space after that means the player. */
let pressed: Element | null = null;
if (typeof document !== 'undefined') {
  document.addEventListener(
    'pointerdown',
    (event) => {
      pressed = event.target instanceof Element ? event.target.closest(pressable) : null;
    },
    true,
  );
  document.addEventListener(
    'keydown',
    (event) => {
      if (event.key === 'Tab') pressed = null;
    },
    true,
  );
}

const typedInto =
  'input:not([type="radio"], [type="checkbox"], [type="range"], [type="button"]), textarea, [contenteditable="true"]';
const listed = 'select, [role="option"], [role="menuitem"], [role="menuitemradio"], [role="menuitemcheckbox"]';
/** Whether a key belongs to what has the focus: text to a field, letters to a list, arrows and Space to what is chosen with them. */
function isTakenBy(target: HTMLElement, event: KeyboardEvent): boolean {
  if (target.closest(typedInto)) return true;
  const withControl = event.ctrlKey || event.metaKey;
  if (target.closest(listed)) return !withControl;
  const isMove = /^Arrow|^Page/.test(event.key);
  if (target.closest('[role="slider"], input[type="range"]')) return isMove;
  if (target.closest('input[type="radio"], [role="radio"]')) return isMove || event.code === 'Space';
  return target.closest('input[type="checkbox"]') !== null && event.code === 'Space';
}

type Actions = Partial<Record<ShortcutName, (() => void) | undefined>>;
/** What the screens that are open do by key, the one that was opened last at the end. */
const live = new Set<RefObject<Actions>>();

/** Everything that can be done here by a key, once each. */
export function liveCommands(): { name: ShortcutName; act(): void }[] {
  const found = new Map<ShortcutName, () => void>();
  for (const { current } of live)
    for (const [name, act] of Object.entries(current)) if (act) found.set(name as ShortcutName, act);
  return [...found].map(([name, act]) => ({ name, act }));
}

/** Binds shortcuts to what they do here. Typing in a field never triggers one; a button that the keyboard went to keeps its space key. */
export function useShortcuts(actions: Actions) {
  const latest = useLatest(actions);
  useEffect(() => {
    live.add(latest);
    return () => void live.delete(latest);
  }, [latest]);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const act = actionFor(event, latest.current);
      if (!act) return;
      event.preventDefault();
      // At once, so that the next key already sees what this one did, however fast they come.
      flushSync(act);
    };
    document.addEventListener('keydown', press);
    return () => document.removeEventListener('keydown', press);
  }, [latest]);
}

/** What a key does here; nothing for one that belongs to what has the focus. */
function actionFor(event: KeyboardEvent, actions: Actions): (() => void) | undefined {
  const combination = event.isComposing ? null : combinationOf(event);
  if (combination === null) return undefined;
  const name = (Object.keys(actions) as ShortcutName[]).find(
    (each) => actions[each] && keysOf(each).includes(combination),
  );
  if (!name) return undefined;
  const target = event.target as HTMLElement;
  const button = target.closest(pressable);
  const isForButton =
    (event.code === 'Space' || event.key === 'Enter') &&
    button &&
    (button !== pressed || button.closest('[role="dialog"], [role="menu"]'));
  return isForButton || isTakenBy(target, event) ? undefined : actions[name];
}
