import { createWriteStream, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import yauzl from 'yauzl';
import yazl from 'yazl';
import { applyCommand, assembleReel, clipsOf, type Source } from '#core/reel';
import { rates } from '#core/time';
import { archiveRowChecks } from '#usecases/archives';
import { openArchive as open, writeArchive } from './archive';
import { bringIn } from './bringIn';
import { closeDatabase, database, migrateDatabase } from './db';
import { addTable, listTables } from './looks';
import { keepNumbers, numbersOfPeople } from './people';
import { listMedia } from './media';
import { createBin, createProject, findProject, listBins } from './projects';
import { createReel, listReels, listVersions, nameVersion, openReel, saveRevision, stepRevision } from './reels';
import { storage } from './storage';

const openArchive = (file: string) => open(file, archiveRowChecks());
const folder = mkdtempSync(join(tmpdir(), 'bright-reel-archive-'));
let projectId = '';
let lut = '';

beforeAll(async () => {
  process.env.BRIGHT_REEL_DATA = join(folder, 'data');
  await migrateDatabase();
  projectId = (await createProject('Regatta to go')).id;
  writeFileSync(join(folder, 'boats.mp4'), `boats ${Math.random()}`);
  const item = await bringIn(projectId, join(folder, 'boats.mp4'), 'boats.mp4', { copy: true });
  lut = await addTable(projectId, 'swap', {
    size: 2,
    from: [0, 0, 0],
    to: [1, 1, 1],
    values: Float32Array.from({ length: 24 }, (_, index) => index / 24),
  });
  const sources = new Map<string, Source>([[item.id, { id: item.id, name: item.name, durationSeconds: 60 }]]);
  const reel = assembleReel(
    'Cut',
    [{ media: item.id, start: 1, end: 4, name: 'one' }],
    sources,
    rates['25'],
    { width: 1280, height: 720 },
    () => crypto.randomUUID(),
  );
  const id = await createReel(projectId, reel);
  const looked = applyCommand(
    reel,
    { type: 'look', clip: null, look: { exposure: 0, contrast: 0, saturation: 0, temperature: 0, lut } },
    sources,
  );
  if (!looked.ok) throw new Error(looked.reason);
  await saveRevision(id, 0, looked.reel, { type: 'look', clip: null, look: looked.reel.look! });
  await nameVersion(id, 1, 'with colours');
  await keepNumbers(projectId, [{ key: `${item.id}/12.5`, number: 5 }]);
});
afterAll(() => closeDatabase());

async function archive(withMedia: boolean, name: string): Promise<string> {
  const file = join(folder, name);
  await pipeline(await writeArchive(projectId, withMedia), createWriteStream(file));
  return file;
}

async function zipOf(name: string, project: unknown, more: Record<string, Buffer> = {}): Promise<string> {
  const zip = new yazl.ZipFile();
  zip.addBuffer(Buffer.from(JSON.stringify(project)), 'project.json');
  for (const [entry, bytes] of Object.entries(more)) zip.addBuffer(bytes, entry);
  zip.end();
  await pipeline(zip.outputStream, createWriteStream(join(folder, name)));
  return join(folder, name);
}

/** The rows of the project's own archive, to be tampered with. */
async function ownRows(): Promise<{
  format: string;
  version: number;
  files: { hash: string; name: string; size: number }[];
  rows: Record<string, Record<string, unknown>[]>;
}> {
  const zip = await yauzl.openPromise(await archive(false, 'own.zip'), { lazyEntries: true });
  for await (const entry of zip.eachEntry()) {
    if (entry.fileName !== 'project.json') continue;
    const parts: Buffer[] = [];
    for await (const part of await zip.openReadStreamPromise(entry)) parts.push(part as Buffer);
    return JSON.parse(Buffer.concat(parts).toString()) as Awaited<ReturnType<typeof ownRows>>;
  }
  throw new Error('no project.json');
}

describe('a project as one file', () => {
  it('opens as a project of its own: media, reels with their history, versions, tables, all referring to one another', async () => {
    const { projectId: opened, missing } = await openArchive(await archive(true, 'whole.zip'));
    expect([missing, (await findProject(opened))!.name, opened === projectId]).toEqual([[], 'Regatta to go', false]);
    const [item] = await listMedia(opened);
    const [listed] = await listReels(opened);
    const reel = (await openReel(listed!.id))!;
    expect(clipsOf(reel.document)[0]!.media).toBe(item!.id);
    // “Person 5” stays 5.
    expect([...(await numbersOfPeople(opened))]).toEqual([[`${item!.id}/12.5`, 5]]);
    const [table] = await listTables(opened);
    expect([reel.document.look!.lut, table!.id === lut]).toEqual([table!.id, false]);
    expect((await listVersions(reel.id)).map((version) => version.name)).toEqual(['with colours']);
    expect(await stepRevision(reel.id, (await openReel(reel.id))!.head, 'undo')).toBe(true);
    expect((await openReel(reel.id))!.document.look).toBeUndefined();
    // The one it came from is as it was.
    expect((await openReel((await listReels(projectId))[0]!.id))!.head).toBe(1);
  });
  it('brings the files to an installation that does not have them, and names those it cannot', async () => {
    const [withMedia, without] = [await archive(true, 'with.zip'), await archive(false, 'without.zip')];
    const { storage_key: key } = (
      await database().$client.query<{ storage_key: string }>(
        'select f.storage_key from files f join media m on m.file_hash = f.hash where m.project_id = $1',
        [projectId],
      )
    ).rows[0]!;
    const before = readFileSync(await storage().localPath(key), 'utf8');
    await storage().remove(key);
    expect((await openArchive(without)).missing).toEqual(['boats.mp4']);
    expect((await openArchive(withMedia)).missing).toEqual([]);
    expect(readFileSync(await storage().localPath(key), 'utf8')).toBe(before);
  });
  // PKWARE's APPNOTE 6.3, from memory: a local header begins with PK 3 4, the end of the central directory (22 bytes without a comment) with PK 5 6.
  it('is a plain ZIP file', async () => {
    const bytes = readFileSync(await archive(true, 'listed.zip'));
    expect([bytes.subarray(0, 4).toString('latin1'), bytes.subarray(-22, -18).toString('latin1')]).toEqual([
      'PK\x03\x04',
      'PK\x05\x06',
    ]);
    // project.json, a reading's rows, the file itself.
    expect(bytes.readUInt16LE(bytes.length - 12)).toBe(3);
  });
  it('refuses with a sentence, and makes nothing', async () => {
    const count = async () =>
      Number(
        (
          await database().$client.query<{ count: string }>(
            "select count(*) from projects where name in ('x', 'Regatta to go')",
          )
        ).rows[0]!.count,
      );
    const before = await count();
    writeFileSync(join(folder, 'no.zip'), 'this is no archive');
    await expect(openArchive(join(folder, 'no.zip'))).rejects.toThrow(/cannot be opened as a ZIP file/);
    const whole = readFileSync(await archive(true, 'half.zip'));
    writeFileSync(join(folder, 'half.zip'), whole.subarray(0, whole.length / 2));
    await expect(openArchive(join(folder, 'half.zip'))).rejects.toThrow(/ZIP file|damaged/);
    await zipOf('other.zip', { format: 'something else' });
    await expect(openArchive(join(folder, 'other.zip'))).rejects.toThrow(/not a project archive of Bright Reel/);
    await zipOf('bad.zip', {
      format: 'Bright Reel project',
      version: 1,
      files: [],
      rows: { projects: [{ id: 'not an id', name: 'x' }] },
    });
    await expect(openArchive(join(folder, 'bad.zip'))).rejects.toThrow(/belongs? to|rows do not fit|damaged/);
    expect(await count()).toBe(before);
  });

  it('is input: a text where a number belongs is refused, and so is what no edit could have made', async () => {
    type Document = Record<string, unknown> & { tracks: { items: Record<string, unknown>[] }[] };
    const tampered = async (change: (document: Document) => void) => {
      const own = await ownRows();
      for (const row of own.rows.reel_revisions!) change(row.document as Document);
      return openArchive(await zipOf('tampered.zip', own));
    };
    const logo = { media: crypto.randomUUID(), corner: 'top left', size: 0.2, opacity: 0.5 };
    expect((await tampered((document) => (document.logo = logo))).missing).toEqual([]);
    const ways: ((document: Document) => void)[] = [
      (document) => (document.logo = { ...logo, opacity: '0.5[x];movie=/etc/passwd[y]' }),
      (document) => (document.tracks[0]!.items[0]!.frames = '10,drawtext=textfile=/etc/passwd'),
      (document) => (document.tracks[0]!.items[0]!.speed = '100,metadata=mode=print:file=/tmp/x'),
      (document) => (document.size = { width: '1280:movie=x', height: 720 }),
      (document) =>
        (document.titles = [{ id: crypto.randomUUID(), kind: 'lower', frame: '0;x', frames: 10, text: 'x' }]),
      (document) => (document.captions = { colour: '#ff0000,ass=/etc/passwd' }),
      (document) => (document.tracks = []),
    ];
    for (const way of ways)
      await expect(tampered(way)).rejects.toThrow(/damaged, or was made by something else: reel_revisions/);
  });
  it('refers to nothing outside: rows of other projects are refused, ids of other footage lead nowhere', async () => {
    const other = await createProject('The other one');
    const bin = await createBin(other.id, 'Theirs');
    const smuggled = await ownRows();
    smuggled.rows.bins = [
      { id: crypto.randomUUID(), project_id: other.id, name: 'smuggled', position: 0, synced: false },
    ];
    await expect(openArchive(await zipOf('bin.zip', smuggled))).rejects.toThrow(/belongs to another project/);
    for (const bins of ['none', { length: 1 }, [null]]) {
      const odd = await ownRows();
      odd.rows.bins = bins as never;
      await expect(openArchive(await zipOf('odd.zip', odd))).rejects.toThrow(
        /no list of rows|something else than rows/,
      );
    }
    const placed = await ownRows();
    placed.rows.media![0]!.bin_id = bin.id;
    await expect(openArchive(await zipOf('placed.zip', placed))).rejects.toThrow(/belongs to another project/);
    expect((await listBins(other.id)).map(({ name }) => name)).toEqual(['Theirs']);
    const foreign = (
      await database().$client.query<{ id: string }>('select id from media where project_id = $1', [projectId])
    ).rows[0]!.id;
    const theirs = await ownRows();
    theirs.rows.media = [];
    theirs.files = [];
    const { projectId: opened } = await openArchive(await zipOf('theirs.zip', theirs));
    const media = clipsOf((await openReel((await listReels(opened))[0]!.id))!.document).map((clip) => clip.media);
    expect([media.length, media.includes(foreign)]).toEqual([1, false]);
  });
  it('of an earlier version has the family of a trace in its name; one of no family is refused', () => {
    const check = archiveRowChecks();
    const named = (name: string) => check('traces', { name, hz: 10 });
    expect(named('display.faces')).toEqual({ row: { name: 'faces', family: 'decided', hz: 10 } });
    expect(named('mouth:3.0:12.40')).toEqual({ row: { name: '3.0:12.40', family: 'mouth', hz: 10 } });
    expect(named('look')).toEqual({ row: { name: 'look', family: 'look', hz: 10 } });
    expect(named('camera.dx')).toEqual({ row: { name: 'camera.dx', family: 'measured', hz: 10 } });
    const whole = { name: 'faces', family: 'decided', hz: 10 };
    expect(check('traces', whole)).toEqual({ row: whole });
    expect(check('traces', { ...whole, family: 'x' })).toEqual({ problem: 'traces: a trace is of no family' });
  });
  it('names no folder of the store but its own, and unpacks to no more than a project holds', async () => {
    const away = await ownRows();
    away.rows.media![0]!.parameters = '../../renders';
    await expect(openArchive(await zipOf('away.zip', away))).rejects.toThrow(/media: parameters/);
    const own = await ownRows();
    // 300 MB of spaces pack into 0.3 MB.
    const bomb = await zipOf('bomb.zip', own, { [`readings/${own.files[0]!.hash}.json`]: Buffer.alloc(300e6, ' ') });
    await expect(openArchive(bomb)).rejects.toThrow(/unpacks to more than a project can hold/);
  });
});
