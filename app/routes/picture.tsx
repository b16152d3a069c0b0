import { useEffect, useRef, useState } from 'react';
import { fittingBox, layersOf } from '../pictureWindow/layers';
import { pictureEvent, saysEvery } from '../pictureWindow/pictureWindow';
import { pictureWords } from '../pictureWindow/words';
import { shownOf } from '../ui/shownOf';

export const meta = () => [{ title: pictureWords.title }];

/** Nothing but the picture of the window that opened it, for a second screen. Keys go to that window. */
export default function PictureAlone() {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [state, setState] = useState<'shown' | 'nothing here' | 'alone'>('shown');
  useEffect(() => {
    let frame = 0;
    let said = 0;
    const draw = (now: number) => {
      frame = requestAnimationFrame(draw);
      const owner = ownerOf(window);
      if (!owner) return setState('alone');
      const picture = shownOf(owner.document, '[data-picture-frame]');
      setState(picture ? 'shown' : 'nothing here');
      if (canvas.current) show(canvas.current, picture);
      if (now - said < saysEvery) return;
      said = now;
      const detail = Math.round(window.innerWidth * window.devicePixelRatio);
      owner.dispatchEvent(new CustomEvent(pictureEvent, { detail }));
    };
    frame = requestAnimationFrame(draw);
    return () => cancelAnimationFrame(frame);
  }, []);
  useEffect(() => {
    const pass = (event: KeyboardEvent) => {
      const owner = ownerOf(window);
      // The browser's own stay here: close the window, load it anew, the whole screen.
      if (!owner || event.ctrlKey || event.metaKey || /^(F\d+|Tab)$/.test(event.key)) return;
      event.preventDefault();
      const { key, code, shiftKey, altKey, repeat } = event;
      owner.document.body.dispatchEvent(
        new KeyboardEvent(event.type, { key, code, shiftKey, altKey, repeat, bubbles: true, cancelable: true }),
      );
    };
    window.addEventListener('keydown', pass);
    window.addEventListener('keyup', pass);
    return () => {
      window.removeEventListener('keydown', pass);
      window.removeEventListener('keyup', pass);
    };
  }, []);
  return (
    <main
      className="fixed inset-0 bg-black"
      onDoubleClick={() =>
        void (document.fullscreenElement ? document.exitFullscreen() : document.documentElement.requestFullscreen())
      }
    >
      <h1 className="sr-only">{pictureWords.title}</h1>
      <canvas ref={canvas} className="h-full w-full" role="img" aria-label={pictureWords.title} />
      {state !== 'shown' && (
        <p role="status" className="absolute inset-0 m-auto h-fit w-fit max-w-md px-6 text-center text-muted">
          {state === 'alone' ? pictureWords.alone : pictureWords.nothing}
        </p>
      )}
    </main>
  );
}

/** The window that opened this one, while it is there and shows the program. */
function ownerOf(own: Window): Window | null {
  const owner = own.opener as Window | null;
  try {
    return owner && !owner.closed && owner.location.origin === own.location.origin ? owner : null;
  } catch {
    // It went to another address.
    return null;
  }
}

function show(canvas: HTMLCanvasElement, picture: Element | null): void {
  const ratio = window.devicePixelRatio || 1;
  const [width, height] = [Math.round(canvas.clientWidth * ratio), Math.round(canvas.clientHeight * ratio)];
  if (canvas.width !== width || canvas.height !== height) [canvas.width, canvas.height] = [width, height];
  const context = canvas.getContext('2d')!;
  context.fillStyle = '#000';
  context.fillRect(0, 0, width, height);
  if (!picture) return;
  const room = fittingBox(picture.getBoundingClientRect(), { width, height });
  for (const layer of layersOf(picture))
    context.drawImage(
      layer.source,
      room.x + layer.x * room.width,
      room.y + layer.y * room.height,
      layer.width * room.width,
      layer.height * room.height,
    );
}
