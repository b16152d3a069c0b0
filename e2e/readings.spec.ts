import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, newProject, type Locator, type Page, test } from './test';

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

test('by text: words are drawn over and kept, a reel is cut by what is said in it, names are kept, a rival is taken', async ({
  page,
}) => {
  await page.goto(`${demo}/moments?at=14`);
  await expect(page.getByTestId('count')).toHaveText(/^[1-9]\d* moments, /);
  const column = page.locator('aside');
  /** From the middle of one word to the middle of another. */
  const drawOver = async (from: Locator, to: Locator) => {
    const [a, b] = [(await from.boundingBox())!, (await to.boundingBox())!];
    await page.mouse.move(a.x + a.width / 2, a.y + a.height / 2);
    await page.mouse.down();
    await page.mouse.move(b.x + b.width / 2, b.y + b.height / 2, { steps: 5 });
    await page.mouse.up();
  };
  await page.getByRole('tab', { name: 'Words' }).click();
  const word = (text: string) =>
    column
      .locator('[data-word]')
      .filter({ hasText: new RegExp(`^${text}\\s*$`) })
      .first();
  await drawOver(word('people'), word('cross'));
  const marked = page.getByRole('group', { name: 'The marked words' });
  await expect(marked.getByRole('button', { name: 'Append to the reel' })).toBeVisible();
  await expect(page.getByTestId('string-time')).toContainText(/0:14\.\d – 0:1\d\.\d/);
  await page.keyboard.press('Escape');
  await expect(marked).toBeHidden();

  // Names and terms stay with the project.
  await page.getByRole('button', { name: 'Names and terms' }).click();
  const names = page.getByLabel('Names and terms, one a line');
  await names.fill('Duckweed Dash, mill pond');
  await page.getByRole('button', { name: 'Only keep them' }).click();
  await expect(names).toBeHidden();
  await page.reload();
  await page.getByRole('tab', { name: 'Words' }).click();
  await page.getByRole('button', { name: 'Names and terms' }).click();
  await expect(names).toHaveValue('Duckweed Dash\nmill pond');
  await names.press('Escape');

  // What was heard with doubts has rivals; Alt and a number takes one, and no other panel.
  await page.goto(`${demo}/moments?at=260`);
  await page.getByRole('tab', { name: 'Words' }).click();
  await expect(column.getByText(/^builder-camera-b\.mp4: \d+ words/)).toBeVisible();
  await page.keyboard.press('Alt+w');
  const field = page.getByLabel('What is said here');
  await expect(field).toBeFocused();
  const rivals = page.getByRole('group', { name: 'What may have been said instead' });
  while (!(await rivals.isVisible())) await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Alt+1');
  await expect(column.getByText(/, 1 put right$/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Escape');

  // What somebody says with fillers and false starts is tidied in the reel.
  await page.goto(`${demo}/moments?at=14`);
  await page.getByRole('tab', { name: 'Words' }).click();
  const saySo = async (word: string, sentence: string) => {
    await column.getByRole('button', { name: word, exact: true }).first().dblclick();
    await page.getByLabel('Correct the sentence').fill(sentence);
    await page.keyboard.press('Enter');
  };
  await saySo('grown', 'Today, um, grown people, you know, will try to to cross it in boats of cardboard.');
  await expect(column.getByRole('button', { name: 'um,', exact: true })).toBeVisible();

  // A reel closes up behind a sentence that is struck out of its text, and undo brings it back.
  await page.getByRole('button', { name: /^Make reel/ }).click();
  await expect(page.getByTestId('reel-viewer')).toBeVisible();
  await page.getByRole('tab', { name: 'Words' }).click();
  const sentences = page.getByRole('application', { name: 'What is said in the reel' });
  const first = sentences.getByRole('listitem').first();
  const length = page.getByTestId('extent');
  const [text, before] = [await first.innerText(), await length.innerText()];
  await first.getByRole('button', { name: /^Choose the sentence/ }).click();
  await page.keyboard.press('Delete');
  await expect(length).not.toHaveText(before);
  await expect(first).not.toHaveText(text);
  await page.keyboard.press('Control+z');
  await expect(length).toHaveText(before);
  await expect(first).toHaveText(text);
  // Sentences change places by keyboard.
  await first.getByRole('button', { name: /^Choose the sentence/ }).click();
  await page.keyboard.press('Alt+ArrowDown');
  await expect(sentences.getByRole('listitem').nth(1)).toContainText(text.replace(/^\S+\s+/, '').slice(0, 12));
  await page.keyboard.press('Control+z');
  await expect(first).toHaveText(text);
  await page.getByRole('button', { name: 'Tidy speech' }).click();
  const tidy = page.getByRole('group', { name: 'Tidy speech' });
  // Other tests may have left a sentence in the reel that is said twice.
  await expect(tidy).toContainText(/2 fillers(,| and) 1 false start/);
  const places = Number(/Take out (\d+) places/.exec(await tidy.innerText())![1]);
  await sentences.getByRole('button', { name: 'um,' }).click();
  await expect(tidy.getByRole('button', { name: `Take out ${places - 1} places, ` })).toBeVisible();
  await tidy.getByRole('button', { name: /^Take out/ }).click();
  await expect(first).toContainText('um, grown people, will try to cross');
  await expect(page.getByText(/jump cuts? /)).toBeVisible();
  await expect(length).not.toHaveText(before);
  await page.keyboard.press('Control+z');
  await expect(length).toHaveText(before);
  await expect(first).toHaveText(text);
  await page.goto(`${demo}/moments?at=14`);
  await page.getByRole('tab', { name: 'Words' }).click();
  await saySo('grown', 'Today grown people will try to cross it in boats made of cardboard and tape.');
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
