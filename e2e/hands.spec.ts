import { expect, type Page, settled, test } from './test';

const demo = '/projects/0b0a7000-0000-4000-8000-000000000001';
const marked = (page: Page) => page.locator('[data-range=marked]');

async function openPage(page: Page, query = '') {
  await page.goto(`${demo}/moments${query}`);
  await expect(page.getByTestId('count')).toHaveText(/^[1-9]\d* moments, /);
  const line = page.locator('[data-line]').first();
  return (await line.boundingBox())!;
}

test('Escape puts back what is drawn: a marked range, the waterline, the width of the picture', async ({ page }) => {
  const box = await openPage(page);
  const y = box.y + 20;
  await page.mouse.move(box.x + 100, y);
  await page.mouse.down();
  await page.mouse.move(box.x + 240, y, { steps: 4 });
  await expect(marked(page)).toHaveCount(1);
  await page.keyboard.press('Escape');
  await expect(marked(page)).toHaveCount(0);
  await page.mouse.move(box.x + 300, y);
  await page.mouse.up();
  await expect(marked(page)).toHaveCount(0);

  const line = page.getByRole('slider', { name: 'Waterline' });
  const level = await line.getAttribute('aria-valuenow');
  const at = (await line.boundingBox())!;
  await page.mouse.move(at.x + 60, at.y + at.height / 2);
  await page.mouse.down();
  await page.mouse.move(at.x + 60, at.y - 20, { steps: 4 });
  await expect(line).not.toHaveAttribute('aria-valuenow', level!);
  await page.keyboard.press('Escape');
  await expect(line).toHaveAttribute('aria-valuenow', level!);
  await page.mouse.up();

  const divider = page.getByRole('separator', { name: 'Width of the picture' });
  const width = await divider.getAttribute('aria-valuenow');
  const edge = (await divider.boundingBox())!;
  await page.mouse.move(edge.x + 3, edge.y + 200);
  await page.mouse.down();
  await page.mouse.move(edge.x - 90, edge.y + 200, { steps: 4 });
  await expect(divider).not.toHaveAttribute('aria-valuenow', width!);
  await page.keyboard.press('Escape');
  await expect(divider).toHaveAttribute('aria-valuenow', width!);
  await page.mouse.up();
});

test('a range is marked beyond what the screen shows: the page goes on under the pointer at its edge', async ({
  page,
}) => {
  const box = await openPage(page, '?line=10');
  const scroller = page.getByRole('region', { name: 'Footage, end to end' });
  const room = (await scroller.boundingBox())!;
  await page.mouse.move(box.x + 50, box.y + 20);
  await page.mouse.down();
  await page.mouse.move(box.x + 50, room.y + room.height - 4, { steps: 5 });
  // It is held still, and goes on.
  await expect.poll(() => scroller.evaluate((element) => element.scrollTop)).toBeGreaterThan(400);
  await page.mouse.up();
  const lines = room.height / (box.height + 1);
  await expect
    .poll(async () => Number(/([\d.]+) s/.exec(await page.getByTestId('string-time').innerText())?.[1] ?? 0))
    .toBeGreaterThan(10 * lines);
  await page.keyboard.press('Escape');
});

test('an edge of a piece is put back by Escape, and the reel stays as it was', async ({ page }) => {
  await page.goto(`${demo}/moments`);
  await page.getByRole('button', { name: /Make reel/ }).click();
  await expect(page).toHaveURL(/reels\//);
  const piece = page.locator('[data-piece]').first();
  await expect(piece).toBeVisible();
  await settled(page);
  const before = await piece.innerText();
  const handle = (await page.locator('[data-edge^="out"]').first().boundingBox())!;
  await page.mouse.move(handle.x + 4, handle.y + 10);
  await page.mouse.down();
  await page.mouse.move(handle.x - 26, handle.y + 10, { steps: 4 });
  await expect(page.getByTestId('cut-frames')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.mouse.up();
  expect(await piece.innerText()).toBe(before);
  await page.reload();
  await expect(piece).toBeVisible();
  expect(await piece.innerText()).toBe(before);
});

test('a file that is let go where nothing takes it does not replace the screen', async ({ page }) => {
  for (const address of ['/', `${demo}/moments`]) {
    await page.goto(address);
    await settled(page);
    const isKept = await page.evaluate(async () => {
      const data = new DataTransfer();
      data.items.add(new File(['x'], 'pond.mp4'));
      const send = (kind: string) => {
        const event = new DragEvent(kind, { bubbles: true, cancelable: true, dataTransfer: data });
        document.documentElement.dispatchEvent(event);
        return event.defaultPrevented;
      };
      send('dragenter');
      await new Promise((wake) => requestAnimationFrame(wake));
      send('dragover');
      return send('drop');
    });
    expect(isKept, address).toBe(true);
  }
});

test('every picture has the same buttons below it, also that of a montage', async ({ page }) => {
  for (const address of [`${demo}/moments`, `${demo}/music`]) {
    await page.goto(address);
    await expect(page.locator('[data-picture-frame]').filter({ visible: true }), address).toHaveCount(1);
    await expect(page.getByRole('button', { name: 'Picture in a window of its own' })).toBeVisible();
    await expect(page.getByRole('button', { name: /full screen/i })).toBeVisible();
  }
});

test('the picture in a window of its own shows what the place shows, takes its keys, and outlives a reload', async ({
  page,
}) => {
  await openPage(page);
  const opened = page.waitForEvent('popup');
  await page.keyboard.press('Shift+V');
  const alone = await opened;
  const light = () =>
    alone.locator('canvas').evaluate((canvas: HTMLCanvasElement) => {
      const { width, height } = canvas;
      const { data } = canvas.getContext('2d')!.getImageData(width / 2, height / 2, 64, 64);
      return data.reduce((sum, value, index) => sum + (index % 4 === 3 ? 0 : value), 0);
    });
  await expect.poll(light).toBeGreaterThan(0);
  const timecode = page.locator('#viewer').getByTestId('timecode');
  await expect(timecode).toHaveText('00:00:00:00');
  await alone.keyboard.press('ArrowRight');
  await expect(timecode).toHaveText('00:00:00:01');

  await page.reload();
  await expect(page.getByTestId('count')).toHaveText(/^[1-9]\d* moments, /);
  await expect.poll(light).toBeGreaterThan(0);
  await page.getByRole('link', { name: 'Footage' }).click();
  await expect(alone.getByRole('status')).toContainText('no picture in this place');
  await page.goto('about:blank');
  await expect(alone.getByRole('status')).toContainText('was closed');
  await alone.close();
});
