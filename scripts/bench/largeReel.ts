import type { Page } from '@playwright/test';
import { rates } from '#core/time';
import { createReel } from '#data/reels';
import { median, row } from './table';

/** A reel of five thousand pieces of a film of four minutes, with two thousand markers. */
export const makeLargeReel = (projectId: string, media: string): Promise<string> =>
  createReel(projectId, {
    schema: 'BrightReel.Reel.1',
    name: 'Five thousand pieces',
    rate: rates['25'],
    size: { width: 1280, height: 720 },
    tracks: [
      {
        kind: 'picture',
        name: 'Main',
        items: Array.from({ length: 5000 }, (_, index) => ({
          kind: 'clip' as const,
          id: crypto.randomUUID(),
          media,
          name: `piece ${index + 1}`,
          sourceIn: (index * 37) % 6000,
          frames: 25 + (index % 3),
        })),
      },
    ],
    markers: Array.from({ length: 2000 }, (_, index) => ({
      id: crypto.randomUUID(),
      frame: index * 60,
      note: `mark ${index + 1}`,
    })),
  });

/** From a key to the second frame after the screen has changed because of it. */
const changed = (page: Page, key: string, ctrlKey = false) =>
  page.evaluate(
    ([pressed, withCtrl]) =>
      new Promise<number>((resolve) => {
        const started = performance.now();
        const observer = new MutationObserver(() => {
          observer.disconnect();
          requestAnimationFrame(() => requestAnimationFrame(() => resolve(performance.now() - started)));
        });
        setTimeout(() => resolve(5000), 5000);
        observer.observe(document.querySelector('[aria-label="The reel\'s pieces"]')!, {
          subtree: true,
          childList: true,
          attributes: true,
        });
        const code = pressed.length === 1 ? `Key${pressed.toUpperCase()}` : pressed;
        for (const type of ['keydown', 'keyup'])
          document.body.dispatchEvent(
            new KeyboardEvent(type, { key: pressed, code, ctrlKey: withCtrl, bubbles: true, cancelable: true }),
          );
      }),
    [key, ctrlKey] as const,
  );

/** How the large reel opens, and how soon an edit of it shows. */
export async function measureLargeReel(page: Page, address: string) {
  const opened: number[] = [];
  for (let round = 0; round < 3; round++) {
    const started = Date.now();
    await page.goto(address, { waitUntil: 'commit' });
    // Ready is what answers to keys.
    await page.waitForFunction(() => {
      const piece = document.querySelector('[data-piece]');
      return piece !== null && Object.keys(piece).some((name) => name.startsWith('__react'));
    });
    opened.push(Date.now() - started);
    await page.waitForTimeout(2000);
  }
  row('a reel of 5,000 pieces and 2,000 markers opens, median', median(opened), 2000);
  // Inside a piece, where it can be split.
  for (let frame = 0; frame < 12; frame++) await page.keyboard.press('ArrowRight');
  await page.waitForTimeout(1000);
  const edits: number[] = [];
  for (let round = 0; round < 6; round++) {
    edits.push(await changed(page, 's'));
    await page.waitForTimeout(600);
    edits.push(await changed(page, 'z', true));
    await page.waitForTimeout(600);
  }
  row('an edit of it shows, median', median(edits), 100);
}
