import { expect, newProject, test } from './test';

test('Storage shows what takes how much room, and frees what was deleted once that is wanted', async ({ page }) => {
  const name = `Leaking boats ${Date.now()}`;
  await newProject(page, name);
  await page.goto('/');
  await page.getByRole('button', { name: `What can be done with ${name}` }).click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await page.getByRole('link', { name: 'Storage' }).click();
  await expect(page.getByRole('heading', { name: 'Storage' })).toBeVisible();
  await expect(page.getByText(/ free$/)).toBeVisible();
  await expect(page.getByRole('row', { name: /Pond Regatta/ })).toContainText(/MB/);
  const line = page.getByRole('listitem').filter({ hasText: /deleted project/ });
  await line.getByRole('button', { name: 'Free now' }).click();
  await expect(page.getByText('They cannot be brought back afterwards.')).toBeVisible();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Free now' }).click();
  await expect(page.getByText(/ freed\.$/)).toBeVisible();
  await expect(line).toHaveCount(0);
  await expect(page.getByText(name)).toHaveCount(0);
});

test('a page lets no script run that is not its own', async ({ page, allow }) => {
  allow(/Content Security Policy/, /^csp GET/);
  await page.goto('/');
  await page.evaluate(() => {
    const script = document.createElement('script');
    script.textContent = 'window.evil = true';
    document.body.append(script);
    document.body.insertAdjacentHTML('beforeend', '<img src="x:" onerror="window.evil = true">');
  });
  await page.waitForTimeout(300);
  expect(await page.evaluate(() => 'evil' in window)).toBe(false);
});
