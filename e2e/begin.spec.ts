import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, type Page, test } from './test';

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-begin-'));
const at = (name: string) => join(folder, name);
const ffmpeg = (...args: string[]) => execFileSync('ffmpeg', ['-v', 'error', '-y', ...args]);
/** A stretch of a demo film, coded anew: a file that nobody has read. */
function stretch(source: string, from: number, seconds: number, name: string): string {
  const coding = ['-vf', 'scale=640:-2', '-c:v', 'libx264', '-preset', 'ultrafast', '-c:a', 'aac'];
  ffmpeg('-ss', String(from), '-i', `demo/media/${source}`, '-t', String(seconds), ...coding, at(name));
  return at(name);
}
test.afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Counts what somebody presses, and how long it all takes; the seconds are told, not judged. */
async function measured(page: Page, make: (click: (press: () => Promise<void>) => Promise<void>) => Promise<void>) {
  let clicks = 0;
  const started = Date.now();
  await make(async (press) => {
    clicks++;
    await press();
  });
  const seconds = Math.round((Date.now() - started) / 1000);
  test.info().annotations.push({ type: 'measured', description: `${clicks} clicks, ${seconds} s` });
  return clicks;
}
/** Presses a door and chooses files in the dialog that opens. */
async function through(page: Page, door: string, files: string[]) {
  const chooser = page.waitForEvent('filechooser');
  await page.locator(`[data-door=${door}]`).getByRole('button').click();
  await (await chooser).setFiles(files);
}
const projects = (page: Page) => page.locator('li[data-project]');

test('a highlight reel from own files to a downloaded film: three decisions', async ({ page }) => {
  test.setTimeout(240_000);
  const films = [stretch('race-day.mp4', 20, 14, 'first.mp4'), stretch('race-day.mp4', 100, 12, 'second.mp4')];
  await page.goto('/');
  const clicks = await measured(page, async (click) => {
    await click(() => through(page, 'reel', [...films, 'demo/media/photo-crew.jpg']));
    await expect(page).toHaveURL(/\/begin$/);
    await expect(page.getByRole('heading', { name: 'Making a highlight reel' })).toBeVisible();
    await expect(page).toHaveURL(/reels\/[0-9a-f-]{36}/, { timeout: 120_000 });
    await expect(page.locator('[data-piece]').first()).toBeVisible();
    await click(() => page.getByRole('button', { name: 'Render' }).click());
    await click(() => page.getByRole('button', { name: 'Start', exact: true }).click());
    await expect(page.locator('[data-state=done]').first()).toBeVisible({ timeout: 120_000 });
    const download = page.waitForEvent('download');
    await click(() => page.locator('tbody tr').first().getByRole('link', { name: 'Download' }).click());
    const film = await (await download).path();
    expect(
      Number(
        execFileSync('ffprobe', ['-v', 'error', '-show_entries', 'format=duration', '-of', 'csv=p=0', film]).toString(),
      ),
    ).toBeGreaterThan(5);
  });
  // Door and files; render as it stands; download.
  expect(clicks).toBeLessThanOrEqual(4);
  // Why each piece is there stands with it, and the project is named by what is in it.
  await page.getByRole('link', { name: 'Reels' }).click();
  await page.locator('main li a').first().click();
  await expect(page.getByText(/Picked: \d+ of 100/)).toBeVisible();
  await page.getByRole('link', { name: /2 films and 1 photo/ }).click();
  await expect(
    projects(page)
      .filter({ hasText: /2 films and 1 photo, \d+ \w+ \d{4}/ })
      .first(),
  ).toBeVisible();
});

test('files are dropped first, and become shorts; asked again, it leads to them', async ({ page }) => {
  test.setTimeout(240_000);
  const film = stretch('race-day.mp4', 30, 70, 'talk.mp4');
  await page.goto('/');
  const bytes = readFileSync(film).toString('base64');
  await page.waitForLoadState('networkidle');
  const transfer = await page.evaluateHandle((text) => {
    const data = new DataTransfer();
    const all = Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0));
    data.items.add(new File([all], 'talk.mp4', { type: 'video/mp4' }));
    return data;
  }, bytes);
  const room = page.getByRole('main');
  // As a browser tells it: it comes in, is over it, and is let go.
  for (const kind of ['dragenter', 'dragover']) await room.dispatchEvent(kind, { dataTransfer: transfer });
  await expect(page.getByRole('status').filter({ hasText: /^Drop to begin/ })).toBeVisible();
  await room.dispatchEvent('drop', { dataTransfer: transfer });
  await expect(page.getByRole('heading', { name: 'What do you want to make of it?' })).toBeVisible();
  // A reload in the middle forgets nothing that has arrived.
  await expect(page.locator('main li[title="talk.mp4"]')).toBeVisible({ timeout: 30_000 });
  await page.reload();
  await page.locator('[data-door=shorts]').getByRole('button').click();
  await expect(page).toHaveURL(/shorts\/[0-9a-f-]{36}/, { timeout: 180_000 });
  const made = page.url();
  await page.goto(made.replace(/\/shorts\/.*/, '/begin'));
  await expect(page).toHaveURL(made);
});

test('a montage waits for its song, then is filled', async ({ page }) => {
  test.setTimeout(240_000);
  const films = [stretch('race-day.mp4', 60, 9, 'third.mp4'), stretch('race-day.mp4', 120, 9, 'fourth.mp4')];
  ffmpeg('-i', 'demo/media/paper-sails.m4a', '-t', '30', '-c:a', 'libmp3lame', at('song.mp3'));
  writeFileSync(at('notes.txt'), 'not footage');
  await page.goto('/');
  await through(page, 'montage', films);
  await expect(page.getByRole('alert')).toContainText('Add a song here', { timeout: 60_000 });
  await page.getByLabel('Add files').setInputFiles(at('song.mp3'));
  await expect(page).toHaveURL(/music\/[0-9a-f-]{36}/, { timeout: 120_000 });
  await expect(
    page.getByText(/of \d+ slots? filled|slots filled|every slot/i).or(page.locator('[data-slot]').first()),
  ).toBeVisible({ timeout: 60_000 });
});

test('nothing is begun with what is no footage; projects are renamed, copied, put away, deleted and brought back', async ({
  page,
  allow,
}) => {
  test.setTimeout(300_000);
  allow(/^404 GET/);
  writeFileSync(at('broken.mp4'), 'this is no film');
  await page.goto('/');
  const before = await projects(page).count();
  await through(page, 'reel', [at('broken.mp4')]);
  // It is looked at after what the projects before it have to read.
  await expect(page.getByRole('alert')).toContainText('None of these files is a film or a photo', { timeout: 180_000 });
  const place = page.url();
  await page.goto('/');
  await expect(projects(page)).toHaveCount(before + 1);
  const row = projects(page).filter({ hasText: 'broken' });
  const menu = async (label: string) => {
    await row
      .first()
      .getByRole('button', { name: /^What can be done/ })
      .click();
    await page.getByRole('menuitem', { name: label }).click();
  };
  await expect(row).toContainText('1 cannot be read');
  await menu('Rename');
  await page.getByLabel('Name of the project').fill('The broken one');
  await page.keyboard.press('Enter');
  await expect(projects(page).filter({ hasText: 'The broken one' })).toHaveCount(1);
  await menu('Duplicate');
  await expect(projects(page).filter({ hasText: 'The broken one, copy' })).toHaveCount(1);
  for (let left = 2; left > 0; left--) {
    await menu('Delete');
    await expect(row).toHaveCount(left - 1);
  }
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(row).toHaveCount(1);
  await page.getByRole('radio', { name: /^Deleted/ }).click();
  await expect(row).toHaveCount(1);
  await menu('Bring back');
  await page.getByRole('radio', { name: /^Current/ }).click();
  await expect(row).toHaveCount(2);
  await menu('Put away');
  await expect(row).toHaveCount(1);
  await page.getByRole('radio', { name: /^Put away/ }).click();
  await expect(row).toHaveCount(1);
  await page.getByRole('radio', { name: /^Current/ }).click();
  await page.getByLabel('Find a project').fill('pond reg');
  await expect(projects(page)).toHaveCount(1);
  await page.getByLabel('Find a project').fill('');
  // What is deleted is not there for others either.
  await menu('Delete');
  await expect(row).toHaveCount(0);
  expect(place).toMatch(/begin$/);
});

test('the command field finds places, files, people, markers and what can be done here', async ({ page }) => {
  await page.goto('/projects/0b0a7000-0000-4000-8000-000000000001/moments');
  await expect(page.getByTestId('count')).toHaveText(/moments, /);
  const field = page.getByRole('combobox', { name: /^Find a command/ });
  const goTo = async (text: string, option: RegExp) => {
    await page.keyboard.press('Control+k');
    await field.fill(text);
    await expect(page.getByRole('option', { name: option }).first()).toHaveAttribute('aria-selected', 'true');
    await page.keyboard.press('Enter');
    await expect(field).toHaveCount(0);
  };
  await goTo('captain close', /captain-close\.mp4.*Files/);
  await expect(page).toHaveURL(/moments\?at=/);
  await expect(page.getByTestId('count')).toHaveText(/moments, /);
  // A command does what its key does.
  await goTo('traces mean', /What the traces mean.*Commands/);
  await expect(page.getByLabel('Legend')).toBeVisible();
  await goTo('montage', /^Montage.*Places/);
  await expect(page).toHaveURL(/music/);
  await page.keyboard.press('Control+k');
  await field.fill('no such thing at all');
  await expect(page.getByText('Nothing is called')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(field).toHaveCount(0);
});

test('the picture is made large by a key and by its edge, and stays so', async ({ page }) => {
  await page.goto('/projects/0b0a7000-0000-4000-8000-000000000001/moments');
  await expect(page.getByTestId('count')).toHaveText(/moments, /);
  const edge = page.getByRole('separator', { name: 'Width of the picture' });
  const width = async () => Math.round((await page.locator('#viewer').boundingBox())!.width);
  const usual = await width();
  await page.keyboard.press('v');
  await expect.poll(width).toBeGreaterThan(usual * 1.5);
  const large = await width();
  const box = (await edge.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, 300);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 100, 300, { steps: 4 });
  await page.mouse.up();
  await expect.poll(width).toBe(large - 100);
  await page.reload();
  await expect.poll(width).toBe(large - 100);
  await edge.focus();
  await page.keyboard.press('ArrowLeft');
  await expect.poll(width).toBe(large - 80);
  await page.keyboard.press('v');
  await expect.poll(width).toBe(usual);
});
