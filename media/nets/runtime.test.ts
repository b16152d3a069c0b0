import { execFileSync, spawnSync } from 'node:child_process';
import { expect, it } from 'vitest';

// Only where its library is loaded is it told to report nothing.
it('onnxruntime is asked for in one place, and told there that it reports nothing', () => {
  const asking = [
    'grep',
    '-lE',
    String.raw`^import [^t].*'onnxruntime-node'|[(]'onnxruntime-node'[)]`,
    '--',
    '*.ts',
    '*.mjs',
  ];
  expect(execFileSync('git', asking, { encoding: 'utf8' }).trim()).toBe('media/nets/runtime.ts');
  const open = "import { loadNet } from './media/nets/models.ts'; await loadNet('faces'); console.log('opened');";
  const { stdout, stderr } = spawnSync(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', open], {
    encoding: 'utf8',
    // Where it cannot keep a number for this machine it says so, before it reports.
    env: { PATH: process.env.PATH, HOME: '/dev/null' },
  });
  expect([stdout.trim(), stderr]).toEqual(['opened', expect.not.stringMatching(/telemetry/i)]);
});
