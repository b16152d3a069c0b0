// Runs before the tests that kill the worker for good (files go in the order of their names).
import { execFileSync } from 'node:child_process';
import { expect, newProject, type Page, test } from './test';

const demo = '/projects/0b0a7000-0000-4000-8000-000000000001';
const cards = (page: Page) => page.locator('[data-short]');
const card = (page: Page, index: number) => cards(page).nth(index);
const ids = (page: Page) => cards(page).evaluateAll((all) => all.map((each) => each.getAttribute('data-short')));
const lengthOf = async (page: Page) => (await page.locator('[data-chosen="true"]').innerText()).match(/\d+:\d\d/)![0];

async function findShorts(page: Page) {
  await page.goto(`${demo}/shorts`);
  const form = page.getByRole('form', { name: 'Shorts that are wished for' });
  await form.locator('select[name=media]').selectOption({ label: 'race-day.mp4 (4:12)' });
  await form.getByLabel('How many').fill('5');
  await form.getByRole('button', { name: 'Find shorts' }).click();
  await expect(page).toHaveURL(/shorts\/[0-9a-f-]{36}/);
  await expect(cards(page)).toHaveCount(5);
}

test('from a long recording to five vertical captioned shorts: corrected, reframed, re-ranked, rendered, posted', async ({
  page,
  allow,
}) => {
  allow(/^422 POST \/projects\/[\w-]+\/posts\.data/);
  test.setTimeout(600_000);
  await findShorts(page);
  for (let index = 0; index < 5; index++) await expect(card(page, index)).toContainText(/score \d+ · \w/);
  await expect(page.getByTestId('follows')).toHaveText(/^follows (the|both)/, { timeout: 180_000 });

  await test.step('it plays at once, framed and captioned', async () => {
    await page.keyboard.press('Space');
    await expect.poll(async () => page.getByTestId('timecode').innerText()).not.toBe('0:00.0');
    await page.keyboard.press('Space');
    await page.keyboard.press('Home');
    // Something else than black stands in the frame.
    await expect
      .poll(() =>
        page.getByRole('img', { name: 'The short at the playhead' }).evaluate((canvas: HTMLCanvasElement) => {
          const pixels = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height).data;
          return pixels.reduce((sum, value, index) => sum + (index % 4 < 3 && value > 60 ? 1 : 0), 0) / pixels.length;
        }),
      )
      .toBeGreaterThan(0.2);
  });

  await test.step('a word is corrected, marked and parted', async () => {
    await page.getByRole('tab', { name: 'Captions' }).click();
    await expect(page.locator('[data-caption]').first()).toBeVisible();
    // A caption that can be parted after its second word, whichever short came first.
    const long = (await page.locator('[data-caption]').all()).map(
      async (each) => (await each.locator('[data-word]').count()) > 2,
    );
    const line = page.locator(`[data-caption="${(await Promise.all(long)).indexOf(true)}"]`);
    const before = (await line.locator('[data-word]').allInnerTexts()).join(' ');
    await line.locator('[data-word]').first().dblclick();
    const field = page.getByLabel('Correct the caption');
    await expect(field).toHaveValue(before);
    // A word that is not there yet, also when this is a second try.
    const correction = before.includes('Flotilla') ? 'Armada' : 'Flotilla';
    await field.fill(before.replace(/^\S+/, correction));
    await field.press('Enter');
    await expect(line).toContainText(correction);
    await page.keyboard.press('Control+z');
    await expect(line).not.toContainText(correction);
    await page.keyboard.press('Control+Shift+z');
    await expect(line).toContainText(correction);
    await line.locator('[data-word]').nth(1).click();
    await expect(page.getByTestId('word-strip').getByRole('slider').first()).toBeVisible();
    await page.getByRole('button', { name: 'Important: in its own colour' }).click();
    await expect(page.getByRole('button', { name: 'No longer important' })).toBeVisible();
    await page.getByRole('button', { name: 'A new caption after this word' }).click();
    await expect(line.locator('[data-word]')).toHaveCount(2);
  });

  await test.step('the frame is dragged, and the way back is one step', async () => {
    const before = await page.getByTestId('follows').innerText();
    const box = (await page.getByTestId('short-viewer').boundingBox())!;
    await page.mouse.move(box.x + 200, box.y + 200);
    await page.mouse.down();
    await page.mouse.move(box.x + 130, box.y + 200, { steps: 5 });
    await page.mouse.up();
    await expect(page.getByTestId('follows')).toHaveText('follows, by hand', { timeout: 60_000 });
    await page.keyboard.press('Control+z');
    await expect(page.getByTestId('follows')).toHaveText(before);
    await page.keyboard.press('Control+Shift+z');
    await expect(page.getByTestId('follows')).toHaveText('follows, by hand');
  });

  await test.step('another ending', async () => {
    await page.getByRole('tab', { name: 'Why' }).click();
    const before = await lengthOf(page);
    const endings = page.getByRole('group', { name: 'Where it ends' }).getByRole('radio');
    await expect(endings).toHaveCount(3);
    for (let index = 0; index < 3; index++)
      if (!(await endings.nth(index).isChecked())) {
        await endings.nth(index).click();
        break;
      }
    await expect.poll(() => lengthOf(page)).not.toBe(before);
  });

  await test.step('thumbs put one first, and bring another one up', async () => {
    const before = await ids(page);
    await card(page, 3).getByRole('button', { name: 'More like this' }).click();
    await expect.poll(async () => (await ids(page))[0]).toBe(before[3]);
    // Praise moves those that are like it as well: which one stands last now is asked anew.
    const last = (await ids(page))[4]!;
    await page.locator(`[data-short="${last}"]`).getByRole('button', { name: 'Not this' }).click();
    await expect.poll(() => ids(page)).not.toContain(last);
    await expect(cards(page)).toHaveCount(5);
  });

  let name = '';
  await test.step('one is rendered, tall and with its sound at the web’s loudness', async () => {
    await card(page, 0)
      .getByRole('button', { name: /^Short 1/ })
      .click();
    await expect(card(page, 0)).toHaveAttribute('data-chosen', 'true');
    await page.getByRole('button', { name: 'Render all' }).click();
    const menu = page.getByRole('dialog');
    await menu.locator('label', { hasText: 'Range' }).locator('select').selectOption('one');
    await menu.locator('label', { hasText: 'Resolution' }).locator('select').selectOption('720');
    name = (await menu.getByRole('list', { name: 'File names' }).innerText()).trim().replace(/\.mp4$/, '');
    await menu.getByRole('button', { name: 'Start' }).click();
    await expect(page).toHaveURL(/outputs/);
    const row = page.locator('[data-render]', { hasText: name }).first();
    await expect(row).toContainText('720×1280');
    const link = row.getByRole('link', { name: 'Download' });
    await expect(link).toBeVisible({ timeout: 300_000 });
    const [download] = await Promise.all([page.waitForEvent('download'), link.click()]);
    const probe = JSON.parse(
      execFileSync('ffprobe', ['-v', 'error', '-show_streams', '-of', 'json', await download.path()]).toString(),
    ) as { streams: { codec_type: string; width?: number; height?: number }[] };
    expect(probe.streams.find((stream) => stream.codec_type === 'video')).toMatchObject({ width: 720, height: 1280 });
    expect(probe.streams.some((stream) => stream.codec_type === 'audio')).toBe(true);
    await expect(row).toContainText(/-1[345]\.\d LUFS, -\d\.\d dBTP/);
  });

  await test.step('it is posted once, and the outlet shows it', async () => {
    const done = page.locator('[data-post][data-state="done"]');
    const posted = await done.count();
    await page.locator('[data-render]', { hasText: name }).first().getByRole('button', { name }).click();
    await page.getByRole('button', { name: 'Post it' }).click();
    await page.getByLabel('Account').selectOption('closed-landing');
    await page.getByRole('button', { name: 'Post', exact: true }).click();
    await expect(page.getByRole('region', { name: 'Posts' })).toContainText('The landing is closed today', {
      timeout: 60_000,
    });
    await page.getByRole('button', { name: 'Post it' }).click();
    await page.getByLabel('Account').selectOption('leaky-boat');
    await page.getByRole('button', { name: 'Post', exact: true }).click();
    await expect(done).toHaveCount(posted + 1, { timeout: 60_000 });
    const there = done.first().getByRole('link', { name: 'it is there' });
    const shown = await page.request.get((await there.getAttribute('href'))!);
    expect(await shown.text()).toContain('<video');
    await page.getByRole('button', { name: 'Post it' }).click();
    await page.getByLabel('Account').selectOption('leaky-boat');
    await page.getByRole('button', { name: 'Post', exact: true }).click();
    await expect(page.getByRole('form', { name: /^Post/ })).toContainText('nothing is posted twice');
  });
});

test('wishes that nothing answers are said; a request in words is followed', async ({ page, allow }) => {
  allow(/^422 POST \/projects\/[\w-]+\/shorts\.data/);
  await page.goto(`${demo}/shorts`);
  const form = page.getByRole('form', { name: 'Shorts that are wished for' });
  await form.getByLabel('What to look for').fill('a green elephant');
  await form.getByRole('button', { name: 'Find shorts' }).click();
  await expect(form.getByRole('alert')).toContainText(/Nothing in “[^”]+” answers/);
  await form.getByLabel('Shortest, in seconds').fill('40');
  await form.getByLabel('Longest, in seconds').fill('30');
  await form.getByRole('button', { name: 'Find shorts' }).click();
  await expect(form).toContainText('at least two seconds longer');
  await form.getByLabel('Shortest, in seconds').fill('10');
  await form.getByLabel('Longest, in seconds').fill('30');
  await form.getByLabel('What to look for').fill('“tape”');
  await form.getByLabel('How many').fill('1');
  await form.getByRole('button', { name: 'Find shorts' }).click();
  await expect(cards(page)).toHaveCount(1);
  await page.getByRole('tab', { name: 'Captions' }).click();
  await expect(page.getByRole('tabpanel')).toContainText(/tape/i);
});

test('footage comes in by link, goes on after a break, and never from inside a network', async ({ page, allow }) => {
  allow(/^422 POST \/projects\/[\w-]+\/footage\.data/);
  await newProject(page, 'By link');
  const bring = async (address: string) => {
    await page.getByRole('button', { name: 'By link' }).click();
    await page.getByLabel('Address of a film, sound or picture').fill(address);
    await page.getByRole('button', { name: 'Bring it in' }).click();
  };
  await bring(`${process.env.BRIGHT_REEL_MEDIA_HOST}/leaky/child-laughs.mp4`);
  await expect(page.getByRole('link', { name: 'child-laughs.mp4' })).toBeVisible({ timeout: 120_000 });
  await bring('http://127.0.0.1:9/film.mp4');
  await expect(page.locator('[data-link="failed"]')).toContainText('lies inside a private network');
  await bring(`${process.env.BRIGHT_REEL_MEDIA_HOST}/page`);
  await expect(page.locator('[data-link="failed"]', { hasText: 'page' })).toContainText('no film, sound or picture', {
    timeout: 60_000,
  });
  await bring('not an address');
  await expect(page.getByRole('alert')).toContainText('This is not an address');
});

test('a title is typed on its card; shorts stand among the reels once they are opened', async ({ page }) => {
  await findShorts(page);
  const title = `Typed ${Date.now()}`;
  await card(page, 1)
    .getByRole('button', { name: /^Short 2/ })
    .click();
  await card(page, 1).locator('[title$="type another title"]').dblclick();
  await page.getByLabel('Title of the short').fill(title);
  await page.keyboard.press('Enter');
  await expect(card(page, 1)).toContainText(title);
  await page.keyboard.press('Control+z');
  await expect(card(page, 1)).not.toContainText(title);
  await page.keyboard.press('Control+Shift+z');
  await expect(card(page, 1)).toContainText(title);
  await page.goto(`${demo}/reels`);
  await expect(page.getByRole('heading', { name: /^(Reels|No reels yet)$/ })).toBeVisible();
  await expect(page.getByText(title)).toHaveCount(0);
  await page.goBack();
  await page.getByRole('link', { name: `Open “${title}” as a reel` }).click();
  await expect(page.getByTestId('extent')).toContainText('9:16');
  await page.goto(`${demo}/reels`);
  await expect(page.getByText(title).first()).toBeVisible();
});

test('every combination of pieces is listed, played and counted before it is made; the groups stay', async ({
  page,
}) => {
  await page.goto(`${demo}/variants`);
  // Also where an earlier try left groups.
  const away = page.getByRole('button', { name: /^Remove “[^”]*”$/ });
  for (let left = await away.count(); left > 0; left--) await away.first().click();
  await expect(away).toHaveCount(0);
  const add = async (place: number, section: string, names: RegExp[]) => {
    await page
      .locator(`[data-group="${place}"]`)
      .getByRole('button', { name: /^Add to/ })
      .click();
    const list = page.getByRole('region', { name: section });
    for (const name of names) await list.getByRole('button', { name }).click();
    await page.keyboard.press('Escape');
  };
  await page.getByRole('button', { name: 'A group' }).click();
  await add(0, 'Files', [/^captain-close/, /^child-laughs/]);
  await page.getByRole('button', { name: 'Another group' }).click();
  await add(1, 'Files', [/^photo-crew/, /^photo-duel/, /^photo-start/]);
  await expect(page.getByTestId('variant-count')).toHaveText('2 × 3 = 6');
  // A group once more, at the end.
  await page.getByRole('button', { name: 'Use “Group 1” once more, at the end' }).click();
  await expect(page.getByTestId('variant-count')).toHaveText('2 × 3 × 2 = 12');
  await page.getByRole('button', { name: 'No piece twice' }).click();
  await expect(page.getByRole('button', { name: 'Make 6 reels' })).toBeEnabled();

  await page.getByLabel('Named').fill('{date}');
  await page.getByLabel('Named').press('Enter');
  await expect(page.getByRole('alert')).toContainText('occur twice');
  await page.getByLabel('Named').fill('Variant {n:3}');
  await page.getByLabel('Named').press('Enter');
  await expect(page.getByTestId('variant-cost')).toContainText('6 variants');
  await page.getByLabel('Music').selectOption({ label: 'paper-sails.m4a, under all' });
  await page.getByRole('combobox', { name: 'Picture' }).selectOption('1080×1920');

  await test.step('one is played without being made', async () => {
    await page.getByRole('button', { name: /^Variant 002/ }).click();
    await page.getByTestId('variant-viewer').getByRole('button', { name: 'Play', exact: true }).click();
    await expect(page.getByTestId('timecode')).not.toHaveText('00:00:00:00');
    await page.keyboard.press('Space');
  });

  await test.step('the groups are there after a reload, and a step back goes one step', async () => {
    await expect(page.getByTestId('save-state')).toHaveText('Saved');
    await page.reload();
    await expect(page.getByTestId('variant-count')).toHaveText('2 × 3 × 2 = 12');
    await page.getByLabel('How many, spread evenly').fill('3');
    await page.getByLabel('How many, spread evenly').press('Enter');
    await expect(page.getByRole('button', { name: 'Make 3 reels' })).toBeVisible();
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByRole('button', { name: 'Make 6 reels' })).toBeVisible();
  });

  await page.getByRole('button', { name: 'Make 6 reels' }).click();
  await expect(page).toHaveURL(/\/reels$/);
  for (const name of ['Variant 001', 'Variant 003', 'Variant 006'])
    await expect(page.getByRole('link', { name: new RegExp(`^${name}`) }).first()).toBeVisible();
  await page
    .getByRole('link', { name: /^Variant 003/ })
    .first()
    .click();
  await expect(page.getByTestId('extent')).toContainText('9:16');
});
