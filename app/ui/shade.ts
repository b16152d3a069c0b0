import { useSyncExternalStore } from 'react';

export const shades = ['dark', 'light'] as const;
export type Shade = (typeof shades)[number];

/** Dark, light, or as the system is. Pictures are judged on dark ground, so it is dark at first. */
export const shadeChoices = ['dark', 'light', 'system'] as const;
export type ShadeChoice = (typeof shadeChoices)[number];

const key = 'bright-reel shade';

/**
 * Sets the shade before anything is painted. Put into the page as text, so it may use nothing from outside itself.
 * @param key under which the browser keeps the choice
 */
function setEarlyShade(key: string): void {
  let choice: string | null = null;
  try {
    choice = localStorage.getItem(key);
  } catch {
    // A browser that keeps nothing: dark.
  }
  const isLight =
    choice === 'light' || (choice === 'system' && window.matchMedia('(prefers-color-scheme: light)').matches);
  document.documentElement.dataset.shade = isLight ? 'light' : 'dark';
}
export const earlyShade = `(${setEarlyShade.toString()})(${JSON.stringify(key)})`;

/** As the document is now; dark where there is none. */
export const shade = (): Shade =>
  typeof document !== 'undefined' && document.documentElement.dataset.shade === 'light' ? 'light' : 'dark';

const listeners = new Set<() => void>();

export function shadeChoice(): ShadeChoice {
  try {
    const kept = localStorage.getItem(key);
    return shadeChoices.find((each) => each === kept) ?? 'dark';
  } catch {
    return shade();
  }
}

export function chooseShade(choice: ShadeChoice): void {
  try {
    localStorage.setItem(key, choice);
    setEarlyShade(key);
  } catch {
    if (choice !== 'system') document.documentElement.dataset.shade = choice;
  }
  for (const listener of listeners) listener();
}

export const toggleShade = (): void => chooseShade(shade() === 'dark' ? 'light' : 'dark');

function subscribe(listener: () => void): () => void {
  const system = window.matchMedia('(prefers-color-scheme: light)');
  const follow = () => {
    setEarlyShade(key);
    listener();
  };
  // Another window of the same browser, or the system itself.
  const onStorage = (event: StorageEvent) => event.key === key && follow();
  listeners.add(listener);
  system.addEventListener('change', follow);
  window.addEventListener('storage', onStorage);
  return () => {
    listeners.delete(listener);
    system.removeEventListener('change', follow);
    window.removeEventListener('storage', onStorage);
  };
}

/** The shade now; canvases draw anew when it changes. */
export const useShade = (): Shade => useSyncExternalStore(subscribe, shade, () => 'dark');
/** What was chosen; dark before the browser was asked. */
export const useShadeChoice = (): ShadeChoice => useSyncExternalStore(subscribe, shadeChoice, () => 'dark');
