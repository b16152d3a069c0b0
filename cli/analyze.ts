import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { steadyingAdvice } from '#core/framing';
import { degreesOf, faceTracks, groupPeople, persistentFaces, showsWho, type FaceSample } from '#core/picture';
import { cameraPath, derive, runsOf, type Run, type RunKind } from '#core/readings';
import { framesPerSecond, type Range } from '#core/time';
import type { Probe } from '#media/probe/probe';
import { readMedia } from '#media/read/read';

/** The document that `./bright-reel analyze` writes; described in docs/formats.md. */
export async function analyze(file: string, onProgress?: (share: number) => void, range?: Range) {
  const folder = await mkdtemp(join(tmpdir(), 'bright-reel-'));
  try {
    const { probe, raw, loudness, warnings } = await readMedia(file, {
      folder,
      onProgress,
      ...(range ? { range } : {}),
    });
    const { traces, runs, hz } = derive(raw);
    const stretches = (...kinds: RunKind[]) =>
      runsOf(runs, ...kinds).map(({ start, end }) => ({ start: round(start), end: round(end) }));
    const withKind = ({ start, end, kind, label, amount }: Run) => ({
      start: round(start),
      end: round(end),
      kind,
      ...(label ? { direction: label } : {}),
      ...(amount === undefined ? {} : { amount: round(amount) }),
    });
    const scenes = stretches('scene');
    const path = cameraPath(
      raw,
      scenes.slice(1).map((scene) => scene.start),
    );
    const shape = probe.width ? probe.height / probe.width : 9 / 16;
    return {
      source: {
        durationSeconds: round(probe.durationSeconds),
        frameRate: probe.rate ? framesPerSecond(probe.rate) : 0,
        width: probe.width,
        height: probe.height,
      },
      media: describeMedia(probe),
      hz,
      traces: Object.fromEntries(Object.entries(traces).map(([name, values]) => [name, Array.from(values, round)])),
      scenes,
      transitions: runsOf(runs, 'dissolve', 'fade', 'flash').map(withKind),
      speech: stretches('speech'),
      silences: stretches('silence'),
      music: stretches('music'),
      camera: runsOf(runs, 'still', 'smooth', 'shaky', 'whip').map(withKind),
      flaws: runsOf(runs, 'black', 'frozen', 'blurred', 'clipped', 'wind').map(withKind),
      steadying: runsOf(runs, 'shaky').map((run) => {
        const { strength, price, sentence } = steadyingAdvice(path, run, shape);
        return {
          start: round(run.start),
          end: round(run.end),
          strength,
          cropShare: round(price.cropShare),
          softness: round(price.softness),
          sentence,
        };
      }),
      people: peopleIn(
        raw.faces,
        scenes.map((scene) => scene.start),
        runsOf(runs, 'blurred'),
        probe.durationSeconds,
      ),
      objects: raw.objects.map(({ time, boxes }) => ({
        time,
        boxes: boxes.map(({ label, ...box }) => ({ label, ...boxOf(box) })),
      })),
      colours: runsOf(runs, 'coloured').map(({ start, end, label }) => ({
        start: round(start),
        end: round(end),
        label,
      })),
      faces: persistentFaces(raw.faces, raw.objects).map(({ time, boxes }) => ({
        time,
        boxes: boxes.map((box) => ({ ...boxOf(box), ...(box.smile === undefined ? {} : { smile: round(box.smile) }) })),
      })),
      loudness: loudness && {
        integratedLufs: rounded(loudness.integratedLufs),
        rangeLu: rounded(loudness.rangeLu),
        truePeakDb: rounded(loudness.truePeakDb),
      },
      warnings,
    };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** What a file is: sizes as shown, times and names as it carries them; described in docs/formats.md. */
export function describeMedia(info: Probe) {
  const { coding, copied } = info;
  const orientation = copied?.orientation ?? coding?.orientation ?? 1;
  const { num, den } = coding?.pixelAspect ?? { num: 1, den: 1 };
  return {
    width: info.width,
    height: info.height,
    rotation: degreesOf(orientation),
    pixelAspect: `${num}:${den}`,
    interlaced: Boolean(coding?.fields),
    hdr: coding?.hdr ?? null,
    startTimecode: info.startTimecode,
    reelName: info.reelName,
    recordedAt: info.recordedAt,
    soundTracks: info.soundTracks.map(({ channels, layout, codec, language, title }) => ({
      channels,
      layout,
      codec,
      language,
      title,
    })),
    frameRate: info.rate ? framesPerSecond(info.rate) : 0,
    codec: info.videoCodec ?? info.audioCodec,
  };
}

const boxOf = ({
  x,
  y,
  width,
  height,
  score,
}: {
  x: number;
  y: number;
  width: number;
  height: number;
  score: number;
}) => ({ x: round(x), y: round(y), width: round(width), height: round(height), score: round(score) });

/** Who is on screen when; told apart by looks, named by number. */
function peopleIn(faces: FaceSample[], cuts: number[], blurred: Range[], duration: number) {
  const tracks = faceTracks(faces, cuts, duration || 1).filter((track) => showsWho(track, blurred));
  const groups = groupPeople(
    tracks.map((track) => ({
      key: track.id,
      media: '',
      start: track.start,
      end: track.end,
      descriptor: track.descriptor!,
    })),
  );
  return groups.map((group, index) => {
    const own = tracks.filter((track) => group.tracks.includes(track.id));
    return {
      name: `Person ${index + 1}`,
      seconds: round(own.reduce((sum, track) => sum + track.end - track.start, 0)),
      appearances: own.map(({ start, end, size, smile }) => ({
        start: round(start),
        end: round(end),
        size,
        smile: round(smile),
      })),
    };
  });
}

const rounded = (value: number | null) => (value === null ? null : round(value));
const round = (value: number) => Math.round(value * 1e4) / 1e4;
