import { existsSync } from 'node:fs';
import { mkdir, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { writeCube } from '#core/formats';
import { findTable, listTables } from '#data/looks';
import { findFile, kindByName, listRows, type MediaRow } from '#data/media';
import { findBin, listBins, setBinInputLook } from '#data/projects';
import { parseParameters, type ReadingKey } from '#data/readings';
import { scratchFolder } from '#data/storage';
import { MediaError } from '#media/process';
import { InputLookDto } from './forms/dto';
import { readAnew } from './readRange';
import { done, missing, refused, type Result } from './result';
import { check } from './validate';

/**
 * The `.cube` file of an input look on this machine; written when it is asked for first.
 * @param hash as `ReadingWay` has it; null for none
 * @throws MediaError when no project has the table any more
 */
export async function inputLookFile(hash: string | null): Promise<string | null> {
  if (hash === null) return null;
  const folder = join(scratchFolder(), 'input-looks');
  const file = join(folder, `${hash}.cube`);
  if (existsSync(file)) return file;
  const found = await findTable(hash);
  if (!found)
    throw new MediaError('The colour table that is its input look is not there any more. Choose another, or none.');
  await mkdir(folder, { recursive: true });
  const part = `${file}.${crypto.randomUUID()}`;
  await writeFile(part, writeCube(found.table, found.name));
  await rename(part, file);
  return file;
}

/** What the sheets of a reading note of it. */
export const inputLookOf = ({ parameters }: ReadingKey): { inputLook?: string } => {
  const { inputLook } = parseParameters(parameters);
  return inputLook ? { inputLook } : {};
};

/**
 * Sets the colour table that films go through before anything else; they are read again for it. Photos, sound and what has
 * the look already stay as they are.
 * @param given `{ table, ids, bin }`; see `InputLookDto`
 * @returns why some of the films are not read so, one sentence each
 */
export async function changeInputLook(projectId: string, given: unknown): Promise<Result<{ left: string[] }>> {
  const checked = check(InputLookDto, given);
  if (!checked.ok) return checked;
  const { table: tableId, ids = [], bin } = checked.value;
  const table = tableId ? (await listTables(projectId)).find(({ id }) => id === tableId) : null;
  if (table === undefined) return missing('This colour table is not in the project any more.', 'table');
  if (bin && !(await findBin(projectId, bin))) return missing('This bin is not there any more.', 'bin');
  if (!bin && ids.length === 0) return refused('Choose at least one item.', 'ids');
  const inputLook = table?.hash ?? null;
  if (bin) await setBinInputLook(projectId, bin, inputLook);
  const left: string[] = [];
  for (const row of await listRows(projectId)) {
    if (!ids.includes(row.id) && (!bin || row.binId !== bin)) continue;
    if (!(await isFilm(row)) || lookOf(row) === inputLook) continue;
    const problem = await readAnew(row, { inputLook });
    if (problem) left.push(problem);
  }
  return done({ left });
}

/** What it has, or will have. */
const lookOf = ({ parameters, nextParameters }: MediaRow): string | null =>
  parseParameters(nextParameters ?? parameters).inputLook;

async function isFilm({ fileHash, name }: MediaRow): Promise<boolean> {
  const known = (await findFile(fileHash))?.probe;
  return known ? known.kind === 'video' && !known.copied : kindByName(name) === 'video';
}

/** What of a project has a table as its input look, in words; null when nothing has. */
export async function lookedThrough(projectId: string, hash: string): Promise<string | null> {
  const films = (await listRows(projectId)).filter(
    ({ parameters, nextParameters }) => parameters.endsWith(hash) || nextParameters?.endsWith(hash),
  );
  const bin = (await listBins(projectId)).find(({ inputLook }) => inputLook === hash);
  if (films.length > 1) return `“${films[0]!.name}” and ${films.length - 1} more`;
  return films[0] ? `“${films[0].name}”` : bin ? `the bin “${bin.name}”` : null;
}
