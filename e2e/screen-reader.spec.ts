/**
 * The three journeys as a screen reader sees them: only what stands in the browser's tree of roles and names is used, and
 * what has the focus is pressed by key. On the way every screen is checked for what a reader needs: landmarks, one
 * heading that says where one is, and a name for whatever takes the focus (WCAG 2.2, 1.3.1, 2.4.6, 4.1.2).
 */
import type { CDPSession } from '@playwright/test';
import { expect, type Page, test } from './test';

const demo = '/projects/0b0a7000-0000-4000-8000-000000000001';

interface Heard {
  role: string;
  name: string;
  level: number | null;
  focusable: boolean;
  element: number | undefined;
}

class Reader {
  private constructor(
    private readonly page: Page,
    private readonly session: CDPSession,
  ) {}
  static async of(page: Page): Promise<Reader> {
    return new Reader(page, await page.context().newCDPSession(page));
  }
  async tree(): Promise<Heard[]> {
    const { nodes } = await this.session.send('Accessibility.getFullAXTree');
    return nodes
      .filter(({ ignored }) => !ignored)
      .map(({ role, name, properties = [], backendDOMNodeId }) => {
        const of = (wanted: string) => properties.find((each) => each.name === wanted)?.value.value as unknown;
        return {
          role: String(role?.value ?? ''),
          name: String(name?.value ?? '').trim(),
          level: (of('level') as number | undefined) ?? null,
          focusable: of('focusable') === true,
          element: backendDOMNodeId,
        };
      });
  }
  /** Waits until something of a role and name is there. */
  async find(role: string, name: RegExp): Promise<Heard> {
    let found: Heard | undefined;
    await expect
      .poll(
        async () => (found = (await this.tree()).find((each) => each.role === role && name.test(each.name)))?.name,
        {
          message: `${role} ${name.source}`,
          timeout: 60_000,
        },
      )
      .toBeDefined();
    return found!;
  }
  /** Goes to it and presses a key there. */
  async press(role: string, name: RegExp, key = 'Enter'): Promise<void> {
    const { element } = await this.find(role, name);
    await this.session.send('DOM.focus', { backendNodeId: element! });
    await this.page.keyboard.press(key);
  }
  /** What a screen lacks for somebody who hears it. */
  async lacks(): Promise<string[]> {
    const tree = await this.tree();
    const count = (role: string) => tree.filter((each) => each.role === role).length;
    const firsts = tree.filter(({ role, level }) => role === 'heading' && level === 1);
    const levels = tree.flatMap(({ role, level }) => (role === 'heading' && level ? [level] : []));
    const quiet = ['RootWebArea', 'generic', 'none', 'Iframe'];
    return [
      ...(count('main') === 1 ? [] : [`${count('main')} main landmarks`]),
      ...(count('banner') === 1 ? [] : [`${count('banner')} banners`]),
      ...(firsts.length === 1
        ? []
        : [`${firsts.length} headings of the first level: ${firsts.map(({ name }) => name).join(', ')}`]),
      ...levels.flatMap((level, index) =>
        index > 0 && level > levels[index - 1]! + 1
          ? [`a heading of level ${level} after one of ${levels[index - 1]}`]
          : [],
      ),
      ...tree.flatMap(({ role, name, focusable }) =>
        focusable && !name && !quiet.includes(role) ? [`a ${role} without a name`] : [],
      ),
    ];
  }
}

/** How often live regions say something anew within some seconds. */
const saidWithin = (page: Page, seconds: number) =>
  page.evaluate(
    (wait) =>
      new Promise<string[]>((resolve) => {
        const said: string[] = [];
        const observer = new MutationObserver((changes) => {
          for (const { target } of changes) {
            const region = (target instanceof Element ? target : target.parentElement)?.closest(
              '[role=status], [role=alert], [aria-live]:not([aria-live=off])',
            );
            if (region) said.push(region.textContent);
          }
        });
        observer.observe(document.body, { subtree: true, childList: true, characterData: true });
        setTimeout(() => (observer.disconnect(), resolve(said)), wait * 1000);
      }),
    seconds,
  );

test('a highlight reel, heard: from the projects to a file', async ({ page }) => {
  test.setTimeout(300_000);
  const reader = await Reader.of(page);
  await page.goto('/');
  expect(await reader.lacks()).toEqual([]);
  await reader.press('link', /^Pond Regatta/);
  await reader.find('slider', /^Waterline/);
  await expect(page.getByTestId('count')).toHaveText(/^[1-9]\d* moments, /);
  expect(await reader.lacks()).toEqual([]);

  await page.keyboard.press('Space');
  const said = await saidWithin(page, 4);
  await page.keyboard.press('k');
  expect(said.length, said.join(' | ')).toBeLessThan(3);

  await reader.press('button', /^Make reel/);
  await reader.find('image', /^The reel at the playhead/);
  expect(await reader.lacks()).toEqual([]);
  await reader.press('button', /^Render/);
  await reader.press('button', /^Start$/);
  await expect(page).toHaveURL(/outputs/);
  expect(await reader.lacks()).toEqual([]);
  await expect(page.locator('[data-state=done]').first()).toBeVisible({ timeout: 200_000 });
  const download = page.waitForEvent('download');
  await reader.press('link', /^Download/);
  expect((await download).suggestedFilename()).toMatch(/\.mp4$/);
});

test('shorts and a montage, heard', async ({ page }) => {
  test.setTimeout(300_000);
  const reader = await Reader.of(page);
  await page.goto(`${demo}/footage`);
  expect(await reader.lacks()).toEqual([]);
  await reader.press('link', /^Shorts/);
  await reader.find('button', /^Find shorts/);
  expect(await reader.lacks()).toEqual([]);
  await reader.press('button', /^Find shorts/);
  await reader.find('button', /^Short 1/);
  expect(await reader.lacks()).toEqual([]);

  await reader.press('link', /^Montage/);
  await expect(page).toHaveURL(/music/);
  await reader.find('region', /^The music, its beats and slots/);
  expect(await reader.lacks()).toEqual([]);
  await reader.press('button', /^Slot 1,/);
  await reader.press('button', /^Next best/);
  await reader.press('link', /^Reels/);
  await expect(page).toHaveURL(/reels$/);
  expect(await reader.lacks()).toEqual([]);
  await page.goto(`${demo}/footage/people`);
  await reader.find('heading', /^People/);
  expect(await reader.lacks()).toEqual([]);
  await page.goto(`${demo}/variants`);
  await reader.find('heading', /^Variants/);
  expect(await reader.lacks()).toEqual([]);
});
