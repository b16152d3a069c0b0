import { displayTraceNames, lookColumns, lookHz, lookRows, type DisplayTraces, type Run } from '#core/readings';

/** A made-up reading with speech, faces, motion, flaws and scenes; the same for the same number. */
export function madeReading(file: number, length = 180): { traces: DisplayTraces; runs: Run[]; look: Float32Array } {
  let state = file * 7919 + 5;
  const random = () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
  const own: Run[] = [];
  for (let t = 0; t < length;) {
    const end = Math.min(length, t + 6 + random() * 20);
    own.push({ kind: 'scene', start: t, end });
    t = end;
  }
  for (let t = random() * 4; t < length - 6; t += 0.3 + random() * 4) {
    const end = t + 0.6 + random() * 5;
    own.push({ kind: 'speech', start: t, end });
    t = end;
  }
  const shown = Object.fromEntries(
    displayTraceNames.map((name) => {
      const phase = random() * 9;
      return [
        name,
        Float32Array.from({ length: length * 10 }, (_, i) =>
          name === 'faces'
            ? Math.floor(i / 70) % 3
            : name === 'loudness'
              ? -30
              : name === 'shake'
                ? i % 400 > 370
                  ? 0.8
                  : 0.1
                : name === 'contrast' || name === 'white'
                  ? 0.2
                  : name === 'sharpness' || name === 'exposure'
                    ? 0.9
                    : Math.abs(Math.sin(i / (30 + phase * 5) + phase)) * random(),
        ),
      ];
    }),
  ) as DisplayTraces;
  for (const run of own)
    if (run.kind === 'speech') shown.speech.fill(1, Math.floor(run.start * 10), Math.ceil(run.end * 10));
  return {
    traces: shown,
    runs: own.sort((a, b) => a.start - b.start),
    look: Float32Array.from({ length: length * lookHz * lookColumns * lookRows }, random),
  };
}
