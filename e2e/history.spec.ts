import { expect, test, unsaved, type Page } from './test';

/** One history over all places, and nothing that waits is lost. */
const demo = '/projects/0b0a7000-0000-4000-8000-000000000001';
const pieces = (page: Page) => page.locator('[data-piece]').count();
const byHand = async (page: Page) =>
  Number(/(\d+) kept by hand/.exec(await page.locator('footer').innerText())?.[1] ?? Number.NaN);

/** A reel of its own, open on its screen. */
async function openReel(page: Page): Promise<number> {
  await page.goto(`${demo}/moments`);
  await page.getByRole('button', { name: /Make reel/ }).click();
  await expect(page).toHaveURL(/reels\/[0-9a-f-]{36}/);
  await expect(page.locator('[data-piece]').nth(2)).toBeVisible();
  return pieces(page);
}

test('what was done last is taken back first, in whichever place it was; elsewhere it is said', async ({ page }) => {
  const count = await openReel(page);
  for (let times = 0; times < 2; times++) await page.keyboard.press('Delete');
  await expect.poll(() => pieces(page)).toBe(count - 2);

  await page.getByRole('link', { name: 'Moments', exact: true }).click();
  await expect(page.getByTestId('count')).toBeVisible();
  await expect.poll(() => byHand(page)).not.toBeNaN();
  const kept = await byHand(page);
  // A moment that nobody kept by hand yet.
  await expect(async () => {
    await page.keyboard.press(']');
    await expect(page.getByTestId('because')).toContainText('Passed every limit', { timeout: 1000 });
  }).toPass();
  await page.keyboard.press('+');
  await expect.poll(() => byHand(page)).toBe(kept + 1);
  await page.keyboard.press('Control+z');
  await expect.poll(() => byHand(page)).toBe(kept);
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/^Undone in the reel “/)).toBeVisible();
  await expect.poll(() => unsaved(page)).toBe(0);

  await page.goBack();
  await expect.poll(() => pieces(page)).toBe(count - 1);
  // Redone by the other key for it, first here, then where it was.
  await page.keyboard.press('Control+y');
  await expect.poll(() => pieces(page)).toBe(count - 2);
});

test('ten quick steps back and forth, and a page that is closed at once: all of them arrive', async ({
  page,
  context,
}) => {
  const count = await openReel(page);
  const steps = Math.min(5, count - 2);
  for (let times = 0; times < steps; times++) await page.keyboard.press('Delete');
  for (let times = 0; times < steps; times++) await page.keyboard.press('Control+z');
  for (let times = 0; times < steps - 1; times++) await page.keyboard.press('Control+Shift+z');
  await expect.poll(() => pieces(page)).toBe(count - steps + 1);
  const address = page.url();
  await page.close();
  const next = await context.newPage();
  await next.goto(address);
  await expect.poll(() => unsaved(next)).toBe(0);
  await expect.poll(() => pieces(next)).toBe(count - steps + 1);
  await next.reload();
  await expect.poll(() => pieces(next)).toBe(count - steps + 1);
});

test('a box that has the focus keeps its own keys and gives all others away', async ({ page }) => {
  const count = await openReel(page);
  await page.keyboard.press('Delete');
  await expect.poll(() => pieces(page)).toBe(count - 1);
  await page.getByRole('tab', { name: 'Sound' }).click();
  const select = page.getByRole('combobox', { name: /^Music/ });
  await select.focus();
  await page.keyboard.press('Delete');
  expect(await pieces(page)).toBe(count - 1);
  await page.keyboard.press('Control+z');
  await expect.poll(() => pieces(page)).toBe(count);
});
