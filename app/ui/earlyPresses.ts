interface EarlyPresses {
  buttons: HTMLElement[];
  note: (event: Event) => void;
}
type Page = { earlyPresses?: EarlyPresses };

/**
 * Keeps what is pressed before React has taken the page over. The page is drawn by the server and looks ready, but its
 * buttons answer only once the scripts are there; on a busy machine that takes a second. Put into the page as text, so it
 * may use nothing from outside itself; links and buttons that send a form work by themselves.
 */
export function keepEarlyPresses(): void {
  const buttons: HTMLElement[] = [];
  const note = ({ target }: Event) => {
    const button = (target as Element).closest?.<HTMLElement>('button[type=button]');
    if (button) buttons.push(button);
  };
  (window as Page).earlyPresses = { buttons, note };
  document.addEventListener('click', note, true);
}

/** Does what was pressed, in its order; to be called when the page answers. */
export function doEarlyPresses(): void {
  const page = window as Page;
  const early = page.earlyPresses;
  if (!early) return;
  delete page.earlyPresses;
  document.removeEventListener('click', early.note, true);
  for (const button of early.buttons) {
    if (!button.isConnected) continue;
    // Menus open at the first of these; what drags lets go at the third.
    const mouse = { bubbles: true, cancelable: true, button: 0 };
    button.dispatchEvent(new PointerEvent('pointerdown', { ...mouse, pointerType: 'mouse' }));
    button.dispatchEvent(new MouseEvent('mousedown', mouse));
    button.dispatchEvent(new PointerEvent('pointerup', { ...mouse, pointerType: 'mouse' }));
    button.dispatchEvent(new MouseEvent('mouseup', mouse));
    button.click();
  }
}
