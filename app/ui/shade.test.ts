// @vitest-environment jsdom
import { readFileSync } from 'node:fs';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { colours, inks } from '../drawing/inks';
import { chooseShade, earlyShade, shade, shadeChoice, shades, toggleShade } from './shade';

const css = readFileSync('app/app.css', 'utf8');
/** The variables of a block of the stylesheet. */
const variables = (opening: string) => {
  const block = css.slice(css.indexOf(opening)).split('}')[0]!.split('&')[0]!;
  return new Map([...block.matchAll(/--color-(\w+): (#[0-9a-f]{6})/g)].map(([, name, value]) => [name!, value!]));
};
const dark = variables('@theme');
const palettes = { dark, light: new Map([...dark, ...variables("html[data-shade='light'] {")]) };

/** Relative luminance and contrast after WCAG 2.2, "relative luminance" and "contrast ratio". */
function luminance(colour: string): number {
  const [r, g, b] = [1, 3, 5].map((at) => {
    const share = parseInt(colour.slice(at, at + 2), 16) / 255;
    return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}
const contrast = (a: string, b: string) => {
  const [lighter, darker] = [luminance(a), luminance(b)].sort((one, other) => other - one) as [number, number];
  return (lighter + 0.05) / (darker + 0.05);
};

beforeEach(() => {
  localStorage.clear();
  document.documentElement.dataset.shade = 'dark';
  window.matchMedia = vi.fn((query: string) => ({ matches: query.includes('light') })) as unknown as typeof matchMedia;
});
afterEach(() => vi.restoreAllMocks());

describe.each(shades)('the %s shade', (name) => {
  const palette = palettes[name];
  it('has the same colours in canvases as around them', () => {
    chooseShade(name);
    for (const [each, variable] of Object.entries(colours))
      expect([each, inks()[each as keyof typeof colours]]).toEqual([each, palette.get(/\w+(?=\))/.exec(variable)![0])]);
    expect(inks().playhead).toBe(palette.get('playhead'));
  });
  // WCAG 2.2: 1.4.3 asks 4.5 for text, 1.4.11 asks 3 for what one has to see.
  it.each(['ground', 'panel', 'raised'])('is read on %s', (on) => {
    for (const each of ['text', 'muted', 'lampline', 'shake'])
      expect([each, contrast(palette.get(each)!, palette.get(on)!) >= 4.5]).toEqual([each, true]);
    for (const each of ['faces', 'speech', 'motion', 'camera', 'sound', 'playhead'])
      expect([each, contrast(palette.get(each)!, palette.get(on)!) >= 3]).toEqual([each, true]);
  });
  it('is read on light itself', () =>
    expect(contrast(palette.get('onlamp')!, palette.get('lamp')!)).toBeGreaterThan(4.5));
});

describe('the choice of a shade', () => {
  it('is dark at first, and kept', () => {
    expect([shade(), shadeChoice()]).toEqual(['dark', 'dark']);
    toggleShade();
    expect([shade(), shadeChoice()]).toEqual(['light', 'light']);
    expect(localStorage.length).toBe(1);
  });
  it('is there before anything is painted, by the text in the page alone', () => {
    chooseShade('light');
    delete document.documentElement.dataset.shade;
    // As the page runs it.
    window.eval(earlyShade);
    expect(shade()).toBe('light');
  });
  it('follows the system where that is wished, and only there', () => {
    chooseShade('system');
    expect(shade()).toBe('light');
    chooseShade('dark');
    expect(shade()).toBe('dark');
  });
  it('works where the browser keeps nothing', () => {
    vi.spyOn(Storage.prototype, 'setItem').mockImplementation(() => {
      throw new Error('full');
    });
    vi.spyOn(Storage.prototype, 'getItem').mockImplementation(() => {
      throw new Error('closed');
    });
    chooseShade('light');
    expect([shade(), shadeChoice()]).toEqual(['light', 'light']);
  });
});
