import { execFileSync } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, renameSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, newProject, test } from './test';

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-card-'));
const at = (name: string) => join(folder, name);
const ffmpeg = (...args: string[]) => execFileSync('ffmpeg', ['-v', 'error', '-y', ...args]);

/** A card as cameras and phones fill it: folders, photos that lie, HEIC, tape, sidecars. */
function makeCard(): string {
  mkdirSync(at('Pond card/Bank/Phone'), { recursive: true });
  mkdirSync(at('Pond card/Boat'), { recursive: true });
  const picture = (hue: number) => ['-f', 'lavfi', '-i', `testsrc2=s=640x360:r=25:d=1.2,hue=h=${hue}`];
  ffmpeg(...picture(0), '-frames:v', '1', at('still.png'));
  execFileSync('heif-enc', ['-q', '60', at('still.png'), '-o', at('Pond card/Bank/Phone/wide.heic')], {
    stdio: 'ignore',
  });
  for (let index = 0; index < 8; index++)
    ffmpeg(...picture(index * 20), '-frames:v', '1', at(`Pond card/Bank/Phone/shot ${index}.jpg`));
  const dv = ['-s', '720x576', '-pix_fmt', 'yuv420p', '-aspect', '16:9'];
  ffmpeg(...picture(60), ...dv, '-c:v', 'dvvideo', at('Pond card/Bank/tape.dv'));
  ffmpeg(...picture(90), '-pix_fmt', 'yuv420p', '-timecode', '10:20:30:12', at('Pond card/Boat/camera.mov'));
  writeFileSync(at('Pond card/Boat/camera.xml'), '<clip/>');
  copyFileSync(at('Pond card/Boat/camera.xml'), at('Pond card/.DS_Store'));
  return at('Pond card');
}

test('a folder comes in with its folders as bins, and nothing in it is refused or sideways', async ({ page }) => {
  test.setTimeout(180_000);
  const card = makeCard();
  await newProject(page, 'A card');
  await page.getByLabel('Folder', { exact: true }).setInputFiles(card);
  await expect(
    page.getByText('One file of the folder is no video, photo, music or sound, and was left out.'),
  ).toBeVisible();
  await expect(page.getByText(/^\d+ of 11 files (is|are) here$/)).toBeVisible();
  // Looking at another place meanwhile breaks nothing off.
  await page.getByRole('link', { name: 'Reels' }).click();
  await page.getByRole('link', { name: /^Footage/ }).click();
  const bins = page.getByRole('navigation', { name: 'Bins' });
  await expect(bins.getByRole('button', { name: 'Pond card / Bank / Phone' })).toContainText('9', { timeout: 60_000 });
  await expect(bins.getByRole('button', { name: 'Pond card / Boat' })).toContainText('1');
  await expect(bins.getByRole('button', { name: 'All footage' })).toContainText('11');
  const row = (name: RegExp) => page.getByRole('row', { name });
  await expect(row(/^Choose wide\.heic/)).toContainText('photo, 640×360', { timeout: 120_000 });
  await expect(row(/^Choose tape\.dv/)).toContainText('1024×576', { timeout: 60_000 });
  await expect(row(/^Choose camera\.mov/)).toContainText('10:20:30:12', { timeout: 60_000 });
  await expect(page.getByText(/waits|being read/)).toHaveCount(0, { timeout: 120_000 });
  await expect(page.locator('td .text-shake')).toHaveCount(0);
  // What a stretch of all of it would cost is told before it is asked for.
  await page.getByRole('checkbox', { name: 'Choose tape.dv' }).check();
  await page.getByRole('checkbox', { name: 'Choose camera.mov' }).check();
  await page.getByRole('button', { name: 'Reading range…' }).click();
  const range = page.getByRole('region', { name: 'Reading range of the chosen files' });
  await range.getByLabel('Read the chosen from').fill('1:00');
  await expect(range).toContainText('nothing to read; it does not lie in 2 files, which stay as they are');
  await range.getByLabel('Read the chosen from').fill('');
  await expect(range).toContainText(/^Read from.*to read, about \d+ s/);
  await range.getByRole('button', { name: 'Close' }).click();
  // The viewer counts as the camera does.
  await page.getByRole('link', { name: 'Moments' }).click();
  await page.getByLabel(/^Ask for moments/).fill('at 10:20:31');
  await page.getByRole('tab', { name: 'Found' }).click();
  await expect(page.getByText('timecode 10:20:31').last()).toBeVisible();
});

test('footage of this machine is used where it lies, new files come by themselves, what was moved is found again', async ({
  page,
}) => {
  test.setTimeout(180_000);
  const root = process.env.BRIGHT_REEL_FOOTAGE!;
  mkdirSync(join(root, 'Harbour/Camera'), { recursive: true });
  // Made elsewhere and copied there, as from a card.
  const film = (hue: number, file: string) => {
    const made = at(`film ${hue}.mp4`);
    ffmpeg('-f', 'lavfi', '-i', `testsrc2=s=640x360:r=25:d=3,hue=h=${hue}`, '-pix_fmt', 'yuv420p', made);
    copyFileSync(made, join(root, file));
  };
  film(200, 'Harbour/Camera/first.mp4');
  await newProject(page, 'From the disk');
  await page.getByRole('button', { name: 'From this machine' }).click();
  await page.getByRole('button', { name: 'Harbour', exact: true }).click();
  await page.getByRole('checkbox', { name: 'Bring in new files of this folder by themselves' }).check();
  await page.getByRole('checkbox', { name: 'All of Camera' }).check();
  await page.getByRole('button', { name: 'Bring in 1 chosen' }).click();
  const row = (name: RegExp) => page.getByRole('row', { name });
  await expect(row(/^Choose first\.mp4/)).toContainText('640×360', { timeout: 60_000 });
  await expect(page.getByRole('button', { name: /^Harbour \/ Camera 1$/ })).toBeVisible();
  film(230, 'Harbour/second.mp4');
  await expect(row(/^Choose second\.mp4/)).toContainText('640×360', { timeout: 60_000 });
  await expect(page.getByText(/waits|being read/)).toHaveCount(0, { timeout: 120_000 });
  // Moved out of the folder that is watched.
  renameSync(join(root, 'Harbour/second.mp4'), join(root, 'kept elsewhere.mp4'));
  await page.reload();
  await expect(row(/^Choose second\.mp4/)).toContainText('Missing: it does not lie at “Harbour/second.mp4” any more.');
  await page.getByRole('button', { name: 'Find again' }).click();
  await expect(page.getByText('Missing:')).toHaveCount(0, { timeout: 30_000 });
  renameSync(join(root, 'kept elsewhere.mp4'), at('out of reach.mp4'));
  await page.reload();
  await page.getByRole('button', { name: 'Find again' }).click();
  await expect(page.getByRole('alert')).toContainText('“second.mp4” lies nowhere below the folder of this machine.');
});

test('an upload that a reload broke off is listed, and goes on when the file is chosen again', async ({ page }) => {
  test.setTimeout(120_000);
  // Larger than what is sent at once.
  ffmpeg('-f', 'lavfi', '-i', 'sine=440:r=48000:d=220', '-ac', '2', '-c:a', 'pcm_s16le', at('long talk.wav'));
  await newProject(page, 'Broken off');
  let sent = 0;
  await page.route('**/upload/*', async (route) => {
    if (route.request().method() !== 'PATCH') return route.continue();
    // The second part never arrives.
    if (sent++ > 0) return;
    await route.continue();
  });
  await page.getByLabel('Files', { exact: true }).setInputFiles(at('long talk.wav'));
  await expect.poll(() => sent, { timeout: 60_000 }).toBe(2);
  page.on('dialog', (dialog) => void dialog.accept());
  await page.reload();
  await page.unroute('**/upload/*');
  await expect(page.getByText('was interrupted; 33.6 MB of 42.2 MB are here. Choose it again to go on.')).toBeVisible();
  const bytes: number[] = [];
  page.on('request', (request) => {
    if (request.method() === 'PATCH') bytes.push(Number(request.headers()['upload-offset']));
  });
  await page.getByLabel('long talk.wav again').setInputFiles(at('long talk.wav'));
  await expect(page.getByRole('row', { name: /^Choose long talk\.wav/ })).toBeVisible({ timeout: 60_000 });
  expect(bytes).toEqual([33_554_432]);
  await expect(page.getByText('was interrupted')).toHaveCount(0);
});

test('what a camera split becomes one file, and is seen through a colour table', async ({ page, allow }) => {
  test.setTimeout(180_000);
  // A table that is none.
  allow(/^422 POST \/projects\/[\w-]+\/looks/);
  ffmpeg(
    ...['-f', 'lavfi', '-i', 'testsrc2=s=640x360:r=25:d=8', '-f', 'lavfi', '-i', 'sine=300:d=8'],
    ...['-pix_fmt', 'yuv420p', '-g', '25', '-c:a', 'pcm_s16le', at('whole.mov')],
  );
  const parts = [0, 4].map((from, index) => {
    const file = at(`CH0${index + 1}0012.mov`);
    const clock = new Date(Date.UTC(2026, 5, 6, 10) + from * 1000).toISOString();
    const part = ['-ss', String(from), '-t', '4', '-i', at('whole.mov'), '-metadata', `creation_time=${clock}`];
    ffmpeg(...part, '-c:v', 'libx264', '-c:a', 'copy', file);
    return file;
  });
  writeFileSync(
    at('Half light.cube'),
    [
      'LUT_3D_SIZE 2',
      ...Array.from({ length: 8 }, (_, at) => [0, 1, 2].map((bit) => ((at >> bit) & 1) / 2).join(' ')),
    ].join('\n'),
  );
  await newProject(page, 'A split card');
  await page.getByLabel('Files').setInputFiles(parts);
  const offer = page.getByRole('region', { name: 'A recording in parts' });
  await expect(offer).toContainText('“CH010012.mov” and “CH020012.mov” are one recording in 2 files, 0:08', {
    timeout: 60_000,
  });
  await offer.getByRole('button', { name: 'Make one file of them' }).click();
  await expect(page.getByRole('row', { name: /^Choose CH010012–CH020012\.mov/ })).toContainText('0:08', {
    timeout: 60_000,
  });
  await expect(offer).toHaveCount(0);
  await expect(page.getByRole('region', { name: 'Taken out' })).toContainText('2 items taken out');
  await expect(page.getByText(/waits|being read/)).toHaveCount(0, { timeout: 120_000 });

  await page.getByRole('checkbox', { name: 'Choose CH010012–CH020012.mov' }).check();
  await page.getByRole('button', { name: 'Input look…' }).click();
  const look = page.getByRole('region', { name: 'Input look' });
  await look
    .getByLabel('Colour table file')
    .setInputFiles({ name: 'x.cube', mimeType: 'text/plain', buffer: Buffer.from('?') });
  await expect(look.getByRole('alert')).toContainText('“x.cube” was not taken: Line 1');
  await look.getByLabel('Colour table file').setInputFiles(at('Half light.cube'));
  await expect(look.getByRole('img', { name: /through Half light/ })).toBeVisible();
  await look.getByRole('button', { name: 'Set and read again' }).click();
  await expect(page.getByText('input look: Half light')).toBeVisible({ timeout: 120_000 });
  // The player gets what was read: no white is left in the picture.
  await page.getByRole('link', { name: 'Moments' }).click();
  const brightest = () =>
    page.getByLabel('Viewer', { exact: true }).evaluate((video: HTMLVideoElement) => {
      const canvas = document.createElement('canvas');
      const context = canvas.getContext('2d')!;
      context.drawImage(video, 0, 0, canvas.width, canvas.height);
      return context
        .getImageData(0, 0, canvas.width, canvas.height)
        .data.reduce((most, value, at) => (at % 4 === 3 ? most : Math.max(most, value)), 0);
    });
  await expect.poll(brightest, { timeout: 30_000 }).toBeGreaterThan(60);
  expect(await brightest()).toBeLessThan(180);
});
