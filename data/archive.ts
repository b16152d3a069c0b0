import { mkdir, mkdtemp, rm, stat } from 'node:fs/promises';
import { createReadStream, createWriteStream } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { basename, extname, join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { sql } from 'drizzle-orm';
import yauzl from 'yauzl';
import yazl from 'yazl';
import { readerVersion } from '#core/readings';
import { contentHash, fileKey } from './contentHash';
import { database } from './db';
import { areParameters, readingFolder } from './readings';
import { scratchFolder, storage } from './storage';

/**
 * A whole project as one ZIP file: `project.json` (rows of the database), `readings/HASH.json` with their thumbnails,
 * and by choice `files/HASH.ext`, the media themselves. Opening one makes a new project; nothing that is there is changed.
 */
const archiveFormat = { format: 'Bright Reel project', version: 1 };

/** Rows of a project by table, in an order in which they can be put back: what is referred to comes first. */
const projectTables = {
  projects: 'id = $',
  bins: 'project_id = $',
  media: 'project_id = $',
  people: 'project_id = $',
  person_numbers: 'project_id = $',
  transcripts: 'media_id in (select id from media where project_id = $)',
  transcript_versions: 'media_id in (select id from media where project_id = $)',
  scripts: 'media_id in (select id from media where project_id = $)',
  speakers: 'media_id in (select id from media where project_id = $)',
  decisions: 'project_id = $',
  markers: 'project_id = $',
  recipes: 'project_id = $',
  boards: 'project_id = $',
  picks: 'project_id = $',
  colour_tables: 'project_id = $',
  reels: 'project_id = $',
  reel_revisions: 'reel_id in (select id from reels where project_id = $)',
  reel_versions: 'reel_id in (select id from reels where project_id = $)',
  montages: 'project_id = $',
  short_sets: 'project_id = $',
  house_styles: 'project_id = $',
} as const;
const readingTables = ['readings', 'traces', 'runs', 'recognitions'] as const;

export type ArchiveRow = Record<string, unknown>;
type Row = ArchiveRow;
type Rows = Record<string, Row[]>;
/** Checks one row of a table: the row as it may be kept, or what is wrong with it. */
export type CheckRow = (table: string, row: Row) => { row: Row } | { problem: string };

const rowsOf = async (table: string, where: string, value: string): Promise<Row[]> =>
  (
    await database().$client.query<{ row: Row }>(
      `select to_jsonb(t) as row from ${table} t where ${where.replaceAll('$', '$1')}`,
      [value],
    )
  ).rows.map(({ row }) => row);

/** The same as a member of a JSON object; its text is made by the database. */
async function* memberOf(table: string, where: string, value: string, isFirst: boolean): AsyncIterable<string> {
  const { rows } = await database().$client.query<{ text: string }>(
    `select to_jsonb(t)::text as text from ${table} t where ${where.replaceAll('$', '$1')}`,
    [value],
  );
  yield `${isFirst ? '' : ','}${JSON.stringify(table)}:[`;
  for (const [index, { text }] of rows.entries()) yield index ? `,${text}` : text;
  yield ']';
}

/** All rows of a project, by table. */
async function projectRows(projectId: string): Promise<Rows> {
  const rows: Rows = {};
  for (const [table, where] of Object.entries(projectTables)) rows[table] = await rowsOf(table, where, projectId);
  return rows;
}

/** Puts the rows of a project into their tables, what is referred to first. */
async function insertProject(tx: Pick<ReturnType<typeof database>, 'execute'>, rows: Rows): Promise<void> {
  for (const table of Object.keys(projectTables))
    await tx.execute(
      sql`insert into ${sql.raw(table)} select * from jsonb_populate_recordset(null::${sql.raw(table)}, ${JSON.stringify(rows[table] ?? [])}::jsonb)`,
    );
}

export class ArchiveError extends Error {
  override name = 'ArchiveError';
}

/** @param withMedia also the files themselves; without them they are looked for by content where the archive is opened */
export async function writeArchive(projectId: string, withMedia: boolean): Promise<Readable> {
  const zip = new yazl.ZipFile();
  const stream = zip.outputStream as unknown as Readable;
  zip.on('error', (error: Error) => stream.destroy(error));
  /** Made when it is its turn, so that no more than one lies in memory; it ends the archive when it fails. */
  const addText = (name: string, make: () => AsyncIterable<string>) =>
    zip.addReadStreamLazy(name, (give) =>
      give(
        null,
        Readable.from(make()).on('error', (error) => stream.destroy(error)),
      ),
    );
  const addStored = (name: string, key: string) =>
    zip.addReadStreamLazy(name, { compress: false }, (give) =>
      give(
        null,
        storage()
          .read(key)
          .on('error', (error) => stream.destroy(error)),
      ),
    );
  const files = (
    await database().$client.query<{ hash: string; size: string; storage_key: string; name: string }>(
      'select distinct on (f.hash) f.hash, f.size, f.storage_key, m.name from files f join media m on m.file_hash = f.hash where m.project_id = $1',
      [projectId],
    )
  ).rows;
  const listed = files.map(({ hash, size, name }) => ({ hash, size: Number(size), name }));
  const head = JSON.stringify({ ...archiveFormat, reader: readerVersion, files: listed });
  addText('project.json', async function* () {
    yield `${head.slice(0, -1)},"rows":{`;
    for (const [index, [table, where]] of Object.entries(projectTables).entries())
      yield* memberOf(table, where, projectId, index === 0);
    yield '}}';
  });
  for (const file of files) {
    const current = `hash = $ and version = ${readerVersion}`;
    addText(`readings/${file.hash}.json`, async function* () {
      yield '{';
      for (const [index, table] of readingTables.entries())
        yield* memberOf(table, table === 'recognitions' ? 'hash = $' : current, file.hash, index === 0);
      yield '}';
    });
    for (const { parameters } of (await rowsOf('readings', current, file.hash)) as { parameters: string }[]) {
      const folder = readingFolder({ hash: file.hash, parameters });
      for (const { key } of await storage().list(`${folder}/sheet-`))
        addStored(`sheets/${file.hash}/${parameters || '-'}/${basename(key)}`, key);
    }
    if (withMedia && (await storage().size(file.storage_key)) !== null)
      addStored(`files/${file.hash}${extname(file.storage_key)}`, file.storage_key);
  }
  zip.end();
  return stream;
}

/**
 * Makes a project like another, with ids of its own throughout; the files themselves are the same.
 * @returns the new project's id
 */
export async function copyProject(projectId: string, name: string): Promise<string> {
  const rows = await projectRows(projectId);
  const own = freshIds(rows);
  const now = new Date().toISOString();
  const id = own.projects![0]!.id as string;
  const fresh = { name, beginning: null, created_at: now, changed_at: now, put_away_at: null, removed_at: null };
  const project = { ...own.projects![0]!, ...fresh };
  await database().transaction((tx) => insertProject(tx, { ...own, projects: [project] }));
  return id;
}

const uuid = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/gi;

/**
 * Opens an archive as a new project. An archive is input like any other: its rows are checked, may refer to nothing but
 * one another, and are taken only up to a size that a project can have.
 * @param checkRow for every row; see `archiveRowChecks`
 * @returns the project's id, and the names of files that neither the archive nor this installation holds
 * @throws ArchiveError with a sentence when it is not an archive, or a broken one; nothing is made then
 */
export async function openArchive(file: string, checkRow: CheckRow): Promise<{ projectId: string; missing: string[] }> {
  await mkdir(scratchFolder(), { recursive: true });
  const folder = await mkdtemp(join(scratchFolder(), 'archive-'));
  try {
    const entries = await unpack(file, folder);
    const text = entries.get('project.json');
    if (!text) throw new ArchiveError('This is not a project archive: it holds no project.json.');
    const head = parse(await readText(text), 'project.json') as {
      format?: unknown;
      version?: unknown;
      files?: { hash: string; size: number; name: string }[];
      rows?: Rows;
    };
    if (head.format !== archiveFormat.format || !head.rows?.projects?.[0] || !Array.isArray(head.files))
      throw new ArchiveError('This is not a project archive of Bright Reel.');
    if (head.version !== archiveFormat.version)
      throw new ArchiveError(
        `This archive is of version ${String(head.version)}; this installation reads version ${archiveFormat.version}.`,
      );
    const files = checkFiles(head.files);
    const renamed = checkRows(freshIds(head.rows), files, checkRow);
    const missing: string[] = [];
    for (const { hash, name } of files) {
      const key = fileKey(hash, name);
      const there = [...entries].find(([entry]) => entry.startsWith(`files/${hash}`));
      const known =
        (
          await database().$client.query<{ storage_key: string }>('select storage_key from files where hash = $1', [
            hash,
          ])
        ).rows[0]?.storage_key ?? key;
      if ((await storage().size(known)) !== null) continue;
      if (!there) missing.push(name);
      else if ((await contentHash(there[1])) !== hash)
        throw new ArchiveError(`“${name}” is damaged in this archive; its content is not what it was.`);
      else await storage().adopt(known, there[1]);
    }
    await database()
      .transaction(async (tx) => {
        for (const { hash, size, name } of files)
          await tx.execute(
            sql`insert into files (hash, size, storage_key) values (${hash}, ${size}, ${fileKey(hash, name)}) on conflict do nothing`,
          );
        await insertProject(tx, renamed);
        for (const { hash } of files) {
          const reading = entries.get(`readings/${hash}.json`);
          if (!reading) continue;
          const own = checkReading(parse(await readText(reading), `readings/${hash}.json`) as Rows, hash, checkRow);
          const had = await tx.execute(sql`select 1 from readings where hash = ${hash} limit 1`);
          if (had.rows.length === 0)
            for (const table of readingTables)
              await tx.execute(
                sql`insert into ${sql.raw(table)} select * from jsonb_populate_recordset(null::${sql.raw(table)}, ${JSON.stringify(withoutProxies(table, own[table] ?? []))}::jsonb) on conflict do nothing`,
              );
        }
      })
      .catch((error: unknown) => {
        if (error instanceof ArchiveError) throw error;
        throw new ArchiveError(
          'This archive is damaged, or of another version: its rows do not fit. Nothing was changed.',
          { cause: error },
        );
      });
    for (const [entry, path] of entries) {
      const [kind, hash, parameters] = entry.split('/');
      if (kind !== 'sheets' || !hash || parameters === undefined || !files.some((each) => each.hash === hash)) continue;
      const target = `${readingFolder({ hash, parameters: parameters === '-' ? '' : parameters })}/${basename(entry)}`;
      if ((await storage().size(target)) === null) await storage().adopt(target, path);
    }
    return { projectId: renamed.projects![0]!.id as string, missing };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** A proxy lies in the store of the installation that made it; the reading makes another when it is needed. */
const withoutProxies = (table: string, rows: Row[]): Row[] =>
  rows.map((row) =>
    table === 'readings' ? { ...row, proxy_key: null } : table === 'runs' ? { ...row, id: randomUUID() } : row,
  );

/**
 * Every row gets an id of its own, and everything that referred to the old one follows, in documents too. What refers to
 * a row that is not in the archive refers to nothing afterwards, never to a row of another project.
 */
function freshIds(rows: Rows): Rows {
  const ids = new Map<string, string>();
  const fresh = (id: string) => {
    const known = ids.get(id.toLowerCase()) ?? randomUUID();
    ids.set(id.toLowerCase(), known);
    return known;
  };
  return JSON.parse(JSON.stringify(rows).replace(uuid, fresh)) as Rows;
}

interface ArchivedFile {
  hash: string;
  size: number;
  name: string;
}
/** No project has more of them. */
const mostFiles = 20_000;

function checkFiles(given: readonly unknown[]): ArchivedFile[] {
  if (given.length > mostFiles)
    throw new ArchiveError(`This archive names ${given.length} files; a project has at most ${mostFiles}.`);
  return given.map((each) => {
    const { hash, size, name } = (each ?? {}) as Partial<Record<keyof ArchivedFile, unknown>>;
    if (typeof hash !== 'string' || !/^[0-9a-f]{64}$/.test(hash))
      throw new ArchiveError('This archive is damaged: it names a file by something else than its content.');
    if (typeof name !== 'string' || name.length > 300 || !Number.isSafeInteger(size) || (size as number) < 0)
      throw new ArchiveError(
        'This archive is damaged: it does not say what its files are called and how large they are.',
      );
    return { hash, name, size: size as number };
  });
}

/** Columns by which rows of one table refer to rows of another. */
const references = { project_id: 'projects', media_id: 'media', bin_id: 'bins', reel_id: 'reels' } as const;
const mostRows = 2_000_000;

/** The rows as they may be kept. @throws ArchiveError naming what is wrong with one */
function checkRows(rows: Rows, files: readonly ArchivedFile[], checkRow: CheckRow): Rows {
  const hashes = new Set(files.map(({ hash }) => hash));
  const idsOf = new Map(
    Object.values(references).map((table) => {
      const own: unknown = rows[table];
      return [table, new Set(Array.isArray(own) ? own.map((row: Row | null) => row?.id) : [])];
    }),
  );
  if (!Array.isArray(rows.projects) || rows.projects.length !== 1)
    throw new ArchiveError('This archive is damaged: it holds not one project.');
  const damaged = (problem: string) =>
    new ArchiveError(`This archive is damaged, or was made by something else: ${problem}. Nothing was changed.`);
  const checked: Rows = {};
  let count = 0;
  for (const table of Object.keys(projectTables)) {
    const own = rows[table] ?? [];
    if (!Array.isArray(own) || (count += own.length) > mostRows)
      throw damaged(`“${table}” is no list of rows, or too long a one`);
    checked[table] = own.map((row) => {
      if (typeof row !== 'object' || row === null) throw damaged(`“${table}” holds something else than rows`);
      for (const [column, target] of Object.entries(references))
        if (row[column] != null && !idsOf.get(target)!.has(row[column]))
          throw damaged(`a row of “${table}” belongs to another project`);
      if (row.file_hash !== undefined && !hashes.has(row.file_hash as string))
        throw damaged(`“${table}” names a file that is not listed`);
      const result = checkRow(table, row);
      if ('problem' in result) throw damaged(result.problem);
      return result.row;
    });
  }
  return checked;
}

/** What was read of one file; only of that one. */
function checkReading(rows: Rows, hash: string, checkRow: CheckRow): Rows {
  const checked: Rows = {};
  for (const table of readingTables) {
    const own = (rows as Record<string, unknown>)[table] ?? [];
    if (!Array.isArray(own))
      throw new ArchiveError(`This archive is damaged: what was read of a file holds no list of ${table}.`);
    checked[table] = (own as Row[]).map((row) => {
      const result =
        row.hash === hash && typeof row.parameters === 'string' && areParameters(row.parameters.replace(/~coarse$/, ''))
          ? checkRow(table, row)
          : { problem: 'a row belongs to another file' };
      if ('problem' in result)
        throw new ArchiveError(
          `This archive is damaged: ${result.problem} in what was read of a file. Nothing was changed.`,
        );
      return result.row;
    });
  }
  return checked;
}
function parse(text: string, name: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new ArchiveError(`This archive is damaged: ${name} cannot be read.`, { cause: error });
  }
}

async function readText(path: string): Promise<string> {
  const parts: Buffer[] = [];
  for await (const part of createReadStream(path)) parts.push(part as Buffer);
  return Buffer.concat(parts).toString('utf8');
}

const wantedEntry =
  /^(project\.json|readings\/[0-9a-f]{64}\.json|sheets\/[0-9a-f]{64}\/[\w.~-]+\/sheet-[\w.-]+|files\/[0-9a-f]{64}(\.[a-z0-9]{1,5})?)$/;

const megabyte = 1024 ** 2;
/** Text of measurements packs well, but not better than this over a whole archive. */
const largestRatio = 40;
const smallestAllowance = 256 * megabyte;
const mostEntries = 100_000;
/** Texts are parsed in one piece, pictures are small; of a file itself its own size is the bound. */
const mostBytes = (name: string): number =>
  name.endsWith('.json') ? 400 * megabyte : name.startsWith('sheets/') ? 20 * megabyte : Infinity;

/** Unpacks what belongs into an archive, each entry under a number; names of entries never become paths. */
async function unpack(file: string, folder: string): Promise<Map<string, string>> {
  const entries = new Map<string, string>();
  const allowed = Math.max(smallestAllowance, (await stat(file)).size * largestRatio);
  let unpacked = 0;
  let zip: yauzl.ZipFile;
  try {
    zip = await yauzl.openPromise(file, { lazyEntries: true });
  } catch (error) {
    throw new ArchiveError('This is not a project archive, or only a part of one: it cannot be opened as a ZIP file.', {
      cause: error,
    });
  }
  try {
    for await (const entry of zip.eachEntry()) {
      if (!wantedEntry.test(entry.fileName)) continue;
      // What an entry says of its size is checked while it is read; one that says too much is not begun.
      unpacked += entry.uncompressedSize;
      if (entries.size >= mostEntries || unpacked > allowed || entry.uncompressedSize > mostBytes(entry.fileName))
        throw new ArchiveError('This archive unpacks to more than a project can hold, and is not opened.');
      const path = join(folder, String(entries.size));
      await pipeline(await zip.openReadStreamPromise(entry), createWriteStream(path));
      entries.set(entry.fileName, path);
    }
  } catch (error) {
    if (error instanceof ArchiveError) throw error;
    if ((error as NodeJS.ErrnoException).code === 'ENOSPC')
      throw new ArchiveError('The disk is full. Free some space and open the archive again.', { cause: error });
    throw new ArchiveError('This archive is damaged and cannot be read to its end.', { cause: error });
  }
  return entries;
}
