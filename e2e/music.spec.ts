import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, newProject, type Page, test } from './test';

const demo = '/projects/0b0a7000-0000-4000-8000-000000000001';
const slots = (page: Page) => page.locator('[data-slot]');
const counted = async (page: Page) => Number(/(\d+) slot/.exec(await page.getByTestId('cuts').innerText())![1]);
/** Which piece each slot shows, or “empty”; a slot that goes over two lines stands twice. */
const shown = async (page: Page) =>
  slots(page).evaluateAll((all) => [
    ...new Map(
      all.map((each) => [each.getAttribute('data-slot'), each.getAttribute('data-filled') ?? 'empty']),
    ).values(),
  ]);

async function open(page: Page, song: string) {
  await page.goto(`${demo}/music`);
  await expect(page).toHaveURL(/music\/[0-9a-f-]{36}/);
  const choose = page.getByRole('combobox', { name: 'Music' });
  await expect(choose).toBeVisible({ timeout: 60_000 });
  const id = await choose.locator('option', { hasText: song }).getAttribute('value');
  await choose.selectOption(id);
  await expect(page).toHaveURL(new RegExp(id!));
  await expect(choose).toHaveValue(id!, { timeout: 60_000 });
  await expect(slots(page).first()).toBeVisible({ timeout: 120_000 });
  await expect(page.getByTestId('cuts')).toContainText(/\d+ pieces/, { timeout: 60_000 });
  await expect
    .poll(async () => (await shown(page)).filter((each) => each !== 'empty').length, { timeout: 60_000 })
    .toBeGreaterThan(5);
}

test('a montage by machine: heard, filled, played in step, put right, and made a reel that follows', async ({
  page,
}) => {
  await open(page, 'paper-sails');
  await expect(page.getByTestId('tempo')).toHaveText('112.0 bpm · 4 beats a bar');
  const byMachine = await counted(page);
  expect(byMachine).toBeGreaterThan(30);
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  await expect(page.getByTestId('place')).toHaveText(/0:0[1-9]\.\d · bar [1-5] · beat \d/);
  await page.keyboard.press('Space');

  await page.getByRole('button', { name: 'Half' }).click();
  await expect(page.getByTestId('tempo')).toHaveText(/^56\.0 bpm/);
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('tempo')).toHaveText(/^112\.0 bpm/);
  await page.getByRole('button', { name: '8', exact: true }).click();
  await page.getByRole('button', { name: 'Everywhere' }).click();
  await expect.poll(() => counted(page)).toBeLessThan(byMachine / 2);
  const sparse = await counted(page);
  await page.locator('[data-section]').nth(1).click();
  await page.keyboard.press('1');
  await page.getByRole('button', { name: 'Follow the energy' }).click();
  await expect.poll(() => counted(page)).toBe(byMachine);
  await page.keyboard.press('Control+z');
  expect(sparse).toBeGreaterThan(3);

  await page.keyboard.press('r');
  await expect(page).toHaveURL(/reels\/[0-9a-f-]{36}/);
  await expect(page.locator('[data-piece]').first()).toBeVisible();
  const made = await page.locator('[data-piece]').count();
  await page.getByRole('link', { name: 'its slots' }).click();
  await expect(slots(page).first()).toBeVisible();
  await expect.poll(() => counted(page)).toBe(made);
  await page.getByRole('button', { name: 'Put the beats right' }).click();
  await page.getByRole('button', { name: '10 ms later' }).click();
  await page.getByRole('button', { name: '10 ms later' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('save-state')).toHaveText('Saved');
  await page.getByRole('link', { name: 'Its reel' }).click();
  await expect(page.locator('[data-piece]')).toHaveCount(made);
  await page.getByRole('tab', { name: 'Versions' }).click();
  await expect(page.getByText('followed the slots of the montage').first()).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Redo' })).toBeEnabled();
});

test('a montage by ear: eleven marks tapped, filled, one swapped, three locked, filled again, rendered', async ({
  page,
}) => {
  test.setTimeout(600_000);
  await open(page, 'dry-shoes');
  // At a second try the marks of the first are still there.
  const clear = page.getByRole('button', { name: 'Clear all' });
  if (await clear.isVisible()) await clear.click();
  await page.keyboard.press('Home');
  await page.keyboard.press('t');
  await page.keyboard.press('Space');
  await expect(page.getByTestId('place')).not.toHaveText(/^0:00\.[0-3]/);
  // Taps lie apart in the music, whatever the machine's pace: two at one place would be one mark.
  const played = async () =>
    (/(\d+):(\d+\.\d)/.exec(await page.getByTestId('place').innerText()) ?? ['', '0', '0'])
      .slice(1)
      .reduce((sum, part) => sum * 60 + Number(part), 0);
  for (let tap = 0, last = 0; tap < 10; tap++) {
    await expect.poll(played, { intervals: [50] }).toBeGreaterThan(last + 0.5);
    await page.keyboard.press('t');
    last = await played();
    await expect(page.getByTestId('marks')).toHaveText(`${tap + 2} marks`);
  }
  await page.keyboard.press('Space');
  await expect(page.getByTestId('marks')).toHaveText('11 marks');
  // The music ends soon after the last mark.
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('o');
  await page.getByRole('button', { name: 'Cut on the marks' }).click();
  await expect.poll(() => counted(page)).toBe(11);
  const first = await shown(page);
  expect(first.every((each) => each !== 'empty')).toBe(true);

  await slots(page).nth(4).click();
  await page.keyboard.press('x');
  await expect.poll(async () => (await shown(page))[4]).not.toBe(first[4]);
  const swapped = await shown(page);
  for (const index of [1, 4, 7]) {
    await slots(page).nth(index).click();
    await page.keyboard.press('l');
    await expect(slots(page).nth(index)).toHaveAttribute('aria-label', /locked$/);
  }
  await page.keyboard.press('a');
  await expect.poll(() => shown(page)).not.toEqual(swapped);
  const again = await shown(page);
  for (const index of [1, 4, 7]) expect(again[index]).toBe(swapped[index]);
  await page.getByRole('button', { name: 'Onto beats' }).click();

  // Where the cuts are to be, as the reel says.
  await page.getByRole('button', { name: 'Make reel' }).click();
  await expect(page).toHaveURL(/reels\/[0-9a-f-]{36}/);
  await expect(page.locator('[data-piece]')).toHaveCount(11);
  await page.getByRole('button', { name: 'Render' }).click();
  await page.getByLabel('Resolution').fill('240');
  await page.getByLabel('Quality').selectOption('draft');
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(page).toHaveURL(/outputs/);
  await expect(page.locator('tbody tr').first()).toHaveAttribute('data-state', 'done', { timeout: 300_000 });
  const download = page.waitForEvent('download');
  await page.locator('tbody tr').first().getByRole('link', { name: 'Download' }).click();
  const file = await (await download).path();
  const streams = execFileSync('ffprobe', [
    '-v',
    'error',
    '-show_entries',
    'stream=codec_type',
    '-of',
    'csv=p=0',
    file,
  ]).toString();
  expect(streams).toContain('video');
  expect(streams).toContain('audio');
});

test('what has no beat says so and can be cut on marks; a broken file never gets here', async ({ page }) => {
  const folder = mkdtempSync(join(tmpdir(), 'bright-reel-e2e-'));
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    'sine=220:d=8',
    '-af',
    'afade=t=in:d=2',
    join(folder, 'humming.m4a'),
  ]);
  writeFileSync(join(folder, 'broken.mp3'), 'this is no music');
  await newProject(page, 'Hum');
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles([join(folder, 'humming.m4a'), join(folder, 'broken.mp3')]);
  await expect(page.getByRole('row', { name: /^Choose broken\.mp3/ })).toContainText('This is not a video', {
    timeout: 60_000,
  });
  await expect(page.getByRole('row', { name: /^Choose humming\.m4a/ })).toContainText('0:08', { timeout: 60_000 });
  await page.getByRole('link', { name: 'Montage' }).click();
  await expect(page.getByTestId('tempo')).toBeVisible({ timeout: 60_000 });
  await expect(page.getByTestId('tempo')).toHaveText('no beats heard');
  await expect(page.getByRole('combobox', { name: 'Music' }).locator('option')).toHaveCount(1);
  await page.getByRole('button', { name: 'Everywhere' }).click();
  await expect(page.getByRole('alert')).toContainText('Tap along to set marks');
  await page.keyboard.press('t');
  await expect(page.getByTestId('marks')).toHaveText('1 mark');
});
