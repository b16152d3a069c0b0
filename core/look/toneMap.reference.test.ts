import { describe, expect, it } from 'vitest';
import { hlgToScene, nitsToPq, pqToNits, rolledOff, standardRangeTable, toStandardRange } from './toneMap';
import { lookUp } from './table';

describe('perceptual quantiser', () => {
  // Rec. ITU-R BT.2408-7, table 1: grey card 26 cd/m² at 38 %, diffuse white 203 cd/m² at 58 %; BT.2100-2, table 4: 10,000 cd/m² at 100 %.
  it.each([
    [26, 0.38],
    [203, 0.58],
    [10_000, 1],
    [0, 0],
  ])('%i cd/m² is a signal of %f', (nits, signal) => {
    expect(nitsToPq(nits)).toBeCloseTo(signal, 2);
    expect(pqToNits(nitsToPq(nits))).toBeCloseTo(nits, 3);
  });
  // SMPTE ST 2084: 100 cd/m² is code 0.508, 1000 is 0.752; from memory.
  it('known codes', () => {
    expect(nitsToPq(100)).toBeCloseTo(0.508, 3);
    expect(nitsToPq(1000)).toBeCloseTo(0.752, 3);
  });
});

describe('hybrid log-gamma', () => {
  // BT.2100-2, table 5: a signal of one half is a twelfth of the scene's light, one is all of it.
  it('known points of its curve', () => {
    expect(hlgToScene(0.5)).toBeCloseTo(1 / 12, 6);
    expect(hlgToScene(1)).toBeCloseTo(1, 6);
  });
  // BT.2408-7, table 1: diffuse white is a signal of 75 %, and 203 cd/m² on a screen of 1000.
  it('diffuse white is as bright as that of PQ', () => {
    const hlg = toStandardRange([0.75, 0.75, 0.75], { hdr: 'hlg', wideGamut: true, peakNits: 1000 });
    const pq = toStandardRange([nitsToPq(203), nitsToPq(203), nitsToPq(203)], {
      hdr: 'pq',
      wideGamut: true,
      peakNits: 1000,
    });
    hlg.forEach((value, channel) => expect(value).toBeCloseTo(pq[channel]!, 2));
    expect(pq[0]).toBeGreaterThan(0.85);
    expect(pq[0]).toBeLessThan(0.95);
  });
});

describe('roll-off of highlights', () => {
  // BT.2390-10, 5.4.1: identity below the knee, the peak becomes the screen's, never falling.
  it.each([600, 1000, 4000])('of material up to %i cd/m²', (peak) => {
    expect(rolledOff(10, peak)).toBeCloseTo(10, 6);
    expect(rolledOff(peak, peak)).toBeCloseTo(203, 3);
    let before = 0;
    for (let nits = 1; nits <= peak; nits *= 1.1) {
      const now = rolledOff(nits, peak);
      expect(now).toBeGreaterThan(before);
      expect(now).toBeLessThanOrEqual(nits + 1e-6);
      before = now;
    }
  });
});

describe('colours', () => {
  const usual = { hdr: null, wideGamut: true, peakNits: 1000 };
  it('greys stay grey and as bright, white stays white', () => {
    for (const grey of [0, 0.25, 0.5, 1])
      toStandardRange([grey, grey, grey], usual).forEach((value) => expect(value).toBeCloseTo(grey, 3));
  });
  it('those that the usual screen does not have become its nearest, not black holes', () => {
    const [r, g, b] = toStandardRange([0, 1, 0], usual);
    expect(g).toBeGreaterThan(0.9);
    expect(Math.max(r, b)).toBeLessThan(g);
    expect(Math.min(r, g, b)).toBeGreaterThanOrEqual(0);
  });
  it('the table is as fine as eight bits need it, where pictures are', () => {
    const colour = { hdr: 'pq' as const, wideGamut: true, peakNits: 1000 };
    const table = standardRangeTable(colour);
    let worst = 0;
    for (let nits = 1; nits <= 600; nits *= 1.07) {
      const rgb = [nitsToPq(nits), nitsToPq(nits * 0.8), nitsToPq(nits * 0.6)] as const;
      const exact = toStandardRange(rgb, colour);
      lookUp(table, rgb).forEach((value, channel) => (worst = Math.max(worst, Math.abs(value - exact[channel]!))));
    }
    expect(worst * 255).toBeLessThan(2.5);
  });
});
