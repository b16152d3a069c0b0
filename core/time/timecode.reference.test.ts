import { describe, expect, it } from 'vitest';
import { formatTimecode, parseTimecode } from './timecode';
import { rates } from './rate';

// Source: SMPTE ST 12-1 (drop-frame counting): labels ;00 and ;01 are left out at the start of each minute except
// every tenth, so ten minutes hold 17 982 frames and an hour 107 892.
describe('SMPTE drop-frame timecode', () => {
  const ntsc = rates['29.97'];

  it('counts 17 982 frames in ten minutes and 107 892 in an hour', () => {
    expect(parseTimecode('00:10:00;00', ntsc)).toBe(17982);
    expect(parseTimecode('01:00:00;00', ntsc)).toBe(107892);
    expect(formatTimecode(17982, ntsc, true)).toBe('00:10:00;00');
  });

  it.each([
    [1799, '00:00:59;29'],
    [1800, '00:01:00;02'],
    [3597, '00:01:59;29'],
    [3598, '00:02:00;02'],
    [17981, '00:09:59;29'],
    [107891, '00:59:59;29'],
  ])('labels frame %i as %s', (frame, label) => {
    expect(formatTimecode(frame, ntsc, true)).toBe(label);
    expect(parseTimecode(label, ntsc)).toBe(frame);
  });

  it('gives every frame of eleven minutes a label of its own that reads back', () => {
    const seen = new Set<string>();
    for (let frame = 0; frame < 19800; frame++) {
      const label = formatTimecode(frame, ntsc, true);
      expect(parseTimecode(label, ntsc)).toBe(frame);
      seen.add(label);
    }
    expect(seen.size).toBe(19800);
  });

  it('leaves out four labels a minute at 59.94', () => {
    expect(formatTimecode(3600, rates['59.94'], true)).toBe('00:01:00;04');
    expect(parseTimecode('00:10:00;00', rates['59.94'])).toBe(35964);
  });

  it('counts plainly without drop', () => {
    expect(formatTimecode(1800, ntsc)).toBe('00:01:00:00');
    expect(parseTimecode('00:00:10:12', rates['25'])).toBe(262);
  });

  it.each([
    ['00:01:00;00', ntsc, /leaves out/],
    ['00:01:00;02', rates['25'], /29\.97/],
    ['00:00:00:25', rates['25'], /out of range/],
    ['1:2', rates['25'], /not a timecode/],
  ])('refuses %s', (text, rate, words) => expect(() => parseTimecode(text, rate)).toThrow(words));
});
