/**
 * Proof that an installation on three hosts makes what one makes: a long reel is rendered by two workers, the one that
 * leads is killed, the network of the other is cut for a minute, and the file is compared with one made alone, byte by byte.
 */
import { createHash } from 'node:crypto';
import { setTimeout as sleep } from 'node:timers/promises';
import { closeDatabase } from '../../data/db';
import { FarInstallation } from './farInstallation';
import { networkKind, type Host } from './hosts';

const cutSeconds = Number(process.env.SCALE_CUT_SECONDS ?? 60);
const size = { width: 480, height: 270 };
const ranges = [
  [5, 245],
  [8, 240],
  [2, 230],
] as const;
const seconds = ranges.reduce((sum, [start, end]) => sum + end - start, 0);

const began = Date.now();
const say = (sentence: string) =>
  console.log(`${String(Math.round((Date.now() - began) / 1000)).padStart(4)} s  ${sentence}`);
async function until(what: string, is: () => Promise<boolean>, most = 600): Promise<number> {
  const from = Date.now();
  while (!(await is())) {
    if (Date.now() - from > most * 1000) throw new Error(`Waited ${most} s in vain until ${what}.`);
    await sleep(200);
  }
  return (Date.now() - from) / 1000;
}

const far = new FarInstallation(process.env.SCALE_WORK!);
try {
  await far.open();
  say(
    `three hosts: ${networkKind === 'namespaces' ? 'network namespaces with a cable each' : 'addresses of loopback'}`,
  );
  const web = await far.host('web');
  const hosts = { a: await far.host('a'), b: await far.host('b') };
  const webPort = 4310;
  const webEnv = await far.environmentOf(web, {
    HOST: networkKind === 'namespaces' ? '127.0.0.1' : web.gate,
    PORT: String(webPort),
    BRIGHT_REEL_PASSWORD: 'pond',
  });
  web.keep('server', [process.execPath, '--import', 'tsx', 'web/server.ts'], webEnv);
  const { project, media } = await far.project();
  const reel = await far.reel(project, media, ranges, size);

  const envs = { a: await far.environmentOf(hosts.a), b: await far.environmentOf(hosts.b) };
  far.keepWorker(hosts.a, envs.a);
  const alone = await far.render(project, reel, size, seconds);
  const took = await until('the reel was rendered alone', async () => (await far.fileOf(alone)) !== null);
  say(`${Math.round(seconds / 60)} min of reel by one worker: ${took.toFixed(0)} s`);

  far.keepWorker(hosts.b, envs.b);
  const workers = () =>
    far.rows<{ pid: number; runs: string[] }>(
      "select pid, runs from workers where heartbeat_at > now() - interval '10 seconds'",
    );
  await until('both workers were there', async () => (await workers()).length === 2);
  const together = await far.render(project, reel, size, seconds);
  const beganTogether = Date.now();
  const stretches = () =>
    far.rows<{ holder: string; made: boolean }>('select holder, made from render_stretches where render_id = $1', [
      together,
    ]);
  const makers = async () => new Set((await stretches()).filter(({ made }) => made).map(({ holder }) => holder)).size;
  await until('both had made a part of it', async () => (await makers()) >= 2);
  say('both workers have made parts of it');

  const leader = async () =>
    (
      await far.rows<{ worker_id: string | null }>(
        "select worker_id from tasks where subject = $1 and state = 'running'",
        [together],
      )
    )[0]?.worker_id ?? null;
  const hostOf = async (run: string): Promise<Host | null> => {
    const pid = (await workers()).find(({ runs }) => runs.includes(run))?.pid;
    return Object.values(hosts).find((host) => host.pidOf('worker') === pid) ?? null;
  };
  const first = (await leader())!;
  let killed: Host | null = null;
  await until('it was known who leads', async () => (killed = await hostOf(first)) !== null, 30);
  killed!.kill('worker');
  const moved = await until('the render moved on', async () => ![null, first].includes(await leader()), 60);
  say(`${killed!.name}, which led, was killed; the render moved on after ${moved.toFixed(1)} s`);

  const second = (await leader())!;
  let lone: Host | null = null;
  await until('it was known who leads now', async () => (lone = await hostOf(second)) !== null, 30);
  const before = (await stretches()).filter(({ made }) => made).length;
  lone!.cut();
  say(`the network of ${lone!.name}, which leads now, is cut; ${before} stretches are made`);
  await sleep(cutSeconds * 1000);
  lone!.mend();
  const isDone = (await far.fileOf(together)) !== null;
  say(
    `it is back after ${cutSeconds} s; the reel is ${isDone ? 'finished meanwhile' : `${(await stretches()).filter(({ made }) => made).length} stretches on`}`,
  );
  await until('the reel was rendered', async () => (await far.fileOf(together)) !== null);
  say(`by both, with all this: ${((Date.now() - beganTogether) / 1000).toFixed(0)} s`);

  // The one that was cut off finds back by itself.
  const back = await until('both workers were there again', async () => (await workers()).length === 2, 120);
  say(`both workers are there again ${back.toFixed(0)} s after that`);
  const [one, other] = [(await far.fileOf(alone))!, (await far.fileOf(together))!];
  const hash = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');
  const address = `http://${webEnv.HOST}:${webPort}/outputs/${together}`;
  const fromWeb = await web.ask(
    [
      process.execPath,
      '-e',
      `fetch(process.argv[1], { headers: { authorization: 'Basic ' + btoa(':pond') } }).then(async (r) => { const h = require('crypto').createHash('sha256'); for await (const c of r.body) h.update(c); console.log(r.status, h.digest('hex')); })`,
      address,
    ],
    webEnv,
  );
  if (fromWeb.trim() !== `200 ${hash(other)}`) throw new Error(`The web server gave something else: ${fromWeb.trim()}`);
  const left = await far.rows('select 1 from render_stretches');
  if (left.length > 0) throw new Error(`${left.length} stretches are left in the database.`);
  if (!one.equals(other)) throw new Error('The file made by both is not the one made alone.');
  say(`the same file to the byte, ${one.length} bytes, also from the web server`);
} catch (error) {
  console.error((error as Error).message);
  process.exitCode = 1;
} finally {
  await far.close();
  await closeDatabase();
}
process.exit();
