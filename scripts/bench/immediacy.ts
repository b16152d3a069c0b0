/** How soon the screens answer with two hours of footage in forty files. */
import type { Page } from '@playwright/test';
import { frameMilliseconds, median, row, worst } from './table';

/** From a key to the last line of the page that is drawn anew because of it. */
export const repaint = (page: Page, key: string) =>
  page.evaluate(
    (pressed) =>
      new Promise<number>((resolve) => {
        const started = performance.now();
        (window as unknown as { drawn: number }).drawn = 0;
        document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', { key: pressed, bubbles: true }));
        const look = () => {
          const { drawn } = window as unknown as { drawn: number };
          if (drawn > started || performance.now() - started > 3000) resolve(Math.max(drawn, started) - started);
          else requestAnimationFrame(look);
        };
        requestAnimationFrame(look);
      }),
    key,
  );

/** From a key to the new frame of the video on screen. */
const frameStep = (page: Page) =>
  page.evaluate(
    () =>
      new Promise<number>((resolve) => {
        const started = performance.now();
        document
          .querySelector<HTMLVideoElement>('#viewer video')!
          .requestVideoFrameCallback((now) => resolve(now - started));
        document.body.dispatchEvent(
          new KeyboardEvent('keydown', { key: 'ArrowRight', code: 'ArrowRight', bubbles: true }),
        );
        document.body.dispatchEvent(
          new KeyboardEvent('keyup', { key: 'ArrowRight', code: 'ArrowRight', bubbles: true }),
        );
      }),
  );

interface Measured {
  /** Address of the project with two hours, and of its reels. */
  project: string;
  reel: string;
  flashes: string;
}

export async function measureImmediacy(page: Page, { project, reel, flashes }: Measured) {
  await firstScreen(page, project);
  await weights(page);
  await frameSteps(page);
  await scrolling(page, project);
  await reelSeconds(page, reel);
  await lipSync(page, flashes);
}

/** From the press on Moments to the drawn page. */
async function firstScreen(page: Page, project: string) {
  const first: number[] = [];
  for (let round = 0; round < 3; round++) {
    await page.goto(`${project}/footage`);
    await page.waitForTimeout(1500);
    first.push(
      await page.evaluate(
        () =>
          new Promise<number>((resolve) => {
            const started = performance.now();
            [...document.querySelectorAll('a')].find((link) => link.textContent === 'Moments')!.click();
            const look = () => {
              const count = document.querySelector('[data-testid=count]')?.textContent ?? '';
              if (/^[1-9]\d* moments/.test(count) && document.querySelector('[data-line] canvas'))
                requestAnimationFrame(() => resolve(performance.now() - started));
              else requestAnimationFrame(look);
            };
            look();
          }),
      ),
    );
  }
  row('first screen of two hours in forty files', median(first), 1500);
}

/** A slider of the mix, twelve steps. */
async function weights(page: Page) {
  await page.getByRole('tab', { name: 'Mix' }).click();
  const moves: number[] = [];
  await page.getByRole('slider', { name: 'Action' }).focus();
  for (let step = 0; step < 12; step++) {
    moves.push(await repaint(page, step % 2 ? 'ArrowLeft' : 'ArrowRight'));
    await page.waitForTimeout(700);
  }
  row('a weight moves until the page is drawn anew, median', median(moves), 100);
  row('the same, slowest of twenty', worst(moves), 100);
}

/** Frame by frame in the viewer. */
async function frameSteps(page: Page) {
  await page.evaluate(() => (document.activeElement as HTMLElement).blur());
  await page.waitForTimeout(500);
  const steps: number[] = [];
  for (let step = 0; step < 20; step++) {
    steps.push(await frameStep(page));
    await page.waitForTimeout(150);
  }
  row('a frame step from key to picture, median', median(steps), 100);
}

/** The page rolls by under the hand. */
async function scrolling(page: Page, project: string) {
  await page.goto(`${project}/moments?line=10`);
  await page.locator('[data-line] canvas').first().waitFor();
  await page.waitForTimeout(1500);
  const frames = await page.evaluate(
    () =>
      new Promise<number[]>((resolve) => {
        const scroller = document.querySelector('[aria-label="Footage, end to end"]')!;
        const times: number[] = [];
        let last = performance.now();
        const step = (now: number) => {
          times.push(now - last);
          last = now;
          scroller.scrollTop += 24;
          if (times.length < 240) requestAnimationFrame(step);
          else resolve(times.slice(10));
        };
        requestAnimationFrame(step);
      }),
  );
  row('scrolling two hours at 10 s a line, a frame, median', median(frames), frameMilliseconds);
  row('the same, slowest of twenty', worst(frames), frameMilliseconds);
}

/** A second on, twenty times; then playing. */
async function reelSeconds(page: Page, address: string) {
  await page.goto(address);
  await page.locator('[data-piece]').first().waitFor();
  await page.waitForTimeout(2000);
  const scrubs: number[] = [];
  for (let step = 0; step < 20; step++) {
    scrubs.push(
      await page.evaluate(
        () =>
          new Promise<number>((resolve) => {
            const seen = window as unknown as { viewed: number[] };
            seen.viewed = [];
            const started = performance.now();
            document.body.dispatchEvent(
              new KeyboardEvent('keydown', { key: 'ArrowRight', code: 'ArrowRight', shiftKey: true, bubbles: true }),
            );
            document.body.dispatchEvent(
              new KeyboardEvent('keyup', { key: 'ArrowRight', code: 'ArrowRight', shiftKey: true, bubbles: true }),
            );
            const look = () =>
              seen.viewed.length
                ? resolve(seen.viewed[0]! - started)
                : performance.now() - started > 3000
                  ? resolve(3000)
                  : requestAnimationFrame(look);
            requestAnimationFrame(look);
          }),
      ),
    );
    await page.waitForTimeout(250);
  }
  row('a second on in a reel, from key to picture, median', median(scrubs), 100);
  row('the same, slowest of twenty', worst(scrubs), 100);
  await page.keyboard.press('Home');
  await page.waitForTimeout(800);
  await page.evaluate(() => void ((window as unknown as { viewed: number[] }).viewed = []));
  await page.keyboard.press('Space');
  await page.waitForTimeout(8000);
  const shown = await page.evaluate(() => (window as unknown as { viewed: number[] }).viewed);
  await page.keyboard.press('Space');
  // What comes before the first second is starting up.
  const gaps = shown
    .slice(1)
    .map((at, index) => at - shown[index]!)
    .slice(20);
  row(
    'a frame of a playing reel of 720p, mean',
    gaps.reduce((sum, gap) => sum + gap, 0) / Math.max(1, gaps.length),
    1000 / 30,
  );
}

/** White frames against beeps. */
async function lipSync(page: Page, address: string) {
  await page.goto(address);
  await page.locator('[data-piece]').first().waitFor();
  await page.waitForTimeout(2000);
  await page.evaluate(() => void Object.assign(window, { lights: [], beeps: [] }));
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  await page.waitForTimeout(29_000);
  const { lights, beeps } = await page.evaluate(() => {
    const { lights, beeps } = window as unknown as { lights: number[]; beeps: number[] };
    return { lights, beeps };
  });
  const apart = lights.flatMap((light) => {
    const beep = beeps.reduce(
      (near, each) => (Math.abs(each - light) < Math.abs(near - light) ? each : near),
      Infinity,
    );
    return Math.abs(beep - light) < 400 ? [Math.abs(beep - light)] : [];
  });
  row(`picture and sound of a playing reel apart, median of ${apart.length}`, median(apart), 40);
  row('the same, worst of twenty', worst(apart), 40);
}
