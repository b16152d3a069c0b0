import { useSyncExternalStore } from 'react';

/** What the window for the picture tells the one that it belongs to. */
export const pictureEvent = 'bright-reel-picture';
/** It says once a second how wide it is, and is gone when it has not for so long. */
export const saysEvery = 1000;
const goneAfter = 3500;

let wide = 0;
let gone: ReturnType<typeof setTimeout> | undefined;
const listeners = new Set<() => void>();
const set = (width: number) => {
  if (width === wide) return;
  wide = width;
  for (const listener of listeners) listener();
};
const hear = (event: Event) => {
  set((event as CustomEvent<number>).detail);
  clearTimeout(gone);
  gone = setTimeout(() => set(0), goneAfter);
};

/** Pixels across of the window for the picture; 0 while there is none. What is drawn for it is drawn as sharp as that. */
export const usePictureWindowWidth = (): number =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      if (listeners.size === 1) window.addEventListener(pictureEvent, hear);
      return () => {
        listeners.delete(listener);
        if (listeners.size === 0) window.removeEventListener(pictureEvent, hear);
      };
    },
    () => wide,
    () => 0,
  );

/** Opens it, or brings it to the front. */
export const openPictureWindow = (): void =>
  window.open('/picture', 'bright-reel-picture', 'popup,width=1280,height=720')?.focus();
