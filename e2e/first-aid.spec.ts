import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { looseBeginning } from '../core/sound/beats/testSongs';
import { beatSampleRate } from '../core/sound/beats/novelty';
import { expect, farServer, test, unsaved, type Page } from './test';

/** What was lost on real material: large documents, servers that are away, other texts, files taken out. */
const demo = '/projects/0b0a7000-0000-4000-8000-000000000001';
const folder = mkdtempSync(join(tmpdir(), 'bright-reel-e2e-'));
const saved = (page: Page) => expect(page.getByTestId('save-state')).toHaveText('Saved');
const away = (page: Page) =>
  page.getByText(/^The server does not answer, since \d\d:\d\d\. .* sent when it is back\.$/);

async function openReel(page: Page): Promise<string> {
  await page.goto(`${demo}/moments`);
  await expect(page.getByTestId('count')).toHaveText(/^[1-9]\d* moments, /);
  await page.getByRole('button', { name: /Make reel/ }).click();
  await expect(page).toHaveURL(/reels\/[0-9a-f-]{36}/);
  await expect(page.getByText(/^piece 1 of \d+$/)).toBeVisible();
  return page.url();
}
const pieces = (page: Page) => page.getByText(/^piece \d+ of \d+$/).first();
const count = async (page: Page) => Number((await pieces(page).innerText()).split(' of ')[1]);

test('a montage of a song of five minutes is saved, however large its document', async ({ page }) => {
  test.setTimeout(600_000);
  const song = join(folder, 'five minutes.m4a');
  // A click at 168 a minute under a chord that changes with the bar: some eight hundred beats.
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    "aevalsrc='0.7*exp(-40*mod(t,60/168))*sin(2*PI*90*t)+0.12*sin(2*PI*(220+55*mod(floor(t/(4*60/168)),4))*t)*exp(-2*mod(t,60/168))':s=44100:d=300",
    '-c:a',
    'aac',
    song,
  ]);
  await page.goto(`${demo}/footage`);
  await page.getByLabel('Files', { exact: true }).setInputFiles(song);
  await expect(page.getByRole('row', { name: /^Choose five minutes/ })).toContainText('5:00', { timeout: 300_000 });
  await page.goto(`${demo}/music`);
  await expect(page).toHaveURL(/music\/[\w-]+$/);
  const another = page.url();
  await page.getByLabel('Music', { exact: true }).selectOption({ label: 'five minutes' });
  // Until it is there, what is shown belongs to the other song.
  await expect(page).not.toHaveURL(another);
  await expect(page.getByTestId('tempo')).toHaveText(/^\d+\.\d bpm/, { timeout: 120_000 });
  await expect(page.locator('[data-slot]').first()).toBeVisible();
  const sizes: number[] = [];
  page.on('request', (request) => request.url().endsWith('/montage') && sizes.push(request.postData()?.length ?? 0));
  const make = page.getByRole('button', { name: /Make reel/ });
  await page
    .getByRole('group', { name: 'How often the picture changes' })
    .getByRole('button', { name: '1', exact: true })
    .click();
  await page.getByRole('button', { name: 'Everywhere' }).click();
  // Twice as many, so that the document is large enough whichever way the song was counted.
  await page.getByRole('group', { name: 'Tempo' }).getByRole('button', { name: 'Double' }).click();
  await page.getByRole('button', { name: 'Everywhere' }).click();
  await expect(make).toBeEnabled({ timeout: 60_000 });
  await expect(page.getByTestId('cuts')).toContainText(/^\d{3} slots/);
  await expect.poll(() => Math.max(0, ...sizes)).toBeGreaterThan(65_536);
  const cuts = await page.getByTestId('cuts').innerText();
  await make.click();
  await expect(page).toHaveURL(/reels\/[0-9a-f-]{36}/, { timeout: 60_000 });
  await page.goBack();
  await page.reload();
  await expect(page.getByTestId('cuts')).toHaveText(cuts);
});

test('three quick edits of a reel and a reload: none is lost', async ({ page }) => {
  await openReel(page);
  const before = await count(page);
  await page.keyboard.press('Home');
  // The answers are held back, so that the page is gone before any arrives.
  await page.route('**/edits', () => undefined);
  for (let times = 0; times < 3; times++) await page.keyboard.press('Delete');
  await expect.poll(() => count(page)).toBe(before - 3);
  await page.unrouteAll({ behavior: 'ignoreErrors' });
  await page.reload();
  await expect.poll(() => count(page)).toBe(before - 3);
  await expect.poll(() => unsaved(page)).toBe(0);
  await page.reload();
  await expect.poll(() => count(page)).toBe(before - 3);
});

/** Counts requests that find no server from now on. */
function countFailures(page: Page): () => number {
  let failures = 0;
  page.on('requestfailed', () => failures++);
  return () => failures;
}

test('the server is gone for eight seconds: the screen stays, a line says so, what was done is sent', async ({
  page,
  allow,
  context,
}) => {
  allow(/ERR_(FAILED|CONNECTION_REFUSED|INTERNET_DISCONNECTED)/);
  const server = await farServer(context);
  await page.goto(`${demo}/moments`);
  await expect(page.getByTestId('count')).toHaveText(/^[1-9]\d* moments, /);
  const decided = page.getByText(/kept by hand, /);
  const before = await decided.innerText();
  // The code of the other places is here; only their data is not.
  await expect
    .poll(() =>
      page.evaluate(() => performance.getEntriesByType('resource').some(({ name }) => /\/outputs-/.test(name))),
    )
    .toBe(true);
  await server.away();
  await expect(away(page)).toBeVisible();
  await page.evaluate(() => window.dispatchEvent(new Event('focus')));
  await page.keyboard.press(']');
  await page.keyboard.press(']');
  await page.keyboard.press('+');
  await expect(decided).not.toHaveText(before);
  const after = await decided.innerText();
  // Time enough for the screen to ask for everything that it asks for by itself, again and again.
  const failed = countFailures(page);
  await expect.poll(failed, { timeout: 60_000 }).toBeGreaterThan(5);
  await expect(page.getByText('This did not work')).toHaveCount(0);
  await expect(decided).toHaveText(after);
  // A place that is asked for meanwhile comes when the server is back.
  await page.getByRole('link', { name: 'Outputs' }).click();
  await server.back();
  await expect(page).toHaveURL(/outputs/);
  await expect(away(page)).toHaveCount(0);
  await page.getByRole('link', { name: 'Moments' }).click();
  await expect(decided).toHaveText(after);
  // There is nothing to step to before the choice is made.
  await expect(page.getByTestId('count')).toHaveText(/^[1-9]\d* moments, /);
  await saved(page);
  // To what was kept, and its keep is taken back.
  await expect(async () => {
    await page.keyboard.press(']');
    await expect(page.getByTestId('because')).toContainText('Kept by hand', { timeout: 1000 });
  }).toPass();
  await page.keyboard.press('+');
  await expect(decided).toHaveText(before);
  await saved(page);
});

test('words: two lines of German do not replace the English ones unasked, and both stay', async ({ page, allow }) => {
  allow(/^409 POST \/media\/[\w-]+\/words/);
  await page.goto(`${demo}/moments`);
  await expect(page.getByTestId('count')).toHaveText(/^[1-9]\d* moments, /);
  await page.getByRole('tab', { name: 'Words' }).click();
  const column = page.locator('aside');
  const head = column.getByText(/^race-day\.mp4: /);
  await expect(head).toContainText(/\d{3} words in English/);
  const english = await head.innerText();
  const german = join(folder, 'race-day.de.srt');
  writeFileSync(
    german,
    '1\n00:00:01,000 --> 00:00:03,000\nGuten Tag am Teich.\n\n2\n00:00:04,000 --> 00:00:06,000\nDie Boote sind aus Pappe.\n',
  );
  const bringIn = () => page.locator('input[aria-label="Timed or plain text"]').setInputFiles(german);
  await bringIn();
  const question = page.getByRole('region', { name: 'Bring in a text' });
  await expect(question).toContainText(/“race-day\.de\.srt” holds 9 words\. \d{3} words in English, .* are shown now/);
  await expect(question.getByLabel('The text is in')).toHaveValue('de');
  await question.getByRole('button', { name: 'Leave it as it is' }).click();
  await expect(head).toHaveText(english);
  await bringIn();
  await question.getByRole('button', { name: 'Show the new text' }).click();
  await expect(head).toContainText('9 words in German, brought in');
  await page.reload();
  await page.getByRole('tab', { name: 'Words' }).click();
  await expect(head).toContainText('9 words in German');
  const others = page.getByRole('region', { name: 'Other texts' });
  await others.getByRole('button', { name: 'Show again' }).click();
  await expect(head).toHaveText(english);
  await expect(others).toContainText('9 words in German, brought in');
});

test('a file that is taken out: what hangs on it is named first, and comes back with it', async ({ page }) => {
  await page.goto(`${demo}/footage`);
  const row = page.getByRole('row', { name: /^Choose race-day\.mp4/ });
  await page.getByLabel('Choose race-day.mp4').check();
  await page.getByRole('button', { name: 'Take out' }).click();
  await expect(page.getByTestId('hanging')).toContainText(/\d{3} words corrected or brought in/);
  await page.getByRole('button', { name: 'Leave it' }).click();
  await expect(row).toBeVisible();
  await page.getByRole('button', { name: 'Take out' }).click();
  await expect(page.getByTestId('hanging')).toBeVisible();
  await page.getByRole('dialog').getByRole('button', { name: 'Take out' }).click();
  await expect(row).toHaveCount(0);
  await page.reload();
  await page
    .getByRole('region', { name: 'Taken out' })
    .getByRole('button', { name: /Bring back “race-day\.mp4”/ })
    .click();
  await expect(row).toContainText('4:12');
  await page.goto(`${demo}/moments`);
  await page.getByRole('tab', { name: 'Words' }).click();
  await expect(page.locator('aside').getByText(/^race-day\.mp4: \d{3} words/)).toBeVisible();
});

test('a reading range outside the file is refused, and costs it nothing; a cancelled one neither', async ({
  page,
  allow,
}) => {
  allow(/^422 POST \/projects\/[\w-]+\/footage\/[\w-]+\.data/);
  await page.goto(`${demo}/footage`);
  await page.getByRole('link', { name: 'race-day.mp4' }).click();
  await expect(page.getByTestId('decided')).toBeVisible();
  await page.getByLabel('Read from').fill('9:00');
  await page.getByLabel('Read to').fill('10:00');
  await page.getByRole('button', { name: 'Read this part' }).click();
  await expect(page.getByRole('alert')).toHaveText(
    /^“race-day\.mp4” lasts 4:1[12]\.\d\. The range would begin after its end\.$/,
  );
  await page.getByLabel('Read from').fill('1:00');
  await page.getByLabel('Read to').fill('3:59');
  await page.getByRole('button', { name: 'Read this part' }).click();
  const pending = page.getByText(/1:00 to 3:59 .*; until then the reading before stays\./);
  await expect(pending).toBeVisible();
  await expect(page.getByTestId('decided')).toBeVisible();
  await page.getByRole('button', { name: 'Cancel', exact: true }).click();
  await expect(pending).toHaveCount(0);
  await page.goto(`${demo}/moments`);
  await expect(page.getByTestId('count')).toHaveText(/^[1-9]\d* moments, /);
  await expect(page.getByText(/^1[6-9] files, |^2\d files, /)).toBeVisible();
});

test('a piece that is copied keeps its speed, level, look and crop after the server has answered', async ({ page }) => {
  await openReel(page);
  await page.keyboard.press('Home');
  await page.getByRole('tab', { name: 'Piece' }).click();
  await page.getByLabel('Speed in per cent').fill('50');
  await page.keyboard.press('Enter');
  await page.locator('body').press('Escape');
  await page.keyboard.press('Control+c');
  // What is copied outlives the page.
  await page.reload();
  await expect(pieces(page)).toBeVisible();
  await expect(page.getByText('All read')).toBeVisible({ timeout: 60_000 });
  await page.keyboard.press('End');
  await page.keyboard.press('Control+v');
  const address = page.url();
  await expect.poll(() => unsaved(page)).toBe(0);
  const reel = (await (await page.request.get(`${new URL(address).pathname}/edits`)).json()) as {
    reel: { document: { tracks: { items: Record<string, unknown>[] }[] } };
  };
  const items = reel.reel.document.tracks[0]!.items;
  const { id: _, ...first } = items[0]!;
  expect(items.at(-1)).toMatchObject(first);
  const before = await count(page);
  await page.evaluate(() => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text/plain', 'two boats');
    document.dispatchEvent(new ClipboardEvent('paste', { clipboardData }));
  });
  await expect(page.getByText('What is on the clipboard is no piece of a reel.')).toBeVisible();
  expect(await count(page)).toBe(before);
});

test('the last short that is put away comes back, by the key and from the list', async ({ page }) => {
  await page.goto(`${demo}/shorts`);
  const form = page.getByRole('form', { name: 'Shorts that are wished for' });
  await form.locator('select[name=media]').selectOption({ label: 'race-day.mp4 (4:12)' });
  await form.getByLabel('How many').fill('1');
  await form.getByRole('button', { name: 'Find shorts' }).click();
  await expect(page).toHaveURL(/shorts\/[0-9a-f-]{36}/);
  const cards = page.locator('[data-short]');
  await expect(cards).toHaveCount(1);
  const found: string[] = [];
  // One after the other, until none is left.
  for (let times = 0; times < 40 && (await cards.count()) > 0; times++) {
    const id = (await cards.first().getAttribute('data-short'))!;
    found.push(id);
    await page.keyboard.press('d');
    await expect(page.locator(`[data-short="${id}"]`)).toHaveCount(0);
    await expect(cards.first().or(page.getByText('All of them were put away.'))).toBeVisible();
  }
  await expect(page.getByText('All of them were put away.')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.locator(`[data-short="${found.at(-1)}"]`)).toBeVisible();
  await page.reload();
  await page.getByRole('button', { name: /^\d+ put away$/ }).click();
  const before = found.length - 1;
  await page.getByRole('dialog').getByRole('button', { name: 'Bring back' }).first().click();
  const fewer = page.getByRole('button', { name: `${before - 1} put away` });
  await expect(fewer.or(cards.first()).first()).toBeVisible();
});

test('a song whose beginning has no beat says so, and where', async ({ page }) => {
  const song = join(folder, 'knocks first.wav');
  const { samples } = looseBeginning();
  const raw = ['-f', 'f32le', '-ar', String(beatSampleRate), '-ac', '1', '-i', '-'];
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...raw, song], { input: Buffer.from(samples.buffer) });
  await page.goto(`${demo}/footage`);
  await page.getByLabel('Files', { exact: true }).setInputFiles(song);
  await expect(page.getByRole('row', { name: /^Choose knocks first/ })).toContainText('1:02', { timeout: 120_000 });
  await page.goto(`${demo}/music`);
  await page.getByLabel('Music', { exact: true }).selectOption({ label: 'knocks first' });
  await expect(page.getByTestId('tempo')).toHaveText(/^112\.\d bpm/, { timeout: 120_000 });
  await expect(page.getByTestId('doubts')).toContainText(/The beats may be wrong from 0:0\d to 0:[12]\d/);
  // Other ways to count it are heard with clicks, and one is taken with one key; that can be taken back.
  const ways = page.getByRole('group', { name: 'Ways to count it' });
  await ways
    .getByRole('button', { name: /^Hear .* bpm, with clicks$/ })
    .first()
    .click();
  await expect(ways.getByRole('button', { pressed: true })).toHaveCount(1);
  await expect(page.getByTestId('place')).not.toContainText(/^0:00\.0/);
  await page.keyboard.press('w');
  await expect(page.getByTestId('doubts')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('doubts')).toBeVisible();
  // The way it is counted now comes last; it can be found right.
  await page.keyboard.press('q');
  await ways.getByRole('button', { name: /as now, with clicks$/ }).click();
  await page.getByRole('button', { name: /^It is right here/ }).click();
  await expect(page.getByTestId('doubts')).toHaveCount(0);
  // Four beats are tapped in the part that begins at 0:20.
  await page.getByTestId('tempo').click();
  for (let times = 0; times < 4; times++) {
    await page.keyboard.press('g');
    await page.waitForTimeout(530);
  }
  await expect(page.getByTestId('counts')).toContainText(/Counted by your taps from 0:\d\d to \d:\d\d: \d+\.\d bpm/);
  await page.keyboard.press('Shift+W');
  await expect(page.getByTestId('counts')).toHaveCount(0);
  await expect.poll(() => unsaved(page)).toBe(0);
  await page.keyboard.press('Space');
  for (const [title, tempo] of [
    ['paper-sails', '112.0 bpm · 4 beats a bar'],
    ['dry-shoes', /^\d+\.\d bpm( · 4 beats a bar)?$/],
  ] as const) {
    await page.getByLabel('Music', { exact: true }).selectOption({ label: title });
    await expect(page.getByTestId('doubts')).toHaveCount(0, { timeout: 120_000 });
    await expect(page.getByTestId('tempo')).toHaveText(tempo);
  }
});
