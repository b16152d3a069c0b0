import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { test as base, type BrowserContext, type Page } from '@playwright/test';

import { hintsKept } from '../app/hints/hintWords';

export { expect, type Locator, type Page } from '@playwright/test';

interface Faults {
  /** Names faults that a test brings about itself: of requests "422 POST /projects/…", else the message. */
  allow(...patterns: RegExp[]): void;
  /** Fails a test in which a page reported an error or a request failed that nobody named. */
  noFaults: void;
}

/** Pages that were left stop their requests; that is no fault. */
const stopped = /net::ERR_ABORTED/;

export const test = base.extend<Faults & { faults: { found: string[]; allowed: RegExp[] } }>({
  faults: async ({}, use) => use({ found: [], allowed: [] }),
  allow: async ({ faults }, use) => use((...patterns) => void faults.allowed.push(...patterns)),
  noFaults: [
    async ({ context, faults }, use, info) => {
      // Hints come at a first visit, and every test is one.
      await context.addInitScript((kept) => {
        if (location.protocol.startsWith('http')) localStorage.setItem(kept, localStorage.getItem(kept) ?? '*');
      }, hintsKept);
      const { found } = faults;
      // What a request's answer says is noted with the answer.
      context.on(
        'console',
        (message) =>
          message.type() === 'error' && !/^Failed to load resource/.test(message.text()) && found.push(message.text()),
      );
      context.on('weberror', (error) => found.push(`uncaught: ${error.error().message}`));
      context.on('requestfailed', (request) => {
        const reason = request.failure()?.errorText ?? '';
        if (!stopped.test(reason)) found.push(`${reason} ${request.method()} ${new URL(request.url()).pathname}`);
      });
      context.on('response', (answer) => {
        if (answer.status() >= 400)
          found.push(`${answer.status()} ${answer.request().method()} ${new URL(answer.url()).pathname}`);
      });
      await use();
      const unexpected = found.filter((fault) => !faults.allowed.some((pattern) => pattern.test(fault)));
      if (unexpected.length > 0 && info.status === info.expectedStatus)
        throw new Error(`Faults that the test does not name:\n${[...new Set(unexpected)].join('\n')}`);
    },
    { auto: true },
  ],
});

/**
 * Lets the server be away for every window of a browser: nothing gets through, and lines for events break. Asked for
 * before a window opens.
 * @param hasLines whether there are any; of windows that are all in front, as in a test, a browser has lines for six only
 * @returns takes the server away, and brings it back
 */
export async function farServer(
  context: BrowserContext,
  hasLines = true,
): Promise<{ away(): Promise<void>; back(): Promise<void> }> {
  await context.addInitScript((has) => {
    // Workers that windows share are out of reach for a test.
    Reflect.deleteProperty(window, 'SharedWorker');
    if (!has) {
      const noLine = class extends EventTarget {
        static readonly CLOSED = 2;
        readonly readyState = 2;
        close = () => undefined;
      };
      return void Object.assign(window, { EventSource: noLine });
    }
    const Line = window.EventSource;
    window.EventSource = class extends Line {
      constructor(address: string | URL) {
        super(address);
        const cut = () => {
          this.close();
          this.dispatchEvent(new Event('error'));
        };
        window.addEventListener('cut-lines', cut, { once: true });
      }
    };
  }, hasLines);
  return {
    away: async () => {
      await context.route('**/*', (route) => route.abort());
      for (const page of context.pages()) await page.evaluate(() => window.dispatchEvent(new Event('cut-lines')));
    },
    back: () => context.unroute('**/*'),
  };
}

/** Begins an empty project from the first screen and waits for its place for footage. */
export async function newProject(page: Page, name: string): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'Empty project' }).click();
  await page.getByLabel('Name of the project').fill(name);
  await page.getByRole('button', { name: 'Create' }).click();
  await base.expect(page.getByText('Nothing in here yet')).toBeVisible();
}

/** Milliseconds without a change after which a screen counts as laid out. */
const quiet = 400;
/** Waits until nothing has changed on a screen for a while; a screen that always changes is taken as it is after a while. */
export const settled = (page: Page): Promise<void> =>
  page.evaluate(
    ([still, most]) =>
      new Promise<void>((done) => {
        const end = () => {
          observer.disconnect();
          done();
        };
        let timer = setTimeout(end, still);
        const observer = new MutationObserver(() => {
          clearTimeout(timer);
          timer = setTimeout(end, still);
        });
        observer.observe(document.body, { childList: true, subtree: true, attributes: true, characterData: true });
        setTimeout(end, most);
      }),
    [quiet, 20 * quiet] as const,
  );

/** How many changes of all documents wait in the browser until the server has confirmed them. */
export const unsaved = (page: Page): Promise<number> =>
  page.evaluate(
    () =>
      new Promise<number>((done) => {
        const opening = indexedDB.open('bright-reel');
        opening.onsuccess = () => {
          const database = opening.result;
          const counting = database.transaction('changes').objectStore('changes').count();
          counting.onsuccess = () => {
            database.close();
            done(counting.result);
          };
        };
      }),
  );

const axeSource = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
/** What axe finds wrong with a screen as it stands, each with up to three places. */
export async function axeFinds(page: Page, rules?: readonly string[]): Promise<string[]> {
  // A page takes no script in that is not its own, so it is evaluated.
  await page.evaluate(axeSource);
  return page.evaluate(async (only) => {
    const { violations } = await (
      window as unknown as {
        axe: {
          run(options: object): Promise<{ violations: { id: string; help: string; nodes: { html: string }[] }[] }>;
        };
      }
    ).axe.run(only ? { runOnly: only } : {});
    return violations.map(
      (each) =>
        `${each.id}: ${each.help}: ${each.nodes
          .slice(0, 3)
          .map((node) => node.html.slice(0, 140))
          .join(' | ')}`,
    );
  }, rules);
}
