import { axeFinds, expect, type Page, settled, test } from './test';

const demo = '/projects/0b0a7000-0000-4000-8000-000000000001';
const dock = (page: Page) => page.getByRole('region', { name: /^Open reel/ });
const pieces = async (page: Page) => Number(/(\d+) pieces?/.exec(await dock(page).innerText())?.[1] ?? 0);
const saved = (page: Page) => expect(page.getByTestId('save-state')).toHaveText('Saved');
const timecode = (page: Page) => page.locator('#viewer').getByTestId('timecode').innerText();

async function open(page: Page, query = '') {
  await page.goto(`${demo}/moments${query}`);
  await expect(page.getByTestId('count')).toHaveText(/^[1-9]\d* moments, /);
}
/** Presses keys one after another, as quick as a person would at the most. */
async function press(page: Page, ...keys: string[]) {
  for (const key of keys) await page.keyboard.press(key, { delay: 40 });
}

test('the demo logged by keyboard alone, from the first frame to a selects reel', async ({ page }) => {
  await open(page);
  expect(await timecode(page)).toBe('00:00:00:00');
  const byHand = async () => Number(/(\d+) kept by hand/.exec(await page.locator('footer').innerText())![1]);
  const keptBefore = await byHand();

  await test.step('the first moments: why, keep, to the reel', async () => {
    // Past what was kept by hand already.
    await expect(async () => {
      await press(page, ']');
      await expect(page.getByTestId('because')).toContainText('Passed every limit', { timeout: 1000 });
      // Once the words are there, another take may be in instead.
      await expect(page.getByTestId('remedies')).toContainText(/Out with.*(water up|on )/, { timeout: 5000 });
    }).toPass();
    await press(page, '+', 'Enter');
    await expect(dock(page)).toBeVisible();
    await expect.poll(() => pieces(page)).toBe(1);
    await expect(dock(page)).toContainText('Selects');
  });
  await test.step('marks: in, out, whole shot, markers with notes', async () => {
    await press(page, ']', 'i', 'Shift+ArrowRight', 'Shift+ArrowRight', 'o');
    await expect(page.getByTestId('string-time')).toContainText('2.0 s');
    await press(page, 'Enter');
    await expect.poll(() => pieces(page)).toBe(2);
    await press(page, ']', 'u', 'Enter');
    await expect.poll(() => pieces(page)).toBe(3);
    await press(page, 'Shift+M');
    await page.keyboard.type('start of the race');
    await press(page, 'Enter');
    await press(page, ']', 'm', 'Shift+BracketLeft');
    await expect(page.locator('[data-marker]')).toHaveCount(2);
  });
  await test.step('insert at the playhead of the reel, place above, overwrite', async () => {
    await press(page, 'Backquote', 'Home');
    await expect(dock(page)).toHaveAttribute('data-focused', 'true');
    await expect(dock(page)).toContainText('keys go here');
    await press(page, 'Backquote', ']', 'Shift+Enter');
    await expect.poll(() => pieces(page)).toBe(4);
    await press(page, 'Control+Enter');
    await expect(dock(page).locator('[data-above]')).not.toHaveCount(0);
    await press(page, 'Control+z');
    await expect(dock(page).locator('[data-above]')).toHaveCount(0);
    await press(page, 'Control+z');
    await expect.poll(() => pieces(page)).toBe(3);
    await press(page, 'Control+Shift+z');
    await expect.poll(() => pieces(page)).toBe(4);
  });
  await test.step('the reel under the keys: split, take out, take back', async () => {
    await press(page, 'Backquote', 'Home', 'Shift+ArrowRight', 's');
    await expect.poll(() => pieces(page)).toBe(5);
    await press(page, 'Delete');
    await expect.poll(() => pieces(page)).toBe(4);
    await press(page, 'Control+z', 'Control+z');
    await expect.poll(() => pieces(page)).toBe(4);
    await press(page, 'Backquote');
  });
  await test.step('reload in the middle: everything is as it was', async () => {
    await saved(page);
    // The address follows the playhead at a distance; at the start of a file it is known what it says then.
    await press(page, 'Home');
    await expect(page).toHaveURL(/[?&]at=[\w-]+(~|%7E)0\.000/);
    const [before, place, count] = [page.url(), await timecode(page), await page.getByTestId('count').innerText()];
    await page.reload();
    await expect(page.getByTestId('count')).toHaveText(count);
    await expect.poll(() => timecode(page)).toBe(place);
    await expect.poll(() => pieces(page)).toBe(4);
    await expect(page.locator('[data-marker]')).toHaveCount(2);
    expect(page.url()).toBe(before);
    expect(await byHand()).toBe(keptBefore + 1);
  });
});

test('ask for three things and get them; chips can be changed', async ({ page }) => {
  await open(page);
  const ask = async (text: string) => {
    await press(page, '/');
    await page.getByLabel('Ask for moments in words').fill(text);
    return page.getByRole('list', { name: 'Found stretches' }).getByRole('listitem');
  };
  const talking = await ask('two faces, talking, not shaky');
  await expect(page.locator('[data-chip]')).toHaveText([/^2 faces\d+$/, /^talk\d+$/, /^not shaky\d+$/]);
  await expect.poll(() => talking.count()).toBeGreaterThan(2);
  await expect(talking.first()).toContainText(/2 faces.*talk.*not shaky/);
  await press(page, 'Enter', 'Enter');
  await expect.poll(() => pieces(page)).toBeGreaterThan(0);

  const zooms = await ask('zoom in or whip pan');
  await expect(zooms.first()).toContainText(/zoom in|whip pan/);
  await expect(page.getByText('zoom-on-the-crowd.mp4').first()).toBeVisible();

  const said = await ask('"paddle" in the first ten minutes');
  await expect(said.first()).toContainText('“paddle” is said at');
  await ask('boats and unicorns');
  await expect(page.getByText('not understood: “unicorns”')).toBeVisible();

  // A typing error is taken for what it means, and that can be refused; brackets can be moved.
  await ask('please find boats or somone and talking');
  await expect(page.locator('[data-chip="somebody"]')).toContainText('for “somone”');
  await expect(page.getByText('passed over: “please”, “find”')).toBeVisible();
  await page.getByRole('button', { name: 'or', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Brackets around these two' }).click();
  await expect(page.getByLabel('Ask for moments in words')).toHaveValue('(boats or somone) and talking');
  await page.locator('[data-chip="somebody"]').click();
  await page.getByRole('menuitem', { name: '“somone”, as it stands' }).click();
  await expect(page.getByLabel('Ask for moments in words')).toHaveValue('(boats or "somone") and talking');
  await ask('the two longest talks');
  await expect(page.getByTestId('found-count')).toHaveText(/^2 stretches/);
  await ask('boats and unicorns');
  await page.locator('[data-chip="boat"]').click();
  await page.getByRole('menuitem', { name: 'Without it' }).click();
  await expect(page.getByLabel('Ask for moments in words')).toHaveValue('not boats and unicorns');
  await page.getByRole('button', { name: 'Only these on the page' }).click();
  await expect(page.getByTestId('extent')).toHaveText(/^\d+:\d\d of \d+:\d\d$/);
  await expect(page).toHaveURL(/ask=not\+boats.*show=found|show=found.*ask=not\+boats/);
});

test('part the steady from the shaky; take out silence, keeping one', async ({ page }) => {
  await open(page);
  await press(page, 'Shift+S');
  const parted = page.getByTestId('parted');
  await expect(parted).toHaveText(/^Steady\d+ pieces, \d:\d\dShaky[1-9]\d* pieces?, \d:\d\d$/);
  const before = await parted.innerText();
  await page.getByRole('slider', { name: 'Shaky from' }).focus();
  await page.keyboard.press('End');
  await expect(parted).not.toHaveText(before);
  await page.keyboard.press('Home');
  await page.getByRole('slider', { name: 'More at its ends' }).focus();
  for (let step = 0; step < 4; step++) await page.keyboard.press('ArrowRight');
  await page.getByRole('button', { name: 'Make two reels' }).click();
  await expect(
    page.getByText(/Made “Pond Regatta, steady \d+, \d\d:\d\d” and “Pond Regatta, shaky \d+, \d\d:\d\d”/),
  ).toBeVisible();
  // The same again takes the place of these, and the choice is there.
  await press(page, 'Shift+S');
  await expect(page.getByRole('slider', { name: 'More at its ends' })).toHaveAttribute('aria-valuenow', '0.2');
  await page.getByRole('button', { name: /^Instead of number \d+$/ }).click();
  await expect(parted).toHaveCount(0);

  await press(page, 'q');
  const sentence = page.getByTestId('silence-count');
  await expect(sentence).toHaveText(/^[1-9]\d* silences, /);
  await press(page, ']', ']', '+');
  await expect(sentence).toContainText('1 kept by hand');
  const count = Number((await sentence.innerText()).split(' ')[0]);
  await page.getByRole('slider', { name: 'At least' }).focus();
  for (let step = 0; step < 4; step++) await page.keyboard.press('ArrowRight');
  await expect.poll(async () => Number((await sentence.innerText()).split(' ')[0])).toBeLessThan(count);
  // Steps of a slider that follow closely are one; on a slow machine they may be several.
  await expect(async () => {
    await press(page, 'Control+z');
    await expect(sentence).toHaveText(new RegExp(`^${count} silences, .*1 kept by hand`), { timeout: 1500 });
  }).toPass();
  await saved(page);
  await page.reload();
  await expect(sentence).toHaveText(new RegExp(`^${count} silences, .*1 kept by hand`));
  await press(page, 'r');
  await expect(page).toHaveURL(/reels\/[0-9a-f-]{36}/);
  await expect(page.getByRole('region', { name: /without silence/ })).toBeVisible();
});

test('scenes: tag, join, part, order, and a reel of a tag', async ({ page }) => {
  await page.goto(`${demo}/moments?view=scenes`);
  const count = page.getByTestId('scene-count');
  await expect(count).toHaveText(/^\d+ scenes, 7:12$/);
  const scenes = Number((await count.innerText()).split(' ')[0]);
  const cells = page.locator('[data-scene]');
  const first = await cells.first().getAttribute('data-scene');
  await press(page, 'Home', ']', '2', ']', ']', '2');
  await expect(page.locator('[data-scene]:has([aria-label="tag leaf"])')).toHaveCount(2);
  await press(page, 'n');
  await expect(count).toHaveText(new RegExp(`^${scenes - 1} scenes`));
  await press(page, 'Shift+ArrowRight', 's');
  await expect(count).toHaveText(new RegExp(`^${scenes} scenes`));
  await press(page, 'Home', 'Alt+ArrowRight');
  await expect(cells.nth(1)).toHaveAttribute('data-scene', first!);
  await cells.nth(1).dragTo(cells.nth(3));
  await expect(cells.nth(2)).toHaveAttribute('data-scene', first!);
  await press(page, 'Control+z', 'Control+z');
  await expect(cells.first()).toHaveAttribute('data-scene', first!);
  await page.getByLabel('Show scenes').selectOption('leaf');
  await expect(count).toHaveText(/^2 scenes/);
  await page.getByRole('button', { name: /Reel of these scenes/ }).click();
  await expect(page).toHaveURL(/reels\/[0-9a-f-]{36}/);
  await expect(page.locator('[data-piece]')).toHaveCount(2);
});

test('filters and the bin change what the page shows; the playhead stays on its frame', async ({ page }) => {
  await open(page);
  await press(page, ']', ']');
  const frame = await timecode(page);
  for (const show of ['Show kept', 'Show steady']) {
    await page.getByLabel('Show', { exact: true }).selectOption({ label: show });
    await expect(page.getByTestId('extent')).toHaveText(/^\d+:\d\d of \d+:\d\d$/);
  }
  await expect.poll(() => timecode(page)).toBe(frame);
  await page.getByLabel('Show', { exact: true }).selectOption({ label: 'Show everything' });
  await page.getByLabel('Bin').selectOption({ label: 'Photos' });
  await expect(page.getByTestId('extent')).toHaveText('6 files, 0:24');
  await expect(page.getByTestId('count')).toHaveText(/moments?, /);
});

test('a taste is made, outlives a reload, goes along as a file and comes back in', async ({ page, allow }) => {
  allow(/^422 POST .*\/tastes/);
  await open(page, '?panel=mix');
  const taste = page.getByRole('combobox', { name: 'Taste' });
  await taste.selectOption('New taste …');
  await page.getByLabel('Name of the taste').fill('Village events');
  await page.getByLabel('Name of the taste').press('Enter');
  await expect(page.getByTestId('taste')).toContainText('teaches it');
  await saved(page);
  await page.reload();
  await expect(taste.locator('option:checked')).toHaveText('Village events');
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Export the taste' }).click();
  const file = await (await download).path();
  await page.getByLabel('A taste as a file').setInputFiles(file);
  await expect(taste.locator('option', { hasText: 'Village events' })).toHaveCount(2);
  await page
    .getByLabel('A taste as a file')
    .setInputFiles({ name: 'other.json', mimeType: 'application/json', buffer: Buffer.from('{"tempo": 120}') });
  await expect(page.getByRole('alert')).toContainText('holds no taste');
  for (const left of [1, 0]) {
    await page.getByRole('button', { name: 'Delete the taste' }).click();
    await expect(taste.locator('option', { hasText: 'Village events' })).toHaveCount(left);
    if (left) await taste.selectOption('Village events');
  }
  await expect(page.getByRole('status').filter({ hasText: 'is deleted' })).toBeVisible();
});

test('two windows: what one makes of the mix shows in the other, and a step back there takes back its own', async ({
  page,
  context,
}) => {
  await open(page, '?panel=mix');
  const other = await context.newPage();
  await open(other, '?panel=mix');
  const pressed = (window: Page, name: string) =>
    expect(window.getByRole('button', { name, exact: true })).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('button', { name: 'Scenery' }).click();
  await pressed(other, 'Scenery');
  await other.getByRole('button', { name: 'Action', exact: true }).click();
  await pressed(page, 'Action');
  await press(other, 'Control+z');
  await pressed(page, 'Scenery');
  await pressed(other, 'Scenery');
  await other.getByRole('button', { name: 'Whole event' }).click();
  await pressed(page, 'Whole event');
  await saved(other);
  await other.close();
});

test('two reels on one screen: copy and move, and take back both ends of a move', async ({ page }) => {
  await page.goto(`${demo}/reels`);
  await page
    .getByRole('link', { name: /Pond Regatta, steady/ })
    .first()
    .click();
  await page.getByLabel('Another reel above').selectOption({ label: 'Selects' });
  const upper = page.getByRole('region', { name: /^Above: Selects/ });
  const lower = page.getByRole('region', { name: /^Reel: / });
  const count = (region: typeof upper) => region.locator('[data-piece]').count();
  await expect(upper).toBeVisible();
  await expect.poll(() => count(upper)).toBeGreaterThan(0);
  const [above, below] = [await count(upper), await count(lower)];
  await press(page, 'Backquote');
  await expect(upper).toHaveAttribute('data-focused', 'true');
  await press(page, 'Home', 'Enter');
  await expect.poll(() => count(lower)).toBe(below + 1);
  expect(await count(upper)).toBe(above);
  await press(page, 'Shift+Enter');
  await expect.poll(() => count(lower)).toBe(below + 2);
  await expect.poll(() => count(upper)).toBe(above - 1);
  await expect(upper.locator('[data-moved]')).toHaveCount(1);
  await press(page, 'Control+z');
  await expect.poll(() => count(upper)).toBe(above);
  await expect.poll(() => count(lower)).toBe(below + 1);
  await expect(upper.locator('[data-moved]')).toHaveCount(0);

  // The same with the mouse: a piece is moved to where it is let go, with Ctrl it is copied.
  const [high, low] = [upper.locator('[data-piece]'), lower.locator('[data-piece]')];
  await high.first().dragTo(low.nth(1));
  await expect.poll(() => count(lower)).toBe(below + 2);
  await expect.poll(() => count(upper)).toBe(above - 1);
  await press(page, 'Control+z');
  await expect.poll(() => count(lower)).toBe(below + 1);
  await expect.poll(() => count(upper)).toBe(above);
  await page.keyboard.down('Control');
  await high.first().dragTo(low.nth(1));
  await page.keyboard.up('Control');
  await expect.poll(() => count(lower)).toBe(below + 2);
  expect(await count(upper)).toBe(above);
  await press(page, 'Control+z');
  await expect.poll(() => count(lower)).toBe(below + 1);
});

test('two cameras in step: every piece of the steady reel stays in its place', async ({ page }) => {
  await page.goto(`${demo}/footage`);
  await page.getByRole('button', { name: /^Race day/ }).click();
  await page.getByText('Synchronised cameras').click();
  const row = page.getByRole('row', { name: /^Choose builder-camera-b\.mp4/ });
  await expect(row).toContainText(/begins at 1:05\.[56]/, { timeout: 60_000 });
  await page.getByRole('link', { name: 'Moments' }).click();
  await expect(page.getByTestId('count')).toHaveText(/moments, /);
  await page.getByLabel('Bin').selectOption({ label: 'Race day' });
  await press(page, 'Shift+S');
  // What counts as shaky as the reader has it, whatever was chosen before.
  await page.getByRole('slider', { name: 'Shaky from' }).focus();
  await press(page, 'Home', ...Array<string>(5).fill('ArrowRight'));
  await expect(page.getByRole('slider', { name: 'Shaky from' })).toHaveAttribute('aria-valuenow', '0.35');
  await page.getByRole('button', { name: /^Make (two reels|a reel)$/ }).click();
  await page.getByRole('button', { name: 'Open' }).click();
  await expect(page.getByRole('region', { name: /Race day, steady/ }).first()).toBeVisible();
  await expect(page.locator('[data-above]').first()).toContainText('builder-camera-b.mp4');
  await expect(page.locator('[data-piece]').filter({ hasText: 'Gap' })).toHaveCount(1);
  await page.goto(`${demo}/footage`);
  await page.getByRole('button', { name: /^Race day/ }).click();
  await page.getByText('Synchronised cameras').click();
  await expect(row).not.toContainText('begins at');
});

test('axe finds nothing on any screen, dark or light', async ({ page }) => {
  const reel = async () => {
    await page.goto(`${demo}/reels`);
    return (await page.locator('main li a').first().getAttribute('href'))!;
  };
  const first = await reel();
  const screens = [
    '/',
    `${demo}/footage`,
    `${demo}/footage/people`,
    `${demo}/moments`,
    `${demo}/moments?panel=mix`,
    `${demo}/moments?panel=words&at=30`,
    `${demo}/moments?panel=markers`,
    `${demo}/moments?ask=boats+not+shaky&panel=found`,
    `${demo}/moments?view=scenes`,
    `${demo}/moments?view=silence&panel=silence`,
    `${demo}/moments?reel=${first.split('/').at(-1)!}`,
    `${demo}/reels`,
    first,
    `${demo}/music`,
    `${demo}/outputs`,
    `${demo}/shorts`,
    `${demo}/variants`,
    '/handbook/reels',
    '/storage',
    '/work',
  ];
  await page.goto(`${demo}/footage`);
  screens.push((await page.getByRole('link', { name: 'race-day.mp4' }).getAttribute('href'))!);
  for (const screen of screens) {
    await page.goto(screen);
    await expect(page.locator('main')).toBeVisible();
    await settled(page);
    expect.soft(await axeFinds(page), screen).toEqual([]);
    // What the shade changes is colours alone.
    await page.evaluate(() => void (document.documentElement.dataset.shade = 'light'));
    await page.waitForTimeout(200);
    expect.soft(await axeFinds(page, ['color-contrast']), `${screen}, light`).toEqual([]);
  }
});
