import { axeFinds, expect, test, type Page } from './test';

const demo = '/projects/0b0a7000-0000-4000-8000-000000000001';
const film = (page: Page) => page.locator('video').first();
const comments = (page: Page) => page.getByRole('region', { name: 'Comments' }).getByRole('listitem');
/** Seconds of "00:00:03:15" at 30 frames a second. */
const seconds = (timecode: string) => {
  const [hours, minutes, rest, frames] = timecode.split(':').map(Number) as [number, number, number, number];
  return hours * 3600 + minutes * 60 + rest + frames / 30;
};
const wait = { timeout: 120_000 };

test('a client looks under a link with a password, comments, sees the next version and approves it', async ({
  page,
  browser,
  allow,
}) => {
  test.setTimeout(400_000);
  // Wrong password; a film without one; a download that is not wanted; the link after it was closed.
  allow(/^422 POST \/viewing\//, /^404 GET \/viewing\//);
  await page.goto(`${demo}/moments`);
  await page.getByLabel('Target length').fill('0:15');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /Make reel/ }).click();
  await expect(page).toHaveURL(/reels\/[0-9a-f-]{36}/);
  await page.getByRole('tab', { name: 'Viewing' }).click();
  await page.getByLabel('Password').fill('ducks');
  await page.getByLabel('Says of this version').fill('first cut');
  await page.getByRole('button', { name: 'Make a link' }).click();
  const link = await page.getByRole('textbox', { name: 'Link' }).inputValue();
  await expect(page.getByRole('region', { name: 'Versions' }).getByText('Version 1')).toBeVisible();
  await expect(page.getByText(/Its film is being made/)).toHaveCount(0, wait);

  const outside = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const client = await outside.newPage();
  await test.step('only with the password', async () => {
    const answer = await client.goto(link);
    expect(answer!.headers()['referrer-policy']).toBe('same-origin');
    await client.getByLabel('Password').fill('geese');
    await client.getByRole('button', { name: 'Show it' }).click();
    await expect(client.getByText('This is not the password.')).toBeVisible();
    await client.getByLabel('Password').fill('ducks');
    await client.getByRole('button', { name: 'Show it' }).click();
    await expect(film(client)).toBeVisible();
    const address = await film(client).evaluate((video: HTMLVideoElement) => video.src);
    const stranger = await browser.newContext();
    expect((await stranger.request.get(address)).status()).toBe(422);
    expect((await outside.request.get(address, { headers: { Range: 'bytes=0-9' } })).status()).toBe(206);
    expect((await outside.request.get(address.replace(/\?.*/, '?download'))).status()).toBe(403);
    await stranger.close();
  });

  await test.step('a comment at a time; a reload in the middle keeps what was written', async () => {
    await expect.poll(() => film(client).evaluate((video: HTMLVideoElement) => video.readyState)).toBeGreaterThan(0);
    const write = client.getByPlaceholder('What should be different, what is good?');
    await write.fill('The boat is cut off here.');
    await client.reload();
    await expect(write).toHaveValue('The boat is cut off here.');
    await film(client).evaluate((video: HTMLVideoElement) => void (video.currentTime = video.duration - 1.5));
    const button = client.getByRole('button', { name: /^Comment at 0:1\d\.\d$/ });
    await button.click();
    await expect(client.getByText('Give your name first')).toBeVisible();
    await client.getByLabel('Your name').fill('Ada');
    await button.click();
    await expect(client.getByRole('listitem').getByText('The boat is cut off here.')).toBeVisible();
    await expect(write).toHaveValue('');
  });

  await test.step('axe finds nothing', async () => {
    expect(await axeFinds(client)).toEqual([]);
    expect(await axeFinds(page)).toEqual([]);
  });

  await test.step('it stands in the reel, and goes along with its piece', async () => {
    await expect(comments(page)).toHaveCount(1, { timeout: 15_000 });
    await expect(comments(page).getByText('The boat is cut off here.')).toBeVisible();
    const before = seconds(await comments(page).getByRole('button').first().innerText());
    const flag = page.locator('[data-comment-flag]');
    await flag.click();
    await expect(page.locator('[data-comment]')).toHaveClass(/bg-raised/);
    const first = page.locator('[data-piece]').first();
    await first.click();
    await page.keyboard.press('Delete');
    await expect
      .poll(async () => seconds(await comments(page).getByRole('button').first().innerText()))
      .toBeLessThan(before - 0.5);
    await page.getByRole('tab', { name: 'Viewing' }).click();
    await comments(page).getByRole('button', { name: 'Answer' }).click();
    await comments(page).getByRole('textbox', { name: 'Answer' }).fill('Longer now.');
    await comments(page).getByRole('button', { name: 'Send' }).click();
    await expect(comments(page).getByText('Longer now.')).toBeVisible();
    await page.getByRole('button', { name: 'Set markers' }).click();
    await expect(page.locator('[data-marker]')).toHaveCount(1);
    await comments(page).getByRole('button', { name: 'Tick off' }).click();
    await expect(page.getByText('0 open of 1 comment')).toBeVisible();
  });

  await test.step('the next version beside the first one, and approved', async () => {
    await page.getByRole('button', { name: 'Show this state as version 2' }).click();
    await client.getByRole('button', { name: 'Show version 2' }).click(wait);
    await expect(client.getByRole('combobox', { name: 'Version 2 of 2' })).toBeVisible();
    await client.getByText('1 comment on other versions').click();
    await expect(client.getByText('Longer now.')).toBeVisible();
    await client.getByRole('button', { name: 'Side by side' }).click();
    await expect(client.locator('video')).toHaveCount(2);
    const [was, is] = (await client.getByText(/^0:\d\d\.\d became 0:\d\d\.\d$/).innerText()).split(' became ');
    expect(Number(is!.slice(2))).toBeLessThan(Number(was!.slice(2)));
    await film(client).evaluate((video: HTMLVideoElement) => void (video.currentTime = 2));
    await expect
      .poll(() =>
        client
          .locator('video')
          .last()
          .evaluate((video: HTMLVideoElement) => video.currentTime),
      )
      .toBeCloseTo(2, 1);
    await client.getByRole('button', { name: 'Approve version 2' }).click();
    await expect(client.getByText('Approved by Ada')).toBeVisible();
    await expect(page.getByText('Approved by Ada')).toBeVisible({ timeout: 15_000 });
  });

  await test.step('a closed link leads nowhere', async () => {
    await page.getByText('Settings of the link').click();
    await page.getByRole('button', { name: 'Close the link' }).click();
    await expect(page.getByText(/^The link is closed/)).toBeVisible();
    const gone = await client.goto(link);
    expect(gone!.status()).toBe(404);
    await expect(client.getByText('This link does not lead anywhere any more.')).toBeVisible();
    await expect(client.getByRole('link')).toHaveCount(0);
  });
  await outside.close();
});
