import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, newProject, type Page, test } from './test';

const demo = '/projects/0b0a7000-0000-4000-8000-000000000001';

test('the reading report: charts, runs, and sensitivities that are followed at once and kept', async ({ page }) => {
  await page.goto(`${demo}/footage`);
  await page.getByRole('link', { name: 'race-day.mp4' }).click();
  await expect(page.getByTestId('decided')).toBeVisible();
  await expect(page.locator('.recharts-area-curve')).toHaveCount(12);
  const shaky = page.locator('dl div', { hasText: 'shaky runs' });
  await page.getByRole('tab', { name: 'Found' }).click();
  await expect(shaky).toContainText(/1, 0:1\d/);
  await expect(page.getByText('What steadying would cost')).toBeVisible();
  await page.getByRole('tab', { name: 'Sensitivities' }).click();
  await page.getByRole('slider', { name: 'Shaky from' }).focus();
  await page.keyboard.press('End');
  await page.getByRole('button', { name: 'Use in this project' }).click();
  await expect(page.getByText('Saved. The page and the choice follow.')).toBeVisible();
  await page.getByRole('tab', { name: 'Found' }).click();
  await expect(shaky).toHaveCount(0);
  await page.reload();
  await expect(page.getByRole('slider', { name: 'Shaky from' })).toHaveAttribute('aria-valuenow', '1');
  await page.getByRole('button', { name: 'Back to the usual' }).click();
  await expect(page.getByRole('slider', { name: 'Shaky from' })).toHaveAttribute('aria-valuenow', '0.35');
  await expect(page.getByText('Saved. The page and the choice follow.')).toBeVisible();
});

test('people: named, joined, parted again; it stays', async ({ page }) => {
  await page.goto(`${demo}/footage/people`);
  const cards = page.locator('main li');
  await expect(cards).toHaveCount(6);
  const name = (index: number) => cards.nth(index).getByRole('textbox');
  await name(0).fill('Presenter');
  await name(0).press('Enter');
  await expect(page.getByRole('button', { name: 'Appearances of Presenter' })).toBeVisible();
  await page.getByRole('button', { name: 'Appearances of Presenter' }).click();
  const before = await page.getByRole('complementary').getByRole('checkbox').count();
  await page.getByLabel('Join Presenter with').selectOption({ index: 1 });
  await expect(cards).toHaveCount(5);
  await page.reload();
  await expect(cards).toHaveCount(5);
  await page.getByRole('button', { name: 'Appearances of Presenter' }).click();
  const boxes = page.getByRole('complementary').getByRole('checkbox');
  expect(await boxes.count()).toBeGreaterThan(before);
  await boxes.first().check();
  await page.getByRole('button', { name: 'Somebody else' }).click();
  await expect(cards).toHaveCount(6);
  await page
    .getByRole('button', { name: /^Hide / })
    .last()
    .click();
  await expect(page.getByRole('button', { name: /^Show / })).toHaveCount(1);
});

test('words: read, corrected in place, a broken text is refused with a sentence', async ({ page, allow }) => {
  allow(/^422 POST \/media\/[\w-]+\/words\.data/);
  await page.goto(`${demo}/moments?at=20`);
  await expect(page.getByTestId('count')).toHaveText(/^[1-9]\d* moments, /);
  await page.getByRole('tab', { name: 'Words' }).click();
  const column = page.locator('aside');
  await expect(column.getByText('race-day.mp4:')).toBeVisible();
  const correct = async (from: string, to: string) => {
    await column.getByRole('button', { name: from, exact: true }).first().dblclick();
    const field = page.getByLabel('Correct the sentence');
    await field.fill((await field.inputValue()).replace(from, to));
    await field.press('Enter');
    await expect(column.getByRole('button', { name: to, exact: true }).first()).toBeVisible();
  };
  await correct('motor.', 'engine.');
  await page.reload();
  await page.getByRole('tab', { name: 'Words' }).click();
  await correct('engine.', 'motor.');
  const folder = mkdtempSync(join(tmpdir(), 'bright-reel-e2e-'));
  writeFileSync(join(folder, 'broken.srt'), 'no times in here');
  await page.locator('input[aria-label="Timed or plain text"]').setInputFiles(join(folder, 'broken.srt'));
  await expect(page.getByRole('alert')).toContainText('No lines with times were found');

  // A text without times is aligned to the sound; what stood there stays beside it, and comes again.
  const blocks = readFileSync('demo/media/race-day.srt', 'utf8').trim().split(/\n\n+/);
  const lines = blocks.map((block) => block.split('\n').slice(2).join(' '));
  await page.getByRole('button', { name: 'Paste a text' }).click();
  await page.getByLabel('Text to align').fill([...lines, 'Nobody said umbrella.'].join('\n'));
  await page.getByRole('button', { name: 'Align it to the sound' }).click();
  await page.getByRole('button', { name: 'Show the new text' }).click();
  await expect(page.getByText('The pasted text is being aligned')).toBeVisible();
  await expect(column.getByText(/of the text not said, struck out/)).toBeVisible({ timeout: 120_000 });
  await page.reload();
  await page.getByRole('tab', { name: 'Words' }).click();
  await expect(column.getByText(/of the text not said, struck out/)).toBeVisible();
  // What is doubtful is put right by keyboard alone, one place after the other.
  await page.keyboard.press('Alt+w');
  const field = page.getByLabel('What is said here');
  await expect(column.getByText(/^\d+ of \d+ doubtful places$/)).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(column.getByText(/, 1 put right$/)).toBeVisible();
  await expect(field).toBeFocused();
  await page.keyboard.type('dry socks');
  await page.keyboard.press('Enter');
  await expect(column.getByText(/, 2 put right$/)).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(column.getByRole('button', { name: 'socks', exact: true }).first()).toBeVisible();
  await column.getByRole('button', { name: 'Show again' }).first().click();
  await expect(column.getByText(/of the text not said/)).toBeHidden();
});

async function project(page: Page, name: string) {
  await newProject(page, name);
}

test('a long file: first moments while it is being read; then only a part of it is read', async ({ page, allow }) => {
  allow(/^422 POST \/projects\/[\w-]+\/footage\/[\w-]+\.data/);
  // Everything before it in the queue is read first; on a slow machine that takes minutes.
  test.setTimeout(900_000);
  const film = join(mkdtempSync(join(tmpdir(), 'bright-reel-e2e-')), 'long day.mp4');
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-ss',
    '60',
    '-t',
    '60',
    '-i',
    'demo/media/race-day.mp4',
    '-vf',
    'hue=h=10',
    '-c:v',
    'libx264',
    '-preset',
    'ultrafast',
    '-crf',
    '30',
    '-g',
    '30',
    '-c:a',
    'aac',
    film,
  ]);
  await project(page, 'A long day');
  await page.getByLabel('Files', { exact: true }).setInputFiles(film);
  const row = page.getByRole('row', { name: /long day/ });
  await expect(row).toContainText('so far:', { timeout: 300_000 });
  await expect(row).toContainText(/faces? · \d+ % talk/);
  await expect(row).not.toContainText('being read', { timeout: 300_000 });
  await page.getByRole('link', { name: 'long day.mp4' }).click();
  await page.getByLabel('Read to').fill('0:00');
  await page.getByLabel('Read from').fill('soon');
  await page.getByRole('button', { name: 'Read this part' }).click();
  await expect(page.getByRole('alert')).toContainText('minutes and seconds');
  await page.getByLabel('Read from').fill('0:10');
  await page.getByLabel('Read to').fill('0:30');
  await page.getByRole('button', { name: 'Read this part' }).click();
  await expect(page.getByTestId('decided')).toBeVisible();
  await expect.poll(async () => page.locator('[title^="unread"]').count(), { timeout: 240_000 }).toBe(2);
});
