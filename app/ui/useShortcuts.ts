import { flushSync } from 'react-dom';
import { useHotkeys } from 'react-hotkeys-hook';
import { shortcuts, type ShortcutName } from '../keys';

/** Binds shortcuts to what they do here. Typing in a field never triggers one; a focused button keeps its space key. */
export function useShortcuts(actions: Partial<Record<ShortcutName, (() => void) | undefined>>) {
  const names = (Object.keys(actions) as ShortcutName[]).filter((name) => actions[name]);
  const keyList = names.flatMap((name) => shortcuts[name].keys.split(','));
  useHotkeys(
    keyList,
    (event, hotkey) => {
      const target = event.target as HTMLElement;
      if ((event.code === 'Space' || event.key === 'Enter') && target.closest('button:not([data-piece], [data-slot], [data-section]), [role="tab"], a, summary')) return;
      if (/^Arrow|^Page/.test(event.key) && target.closest('[role="slider"]')) return;
      // Where ? lies depends on the keyboard.
      const pressed = event.key === '?' ? 'shift+slash' : [hotkey.mod && 'mod', hotkey.alt && 'alt', hotkey.shift && 'shift', ...(hotkey.keys ?? [])].filter(Boolean).join('+');
      const name = names.find((each) => shortcuts[each].keys.split(',').some((keys) => keys === pressed));
      if (!name) return;
      event.preventDefault();
      // At once, so that the next key already sees what this one did, however fast they come.
      flushSync(() => actions[name]!());
    },
    { enableOnFormTags: ['range' as never, 'slider'], preventDefault: false },
  );
}
