import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { faceTracks, groupPeople, showsWho } from '#core/picture';
import { derive, runsOf } from '#core/readings';
import type { Range } from '#core/time';
import { readMedia } from '../../media/read/read';
import { unpackReading } from '../../media/read/readingPack';
import { ffmpeg, realPicture } from '../../media/testMedia';
import { add, f1OfEvents, f1OfSeconds } from './table';

const photos = [
  'aero1.jpg',
  'building.jpg',
  'butterfly.jpg',
  'fruits.jpg',
  'home.jpg',
  'aloeL.jpg',
  'baboon.jpg',
  'graf1.png',
  'leuvenA.jpg',
  'starry_night.jpg',
  'stuff.jpg',
  'board.jpg',
];

/** Real photographs, each 2.5 s under a slow drift of the camera, joined by hard cuts or, every third time, a dissolve of 1 s; one flash. */
function film(folder: string): { file: string; cuts: number[]; dissolves: Range[]; flash: number } {
  const file = join(folder, 'scenes.mp4');
  const inputs = photos.flatMap((photo) => ['-loop', '1', '-framerate', '30', '-t', '3.5', '-i', realPicture(photo)]);
  const shots = photos.map(
    (_, index) =>
      `[${index}]scale=1360:780:force_original_aspect_ratio=increase,crop=1280:720:x='${index % 2 ? '10+12*t' : '50-10*t'}':y=20,setsar=1,format=yuv420p,fps=30,trim=duration=3.5,settb=1/30[s${index}]`,
  );
  const cuts: number[] = [],
    dissolves: Range[] = [];
  let chain = '',
    last = '[s0]',
    at = 2.5;
  photos.slice(1).forEach((_, index) => {
    const soft = index % 3 === 2;
    const seconds = soft ? 1 : 1 / 30;
    chain += `;${last}[s${index + 1}]xfade=transition=fade:duration=${seconds}:offset=${at.toFixed(4)}[x${index}]`;
    last = `[x${index}]`;
    if (soft) dissolves.push({ start: at, end: at + 1 });
    else cuts.push(at + 1 / 30);
    at += 2.5 + (soft ? 0 : 0);
  });
  const flash = 1.2;
  ffmpeg(
    ...inputs,
    '-filter_complex',
    `${shots.join(';')}${chain};${last}eq=brightness='if(between(t,${flash},${flash + 0.1}),0.6,0)':eval=frame[v]`,
    '-map',
    '[v]',
    '-c:v',
    'libx264',
    '-preset',
    'veryfast',
    '-crf',
    '23',
    file,
  );
  return { file, cuts, dissolves, flash };
}

export async function checkScenes(folder: string): Promise<void> {
  const { file, cuts, dissolves, flash } = film(folder);
  const { raw } = await readMedia(file, { folder: join(folder, 'scenes') });
  const { runs } = derive(raw);
  const soft = runsOf(runs, 'dissolve', 'fade');
  const middles = soft.map((run) => (run.start + run.end) / 2);
  const hard = runsOf(runs, 'scene')
    .map((scene) => scene.start)
    .slice(1)
    .filter((cut) => !middles.some((middle) => Math.abs(middle - cut) < 0.3));
  const said = execFileSync('sh', [
    '-c',
    `ffmpeg -nostats -i "${file}" -vf scdet=threshold=10 -f null - 2>&1`,
  ]).toString();
  const theirs = [...said.matchAll(/lavfi.scd.time: ([\d.]+)/g)].map((match) => Number(match[1]));
  const source = 'photographs of opencv-doc, joined here';
  const f1 = f1OfEvents(hard, cuts, 0.07);
  add({
    reading: 'scenes',
    what: 'hard cuts, F1',
    ours: f1.toFixed(3),
    reference: `${f1OfEvents(theirs, cuts, 0.07).toFixed(3)} scdet`,
    wanted: '0.98',
    reached: f1 >= 0.98,
    source,
  });
  add({
    reading: 'scenes',
    what: 'dissolves found, F1 of seconds',
    ours: f1OfSeconds(soft, dissolves).toFixed(3),
    source,
  });
  add({
    reading: 'scenes',
    what: 'cuts at a flash',
    ours: String(hard.filter((cut) => Math.abs(cut - flash) < 0.3).length),
    reference: `${theirs.filter((cut) => Math.abs(cut - flash) < 0.3).length} scdet`,
    wanted: '0',
    reached: !hard.some((cut) => Math.abs(cut - flash) < 0.3),
    source,
  });
  // Films without a cut: people walking past a camera that stands (vtest), a tree, a plant in the wind.
  let ours = 0,
    others = 0;
  for (const name of ['vtest.avi', 'tree.avi']) {
    const part = join(folder, `${name}.mp4`);
    ffmpeg(
      '-t',
      '20',
      '-i',
      realPicture(name),
      '-pix_fmt',
      'yuv420p',
      '-vf',
      'scale=trunc(iw/2)*2:trunc(ih/2)*2',
      part,
    );
    const derived = derive((await readMedia(part, { folder: join(folder, name) })).raw);
    ours += runsOf(derived.runs, 'scene').length - 1;
    const words = execFileSync('sh', [
      '-c',
      `ffmpeg -nostats -i "${part}" -vf scdet=threshold=10 -f null - 2>&1`,
    ]).toString();
    others += [...words.matchAll(/lavfi.scd.time/g)].length;
  }
  add({
    reading: 'scenes',
    what: 'cuts in two films without a cut',
    ours: String(ours),
    reference: `${others} scdet`,
    wanted: '0',
    reached: ours === 0,
    source: 'vtest.avi and tree.avi of opencv-doc',
  });
}

interface Truth {
  seconds: number;
  cuts: number[];
  people: { who: string; start: number; end: number }[];
  flaws: (Range & { kind: string })[];
}
const truthOf = (name: string) => JSON.parse(readFileSync(`demo/media/${name}.truth.json`, 'utf8')) as Truth;

export async function checkFaces(folder: string): Promise<void> {
  const files = [
    'race-day',
    'builder-camera-b',
    'whip-to-the-captain',
    'captain-close',
    'child-laughs',
    'pan-over-the-pond',
    'tripod-start-line',
    'boats-cross-fast',
  ];
  let right = 0,
    found = 0,
    wanted = 0;
  const looked: { key: string; media: string; start: number; end: number; descriptor: number[]; who: string }[] = [];
  for (const name of files) {
    const truth = truthOf(name);
    const { raw } = unpackReading(readFileSync(`demo/readings/${name}.mp4/reading.json.gz`))!;
    const { traces, hz, runs } = derive(raw);
    for (let index = 0; index < traces.faces.length; index++) {
      const time = index / hz;
      if (truth.flaws.some((flaw) => time >= flaw.start && time < flaw.end)) continue;
      const here = truth.people.some((person) => time >= person.start && time < person.end);
      const seen = traces.faces[index]! > 0.5;
      if (here) wanted++;
      if (seen) found++;
      if (here && seen) right++;
    }
    const scenes = runsOf(runs, 'scene').map((scene) => scene.start);
    for (const track of faceTracks(raw.faces, scenes, truth.seconds)) {
      if (!showsWho(track, runsOf(runs, 'blurred'))) continue;
      const here = truth.people
        .filter((person) => person.start < track.end - 0.2 && person.end > track.start + 0.2)
        .map((person) => person.who);
      // Only where the truth leaves no doubt which face it is: one person, or two told apart by left and right.
      const middle = track.boxes[track.boxes.length >> 1]!.box;
      const who =
        here.length === 1 ? here[0]! : here.length === 2 ? here[middle.x + middle.width / 2 < 0.5 ? 0 : 1]! : null;
      if (who)
        looked.push({
          key: `${name}/${track.id}`,
          media: name,
          start: track.start,
          end: track.end,
          descriptor: track.descriptor!,
          who,
        });
    }
  }
  const f1 = (2 * right) / (found + wanted);
  add({
    reading: 'faces',
    what: 'presence, F1 of tenths of a second',
    ours: f1.toFixed(3),
    wanted: '0.95',
    reached: f1 >= 0.95,
    source: "the demo's truth",
  });
  const groups = groupPeople(looked);
  const groupOf = new Map(groups.flatMap((group, index) => group.tracks.map((key) => [key, index] as const)));
  let both = 0,
    ours = 0,
    truth = 0;
  for (const a of looked)
    for (const b of looked)
      if (a.key < b.key) {
        const together = groupOf.get(a.key) === groupOf.get(b.key),
          same = a.who === b.who;
        if (together) ours++;
        if (same) truth++;
        if (together && same) both++;
      }
  add({
    reading: 'people',
    what: `pairs of ${looked.length} appearances told apart, F1`,
    ours: ((2 * both) / (ours + truth)).toFixed(3),
    source: "the demo's truth",
  });
  add({
    reading: 'people',
    what: 'persons found',
    ours: `${groups.length} for ${new Set(looked.map((each) => each.who)).size}`,
    source: "the demo's truth",
  });
  const photo = await readMedia('node_modules/@vladmandic/face-api/demo/sample1.jpg', {
    folder: join(folder, 'faces'),
  });
  add({
    reading: 'faces',
    what: 'faces in a photograph of a table',
    ours: String(photo.raw.faces[0]!.boxes.length),
    wanted: '>= 3',
    reached: photo.raw.faces[0]!.boxes.length >= 3,
    source: 'sample1.jpg of the face package',
  });
  const match = await readMedia(realPicture('messi5.jpg'), { folder: join(folder, 'objects') });
  const labels = [...new Set(match.raw.objects[0]!.boxes.map((box) => box.label))];
  add({
    reading: 'objects',
    what: 'in a photograph of a football match',
    ours: labels.join(', '),
    wanted: 'person, sports ball',
    reached: labels.includes('person') && labels.includes('sports ball'),
    source: 'opencv-doc',
  });
}
