import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Page } from './test';

const demo = '/projects/0b0a7000-0000-4000-8000-000000000001';
const piece = (page: Page, index: number) => page.locator('[data-piece]').nth(index);
const extent = async (page: Page) => (await page.getByTestId('extent').innerText()).split(/\s/)[0]!;
const inSeconds = (clock: string) => clock.split(':').reduce((sum, part) => sum * 60 + Number(part), 0);
const seconds = async (page: Page) => inSeconds(await extent(page));

/** A short reel that the machine made, open on its screen. */
async function machineMade(page: Page, target = '0:40') {
  await page.goto(`${demo}/moments`);
  await expect(page.getByLabel('Target length')).toBeVisible();
  await page.getByLabel('Target length').fill(target);
  await page.keyboard.press('Enter');
  // The choice follows the target.
  await expect(async () => {
    const [kept, wanted] = (await page.getByTestId('count').innerText()).match(/\d+:\d\d/g)!.map(inSeconds);
    expect([wanted, kept! <= wanted! + 5]).toEqual([inSeconds(target), true]);
  }).toPass();
  await page.getByRole('button', { name: /Make reel/ }).click();
  await expect(page).toHaveURL(/reels\/[0-9a-f-]{36}/);
  await expect(piece(page, 1)).toBeVisible();
}

test('from a machine-made reel to a changed, titled, steadied, music-backed file with a recorder’s sound; out, gone, in again', async ({
  page,
  allow,
}) => {
  allow(/^422 POST \/projects\/[\w-]+\/looks\.data/);
  test.setTimeout(900_000);
  await machineMade(page);
  // What tests before this one decided changes which pieces they are; it takes three, so that one has others on both sides.
  expect(await page.locator('[data-piece]').count()).toBeGreaterThan(2);

  await test.step('an edge is drawn with its frame in the viewer, and taken back', async () => {
    const before = await seconds(page);
    const box = (await piece(page, 0).boundingBox())!;
    await page.mouse.move(box.x + box.width - 3, box.y + 20);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width - 25, box.y + 20, { steps: 3 });
    await expect(page.getByTestId('cut-frames')).toContainText(/−\d+ frames/);
    await page.mouse.up();
    await expect.poll(() => seconds(page)).toBeLessThan(before);
    await page.keyboard.press('Control+z');
    await expect.poll(() => seconds(page)).toBe(before);
  });

  await test.step('a roll moves the cut and keeps the length; a slip too; in place leaves a gap', async () => {
    const before = await extent(page);
    await piece(page, 1).click();
    await page.keyboard.press('Alt+ArrowLeft');
    await page.keyboard.press('Alt+Shift+ArrowRight');
    expect(await extent(page)).toBe(before);
    await page.keyboard.press('t');
    await page.getByRole('button', { name: 'End 10 frames earlier' }).click();
    expect(await extent(page)).toBe(before);
    await expect(page.getByText(/^Gap, /)).toBeAttached();
    await page.keyboard.press('Control+z');
    await page.keyboard.press('t');
    await expect(page.getByText(/^Gap, /)).toHaveCount(0);
  });

  await test.step('speed, a refusal with its way out, several pieces at once', async () => {
    const before = await seconds(page);
    await piece(page, 0).click();
    await page.getByLabel('Speed in per cent').fill('200');
    await page.keyboard.press('Enter');
    await expect.poll(() => seconds(page)).toBeLessThan(before);
    await page.getByLabel('Speed in per cent').fill('20');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('alert')).toContainText('25 to 400');
    await page.getByRole('button', { name: 'Dismiss this message' }).click();
    await page.getByLabel('Speed in per cent').fill('100');
    await page.keyboard.press('Enter');
    // The head shows tenths; frames that come back may round to the next.
    await expect.poll(async () => Math.abs((await seconds(page)) - before)).toBeLessThan(0.15);
    const count = await page.locator('[data-piece]').count();
    await piece(page, 0).click();
    await page.keyboard.press('Control+c');
    await page.keyboard.press('Home');
    await page.keyboard.press('Control+v');
    await expect(page.locator('[data-piece]')).toHaveCount(count + 1);
    await page.keyboard.press('Control+z');
    await expect(page.locator('[data-piece]')).toHaveCount(count);
  });

  await test.step('a theme, a title, a look that cannot be read', async () => {
    await page.getByRole('tab', { name: 'Look' }).click();
    await page.getByLabel('Theme').selectOption('Morning mist');
    await expect(page.getByText('Dissolve before it').first()).toBeAttached();
    // It brings an opening with the project's name, and an end.
    await expect(page.locator('button[data-title]')).toHaveCount(2);
    await expect(page.locator('button[data-title]').first()).toContainText('Pond Regatta');
    const folder = mkdtempSync(join(tmpdir(), 'bright-reel-e2e-'));
    writeFileSync(join(folder, 'broken.cube'), 'LUT_3D_SIZE 2\n0 0 0\n0 0 nothing\n');
    await page.locator('input[aria-label="Colour table file"]').setInputFiles(join(folder, 'broken.cube'));
    await expect(page.getByRole('alert')).toContainText('Line 3: three numbers are expected');
    writeFileSync(
      join(folder, 'swap.cube'),
      `LUT_3D_SIZE 2\n${[0, 1].flatMap((b) => [0, 1].flatMap((g) => [0, 1].map((r) => `${b} ${g} ${r}`))).join('\n')}\n`,
    );
    await page.locator('input[aria-label="Colour table file"]').setInputFiles(join(folder, 'swap.cube'));
    await expect(page.getByRole('combobox', { name: /^Colour table/ })).toContainText('swap');
    await page.getByRole('tab', { name: 'Titles' }).click();
    const opening = page.getByRole('region', { name: 'Title Pond Regatta', exact: true });
    await opening.getByRole('textbox', { name: 'Text' }).fill('Cardboard regatta');
    await page.keyboard.press('Enter');
    await expect(page.locator('button[data-title]', { hasText: 'Cardboard regatta' })).toBeVisible();
  });

  await test.step('the price of steadying is said first', async () => {
    await page.getByRole('tab', { name: 'Piece' }).click();
    await piece(page, 1).click();
    await expect(page.getByTestId('steady-price')).toContainText(/you lose \d+ % of the picture|Not worth steadying/);
    await page.getByRole('slider', { name: 'Steady' }).focus();
    for (let step = 0; step < 6; step++) await page.keyboard.press('ArrowRight');
    await expect(page.getByTestId('steady-price')).toContainText('At 30 you lose');
  });

  await test.step('the recorder’s sound, found by comparing, nudged', async () => {
    const names = await page
      .locator('aside')
      .getByText(/interview.*\.mp4|builder.*\.mp4/)
      .count();
    let at = -1;
    for (let index = 0; index < (await page.locator('[data-piece]').count()) && at < 0; index++) {
      await piece(page, index).click();
      if ((await page.locator('aside p').first().innerText()).includes('interview')) at = index;
    }
    test.info().annotations.push({ type: 'pieces of the interview', description: `${names} ${at}` });
    if (at < 0) await piece(page, 0).click();
    await page.getByLabel('Recording that replaces the sound').selectOption({ label: 'builder-voice.m4a' });
    await expect(page.getByTestId('match')).toContainText(/% of the stretches agree/, { timeout: 120_000 });
    if (await page.getByRole('button', { name: 'Replace the sound', exact: true }).isEnabled()) {
      await page.getByRole('button', { name: 'Replace the sound', exact: true }).click();
      await expect(page.locator('[data-above]').first()).toContainText('builder-voice');
      await page.getByRole('button', { name: 'Sound 10 ms later' }).click();
    }
  });

  await test.step('music, and a named version', async () => {
    await page.getByRole('tab', { name: 'Sound' }).click();
    await page.getByRole('combobox', { name: /^Music/ }).selectOption({ label: 'paper-sails.m4a, 1:14' });
    await page.getByRole('tab', { name: 'Versions' }).click();
    await page.getByLabel('Name of the version').fill('for the club');
    await page.getByRole('button', { name: 'Keep as a version' }).click();
    await expect(page.getByText('for the club')).toBeVisible();
    await piece(page, 0).click();
    await page.keyboard.press('Delete');
    await page.getByRole('button', { name: 'Compare with “for the club”' }).click();
    await expect(page.getByRole('region', { name: 'Differences' })).toContainText('taken out');
    await page.getByRole('button', { name: 'Go back to “for the club”' }).click();
    await expect(page.getByRole('region', { name: 'Differences' })).toContainText('Nothing: they are the same');
    await page.getByRole('button', { name: 'Close the reel above' }).click();
    // Until it is gone its pieces count too.
    await expect(page.getByRole('button', { name: 'Close the reel above' })).toHaveCount(0);
    await expect(page.getByRole('region', { name: /^Above: / })).toHaveCount(0);
  });

  const frames = Math.round((await seconds(page)) * 30);
  const pieces = await page.locator('[data-piece]').count();
  await test.step('rendered, as long as planned', async () => {
    await page.getByRole('button', { name: 'Render' }).click();
    await expect(page.getByTestId('estimate')).toContainText(/about .*B, .* to make/);
    await page.getByLabel('Quality').selectOption('draft');
    await page.getByRole('button', { name: 'Start', exact: true }).click();
    await expect(page).toHaveURL(/outputs/);
    await expect(page.locator('tbody tr').first()).toHaveAttribute('data-state', 'done', { timeout: 400_000 });
    const download = page.waitForEvent('download');
    await page.locator('tbody tr').first().getByRole('link', { name: 'Download' }).click();
    const file = await (await download).path();
    const counted = Number(
      execFileSync('ffprobe', [
        '-v',
        'error',
        '-count_frames',
        '-select_streams',
        'v:0',
        '-show_entries',
        'stream=nb_read_frames',
        '-of',
        'csv=p=0',
        file,
      ])
        .toString()
        .trim()
        .replace(/,$/, ''),
    );
    expect(Math.abs(counted - frames)).toBeLessThanOrEqual(2);
  });

  await test.step('out as OpenTimelineIO, deleted, in again: the same reel', async () => {
    await page.goBack();
    await expect(piece(page, 0)).toBeVisible();
    const before = await page.getByTestId('extent').innerText();
    await page.getByRole('button', { name: 'Export' }).click();
    const download = page.waitForEvent('download');
    await page.getByRole('menuitem', { name: /OpenTimelineIO/ }).click();
    const path = await (await download).path();
    const folder = mkdtempSync(join(tmpdir(), 'bright-reel-e2e-'));
    writeFileSync(join(folder, 'reel.otio'), readFileSync(path));
    await page.goto(`${demo}/reels`);
    const cards = page.locator('main li');
    const count = await cards.count();
    await cards.first().hover();
    await page
      .getByRole('button', { name: /^Delete “/ })
      .first()
      .click();
    await page.getByRole('alertdialog').getByRole('button', { name: 'Delete' }).click();
    await expect(cards).toHaveCount(count - 1);
    await page.locator('input[type=file]').first().setInputFiles(join(folder, 'reel.otio'));
    await expect(page).toHaveURL(/reels\/[0-9a-f-]{36}/);
    await expect(page.locator('[data-piece]')).toHaveCount(pieces);
    expect(await page.getByTestId('extent').innerText()).toBe(before);
    await expect(page.locator('button[data-title]', { hasText: 'Cardboard regatta' })).toBeVisible();
    await expect(page.getByText('Dissolve before it').first()).toBeAttached();
  });
});

test('a piece as a GIF, every piece as a file, sound alone; a range that is empty is refused', async ({ page }) => {
  await machineMade(page, '0:20');
  const address = page.url();
  await page.getByRole('button', { name: 'Render' }).click();
  await page.getByRole('combobox', { name: /^Format/ }).selectOption('wav');
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(page).toHaveURL(/outputs/);
  await page.goto(address);
  const pieces = await page.locator('[data-piece]').count();
  await page.getByRole('button', { name: 'Render' }).click();
  await page.getByLabel('Resolution').fill('240');
  await page.getByLabel('Quality').selectOption('draft');
  await page.getByRole('combobox', { name: /^Range/ }).selectOption('pieces');
  await page.getByLabel('Named').fill('boat {n}');
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(page).toHaveURL(/outputs/);
  for (let number = 1; number <= pieces; number++)
    await expect(page.getByRole('row', { name: new RegExp(`boat 0${number}`) })).toHaveAttribute('data-state', 'done', {
      timeout: 120_000,
    });
  await expect(page.getByRole('row', { name: /wav/i }).first()).toHaveAttribute('data-state', 'done', {
    timeout: 120_000,
  });
  const refused = await page.request.post(`${new URL(address).pathname}/render`, {
    data: { files: [{ format: 'mp4', quality: 'good', from: 500000, to: 3 }] },
    headers: { origin: new URL(address).origin },
  });
  expect(await refused.text()).toContain('The range holds no frame');
});

test('several files at once, one of them by a preset of one’s own', async ({ page }) => {
  await machineMade(page, '0:20');
  await page.getByRole('button', { name: 'Render' }).click();
  const files = page.getByRole('group', { name: 'Files to make' });
  await expect(files.getByRole('checkbox', { name: /^Web and phones/ })).toBeChecked();
  await page.getByLabel('Resolution').fill('240');
  await page.getByLabel('Quality').selectOption('draft');
  await expect(files.getByRole('checkbox', { name: /^As set below/ })).toBeChecked();
  await page.getByRole('button', { name: 'Keep as a preset…' }).click();
  await page.getByRole('textbox', { name: 'Name of the preset' }).fill('Village screen');
  await page.keyboard.press('Enter');
  const own = files.getByRole('checkbox', { name: /^Village screen/ });
  await expect(own).toBeChecked();
  // A small picture with its captions beside it.
  await page.getByLabel('Captions').selectOption('beside');
  await expect(files.getByRole('checkbox', { name: /^As set below/ })).toBeChecked();
  await files.getByRole('checkbox', { name: /^Sound only/ }).check();
  await expect(page.getByLabel('Quality')).toHaveCount(0);
  await expect(page.getByLabel('Named')).toHaveValue('{reel}, {for}');
  await expect(page.getByTestId('estimate')).toContainText('about');
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(page).toHaveURL(/outputs/);
  for (const name of [/, MP4/, /, Sound only/])
    await expect(page.getByRole('row', { name }).first()).toHaveAttribute('data-state', 'done', { timeout: 120_000 });
  const captions = page.waitForEvent('download');
  await page.getByRole('row', { name: /, MP4/ }).first().getByRole('link', { name: 'SRT' }).click();
  expect(readFileSync(await (await captions).path(), 'utf8')).toMatch(/^1\n00:00:\d\d,\d{3} --> 00:00:\d\d,\d{3}\n\S/);
  // It is there for the next reel, and goes away with a way back.
  await page.goBack();
  await page.getByRole('button', { name: 'Render' }).click();
  await page.getByRole('button', { name: 'Delete the preset “Village screen”' }).click();
  await expect(own).toHaveCount(0);
  await page.locator('[data-sonner-toast]').getByRole('button', { name: 'Undo' }).click();
  await expect(own).toBeVisible();
});
