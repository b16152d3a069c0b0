import { readFileSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Page } from './test';

const demo = '/projects/0b0a7000-0000-4000-8000-000000000001';

async function takeAway(page: Page, name: string): Promise<{ file: string; text: string }> {
  await page.getByRole('button', { name: 'Export' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('menuitem', { name }).click();
  const done = await download;
  const file = join(mkdtempSync(join(tmpdir(), 'bright-reel-e2e-')), done.suggestedFilename());
  await done.saveAs(file);
  return { file, text: readFileSync(file, 'utf8') };
}

test('a reel goes out in open formats and comes in again the same; what is not found is asked for', async ({
  page,
  allow,
}) => {
  allow(/^422 POST \/projects\/[\w-]+\/reels\/import\.data/);
  await page.goto(`${demo}/moments`);
  await expect(page.getByTestId('count')).toHaveText(/^[1-9]\d* moments, /);
  await page.keyboard.press('r');
  await expect(page).toHaveURL(/reels\/[0-9a-f-]{36}/);
  const names = page.locator('[data-piece] .sr-only');
  await expect(names.first()).toBeAttached();
  const pieces = await names.allTextContents();
  const extent = await page.getByTestId('extent').innerText();
  const otio = await takeAway(page, 'OpenTimelineIO');
  const edl = await takeAway(page, 'CMX 3600 EDL');
  expect(edl.text).toMatch(/^TITLE: .*\r\nFCM: NON-DROP FRAME\r\n\r\n001 {2}/);
  expect((await takeAway(page, 'SubRip')).text).toMatch(/^1\n00:00:\d\d,\d{3} --> /);
  expect((await takeAway(page, 'Table of pieces')).text.trim().split('\r\n')).toHaveLength(pieces.length + 1);

  for (const [file, isEdl] of [
    [otio.file, false],
    [edl.file, true],
  ] as const) {
    await page.goto(`${demo}/reels`);
    await page.getByLabel('Reel of another program').setInputFiles(file);
    if (isEdl) await page.getByRole('button', { name: 'Bring in', exact: true }).click();
    await expect(page).toHaveURL(/reels\/[0-9a-f-]{36}/);
    await expect(names).toHaveText(pieces);
    if (!isEdl) expect(await page.getByTestId('extent').innerText()).toBe(extent);
  }

  await page.goto(`${demo}/reels`);
  const lost = join(mkdtempSync(join(tmpdir(), 'bright-reel-e2e-')), 'lost.otio');
  writeFileSync(lost, otio.text.replaceAll('race-day.mp4', 'gone.mp4').replace(/"sha256": "[^"]*"/g, '"sha256": null'));
  await page.getByLabel('Reel of another program').setInputFiles(lost);
  await expect(page.getByText(/One file was not found/)).toBeVisible();
  await page.getByRole('combobox', { name: 'gone.mp4' }).selectOption('race-day.mp4');
  await page.getByRole('button', { name: 'Make the reel' }).click();
  await expect(names).toHaveText(pieces);

  await page.goto(`${demo}/reels`);
  const broken = join(mkdtempSync(join(tmpdir(), 'bright-reel-e2e-')), 'broken.edl');
  writeFileSync(broken, 'TITLE: X\n001  TAPE  V  C  00:00:01:00 00:00:04:00 01:00:00:00 01:00:03:77\n');
  await page.getByLabel('Reel of another program').setInputFiles(broken);
  await page.getByRole('button', { name: 'Bring in', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('Line 2: "01:00:03:77" has a part out of range');
});
