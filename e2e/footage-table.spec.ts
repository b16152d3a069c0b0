import { expect, test, type Page } from './test';

const demo = '/projects/0b0a7000-0000-4000-8000-000000000001';
const names = (page: Page) => page.locator('tr[data-item] td:nth-of-type(3) a').allInnerTexts();
const row = (page: Page, name: string) => page.getByRole('row', { name: `Choose ${name}` });

test('the table: sorted, filtered, looked at otherwise; it stays so after a reload', async ({ page }) => {
  await page.goto(`${demo}/footage`);
  // What other tests bring in lies in no bin.
  const bins = page.getByRole('navigation', { name: 'Bins' });
  await bins.getByRole('button', { name: 'Pieces' }).click();
  await page.getByRole('button', { name: 'Length' }).click();
  await expect.poll(async () => (await names(page))[0]).toBe('walk-to-the-pier.mp4');
  await page.getByLabel('Filter by name').fill('pier WALK');
  await expect.poll(() => names(page)).toEqual(['walk-to-the-pier.mp4']);
  await bins.getByRole('button', { name: 'All footage' }).click();
  await page.getByLabel('Filter by name').fill('builder');
  await expect.poll(async () => (await names(page)).length).toBeGreaterThan(1);
  await page.getByLabel('Show', { exact: true }).selectOption({ label: 'Only sound and music' });
  await expect.poll(() => names(page)).toEqual(['builder-voice.m4a']);
  await page.getByRole('button', { name: 'View' }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Talk' }).click();
  await page.getByRole('menuitemradio', { name: 'Large pictures' }).click();
  await page.keyboard.press('Escape');
  await expect(row(page, 'builder-voice.m4a')).toContainText(/6\d %/);
  await page.reload();
  await expect(row(page, 'builder-voice.m4a')).toContainText(/6\d %/);
  await expect.poll(() => names(page)).toEqual(['builder-voice.m4a']);
  await expect(page.getByRole('columnheader', { name: 'Length' })).toHaveAttribute('aria-sort', 'descending');
  await page.getByLabel('Filter by name').fill('nobody');
  await expect(page.getByText('Nothing here fits the filter.')).toBeVisible();
  await page.getByRole('button', { name: 'Show everything' }).click();
  await expect.poll(async () => (await names(page)).length).toBeGreaterThan(10);
  await page.evaluate(() => localStorage.removeItem('bright-reel footage table'));
});

test('by keys alone: choose, rename, undo, open; by the right button: what can be done', async ({ page }) => {
  await page.goto(`${demo}/footage`);
  await expect(row(page, 'race-day.mp4')).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByText('2 chosen')).toBeVisible();
  await page.keyboard.press('Control+a');
  await expect(page.getByText(`${await page.locator('tr[data-item]').count()} chosen`)).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Bring in files' })).toBeVisible();

  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('F2');
  await page.keyboard.type('the first camera');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'the first camera.mp4' })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('link', { name: 'race-day.mp4' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'the first camera.mp4' })).toHaveCount(0);

  await row(page, 'captain-close.mp4').click({ button: 'right' });
  await expect(page.getByText('1 chosen')).toBeVisible();
  await page.getByRole('menuitem', { name: 'Move to bin' }).press('ArrowRight');
  await expect(page.getByRole('menuitem', { name: 'Race day' })).toBeVisible();
  await page.keyboard.press('Escape');
  await row(page, 'captain-close.mp4').click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Take out…' }).click();
  await expect(page.getByText('Take this item out of the project?')).toBeVisible();
  await page.getByRole('button', { name: 'Leave it' }).click();
  await row(page, 'captain-close.mp4').click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Show in Moments' }).click();
  await expect(page).toHaveURL(/moments\?at=/);
});

test('menus on the page and in a reel do what the keys beside them do; the picture takes the room below', async ({
  page,
}) => {
  await page.goto(`${demo}/moments`);
  await page.getByLabel('Target length').fill('0:20');
  await page.keyboard.press('Enter');
  const kept = page.getByText(/kept by hand/).first();
  await expect(kept).toHaveText(/^0 kept by hand, 0/);
  const strip = (await page.locator('[data-line="0"]').boundingBox())!;
  const [x, y] = [strip.x + strip.width * 0.5, strip.y + 20];
  await page.mouse.move(x - 60, y);
  await page.mouse.down();
  await page.mouse.move(x + 60, y, { steps: 5 });
  await page.mouse.up();
  await page.mouse.click(x, y, { button: 'right' });
  await page.getByRole('menuitem', { name: 'Keep', exact: true }).click();
  await expect(kept).toHaveText(/^1 kept by hand, 0/);
  await page.keyboard.press('Control+z');
  await expect(kept).toHaveText(/^0 kept by hand, 0/);
  await page.getByRole('button', { name: /Make reel/ }).click();
  await expect(page).toHaveURL(/reels\/[0-9a-f-]{36}/);

  const pieces = page.locator('[data-piece]');
  await expect(pieces.nth(1)).toBeVisible();
  const count = await pieces.count();
  await pieces.nth(1).click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Split at the playhead' }).click();
  await expect(pieces).toHaveCount(count + 1);
  await pieces.nth(1).click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Ripple delete' }).click();
  await expect(pieces).toHaveCount(count);

  // A reel of one line leaves room; with a picture made large in the column it does not.
  const picture = page.locator('[data-picture]');
  await expect(picture).toHaveAttribute('data-picture', 'below');
  const wide = (await page.getByRole('img', { name: 'The reel at the playhead' }).first().boundingBox())!;
  expect(wide.width).toBeGreaterThan(800);
  await page.keyboard.press('v');
  await expect(picture).toHaveAttribute('data-picture', 'beside');
  await page.keyboard.press('v');
  await expect(picture).toHaveAttribute('data-picture', 'below');
});

test('dark and light: by a key, kept, and there from the first paint', async ({ page }) => {
  await page.goto(`${demo}/footage`);
  const ground = () => page.evaluate(() => getComputedStyle(document.documentElement).backgroundColor);
  expect(await ground()).toBe('rgb(15, 20, 24)');
  await page.keyboard.press('Control+Shift+l');
  await expect.poll(ground).toBe('rgb(241, 239, 233)');
  await page.goto(demo, { waitUntil: 'commit' });
  expect(await ground()).toBe('rgb(241, 239, 233)');
  await page.getByRole('button', { name: 'Dark or light' }).click();
  await page.getByRole('menuitemradio', { name: 'As the system is' }).click();
  await page.emulateMedia({ colorScheme: 'dark' });
  await expect.poll(ground).toBe('rgb(15, 20, 24)');
});
