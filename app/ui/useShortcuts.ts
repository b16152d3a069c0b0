import { useEffect, type RefObject } from 'react';
import { flushSync } from 'react-dom';
import { useHotkeys } from 'react-hotkeys-hook';
import { shortcuts, type ShortcutName } from '../keys';
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
  const names = (Object.keys(actions) as ShortcutName[]).filter((name) => actions[name]);
  const keyList = names.flatMap((name) => shortcuts[name].keys.split(','));
  useHotkeys(
    keyList,
    (event, hotkey) => {
      const target = event.target as HTMLElement;
      const button = target.closest(pressable);
      if (
        (event.code === 'Space' || event.key === 'Enter') &&
        button &&
        (button !== pressed || button.closest('[role="dialog"], [role="menu"]'))
      )
        return;
      if (isTakenBy(target, event)) return;
      // Where ? lies depends on the keyboard.
      const combination =
        event.key === '?'
          ? 'shift+slash'
          : [hotkey.mod && 'mod', hotkey.alt && 'alt', hotkey.shift && 'shift', ...(hotkey.keys ?? [])]
              .filter(Boolean)
              .join('+');
      const name = names.find((each) => shortcuts[each].keys.split(',').some((keys) => keys === combination));
      if (!name) return;
      event.preventDefault();
      // At once, so that the next key already sees what this one did, however fast they come.
      flushSync(() => actions[name]!());
    },
    { enableOnFormTags: true, enableOnContentEditable: false, preventDefault: false },
  );
}
