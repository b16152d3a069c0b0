import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { cropView, cropWidth, pathAt } from '#core/framing';
import { clipsOf, sizeOf } from '#core/reel';
import { framesToSeconds, rates } from '#core/time';
import { shortReel, shortsDefaults, shownPieces } from '#core/shorts';
import { importWords } from '#core/words';
import { closeDatabase, database, migrateDatabase } from '../../data/db';
import type { MediaRow } from '../../data/media';
import { findPost, samePost, setPost } from '../../data/posts';
import { createProject } from '../../data/projects';
import { createReel, openReel } from '../../data/reels';
import { changeShortSet, createShortSet, findShortSet, listHouseStyles, saveHouseStyle } from '../../data/shorts';
import { queuePost, queueRenders, setRender } from '../../data/tasks';
import { storage } from '../../data/storage';
import { loadWatched } from '../../data/watched';
import { saveTranscript } from '../../data/words';
import { SimulatedOutlet } from '../../standins/outlet';
import { captionDefaults } from '#core/captions';
import { frameShorts } from './frameShorts';
import { postFile } from './postFile';
import { migrateQueue } from '../queue';
import type { Work } from './runTask';
import { bringShipped } from '../testFootage';

const film = 'demo/media/race-day.mp4';
const folder = mkdtempSync(join(tmpdir(), 'bright-reel-shorts-'));
const work = (subject: string, projectId: string): Work => ({
  task: { id: crypto.randomUUID(), projectId, subject, title: '' } as Work['task'],
  run: crypto.randomUUID(),
  signal: new AbortController().signal,
  progress: () => undefined,
  say: async () => undefined,
});

describe.skipIf(!process.env.DATABASE_URL || !existsSync(film))('shorts against a database', () => {
  let project = '';
  let item: MediaRow;
  const before = { ...process.env };
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = folder;
    await migrateDatabase();
    await migrateQueue();
    project = (await createProject('Shorts')).id;
    item = await bringShipped(project, 'race-day.mp4');
    await saveTranscript(item.id, importWords(readFileSync('demo/media/race-day.srt', 'utf8')), 'imported', 0);
  });
  afterAll(async () => {
    Object.assign(process.env, before);
    await closeDatabase();
  });

  it('the crop holds whoever speaks, as the truth about the demo has it', async () => {
    const truth = JSON.parse(readFileSync('demo/media/race-day.truth.json', 'utf8')) as {
      speech: { who: string; start: number; end: number }[];
      people: { who: string; start: number; end: number }[];
    };
    const short = {
      id: 'a',
      media: item.id,
      pieces: [
        { start: 63, end: 84 },
        { start: 123.5, end: 146.5 },
      ],
      title: 'Two talks',
      reason: '',
      score: 1,
      parts: { hook: 1, speech: 0, faces: 0, action: 0, reactions: 0, whole: 0, picture: 0 },
      endings: [],
    };
    const reelId = await createReel(
      project,
      shortReel(
        short,
        { id: item.id, name: item.name, durationSeconds: 251.8 },
        rates['30'],
        '9:16',
        captionDefaults,
        () => crypto.randomUUID(),
      ),
    );
    const set = await createShortSet(project, item.id, {
      wish: { ...shortsDefaults, shape: '9:16', request: '', houseStyle: null },
      material: 'talk',
      because: '',
      shorts: [{ ...short, reelId }],
      thumbs: {},
      order: null,
    });
    expect(await frameShorts(work(set.id, project))).toBeNull();
    const reel = (await openReel(reelId))!;
    // It belongs to how the reel was made: there is nothing to take back.
    expect(reel.canUndo).toBe(false);
    const clips = clipsOf(reel.document);
    expect(clips.every((clip) => clip.framing)).toBe(true);
    const watched = (await loadWatched(item))!;
    const size = sizeOf('9:16', 1080);
    const wide = cropWidth(watched.size, size, 1);
    let asked = 0;
    for (const [index, piece] of shownPieces(reel.document).entries())
      for (const said of truth.speech.filter((each) => each.start > piece.start && each.end < piece.end)) {
        const together = truth.people.filter((each) => each.start < said.end && each.end > said.start);
        const tracks = watched.tracks.filter((track) => track.start < said.end && track.end > said.start);
        if (together.length !== 2 || tracks.length !== 2) continue;
        // In the interviews the presenter stands on the left.
        const [left, right] = [...tracks].sort((a, b) => a.boxes[0]!.box.x - b.boxes[0]!.box.x);
        const box = (said.who === 'presenter' ? left! : right!).boxes[0]!.box;
        const middle = (said.start + said.end) / 2;
        const { x } = cropView(pathAt(clips[index]!.framing!.path, middle), 1, watched.size, size);
        expect(box.x, `${said.who} at ${middle}`).toBeGreaterThan(x - wide / 2);
        expect(box.x + box.width, `${said.who} at ${middle}`).toBeLessThan(x + wide / 2);
        asked++;
      }
    expect(asked).toBeGreaterThan(5);
    // Who spoke is known now; framing the same again asks nothing anew.
    expect(watched.mouths.length).toBeGreaterThan(3);
  });

  it('a set takes changes one after the other, and a house style is kept', async () => {
    const set = await createShortSet(project, item.id, {
      wish: { ...shortsDefaults, shape: '1:1', request: '', houseStyle: null },
      material: 'talk',
      because: '',
      shorts: [],
      thumbs: {},
      order: null,
    });
    await Promise.all(
      ['a', 'b', 'c'].map((id) =>
        changeShortSet(set.id, (document) => ({ ...document, thumbs: { ...document.thumbs, [id]: 'up' } })),
      ),
    );
    expect(Object.keys((await findShortSet(project, set.id))!.document.thumbs).sort()).toEqual(['a', 'b', 'c']);
    const other = (await createProject('Elsewhere')).id;
    expect(await findShortSet(other, set.id)).toBeNull();
    const house = { captions: captionDefaults, theme: null, logo: null, opening: null, lower: null, end: null };
    const own = await saveHouseStyle(project, 'Ours', false, house);
    await saveHouseStyle(project, 'For all', true, house);
    expect((await listHouseStyles(other)).map(({ name }) => name)).toEqual(['For all']);
    expect(await saveHouseStyle(project, 'Ours, again', false, house, own)).toBe(own);
  });

  describe('posting', () => {
    let server: Server;
    beforeAll(async () => {
      const outlet = await SimulatedOutlet.open(join(folder, 'outlet'), () => process.env.BRIGHT_REEL_OUTLET_URL!);
      server = createServer((request, response) => void outlet.handle(request, response, request.url!));
      await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
      process.env.BRIGHT_REEL_OUTLET_URL = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    });
    afterAll(() => {
      server.closeAllConnections();
      server.close();
    });

    async function posted(account: string) {
      const reelId = await createReel(project, {
        schema: 'BrightReel.Reel.1',
        name: 'x',
        rate: rates['25'],
        size: sizeOf('9:16', 720),
        tracks: [{ kind: 'picture', name: 'Main', items: [] }],
      });
      const [renderId] = await queueRenders([
        {
          projectId: project,
          reelId,
          revision: 0,
          name: 'x',
          width: 720,
          height: 1280,
          seconds: framesToSeconds(250, rates['25']),
          format: 'mp4',
          quality: 'good',
          range: null,
        },
      ]);
      const bytes = Buffer.alloc(300_000, 7);
      const local = join(folder, `${renderId}.mp4`);
      writeFileSync(local, bytes);
      await storage().adopt(`renders/${renderId}.mp4`, local);
      await setRender(renderId!, { storageKey: `renders/${renderId}.mp4`, size: bytes.length });
      await queuePost({
        projectId: project,
        renderId: renderId!,
        outlet: 'simulated',
        account,
        title: 'x',
        text: '',
        scheduledAt: null,
      });
      return (await samePost(renderId!, 'simulated', account))!;
    }

    it('a dropped connection is tried again and ends in one post; posting again changes nothing', async () => {
      const post = await posted('leaky-boat');
      expect(await postFile(work(post.id, project))).toBeNull();
      const link = (await findPost(post.id))!.link;
      expect(link).toMatch(/\/watch\/\d+$/);
      expect(await postFile(work(post.id, project))).toBeNull();
      // A worker that died before it wrote the link down finds the same post again.
      await setPost(post.id, { link: null });
      await postFile(work(post.id, project));
      expect((await findPost(post.id))!.link).toBe(link);
      expect((await samePost(post.renderId, 'simulated', 'leaky-boat'))?.id).toBe(post.id);
    });
    it('however many press at once, it is posted once', async () => {
      const { renderId } = await posted('slow-boat');
      await database().execute(`delete from posts where render_id = '${renderId}'`);
      const post = { projectId: project, renderId, outlet: 'simulated', account: 'slow-boat', title: 'x', text: '' };
      const before = await Promise.all(Array.from({ length: 6 }, () => queuePost({ ...post, scheduledAt: null })));
      expect(before.filter((each) => each === null)).toHaveLength(1);
      expect(new Set(before.map((each) => each?.id)).size).toBe(2);
    });
    it('a refusal ends it with the outlet’s own sentence; a vanished file is said', async () => {
      await expect(postFile(work((await posted('closed-landing')).id, project))).rejects.toThrow(
        'The landing is closed today',
      );
      const gone = await posted('pond-notices');
      await storage().remove(`renders/${gone.renderId}.mp4`);
      await expect(postFile(work(gone.id, project))).rejects.toThrow('The file is not there any more');
    });
    it('what is on its way counts as posted, what failed does not', async () => {
      const post = await posted('pond-notices');
      expect((await samePost(post.renderId, 'simulated', 'pond-notices'))?.id).toBe(post.id);
      await database().execute(`update tasks set state = 'failed' where subject = '${post.id}'`);
      expect(await samePost(post.renderId, 'simulated', 'pond-notices')).toBeNull();
    });
  });
});
