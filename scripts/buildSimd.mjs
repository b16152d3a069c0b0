/**
 * Compiles the AssemblyScript of `core/picture/simd/assembly` and writes it down as text, so that nothing is compiled
 * where Bright Reel runs: npm run simd. With --print it only prints the text; a test compares it with what is there.
 */
import { writeFileSync } from 'node:fs';
import asc from 'assemblyscript/asc';

const source = 'core/picture/simd/assembly/blockMatching.ts';
const target = 'core/picture/simd/blockMatchingBytes.ts';

let bytes = null;
const { error, stderr } = await asc.main(
  [source, '--outFile', 'out.wasm', '--runtime', 'stub', '--enable', 'simd', '-O3', '--noAssert', '--converge'],
  { writeFile: (name, contents) => name === 'out.wasm' && (bytes = contents) },
);
if (error) throw new Error(stderr.toString());
const text = `/** Compiled from assembly/blockMatching.ts by \`npm run simd\`; a test compiles it again and compares. */
export const blockMatchingBytes =
  '${Buffer.from(bytes).toString('base64')}';
`;
if (process.argv.includes('--print')) process.stdout.write(text);
else writeFileSync(target, text);
