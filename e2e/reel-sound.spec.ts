import { expect, test } from './test';

const demo = '/projects/0b0a7000-0000-4000-8000-000000000001';

test('music under a reel, a quieter piece, loudness to a target; the finished file is measured', async ({ page }) => {
  await page.goto(`${demo}/moments?view=scenes`);
  await expect(page.getByTestId('scene-count')).toHaveText(/scenes/);
  for (const key of ['Home', ']', '3', ']', ']', '3']) await page.keyboard.press(key);
  await page.getByLabel('Show scenes').selectOption('brick');
  await expect(page.getByTestId('scene-count')).toHaveText(/^2 scenes/);
  await page.keyboard.press('r');
  await expect(page).toHaveURL(/reels\/[0-9a-f-]{36}/);
  await page.getByRole('slider', { name: 'Sound' }).focus();
  for (let step = 0; step < 6; step++) await page.keyboard.press('ArrowLeft');
  await expect(page.getByText('-3 dB')).toBeVisible();
  await page.getByRole('tab', { name: 'Sound' }).click();
  await page.getByRole('combobox', { name: /^Music/ }).selectOption({ label: 'paper-sails.m4a, 1:14' });
  await expect(page.getByRole('img', { name: 'Level of the music along the reel' })).toBeVisible();
  await page.getByRole('slider', { name: 'Under speech' }).focus();
  for (let step = 0; step < 3; step++) await page.keyboard.press('ArrowRight');
  await expect(page.getByText('−15 dB')).toBeVisible();
  await page.getByRole('combobox', { name: /^Loudness/ }).selectOption('-23');
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('combobox', { name: /^Loudness/ })).toHaveValue('');
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByRole('combobox', { name: /^Loudness/ })).toHaveValue('-23');
  await page.reload();
  await page.getByRole('tab', { name: 'Sound' }).click();
  await expect(page.getByText('−15 dB')).toBeVisible();
  await page.getByRole('button', { name: 'Render' }).click();
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(page).toHaveURL(/outputs/);
  const row = page.locator('tbody tr').first();
  await expect(row).toHaveAttribute('data-state', 'done', { timeout: 120_000 });
  await expect(row).toContainText('LUFS');
  const [, lufs, peak] = /(-?\d+\.\d) LUFS, (-?\d+\.\d) dBTP/.exec(await row.innerText())!;
  expect(Math.abs(Number(lufs) + 23)).toBeLessThan(0.6);
  expect(Number(peak)).toBeLessThanOrEqual(-1);
});
