import { describe, expect, it } from 'vitest';
import { applyTable, changesNothing, lookTable, namedLooks } from '.';
import { readCube, writeCube } from '#core/formats';
import { lookColour } from './looks';
import { lookUp, tableOf, type Rgb } from './table';

const plain = { exposure: 0, contrast: 0, saturation: 0, temperature: 0 };
const close = (a: readonly number[], b: readonly number[], digits = 5) =>
  a.forEach((value, index) => expect(value).toBeCloseTo(b[index]!, digits));

describe('looks, worked by hand', () => {
  it('as filmed leaves every colour', () => {
    for (const rgb of [
      [0, 0, 0],
      [1, 1, 1],
      [0.2, 0.5, 0.9],
    ] as Rgb[])
      close(lookColour(plain, rgb), rgb);
    expect([changesNothing(undefined), changesNothing(plain), changesNothing({ ...plain, named: 'Tin' })]).toEqual([
      true,
      true,
      false,
    ]);
  });
  it('half of full exposure is one stop: twice the light', () => {
    // sRGB 0.5 is 0.21404 in linear light; twice that, 0.42808, is sRGB 0.68584 (IEC 61966-2-1).
    close(lookColour({ ...plain, exposure: 0.5 }, [0.5, 0.5, 0.5]), [0.68584, 0.68584, 0.68584], 4);
  });
  it('no saturation gives the luma of BT.709', () => {
    close(lookColour({ ...plain, saturation: -1 }, [1, 0, 0]), [0.2126, 0.2126, 0.2126]);
  });
  it('warmer is redder and keeps the brightness of grey', () => {
    const [r, g, b] = lookColour({ ...plain, temperature: 0.5 }, [0.5, 0.5, 0.5]);
    expect(r).toBeGreaterThan(g);
    expect(g).toBeGreaterThan(b);
    const linear = (value: number) => ((value + 0.055) / 1.055) ** 2.4;
    expect(0.2126 * linear(r) + 0.7152 * linear(g) + 0.0722 * linear(b)).toBeCloseTo(0.21404, 4);
  });
  it('contrast turns around the middle', () =>
    close(lookColour({ ...plain, contrast: 0.5 }, [0.5, 0.75, 0.25]), [0.5, 0.85, 0.15]));
  it('named looks stay inside the range and are all different', () => {
    const seen = Object.keys(namedLooks).map((named) =>
      lookUp(lookTable({ ...plain, named }), [0.7, 0.4, 0.2])
        .map((value) => value.toFixed(3))
        .join(),
    );
    expect(new Set(seen).size).toBe(seen.length);
    expect(lookTable({ ...plain, named: 'Tin', contrast: 1 }).values.every((value) => value >= 0 && value <= 1)).toBe(
      true,
    );
  });
});

describe('tables', () => {
  it('between entries by trilinear interpolation, bytes and numbers alike', () => {
    const table = tableOf(([r, g, b]) => [r * r, (g + b) / 2, 1 - b], 17);
    const pixels = new Uint8ClampedArray([10, 200, 90, 255, 0, 0, 0, 7, 255, 255, 255, 1]);
    const wanted = [
      [10, 200, 90],
      [0, 0, 0],
      [255, 255, 255],
    ].flatMap((rgb) => lookUp(table, rgb.map((value) => value / 255) as unknown as Rgb).map((value) => value * 255));
    applyTable(table, pixels);
    [0, 1, 2, 4, 5, 6, 8, 9, 10].forEach((at, index) =>
      expect(Math.abs(pixels[at]! - wanted[index]!)).toBeLessThanOrEqual(1),
    );
    expect([pixels[3], pixels[7], pixels[11]]).toEqual([255, 7, 1]);
  });
  it('a .cube file is read as it was written', () => {
    const table = lookTable({ ...plain, named: 'Dusk' });
    const again = readCube(writeCube(table, 'Dusk'));
    expect(again.size).toBe(33);
    expect(Math.max(...again.values.map((value, index) => Math.abs(value - table.values[index]!)))).toBeLessThan(1e-6);
  });
  // Cube LUT Specification 1.0: red varies fastest; from memory.
  it('red varies fastest, and a domain is followed', () => {
    const table = readCube(
      [
        '# swaps red and blue',
        'TITLE "swap"',
        'LUT_3D_SIZE 2',
        'DOMAIN_MIN 0 0 0',
        'DOMAIN_MAX 2 2 2',
        '0 0 0',
        '0 0 1',
        '0 1 0',
        '0 1 1',
        '1 0 0',
        '1 0 1',
        '1 1 0',
        '1 1 1',
      ].join('\r\n'),
    );
    close(lookUp(table, [2, 0, 0]), [0, 0, 1]);
    close(lookUp(table, [1, 0, 0]), [0, 0, 0.5]);
  });
  it('a range of input is a domain for all three colours; keywords that are not known are passed over', () => {
    const corners = [0, 1].flatMap((b) => [0, 1].flatMap((g) => [0, 1].map((r) => `${r} ${g} ${b}`)));
    const head = ['MADE_BY somebody', 'LUT_3D_SIZE 2', 'LUT_3D_INPUT_RANGE 0.0 4.0'];
    const table = readCube([...head, ...corners].join('\n'));
    close(lookUp(table, [4, 2, 0]), [1, 0.5, 0]);
  });
  it('says which line is wrong and what was expected', () => {
    const problem = (text: string) => {
      try {
        readCube(text);
      } catch (error) {
        return (error as Error).message;
      }
      return 'accepted';
    };
    expect(problem('hello')).toMatch(/not a 3D table/);
    expect(problem('LUT_3D_SIZE 2\nLUT_3D_INPUT_RANGE 1')).toMatch(/Line 2: LUT_3D_INPUT_RANGE needs two numbers/);
    expect(problem('LUT_3D_SIZE 2\n0 0 0\n0 0 x')).toMatch(/Line 3: three numbers/);
    expect(problem('LUT_3D_SIZE 2\n0 0 0')).toMatch(/ends after 1 colours; 8/);
    expect(problem('LUT_3D_SIZE 1')).toMatch(/Line 1: LUT_3D_SIZE/);
    expect(problem('LUT_1D_SIZE 16')).toMatch(/one dimension/);
    expect(problem('0 0 0')).toMatch(/before LUT_3D_SIZE/);
    expect(problem('')).toMatch(/missing/);
    expect(problem(`LUT_3D_SIZE 2\n${'0 0 0\n'.repeat(9)}`)).toMatch(/more than 2³ = 8/);
  });
});
