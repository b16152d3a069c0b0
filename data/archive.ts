import { mkdir, mkdtemp, readdir, rm } from 'node:fs/promises';
import { createReadStream, createWriteStream } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { basename, extname, join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { sql } from 'drizzle-orm';
import yauzl from 'yauzl';
import yazl from 'yazl';
import { readerVersion } from '#core/readings';
import { contentHash, fileKey } from './contentHash';
import { database } from './db';
import { readingFolder } from './readings';
import { scratchFolder, storage } from './storage';

/**
 * A whole project as one ZIP file: `project.json` (rows of the database), `readings/HASH.json` with their thumbnails,
 * and by choice `files/HASH.ext`, the media themselves. Opening one makes a new project; nothing that is there is changed.
 */
const archiveFormat = { format: 'Bright Reel project', version: 1 };

/** Rows of a project by table, in an order in which they can be put back: what is referred to comes first. */
const projectTables = {
  projects: 'id = $', bins: 'project_id = $', media: 'project_id = $', people: 'project_id = $', transcripts: 'media_id in (select id from media where project_id = $)', decisions: 'project_id = $', markers: 'project_id = $',
  recipes: 'project_id = $', boards: 'project_id = $', picks: 'project_id = $', colour_tables: 'project_id = $', reels: 'project_id = $',
  reel_revisions: 'reel_id in (select id from reels where project_id = $)', reel_versions: 'reel_id in (select id from reels where project_id = $)', montages: 'project_id = $', short_sets: 'project_id = $', house_styles: 'project_id = $',
} as const;
const readingTables = ['readings', 'traces', 'runs', 'recognitions'] as const;

type Row = Record<string, unknown>;
type Rows = Record<string, Row[]>;

const rowsOf = async (table: string, where: string, value: string): Promise<Row[]> =>
  (await database().$client.query<{ row: Row }>(`select to_jsonb(t) as row from ${table} t where ${where.replaceAll('$', '$1')}`, [value])).rows.map(({ row }) => row);

export class ArchiveError extends Error {
  override name = 'ArchiveError';
}

/** @param withMedia also the files themselves; without them they are looked for by content where the archive is opened */
export async function writeArchive(projectId: string, withMedia: boolean): Promise<Readable> {
  const zip = new yazl.ZipFile();
  const rows: Rows = {};
  for (const [table, where] of Object.entries(projectTables)) rows[table] = await rowsOf(table, where, projectId);
  const files = (await database().$client.query<{ hash: string; size: string; storage_key: string; name: string }>('select distinct on (f.hash) f.hash, f.size, f.storage_key, m.name from files f join media m on m.file_hash = f.hash where m.project_id = $1', [projectId])).rows;
  zip.addBuffer(Buffer.from(JSON.stringify({ ...archiveFormat, reader: readerVersion, files: files.map(({ hash, size, name }) => ({ hash, size: Number(size), name })), rows })), 'project.json');
  for (const file of files) {
    const own: Rows = {};
    for (const table of readingTables) own[table] = await rowsOf(table, table === 'recognitions' ? 'hash = $' : `hash = $ and version = ${readerVersion}`, file.hash);
    zip.addBuffer(Buffer.from(JSON.stringify(own)), `readings/${file.hash}.json`);
    for (const { parameters } of own.readings as { parameters: string }[]) {
      const folder = await storage().localPath(readingFolder({ hash: file.hash, parameters }));
      for (const sheet of (await readdir(folder).catch(() => [])).filter((name) => name.startsWith('sheet-'))) zip.addFile(join(folder, sheet), `sheets/${file.hash}/${parameters || '-'}/${sheet}`, { compress: false });
    }
    if (withMedia && (await storage().size(file.storage_key)) !== null) zip.addFile(await storage().localPath(file.storage_key), `files/${file.hash}${extname(file.storage_key)}`, { compress: false });
  }
  zip.end();
  return zip.outputStream as unknown as Readable;
}

const uuid = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;

/**
 * Opens an archive as a new project.
 * @returns the project's id, and the names of files that neither the archive nor this installation holds
 * @throws ArchiveError with a sentence when it is not an archive, or a broken one; nothing is made then
 */
export async function openArchive(file: string): Promise<{ projectId: string; missing: string[] }> {
  await mkdir(scratchFolder(), { recursive: true });
  const folder = await mkdtemp(join(scratchFolder(), 'archive-'));
  try {
    const entries = await unpack(file, folder);
    const text = entries.get('project.json');
    if (!text) throw new ArchiveError('This is not a project archive: it holds no project.json.');
    const head = parse(await readText(text), 'project.json') as { format?: unknown; version?: unknown; files?: { hash: string; size: number; name: string }[]; rows?: Rows };
    if (head.format !== archiveFormat.format || !head.rows?.projects?.[0] || !Array.isArray(head.files)) throw new ArchiveError('This is not a project archive of Bright Reel.');
    if (head.version !== archiveFormat.version) throw new ArchiveError(`This archive is of version ${String(head.version)}; this installation reads version ${archiveFormat.version}.`);
    const missing: string[] = [];
    for (const { hash, name } of head.files) {
      if (!/^[0-9a-f]{64}$/.test(hash)) throw new ArchiveError('This archive is damaged: it names a file by something else than its content.');
      const key = fileKey(hash, name);
      const there = [...entries].find(([entry]) => entry.startsWith(`files/${hash}`));
      const known = (await database().$client.query<{ storage_key: string }>('select storage_key from files where hash = $1', [hash])).rows[0]?.storage_key ?? key;
      if ((await storage().size(known)) !== null) continue;
      if (!there) missing.push(name);
      else if ((await contentHash(there[1])) !== hash) throw new ArchiveError(`“${name}” is damaged in this archive; its content is not what it was.`);
      else await storage().adopt(known, there[1]);
    }
    const renamed = freshIds(head.rows);
    await database().transaction(async (tx) => {
      for (const { hash, size, name } of head.files!) await tx.execute(sql`insert into files (hash, size, storage_key) values (${hash}, ${size}, ${fileKey(hash, name)}) on conflict do nothing`);
      for (const table of Object.keys(projectTables)) await tx.execute(sql`insert into ${sql.raw(table)} select * from jsonb_populate_recordset(null::${sql.raw(table)}, ${JSON.stringify(renamed[table] ?? [])}::jsonb)`);
      for (const { hash } of head.files!) {
        const reading = entries.get(`readings/${hash}.json`);
        if (!reading) continue;
        const own = parse(await readText(reading), `readings/${hash}.json`) as Rows;
        const had = await tx.execute(sql`select 1 from readings where hash = ${hash} limit 1`);
        if (had.rows.length === 0) for (const table of readingTables) await tx.execute(sql`insert into ${sql.raw(table)} select * from jsonb_populate_recordset(null::${sql.raw(table)}, ${JSON.stringify(withoutProxies(table, own[table] ?? []))}::jsonb) on conflict do nothing`);
      }
    }).catch((error: unknown) => {
      if (error instanceof ArchiveError) throw error;
      throw new ArchiveError('This archive is damaged, or of another version: its rows do not fit. Nothing was changed.', { cause: error });
    });
    for (const [entry, path] of entries) {
      const [kind, hash, parameters] = entry.split('/');
      if (kind !== 'sheets' || !hash || parameters === undefined) continue;
      const target = `${readingFolder({ hash, parameters: parameters === '-' ? '' : parameters })}/${basename(entry)}`;
      if ((await storage().size(target)) === null) await storage().adopt(target, path);
    }
    return { projectId: renamed.projects![0]!.id as string, missing };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** A proxy lies in the store of the installation that made it; the reading makes another when it is needed. */
const withoutProxies = (table: string, rows: Row[]): Row[] => rows.map((row) => (table === 'readings' ? { ...row, proxy_key: null } : table === 'runs' ? { ...row, id: randomUUID() } : row));

/** Every row gets an id of its own, and everything that referred to the old one follows, in documents too. */
function freshIds(rows: Rows): Rows {
  const ids = new Map<string, string>();
  for (const table of Object.keys(projectTables)) for (const row of rows[table] ?? []) if (typeof row.id === 'string') ids.set(row.id, randomUUID());
  return JSON.parse(JSON.stringify(rows).replace(uuid, (id) => ids.get(id) ?? id)) as Rows;
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

const wantedEntry = /^(project\.json|readings\/[0-9a-f]{64}\.json|sheets\/[0-9a-f]{64}\/[\w.~-]+\/sheet-[\w.-]+|files\/[0-9a-f]{64}(\.[a-z0-9]{1,5})?)$/;

/** Unpacks what belongs into an archive, each entry under a number; names of entries never become paths. */
async function unpack(file: string, folder: string): Promise<Map<string, string>> {
  const entries = new Map<string, string>();
  let zip: yauzl.ZipFile;
  try {
    zip = await yauzl.openPromise(file, { lazyEntries: true });
  } catch (error) {
    throw new ArchiveError('This is not a project archive, or only a part of one: it cannot be opened as a ZIP file.', { cause: error });
  }
  try {
    for await (const entry of zip.eachEntry()) {
      if (!wantedEntry.test(entry.fileName)) continue;
      const path = join(folder, String(entries.size));
      await pipeline(await zip.openReadStreamPromise(entry), createWriteStream(path));
      entries.set(entry.fileName, path);
    }
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOSPC') throw new ArchiveError('The disk is full. Free some space and open the archive again.', { cause: error });
    throw new ArchiveError('This archive is damaged and cannot be read to its end.', { cause: error });
  }
  return entries;
}
