import { readFileSync, writeFileSync } from 'node:fs';
import sharp, { type Sharp } from 'sharp';
import { ffmpeg } from '../testMedia';
import { baseSize, runTool, type MadeFile, type MadeIn } from './base';

/** An EXIF segment (CIPA DC-008) that says how a picture lies and when it was taken, put behind the start of a JPEG. */
export function withExif(jpeg: Buffer, orientation: number, taken = ''): Buffer {
  const date = Buffer.from(taken ? `${taken}\0` : '', 'latin1');
  // One directory with the orientation, and one of EXIF's with the date, as offsets from "II*".
  const entries = taken ? 2 : 1;
  const exifAt = 8 + 2 + entries * 12 + 4;
  const dateAt = exifAt + 2 + 12 + 4;
  const tiff = Buffer.alloc(taken ? dateAt + date.length : exifAt);
  tiff.write('II*\0', 0, 'latin1');
  tiff.writeUInt32LE(8, 4);
  tiff.writeUInt16LE(entries, 8);
  const entry = (at: number, tag: number, type: number, count: number, value: number) => {
    tiff.writeUInt16LE(tag, at);
    tiff.writeUInt16LE(type, at + 2);
    tiff.writeUInt32LE(count, at + 4);
    tiff.writeUInt32LE(value, at + 8);
  };
  entry(10, 0x0112, 3, 1, orientation);
  if (taken) {
    entry(22, 0x8769, 4, 1, exifAt);
    tiff.writeUInt16LE(1, exifAt);
    entry(exifAt + 2, 0x9003, 2, date.length, dateAt);
    date.copy(tiff, dateAt);
  }
  const length = 2 + 6 + tiff.length;
  const segment = Buffer.concat([
    Buffer.from([0xff, 0xe1, length >> 8, length & 255]),
    Buffer.from('Exif\0\0', 'latin1'),
    tiff,
  ]);
  return Buffer.concat([jpeg.subarray(0, 2), segment, jpeg.subarray(2)]);
}

/** Filters that lay an upright picture so that this orientation brings it upright: the inverse of what EXIF's table says. */
export const layDown: Record<number, string> = {
  1: 'null',
  2: 'hflip',
  3: 'hflip,vflip',
  4: 'vflip',
  5: 'transpose=cclock_flip',
  6: 'transpose=cclock',
  7: 'transpose=clock_flip',
  8: 'transpose=clock',
};
/** Degrees clockwise by EXIF's table. */
export const degrees: Record<number, number> = { 1: 0, 2: 0, 3: 180, 4: 180, 5: 270, 6: 90, 7: 90, 8: 270 };
export const orientations = [1, 2, 3, 4, 5, 6, 7, 8];

function laid({ at }: MadeIn, orientation: number, name: string): void {
  ffmpeg('-i', at('base.png'), '-vf', layDown[orientation]!, '-q:v', '2', at('laid.jpg'));
  writeFileSync(at(name), withExif(readFileSync(at('laid.jpg')), orientation));
}

const photo = (
  name: string,
  file: string,
  make: (place: MadeIn) => unknown,
  more: Partial<MadeFile> = {},
): MadeFile => ({
  name,
  file,
  make: async (place) => void (await make(place)),
  looks: 'base',
  ...more,
  truth: { ...baseSize, rotation: 0, ...more.truth },
});

/** Through a program that encodes HEIF and AVIF. */
const heif =
  (out: string, ...options: string[]) =>
  ({ at }: MadeIn) =>
    runTool('heif-enc', ...options, '-q', '95', at('base.png'), '-o', at(out));

/** A quarter of the picture that can be seen through, where another picture hides; over black it is black. */
async function seeThrough({ at }: MadeIn, out: string, write: (image: Sharp) => Sharp): Promise<void> {
  const { data, info } = await sharp(at('base.png')).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  for (let y = 0; y < info.height / 2; y++)
    for (let x = 0; x < info.width / 2; x++) data.set([255, 0, 255, 0], (y * info.width + x) * 4);
  await write(sharp(data, { raw: { width: info.width, height: info.height, channels: 4 } })).toFile(at(out));
  await sharp(at(out))
    .flatten({ background: '#000' })
    .removeAlpha()
    .png()
    .toFile(at(`${out}.looks.png`));
}

export const photos: MadeFile[] = [
  ...orientations.map((orientation) =>
    photo(
      `JPEG, EXIF orientation ${orientation}`,
      `lies-${orientation}.jpg`,
      (place) => laid(place, orientation, `lies-${orientation}.jpg`),
      {
        truth: { rotation: degrees[orientation]! },
      },
    ),
  ),
  photo(
    'JPEG, EXIF time',
    'dated.jpg',
    ({ at }) => {
      ffmpeg('-i', at('base.png'), '-q:v', '2', at('plain.jpg'));
      writeFileSync(at('dated.jpg'), withExif(readFileSync(at('plain.jpg')), 1, '2026:07:11 10:20:30'));
    },
    { truth: { recordedAt: '2026-07-11T10:20:30' } },
  ),
  photo('JPEG, progressive', 'progressive.jpg', ({ at }) =>
    sharp(at('base.png')).jpeg({ progressive: true, quality: 95 }).toFile(at('progressive.jpg')),
  ),
  photo(
    'JPEG, CMYK',
    'cmyk.jpg',
    ({ at }) => sharp(at('base.png')).toColourspace('cmyk').jpeg({ quality: 95 }).toFile(at('cmyk.jpg')),
    { brightness: 24, alike: 0.8 },
  ),
  photo(
    'JPEG, grey',
    'grey.jpg',
    ({ at }) => sharp(at('grey.png')).greyscale().jpeg({ quality: 95 }).toFile(at('grey.jpg')),
    {
      looks: 'grey',
    },
  ),
  photo('JPEG, wide colours by its profile', 'p3.jpg', ({ at }) =>
    sharp(at('base.png')).withIccProfile('p3').jpeg({ quality: 95, chromaSubsampling: '4:4:4' }).toFile(at('p3.jpg')),
  ),
  photo('PNG', 'plain.png', ({ at }) => ffmpeg('-i', at('base.png'), at('plain.png'))),
  photo('PNG, 16 bits', 'deep.png', ({ at }) => ffmpeg('-i', at('base.png'), '-pix_fmt', 'rgb48be', at('deep.png'))),
  photo(
    'PNG, 256 colours',
    'palette.png',
    ({ at }) => sharp(at('base.png')).png({ palette: true }).toFile(at('palette.png')),
    { alike: 0.8 },
  ),
  photo('PNG, seen through', 'through.png', (place) => seeThrough(place, 'through.png', (image) => image.png())),
  photo('PNG, seen through, 16 bits', 'deep-through.png', (place) =>
    seeThrough(place, 'deep-through.png', (image) => image.toColourspace('rgb16').png()),
  ),
  photo('TIFF', 'plain.tiff', ({ at }) => sharp(at('base.png')).tiff({ compression: 'lzw' }).toFile(at('plain.tiff'))),
  photo('TIFF, 16 bits', 'deep.tif', ({ at }) =>
    sharp(at('base.png')).toColourspace('rgb16').tiff({ compression: 'none' }).toFile(at('deep.tif')),
  ),
  photo(
    'TIFF, CMYK',
    'cmyk.tif',
    ({ at }) => sharp(at('base.png')).toColourspace('cmyk').tiff({ compression: 'none' }).toFile(at('cmyk.tif')),
    { brightness: 24, alike: 0.8 },
  ),
  photo('BMP', 'plain.bmp', ({ at }) => ffmpeg('-i', at('base.png'), at('plain.bmp'))),
  photo('WebP', 'plain.webp', ({ at }) => sharp(at('base.png')).webp({ quality: 95 }).toFile(at('plain.webp'))),
  photo('WebP, seen through', 'through.webp', (place) =>
    seeThrough(place, 'through.webp', (image) => image.webp({ quality: 95, exact: true })),
  ),
  photo('HEIC', 'plain.heic', heif('plain.heic'), { truth: { codec: 'heic' } }),
  photo(
    'HEIC, 10 bits',
    'deep.heic',
    ({ at }) => {
      ffmpeg('-i', at('base.png'), '-pix_fmt', 'rgb48be', at('for-heic.png'));
      runTool('heif-enc', '-q', '95', '-b', '10', at('for-heic.png'), '-o', at('deep.heic'));
    },
    { truth: { codec: 'heic' } },
  ),
  photo(
    'HEIC that leaves its lie to EXIF',
    'lies.heic',
    (place) => {
      laid(place, 6, 'for-heic.jpg');
      runTool('heif-enc', '-q', '95', place.at('for-heic.jpg'), '-o', place.at('lies.heic'));
    },
    { truth: { codec: 'heic' } },
  ),
  photo(
    'HEIC, seen through',
    'through.heic',
    async ({ at }) => {
      await seeThrough({ at }, 'for-heic-through.png', (image) => image.png());
      runTool('heif-enc', '-q', '95', at('for-heic-through.png'), '-o', at('through.heic'));
      await sharp(at('for-heic-through.png.looks.png')).toFile(at('through.heic.looks.png'));
    },
    { truth: { codec: 'heic' } },
  ),
  photo('AVIF', 'plain.avif', heif('plain.avif', '-A'), { truth: { codec: 'avif' } }),
  photo(
    'AVIF that is turned',
    'lies.avif',
    async ({ at }) => {
      ffmpeg('-i', at('base.png'), '-vf', layDown[6]!, at('laid.png'));
      await sharp(at('laid.png')).withMetadata({ orientation: 6 }).avif({ quality: 90 }).toFile(at('lies.avif'));
    },
    { truth: { codec: 'avif' } },
  ),
  photo(
    'GIF, animated',
    'moves.gif',
    ({ at }) =>
      ffmpeg('-i', at('moving.mkv'), '-vf', 'fps=25,split[a][b];[a]palettegen[p];[b][p]paletteuse', at('moves.gif')),
    {
      looks: 'moving',
      seconds: 2,
      alike: 0.8,
      truth: { frameRate: 25, codec: 'gif' },
    },
  ),
  photo(
    'WebP, animated',
    'moves.webp',
    ({ at }) => ffmpeg('-i', at('moving.mkv'), '-vf', 'fps=25', '-quality', '95', '-loop', '0', at('moves.webp')),
    {
      looks: 'moving',
      seconds: 2,
      truth: { frameRate: 25, codec: 'webp' },
    },
  ),
];
