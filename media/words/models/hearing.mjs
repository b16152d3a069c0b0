// Hears windows of sound with a speech model, in a process of its own: it can be ended, and what it takes is bounded.
// Usage: hearing.mjs JOB, a JSON file with {model, language, prompt, threads, windows: [FILE of raw sound, 16 kHz, 16 bits]}.
// A line of JSON a window on its output: {language, text, entries: [{text, t0, t1}]}, times in milliseconds of the window.
import { readFileSync, writeSync } from 'node:fs';
import { createRequire } from 'node:module';

const { model, language, prompt, threads, windows } = JSON.parse(readFileSync(process.argv[2], 'utf8'));
const { WhisperContext } = createRequire(import.meta.url)(`@fugood/node-whisper-linux-${process.arch}`);

let failure = 'The speech model failed.';
// The runtime tells nobody of a failure; all that is left then is nothing to do.
process.on('beforeExit', () => {
  console.error(`ERROR ${failure}`);
  process.exit(1);
});
let context;
try {
  context = new WhisperContext({ filePath: model, useGpu: false });
} catch (error) {
  failure = String(error.message ?? error);
}
if (context) {
  for (const window of windows) {
    const bytes = readFileSync(window);
    const sound = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength);
    const { promise } = context.transcribeData(sound, {
      language,
      maxThreads: threads,
      // An entry a token with its times, and nothing of the window before: what was said wrong there would go on.
      maxLen: 1,
      tokenTimestamps: true,
      maxContext: prompt ? 224 : 0,
      ...(prompt ? { prompt } : {}),
    });
    const { segments, result, language: spoken } = await promise;
    writeSync(1, `${JSON.stringify({ language: spoken, text: result, entries: segments })}\n`);
  }
  process.exit(0);
}
