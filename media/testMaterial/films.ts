import { readFileSync, writeFileSync } from 'node:fs';
import { ffmpeg } from '../testMedia';
import { baseSize, sine, stillFilm, tagged709, to709, x264, type MadeFile, type MediaTruth, type MadeIn } from './base';
import { logOf, shownOf, writeCurve } from './logCurve';
import { degrees, layDown, orientations } from './photos';

/** As a camera records it that keeps light logarithmically: flat and grey, at ten bits. */
function filmLog(place: MadeIn, file: string, primaries: string, transfer: string): void {
  writeCurve(place.at('to-log.cube'), logOf, 129);
  writeCurve(place.at('from-log.cube'), shownOf);
  ffmpeg(
    ...stillFilm(place),
    '-vf',
    `format=gbrp10le,lut3d=file=${place.at('to-log.cube')}:interp=tetrahedral,scale=out_color_matrix=bt709:out_range=tv,format=yuv422p10le,setparams=colorspace=bt709:color_primaries=${primaries}:color_trc=${transfer}:range=tv`,
    ...['-c:v', 'prores_ks', '-profile:v', 'hq', '-color_primaries', primaries, '-color_trc', transfer],
    ...['-colorspace', 'bt709'],
    place.at(file),
  );
}

const film = (
  name: string,
  file: string,
  make: (place: MadeIn) => unknown,
  truth: MediaTruth,
  more: Partial<MadeFile> = {},
): MadeFile => ({
  name,
  file,
  make: (place) => void make(place),
  looks: 'base',
  seconds: 1.5,
  ...more,
  truth: { ...baseSize, rotation: 0, pixelAspect: '1:1', interlaced: false, hdr: null, ...truth },
});

/** Display matrices (ISO/IEC 14496-12, 6.2.2) that bring a picture upright, by EXIF's value: a, b, c, d of their 3 × 3. */
const matrices: Record<number, [number, number, number, number]> = {
  1: [1, 0, 0, 1],
  2: [-1, 0, 0, 1],
  3: [-1, 0, 0, -1],
  4: [1, 0, 0, -1],
  5: [0, 1, 1, 0],
  6: [0, 1, -1, 0],
  7: [0, -1, -1, 0],
  8: [0, -1, 1, 0],
};

/** Writes a display matrix into the header of the first track. */
function turn(file: string, [a, b, c, d]: readonly [number, number, number, number]): void {
  const bytes = readFileSync(file);
  // Behind the type: version and flags, five words of version 0, eight reserved bytes, four short words.
  const at = bytes.indexOf('tkhd', 0, 'latin1') + 4 + 4 + 20 + 8 + 8;
  [a, b, 0, c, d].forEach((value, index) => bytes.writeInt32BE(value * 0x10000, at + index * 4));
  writeFileSync(file, bytes);
}

/** Anamorphic: squeezed to a coded size, whose pixels have an aspect. */
const squeezed =
  (width: number, height: number, sar: string, ...encode: string[]) =>
  (file: string) =>
  (place: MadeIn) =>
    ffmpeg(
      ...stillFilm(place),
      '-vf',
      `scale=${width}:${height}:out_color_matrix=bt601:out_range=tv,setsar=${sar.replace(':', '/')},format=yuv420p`,
      ...(encode.length ? encode : x264),
      place.at(file),
    );

/** Fields of fifty pictures a second. */
const woven = (first: 'top' | 'bottom', size = '720:576') =>
  `scale=${size}:out_color_matrix=bt601:out_range=tv,format=yuv420p,tinterlace=mode=interleave_${first}`;
/** A moving film of fields, whose sides are squeezed to what tape has. */
const taped =
  (first: 'top' | 'bottom', ...encode: string[]) =>
  (file: string) =>
  (place: MadeIn) =>
    ffmpeg(
      '-i',
      place.at('moving.mkv'),
      '-vf',
      `${woven(first)},setsar=64/45,fieldorder=${first === 'top' ? 'tff' : 'bff'}`,
      '-r',
      '25',
      ...encode,
      place.at(file),
    );
const tape = { width: 1024, height: 576, pixelAspect: '64:45', frameRate: 25 };

/** What was filmed for usual screens, as HDR whose diffuse white is at 203 cd/m² (Rec. ITU-R BT.2408). */
const hdr =
  (transfer: 'smpte2084' | 'arib-std-b67', ...more: string[]) =>
  (file: string) =>
  (place: MadeIn) =>
    ffmpeg(
      ...stillFilm(place),
      '-vf',
      `format=gbrp,zscale=tin=bt709:pin=bt709:min=gbr:t=${transfer}:p=bt2020:m=bt2020nc:r=tv:npl=203,format=yuv420p10le`,
      ...[
        '-c:v',
        'libx265',
        '-preset',
        'ultrafast',
        '-crf',
        '8',
        '-x265-params',
        `log-level=error:colorprim=bt2020:transfer=${transfer}:colormatrix=bt2020nc:range=limited${more.map((each) => `:${each}`).join('')}`,
      ],
      ...[
        '-color_primaries',
        'bt2020',
        '-color_trc',
        transfer,
        '-colorspace',
        'bt2020nc',
        '-color_range',
        'tv',
        '-tag:v',
        'hvc1',
      ],
      place.at(file),
    );

/** Colours coded in one way or another. */
const coded =
  (matrix: string, range: string, tags: string[], size = '480:270', format = 'yuv420p') =>
  (file: string) =>
  (place: MadeIn) =>
    ffmpeg(
      ...stillFilm(place),
      '-vf',
      `scale=${size}:out_color_matrix=${matrix}:out_range=${range},format=${format}`,
      ...x264,
      '-color_range',
      range,
      ...tags,
      place.at(file),
    );

const plain =
  (rate: string, ...more: string[]) =>
  (file: string) =>
  (place: MadeIn) =>
    ffmpeg(...stillFilm(place, 1.5, rate), ...sine(), '-vf', to709, ...x264, ...tagged709, ...more, place.at(file));

const from = (
  name: string,
  file: string,
  make: (file: string) => (place: MadeIn) => unknown,
  truth: MediaTruth,
  more: Partial<MadeFile> = {},
) => film(name, file, make(file), truth, more);

export const films: MadeFile[] = [
  ...orientations.map((orientation) =>
    film(
      `MP4, display matrix ${orientation}`,
      `turned-${orientation}.mp4`,
      (place) => {
        ffmpeg(
          ...stillFilm(place),
          '-vf',
          `${layDown[orientation]},${to709}`,
          ...x264,
          ...tagged709,
          place.at(`turned-${orientation}.mp4`),
        );
        turn(place.at(`turned-${orientation}.mp4`), matrices[orientation]!);
      },
      { rotation: degrees[orientation]! },
    ),
  ),
  from('anamorphic, HDV shape', 'hdv.mp4', squeezed(360, 270, '4:3'), { pixelAspect: '4:3' }),
  from('anamorphic, PAL wide', 'pal.mp4', squeezed(720, 576, '64:45'), {
    width: 1024,
    height: 576,
    pixelAspect: '64:45',
  }),
  from('anamorphic, NTSC', 'ntsc.mov', squeezed(720, 480, '32:27'), { width: 853, height: 480, pixelAspect: '32:27' }),
  film(
    'anamorphic and turned',
    'squeezed-turned.mp4',
    (place) => {
      ffmpeg(
        ...stillFilm(place),
        '-vf',
        `transpose=cclock,scale=136:480:out_color_matrix=bt601:out_range=tv,setsar=2,format=yuv420p`,
        ...x264,
        place.at('squeezed-turned.mp4'),
      );
      turn(place.at('squeezed-turned.mp4'), matrices[6]!);
    },
    { width: 480, height: 272, rotation: 90, pixelAspect: '2:1' },
  ),
  from(
    'interlaced MPEG-2, top field first',
    'top.mpg',
    taped('top', '-c:v', 'mpeg2video', '-q:v', '2', '-flags', '+ildct+ilme'),
    { ...tape, interlaced: true },
    { looks: 'moving', alike: 0.85, seconds: 2 },
  ),
  from(
    'interlaced DV, bottom field first',
    'tape.dv',
    (file) => (place) =>
      ffmpeg(
        '-i',
        place.at('moving.mkv'),
        ...sine(2),
        '-vf',
        `${woven('bottom')},setsar=64/45,fieldorder=bff`,
        '-r',
        '25',
        '-c:v',
        'dvvideo',
        '-pix_fmt',
        'yuv420p',
        '-ar',
        '48000',
        '-ac',
        '2',
        '-shortest',
        place.at(file),
      ),
    { ...tape, interlaced: true },
    { looks: 'moving', alike: 0.85, seconds: 2 },
  ),
  from(
    'interlaced H.264',
    'fields.mp4',
    taped('top', '-c:v', 'libx264', '-preset', 'veryfast', '-crf', '12', '-x264-params', 'tff=1'),
    { ...tape, interlaced: true },
    { looks: 'moving', alike: 0.85, seconds: 2 },
  ),
  from(
    'interlaced, flagged as whole',
    'unflagged.mp4',
    (file) => (place) =>
      ffmpeg(
        '-i',
        place.at('moving.mkv'),
        '-vf',
        `${woven('top')},setsar=64/45,setfield=prog`,
        '-r',
        '25',
        ...x264,
        place.at(file),
      ),
    { ...tape, interlaced: true },
    { looks: 'moving', alike: 0.85, seconds: 2 },
  ),
  from(
    'whole, flagged as interlaced',
    'psf.mp4',
    (file) => (place) =>
      ffmpeg(
        '-i',
        place.at('moving.mkv'),
        '-vf',
        `fps=25,scale=720:576:out_color_matrix=bt601:out_range=tv,format=yuv420p,setsar=64/45,setfield=tff`,
        '-c:v',
        'libx264',
        '-preset',
        'veryfast',
        '-crf',
        '12',
        '-x264-params',
        'tff=1',
        place.at(file),
      ),
    { ...tape, interlaced: false },
    { looks: 'moving', seconds: 2 },
  ),
  from('HDR, PQ', 'pq.mp4', hdr('smpte2084'), { hdr: 'pq', codec: 'hevc' }, { brightness: 24, alike: 0.93 }),
  from(
    'HDR, PQ with a bright mastering screen',
    'pq-4000.mp4',
    hdr(
      'smpte2084',
      'master-display=G(13250,34500)B(7500,3000)R(34000,16000)WP(15635,16450)L(40000000,50)',
      'max-cll=4000,400',
    ),
    { hdr: 'pq' },
    { brightness: 30, alike: 0.9 },
  ),
  from('HDR, HLG', 'hlg.mp4', hdr('arib-std-b67'), { hdr: 'hlg' }, { brightness: 24, alike: 0.9 }),
  from(
    'wide colours in the usual range',
    'wide.mp4',
    (file) => (place) =>
      ffmpeg(
        ...stillFilm(place),
        '-vf',
        'format=gbrp,zscale=tin=bt709:pin=bt709:min=gbr:t=bt709:p=bt2020:m=bt2020nc:r=tv,format=yuv420p10le',
        ...x264,
        '-color_primaries',
        'bt2020',
        '-color_trc',
        'bt2020-10',
        '-colorspace',
        'bt2020nc',
        '-color_range',
        'tv',
        place.at(file),
      ),
    { hdr: null },
  ),
  from('full range', 'full.mp4', coded('bt709', 'pc', ['-colorspace', 'bt709'], '480:270', 'yuvj420p'), {}),
  from('SD, colours of BT.601, not said', 'sd.mp4', coded('bt601', 'tv', []), {}),
  from('SD, colours of BT.709, said', 'sd709.mp4', coded('bt709', 'tv', ['-colorspace', 'bt709']), {}),
  from('HD, colours of BT.601, said', 'hd601.mp4', coded('bt601', 'tv', ['-colorspace', 'smpte170m'], '1280:720'), {
    width: 1280,
    height: 720,
  }),
  from('HD, nothing said', 'hd.mp4', coded('bt709', 'tv', [], '1280:720'), { width: 1280, height: 720 }),
  from(
    'full range and BT.601',
    'full601.mp4',
    coded('bt601', 'pc', ['-colorspace', 'smpte170m'], '480:270', 'yuvj420p'),
    {},
  ),
  from(
    '4:2:2 in ten bits',
    'prores.mov',
    (file) => (place) =>
      ffmpeg(
        ...stillFilm(place),
        '-vf',
        'scale=out_color_matrix=bt709:out_range=tv,format=yuv422p10le',
        '-c:v',
        'prores_ks',
        '-profile:v',
        '3',
        ...tagged709,
        place.at(file),
      ),
    { codec: 'prores' },
  ),
  from(
    '4:4:4',
    'full-colour.mp4',
    (file) => (place) =>
      ffmpeg(
        ...stillFilm(place),
        '-vf',
        'scale=out_color_matrix=bt709:out_range=tv,format=yuv444p',
        ...x264,
        ...tagged709,
        place.at(file),
      ),
    {},
  ),
  from(
    'seen through, ProRes',
    'through.mov',
    (file) => (place) => {
      ffmpeg(
        '-i',
        place.at('base.png'),
        '-vf',
        "format=gbrap,geq=r='if(lt(X,W/2)*lt(Y,H/2),255,r(X,Y))':g='if(lt(X,W/2)*lt(Y,H/2),0,g(X,Y))':b='if(lt(X,W/2)*lt(Y,H/2),255,b(X,Y))':a='255*(1-lt(X,W/2)*lt(Y,H/2))'",
        '-pix_fmt',
        'rgba',
        place.at('through-film.png'),
      );
      ffmpeg(
        '-i',
        place.at('through-film.png'),
        '-vf',
        'format=gbrap,premultiply=inplace=1,format=rgb24',
        place.at(`${file}.looks.png`),
      );
      ffmpeg(
        '-loop',
        '1',
        '-framerate',
        '25',
        '-t',
        '1.5',
        '-i',
        place.at('through-film.png'),
        '-vf',
        'scale=out_color_matrix=bt709:out_range=tv,format=yuva444p10le',
        '-c:v',
        'prores_ks',
        '-profile:v',
        '4',
        ...tagged709,
        place.at(file),
      );
    },
    {},
  ),
  from(
    'a cover before the film',
    'cover.mkv',
    (file) => (place) => {
      ffmpeg('-i', place.at('grey.png'), '-vf', 'scale=64:64', place.at('cover.png'));
      plain('25')('for-cover.mp4')(place);
      ffmpeg(
        '-i',
        place.at('for-cover.mp4'),
        '-c',
        'copy',
        '-attach',
        place.at('cover.png'),
        '-metadata:s:t',
        'mimetype=image/png',
        place.at(file),
      );
    },
    { soundTracks: [{ channels: 1 }] },
  ),
  from(
    'a cover in MP4',
    'cover.mp4',
    (file) => (place) => {
      ffmpeg('-i', place.at('grey.png'), '-vf', 'scale=64:64', place.at('cover.png'));
      plain('25')('for-cover.mp4')(place);
      ffmpeg(
        '-i',
        place.at('cover.png'),
        '-i',
        place.at('for-cover.mp4'),
        '-map',
        '0',
        '-map',
        '1',
        '-c',
        'copy',
        '-disposition:v:0',
        'attached_pic',
        place.at(file),
      );
    },
    { soundTracks: [{ channels: 1 }] },
  ),
  ...(
    [
      ['23.976', '24000/1001', 24000 / 1001],
      ['29.97', '30000/1001', 30000 / 1001],
      ['59.94', '60000/1001', 60000 / 1001],
      ['120', '120', 120],
      ['240', '240', 240],
    ] as const
  ).map(([name, rate, fps]) => from(`${name} a second`, `rate-${name}.mp4`, plain(rate), { frameRate: fps })),
  from(
    'variable rate',
    'variable.mp4',
    (file) => (place) =>
      ffmpeg(
        '-i',
        place.at('moving.mkv'),
        '-vf',
        `fps=25,select='lt(n,20)+not(mod(n,3))',${to709}`,
        '-vsync',
        'vfr',
        ...x264,
        ...tagged709,
        place.at(file),
      ),
    { frameRate: 25 },
    { looks: 'moving', seconds: 2 },
  ),
  from(
    '8K',
    'eight.mp4',
    (file) => (place) =>
      ffmpeg(
        ...stillFilm(place, 0.72),
        '-vf',
        'scale=7680:4320:flags=bicubic:out_color_matrix=bt709:out_range=tv,format=yuv420p',
        '-c:v',
        'libx264',
        '-preset',
        'ultrafast',
        '-crf',
        '24',
        ...tagged709,
        place.at(file),
      ),
    { width: 7680, height: 4320 },
    { seconds: 0.72, brightness: 7 },
  ),
  from(
    'one key frame',
    'long.mp4',
    (file) => (place) =>
      ffmpeg(
        '-i',
        place.at('moving.mkv'),
        '-vf',
        `fps=25,${to709}`,
        ...x264,
        '-g',
        '9999',
        ...tagged709,
        place.at(file),
      ),
    { frameRate: 25 },
    { looks: 'moving', seconds: 2 },
  ),
  from(
    'an edit list that begins inside',
    'edited.mov',
    (file) => (place) => {
      ffmpeg(
        '-i',
        place.at('moving.mkv'),
        '-vf',
        `fps=25,tpad=start=25:start_mode=add:color=red,${to709}`,
        ...x264,
        '-g',
        '9999',
        '-bf',
        '0',
        ...tagged709,
        place.at('for-edit.mp4'),
      );
      ffmpeg('-ss', '1', '-i', place.at('for-edit.mp4'), '-c', 'copy', place.at(file));
    },
    { frameRate: 25 },
    { looks: 'moving', seconds: 2 },
  ),
  from(
    'pictures that begin late',
    'late.mkv',
    (file) => (place) =>
      ffmpeg(
        '-itsoffset',
        '0.3',
        ...stillFilm(place, 1.2),
        ...sine(),
        '-vf',
        to709,
        ...x264,
        ...tagged709,
        place.at(file),
      ),
    {},
  ),
  from(
    'logarithmic, with its input look',
    'log.mov',
    (file) => (place) => filmLog(place, file, 'bt709', 'bt709'),
    { hdr: null },
    { inputLook: 'from-log.cube', brightness: 5, alike: 0.93 },
  ),
  from(
    'logarithmic, said to be HDR, with its input look',
    'log-said-hdr.mov',
    (file) => (place) => filmLog(place, file, 'bt2020', 'arib-std-b67'),
    { hdr: 'hlg' },
    { inputLook: 'from-log.cube', brightness: 5, alike: 0.93 },
  ),
  from(
    'sound that ends early',
    'early.mp4',
    (file) => (place) =>
      ffmpeg(...stillFilm(place, 2), ...sine(1), '-vf', to709, ...x264, ...tagged709, place.at(file)),
    {},
    { seconds: 2 },
  ),
  from(
    'a transport stream',
    'stream.ts',
    (file) => (place) =>
      ffmpeg('-i', place.at('moving.mkv'), ...sine(2), '-vf', `fps=25,${to709}`, ...x264, ...tagged709, place.at(file)),
    { frameRate: 25 },
    { looks: 'moving', seconds: 2 },
  ),
];
