import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-setup-'));
chmodSync(folder, 0o755);
const script = (text: string) =>
  `set -u\n. scripts/setup.sh\nchildren=()\nunset DATABASE_URL\nexport POSTGRES_FSYNC=off\n${text}`;
const bash = (text: string): string =>
  execFileSync('bash', ['-c', script(text)], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'inherit'] });
const until = async (holds: () => boolean, seconds = 20) => {
  for (let tries = 0; tries < seconds * 10 && !holds(); tries++) await new Promise((wake) => setTimeout(wake, 100));
  return holds();
};
const isAlive = (pid: number) =>
  existsSync(`/proc/${pid}`) && !/^\d+ \(.*\) Z/.test(readFileSync(`/proc/${pid}/stat`, 'utf8'));

describe('parts that are kept running', () => {
  let keeper: ChildProcess | null = null;
  afterAll(() => void keeper?.kill('SIGKILL'));
  const lines = () =>
    existsSync(join(folder, 'pids')) ? readFileSync(join(folder, 'pids'), 'utf8').trim().split('\n').map(Number) : [];

  it('are started again when they are killed, later and later, and end when they are told to', async () => {
    const part = join(folder, 'part.sh');
    writeFileSync(part, `echo $$ >>${folder}/pids; exec sleep 1000`);
    keeper = spawn(
      'bash',
      ['-c', script(`keep "part" ${folder}/part.log bash ${part}; trap 'end_children; exit 0' TERM; wait`)],
      { stdio: ['ignore', 'ignore', 'pipe'] },
    );
    let said = '';
    keeper.stderr!.on('data', (chunk: Buffer) => (said += chunk.toString()));
    expect(await until(() => lines().length === 1)).toBe(true);
    process.kill(lines()[0]!, 'SIGKILL');
    expect(await until(() => lines().length === 2)).toBe(true);
    process.kill(lines()[1]!, 'SIGKILL');
    expect(await until(() => lines().length === 3)).toBe(true);
    expect(said).toMatch(/The part ended \(code 137\); it is started again in 1 s[\s\S]*again in 2 s/);
    const ended = new Promise((done) => keeper!.on('close', done));
    keeper.kill('SIGTERM');
    await ended;
    expect(lines().map(isAlive)).toEqual([false, false, false]);
  });

  it('that end again and again end everything, with the reason', async () => {
    const part = join(folder, 'broken.sh');
    writeFileSync(part, 'echo "no boat to board"; exit 3');
    const all = spawn(
      'bash',
      [
        '-c',
        script(`most_ends=3; keep "part" ${folder}/broken.log bash ${part}; trap 'end_children; exit 1' USR1; wait`),
      ],
      { stdio: ['ignore', 'ignore', 'pipe'] },
    );
    let said = '';
    all.stderr.on('data', (chunk: Buffer) => (said += chunk.toString()));
    expect(await new Promise((done) => all.on('close', done))).toBe(1);
    expect(said).toMatch(/no boat to board[\s\S]*The part ended 3 times within a minute, so Bright Reel stops/);
  });

  it('never wait for their log: what a full disk does not take is left out, and said when there is room', async () => {
    // Writing to it is what writing to a full disk is (full(4)).
    symlinkSync('/dev/full', join(folder, 'full.log'));
    const rotate = spawn('node', ['scripts/rotate.mjs', join(folder, 'full.log'), '100']);
    const write = (text: string) => new Promise<void>((done) => rotate.stdin.write(text, () => done()));
    for (let line = 0; line < 2000; line++) await write(`${'x'.repeat(1000)}\n`);
    rmSync(join(folder, 'full.log'));
    await new Promise((wake) => setTimeout(wake, 300));
    await write('there is room\n');
    rotate.stdin.end();
    await new Promise((done) => rotate.on('close', done));
    expect(readFileSync(join(folder, 'full.log'), 'utf8')).toMatch(
      / \d+ bytes of this log could not be written\.\nthere is room\n$/,
    );
  });
});

const postgres = '/usr/lib/postgresql/15/bin';
describe.skipIf(!existsSync(postgres))('a PostgreSQL of our own', () => {
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  const refused = (port: string, user: string) => {
    try {
      execFileSync(
        `${postgres}/psql`,
        ['-h', '127.0.0.1', '-p', port, '-U', user, '-w', '-c', 'select 1', 'postgres'],
        { stdio: 'pipe', env: { PATH: process.env.PATH } },
      );
      return 'let in';
    } catch (error) {
      return (error as { stderr: Buffer }).stderr.toString();
    }
  };
  const portOf = (url: string) => new URL(url).port;

  it('lets nobody in without a password; the application is no superuser', () => {
    const [url, role] = bash(
      `start_postgres ${folder}/new test >&2; echo "$DATABASE_URL"; ${postgres}/psql "$DATABASE_URL" -Atc "select current_user || ' ' || rolsuper || ' ' || rolcreaterole from pg_roles where rolname = current_user"; ${postgres}/psql "$DATABASE_URL" -qc 'create table t (x int); drop table t'`,
    )
      .trim()
      .split('\n') as [string, string];
    try {
      expect(role).toBe('bright_reel false false');
      for (const user of ['postgres', 'bright_reel'])
        expect(refused(portOf(url), user)).toMatch(/no password supplied/);
      // Its passwords can be read by its owner only.
      expect(
        execFileSync('stat', ['-c', '%a', join(folder, 'new'), join(folder, 'new/app.pass')], { encoding: 'utf8' }),
      ).toBe('700\n600\n');
    } finally {
      bash(`start_postgres ${folder}/new test >&2; postgres_started=yes; stop_postgres`);
    }
  });
  it('of an earlier version is closed, and keeps what is in it', () => {
    const answer = bash(`
      mkdir -p ${folder}/old; [ "$(id -u)" = 0 ] && chown postgres ${folder}/old
      as_postgres ${postgres}/initdb -D ${folder}/old/cluster -U postgres --auth=trust -E UTF8 --locale=C.UTF-8 >/dev/null
      postgres_folder=${folder}/old/cluster postgres_port="$(free_port)"; run_postgres
      psql() { as_postgres ${postgres}/psql -h 127.0.0.1 -p "$postgres_port" -U postgres -qAt "$@"; }
      psql -c 'create database bright_reel' postgres
      psql -c "create schema other; create type other.mood as enum ('wet', 'dry'); create table boats (id serial primary key, name text); create table other.crew (boat int references boats, mood other.mood); insert into boats (name) values ('Cardboard'); create view names as select name from boats; create function other.one() returns int language sql as 'select 1'" bright_reel
      start_postgres ${folder}/old bright_reel >&2
      echo "$DATABASE_URL"
      ${postgres}/psql "$DATABASE_URL" -qAtc "insert into boats (name) values ('Two'); alter table other.crew add x int; alter type other.mood add value 'soaked'; create or replace view names as select name from boats; select string_agg(name, ' ' order by id) from boats; select other.one()"
    `)
      .trim()
      .split('\n');
    const url = answer[0]!;
    try {
      expect(answer.slice(1)).toEqual(['Cardboard Two', '1']);
      expect(refused(portOf(url), 'postgres')).toMatch(/no password supplied/);
      // A second start finds it closed already and opens it with the same password.
      expect(bash(`start_postgres ${folder}/old bright_reel >&2; echo "$DATABASE_URL"`).trim()).toBe(url);
    } finally {
      bash(`start_postgres ${folder}/old bright_reel >&2; postgres_started=yes; stop_postgres`);
    }
  });
  it('is started again when it is killed, on the same port', async () => {
    const keeper = spawn(
      'bash',
      [
        '-c',
        script(
          `start_postgres ${folder}/watched test >/dev/null; echo "$DATABASE_URL"; watch_postgres; trap 'end_children; stop_postgres; exit 0' TERM; wait`,
        ),
      ],
      { stdio: ['ignore', 'pipe', 'ignore'] },
    );
    let url = '';
    keeper.stdout.on('data', (chunk: Buffer) => (url += chunk.toString()));
    const pid = () =>
      Number(
        (existsSync(join(folder, 'watched/cluster/postmaster.pid'))
          ? readFileSync(join(folder, 'watched/cluster/postmaster.pid'), 'utf8')
          : ''
        ).split('\n')[0],
      );
    const answers = () => {
      try {
        return (
          execFileSync(`${postgres}/psql`, [url.trim(), '-Atc', 'select 1'], {
            encoding: 'utf8',
            stdio: ['ignore', 'pipe', 'ignore'],
          }).trim() === '1'
        );
      } catch {
        return false;
      }
    };
    try {
      expect(await until(() => url.includes('\n') && answers(), 40)).toBe(true);
      const before = pid();
      process.kill(before, 'SIGKILL');
      expect(await until(() => pid() !== before && answers(), 40)).toBe(true);
    } finally {
      const ended = new Promise((done) => keeper.on('close', done));
      keeper.kill('SIGTERM');
      await ended;
    }
    expect(answers()).toBe(false);
  });
});
