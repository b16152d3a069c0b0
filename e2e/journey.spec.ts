import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, farServer, settled, test, unsaved, type Page } from './test';

const demo = '/projects/0b0a7000-0000-4000-8000-000000000001';
const count = (page: Page) => page.getByTestId('count');
const numberIn = async (page: Page) => Number((await count(page).innerText()).split(' ')[0]);
/** "2:27 of 2:30" on the waterline: the first part, in seconds. */
async function keptSeconds(page: Page): Promise<number> {
  const [minutes, seconds] = (await page.getByRole('slider', { name: 'Waterline' }).innerText())
    .split(/[ ,]/)[0]!
    .split(':')
    .map(Number);
  return minutes! * 60 + seconds!;
}
const saved = (page: Page) => expect(page.getByTestId('save-state')).toHaveText('Saved');

async function openMoments(page: Page) {
  await page.goto(`${demo}/moments`);
  await expect(count(page)).toHaveText(/^[1-9]\d* moments, /);
}

test('from the demo to a downloaded highlight reel', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: /Pond Regatta/ }).click();
  await expect(page).toHaveURL(/moments/);
  await expect(count(page)).toHaveText(/^[1-9]\d* moments, /);
  expect(await numberIn(page)).toBeGreaterThan(4);

  await test.step('the readings are there', async () => {
    await page.getByRole('link', { name: 'Footage' }).click();
    await expect(page.getByRole('row', { name: /^Choose race-day\.mp4/ })).toContainText(/5 faces.*talk.*shaky/);
    await expect(page.getByRole('row', { name: /^Choose paper-sails/ })).toContainText(/LUFS/);
    await page.getByRole('link', { name: 'Moments' }).click();
  });

  await test.step('a target length moves the waterline', async () => {
    await page.getByLabel('Target length').fill('0:45');
    await page.keyboard.press('Enter');
    await expect.poll(() => keptSeconds(page)).toBeLessThanOrEqual(45);
    expect(await keptSeconds(page)).toBeGreaterThan(25);
  });

  await test.step('make, look at, render, download', async () => {
    await page.getByRole('button', { name: /Make reel/ }).click();
    await expect(page).toHaveURL(/reels\/[0-9a-f-]{36}/);
    const timecode = page.getByTestId('reel-viewer').getByTestId('timecode');
    await expect(page.getByText(/^piece 1 of \d+$/)).toBeVisible();
    await page.keyboard.press('Space');
    await expect(timecode).toHaveText(/00:00:0[1-9]/);
    await page.keyboard.press('k');
    const total = (await page.getByTestId('extent').innerText()).split(/\s/)[0]!.split(':').map(Number);
    await page.getByRole('button', { name: 'Render' }).click();
    await page.getByRole('button', { name: 'Start', exact: true }).click();
    await expect(page).toHaveURL(/outputs/);
    await expect(page.locator('[data-state=done]').first()).toBeVisible({ timeout: 300_000 });
    const download = page.waitForEvent('download');
    await page.locator('tbody tr').first().getByRole('link', { name: 'Download' }).click();
    const file = await (await download).path();
    const probe = JSON.parse(
      execFileSync('ffprobe', ['-v', 'error', '-show_streams', '-show_format', '-of', 'json', file]).toString(),
    ) as { streams: { codec_name: string; width?: number }[]; format: { duration: string } };
    expect(probe.streams.map((stream) => stream.codec_name).sort()).toEqual(['aac', 'h264']);
    expect(Math.abs(Number(probe.format.duration) - (total[0]! * 60 + total[1]!))).toBeLessThan(0.1);
  });
});

test('the mix, the waterline, keep and drop; what was chosen by hand stays', async ({ page }) => {
  await openMoments(page);
  await page.getByLabel('Target length').fill('2:00');
  await page.keyboard.press('Enter');
  // What the page showed before may be short as well: all of the demo's two minutes, and no more, is the new choice.
  await expect.poll(async () => Math.abs((await keptSeconds(page)) - 110)).toBeLessThanOrEqual(10);

  const slider = page.getByRole('slider', { name: 'Waterline' });
  const before = await keptSeconds(page);
  const box = (await slider.boundingBox())!;
  await page.mouse.move(box.x + 200, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 200, box.y + box.height / 2 - 14, { steps: 6 });
  await page.mouse.up();
  await expect.poll(() => keptSeconds(page)).toBeLessThan(before);
  await slider.focus();
  await expect(async () => {
    await page.keyboard.press('ArrowDown');
    expect(await keptSeconds(page)).toBeGreaterThan(before * 0.8);
  }).toPass({ intervals: [50] });

  await page.keyboard.press(']');
  await expect(page.getByTestId('because')).toContainText(/Stays until|Stays at any/);
  const title = await page.getByRole('heading', { level: 2 }).first().innerText();
  await page.keyboard.press('+');
  await expect(page.getByText('1 kept by hand, 0 dropped by hand')).toBeVisible();
  await page.keyboard.press(']');
  await page.keyboard.press(']');
  await page.keyboard.press('-');
  await expect(page.getByText('1 kept by hand, 1 dropped by hand')).toBeVisible();
  await expect(page.getByTestId('because')).toContainText('Dropped by hand');
  await saved(page);

  const length = await keptSeconds(page);
  await page.getByRole('tab', { name: 'Mix' }).click();
  const talk = page.getByRole('slider', { name: 'Talk' });
  await talk.focus();
  await page.keyboard.press('Home');
  await page.getByRole('slider', { name: 'Action' }).focus();
  await page.keyboard.press('End');
  await expect.poll(() => keptSeconds(page)).not.toBe(length);
  await expect(page.getByText('1 kept by hand, 1 dropped by hand')).toBeVisible();
  await saved(page);

  await page.reload();
  await expect(page.getByText('1 kept by hand, 1 dropped by hand')).toBeVisible();
  await page.getByRole('tab', { name: 'Mix' }).click();
  await expect(page.getByRole('slider', { name: 'Talk' })).toHaveAttribute('aria-valuenow', '0');
  await page.getByRole('button', { name: 'Whole event' }).click();
  await page.getByRole('tab', { name: 'Why' }).click();
  await page.getByLabel('Target length').fill('2:00');
  await page.keyboard.press('Enter');
  await saved(page);
  expect(title.length).toBeGreaterThan(2);
});

test('mark with keys, resize with the mouse, take back', async ({ page }) => {
  await openMoments(page);
  const handMade = page.getByText(/kept by hand, /);
  const start = await handMade.innerText();
  const line = page.locator('[data-line="0"]');
  const box = (await line.boundingBox())!;
  await page.mouse.click(box.x + 20, box.y + 20);
  await page.keyboard.press('i');
  for (let step = 0; step < 3; step++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('o');
  await page.keyboard.press('+');
  const kept = Number(start.split(' ')[0]) + 1;
  await expect(handMade).toHaveText(new RegExp(`^${kept} kept by hand`));
  const label = page.locator('aside').getByText(/^\d+\.\d s$/);
  await expect(label).toHaveText('3.0 s');
  const right = box.x + 20 + (3 / 40) * box.width;
  await page.mouse.move(right, box.y + 20);
  await page.mouse.down();
  await page.mouse.move(right + (2 / 40) * box.width, box.y + 20, { steps: 5 });
  await page.mouse.up();
  await expect(label).toHaveText(/^[45]\.\d s$/);
  await expect(handMade).toHaveText(new RegExp(`^${kept} kept by hand`));
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(handMade).toHaveText(start);
  await saved(page);
});

test('edit a reel: trim, split, move, take out, take back; two windows do not overwrite each other', async ({
  page,
  allow,
  browser,
  context,
}) => {
  allow(/^409 POST \/projects\/[\w-]+\/reels\/[\w-]+\/edits/, /ERR_(FAILED|CONNECTION_REFUSED|INTERNET_DISCONNECTED)/);
  const server = await farServer(context);
  await page.goto(`${demo}/reels`);
  await page.locator('main li a').first().click();
  const place = page.getByText(/^piece \d+ of \d+$/);
  await expect(place).toBeVisible();
  const pieces = Number((await place.innerText()).split(' ').at(-1));
  const seconds = async () => (await page.getByTestId('extent').innerText()).split(/\s/)[0];
  const total = await seconds();
  await page.getByRole('button', { name: 'End 10 frames earlier' }).click();
  await expect.poll(seconds).not.toBe(total);
  await page.keyboard.press('Control+z');
  await expect.poll(seconds).toBe(total);
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('s');
  await expect(place).toHaveText(new RegExp(`of ${pieces + 1}$`));
  await page.keyboard.press('Delete');
  await expect(place).toHaveText(new RegExp(`of ${pieces}$`));
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(seconds).toBe(total);
  await expect.poll(() => unsaved(page)).toBe(0);

  const other = await browser.newPage();
  await other.goto(page.url());
  await expect(other.getByTestId('extent')).toContainText(total!);
  // A button that moves between press and release was not pressed.
  await settled(other);
  await other.getByRole('button', { name: 'End 10 frames earlier' }).click();
  await expect.poll(() => unsaved(other)).toBe(0);
  await expect.poll(seconds, 'what the other did shows here').not.toBe(total);

  // The same end of the same piece by both, while this one does not hear of the other: theirs stands, and it is said.
  await server.away();
  await page.getByRole('button', { name: 'End 10 frames earlier' }).click();
  await other.getByRole('button', { name: 'End 1 frame earlier' }).click();
  await expect.poll(() => unsaved(other)).toBe(0);
  await server.back();
  await expect(page.getByRole('alert')).toContainText('was changed in another window meanwhile');
  await expect.poll(() => unsaved(page)).toBe(0);
  expect(await page.getByTestId('extent').innerText()).toBe(await other.getByTestId('extent').innerText());
  await other.close();
});

test('bring in new footage and broken files', async ({ page, allow }) => {
  allow(/^422 POST \/(_root|_index|)\.?data/, /^404 GET \/projects\/0b0a7000-0000-4000-8000-0000000000ff/);
  const folder = mkdtempSync(join(tmpdir(), 'bright-reel-e2e-'));
  const film = join(folder, 'my own film.mp4');
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    'testsrc2=s=640x360:r=25:d=6',
    '-f',
    'lavfi',
    '-i',
    'sine=330:d=6',
    '-pix_fmt',
    'yuv420p',
    '-g',
    '25',
    film,
  ]);
  const text = join(folder, 'notes.mp4');
  writeFileSync(text, 'not a film');
  const empty = join(folder, 'empty.mov');
  writeFileSync(empty, '');

  await page.goto('/');
  await page.getByRole('button', { name: 'Empty project' }).click();
  await page.getByLabel('Name of the project').fill(' ');
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(page.getByRole('alert')).toContainText('Give a name');
  await page.getByLabel('Name of the project').fill('My own');
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(page.getByText('Nothing in here yet')).toBeVisible();
  await page.getByLabel('Files', { exact: true }).setInputFiles([film, text, empty]);
  await expect(page.getByText('The file is empty. Copy it from the camera again.')).toBeVisible();
  await expect(page.getByRole('row', { name: /^Choose notes\.mp4/ })).toContainText('This is not a video', {
    timeout: 60_000,
  });
  await expect(page.getByRole('row', { name: /^Choose my own film\.mp4/ })).toContainText('640×360, 25 fps', {
    timeout: 90_000,
  });

  await page.getByRole('link', { name: 'Moments' }).click();
  await expect(page.getByRole('heading', { name: 'Moments' })).toBeAttached();
  await expect(page.getByText('1 file, 0:06')).toBeVisible();
  await page.getByRole('link', { name: 'Outputs' }).click();
  await expect(page.getByText('Nothing rendered yet')).toBeVisible();
  await page.goto('/projects/0b0a7000-0000-4000-8000-0000000000ff/moments');
  await expect(page.getByText('This project does not exist')).toBeVisible();
});
