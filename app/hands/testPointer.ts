import { act, fireEvent } from '@testing-library/react';

/** A pointer in a test: pressed on an element, moved over the window, let go or taken away. */
export const pointer = {
  press: (element: Element, clientX: number, clientY = 0, more: PointerEventInit = {}) =>
    fireEvent.pointerDown(element, { buttons: 1, pointerId: 1, clientX, clientY, ...more }),
  move: (clientX: number, clientY = 0, more: PointerEventInit = {}) =>
    fireEvent.pointerMove(window, { buttons: 1, pointerId: 1, clientX, clientY, ...more }),
  letGo: (clientX: number, clientY = 0) => fireEvent.pointerUp(window, { buttons: 0, pointerId: 1, clientX, clientY }),
  takeAway: (clientX: number, clientY = 0) =>
    fireEvent.pointerCancel(window, { buttons: 0, pointerId: 1, clientX, clientY }),
  /** Escape; the end of the drawing arrives a moment later. */
  escape: () =>
    act(async () => {
      fireEvent.keyDown(document.body, { key: 'Escape' });
      await new Promise((wake) => setTimeout(wake));
    }),
};
