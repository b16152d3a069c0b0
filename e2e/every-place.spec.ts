/** Every place while the server is away, and after it has come back. Nothing is loaded anew by hand. */
import { expect, farServer, type Page, test } from './test';

const demo = '/projects/0b0a7000-0000-4000-8000-000000000001';
const places = [
  '/',
  `${demo}/footage`,
  `${demo}/footage/people`,
  `${demo}/moments`,
  `${demo}/moments?show=scenes`,
  `${demo}/reels`,
  `${demo}/shorts`,
  `${demo}/music`,
  `${demo}/variants`,
  `${demo}/outputs`,
  '/storage',
  '/work',
  '/handbook',
];
const awaySeconds = 30;

const away = (page: Page) => page.getByText('The server does not answer');
const broken = (page: Page) => page.getByText(/This did not work|Unexpected/);

test('the server is away for half a minute: every place stays, and what was begun is done when it is back', async ({
  context,
  page,
  allow,
}) => {
  test.setTimeout(300_000);
  allow(/ERR_(FAILED|CONNECTION_REFUSED|INTERNET_DISCONNECTED)/);
  const server = await farServer(context, false);
  const tabs = [page, ...(await Promise.all(places.slice(1).map(() => context.newPage())))];
  for (const [index, tab] of tabs.entries()) {
    await tab.goto(places[index]!);
    await expect(tab.getByRole('heading', { level: 1 }).first()).toBeAttached();
  }
  const headings = await Promise.all(tabs.map((tab) => tab.getByRole('heading', { level: 1 }).first().textContent()));
  await server.away();

  // A project and a bin are begun meanwhile.
  const name = `Away ${Date.now()}`;
  await page.bringToFront();
  await page.getByRole('button', { name: 'Empty project' }).click();
  await page.getByLabel('Name of the project').fill(name);
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(away(page)).toBeVisible();
  const footage = tabs[1]!;
  await footage.bringToFront();
  await footage.getByLabel('Name of the new bin').fill(name);
  await footage.keyboard.press('Enter');

  await page.waitForTimeout(awaySeconds * 1000);
  for (const [index, tab] of tabs.entries()) {
    await expect(broken(tab), places[index]).toHaveCount(0);
    await expect(tab.getByRole('heading', { level: 1 }).first()).toHaveText(headings[index]!);
    if (places[index]!.startsWith('/projects')) await expect(away(tab), places[index]).toBeVisible();
  }

  await server.back();
  await expect(page).toHaveURL(/\/projects\/[0-9a-f-]{36}\/footage/);
  for (const [index, tab] of tabs.entries()) await expect(away(tab), places[index]).toHaveCount(0);
  await footage.bringToFront();
  await expect(footage.getByRole('button', { name })).toBeVisible();
  // A place goes on to the next without being loaded anew.
  await tabs[3]!.bringToFront();
  await tabs[3]!.getByRole('link', { name: 'Outputs' }).click();
  await expect(tabs[3]!).toHaveURL(/outputs/);
});
