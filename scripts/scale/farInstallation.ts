import { existsSync, readFileSync } from 'node:fs';
import { mkdtemp } from 'node:fs/promises';
import { join } from 'node:path';
import S3rver from 's3rver';
import { assembleReel } from '#core/reel';
import { rates } from '#core/time';
import { database, migrateDatabase } from '../../data/db';
import { createProject } from '../../data/projects';
import { createReel } from '../../data/reels';
import { storage } from '../../data/storage';
import { findRender, queueRenders } from '../../data/tasks';
import { migrateQueue } from '../../usecases/queue';
import { Host } from './hosts';
import { bringShipped } from '../../usecases/testFootage';

const film = 'demo/media/race-day.mp4';
const filmSeconds = 250;

/** An installation on several hosts: store and database here, everything else elsewhere. */
export class FarInstallation {
  readonly hosts: Host[] = [];
  private store!: InstanceType<typeof S3rver>;
  private storePort = 0;

  constructor(private readonly folder: string) {}

  async open(): Promise<void> {
    this.store = new S3rver({
      port: 0,
      address: '127.0.0.1',
      silent: true,
      directory: join(this.folder, 'bucket'),
      configureBuckets: [{ name: 'reels', configs: [] }],
    });
    this.storePort = (await this.store.run()).port;
    Object.assign(process.env, {
      AWS_ACCESS_KEY_ID: 'S3RVER',
      AWS_SECRET_ACCESS_KEY: 'S3RVER',
      AWS_REGION: 'us-east-1',
      BRIGHT_REEL_STORAGE: 's3://reels/pond',
      BRIGHT_REEL_S3_ENDPOINT: `http://127.0.0.1:${this.storePort}`,
      BRIGHT_REEL_DATA: join(this.folder, 'here'),
    });
    await migrateDatabase();
    await migrateQueue();
  }

  async host(name: string): Promise<Host> {
    const host = await new Host(name, this.folder).open();
    this.hosts.push(host);
    return host;
  }

  /** What a program on a host is told: where the database and the store are, as seen from there. */
  async environmentOf(host: Host, more: Record<string, string> = {}): Promise<NodeJS.ProcessEnv> {
    const url = new URL(process.env.DATABASE_URL!);
    const port = await host.passOn(Number(url.port));
    url.hostname = host.gate;
    url.port = String(port);
    return {
      ...process.env,
      NODE_ENV: 'production',
      DATABASE_URL: url.href,
      BRIGHT_REEL_S3_ENDPOINT: `http://${host.gate}:${await host.passOn(this.storePort)}`,
      BRIGHT_REEL_DATA: await mkdtemp(join(this.folder, `${host.name}-`)),
      ...more,
    };
  }

  /** A worker, in the manner of `node --import tsx jobs/worker.ts`. @param before commands that it runs under */
  keepWorker(host: Host, env: NodeJS.ProcessEnv, before: readonly string[] = [], name = 'worker'): void {
    host.keep(name, [...before, process.execPath, '--import', 'tsx', 'jobs/worker.ts'], env);
  }

  /** A project with the film of the race, read already. */
  async project(): Promise<{ project: string; media: string }> {
    if (!existsSync(film)) throw new Error('The demo is not made yet: node --import tsx scripts/demoMedia.ts');
    const project = (await createProject('Far away')).id;
    const item = await bringShipped(project, 'race-day.mp4');
    return { project, media: item.id };
  }

  /** A reel of some stretches of that film. */
  reel(project: string, media: string, ranges: readonly (readonly [number, number])[], size: Size): Promise<string> {
    const reel = assembleReel(
      'Race',
      ranges.map(([start, end]) => ({ media, start, end, name: 'race-day' })),
      new Map([[media, { id: media, name: 'race-day', durationSeconds: filmSeconds }]]),
      rates['30'],
      size,
      () => crypto.randomUUID(),
    );
    return createReel(project, reel);
  }

  async render(projectId: string, reelId: string, size: Size, seconds: number): Promise<string> {
    const [id] = await queueRenders([
      { projectId, reelId, revision: 0, name: 'Race', ...size, seconds, format: 'mp4', quality: 'good' },
    ]);
    return id!;
  }

  /** The finished file, as it lies in the store; null while it is not there. */
  async fileOf(render: string): Promise<Buffer | null> {
    const key = (await findRender(render))?.storageKey;
    return key ? readFileSync(await storage().localPath(key)) : null;
  }

  async rows<T extends object>(query: string, values: unknown[] = []): Promise<T[]> {
    return (await database().$client.query<T>(query, values)).rows;
  }

  async close(): Promise<void> {
    await Promise.all(this.hosts.map((host) => host.close()));
    await this.store.close();
  }
}

interface Size {
  width: number;
  height: number;
}
