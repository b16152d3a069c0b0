import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { closeDatabase, database, migrateDatabase } from '#data/db';
import { createProject } from '#data/projects';
import { heartbeat, queueTask } from '#data/tasks';
import { EventHub, projectsNamed, type ProjectEvent } from './events';
import { noteChanged } from './projects';
import { migrateQueue } from './queue';

describe.skipIf(!process.env.DATABASE_URL)('what screens hear of a project', () => {
  let [project, other] = ['', ''];
  const hub = new EventHub();
  beforeAll(async () => {
    await migrateDatabase();
    await migrateQueue();
    project = (await createProject('Heard')).id;
    other = (await createProject('Elsewhere')).id;
  });
  afterAll(async () => {
    await hub.close();
    await closeDatabase();
  });
  const listen = () => {
    const heard: ProjectEvent[] = [];
    const end = hub.hear(project, (event) => void heard.push(event))!;
    const tasks = () => heard.filter((event) => event.what === 'tasks').map((event) => event.tasks);
    return { heard, tasks, end };
  };

  it('its tasks as they are, and as they change, whoever changes them; a heartbeat is no change', async () => {
    const [one, two] = [listen(), listen()];
    await vi.waitFor(() => expect(one.tasks().at(-1)).toEqual([]), 5000);
    const { id } = await queueTask({ projectId: project, kind: 'read', subject: 'x', title: 'race.mp4' });
    await vi.waitFor(
      () => expect(one.tasks().at(-1)).toMatchObject([{ id, title: 'race.mp4', state: 'queued' }]),
      5000,
    );
    await database().execute(
      sql`update tasks set state = 'running', worker_id = 'w', heartbeat_at = now() where id = ${id}`,
    );
    await heartbeat(id, 'w', 0.5, null);
    await vi.waitFor(() => expect(one.tasks().at(-1)).toMatchObject([{ state: 'running', progress: 0.5 }]), 5000);
    expect(two.tasks().at(-1)).toEqual(one.tasks().at(-1));
    const count = one.heard.length;
    await database().execute(sql`update tasks set heartbeat_at = now() where id = ${id}`);
    await queueTask({ projectId: other, kind: 'read', subject: 'y', title: 'elsewhere.mp4' });
    await new Promise((wake) => setTimeout(wake, 600));
    expect(one.heard).toHaveLength(count);
    // Who comes later hears at once what the others know.
    const late = listen();
    expect(late.tasks()).toEqual([one.tasks().at(-1)]);
    for (const each of [one, two, late]) each.end();
    expect(hub.hearers).toBe(0);
  });

  it('that something was changed, and by which window; and all of it again when the line to the database broke', async () => {
    const { heard, end } = listen();
    const changed = () => heard.filter((event) => event.what === 'changed');
    await vi.waitFor(() => expect(heard).not.toHaveLength(0), 5000);
    await noteChanged(project, 'window-1');
    await noteChanged(other, 'window-2');
    await noteChanged(project, null);
    await vi.waitFor(() => expect(changed().map(({ by }) => by)).toEqual(['window-1', null]), 5000);
    await database().execute(
      sql`select pg_terminate_backend(pid) from pg_stat_activity where application_name = 'bright-reel notices'`,
    );
    // Not known what was missed.
    await vi.waitFor(() => expect(changed()).toHaveLength(3), 8000);
    await noteChanged(project, 'window-3');
    await vi.waitFor(() => expect(changed().at(-1)!.by).toBe('window-3'), 5000);
    end();
  });

  it('only of projects that have the form of one', () =>
    expect(projectsNamed([project, 'x', project, other])).toEqual([project, other]));
});
