import type { ColourTable } from '#core/look';
import { FormatError } from './source';

/** Larger tables than this are refused; 65 is the largest that is usual. Common practice, no source. */
const largest = 129;

/**
 * Reads a 3D table in the `.cube` format (LUT_3D_SIZE, DOMAIN_MIN, DOMAIN_MAX, then size³ lines of three numbers, red
 * fastest). Follows the Cube LUT Specification 1.0 (2013), from memory; LUT_3D_INPUT_RANGE is read as the domain.
 * @throws FormatError naming the line and what was expected
 */
export function readCube(text: string): ColourTable {
  let size = 0;
  const bounds: { from: [number, number, number]; to: [number, number, number] } = { from: [0, 0, 0], to: [1, 1, 1] };
  let values: Float32Array | null = null;
  let filled = 0;
  for (const [index, raw] of text
    .replace(/^\uFEFF/, '')
    .split(/\r\n|\r|\n/)
    .entries()) {
    const line = index + 1;
    const row = raw.trim();
    if (!row || row.startsWith('#')) continue;
    const [word, ...rest] = row.split(/\s+/) as [string, ...string[]];
    if (/^TITLE$/i.test(word)) continue;
    if (/^LUT_1D_SIZE$/i.test(word))
      throw new FormatError(`Line ${line}: this is a table of one dimension; one of three (LUT_3D_SIZE) is expected.`);
    if (/^LUT_3D_SIZE$/i.test(word)) {
      size = Number(rest[0]);
      if (!Number.isInteger(size) || size < 2 || size > largest)
        throw new FormatError(
          `Line ${line}: LUT_3D_SIZE is a whole number of 2 to ${largest}, not “${rest[0] ?? ''}”.`,
        );
      values = new Float32Array(size ** 3 * 3);
      continue;
    }
    if (/^DOMAIN_M(IN|AX)$/i.test(word)) {
      const three = rest.map(Number);
      if (three.length !== 3 || three.some((value) => !Number.isFinite(value)))
        throw new FormatError(`Line ${line}: ${word} needs three numbers.`);
      bounds[/MIN/i.test(word) ? 'from' : 'to'] = three as [number, number, number];
      continue;
    }
    // The same for all three colours, as some programs write it.
    if (/^LUT_3D_INPUT_RANGE$/i.test(word)) {
      const [from, to] = rest.map(Number);
      if (rest.length !== 2 || !Number.isFinite(from) || !Number.isFinite(to))
        throw new FormatError(`Line ${line}: ${word} needs two numbers.`);
      bounds.from = [from!, from!, from!];
      bounds.to = [to!, to!, to!];
      continue;
    }
    // Keywords that a reader does not know are passed over; colours are numbers.
    if (/^[A-Z_]/i.test(word)) continue;
    const three = [word, ...rest].map(Number);
    if (three.length !== 3 || three.some((value) => !Number.isFinite(value)))
      throw new FormatError(`Line ${line}: three numbers are expected, not “${row.slice(0, 40)}”.`);
    if (!values) throw new FormatError(`Line ${line}: colours begin before LUT_3D_SIZE says how many there are.`);
    if (filled + 3 > values.length)
      throw new FormatError(`Line ${line}: there are more than ${size}³ = ${size ** 3} colours.`);
    values.set(three, filled);
    filled += 3;
  }
  if (!values) throw new FormatError('LUT_3D_SIZE is missing; this is not a 3D table.');
  if (filled < values.length)
    throw new FormatError(`The table ends after ${filled / 3} colours; ${size ** 3} are expected.`);
  if (bounds.from.some((value, channel) => value >= bounds.to[channel]!))
    throw new FormatError('DOMAIN_MIN must be less than DOMAIN_MAX.');
  return { size, values, ...bounds };
}

/** A table as `.cube` text. */
export function writeCube({ size, values, from, to }: ColourTable, title: string): string {
  const rows = [
    `TITLE "${title.replace(/["\r\n]/g, '')}"`,
    `LUT_3D_SIZE ${size}`,
    `DOMAIN_MIN ${from.join(' ')}`,
    `DOMAIN_MAX ${to.join(' ')}`,
  ];
  for (let at = 0; at < values.length; at += 3)
    rows.push(`${values[at]!.toFixed(6)} ${values[at + 1]!.toFixed(6)} ${values[at + 2]!.toFixed(6)}`);
  return `${rows.join('\n')}\n`;
}
