// Run after every change of the dependencies. A registry that mirrors only part of the platform builds of a package
// leaves the others out of the lock file, and `npm ci` then refuses it on every machine. This writes them back:
// name, version and platform are known from the package that wants them, and the registry is asked for the hash of each;
// nothing else is fetched for other platforms.
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';

const lock = JSON.parse(readFileSync('package-lock.json', 'utf8'));
const systems = ['android', 'darwin', 'freebsd', 'linux', 'netbsd', 'openbsd', 'openharmony', 'sunos', 'win32', 'aix'];
const processors = ['arm64', 'x64', 'arm', 'ia32', 'riscv64', 'ppc64', 's390x', 'loong64', 'mips64el', 'wasm32'];
let added = 0;
for (const [path, wants] of Object.entries(lock.packages)) {
  for (const [name, version] of Object.entries(wants.optionalDependencies ?? {})) {
    const nested = `${path}/node_modules/${name}`;
    if (lock.packages[nested] || !/^\d+\.\d+\.\d+[\w.-]*$/.test(version)) continue;
    const present = lock.packages[`node_modules/${name}`];
    if (present?.version === version) continue;
    const parts = name.split(/[-/]/);
    const os = systems.filter((each) => parts.includes(each));
    const cpu = processors.filter((each) =>
      parts.some(
        (part) => part === each || (each === 'arm' && part.startsWith('arm-')) || (each === 'arm' && part === 'arm'),
      ),
    );
    const libc = parts.includes('musl')
      ? ['musl']
      : os[0] === 'linux' && parts.some((part) => part.startsWith('gnu'))
        ? ['glibc']
        : null;
    lock.packages[present ? nested : `node_modules/${name}`] = {
      version,
      ...(cpu.length ? { cpu } : {}),
      ...(wants.dev ? { dev: true } : {}),
      ...(libc ? { libc } : {}),
      optional: true,
      ...(os.length ? { os } : {}),
    };
    added++;
  }
}
for (const [path, entry] of Object.entries(lock.packages)) {
  if (!path || entry.link || entry.integrity) continue;
  const name = `${path.split('node_modules/').at(-1)}@${entry.version}`;
  entry.integrity = execFileSync('npm', ['view', name, 'dist.integrity'], {
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'ignore'],
  }).trim();
}
lock.packages = Object.fromEntries(Object.entries(lock.packages).sort(([a], [b]) => (a < b ? -1 : 1)));
writeFileSync('package-lock.json', `${JSON.stringify(lock, null, 2)}\n`);
console.log(`${added} platform packages written back`);
