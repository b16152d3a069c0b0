import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDatabase, database, migrateDatabase } from '#data/db';
import { createProject } from '#data/projects';
import { loader as ready } from '../routes/ready';
import { loader as metrics } from '../routes/metrics';
import { measureAnswer } from './metrics.server';

/** A line of the text format (Prometheus, "Exposition formats", text-based format, version 0.0.4). */
const line =
  /^(# (HELP|TYPE) [a-zA-Z_:][\w:]* .+|[a-zA-Z_:][\w:]*(\{([a-zA-Z_]\w*="[^"\n]*",?)*\})? (NaN|[+-]Inf|-?[\d.]+(e[+-]?\d+)?))$/;

describe.skipIf(!process.env.DATABASE_URL)('what whoever runs it watches', () => {
  beforeAll(migrateDatabase);
  afterAll(closeDatabase);

  it('is written as Prometheus reads it', async () => {
    const project = (await createProject('Watched')).id;
    await database().execute(
      `insert into tasks (project_id, kind, subject, title, state, created_at) values ('${project}', 'fetch', 'watched', 'x', 'queued', now() - interval '70 seconds')`,
    );
    measureAnswer('GET', 200, 0.2);
    measureAnswer('WHATEVER', 500, 4);
    const answer = await metrics();
    expect(answer.headers.get('content-type')).toMatch(/^text\/plain; version=0\.0\.4/);
    const lines = (await answer.text()).trim().split('\n').filter(Boolean);
    expect(lines.filter((each) => !line.test(each))).toEqual([]);
    const value = (name: string) =>
      Number(
        lines
          .find((each) => each.startsWith(`${name} `))
          ?.split(' ')
          .at(-1),
      );
    expect(value('bright_reel_tasks{kind="fetch",state="queued"}')).toBeGreaterThanOrEqual(1);
    expect(value('bright_reel_waiting_seconds{kind="fetch"}')).toBeGreaterThanOrEqual(70);
    expect(value('bright_reel_answer_seconds_bucket{le="0.3",method="GET",status="200"}')).toBeGreaterThanOrEqual(1);
    expect(value('bright_reel_answer_seconds_bucket{le="3",method="other",status="500"}')).toBe(0);
    expect(value('bright_reel_faults_total')).toBe(1);
    expect(value('bright_reel_disk_free_bytes')).toBeGreaterThan(0);
    await database().execute(`delete from tasks where project_id = '${project}'`);
  });
  it('says whether requests may be led here', async () => {
    expect(await (await ready()).text()).toBe('ready');
    const before = process.env.BRIGHT_REEL_RESERVE_BYTES;
    process.env.BRIGHT_REEL_RESERVE_BYTES = '9000000000000000';
    const full = await ready();
    if (before === undefined) delete process.env.BRIGHT_REEL_RESERVE_BYTES;
    else process.env.BRIGHT_REEL_RESERVE_BYTES = before;
    expect([full.status, await full.text()]).toEqual([503, 'The disk is full.']);
  });
});
