/**
 * Several people in one project: each sees what the others do, and nobody's work is lost. Screens hear of it by events only:
 * nothing that they ask for by themselves would show it.
 */
import { expect, farServer, test, unsaved, type Page } from './test';

const demo = '/projects/0b0a7000-0000-4000-8000-000000000001';
const pieces = (page: Page) => page.locator('[data-piece]').count();

async function openReel(page: Page): Promise<number> {
  await page.goto(`${demo}/moments`);
  await page.getByRole('button', { name: /Make reel/ }).click();
  await expect(page).toHaveURL(/reels\/[0-9a-f-]{36}/);
  await expect(page.locator('[data-piece]').nth(3)).toBeVisible();
  return pieces(page);
}

test('two browsers, one reel: edits show in both, and each takes back its own', async ({ page, browser }) => {
  const count = await openReel(page);
  const other = await browser.newPage();
  await other.goto(page.url());
  await expect.poll(() => pieces(other)).toBe(count);
  await page.keyboard.press('Delete');
  await expect.poll(() => pieces(other)).toBe(count - 1);
  await other.keyboard.press('End');
  await other.keyboard.press('Delete');
  await expect.poll(() => pieces(page)).toBe(count - 2);
  // The one who took the first piece out takes that back; the other's last one stays out.
  await page.keyboard.press('Control+z');
  await expect.poll(() => pieces(other)).toBe(count - 1);
  await expect.poll(() => pieces(page)).toBe(count - 1);
  await other.keyboard.press('Control+z');
  await expect.poll(() => pieces(page)).toBe(count);
  await expect.poll(() => unsaved(page)).toBe(0);
  await other.close();
});

test('one works on while the server is away for them; both changes are in the reel then', async ({
  page,
  browser,
  context,
  allow,
}) => {
  allow(/ERR_(FAILED|CONNECTION_REFUSED|INTERNET_DISCONNECTED)/);
  const server = await farServer(context);
  const count = await openReel(page);
  const other = await browser.newPage();
  await other.goto(page.url());
  await expect.poll(() => pieces(other)).toBe(count);
  await server.away();
  await page.keyboard.press('Delete');
  await page.keyboard.press('Delete');
  await expect.poll(() => pieces(page)).toBe(count - 2);
  await expect(page.getByText('The server does not answer')).toBeVisible();
  await other.keyboard.press('End');
  await other.keyboard.press('Delete');
  await expect.poll(() => unsaved(other)).toBe(0);
  expect(await pieces(other)).toBe(count - 1);
  await server.back();
  await expect.poll(() => pieces(page)).toBe(count - 3);
  await expect.poll(() => pieces(other)).toBe(count - 3);
  await expect.poll(() => unsaved(page)).toBe(0);
  await page.keyboard.press('Control+z');
  await expect.poll(() => pieces(other)).toBe(count - 2);
  await other.close();
});
